using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Survey;

/// <summary>What is wrong at a place.</summary>
public enum FindingKind
{
    RustThrough,
    Thinning,
    Pitting,
    Dent,
    Crease,
    EarlierPatch,
    PanelOverPanel,
    Filler,
    LeadedSeam,
    Missing,
    WrongPart,
    Crack,
    Twisted,
    Collision,
    AddedMetal,
    Foam,
}

/// <summary>What the punch says: it rings on sound metal, dents thin metal, or goes through.</summary>
public enum Probe
{
    Rings,
    Dents,
    GoesThrough,
}

/// <summary>One way to deal with a finding, as somebody judged it. Amounts are net, in the shop's currency.</summary>
/// <param name="SheetM2Price">Price of a square metre of the sheet it takes; with a drawn area it gives sheet at cost;
/// nothing: the shop's own sheet of that thickness.</param>
/// <param name="Material">Other material, at cost.</param>
/// <param name="NotSold">No such part can be bought.</param>
public sealed record FindingOption(
    Verdict Verdict,
    decimal Hours,
    Trade Trade,
    decimal Material = 0,
    decimal SheetM2Price = 0,
    decimal Part = 0,
    decimal Freight = 0,
    decimal LeadDays = 0,
    decimal RiskPercent = 0,
    bool NotSold = false
);

/// <summary>One blow of the punch.</summary>
public sealed class PunchMark : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>Key of the place.</summary>
    public required string Place { get; init; }

    public required MapPoint At { get; init; }
    public required Probe Result { get; init; }
    public required string By { get; init; }
    public required Instant On { get; init; }

    /// <summary>Who took it back, where it was a slip.</summary>
    public string? WithdrawnBy { get; private set; }

    /// <summary>Takes the mark back; it stays on record.</summary>
    public void Withdraw(string by)
    {
        Refusal.When(WithdrawnBy is not null, "id", "This mark has been taken back already.");
        WithdrawnBy = by;
    }
}

/// <summary>A place that was looked at without anything to mark.</summary>
public sealed class SurveyLook : Recorded
{
    public required Guid BuildId { get; init; }
    public required string Place { get; init; }
    public required string By { get; init; }
    public required Instant On { get; init; }
}

/// <summary>Something wrong on a vehicle, with its verdict. The number is the build's and is never used
/// again.</summary>
public sealed class Finding : Recorded
{
    public required Guid BuildId { get; init; }
    public required int Number { get; init; }
    public string Place { get; set; } = "";
    public MapPoint At { get; set; } = new(0, 0);

    /// <summary>Outline of what is bad; empty: only the point is known.</summary>
    public List<MapPoint> Area { get; set; } = [];

    public FindingKind Kind { get; set; }
    public Probe? Probe { get; set; }

    /// <summary>Largest extent, in millimetres.</summary>
    public int? SizeMm { get; set; }

    public bool Structural { get; set; }

    /// <summary>Thickness of the sheet there, in millimetres.</summary>
    public decimal? GaugeMm { get; set; }

    public string Note { get; set; } = "";
    public Guid? PhotoId { get; set; }

    /// <summary>The finding behind which this one came to light.</summary>
    public Guid? Behind { get; set; }

    public required string FoundBy { get; init; }
    public required Instant FoundAt { get; init; }

    public List<FindingOption> Options { get; private set; } = [];
    public Verdict? Choice { get; private set; }
    public string ChoiceReason { get; private set; } = "";
    public string? ChosenBy { get; private set; }
    public Instant? ChosenAt { get; private set; }
    public string? AgreedBy { get; private set; }
    public Instant? AgreedAt { get; private set; }

    /// <summary>The operations and parts that its verdict became.</summary>
    public List<Guid> Operations { get; set; } = [];

    public List<Guid> Parts { get; set; } = [];

    /// <summary>What it put into the estimate, net; null: nothing yet.</summary>
    public EstimateTotals? InEstimate { get; set; }

    /// <summary>Why its work was not done: the client said no; null: nobody did.</summary>
    public string? NotDoneWhy { get; private set; }

    /// <summary>Why it is no finding after all; it stays on record with its number.</summary>
    public string? WithdrawnWhy { get; private set; }

    public bool Counts => WithdrawnWhy is null;

    /// <summary>Square metres of what is drawn; nothing when only the point is known.</summary>
    public double AreaM2 =>
        Area.Count < 3 ? 0 : Math.Abs(Outline.Area(Area.Select(p => new Pt(p.X, p.Y)).ToList())) / 10_000;

    /// <summary>Largest extent of what is drawn, in whole millimetres; null when only the point is known.</summary>
    public int? DrawnMm =>
        Area.Count < 3
            ? null
            : (int)
                Math.Round(
                    Area.SelectMany(
                            a => Area,
                            (a, b) => Math.Sqrt((a.X - b.X) * (a.X - b.X) + (a.Y - b.Y) * (a.Y - b.Y))
                        )
                        .Max() * 10
                );

