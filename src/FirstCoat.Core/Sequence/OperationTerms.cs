using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>A place whose share of an operation's hours a finding has replaced.</summary>
/// <param name="Name">What the operation was called, where the finding's work stands in its place.</param>
public sealed record ReplacedShare(string Place, Guid Finding, int Minutes, string? Name = null);

/// <summary>Whether it happens on the vehicle, on the bench (on parts that are off it), or takes the vehicle out of the
/// shop.</summary>
public enum BodyUse
{
    Beside,
    OnBody,
    TakesAway,
}

/// <summary>So many people more at the same time, of the same trade or another.</summary>
public sealed record OperationHands(Trade Trade, int Count);

/// <summary>A station of this kind is kept from the start of the operation until the end of another, also while nobody
/// works.</summary>
public sealed record StationHold(StationKind Station, Guid Until);

/// <summary>So many of a thing that is shared in the shop.</summary>
public sealed record StockUse(string Name, int Count);

/// <summary>What must be done before the work goes on where a window was not kept.</summary>
public sealed record WindowLapse(string Name, int Minutes, Trade Trade);

/// <summary>Under which terms an operation runs, for the plan; the defaults ask for nothing.</summary>
public sealed record OperationTerms
{
    /// <summary>One in five takes less; minutes. Null: as the trade's record spreads.</summary>
    public int? LowMinutes { get; init; }

    /// <summary>One in five takes more; minutes.</summary>
    public int? HighMinutes { get; init; }

    /// <summary>Who is there at the same time; the operation's hours are of all hands together, as they are
    /// booked.</summary>
    public List<OperationHands> With { get; init; } = [];

    /// <summary>Whom it suits best, of those who can.</summary>
    public List<Guid> Preferred { get; init; } = [];

    public StationHold? Hold { get; init; }
    public LocalDate? NotBefore { get; init; }

    /// <summary>The day on which a manager wants it to start: the plan starts it no sooner, and says where it cannot be
    /// kept.</summary>
    public LocalDate? PinnedOn { get; init; }

    /// <summary>The place in which a manager wants it done; null: in any of its kind.</summary>
    public Guid? PinnedAt { get; init; }

    /// <summary>By when it should be done by itself.</summary>
    public LocalDate? Deadline { get; init; }

    public List<WorkKind> Kinds { get; init; } = [];
    public List<StockUse> Uses { get; init; } = [];

    /// <summary>Who does outside work, or comes to us for it.</summary>
    public Guid? SupplierId { get; init; }

    /// <summary>Outside work of one batch leaves together.</summary>
    public string Batch { get; init; } = "";

    /// <summary>How the shell must be held for it, one of these; none: any way.</summary>
    public List<SupportState> Needs { get; init; } = [];

    /// <summary>How the shell is held when it cannot be reached.</summary>
    public List<SupportState> Forbids { get; init; } = [];

    /// <summary>How the shell is held once it is done.</summary>
    public SupportState? Sets { get; init; }

    /// <summary>The sign-off of the other side: this reference side stays closed until then, unless a jig is
    /// booked.</summary>
    public Guid? ClosedUntil { get; init; }

    /// <summary>No two operations of a build with the same word go on at once.</summary>
    public string OneAtATime { get; init; } = "";

    public BodyUse Body { get; init; }

    /// <summary>By how much lower the shell stands after it, in millimetres.</summary>
    public int LowersMm { get; init; }

    /// <summary>Places for which it was an allowance, until a finding said what is to be done there.</summary>
    public List<ReplacedShare> Replaced { get; init; } = [];

    /// <summary>Where nobody says otherwise: on the vehicle where its place is one for vehicles, else on the
    /// bench.</summary>
    public static BodyUse UsualBody(StationKind? station) =>
        station?.IsForVehicles() == true ? BodyUse.OnBody : BodyUse.Beside;

    /// <summary>The same terms in another place: on the vehicle or on the bench as is usual there, unless the work
    /// takes the vehicle away.</summary>
    public OperationTerms At(StationKind? station) =>
        Body == BodyUse.TakesAway ? this : this with { Body = UsualBody(station) };

    /// <summary>Checks the terms against the operation's likely minutes.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(int likelyMinutes) =>
        Refusal.Each(
            () =>
                Refusal.When(
                    (LowMinutes is null) != (HighMinutes is null),
                    "lowMinutes",
                    "Give both, the low and the high figure, or neither."
                ),
            () => Refusal.When(LowMinutes is <= 0, "lowMinutes", "The low figure is more than nothing."),
            () => Refusal.When(LowMinutes > likelyMinutes, "lowMinutes", "The low figure is at most the likely one."),
            () =>
                Refusal.When(HighMinutes < likelyMinutes, "highMinutes", "The high figure is at least the likely one."),
            () => Refusal.When(HighMinutes > 1440 * 3650, "highMinutes", "The high figure lies below ten years."),
            () =>
                Refusal.When(
                    With.Count > 6 || With.Any(w => w.Count is < 1 or > 12),
                    "with",
                    "Between one and twelve people more of each of at most six trades."
                ),
            () =>
                Refusal.When(
                    With.Select(w => w.Trade).Distinct().Count() != With.Count,
                    "with",
                    "Each trade stands once."
                ),
            () =>
                Refusal.When(
                    Uses.Count > 12
                        || Uses.Any(u => u.Count is < 1 or > 1000)
                        || Uses.Select(u => u.Name).Distinct().Count() != Uses.Count,
                    "uses",
                    "Each shared thing stands once, with a number of 1 to 1,000."
                ),
            () => Refusal.When(LowersMm is < 0 or > 3000, "lowersMm", "It lowers the shell by up to 3 m."),
            () => Refusal.When(Batch.Length > 60, "batch", "At most 60 characters."),
            () => Refusal.When(OneAtATime.Length > 60, "oneAtATime", "At most 60 characters."),
            () =>
                Refusal.When(
                    Needs.Intersect(Forbids).Any(),
                    "needs",
                    "The same way of holding the shell is both needed and ruled out."
                ),
            () => Refusal.When(Deadline < NotBefore, "deadline", "It cannot be due before it may start.")
        );
}
