using System.Globalization;
using FirstCoat.Core.Bodies;
using NodaTime;

namespace FirstCoat.Core.Fitup;

/// <summary>One reading of something that is read more than once; the last that stands counts.</summary>
/// <param name="Side">The side of the vehicle that it was read on; the middle where that says nothing.</param>
/// <param name="Instrument">Empty: nobody said.</param>
public sealed record SideReading(Guid Id, PanelSide Side, decimal Value, string Instrument, string By, Instant At);

/// <summary>Readings of one thing, in the order in which they were taken.</summary>
internal static class SideReadings
{
    private const int Most = 100;

    /// <summary>With one more; one that is there already is the same request again.</summary>
    /// <exception cref="Refusal">It stands on the sheet no more, or has been read too often.</exception>
    public static List<SideReading> With(List<SideReading> all, SideReading reading, bool removed)
    {
        if (all.Exists(r => r.Id == reading.Id))
        {
            return all;
        }

        Refusal.When(removed, "id", "This was taken off the sheet.");
        Refusal.When(all.Count >= Most, "value", $"At most {Most} readings of one thing.");
        return [.. all, reading];
    }

    /// <exception cref="Refusal">There is one.</exception>
    public static void MustBeNone(List<SideReading> all) =>
        Refusal.When(all.Count > 0, "id", "It has been read: take its readings back first.");

    /// <exception cref="Refusal">There is none.</exception>
    public static List<SideReading> WithoutLast(List<SideReading> all)
    {
        Refusal.When(all.Count == 0, "id", "There is no reading to take back.");
        return [.. all.SkipLast(1)];
    }
}

/// <summary>A figure of the vehicle with what its papers say it should be, and what it is.</summary>
public sealed class SpecFigure : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>What is measured: "front ride height, hub to arch".</summary>
    public string Name { get; set; } = "";

    /// <summary>Key of the panel that it lies on; empty: on none.</summary>
    public string Panel { get; set; } = "";

    /// <summary>What it should be; null: no paper says.</summary>
    public decimal? Specified { get; set; }

    /// <summary>By so much it may be off.</summary>
    public decimal Tolerance { get; set; }

    /// <summary>As on the paper and the instrument: "mm", "Nm", "°". Figures are never converted.</summary>
    public string Unit { get; set; } = "mm";

    /// <summary>The paper that says it, with the page.</summary>
    public string Source { get; set; } = "";

    public string Page { get; set; } = "";

    /// <summary>A picture that shows it, which a figure without a paper needs.</summary>
    public Guid? PhotoId { get; set; }

    /// <summary>In the order in which they were taken.</summary>
    public List<SideReading> Readings { get; private set; } = [];

    /// <summary>It stands on the sheet no more.</summary>
    public bool Removed { get; private set; }

    /// <summary>Null: it was not measured.</summary>
    public SideReading? Last => Readings.Count == 0 ? null : Readings[^1];

    /// <summary>By how much what it is is more than what it should be; null: one of both is not known.</summary>
    public decimal? Deviation() => Last is { } last && Specified is { } should ? last.Value - should : null;

    /// <summary>Whether it is off by more than it may be. A figure on the limit is within it.</summary>
    public bool IsOut() => Deviation() is { } off && Math.Abs(off) > Tolerance;

    /// <summary>How it stands, in words.</summary>
    public string Words() =>
        Last is not { } last ? "not measured"
        : Specified is not { } should ? $"measured {Told(last.Value)}; no paper says what it should be"
        : !IsOut() ? $"{Told(last.Value)}, specified {Told(should)}: within {Told(Tolerance)}"
        : $"{Told(last.Value)}, specified {Told(should)}: {Told(Math.Abs(last.Value - should))} too {(last.Value > should ? "much" : "little")}";

    private string Told(decimal value) =>
        $"{value.ToString("0.#####", CultureInfo.InvariantCulture)}{(Unit is "°" or "" ? "" : " ")}{Unit}";

    /// <param name="body">Of the build.</param>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(Body body) =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 120),
            () => Refusal.Text(Unit, "unit", 10),
            () => Refusal.When(Tolerance < 0, "tolerance", "A tolerance is nothing or more."),
            () => Refusal.When(Source.Length > 120, "source", "Up to 120 characters."),
            () => Refusal.When(Page.Length > 40, "page", "Up to 40 characters."),
            () =>
                Refusal.When(
                    Specified is not null && Source.Length == 0,
                    "source",
                    "Say which paper specifies it: a figure without a source is none."
                ),
            () =>
                Refusal.When(
                    Specified is null && PhotoId is null,
                    "photoId",
                    "No paper says what it should be: a picture that shows it is the evidence."
                ),
            () =>
                Refusal.When(
                    Panel.Length > 0 && body.Panels.All(p => p.Key != Panel),
                    "panel",
                    "This body has no such panel."
                )
        );

    /// <summary>Keeps a reading; one that is there already is the same request again.</summary>
    /// <exception cref="Refusal">It stands on the sheet no more, or has been read too often.</exception>
    public void Read(SideReading reading)
    {
        Refusal.When(reading.Instrument.Length > 60, "instrument", "Up to 60 characters.");
        Refusal.When(Math.Abs(reading.Value) > 1_000_000, "value", "No figure of a vehicle is that large.");
        Readings = SideReadings.With(Readings, reading, Removed);
    }

    /// <summary>Takes the last reading back: it was a slip.</summary>
    public void TakeBack() => Readings = SideReadings.WithoutLast(Readings);

    /// <exception cref="Refusal">It has readings: they are taken back first, so that none is lost by one touch.</exception>
    public void Remove()
    {
        SideReadings.MustBeNone(Readings);
        Removed = true;
    }
}

