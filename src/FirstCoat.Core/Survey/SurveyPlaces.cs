using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;

namespace FirstCoat.Core.Survey;

/// <summary>Where on a vehicle a place is.</summary>
public enum PlaceGroup
{
    Outside,
    Inside,
    Floor,
    Structure,
}

/// <summary>A place of the survey.</summary>
/// <param name="Path">Its outline on its map, in centimetres: the body laid flat for <see cref="PlaceGroup.Outside"/>,
/// else the floor seen from above.</param>
/// <param name="Spot">The usual trouble there; null: none.</param>
/// <param name="Harder">Why this vehicle's life asks for a second look there; null: nothing does.</param>
/// <param name="Round">Whether the guided round goes there; slats and the like are looked at with their
/// neighbours.</param>
/// <param name="Carries">It carries the vehicle by its own structure: what is found there is structural, whether or not
/// anybody says so.</param>
public sealed record SurveyPlace(
    string Key,
    string Name,
    PlaceGroup Group,
    PanelSide Side,
    string Path,
    string? Spot,
    string? Harder,
    bool Round,
    bool Carries
);

/// <summary>The places of a vehicle in the order of a round: once round outside from the left front, then floor, then
/// structure.</summary>
public static class SurveyPlaces
{
    /// <summary>All places of a vehicle.</summary>
    public static IReadOnlyList<SurveyPlace> Of(Vehicle vehicle, IReadOnlyCollection<HistoryHint> history)
    {
        var body = Body.Unfold(vehicle.Style, vehicle.Dimensions);
        var outside = body
            .Panels.OrderBy(p => Order(p, body))
            .Select(p => new SurveyPlace(
                p.Key,
                p.Name,
                PlaceGroup.Outside,
                p.Side,
                p.Path,
                SpotOf(Stem(p.Key), vehicle.Construction),
                Harder(p.Key, p.Side, PlaceGroup.Outside, history),
                !p.Key.StartsWith("bay", StringComparison.Ordinal),
                Carries(Stem(p.Key), PlaceGroup.Outside, vehicle.Construction)
            ));
        var under = Underside
            .Of(vehicle)
            .Select(u => new SurveyPlace(
                u.Key,
                u.Name,
                u.Group,
                u.Side,
                u.Path,
                SpotOf(Stem(u.Key), vehicle.Construction),
                Harder(u.Key, u.Side, u.Group, history),
                true,
                Carries(Stem(u.Key), u.Group, vehicle.Construction)
            ));
        return [.. outside, .. under];
    }

    /// <summary>Down the left, across the back, up the right, then what lies in the middle.</summary>
    private static double Order(BodyPanel p, Body body)
    {
        var y = p.Polygon.Average(c => c.Y);
        return p.Side switch
        {
            PanelSide.Left => y,
            PanelSide.Centre when y > body.MaxY * .75 => 10_000 + y,
            PanelSide.Right => 30_000 - y,
            _ => 40_000 + y,
        };
    }

    /// <summary>The key of a place without its side: both sides are one zone.</summary>
    public static string Stem(string key) => key.Length > 1 && key[^1] is 'L' or 'R' ? key[..^1] : key;

    /// <summary>What a body of this construction stands on: a unitary one on its sills, pillars, floor and legs; one
    /// with a frame on that, and its doors on their pillars.</summary>
    private static bool Carries(string stem, PlaceGroup group, Construction construction) =>
        group == PlaceGroup.Structure
        || stem switch
        {
            "post" or "post2" or "post3" or "hingePost" or "pillar" => true,
            "sill" or "floorF" or "floorR" or "tunnel" or "seatStep" or "bulkhead" => construction
                == Construction.Unitary,
            "solerail" or "beltrail" or "cant" => construction == Construction.WoodFramed,
            _ => false,
        };

