using CsCheck;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Core.Tests.Plan;

/// <summary>Shops with everything in them, drawn from a seed.</summary>
internal static class AnyShop
{
    public static readonly WorkCalendar Calendar = new(
        WorkWeek.Of(
            Enumerable.Range(1, 5).Select(d => ((IsoDayOfWeek)d, 480, 990, (IReadOnlyList<(int, int)>)[(720, 750)]))
        ),
        [new LocalDate(2026, 3, 11)]
    );

    public static readonly long Now = Calendar.Minute(new(2026, 3, 5, 9, 30));

    private static readonly string[] Trades = ["metal", "paint", "trim"];

    public static readonly Gen<PlanProblem> Problems = Gen.Int[0, 1_000_000].Select(Of);

    public static PlanProblem Of(int seed)
    {
        var random = new Random(seed);
        var people = Enumerable
            .Range(0, 3 + random.Next(3))
            .Select(i => new PlanPerson(
                $"p{i}",
                $"p{i}",
                Trades.Where((_, t) => t == i % 3 || random.Next(3) == 0).ToHashSet(),
                random.Next(3) == 0 ? new([new(Now + random.Next(5000), Now + 5000 + random.Next(9000))]) : Blocked.None
            )
            {
                Pace = random.Next(3) == 0 ? 1.25 : 1,
                Slots = random.Next(4) == 0 ? [new(IsoDayOfWeek.Friday, 480, 720, "b0")] : [],
            })
            .ToList();
        var builds = Enumerable
            .Range(0, 1 + random.Next(4))
            .Select(b => Build($"b{b}", random) with { FillIn = b > 0 && random.Next(4) == 0 })
            .ToList();
        return new(
            Now,
            Calendar,
            people,
            [
                new("booth", 1),
                new("bay", 2) { Closed = random.Next(3) == 0 ? [new(Now + 3000, Now + 9000, 1, "inspection")] : [] },
            ],
            builds
        )
        {
            Stock = [new("clamps", 10)],
            Suppliers = [new("s", "Plater", Calendar)],
            Air = [new("wet", "dust", "no dust beside a wet coat")],
            Crowds = random.Next(2) == 0 ? [new("dust", "bay", 1)] : [],
        };
    }

    private static PlanBuild Build(string id, Random random)
    {
        var list = new List<PlanOperation>();
        var count = 2 + random.Next(8);
        for (var i = 0; i < count; i++)
        {
            var trade = random.Next(6) == 0 ? null : Trades[random.Next(3)];
            list.Add(
                new()
                {
                    Id = $"{id}.{i}",
                    Name = $"{id}.{i}",
                    Minutes = trade is null ? random.Next(2) * 600 : random.Next(900),
                    Trade = trade,
                    With = trade is not null && random.Next(6) == 0 ? [new(Trades[random.Next(3)], 1)] : [],
                    Station = random.Next(3) == 0 ? "bay" : null,
                    Uses = random.Next(4) == 0 ? [new("clamps", 4 + random.Next(5))] : [],
                    Kinds = random.Next(4) switch
                    {
                        0 => new HashSet<string> { "dust" },
                        1 => new HashSet<string> { "wet" },
                        _ => new HashSet<string>(),
                    },
                    After =
                        i > 0 && random.Next(4) > 0
                            ?
                            [
                                new($"{id}.{random.Next(i)}", random.Next(3) == 0 ? random.Next(2000) : 0)
                                {
                                    FromStart = random.Next(6) == 0,
                                    Working = random.Next(6) == 0,
                                },
                            ]
                            : [],
                    Waits = random.Next(8) == 0 ? [new(WaitKind.Part, Now + random.Next(9000), "part")] : [],
                }
            );
        }

        if (random.Next(2) == 0)
        {
            list.Add(
                new()
                {
                    Id = $"{id}.mask",
                    Name = "mask",
                    Minutes = 60,
                    Trade = "paint",
                    Hold = new("booth", $"{id}.bake"),
                    After = [new($"{id}.0", 0)],
                }
            );
            list.Add(
                new()
                {
                    Id = $"{id}.spray",
                    Name = "spray",
                    Minutes = 120,
                    Trade = "paint",
                    WithoutStop = true,
                    Kinds = new HashSet<string> { "wet" },
                    After = [new($"{id}.mask", 0) { AtMost = 240, Lapse = new("scuff", 30, "paint") }],
                }
            );
            list.Add(
                new()
                {
                    Id = $"{id}.bake",
                    Name = "bake",
                    Minutes = 180,
                    After = [new($"{id}.spray", 20)],
                }
            );
        }

        if (random.Next(2) == 0)
        {
            // What it must follow in time was done in the last days.
            list.Add(
                new()
                {
                    Id = $"{id}.etch",
                    Name = "etch",
                    Minutes = 30 + random.Next(300),
                    Trade = "paint",
                    After =
                    [
                        new("blast", 0)
                        {
                            DoneAt = Now - random.Next(3000),
                            AtMost = random.Next(6000),
                            Lapse = new("clean", 60, "metal"),
                        },
                    ],
                    Waits = random.Next(4) == 0 ? [new(WaitKind.Part, Now + random.Next(9000), "primer")] : [],
                }
            );
        }

        return new(id, id, list)
        {
            Due = random.Next(3) == 0 ? null : Now + random.Next(20_000),
            Weight = 1 + random.Next(3),
        };
    }
}
