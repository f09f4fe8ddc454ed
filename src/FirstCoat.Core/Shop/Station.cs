using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Shop;

/// <summary>A place where work is done, with its outline on the shop's plan.</summary>
public sealed class Station : Entity
{
    public required string Name { get; set; }
    public StationKind Kind { get; set; }

    /// <summary>How many vehicles it takes, or pieces of work where none stands; one unless it says more.</summary>
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

    public StationTerms Terms { get; set; } = new();

    /// <summary>Whether it covers ground of the other's by more than a hand's width each way.</summary>
    public bool LiesOn(Station other)
    {
        const int Line = 100;
        return XMm + WidthMm - other.XMm > Line
            && other.XMm + other.WidthMm - XMm > Line
            && YMm + DepthMm - other.YMm > Line
            && other.YMm + other.DepthMm - YMm > Line;
    }

    /// <summary>Becomes one of so many places that share its outline, side by side along its longer side.</summary>
    public void TakePart(int number, int of)
    {
        if (of == 1)
        {
            return;
        }

        Name = $"{Name} {number}";
        if (WidthMm >= DepthMm)
        {
            (XMm, WidthMm) = (XMm + (number - 1) * (WidthMm / of), WidthMm / of);
        }
        else
        {
            (YMm, DepthMm) = (YMm + (number - 1) * (DepthMm / of), DepthMm / of);
        }
    }

    /// <summary>One more like this, for one vehicle, where this one lies.</summary>
    public Station Another(string name) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            Kind = Kind,
            XMm = XMm,
            YMm = YMm,
            WidthMm = WidthMm,
            DepthMm = DepthMm,
            DoorHeightMm = DoorHeightMm,
            Walled = Walled,
        };

    /// <summary>Checks the station as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(ShopSettings shop) =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 60),
            () => Refusal.When(Count is < 1 or > 100, "count", "A station serves between 1 and 100 builds at once."),
            () => Refusal.When(WidthMm is < 300 or > 1_000_000, "widthMm", "A station is at least 300 mm wide."),
            () => Refusal.When(DepthMm is < 300 or > 1_000_000, "depthMm", "A station is at least 300 mm deep."),
            () =>
                Refusal.When(
                    XMm < 0 || XMm + WidthMm > shop.PlanWidthMm,
                    "xMm",
                    "The station reaches beyond the shop's plan."
                ),
            () =>
                Refusal.When(
                    YMm < 0 || YMm + DepthMm > shop.PlanDepthMm,
                    "yMm",
                    "The station reaches beyond the shop's plan."
                ),
            () =>
                Refusal.When(DoorHeightMm is <= 0 or > 20_000, "doorHeightMm", "A door is between 1 mm and 20 m high."),
            () => Terms.Check()
        );
}

/// <summary>A stretch of days on which a station is out of use, last day included; no last day: until further
/// notice.</summary>
public sealed record StationClosure(LocalDate From, LocalDate? To, string Why);

/// <summary>When a station may be used, and whose air it shares.</summary>
public sealed record StationTerms
{
    /// <summary>The last day of its inspection (hoses, lift, breathing air, filters); past it the station is closed.
    /// Null: none is due.</summary>
    public LocalDate? InspectedUntil { get; init; }

    /// <summary>Whether its inspection has run out, so that it is closed.</summary>
    public bool PastInspection(LocalDate today) => InspectedUntil < today;

    /// <summary>What is inspected.</summary>
    public string Inspected { get; init; } = "";

    /// <summary>The same in a sentence.</summary>
    public string InspectedWhat() => Inspected.Length > 0 ? Inspected : "inspection";

    /// <summary>Days before it runs out from which on the manager is asked to renew it.</summary>
    public const int AskAhead = 30;

    /// <summary>Whether it runs out so soon that the manager is asked.</summary>
    public bool IsDue(LocalDate today) => InspectedUntil is { } until && until <= today.PlusDays(AskAhead);

    /// <summary>Stations with the same word share their air; none: nobody else's.</summary>
    public string AirSpace { get; init; } = "";

    public List<StationClosure> Closed { get; init; } = [];

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(Inspected.Length > 60, "inspected", "At most 60 characters."),
            () => Refusal.When(AirSpace.Length > 40, "airSpace", "At most 40 characters."),
            () =>
                Refusal.When(
                    Closed.Count > 50 || Closed.Any(c => c.To < c.From || c.Why.Length > 100),
                    "closed",
                    "A closure ends after it starts and says why in up to 100 characters."
                )
        );
}