    private static string? SpotOf(string stem, Construction construction) =>
        stem switch
        {
            "wing" => "lower rear edge, behind the wheel; the lip of the arch; headlamp bowl",
            "rwing" => "where it bolts to the body: mud lies in the joint",
            "door" or "door2" or "rdoor" => "bottom seam: blocked drain holes",
            "sill" => construction == Construction.SeparateChassis
                ? "both ends, and the mounts behind it"
                : "both ends and the jacking point; it carries the body",
            "board" => "where it meets the wing",
            "quarter" or "side" or "bedside" => "lower edge and arch: inner and outer rust from the seam",
            "corner" => "bottom, behind the trim: water from the rear window",
            "post" or "post2" or "post3" => "the foot; a door that drops shows it",
            "scuttle" => "drain channels, screen corners",
            "screen" => "lower corners under the seal",
            "roof" => "drip channels, screen corners; filler over old dents",
            "boot" or "tailgate" => "lower seam, hinge mounts",
            "tail" => "lower edge; leaded seams that hold water",
            "bed" => "under the wood or mat, along the cross members",
            "nose" => "stone chips, filler over a knock",
            "bulkhead" => "battery tray, pedal box, heater drain",
            "floorF" => "under the mats at the front corners, round old brackets",
            "floorR" => "under the seat, round the belt mounts",
            "seatStep" => "the seam under the seat",
            "bootFloor" => "the well, spring mounts, fuel tank straps",
            "tunnel" => "handbrake and gearbox mounts",
            "rail" => "inside at the lowest point; where the suspension bolts on; old plates over rust",
            "outrigger" => "ends, where mud is thrown",
            "cross" => "joints to the rails; cracks at the steering",
            "innerSill" => "from inside, at both ends",
            "legF" => "where the axle mounts; creases of an old knock",
            "legR" => "spring hangers, over the axle",
            "innerWing" => "top seam under the battery, shock mounts",
            "hingePost" => "the foot, and where the hinges bolt on",
            "innerDoor" => "along the drains; cracks round the winder",
            "innerArch" => "the seam to the outer panel, from both sides",
            "sole" or "solerail" => "rot at the mortices: push an awl in at every joint",
            "beltrail" or "cant" => "joints, screw holes grown large",
            "bond" => "white lines and edges that lift: the bond lets go",
            _ => null,
        };

    private static string? Harder(
        string key,
        PanelSide side,
        PlaceGroup group,
        IReadOnlyCollection<HistoryHint> history
    )
    {
        var stem = Stem(key);
        bool Has(HistoryHint h) => history.Contains(h);
        return (stem, group) switch
        {
            _ when Has(HistoryHint.CrashedLeft) && side == PanelSide.Left => "it was hit on the left",
            _ when Has(HistoryHint.CrashedRight) && side == PanelSide.Right => "it was hit on the right",
            ("nose" or "bonnet" or "legF" or "innerWing" or "wing", _) when Has(HistoryHint.CrashedFront) =>
                "it was hit in front",
            ("tail" or "boot" or "bootFloor" or "legR" or "quarter" or "tailgate", _)
                when Has(HistoryHint.CrashedRear) => "it was hit at the back",
            (_, PlaceGroup.Floor) when Has(HistoryHint.StoodOutside) => "it stood outside: water lay on the floor",
            ("scuttle" or "bed", _) when Has(HistoryHint.StoodOutside) => "it stood outside: drains block first",
            (_, PlaceGroup.Structure) when Has(HistoryHint.SaltAir) => "it lived in salt air",
            (_, PlaceGroup.Outside) when Has(HistoryHint.PaintedOver) =>
                "it was painted over: measure the film, look for filler",
            ("sill" or "floorF" or "floorR" or "innerSill", _) when Has(HistoryHint.RepairedBefore) =>
                "it was repaired before: panel over panel",
            _ => null,
        };
    }
}

/// <summary>The floor and what carries it, seen from above: plain shapes that keep the vehicle's width and
/// length.</summary>
public static class Underside
{
    /// <summary>A place under or inside the body.</summary>
    public sealed record Part(
        string Key,
        string Name,
        PlaceGroup Group,
        PanelSide Side,
        string Path,
        IReadOnlyList<MapPoint> Corners
    );

