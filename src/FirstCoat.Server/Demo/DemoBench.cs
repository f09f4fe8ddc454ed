using System.Text.Json;
using FirstCoat.Store.Bench;

namespace FirstCoat.Server.Demo;

/// <summary>Rear wheels tried for the coupe, and rests of sheet in the rack.</summary>
internal sealed class DemoBench(DemoShop shop)
{
    private const int Coupe = 41;

    public async Task Tell(CancellationToken cancel)
    {
        await shop.As("davit", async s =>
        {
            var desk = s.GetRequiredService<BenchDesk>();
            var build = shop.Build(Coupe);
            foreach (
                var (name, tyre, rim, offset) in new[]
                {
                    ("rear wheels, as found", "205/65R15", "7", "8"),
                    ("rear wheels, a size up", "225/45R17", "8", "18"),
                    ("rear wheels, as the client likes them", "245/40R18", "8.5", "20"),
                }
            )
            {
                var figures = JsonSerializer.SerializeToElement(
                    new Dictionary<string, string>
                    {
                        ["unit"] = "mm",
                        ["wasTyre"] = "205/65R15",
                        ["wasRim"] = "7",
                        ["wasOffset"] = "8",
                        ["lip"] = "12",
                        ["spring"] = "50.5",
                        ["above"] = "78.3",
                        ["bump"] = "58",
                        ["wantLip"] = "8",
                        ["wantSpring"] = "10",
                        ["tyre"] = tyre,
                        ["rim"] = rim,
                        ["offset"] = offset,
                    }
                );
                await desk.Keep(build, Guid.CreateVersion7(), "wheel", name, figures, cancel);
            }

            foreach (
                var (width, height, place) in new[]
                {
                    (640.0, 410.0, "rack S2"),
                    (1210, 300, "rack S2"),
                    (380, 220, "bin 4"),
                }
            )
            {
                await desk.KeepOffcut(
                    Guid.CreateVersion7(),
                    new(width, height, 1.2, "mild steel", place, build),
                    cancel
                );
            }
        });
    }
}
