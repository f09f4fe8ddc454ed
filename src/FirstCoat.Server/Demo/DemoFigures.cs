using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using FirstCoat.Store.Fitup;

namespace FirstCoat.Server.Demo;

/// <summary>The coupe's figures against its papers, its middles and sides, a mount, and the order of the head's
/// bolts.</summary>
internal sealed class DemoFigures(DemoShop shop)
{
    private const int Coupe = 41;
    private const string Manual = "Whimbrel workshop manual";

    public async Task Tell(CancellationToken cancel)
    {
        var build = shop.Build(Coupe);
        await shop.As("wil", async s =>
        {
            var desk = s.GetRequiredService<FiguresDesk>();
            foreach (
                var (name, panel, specified, tolerance, unit, page, read) in new (
                    string,
                    string,
                    decimal,
                    decimal,
                    string,
                    string,
                    decimal?
                )[]
                {
                    ("Ride height, hub to arch, front L", "wingL", 378, 5, "mm", "F-12", 381),
                    ("Ride height, hub to arch, front R", "wingR", 378, 5, "mm", "F-12", 371.5m),
                    ("Door hinge bolts", "doorR", 34, 3, "Nm", "B-31", null),
                }
            )
            {
                var id = Guid.CreateVersion7();
                await desk.PutSpec(
                    build,
                    id,
                    new(name, panel, specified, tolerance, unit, Manual, page, null),
                    null,
                    cancel
                );
                if (read is { } value)
                {
                    await desk.ReadSpec(id, Guid.CreateVersion7(), value, "steel rule 2", cancel);
                }
            }

            await desk.ReadCentre(
                build,
                Guid.CreateVersion7(),
                new("Badge on the bonnet’s front edge", "bonnet", 612, 618, 2, LengthUnit.Mm),
                cancel
            );
            foreach (
                var (name, panel, sound, other) in new (string, string, decimal, decimal?)[]
                {
                    ("Sill edge to arch, at the B post", "doorL", 412, 414.5m),
                    ("Wing crest over the sill", "wingL", 655, null),
                }
            )
            {
                var id = Guid.CreateVersion7();
                await desk.AddMirror(build, id, new(name, panel, PanelSide.Right, 0, 1.5m, LengthUnit.Mm), cancel);
                await desk.ReadMirror(id, Guid.CreateVersion7(), PanelSide.Right, sound, cancel);
                if (other is { } value)
                {
                    await desk.ReadMirror(id, Guid.CreateVersion7(), PanelSide.Left, value, cancel);
                }
            }

            await desk.AddMount(build, Guid.CreateVersion7(), "4 R, behind the door", ["doorR"], cancel);
            var head = Guid.CreateVersion7();
            await desk.AddBolts(
                build,
                head,
                "Cylinder head, first round",
                $"{Manual}, C-8",
                [.. new[] { 7, 4, 1, 10, 6, 5, 2, 9, 3, 8 }.Select(n => ($"bolt {n}", "35 Nm"))],
                cancel
            );
            foreach (var number in Enumerable.Range(1, 4))
            {
                await desk.Tighten(head, number, true, cancel);
            }
        });
    }
}
