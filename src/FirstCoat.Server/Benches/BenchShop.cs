using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;

namespace FirstCoat.Server.Benches;

/// <summary>Invents shops for measuring: many builds with every kind of link, hold and wait.</summary>
internal static class BenchShop
{
    private static readonly string[] Trades = ["metal", "paint", "mechanic", "trim", "hands"];

    public static readonly WorkCalendar Calendar = new(
        WorkWeek.Of(
            Enumerable.Range(1, 5).Select(d => ((IsoDayOfWeek)d, 480, 990, (IReadOnlyList<(int, int)>)[(720, 750)]))
        ),
        [new(2026, 12, 25)],
        DateTimeZoneProviders.Tzdb["Europe/Paris"]
    );

    /// <summary>So many open operations in so many builds, for so many people, who have places in proportion.</summary>
    public static PlanProblem Of(int operations, int builds, int people, int seed)
    {
        var random = new Random(seed);
        var now = Calendar.Minute(new(2026, 10, 13, 9, 42));
        var staff = Enumerable
            .Range(0, people)
            .Select(i => new PlanPerson(
                $"p{i}",
                $"p{i}",
                Trades.Where((_, t) => t == i % Trades.Length || random.Next(4) == 0).ToHashSet(),
                random.Next(3) == 0 ? new([new(now + 1440 * 20, now + 1440 * 34)]) : Blocked.None
            )
            {
                Pace = 1 + (i % 3 - 1) * 0.1,
            })
            .ToList();
        return new(
            now,
            Calendar,
            staff,
            [
                new("Booth", Places(people, 9)),
                new("Jig", Places(people, 9)),
                new("Lift", Places(people, 5)),
                new("Bay", Places(people, 1.3)),
            ],
            Enumerable
                .Range(0, builds)
                .Select(b => Build($"b{b}", operations * (b + 1) / builds - operations * b / builds, now, random))
                .ToList()
        );
    }

    /// <summary>One for so many people, so that a larger shop is not a fuller one.</summary>
    private static int Places(int people, double perPeople) => (int)Math.Ceiling(people / perPeople);

    private static PlanBuild Build(string id, int count, long now, Random random)
    {
        var list = new List<PlanOperation>();
        while (list.Count < count)
        {
            var i = list.Count;
            if (i > 3 && count - i >= 3 && random.Next(14) == 0)
            {
                list.Add(Op(id, i, 60, "paint", random) with { Hold = new("Booth", $"{id}.{i + 2}") });
                list.Add(
                    new()
                    {
                        Id = $"{id}.{i + 1}",
                        Name = "spray",
                        Minutes = 150,
                        Trade = "paint",
                        WithoutStop = true,
                        After = [new($"{id}.{i}", 0) { AtMost = 480, Lapse = new("scuff", 60, "paint") }],
                    }
                );
                list.Add(
                    new()
                    {
                        Id = $"{id}.{i + 2}",
                        Name = "bake",
                        Minutes = 300,
                        After = [new($"{id}.{i + 1}", 30)],
                    }
                );
            }
            else if (random.Next(12) == 0)
            {
                list.Add(Op(id, i, 1440 * (3 + random.Next(20)), null, random));
            }
            else
            {
                list.Add(
                    Op(id, i, 30 + 15 * random.Next(40), Trades[random.Next(Trades.Length)], random) with
                    {
                        Station = random.Next(3) switch
                        {
                            0 => "Bay",
                            1 when random.Next(3) == 0 => "Lift",
                            _ => null,
                        },
                    }
                );
            }
        }

        return new(id, id, list) { Due = now + 1440L * (60 + random.Next(400)), Weight = 1 + random.Next(4) };
    }

    private static PlanOperation Op(string build, int i, long minutes, string? trade, Random random)
    {
        var after = new List<PlanLink>();
        for (var k = 0; k < 1 + random.Next(2) && i > 0; k++)
        {
            var other = $"{build}.{i - 1 - random.Next(Math.Min(i, 5))}";
            if (after.All(a => a.Operation != other))
            {
                after.Add(new(other, random.Next(8) == 0 ? 720 : 0));
            }
        }

        return new()
        {
            Id = $"{build}.{i}",
            Name = $"{i}",
            Minutes = minutes,
            Trade = trade,
            After = after,
        };
    }
}
