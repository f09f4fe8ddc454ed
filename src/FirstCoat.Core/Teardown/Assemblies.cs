using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Teardown;

/// <summary>Sub-assemblies whose steps ship with the application; a list is written by the shop.</summary>
public enum AssemblyKind
{
    Door,
    FrontEnd,
    List,
}

/// <summary>A step that frees this one, and why it comes first.</summary>
public sealed record StepAfter(string Step, string Why);

/// <summary>One step of taking apart, as known before anybody begins.</summary>
/// <param name="Key">Names the step and the drawn part; unique in its sub-assembly.</param>
/// <param name="Piece">What comes off, for the bag.</param>
/// <param name="Fastener">As usually found; counted anew at the bag.</param>
/// <param name="Tool">With its size.</param>
/// <param name="Blind">Worked by feel, out of sight.</param>
/// <param name="Photos">What the photos must show before it is closed.</param>
/// <param name="Minutes">Doing, finding out left aside: a rule of thumb until this shop's own times are known.</param>
public sealed record TeardownStep(
    string Key,
    string Name,
    string Says,
    string Piece,
    int Pieces,
    BagFastener? Fastener,
    string Tool,
    bool Blind,
    Hazard? Hazard,
    List<string> How,
    List<string> Photos,
    List<StepAfter> After,
    int Minutes
);

/// <summary>The steps that ship with the application.</summary>
/// <remarks>Rules of thumb for cars with wind-up windows and a front end on bolts; the car in front of you comes
/// first.</remarks>
public static class Assemblies
{
    /// <summary>Steps of a sub-assembly in the usual order; a list starts empty.</summary>
    public static List<TeardownStep> Steps(AssemblyKind kind) =>
        kind switch
        {
            AssemblyKind.Door => Door(),
            AssemblyKind.FrontEnd => FrontEnd(),
            _ => [],
        };

    private static StepAfter After(string step, string why) => new(step, why);

    private static BagFastener Screws(
        int count,
        string head,
        string thread,
        string finish = "zinc",
        bool shows = false
    ) => new("screw", head, thread, finish, count, shows, 0);

    private static BagFastener Bolts(int count, string thread) =>
        new("bolt", "hexagon", thread, "zinc", count, false, 0);

    private static BagFastener Of(string kind, int count) => new(kind, "", "", "", count, false, 0);

    private static List<TeardownStep> Door() =>
        [
            new(
                "winder",
                "Winder, inside handle",
                "pins and springs behind the escutcheons",
                "handle",
                2,
                Of("pin", 2),
                "pin drift 3 mm",
                false,
                null,
                ["Press the escutcheon in, drift the pin out", "Spring and escutcheon stay with their handle"],
                ["handles as they sat"],
                [],
                7
            ),
            new(
                "rail",
                "Garnish rail",
                "raised screws, kept in order",
                "rail",
                1,
                Screws(8, "raised", "M4 x 20", "chrome", true),
                "screwdriver, cross 2",
                false,
                null,
                ["Screws in their order from the front"],
                ["whole rail"],
                [],
                8
            ),
            new(
                "card",
                "Door card",
                "clips pull out, some break",
                "card",
                1,
                Of("clip", 22),
                "clip fork",
                false,
                null,
                ["Fork beside each clip, lift square", "Count the broken ones"],
                ["front of the card", "back of the card"],
                [
                    After("winder", "the card sits behind the handles"),
                    After("rail", "the rail holds the card's upper edge"),
                ],
                9
            ),
            new(
                "rod",
                "Remote rod",
                "clip at the latch end",
                "rod",
                1,
                Of("clip", 1),
                "long pliers",
                true,
                null,
                ["Clip off at the latch, rod out forward"],
                ["both ends in place"],
                [After("card", "it lies behind the card")],
                11
            ),
            new(
                "channel",
                "Rear glass channel",
                "two bolts, keep the felt",
                "channel",
                1,
                Bolts(2, "M6 x 16"),
                "socket 10",
                true,
                null,
                ["Lower bolt through the rear hole, by feel", "Channel down and out"],
                ["channel in place", "shim behind it"],
                [After("card", "its lower bolt is reached through the door")],
                13
            ),
            new(
                "regulator",
                "Regulator",
                "the spring is under load",
                "regulator",
                1,
                Bolts(4, "M6 x 16"),
                "3 mm drift, spring clamp",
                true,
                Hazard.Lifting,
                [
                    "Glass up, two wedges in the belt slot",
                    "Spring clamp on the coil before any bolt moves",
                    "Four bolts, the plate hangs on the pin",
                    "Pin last, lift out by the hole",
                ],
                ["whole", "spring clamped", "pin"],
                [
                    After("card", "it is reached through the card's opening"),
                    After("channel", "the arm swings past the channel"),
                ],
                29
            ),
            new(
                "glass",
                "Glass",
                "down, tilt, out at the rear",
                "glass",
                1,
                null,
                "two people, suction lifter",
                false,
                Hazard.Lifting,
                ["Wedges out, glass down by hand", "Tilt forward, lift out on the outer side"],
                ["belt strips", "felt in the run"],
                [After("regulator", "the arm holds the glass"), After("channel", "the glass leaves through its place")],
                10
            ),
            new(
                "quarter",
                "Quarter light",
                "divider bar comes with it",
                "quarter light",
                1,
                Screws(4, "countersunk", "M5 x 16"),
                "screwdriver, cross 2",
                false,
                null,
                ["Two screws above, two in the front edge", "Tilt back and lift"],
                ["divider bar foot", "seal"],
                [After("glass", "the divider is the front run of the glass")],
                17
            ),
            new(
                "latch",
                "Latch, outside handle",
                "mark the latch with its door",
                "latch",
                2,
                Screws(3, "countersunk", "M6 x 20"),
                "impact driver, bit 3",
                true,
                null,
                ["Mark the door on the latch", "Three screws at the rear edge", "Handle nuts from inside"],
                ["latch in place", "mark"],
                [After("rod", "the rod ends in it"), After("channel", "the channel covers its lower nut")],
                19
            ),
        ];

