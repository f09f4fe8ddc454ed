using System.Text.Json;
using NodaTime;

namespace FirstCoat.Core.Bench;

/// <summary>A bench sum kept with the build it was done for: its figures as they were typed. What it comes to is
/// computed when it is read.</summary>
public sealed class BenchTry : Recorded
{
    /// <summary>Characters of the figures.</summary>
    private const int Most = 20_000;

    public required Guid BuildId { get; init; }

    /// <summary>Name of the sum.</summary>
    public required string Sum { get; init; }

    /// <summary>What it is for, in words: "rear wheels".</summary>
    public required string Name { get; init; }

    /// <summary>Figures by name, as JSON text.</summary>
    public required string Figures { get; init; }

    public required Instant At { get; init; }
    public required string By { get; init; }
    public bool TakenBack { get; private set; }

    /// <exception cref="Refusal">A sum that is none, figures that have no answer, no name or too long a one.</exception>
    public void Check()
    {
        Refusal.Text(Name, "name", 80);
        Refusal.When(Figures.Length > Most, "figures", "That is too much for one sum.");
        Answer();
    }

    /// <exception cref="Refusal">The figures have no answer.</exception>
    public BenchAnswer Answer()
    {
        using var figures = JsonDocument.Parse(Figures);
        return BenchSums.Answer(Sum, figures.RootElement);
    }

    public void TakeBack() => TakenBack = true;
}

/// <summary>A rest of sheet that is kept in stock.</summary>
public sealed class SheetOffcut : Recorded
{
    private const double MostMm = 10_000;

    public required double WidthMm { get; init; }
    public required double HeightMm { get; init; }
    public required double GaugeMm { get; init; }

    /// <summary>What it is of: "mild steel".</summary>
    public required string Material { get; init; }

    /// <summary>Where it lies; empty: nobody said.</summary>
    public string Place { get; init; } = "";

    /// <summary>The build whose sheet it is left of; null: none.</summary>
    public Guid? FromBuild { get; init; }

    public required Instant KeptAt { get; init; }
    public required string KeptBy { get; init; }

    /// <summary>Null: it lies in stock.</summary>
    public Instant? UsedAt { get; private set; }

    public string UsedBy { get; private set; } = "";
    public Guid? UsedFor { get; private set; }

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(!(WidthMm is > 0 and <= MostMm), "widthMm", "An offcut is up to 10 m wide."),
            () => Refusal.When(!(HeightMm is > 0 and <= MostMm), "heightMm", "An offcut is up to 10 m high."),
            () => Refusal.When(!(GaugeMm is > 0 and <= 20), "gaugeMm", "The sheet is between 0 and 20 mm thick."),
            () => Refusal.Text(Material, "material", 60),
            () => Refusal.When(Place.Length > 60, "place", "Up to 60 characters.")
        );

    /// <summary>Whether it is as thick as the sheet that is cut: gauges are rounded on the way.</summary>
    public bool IsAsThickAs(double gaugeMm) => Math.Abs(GaugeMm - gaugeMm) < 0.05;

    /// <exception cref="Refusal">It is used already.</exception>
    public void Use(string by, Instant at, Guid? build)
    {
        Refusal.When(UsedAt is not null, "id", "This offcut is used already.");
        (UsedAt, UsedBy, UsedFor) = (at, by, build);
    }

    /// <summary>It was not used after all.</summary>
    public void PutBack() => (UsedAt, UsedBy, UsedFor) = (null, "", null);
}

/// <summary>The wires and fuses that the shop goes by; there is one.</summary>
public sealed class WireTable : Entity
{
    /// <summary>The only id this entity ever has.</summary>
    public static readonly Guid TheOne = new("018f0000-0000-7000-8000-000000000018");

    private const int Most = 60;

    /// <summary>Low starting figures, to be replaced by the wire maker's.</summary>
    public List<WireSize> Wires { get; set; } =
    [new(0.5, 4), new(1, 8), new(1.5, 12), new(2.5, 18), new(4, 25), new(6, 35), new(10, 50), new(16, 70), new(25, 90)];

    /// <summary>Amps.</summary>
    public List<double> Fuses { get; set; } = [3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 80];

    /// <exception cref="Refusal">Names what no wire or fuse has.</exception>
    public void Check()
    {
        Refusal.When(Wires.Count is 0 or > Most, "wires", $"Give between 1 and {Most} wires.");
        Refusal.When(Fuses.Count > Most, "fuses", $"At most {Most} fuses.");
        Refusal.When(
            Wires.Exists(w => !(w.Mm2 is > 0 and <= 1000) || !(w.MostAmps is > 0 and <= 10_000)),
            "wires",
            "Each wire has an area and a current."
        );
        Refusal.When(Fuses.Exists(x => !(x is > 0 and <= 10_000)), "fuses", "A fuse carries more than nothing.");
    }
}