    /// <summary>Checks the finding by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(!Enum.IsDefined(Kind), "kind", "Say what is wrong."),
            () => Refusal.When(SizeMm is < 1 or > 20_000, "sizeMm", "A size must be between 1 mm and 20 m."),
            () => Refusal.When(GaugeMm is <= 0 or > 20, "gaugeMm", "The sheet is between 0 and 20 mm thick."),
            () => Refusal.When(Note.Length > 1000, "note", "At most 1,000 characters."),
            () =>
                Refusal.When(
                    Area.Count is 1 or 2 or > 200,
                    "area",
                    "An area has at least three corners and at most two hundred."
                ),
            () =>
                Refusal.When(
                    Area.Prepend(At)
                        .Any(p =>
                            !double.IsFinite(p.X)
                            || !double.IsFinite(p.Y)
                            || Math.Abs(p.X) > 2000
                            || Math.Abs(p.Y) > 2000
                        ),
                    "at",
                    "The point lies off the map."
                )
        );

    /// <summary>Replaces the ways to deal with it. A choice that is no longer among them falls away, and so does
    /// agreement to it.</summary>
    public void Judge(IReadOnlyList<FindingOption> options)
    {
        Refusal.When(
            options.GroupBy(o => o.Verdict).Any(g => g.Count() > 1),
            "options",
            "Each verdict is judged once."
        );
        foreach (var o in options)
        {
            Refusal.When(!Enum.IsDefined(o.Verdict), "verdict", "The verdict is leave, repair, replace or fabricate.");
            Refusal.When(o.Hours is < 0 or > 2000, "hours", "Hours must be between 0 and 2,000.");
            Refusal.When(
                new[] { o.Material, o.SheetM2Price, o.Part, o.Freight }.Any(a => a is < 0 or > 1_000_000),
                "material",
                "Amounts must be between 0 and a million."
            );
            Refusal.When(o.LeadDays is < 0 or > 1000, "leadDays", "Lead days must be between 0 and 1,000.");
            Refusal.When(
                o.RiskPercent is < 0 or > 500,
                "riskPercent",
                "An allowance must be between 0 and 500 percent."
            );
        }

        var (before, agreed) = (Chosen, AgreedBy);
        Options = [.. options];
        if (Choice is not null && Chosen is null)
        {
            (Choice, ChoiceReason, ChosenBy, ChosenAt) = (null, "", null, null);
        }

        if (agreed is not null && Chosen != before)
        {
            (AgreedBy, AgreedAt) = (null, null);
        }
    }

    /// <summary>The option that was chosen.</summary>
    public FindingOption? Chosen =>
        Choice is { } c
            ? Options.FirstOrDefault(o => o.Verdict == c) ?? (c == Verdict.Leave ? VerdictSums.Leaving : null)
            : null;

    /// <summary>Chooses a way; the reason is kept. Agreement to another choice falls away.</summary>
    public void Choose(Verdict verdict, string reason, string? barred, string by, Instant at)
    {
        Refusal.When(
            verdict != Verdict.Leave && Options.All(o => o.Verdict != verdict),
            "verdict",
            "Judge this way first: its hours and what it costs."
        );
        Refusal.When(barred is not null, "verdict", $"This way is barred: {barred}.");
        Refusal.When(reason.Length > 300, "reason", "At most 300 characters.");
        if (Choice != verdict)
        {
            (AgreedBy, AgreedAt) = (null, null);
        }

        (Choice, ChoiceReason, ChosenBy, ChosenAt) = (verdict, reason.Trim(), by, at);
    }

    /// <summary>What was found is now known to be something else: agreement was to a choice on other facts and falls
    /// away.</summary>
    public void Reconsider() => (AgreedBy, AgreedAt) = (null, null);

    /// <summary>Agrees to the choice.</summary>
    /// <param name="barred">Why the chosen way may no longer be taken; null: it may.</param>
    public void Agree(string by, Instant at, string? barred = null)
    {
        Refusal.When(barred is not null, "verdict", $"This way is barred: {barred}.");
        Refusal.When(Choice is null, "verdict", "Nothing has been chosen yet.");
        Refusal.When(AgreedBy is not null, "verdict", $"{AgreedBy} has agreed already.");
        (AgreedBy, AgreedAt, NotDoneWhy) = (by, at, null);
    }

    /// <summary>Its work goes out again before anybody began: the finding stays, with the reason why it is not
    /// mended.</summary>
    /// <param name="operations">That went out; likewise parts.</param>
    public void NotDone(string why, IReadOnlyCollection<Guid> operations, IReadOnlyCollection<Guid> parts)
    {
        (NotDoneWhy, AgreedBy, AgreedAt, InEstimate) = (why, null, null, null);
        (Operations, Parts) = ([.. Operations.Except(operations)], [.. Parts.Except(parts)]);
    }

    /// <summary>Takes the finding back for a reason; its number is not used again.</summary>
    public void Withdraw(string why)
    {
        Refusal.When(
            Operations.Count > 0,
            "id",
            "Work was planned for it: choose to leave it, so that the work is taken out first."
        );
        WithdrawnWhy = Refusal.Text(why, "reason", 300);
    }
}