    private static List<TeardownStep> FrontEnd() =>
        [
            new(
                "battery",
                "Battery off",
                "earth strap first",
                "battery",
                1,
                Bolts(2, "M8 x 20"),
                "spanner 13",
                false,
                Hazard.Fuel,
                ["Earth strap first, then the other", "Battery out, upright"],
                ["terminals and their order"],
                [],
                6
            ),
            new(
                "bonnet",
                "Bonnet",
                "two people, hinges marked",
                "bonnet",
                1,
                Bolts(4, "M8 x 20"),
                "spanner 13, two people",
                false,
                Hazard.Lifting,
                ["Scribe round the hinges", "One holds, one undoes"],
                ["hinge marks left", "hinge marks right"],
                [],
                14
            ),
            new(
                "lamps",
                "Head lamps",
                "rims first, adjusters kept as set",
                "head lamp",
                2,
                Screws(6, "raised", "M5 x 12", "chrome", true),
                "screwdriver, cross 2",
                false,
                null,
                ["Rim screw below, rim up", "Three long screws, leave the adjusters"],
                ["left adjusters", "right adjusters", "plugs"],
                [After("battery", "the plugs are live with the battery on")],
                22
            ),
            new(
                "grille",
                "Grille",
                "seven screws, two from behind",
                "grille",
                1,
                Screws(7, "countersunk", "M5 x 16", "chrome", true),
                "screwdriver, long",
                true,
                null,
                ["Upper row from the front", "Two lower ones from behind, by feel"],
                ["grille in place", "packings"],
                [After("bonnet", "its upper edge is under the bonnet")],
                16
            ),
            new(
                "bumper",
                "Front bumper and irons",
                "irons with their packings",
                "bumper",
                1,
                Bolts(4, "M10 x 30"),
                "socket 17, two people",
                false,
                Hazard.Lifting,
                ["Inner bolts first", "Packings tied to their iron"],
                ["packings left", "packings right"],
                [],
                20
            ),
            new(
                "radiator",
                "Radiator",
                "drain, then hoses",
                "radiator",
                1,
                Bolts(6, "M6 x 16"),
                "socket 10, drain tray",
                false,
                Hazard.Fuel,
                ["Drain cold, catch all of it", "Hoses, then the side bolts"],
                ["hoses and clips"],
                [After("grille", "it lifts out forward"), After("battery", "the fan is live with the battery on")],
                28
            ),
            new(
                "valance",
                "Front valance",
                "below the bumper, often rusted fast",
                "valance",
                1,
                Bolts(8, "M6 x 20"),
                "socket 10, penetrant",
                false,
                null,
                ["Penetrant the day before", "Outer bolts last"],
                ["edges to the wings"],
                [After("bumper", "the irons go through it")],
                18
            ),
            new(
                "wingL",
                "Left wing",
                "bolts along the arch and the sill",
                "left wing",
                1,
                Bolts(11, "M6 x 20"),
                "socket 10, long bar",
                true,
                Hazard.Lifting,
                ["Three under the scuttle, by feel", "Sill bolt last, one holds"],
                ["shims at the scuttle", "sill bolt"],
                [
                    After("lamps", "the lamp bowl bolts through it"),
                    After("valance", "they overlap at the front"),
                    After("bonnet", "the upper bolts are in its gutter"),
                ],
                42
            ),
            new(
                "wingR",
                "Right wing",
                "bolts along the arch and the sill",
                "right wing",
                1,
                Bolts(11, "M6 x 20"),
                "socket 10, long bar",
                true,
                Hazard.Lifting,
                ["Three under the scuttle, by feel", "Sill bolt last, one holds"],
                ["shims at the scuttle", "sill bolt"],
                [
                    After("lamps", "the lamp bowl bolts through it"),
                    After("valance", "they overlap at the front"),
                    After("bonnet", "the upper bolts are in its gutter"),
                ],
                42
            ),
            new(
                "panel",
                "Front panel",
                "carries lock and lamps",
                "front panel",
                1,
                Bolts(10, "M8 x 20"),
                "socket 13",
                false,
                null,
                ["Measure corner to corner before the last bolt"],
                ["corner to corner, tape in the picture"],
                [
                    After("wingL", "the wings close over its ends"),
                    After("wingR", "the wings close over its ends"),
                    After("radiator", "the radiator hangs on it"),
                ],
                26
            ),
        ];
}