/// <summary>Two readings from a trial mark to both edges: where the middle lies.</summary>
public sealed class CentreReading : Recorded
{
    private const decimal MostMm = 10_000;

    public required Guid BuildId { get; init; }

    /// <summary>What lies in the middle of what: "badge, bonnet's front edge".</summary>
    public required string What { get; init; }

    /// <summary>Key of the panel that it is marked on; empty: on none.</summary>
    public string Panel { get; init; } = "";

    public required decimal Left { get; init; }
    public required decimal Right { get; init; }

    /// <summary>By so much both may differ, in the same unit.</summary>
    public required decimal Tolerance { get; init; }

    public required LengthUnit Unit { get; init; }
    public required string By { get; init; }
    public required Instant At { get; init; }
    public bool TakenBack { get; private set; }

    /// <summary>Where the mark goes, in millimetres.</summary>
    public CentreMark Sum() =>
        CentreMark.Of(
            (double)Lengths.InMm(Left, Unit),
            (double)Lengths.InMm(Right, Unit),
            (double)Lengths.InMm(Tolerance, Unit)
        );

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(Body body)
    {
        Refusal.Text(What, "what", 120);
        Refusal.When(
            Left <= 0 || Lengths.InMm(Left, Unit) > MostMm,
            "left",
            "The mark lies between both edges, up to 10 m from each."
        );
        Refusal.When(
            Right <= 0 || Lengths.InMm(Right, Unit) > MostMm,
            "right",
            "The mark lies between both edges, up to 10 m from each."
        );
        Refusal.When(Tolerance < 0, "tolerance", "The tolerance is nothing or more.");
        Refusal.When(Panel.Length > 0 && body.Panels.All(p => p.Key != Panel), "panel", "This body has no such panel.");
    }

    public void TakeBack() => TakenBack = true;
}

/// <summary>A place that is there on both sides: what the sound side reads is the other's target.</summary>
public sealed class MirrorPlace : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>What is measured there: "sill edge to arch, at the B post".</summary>
    public required string Name { get; init; }

    /// <summary>Key of the doubtful side's panel; empty: on none.</summary>
    public string Panel { get; init; } = "";

    /// <summary>The side that nobody doubts.</summary>
    public required PanelSide Sound { get; init; }

    /// <summary>The doubtful side less the sound one, as the manual has it; else 0.</summary>
    public required decimal Asymmetry { get; init; }

    public required decimal Tolerance { get; init; }
    public required LengthUnit Unit { get; init; }

    public List<SideReading> Readings { get; private set; } = [];
    public bool Removed { get; private set; }

    /// <summary>The last reading of each side; null: it was not read.</summary>
    public SideReading? Of(PanelSide side) => Readings.LastOrDefault(r => r.Side == side);

    public PanelSide Doubtful() => Sound == PanelSide.Left ? PanelSide.Right : PanelSide.Left;

    /// <summary>What the doubtful side should read and by how much it is off, in millimetres; null: the sound side was
    /// not read.</summary>
    public MirrorTargets? Targets()
    {
        if (Of(Sound) is not { } sound)
        {
            return null;
        }

        double Mm(decimal value) => (double)Lengths.InMm(value, Unit);
        return MirrorTargets.Of(
            [new(Name, Mm(sound.Value))],
            Of(Doubtful()) is { } other ? [new(Name, Mm(other.Value))] : [],
            Mm(Asymmetry),
            Mm(Tolerance)
        );
    }

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(Body body)
    {
        Refusal.Text(Name, "name", 120);
        Refusal.When(Sound is not (PanelSide.Left or PanelSide.Right), "sound", "Say which side is the sound one.");
        Refusal.When(Tolerance < 0, "tolerance", "The tolerance is nothing or more.");
        Refusal.When(Math.Abs(Asymmetry) > 1000, "asymmetry", "No maker builds both sides that unequal.");
        Refusal.When(Panel.Length > 0 && body.Panels.All(p => p.Key != Panel), "panel", "This body has no such panel.");
    }

    /// <summary>Keeps a reading; one that is there already is the same request again.</summary>
    public void Read(SideReading reading)
    {
        Refusal.When(reading.Side is not (PanelSide.Left or PanelSide.Right), "side", "Say which side it was read on.");
        Refusal.When(
            reading.Value <= 0 || Lengths.InMm(reading.Value, Unit) > 10_000,
            "value",
            "A dimension is more than nothing, up to 10 m."
        );
        Readings = SideReadings.With(Readings, reading, Removed);
    }

    public void TakeBack() => Readings = SideReadings.WithoutLast(Readings);

    /// <exception cref="Refusal">It has readings: they are taken back first, so that none is lost by one touch.</exception>
    public void Remove()
    {
        SideReadings.MustBeNone(Readings);
        Removed = true;
    }
}
