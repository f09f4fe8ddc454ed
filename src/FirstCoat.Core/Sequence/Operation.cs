using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>Comes after another operation, with minutes on the clock between (cure, dry, set).</summary>
public sealed record OperationLink(Guid Operation, int LagMinutes)
{
    /// <summary>Counted from the other's start instead of its end.</summary>
    public bool FromStart { get; init; }

    /// <summary>The wait is the shop's working time instead of the clock.</summary>
    public bool Working { get; init; }

    /// <summary>Starts no later than this after the other's end (or start), in minutes on the clock; null: no
    /// window.</summary>
    public int? AtMostMinutes { get; init; }

    /// <summary>What is to be done where the window was not kept.</summary>
    public WindowLapse? Lapse { get; init; }

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    LagMinutes is < 0 or > 1440 * 3650,
                    "after",
                    "The wait between two operations must be between 0 and ten years."
                ),
            () => Refusal.When(AtMostMinutes < LagMinutes, "after", "A window closes after the wait, not before it."),
            () => Refusal.When(AtMostMinutes > 1440 * 3650, "after", "A window closes within ten years."),
            () => Refusal.When(Lapse is not null && AtMostMinutes is null, "after", "Only a window can lapse."),
            () =>
                Refusal.When(
                    Lapse is { } l
                        && (string.IsNullOrWhiteSpace(l.Name) || l.Name.Length > 120 || l.Minutes is < 1 or > 60_000),
                    "after",
                    "What a lapsed window asks for has a name and up to 1,000 hours."
                )
        );
}

/// <summary>A name under a gate.</summary>
/// <param name="ByMaker">Signed by somebody who worked on it, because the shop has no second person.</param>
/// <param name="OverrideReason">Set when a manager opened the gate without a signature; it stays visible.</param>
/// <param name="Without">What the gate asked for and was not there; it stays visible.</param>
/// <param name="Side">The side that it is for; null: all that the gate looks at.</param>
public sealed record GateSignature(
    Guid PersonId,
    string Name,
    Instant At,
    bool ByMaker,
    string? OverrideReason,
    string Without = "",
    PanelSide? Side = null
);

/// <summary>One piece of a build's sequence.</summary>
public sealed class Operation : Entity
{
    /// <summary>The most that a stated share can earn before the work is done.</summary>
    public const decimal MostStated = 0.9m;

    public required Guid BuildId { get; init; }

    /// <summary>Place in the list; the order in which the plan looks at it.</summary>
    public int Position { get; set; }

    /// <summary>Its key in the template that it came from; none: it was added by hand or by a verdict.</summary>
    public string TemplateKey { get; set; } = "";

    public Stage Stage { get; set; }
    public OperationKind Kind { get; set; } = OperationKind.Work;
    public required string Name { get; set; }
    public Trade? Trade { get; set; }

    /// <summary>Likely hours, in minutes.</summary>
    public int BudgetMinutes { get; set; }

    public StationKind? Station { get; set; }

    /// <summary>Who does it, where that is settled.</summary>
    public Guid? PersonId { get; set; }

    /// <summary>Panels it works on, by key.</summary>
    public List<string> Panels { get; set; } = [];

    /// <summary>The coat that its panels wear when it is done.</summary>
    public Coat? Coat { get; set; }

    /// <summary>How its panels are held when it is done.</summary>
    public Held? Held { get; set; }

    public bool WithoutStop { get; set; }
    public GateKind? Gate { get; set; }
    public Hazard? Hazard { get; set; }

    /// <summary>Cure: minutes on the clock. Outside: the supplier's quoted days, in minutes on the clock.</summary>
    public int ClockMinutes { get; set; }

    public List<OperationLink> After { get; set; } = [];

    /// <summary>What the plan keeps to besides trade, station and links.</summary>
    public OperationTerms Terms { get; set; } = new();

    /// <summary>What kind of work it is: as its danger and place say, and whatever else was said of it.</summary>
    public IEnumerable<WorkKind> Kinds => WorkKinds.Of(Hazard, Station, Coat is not null).Union(Terms.Kinds);

    public bool Removed { get; private set; }

    /// <summary>"How far?" as last stated at a stop, between 0 and 0.9.</summary>
    public decimal? StatedShare { get; private set; }

    /// <summary>When that was stated; null: never.</summary>
    public Instant? StatedAt { get; private set; }

    public Instant? DoneAt { get; private set; }
    public string? DoneBy { get; private set; }
    public List<GateSignature> Signatures { get; private set; } = [];

    /// <summary>Names under a gate before it was shut again.</summary>
    public List<GateSignature> EarlierSignatures { get; private set; } = [];

    /// <summary>Why it was done before what comes before it.</summary>
    public string OutOfOrderWhy { get; private set; } = "";

    /// <summary>Why it does not wait for what its template puts before it.</summary>
    public string DepartsWhy { get; set; } = "";

    public bool IsDone => DoneAt is not null;

