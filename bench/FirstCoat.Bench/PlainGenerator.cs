using FirstCoat.Core.Plan.Plain;

namespace FirstCoat.Bench;

/// <summary>Invents plain problems: shops of many builds, and single projects with shared resources.</summary>
internal static class PlainGenerator
{
    private static readonly string[] Trades = ["metal", "paint", "mechanic", "trim", "strip", "wire"];

    /// <summary>A shop with about so many operations, tight dates, holds, windows and crews of several
    /// trades.</summary>
    public static PlainProblem Shop(int operations, int seed)
    {
        var random = new Random(seed * 7919 + operations);
        var builds = Math.Max(
            3,
            (int)Math.Round(operations / (18 + random.Next(44) * Math.Min(1.0, operations / 500.0)))
        );
        builds =
            operations <= 40 ? 4
            : operations <= 150 ? 6 + random.Next(4)
            : builds;
        var people = Math.Clamp(3 + operations / 170 + random.Next(3), 3, 12);
        var persons = Enumerable
            .Range(0, people)
            .Select(i =>
            {
                var own = new HashSet<string> { Trades[i % Trades.Length] };
                while (random.NextDouble() < 0.45 && own.Count < 3)
                {
                    own.Add(Trades[random.Next(Trades.Length)]);
                }

                return new PlainPerson($"p{i}", [.. own]);
            })
            .ToList();
        var had = persons.SelectMany(p => p.Trades).Distinct().ToList();
        var stations = new List<PlainStation>
        {
            new("booth", "booth", 1),
            new("jig", "jig", 1 + operations / 600),
            new("lift", "lift", 1 + operations / 400),
            new("bay", "bay", 3 + operations / 150),
        };
        var per = operations / builds;
        var list = new List<PlainBuild>();
        var made = 0;
        for (var b = 0; b < builds; b++)
        {
            var count =
                b == builds - 1 ? operations - made : Math.Max(4, (int)(per * (0.7 + 0.6 * random.NextDouble())));
            count = Math.Max(4, Math.Min(count, operations - made - 4 * (builds - b - 1)));
            made += count;
            list.Add(Build($"b{b}", count, had, persons, random));
        }

        // Dates: what the shop could do, spread over the builds and cut short.
        var load = had.Select(t =>
                list.SelectMany(x => x.Operations)
                    .Sum(o => o.Crew.Where(c => c.Trade == t).Sum(c => c.Count * o.Duration))
                / (double)persons.Count(p => p.Trades.Contains(t))
            )
            .Max();
        var total =
            Math.Max(
                load,
                list.SelectMany(x => x.Operations).Sum(o => o.Crew.Sum(c => c.Count) * o.Duration) / (double)people
            ) * 1.15;
        var tight = 0.55 + 0.35 * random.NextDouble();
        for (var b = 0; b < list.Count; b++)
        {
            var due = total * tight * (0.25 + 0.75 * random.NextDouble());
            var release = random.NextDouble() < 0.3 ? (int)(total * 0.2 * random.NextDouble()) : 0;
            list[b] = list[b] with { Due = (int)Math.Max(due, 20), NotBefore = release, Weight = 1 + random.Next(5) };
        }

        return new($"shop-{operations}-{seed}", persons, stations, list);
    }

