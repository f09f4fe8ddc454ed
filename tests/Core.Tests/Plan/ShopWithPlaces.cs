using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Shops with named places, vehicles in them, shells on jigs and dollies, kept times and trades that nobody
/// has, drawn from a seed.</summary>
internal static class ShopWithPlaces
{
    private static readonly string[] Trades = ["metal", "paint", "mechanic"];
    private static readonly string[] Kinds = ["bay", "prep", "booth", "lift"];

    public static readonly Gen<PlanProblem> Problems = Gen.Int[0, 1_000_000].Select(Of);

    public static PlanProblem Of(int seed)
    {
        var random = new Random(seed);
        var now = AnyShop.Now;
        var people = Enumerable
            .Range(0, 2 + random.Next(4))
            .Select(i => new PlanPerson(
                $"p{i}",
                $"P{i}",
                Trades.Where((_, t) => t == i % 3 || random.Next(3) == 0).ToHashSet(),
                random.Next(4) == 0
                    ? new([new(now + random.Next(5000), now + 5000 + random.Next(40_000))])
                    : Blocked.None
            )
            {
                Pace = random.Next(4) == 0 ? 1.2 : 1,
                Slots =
                    random.Next(4) == 0
                        ? [new(IsoDayOfWeek.Tuesday, 480, 600, "b0"), new(IsoDayOfWeek.Thursday, 810, 990, "b0")]
                        : [],
            })
            .ToList();
        var stations = new List<PlanStation>
        {
            new("bay", 1) { Id = "bay1", Name = "Bay 1" },
            new("bay", 1)
            {
                Id = "bay2",
                Name = "Bay 2",
                Door = new(2300, 40),
            },
            new("prep", 1)
            {
                Id = "prep",
                Name = "Prep",
                Closed = random.Next(3) == 0 ? [new(now + 4000, now + 9000, 1, "floor painted")] : [],
            },
            new("booth", 1)
            {
                Id = "booth",
                Name = "Booth",
                Door = new(2100, 40),
            },
            new("lift", 1 + random.Next(2)),
            new("bench", 2),
            new("Yard", random.Next(4)) { Id = "yard", Name = "Yard" },
        };
        stations.RemoveAll(s => s.Count == 0);
        var free = new List<string> { "bay1", "bay2", "prep", "booth", "yard" }
            .Where(p => stations.Any(s => s.Id == p))
            .OrderBy(_ => random.Next())
            .ToList();
        var builds = Enumerable
            .Range(0, 1 + random.Next(6))
            .Select(b =>
                Build($"b{b}", random, now) with
                {
                    FillIn = b > 0 && random.Next(5) == 0,
                    StandsAt = b < free.Count && random.Next(5) > 0 ? free[b] : null,
                }
            )
            .ToList();
        return new(now, AnyShop.Calendar, people, stations, builds)
        {
            Stock = [new("clamps", 10)],
            Suppliers = [new("s", "Plater", AnyShop.Calendar)],
        };
    }

    private static PlanBuild Build(string id, Random random, long now)
    {
        var list = new List<PlanOperation>();
        var count = random.Next(12);
        for (var i = 0; i < count; i++)
        {
            var trade =
                random.Next(8) == 0 ? null
                : random.Next(40) == 0 ? "wood"
                : Trades[random.Next(3)];
            var onIt = random.Next(3) > 0;
            list.Add(
                new()
                {
                    Id = $"{id}.{i}",
                    Name = $"{id}.{i}",
                    Minutes = trade is null ? random.Next(3) * 700 : 30 + random.Next(1500),
                    Trade = trade,
                    With = trade is not null && random.Next(8) == 0 ? [new(Trades[random.Next(3)], 1)] : [],
                    Station =
                        random.Next(5) == 0 ? null
                        : onIt ? Kinds[random.Next(4)]
                        : random.Next(4) == 0 ? "booth"
                        : "bench",
                    Body = onIt
                        ? random.Next(15) == 0
                            ? BodyUse.TakesAway
                            : BodyUse.OnBody
                        : BodyUse.Beside,
                    WithoutStop = random.Next(8) == 0,
                    Begun = i == 0 && random.Next(3) == 0,
                    Uses = random.Next(5) == 0 ? [new("clamps", 4 + random.Next(5))] : [],
                    After =
                        i > 0 && random.Next(5) > 0
                            ? [new($"{id}.{random.Next(i)}", random.Next(4) == 0 ? random.Next(2000) : 0)]
                            : [],
                    Waits = random.Next(8) == 0 ? [new(WaitKind.Part, now + random.Next(40_000), "part")] : [],
                    Sets =
                        random.Next(12) == 0 ? new("cart", true, 400)
                        : random.Next(12) == 0 ? new("wheels", true)
                        : null,
                    LowersMm = random.Next(15) == 0 ? 100 : 0,
                }
            );
        }

        list =
        [
            .. list.Select(o =>
                o.Body == BodyUse.TakesAway ? o with { Station = null, Sets = null, LowersMm = 0 }
                : o.Sets is not null || o.LowersMm > 0 ? o with { Body = BodyUse.OnBody }
                : o
            ),
        ];
        if (random.Next(3) == 0)
        {
            list.Add(
                new()
                {
                    Id = $"{id}.mask",
                    Name = "mask",
                    Minutes = 60,
                    Trade = "paint",
                    Station = "booth",
                    Body = BodyUse.OnBody,
                    Hold = new("booth", $"{id}.bake"),
                    After = count > 0 ? [new($"{id}.0", 0)] : [],
                }
            );
            list.Add(
                new()
                {
                    Id = $"{id}.spray",
                    Name = "spray",
                    Minutes = 120,
                    Trade = "paint",
                    Station = "booth",
                    Body = BodyUse.OnBody,
                    WithoutStop = true,
                    After = [new($"{id}.mask", 0) { AtMost = 2880, Lapse = new("scuff", 30, "paint") }],
                }
            );
            list.Add(
                new()
                {
                    Id = $"{id}.bake",
                    Name = "bake",
                    Minutes = 180,
                    Station = "booth",
                    Body = BodyUse.OnBody,
                    After = [new($"{id}.spray", 20)],
                }
            );
        }

        var support = random.Next(3) switch
        {
            0 => null,
            1 => new PlanSupport("jig", false),
            _ => new PlanSupport("wheels", true),
        };
        return new(id, id, list)
        {
            Due = random.Next(3) == 0 ? null : now + random.Next(40_000),
            Weight = 1 + random.Next(3),
            Support = support,
            HeightMm = support is null ? null : 1300 + random.Next(800),
        };
    }
}
