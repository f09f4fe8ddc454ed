namespace FirstCoat.Core.Shop;

/// <summary>A wall on the shop's plan, from one point to another, in millimetres.</summary>
public sealed record PlanWall(int FromXMm, int FromYMm, int ToXMm, int ToYMm);

/// <summary>An opening in a wall, in millimetres: its middle, its width along the plan's x or y, and its clear
/// height.</summary>
/// <param name="Along">Whether it runs along x.</param>
public sealed record PlanDoor(int XMm, int YMm, int WidthMm, bool Along, int HeightMm);

/// <summary>What is drawn on the shop's plan besides its places.</summary>
public sealed record ShopLayout
{
    public List<PlanWall> Walls { get; init; } = [];
    public List<PlanDoor> Doors { get; init; } = [];

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(int widthMm, int depthMm)
    {
        bool Within(int x, int y) => x >= 0 && x <= widthMm && y >= 0 && y <= depthMm;
        Refusal.When(Walls.Count > 200 || Doors.Count > 60, "walls", "At most 200 walls and 60 doors.");
        Refusal.When(
            Walls.Exists(w => !Within(w.FromXMm, w.FromYMm) || !Within(w.ToXMm, w.ToYMm)),
            "walls",
            "A wall reaches beyond the shop's plan."
        );
        Refusal.When(
            Walls.Exists(w => Math.Max(Math.Abs(w.FromXMm - w.ToXMm), Math.Abs(w.FromYMm - w.ToYMm)) < 100),
            "walls",
            "A wall is at least 10 cm long."
        );
        Refusal.When(Doors.Exists(d => !Within(d.XMm, d.YMm)), "doors", "A door lies beyond the shop's plan.");
        Refusal.When(
            Doors.Exists(d => d.WidthMm is < 300 or > 20_000 || d.HeightMm is < 500 or > 20_000),
            "doors",
            "A door is between 30 cm and 20 m wide, and between 50 cm and 20 m high."
        );
    }
}

/// <summary>A rack with numbered shelves, each with numbered trays.</summary>
/// <param name="Name">A letter, or a word such as Loft.</param>
public sealed record ShopRack(string Name, int Shelves, int Trays)
{
    /// <summary>Where a tray is, as it stands on labels: C3-7, or Loft 3-7.</summary>
    public string Address(int shelf, int tray) => $"{Name}{(Name.Length > 1 ? " " : "")}{shelf}-{tray}";

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public static void Check(IReadOnlyList<ShopRack> racks) =>
        Refusal.Each(
            () => Refusal.When(racks.Count > 40, "racks", "At most forty racks."),
            () =>
                Refusal.When(
                    racks.Any(r => string.IsNullOrWhiteSpace(r.Name) || r.Name.Length > 20 || char.IsDigit(r.Name[^1])),
                    "racks",
                    "A rack has a name of up to 20 characters that does not end in a figure."
                ),
            () =>
                Refusal.When(
                    racks.Any(r => r.Shelves is < 1 or > 12 || r.Trays is < 1 or > 24),
                    "racks",
                    "A rack has 1 to 12 shelves with 1 to 24 trays each."
                ),
            () =>
                Refusal.When(
                    racks.GroupBy(r => r.Name, StringComparer.OrdinalIgnoreCase).Any(g => g.Count() > 1),
                    "racks",
                    "Two racks carry the same name."
                )
        );
}
