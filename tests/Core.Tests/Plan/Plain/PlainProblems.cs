using CsCheck;
using FirstCoat.Core.Plan.Plain;

namespace FirstCoat.Core.Tests.Plan.Plain;

/// <summary>Small plain problems, wild in every way the form allows.</summary>
internal static class PlainProblems
{
    private static readonly string[] Trades = ["metal", "paint", "trim"];

    public static PlainProblem Read(string json) =>
        PlainReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(json)));

    /// <summary>Problems of some builds whose windows and holds can always be kept: a window follows an operation that
    /// only it waits for.</summary>
    public static readonly Gen<PlainProblem> Any = Gen.Int[0, 100_000]
        .Select(seed =>
        {
            var random = new Random(seed);
            var people = Enumerable
                .Range(0, 2 + random.Next(4))
                .Select(i => new PlainPerson(
                    $"p{i}",
                    Trades.Where((_, t) => t == i % 3 || random.Next(3) == 0).ToList()
                ))
                .ToList();
            var had = people.SelectMany(p => p.Trades).Distinct().ToList();
            var stations = new[]
            {
                new PlainStation("booth", "booth", 1),
                new PlainStation("bay", "bay", 1 + random.Next(2)),
                new PlainStation("back bay", "bay", 1),
                new PlainStation("jig", null, 1),
            };
            var builds = Enumerable
                .Range(0, 1 + random.Next(4))
                .Select(b =>
                {
                    var operations = new List<PlainOperation>();
                    var count = 2 + random.Next(9);
                    for (var i = 0; i < count; i++)
                    {
                        var after = new List<PlainAfter>();
                        if (i > 0 && random.Next(4) > 0)
                        {
                            after.Add(new($"b{b}.{random.Next(i)}", random.Next(3) == 0 ? random.Next(6) : 0, null));
                        }

                        var crew = had.Where(_ => random.Next(3) == 0).Select(t => new PlainCrew(t, 1)).ToList();
                        crew = crew.Count > people.Count ? [] : crew;
                        operations.Add(
                            new(
                                $"b{b}.{i}",
                                random.Next(8) == 0 ? 0 : 1 + random.Next(9),
                                Possible(crew, people),
                                random.Next(3) == 0 ? "bay" : null,
                                after,
                                null,
                                false,
                                random.Next(6) == 0 ? random.Next(20) : 0
                            )
                        );
                    }

                    if (random.Next(2) == 0)
                    {
                        // Mask, spray, bake with the booth held and the spray soon after.
                        operations.Add(
                            new(
                                $"b{b}.mask",
                                2,
                                [],
                                null,
                                [new($"b{b}.{random.Next(count)}", 0, null)],
                                new("booth", $"b{b}.bake"),
                                false,
                                0
                            )
                        );
                        operations.Add(
                            new(
                                $"b{b}.spray",
                                3,
                                [new(had[0], 1)],
                                null,
                                [new($"b{b}.mask", 0, 1 + random.Next(4))],
                                null,
                                false,
                                0
                            )
                        );
                        operations.Add(new($"b{b}.bake", 5, [], null, [new($"b{b}.spray", 1, null)], null, false, 0));
                    }

                    IReadOnlyList<IReadOnlyList<string>> one =
                        count > 3
                            ?
                            [
                                [$"b{b}.1", $"b{b}.2"],
                            ]
                            : [];
                    return new PlainBuild($"b{b}", random.Next(60), random.Next(5), random.Next(10), one, operations);
                })
                .ToList();
            return new PlainProblem($"wild {seed}", people, stations, builds);
        });

    private static List<PlainCrew> Possible(List<PlainCrew> crew, List<PlainPerson> people)
    {
        while (crew.Count > 0 && !Fits(crew.Select(c => c.Trade).ToList(), people.Select(p => p.Trades).ToList()))
        {
            crew.RemoveAt(0);
        }

        return crew;
    }

    private static bool Fits(List<string> wanted, List<IReadOnlyList<string>> people) =>
        wanted.Count == 0
        || people.Any(p =>
            p.Contains(wanted[0]) && Fits(wanted[1..], people.Where(x => !ReferenceEquals(x, p)).ToList())
        );
}