    /// <summary>Budget x (1 when done, else the share last stated, at most 0.9; none stated: 0), in minutes.</summary>
    public decimal EarnedMinutes => BudgetMinutes * (IsDone ? 1 : Math.Min(StatedShare ?? 0, MostStated));

    /// <summary>
    /// Working minutes still to come: what was left when it was last stated, less what was worked since; nothing
    /// stated: the budget less what was worked. A tenth of the budget, and a quarter of an hour, at the least while it
    /// is open.
    /// </summary>
    /// <param name="workedSince">Minutes worked since <see cref="StatedAt"/>, or in all where nothing was
    /// stated.</param>
    public int LeftMinutes(int workedSince) =>
        IsDone || BudgetMinutes == 0
            ? 0
            : Math.Max(
                15,
                (int)Math.Ceiling(Math.Max(BudgetMinutes / 10m, BudgetMinutes - EarnedMinutes - workedSince))
            );

    /// <summary>Whether what lies behind it may start: work that is done, a gate that is signed or was
    /// opened.</summary>
    public bool LetsPass => IsDone;

    /// <summary>Notes how far the work has come.</summary>
    public void State(decimal share, Instant at)
    {
        Refusal.When(IsDone, "share", "The operation is done already.");
        Refusal.When(
            share is < 0 or > MostStated,
            "share",
            "How far must be between 0 and nine tenths; what is finished is marked done."
        );
        (StatedShare, StatedAt) = (share, at);
    }

    /// <summary>Ends the operation.</summary>
    /// <param name="outOfOrderWhy">Why it was done before what comes before it; it stays.</param>
    public void Finish(string by, Instant at, string outOfOrderWhy = "")
    {
        Refusal.When(IsDone, "id", $"{DoneBy} has marked it done already.");
        Refusal.When(Kind == OperationKind.Gate, "id", "A gate is signed, not marked done.");
        Refusal.When(outOfOrderWhy.Length > 300, "reason", "At most 300 characters.");
        (DoneAt, DoneBy, OutOfOrderWhy) = (at, by, outOfOrderWhy.Trim());
    }

    /// <summary>Opens a finished operation again, as rework or a slip of the finger needs it.</summary>
    public void Reopen()
    {
        Refusal.When(!IsDone, "id", "The operation is open.");
        Refusal.When(Kind == OperationKind.Gate, "id", "A gate reopens when work behind it changes.");
        (DoneAt, DoneBy, OutOfOrderWhy) = (null, null, "");
    }

    /// <summary>Shuts a signed gate again, because what it checked has changed; who had signed stays to be
    /// read.</summary>
    public void Shut()
    {
        Refusal.When(Kind != OperationKind.Gate, "id", "Only a gate is shut.");
        EarlierSignatures = [.. EarlierSignatures, .. Signatures];
        (DoneAt, DoneBy, Signatures) = (null, null, []);
    }

    /// <summary>Signs the gate; some gates need two different names.</summary>
    /// <param name="worked">Whether this person worked on what the gate checks.</param>
    /// <param name="hasSecond">Whether the shop has somebody else who could sign.</param>
    public void Sign(Guid person, string name, Instant at, bool worked, bool hasSecond, string without = "")
    {
        Refusal.When(Kind != OperationKind.Gate || Gate is null, "id", "Only a gate is signed.");
        Refusal.When(IsDone, "id", "The gate has been signed already.");
        Refusal.When(worked && hasSecond, "personId", "A gate is signed by somebody who did not do the work.");
        Refusal.When(
            Signatures.Any(s => s.PersonId == person && s.Side is null),
            "personId",
            "The second signature must be another person's."
        );
        Signatures = [.. Signatures, new(person, name, at, worked, null, without)];
        if (Signatures.Count >= Gates.Signatures(Gate!.Value))
        {
            (DoneAt, DoneBy) = (at, name);
        }
    }

    /// <summary>Whether one side of it is signed by itself.</summary>
    public bool HasSides() => Signatures.Exists(s => s.Side is not null);

    /// <summary>Signs one side of the dry build's gate; when both are, it is signed.</summary>
    /// <param name="worked">Whether this person worked on what the gate checks.</param>
    /// <param name="hasSecond">Whether the shop has somebody else who could sign.</param>
    public void SignSide(
        PanelSide side,
        Guid person,
        string name,
        Instant at,
        bool worked,
        bool hasSecond,
        string without = ""
    )
    {
        Refusal.When(Gate != GateKind.FitUp, "side", "Only the dry build's gate is signed side by side.");
        Refusal.When(side is not (PanelSide.Left or PanelSide.Right), "side", "Say which side is signed.");
        Refusal.When(IsDone, "id", "The gate has been signed already.");
        Refusal.When(worked && hasSecond, "personId", "A gate is signed by somebody who did not do the work.");
        Refusal.When(Signatures.Exists(s => s.Side == side), "side", "This side has been signed already.");
        Signatures = [.. Signatures, new(person, name, at, worked, null, without, side)];
        if (Signatures.Exists(s => s.Side == PanelSide.Left) && Signatures.Exists(s => s.Side == PanelSide.Right))
        {
            (DoneAt, DoneBy) = (at, name);
        }
    }

