using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Teardown;

namespace FirstCoat.Server.Demo;

/// <summary>What came off three builds, in bags on the shelves, away, and on the car again.</summary>
internal sealed class DemoTeardown(DemoShop shop)
{
    private sealed record Off(string What, string From, bool Sided, string Piece, int Pieces, BagFastener? Fastener);

    private static BagFastener Screw(string thread, int count, bool shows = false, int destroyed = 0) =>
        new("screw", "oval head", thread, shows ? "chrome" : "zinc", count, shows, destroyed);

    private static BagFastener Bolt(string thread, int count) =>
        new("bolt", "hexagon", thread, "zinc", count, false, 0);

    private static BagFastener Clip(int count, int destroyed) => new("clip", "", "", "", count, false, destroyed);

    private static readonly Off[] List =
    [
        new("Quarter window frame", "rear quarter, outside", true, "frame", 3, Screw("M4 x 16", 6)),
        new("Quarter window screws", "rear quarter, frame to body", true, "cup", 2, Screw("M4 x 16", 8, shows: true)),
        new("Quarter window catch", "rear edge of the glass", true, "catch", 3, Screw("M3 x 10", 4)),
        new("Door seals", "door and sill", true, "seal", 2, Clip(12, 5)),
        new("Window regulator", "front door, inside", true, "regulator", 1, Bolt("M6 x 16", 4)),
        new("Door lock", "front door, rear edge", true, "lock", 4, Screw("M5 x 20", 3)),
        new("Inner door handle", "front door, trim side", true, "handle", 2, Screw("M4 x 25", 2, shows: true)),
        new("Headlamp", "front wing", true, "lamp, rim, bowl", 3, Screw("M5 x 12", 6, shows: true)),
        new("Tail lamp", "tail, outside", true, "lens, bezel", 2, Screw("M4 x 30", 3, shows: true)),
        new("Wing bolts", "front wing to sill and scuttle", true, "washer", 9, Bolt("M6 x 20", 9)),
        new("Bumper irons", "behind the bumper", true, "iron", 2, Bolt("M10 x 30", 4)),
        new("Rear screen clips", "round the rear screen", false, "trim", 4, Clip(14, 1)),
        new("Boot lid lock", "boot lid, middle", false, "lock, strut", 5, Bolt("M6 x 16", 4)),
        new("Wiper box", "scuttle, under the panel", false, "motor, racks", 4, Bolt("M6 x 25", 3)),
        new("Heater", "bulkhead, inside", false, "heater, fan", 2, Bolt("M6 x 20", 4)),
        new("Dash and gauges", "dash", false, "gauge", 7, Screw("M4 x 12", 6)),
        new("Steering column", "column, bulkhead", false, "column, cowl", 3, Bolt("M8 x 30", 4)),
        new("Seat frames", "floor", true, "frame", 1, Bolt("M8 x 25", 4)),
    ];

    public async Task Tell(CancellationToken cancel)
    {
        foreach (var (build, rack, times) in new[] { (41, 'C', 18), (43, 'B', 14), (38, 'B', 8) })
        {
            await Bag(build, rack, times, cancel);
        }

        await Patterns(cancel);
    }

    private async Task Bag(int build, char rack, int times, CancellationToken cancel)
    {
        var turn = build == 38 ? 24 : 0;
        foreach (var off in List.Take(times))
        {
            foreach (var side in off.Sided ? new[] { PanelSide.Left, PanelSide.Right } : [PanelSide.Centre])
            {
                var place = $"{(turn > 40 ? (char)(rack + 1) : rack)}{2 + turn / 3 % 4}-{1 + turn * 5 % 12}";
                turn++;
                var id = Guid.CreateVersion7();
                await shop.As("nessa", s =>
                    s.GetRequiredService<TeardownDesk>()
                        .Put(
                            shop.Build(build),
                            id,
                            new(
                                side,
                                off.What,
                                off.From,
                                [new(off.Piece, off.Pieces)],
                                off.Fastener is { } f ? [f] : [],
                                place,
                                null,
                                null,
                                true
                            ),
                            null,
                            cancel
                        )
                );
                var (state, where) = (build, off.What) switch
                {
                    (41, "Bumper irons") => (BagState.AtSupplier, "Corran Plating"),
                    (41, "Wiper box") => (BagState.OnCar, ""),
                    (41, "Tail lamp") when side == PanelSide.Right => (BagState.NotFound, ""),
                    (41, "Heater") => (BagState.OnShelf, "yard container"),
                    (38, _) when turn % 2 == 0 => (BagState.OnCar, ""),
                    _ => (BagState.OnShelf, place),
                };
                if (state != BagState.OnShelf || where != place)
                {
                    await shop.As("nessa", s =>
                        s.GetRequiredService<TeardownDesk>().Move(id, Guid.CreateVersion7(), state, where, "", cancel)
                    );
                }
            }
        }
    }

    /// <summary>Old pieces that new ones are made from.</summary>
    private async Task Patterns(CancellationToken cancel)
    {
        foreach (
            var (build, what, from, side, start, place) in new[]
            {
                (41, "Front floor pan", "right front floor, cut out", PanelSide.Right, "R front floor", "D2-1"),
                (41, "Headlining, three pieces", "roof, inside", PanelSide.Centre, "Carpet", "D2-2"),
                (43, "Sill end, 40 cm", "left sill, aft", PanelSide.Left, "Left side: sill", "D3-4"),
            }
        )
        {
            var operation = (await shop.Operations(build, cancel)).FirstOrDefault(o =>
                !o.IsDone && o.Kind == OperationKind.Work && o.Name.StartsWith(start, StringComparison.Ordinal)
            );
            await shop.As("bram", s =>
                s.GetRequiredService<TeardownDesk>()
                    .Put(
                        shop.Build(build),
                        Guid.CreateVersion7(),
                        new(side, what, from, [new("piece", 1)], [], place, operation?.Id, null, true),
                        null,
                        cancel
                    )
            );
        }
    }
}
