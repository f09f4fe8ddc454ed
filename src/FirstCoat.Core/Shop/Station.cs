namespace FirstCoat.Core.Shop;

/// <summary>A place where work is done, with its outline on the shop's plan.</summary>
public sealed class Station : Entity
{
    public required string Name { get; set; }
    public StationKind Kind { get; set; }

    /// <summary>How many builds it serves at once.</summary>
    public int Count { get; set; } = 1;

    /// <summary>Top left corner and size on the plan, in millimetres.</summary>
    public int XMm { get; set; }

    public int YMm { get; set; }
    public int WidthMm { get; set; }
    public int DepthMm { get; set; }

    /// <summary>Clear height of the door it is reached through, in millimetres; null: no door.</summary>
    public int? DoorHeightMm { get; set; }

    /// <summary>Whether walls close it off (booth, mix, office) or painted lines mark it.</summary>
    public bool Walled { get; set; }

    /// <summary>Checks the station as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(ShopSettings shop)
    {
        Refusal.Text(Name, "name", 60);
        Refusal.When(Count is < 1 or > 100, "count", "A station serves between 1 and 100 builds at once.");
        Refusal.When(WidthMm is < 300 or > 1_000_000, "widthMm", "A station is at least 300 mm wide.");
        Refusal.When(DepthMm is < 300 or > 1_000_000, "depthMm", "A station is at least 300 mm deep.");
        Refusal.When(XMm < 0 || XMm + WidthMm > shop.PlanWidthMm, "xMm", "The station reaches beyond the shop's plan.");
        Refusal.When(YMm < 0 || YMm + DepthMm > shop.PlanDepthMm, "yMm", "The station reaches beyond the shop's plan.");
        Refusal.When(DoorHeightMm is <= 0 or > 20_000, "doorHeightMm", "A door is between 1 mm and 20 m high.");
    }
}
