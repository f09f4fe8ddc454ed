using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Plan;

/// <summary>What a client's money still covers, tax included.</summary>
/// <param name="InHand">Paid less what the work so far comes to.</param>
/// <param name="ThisMonth">What the work of this month comes to.</param>
public sealed record CoverSoFar(decimal InHand, decimal ThisMonth)
{
    /// <summary>What the work that is still to come comes to for the client, beside what is ordered already; null: at
    /// the trades' rates.</summary>
    public decimal? Ahead { get; init; }

    /// <summary>What must still be paid so that all of it is covered.</summary>
    public decimal Short { get; init; }
}

/// <summary>What is recorded in the shop that its plan is made from.</summary>
public sealed record PlanFacts
{
    public required ShopSettings Shop { get; init; }
    public required WorkCalendar Calendar { get; init; }

    /// <summary>Those who work here now.</summary>
    public required IReadOnlyList<Person> People { get; init; }

    public required IReadOnlyList<Station> Stations { get; init; }

    /// <summary>Those that are open.</summary>
    public required IReadOnlyList<Build> Builds { get; init; }

    /// <summary>Of those builds, what is done as well, in order of position.</summary>
    public required IReadOnlyList<Operation> Operations { get; init; }

    /// <summary>Parts that are not here yet and that an operation waits for.</summary>
    public IReadOnlyList<PartLine> Parts { get; init; } = [];

    public IReadOnlyList<OutsideJob> Jobs { get; init; } = [];
    public IReadOnlyList<Supplier> Suppliers { get; init; } = [];

    /// <summary>Open ones.</summary>
    public IReadOnlyList<Decision> Decisions { get; init; } = [];

    /// <summary>Builds that are paused: nobody works on them, and their vehicles stand where they stand.</summary>
    public IReadOnlyList<Build> Paused { get; init; } = [];

    /// <summary>Who worked on an operation last.</summary>
    public IReadOnlyDictionary<Guid, Guid> LastPerson { get; init; } = new Dictionary<Guid, Guid>();

    /// <summary>Whose clock runs on an operation now.</summary>
    public IReadOnlyDictionary<Guid, Guid> Running { get; init; } = new Dictionary<Guid, Guid>();

    /// <summary>Minutes worked on an operation since it was stated how far it is, or in all where that was never
    /// stated.</summary>
    public IReadOnlyDictionary<Guid, int> WorkedSince { get; init; } = new Dictionary<Guid, int>();

    /// <summary>Heights by build, where they were measured.</summary>
    public IReadOnlyDictionary<Guid, Heights> Heights { get; init; } = new Dictionary<Guid, Heights>();

    /// <summary>Dangers noticed by build.</summary>
    public IReadOnlyDictionary<Guid, List<NoticedHazard>> Dangers { get; init; } =
        new Dictionary<Guid, List<NoticedHazard>>();

    /// <summary>Temporary metal that is in, by build.</summary>
    public IReadOnlyDictionary<Guid, IReadOnlyList<TemporaryMetal>> Metal { get; init; } =
        new Dictionary<Guid, IReadOnlyList<TemporaryMetal>>();

    /// <summary>By build, where its spending has a pace.</summary>
    public IReadOnlyDictionary<Guid, CoverSoFar> Covers { get; init; } = new Dictionary<Guid, CoverSoFar>();

    /// <summary>Days from order to here by supplier; what is missing takes two weeks.</summary>
    public IReadOnlyDictionary<Guid, LeadTime> LeadTimes { get; init; } = new Dictionary<Guid, LeadTime>();

    /// <summary>The mean share of a stage's hours that is found later, by the shop's own record.</summary>
    public double FoundShare { get; init; } = Labour.FoundWork.Share(0, 0);

    public required long Now { get; init; }

    /// <summary>The order that a manager accepted.</summary>
    public IReadOnlyDictionary<string, double> Turns { get; init; } = new Dictionary<string, double>();

    /// <summary>The problem with only these questions open.</summary>
    public PlanProblem Problem(IReadOnlyList<Decision> open) => new ShopProblem(this, open).Make();

    /// <summary>The problem as it stands.</summary>
    public PlanProblem Problem() => Problem(Decisions);
}
