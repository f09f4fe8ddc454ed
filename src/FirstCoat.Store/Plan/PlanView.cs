using FirstCoat.Core.Builds;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>When an operation runs by the plan, by whom, and why not earlier.</summary>
/// <param name="PersonId">The first of those who do it.</param>
public sealed record OperationForecast(
    Guid Id,
    Guid BuildId,
    Instant Start,
    Instant Finish,
    Guid? PersonId,
    Lazy<PlanReason> Why
)
{
    /// <summary>What keeps it from starting sooner, with its date.</summary>
    public PlanReason Reason => Why.Value;

    /// <summary>All who do it.</summary>
    public IReadOnlyList<Guid> People { get; init; } = [];

    /// <summary>Minutes that each of them works on it.</summary>
    public long Minutes { get; init; }

    /// <summary>The place in which the vehicle stands for it; null: it is not done on the vehicle, or nobody
    /// knows.</summary>
    public Guid? PlaceId { get; init; }

    /// <summary>On what its date rests, each beginning with "if"; null: on nothing.</summary>
    public string? Assumes { get; init; }

    /// <summary>Later than the day by which it should be done by itself.</summary>
    public bool MissesDeadline { get; init; }

    /// <summary>The last start inside its windows; null: it has none.</summary>
    public Instant? StartBy { get; init; }
}

/// <summary>Work that cannot be reached as the shell is held now.</summary>
/// <param name="Until">The operation that changes how it is held; null: none does.</param>
public sealed record ReachRow(Guid OperationId, Guid BuildId, string Why, Guid? Until);

/// <summary>A vehicle in one place, worked on or not.</summary>
/// <param name="PlaceId">Null: in none that is known, or out of the shop.</param>
/// <param name="To">Null: nothing moves it.</param>
/// <param name="For">The operation that it is taken there for; null: it stands there already, or makes room.</param>
/// <param name="MovedAt">When it is pushed there; null: nobody pushes it.</param>
public sealed record StayRow(
    Guid BuildId,
    Guid? PlaceId,
    Instant From,
    Instant? To,
    Guid? For,
    Instant? MovedAt,
    IReadOnlyList<Guid> MovedBy,
    bool Gone
);

/// <summary>A time of the week that is kept for a build.</summary>
public sealed record KeptRow(Guid Person, KeptSlot Slot, string? Unused, LocalDate? UnusedOn, int Missed);

/// <summary>Work that the plan puts in because a window cannot be kept.</summary>
public sealed record InsertedRow(Guid BuildId, string Name, Guid Before, string Why);

/// <summary>When a build's money must be topped up so that its work goes on, and by how much for all of it.</summary>
public sealed record NextCover(LocalDate By, decimal Amount);

/// <summary>Two builds that want the same at the same time, where it moves a promise who goes first.</summary>
public sealed record ContentionRow(
    Guid First,
    Guid Second,
    Guid OperationId,
    WaitKind Kind,
    string Over,
    decimal FirstLoses,
    decimal SecondGains,
    Turning Turning
);

/// <summary>When a build is likely finished, and what holds it now.</summary>
/// <param name="Partly">Some of its work has no date, so that the finish is only of the rest.</param>
public sealed record BuildForecast(Guid Id, Instant Finish, Guid? First, Lazy<PlanReason> Held, bool Partly = false)
{
    public PlanReason Holds => Held.Value;
}

/// <summary>Why an operation does not start sooner: what would have to go, and the way there.</summary>
/// <param name="WithoutThem">When it would start with the roots gone and everything else as it is; null: there are
/// none.</param>
public sealed record WhyView(IReadOnlyList<PlanReason> Roots, IReadOnlyList<WhyStep> Steps, Instant? WithoutThem);

/// <summary>An operation that has no date, and why.</summary>
public sealed record WithoutDate(Guid OperationId, Guid BuildId, PlanReason Reason);

/// <summary>An operation that makes a finish unsure, by so many days.</summary>
public sealed record RiskRow(Guid OperationId, decimal Days);

