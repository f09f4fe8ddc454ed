using NodaTime;

namespace FirstCoat.Core.Fitup;

/// <summary>When a line is read.</summary>
public enum GapRound
{
    BeforeWeld,
    AfterWeld,
    AfterPaint,
}

/// <summary>What is read at a station.</summary>
public enum FitMeasure
{
    Gap,

    /// <summary>How far the panel that hangs or opens stands out; negative: in.</summary>
    Flush,
}

/// <summary>In what a length was read.</summary>
public enum LengthUnit
{
    Mm,
    Inch,

    /// <summary>Thousandths of an inch.</summary>
    Thou,
}

/// <summary>Lengths as they were typed, exactly in millimetres.</summary>
public static class Lengths
{
    /// <summary>Source: an inch is 25.4 mm by definition.</summary>
    public static decimal InMm(decimal value, LengthUnit unit) =>
        unit switch
        {
            LengthUnit.Inch => value * 25.4m,
            LengthUnit.Thou => value * 0.0254m,
            _ => value,
        };
}

/// <summary>One figure that was read at one station of a line. The last that stands counts; none is
/// overwritten.</summary>
public sealed class FitReading : Recorded
{
    /// <summary>Wider than this nothing that is read is a gap.</summary>
    private const decimal MostMm = 100;

    public required Guid BuildId { get; init; }

    /// <summary>Key of the line.</summary>
    public required string Line { get; init; }

    public required GapRound Round { get; init; }

    /// <summary>Counted from 1.</summary>
    public required int Station { get; init; }

    public required FitMeasure Measure { get; init; }

    /// <summary>As it was typed, in its own unit.</summary>
    public required decimal Value { get; init; }

    public required LengthUnit Unit { get; init; }

    /// <summary>What it was read with.</summary>
    public string Instrument { get; init; } = "";

    public required Instant At { get; init; }
    public required string By { get; init; }

    /// <summary>It was a slip and stands no longer.</summary>
    public bool TakenBack { get; private set; }

    public double Mm => (double)Lengths.InMm(Value, Unit);

    /// <param name="line">The line that it names; null: the body has none of that name.</param>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(GapLine? line)
    {
        Refusal.When(line is null, "line", "This body has no such line.");
        var mm = Lengths.InMm(Value, Unit);
        Refusal.Each(
            () =>
                Refusal.When(
                    Station < 1 || Station > line!.StationsMm.Count,
                    "station",
                    $"This line has {line!.StationsMm.Count} stations."
                ),
            () => Refusal.When(Measure == FitMeasure.Gap && Value < 0, "value", "A gap is nothing or more."),
            () =>
                Refusal.When(
                    Math.Abs(mm) > MostMm,
                    "value",
                    $"{mm:0.##} mm is no {(Measure == FitMeasure.Gap ? "gap" : "step")}: read it again."
                ),
            () => Refusal.When(Instrument.Length > 60, "instrument", "Up to 60 characters.")
        );
    }

    public void TakeBack() => TakenBack = true;
}

/// <summary>A line that is good as it is, by a name and a reason.</summary>
public sealed class FitAcceptance : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>Key of the line.</summary>
    public required string Line { get; init; }

    public required GapRound Round { get; init; }

    /// <summary>Why it stays as it is.</summary>
    public required string Why { get; init; }

    /// <summary>What was out of its limits when it was looked at, in words.</summary>
    public required string What { get; init; }

    public required Instant At { get; init; }

    /// <summary>Who proposes it.</summary>
    public required string By { get; init; }

    /// <summary>When a manager has accepted it; null: it is proposed.</summary>
    public Instant? AcceptedAt { get; private set; }

    public string AcceptedBy { get; private set; } = "";

    public bool TakenBack { get; private set; }

    public void Accept(string by, Instant at)
    {
        Refusal.When(TakenBack, "id", "It was taken back.");
        (AcceptedAt, AcceptedBy) = AcceptedAt is null ? (at, by) : (AcceptedAt, AcceptedBy);
    }

    public void TakeBack() => TakenBack = true;
}

/// <summary>By what the fit of a panel was changed.</summary>
public enum FitMethod
{
    Hinge,
    BodyMount,
    Edge,
    Striker,
    Other,
}

/// <summary>Something that was done to the fit of a panel: what was read there before it is read again, and shows what
/// it did.</summary>
public sealed class FitChange : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>Keys of the panels whose lines it touches.</summary>
    public required List<string> Panels { get; init; }

    public required FitMethod Method { get; init; }

    /// <summary>How the panel was moved, where that was a figure.</summary>
    public FitMove? Move { get; init; }

    /// <summary>What was done, in words.</summary>
    public required string What { get; init; }

    public required Instant At { get; init; }
    public required string By { get; init; }

    /// <summary>Whether it did what it should; null: nobody has said.</summary>
    public bool? Helped { get; private set; }

    /// <summary>What came of it, in words.</summary>
    public string Result { get; private set; } = "";

    /// <param name="lines">Of the build's body.</param>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(IReadOnlyList<GapLine> lines)
    {
        var panels = lines.SelectMany(l => l.Between).ToHashSet();
        Refusal.Each(
            () => Refusal.Text(What, "what", 300),
            () => Refusal.When(Panels.Count == 0, "panels", "Say which panel was moved."),
            () => Refusal.When(Panels.Exists(p => !panels.Contains(p)), "panels", "No line of this body lies there."),
            () => Move?.Check()
        );
    }

    /// <summary>Says what came of it.</summary>
    public void Judge(bool helped, string result)
    {
        Refusal.When(result.Length > 300, "result", "Up to 300 characters.");
        (Helped, Result) = (helped, result.Trim());
    }
}