    /// <summary>Shuts what was signed of some sides; a signature for all of it falls with any.</summary>
    /// <param name="sides">The middle belongs to both.</param>
    public void ShutSides(IReadOnlyCollection<PanelSide> sides)
    {
        if (!HasSides() || Signatures.Exists(s => s.Side is null) || sides.Contains(PanelSide.Centre))
        {
            Shut();
            return;
        }

        var fallen = Signatures.Where(s => sides.Contains(s.Side!.Value)).ToList();
        if (fallen.Count > 0)
        {
            EarlierSignatures = [.. EarlierSignatures, .. fallen];
            (DoneAt, DoneBy, Signatures) = (null, null, [.. Signatures.Except(fallen)]);
        }
    }

    /// <summary>Opens the gate without a signature; four gates have no override.</summary>
    public void Override(Guid person, string name, Instant at, string reason)
    {
        Refusal.When(Kind != OperationKind.Gate || Gate is null, "id", "Only a gate is opened.");
        Refusal.When(IsDone, "id", "The gate is open already.");
        Refusal.When(!Gates.CanOverride(Gate!.Value), "gate", "This gate has no override: it must be signed.");
        Signatures = [.. Signatures, new(person, name, at, false, Refusal.Text(reason, "reason", 500))];
        (DoneAt, DoneBy) = (at, name);
    }

    /// <summary>A check that nobody may open without a signature, and so nobody may take away either.</summary>
    public bool IsForGood => Kind == OperationKind.Gate && Gate is { } gate && !Gates.CanOverride(gate);

    /// <summary>Which check without override it is; null: none.</summary>
    public GateKind? CheckForGood => IsForGood ? Gate : null;

    /// <summary>A check that has no override stays what it is, whichever way it is changed.</summary>
    /// <param name="check">What it was before.</param>
    public void Keeps(GateKind? check) =>
        Refusal.When(
            check is not null && (Kind != OperationKind.Gate || Gate != check),
            "gate",
            "This check has no override, so it stays what it is: it must be signed."
        );

    /// <summary>When a cure is over; null: it has not begun, since what comes before is not done.</summary>
    public Instant? CuredAt(IReadOnlyDictionary<Guid, Operation> all)
    {
        var before = After.Select(a => (Link: a, Done: all.GetValueOrDefault(a.Operation)?.DoneAt)).ToList();
        return before.Count == 0 || before.Any(b => b.Done is null)
            ? null
            : before.Max(b => b.Done!.Value + Duration.FromMinutes(b.Link.LagMinutes))
                + Duration.FromMinutes(ClockMinutes);
    }

    /// <summary>The same again, to try changes on that nobody keeps.</summary>
    public Operation Copy() => (Operation)MemberwiseClone();

    /// <summary>Takes it out of the sequence; it is kept, with what was logged on it.</summary>
    public void Remove(bool hasHours)
    {
        Refusal.When(IsForGood, "id", "This check has no override, so it stays in the sequence: it must be signed.");
        Refusal.When(hasHours, "id", "Hours are logged on this operation: it stays in the sequence.");
        Removed = true;
    }

    /// <summary>Takes it out together with all that stands behind it, as planning again from another template
    /// does.</summary>
    internal void RemoveWithItsWork() => Removed = true;

    /// <summary>Checks the operation by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 120),
            () =>
                Refusal.When(
                    BudgetMinutes is < 0 or > 60 * 10_000,
                    "budgetMinutes",
                    "The hours must be between 0 and 10,000."
                ),
            () =>
                Refusal.When(
                    ClockMinutes is < 0 or > 1440 * 3650,
                    "clockMinutes",
                    "The wait must be between 0 and ten years."
                ),
            () =>
                Refusal.When(
                    Kind == OperationKind.Work && Trade is null && BudgetMinutes > 0,
                    "trade",
                    "Work needs a trade."
                ),
            () => Refusal.When(Kind == OperationKind.Gate && Gate is null, "gate", "Say which check the gate is."),
            () =>
                Refusal.When(Kind != OperationKind.Work && BudgetMinutes > 0, "budgetMinutes", "Only work has hours."),
            () => After.ForEach(a => a.Check()),
            () => Refusal.When(DepartsWhy.Length > 300, "departsWhy", "At most 300 characters."),
            () => Terms.Check(Kind == OperationKind.Work ? BudgetMinutes : ClockMinutes),
            () =>
                Refusal.When(
                    Terms.With.Count > 0 && Trade is null,
                    "with",
                    "Say the trade of the first pair of hands."
                ),
            () =>
                Refusal.When(
                    Terms.SupplierId is not null && Kind != OperationKind.Outside,
                    "supplierId",
                    "Only outside work has a supplier."
                )
        );
}