/// <summary>When a build is finished in two, five, eight and nine of ten sampled futures, and in nineteen of
/// twenty.</summary>
/// <param name="Kept">Share of the futures that keep the promise; null: nothing is promised.</param>
/// <param name="Partly">Some of its work has no date: the days are of the rest, and nothing is said of the
/// promise.</param>
public sealed record BuildChance(
    Guid Id,
    LocalDate P20,
    LocalDate P50,
    LocalDate P80,
    LocalDate P90,
    LocalDate P95,
    decimal? Kept,
    List<RiskRow> Risks,
    bool Partly
)
{
    /// <summary>Days by which the likely day is after a promise; null: it is not, or nothing is said of it.</summary>
    public int? DaysLate(LocalDate? promised) =>
        !Partly && promised < P50 ? Period.DaysBetween(promised.Value, P50) : null;
}

/// <summary>An open decision with the days it costs the worst-hit build; null: that is not worked out yet.</summary>
public sealed record RankedDecision(Decision Decision, decimal? Days, Guid WorstBuild)
{
    /// <summary>What a week of leaving it open costs.</summary>
    public decimal CostPerWeek(LocalDate today, decimal delayPerDay) =>
        WaitCost.PerWeek(Days ?? 0, Period.DaysBetween(today, Decision.DueOn) + 1, delayPerDay);
}

/// <summary>What the plan advises: it is found by planning many times over.</summary>
/// <param name="Decisions">Open questions, the one that costs most first.</param>
/// <param name="DaysWaiting">Sum over builds of planned delay with all decisions left open, less with all taken
/// now; null: that is not worked out yet.</param>
/// <param name="Covers">Builds whose money must be topped up so that their work goes on.</param>
public sealed record PlanAdvice(
    IReadOnlyList<RankedDecision> Decisions,
    decimal? DaysWaiting,
    IReadOnlyDictionary<Guid, NextCover> Covers,
    IReadOnlyList<ContentionRow> Contentions
);

/// <summary>The plan as the shop sees it.</summary>
public sealed record PlanView(
    IReadOnlyDictionary<Guid, OperationForecast> Operations,
    IReadOnlyDictionary<Guid, BuildForecast> Builds
)
{
    public IReadOnlyList<WithoutDate> Without { get; init; } = [];
    public IReadOnlyList<ReachRow> OutOfReach { get; init; } = [];
    public IReadOnlyList<InsertedRow> Inserted { get; init; } = [];

    /// <summary>Where vehicles stand, each in one place after the other.</summary>
    public IReadOnlyList<StayRow> Stays { get; init; } = [];

    /// <summary>The times of the next weeks that are kept for builds, and why those that go unused do.</summary>
    public Lazy<IReadOnlyList<KeptTime>> KeptAhead { get; init; } = new([]);

    /// <summary>All of it in lanes, laid out when somebody looks.</summary>
    public Lazy<PlanLanes> Lanes { get; init; } = new(new PlanLanes([], [], []));

    /// <summary>Days on which no other vehicle finds room in the booth; null: none on end.</summary>
    public Lazy<FullPlace?> FullBooth { get; init; } = new(() => null);

    /// <summary>What people have to do between two minutes.</summary>
    public Func<long, long, WeekDraft> WeekOf { get; init; } =
        (_, _) => new WeekDraft([], new Dictionary<string, long>());

    /// <summary>How full people and kinds of places are in the next weeks.</summary>
    public Lazy<IReadOnlyList<Utilisation>> Used { get; init; } = new([]);

    /// <summary>What an operation holds up if it is late.</summary>
    public Func<Guid, IReadOnlyList<LaneFollower>> FollowersOf { get; init; } = _ => [];

    /// <summary>Days by which an operation can be later without moving the end of its build; null: it has no
    /// date.</summary>
    public Func<Guid, decimal?> SlackOf { get; init; } = _ => null;

    /// <summary>Why an operation that has a date does not start sooner.</summary>
    public Func<Guid, WhyView> WhyOf { get; init; } = _ => new([], [], null);
}