    /// <summary>The parts of a vehicle: floor always, then what its construction rests on.</summary>
    public static IReadOnlyList<Part> Of(Vehicle vehicle)
    {
        var (length, half) = (vehicle.Dimensions.LengthMm / 10.0, vehicle.Dimensions.WidthMm / 20.0 * 0.78);
        var (tunnel, front, rear) = (half * 0.16, length * 0.30, length * 0.68);
        var parts = new List<Part>
        {
            Box(
                "bulkhead",
                "Bulkhead",
                PlaceGroup.Floor,
                PanelSide.Centre,
                -half,
                front - length * 0.05,
                half,
                front - 2
            ),
        };
        Pair(parts, "floorF", "front floor", PlaceGroup.Floor, tunnel + 2, front, half, length * 0.50);
        parts.Add(Box("tunnel", "Tunnel", PlaceGroup.Floor, PanelSide.Centre, -tunnel, front, tunnel, rear));
        Pair(parts, "floorR", "rear floor", PlaceGroup.Floor, tunnel + 2, length * 0.50 + 2, half, rear);
        parts.Add(
            Box(
                "seatStep",
                "Seat step",
                PlaceGroup.Floor,
                PanelSide.Centre,
                -half,
                rear + 2,
                half,
                rear + length * 0.03
            )
        );
        parts.Add(
            Box(
                "bootFloor",
                vehicle.Style is BodyStyleKey.Pickup or BodyStyleKey.Van ? "Load floor, underneath" : "Boot floor",
                PlaceGroup.Floor,
                PanelSide.Centre,
                -half * 0.94,
                rear + length * 0.03 + 2,
                half * 0.94,
                length * 0.95
            )
        );
        switch (vehicle.Construction)
        {
            case Construction.SeparateChassis:
                Pair(
                    parts,
                    "rail",
                    "chassis rail",
                    PlaceGroup.Structure,
                    half * 1.32,
                    length * 0.06,
                    half * 1.32 + 9,
                    length * 0.96
                );
                Pair(
                    parts,
                    "outrigger",
                    "outriggers",
                    PlaceGroup.Structure,
                    half * 1.32 + 11,
                    length * 0.32,
                    half * 1.32 + 22,
                    length * 0.66
                );
                parts.Add(
                    Box(
                        "crossF",
                        "Front cross member",
                        PlaceGroup.Structure,
                        PanelSide.Centre,
                        -half * 0.9,
                        length * 0.10,
                        half * 0.9,
                        length * 0.135
                    )
                );
                parts.Add(
                    Box(
                        "crossR",
                        "Rear cross member",
                        PlaceGroup.Structure,
                        PanelSide.Centre,
                        -half * 0.9,
                        length * 0.965,
                        half * 0.9,
                        length
                    )
                );
                break;
            case Construction.WoodFramed:
                Pair(
                    parts,
                    "sole",
                    "sole rail",
                    PlaceGroup.Structure,
                    half + 3,
                    length * 0.30,
                    half + 12,
                    length * 0.95
                );
                Pair(
                    parts,
                    "rail",
                    "chassis rail",
                    PlaceGroup.Structure,
                    half * 1.32,
                    length * 0.06,
                    half * 1.32 + 9,
                    length * 0.96
                );
                break;
            case Construction.Composite:
                Pair(
                    parts,
                    "bond",
                    "bond to the frame",
                    PlaceGroup.Structure,
                    half + 3,
                    length * 0.12,
                    half + 10,
                    length * 0.94
                );
                break;
            default:
                Pair(parts, "innerSill", "inner sill", PlaceGroup.Structure, half + 3, length * 0.30, half + 12, rear);
                Pair(
                    parts,
                    "innerWing",
                    "inner wing",
                    PlaceGroup.Structure,
                    half * 0.62,
                    length * 0.04,
                    half,
                    length * 0.23
                );
                Pair(
                    parts,
                    "legF",
                    "front leg",
                    PlaceGroup.Structure,
                    half * 0.36,
                    length * 0.04,
                    half * 0.36 + 9,
                    length * 0.235
                );
                Pair(parts, "legR", "rear leg", PlaceGroup.Structure, half + 3, rear + 2, half + 12, length * 0.95);
                break;
        }

        Inside(parts, vehicle, length, half, rear);
        return parts;
    }

    /// <summary>What is seen from inside once trim is off: it lies beside the floor, outermost on the map.</summary>
    private static void Inside(List<Part> parts, Vehicle vehicle, double length, double half, double rear)
    {
        var edge = vehicle.Construction is Construction.SeparateChassis or Construction.WoodFramed
            ? half * 1.32 + 26
            : half + 16;
        Pair(
            parts,
            "hingePost",
            "hinge post, inside",
            PlaceGroup.Inside,
            edge,
            length * 0.26,
            edge + 12,
            length * 0.315
        );
        if (vehicle.Style != BodyStyleKey.OpenBody)
        {
            Pair(
                parts,
                "innerDoor",
                "inner door skin",
                PlaceGroup.Inside,
                edge,
                length * 0.325,
                edge + 12,
                length * 0.54
            );
        }

        if (vehicle.Style != BodyStyleKey.Pickup)
        {
            Pair(parts, "innerArch", "inner rear arch", PlaceGroup.Inside, edge, rear, edge + 12, rear + length * 0.17);
        }
    }

    private static void Pair(
        List<Part> parts,
        string key,
        string name,
        PlaceGroup group,
        double x0,
        double y0,
        double x1,
        double y1
    )
    {
        parts.Add(Box($"{key}L", $"L {name}", group, PanelSide.Left, -x1, y0, -x0, y1));
        parts.Add(Box($"{key}R", $"R {name}", group, PanelSide.Right, x0, y0, x1, y1));
    }

    private static Part Box(
        string key,
        string name,
        PlaceGroup group,
        PanelSide side,
        double x0,
        double y0,
        double x1,
        double y1
    )
    {
        var corners = new[] { (x0, y0), (x1, y0), (x1, y1), (x0, y1) }
            .Select(c => new MapPoint(Math.Round(c.Item1, 1), Math.Round(c.Item2, 1)))
            .ToList();
        return new(
            key,
            name,
            group,
            side,
            $"M{string.Join("L", corners.Select(c => FormattableString.Invariant($"{c.X},{c.Y}")))}Z",
            corners
        );
    }
}
