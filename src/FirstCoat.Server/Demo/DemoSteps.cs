using FirstCoat.Core.Bodies;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Outside;
using FirstCoat.Store.Parts;
using FirstCoat.Store.Teardown;

namespace FirstCoat.Server.Demo;

/// <summary>Doors and a front end that were taken apart step by step.</summary>
internal sealed class DemoSteps(DemoShop shop)
{
    /// <summary>Minutes of finding out how, the first time; where nothing is named there was none.</summary>
    private static readonly Dictionary<string, int> Finding = new()
    {
        ["card"] = 3,
        ["rod"] = 5,
        ["channel"] = 7,
        ["regulator"] = 17,
        ["glass"] = 3,
        ["quarter"] = 7,
        ["latch"] = 8,
        ["winder"] = 2,
        ["rail"] = 4,
    };

    public async Task Tell(CancellationToken cancel)
    {
        await Door(43, PanelSide.Left, "Left front door", 9, 'E', null, cancel);
        await Door(43, PanelSide.Right, "Right front door", 5, 'E', null, cancel, later: .82);
        var glass = (await shop.Operations(41, cancel)).FirstOrDefault(o =>
            !o.IsDone && o.Name.StartsWith("Glass", StringComparison.Ordinal)
        );
        var door = await Door(41, PanelSide.Left, "Left door", 9, 'B', glass?.Id, cancel);
        await Away(door, cancel);
        await Begin(44, AssemblyKind.FrontEnd, PanelSide.Centre, "Front end", null, cancel);
    }

    private async Task<Guid> Begin(
        int build,
        AssemblyKind kind,
        PanelSide side,
        string name,
        Guid? backWith,
        CancellationToken cancel
    )
    {
        var id = Guid.CreateVersion7();
        await shop.As("nessa", s =>
            s.GetRequiredService<StepsDesk>().Begin(shop.Build(build), id, kind, side, name, backWith, cancel)
        );
        return id;
    }

    private async Task<Guid> Door(
        int build,
        PanelSide side,
        string name,
        int steps,
        char rack,
        Guid? backWith,
        CancellationToken cancel,
        double later = 1
    )
    {
        var id = await Begin(build, AssemblyKind.Door, side, name, backWith, cancel);
        var turn = side == PanelSide.Right ? 18 : 0;
        foreach (var step in Assemblies.Steps(AssemblyKind.Door).Take(steps))
        {
            var fasteners = step.Fastener is { } f
                ? new List<BagFastener> { f with { Destroyed = step.Key == "card" ? 6 : 0 } }
                : [];
            var bag = new BagEntered(
                side,
                $"{step.Name}, {name.ToLowerInvariant()}",
                name,
                [new(step.Piece, step.Pieces)],
                fasteners,
                $"{rack}{1 + turn / 6 % 5}-{1 + turn % 12}",
                null,
                null,
                true
            );
            turn++;
            await shop.As("nessa", s =>
                s.GetRequiredService<StepsDesk>()
                    .Close(
                        id,
                        step.Key,
                        new(
                            bag,
                            Guid.CreateVersion7(),
                            false,
                            "",
                            Note(step.Key),
                            (int)(step.Minutes * 60 * later),
                            later < 1 ? 0 : Finding.GetValueOrDefault(step.Key) * 60
                        ),
                        cancel
                    )
            );
        }

        return id;
    }

    private static string Note(string step) =>
        step switch
        {
            "card" => "front clips are longer than the rear",
            "channel" => "felt kept as a pattern",
            "regulator" => "spring clamp left on the coil",
            _ => "",
        };

    /// <summary>Two bags are at the plater, the clips that broke are to be bought, belt strips are ordered.</summary>
    private async Task Away(Guid door, CancellationToken cancel)
    {
        List<AssemblyView> all = null!;
        await shop.As("nessa", async s => all = await s.GetRequiredService<StepsDesk>().Look(shop.Build(41), cancel));
        var one = all.Single(a => a.Assembly.Id == door).Assembly;
        var batch = Guid.CreateVersion7();
        await shop.As("iben", async s =>
        {
            var outside = s.GetRequiredService<OutsideDesk>();
            var pieces = new[] { "winder", "latch" }
                .Select(step => new OutsidePiece("", 1, 0, one.State(step).BagId))
                .ToList();
            await outside.Put(
                one.BuildId,
                batch,
                new("Door handles and latch, chrome", shop.Supplier("Corran Plating"), null, pieces, 24, 140, null),
                null,
                cancel
            );
            await outside.Send(batch, shop.Day.PlusDays(-6), shop.Day.PlusDays(18), cancel);
        });
        await shop.As("iben", async s =>
        {
            var db = s.GetRequiredService<ShopDb>();
            var clips = await db.Parts.SingleAsync(p => p.BagId == one.State("card").BagId, cancel);
            await s.GetRequiredService<PartsDesk>()
                .Put(
                    clips.BuildId,
                    clips.Id,
                    new(clips.Name, clips.Quantity, 1.30m, null, shop.Supplier("Strand Trimmers"), false, one.BackWith),
                    null,
                    cancel
                );
        });
    }
}