    private static PlainBuild Build(string id, int count, List<string> trades, List<PlainPerson> persons, Random random)
    {
        var operations = new List<PlainOperation>();
        var one = new List<IReadOnlyList<string>>();
        while (operations.Count < count)
        {
            var i = operations.Count;
            var name = $"{id}.o{i}";
            if (i > 2 && count - i >= 3 && random.NextDouble() < 0.07)
            {
                // Mask, spray, bake: the booth is held, and the coat goes on soon after the masking.
                operations.Add(
                    new(
                        name,
                        2 + random.Next(6),
                        Crew(trades, persons, random, "paint"),
                        null,
                        Before(operations, random),
                        new("booth", $"{id}.o{i + 2}"),
                        false,
                        0
                    )
                );
                operations.Add(
                    new(
                        $"{id}.o{i + 1}",
                        3 + random.Next(8),
                        Crew(trades, persons, random, "paint"),
                        null,
                        [new(name, 0, 4 + random.Next(8))],
                        null,
                        false,
                        0
                    )
                );
                operations.Add(
                    new(
                        $"{id}.o{i + 2}",
                        6 + random.Next(14),
                        [],
                        null,
                        [new($"{id}.o{i + 1}", random.Next(4), null)],
                        null,
                        false,
                        0
                    )
                );
            }
            else if (i > 1 && count - i >= 5 && random.NextDouble() < 0.04)
            {
                // On the jig, work there, off the jig.
                operations.Add(
                    new(
                        name,
                        4 + random.Next(8),
                        Crew(trades, persons, random, "metal"),
                        null,
                        Before(operations, random),
                        new("jig", $"{id}.o{i + 4}"),
                        false,
                        0
                    )
                );
                for (var k = 1; k < 5; k++)
                {
                    operations.Add(
                        new(
                            $"{id}.o{i + k}",
                            4 + random.Next(20),
                            Crew(trades, persons, random, "metal"),
                            null,
                            [new($"{id}.o{i + k - 1}", 0, null)],
                            null,
                            false,
                            0
                        )
                    );
                }
            }
            else if (random.NextDouble() < 0.08)
            {
                operations.Add(
                    new(name, 20 + random.Next(120), [], null, Before(operations, random), null, true, random.Next(20))
                );
            }
            else
            {
                var station = random.NextDouble() switch
                {
                    < 0.12 => "lift",
                    < 0.5 => "bay",
                    _ => null,
                };
                var after = Before(operations, random);
                if (after.Count == 1 && random.NextDouble() < 0.06)
                {
                    after[0] = after[0] with { MaxLag = after[0].MinLag + 8 + random.Next(24) };
                }

                operations.Add(
                    new(name, 2 + random.Next(30), Crew(trades, persons, random, null), station, after, null, false, 0)
                );
                if (i > 2 && random.NextDouble() < 0.04)
                {
                    one.Add([name, operations[random.Next(i)].Id]);
                }
            }
        }

        return new(id, 0, 1, 0, one, operations);
    }

    private static List<PlainAfter> Before(List<PlainOperation> there, Random random)
    {
        var after = new List<PlainAfter>();
        var links =
            there.Count == 0 ? 0
            : random.NextDouble() < 0.1 ? 0
            : 1 + (random.NextDouble() < 0.3 ? 1 : 0);
        for (var k = 0; k < links; k++)
        {
            var back = 1 + (int)(Math.Pow(random.NextDouble(), 1.5) * Math.Min(there.Count, 7));
            var other = there[Math.Max(0, there.Count - back)].Id;
            if (after.All(a => a.Op != other))
            {
                after.Add(new(other, random.NextDouble() < 0.12 ? 4 + random.Next(40) : 0, null));
            }
        }

        return after;
    }

    private static List<PlainCrew> Crew(List<string> trades, List<PlainPerson> persons, Random random, string? wanted)
    {
        var first = wanted is not null && trades.Contains(wanted) ? wanted : trades[random.Next(trades.Count)];
        var crew = new List<PlainCrew>
        {
            new(first, persons.Count(p => p.Trades.Contains(first)) > 1 && random.NextDouble() < 0.08 ? 2 : 1),
        };
        var second = trades[random.Next(trades.Count)];
        if (
            random.NextDouble() < 0.08
            && second != first
            && persons.Where(p => p.Trades.Contains(first) || p.Trades.Contains(second)).Count() > crew[0].Count
            && persons.Any(p => p.Trades.Contains(second) && !p.Trades.Contains(first))
        )
        {
            crew.Add(new(second, 1));
        }

        return crew;
    }

    /// <summary>One project of so many activities that share four resources, as short as can be.</summary>
    public static PlainProblem Classic(int activities, int seed)
    {
        var random = new Random(seed * 104729 + activities);
        var resources = Enumerable.Range(0, 4).Select(r => (Name: $"r{r}", Count: 10 + random.Next(14))).ToList();
        var persons = resources
            .SelectMany(r => Enumerable.Range(0, r.Count).Select(i => new PlainPerson($"{r.Name}.{i}", [r.Name])))
            .ToList();
        var factor = 0.25 + 0.75 * random.NextDouble();
        var operations = new List<PlainOperation>();
        for (var i = 0; i < activities; i++)
        {
            var crew = resources
                .Where(_ => random.NextDouble() < factor)
                .Select(r => new PlainCrew(r.Name, 1 + random.Next(10)))
                .ToList();
            var after = new HashSet<string>();
            for (var k = 0; k < 1 + random.Next(2) && i > 2; k++)
            {
                after.Add(operations[Math.Max(0, i - 1 - random.Next(Math.Min(i, 9)))].Id);
            }

            operations.Add(
                new(
                    $"a{i}",
                    1 + random.Next(10),
                    crew,
                    null,
                    after.Select(a => new PlainAfter(a, 0, null)).ToList(),
                    null,
                    false,
                    0
                )
            );
        }

        return new($"classic-{activities}-{seed}", persons, [], [new("project", 0, 1, 0, [], operations)]);
    }
}
