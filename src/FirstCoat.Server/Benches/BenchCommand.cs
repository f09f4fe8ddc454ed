using System.Diagnostics;
using System.Text.Json;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Survey;
using FirstCoat.Core.Teardown;
using FirstCoat.Server.Rooms;

namespace FirstCoat.Server.Benches;

/// <summary>Measures what has a budget and prints a line for each: "bench NAME VALUE UNIT BUDGET ok", or
/// "over".</summary>
public static class BenchCommand
{
    private const int Bags = 5000,
        Findings = 400;

    /// <summary>What is measured, in milliseconds; each value is the worst of the middle nine tenths of its
    /// rounds.</summary>
    private static readonly (string Name, double Budget, Func<Action> Make)[] All =
    [
        ("find.bags-5000", 100, FindBags),
        ("survey.map-400", 100, SurveyMap),
        ("body.unfold", 50, UnfoldBody),
        ("fitup.datum-12", 50, MeasureBenches.Datum),
        ("fitup.lines", 5, MeasureBenches.Lines),
        ("bench.nest-200", 1000, MeasureBenches.Nest),
        ("plan.replan-1500", 20, () => PlanBenches.Replan(1500, 25, 9)),
        ("plan.futures-1000", 3000, PlanBenches.Futures),
    ];

    /// <summary>Ten times the operations cost at most so many times the time.</summary>
    private const double MostGrowth = 14;

    /// <summary>Runs those whose name begins with <paramref name="only"/>.</summary>
    /// <returns>0 when all are within their budgets, else 1.</returns>
    public static int Run(string only)
    {
        var over = false;
        foreach (var (name, budget, make) in All.Where(b => b.Name.StartsWith(only, StringComparison.Ordinal)))
        {
            Console.Error.WriteLine($"measuring {name}...");
            var value = Measure(make());
            over |= value > budget;
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"bench {name} {value:0.0} ms {budget:0} {(value > budget ? "over" : "ok")}"
                )
            );
        }

        if ("plan.growth".StartsWith(only, StringComparison.Ordinal))
        {
            over |= Growth("plan.growth", samePeople: false) | Growth("plan.growth-same-people", samePeople: true);
        }

        if ("plan.calibration".StartsWith(only, StringComparison.Ordinal))
        {
            over |= Calibrate();
        }

        if (
            "find.anything".StartsWith(only, StringComparison.Ordinal)
            && Environment.GetEnvironmentVariable("Shop__Connection") is not null
        )
        {
            over |= FindBench.Run().GetAwaiter().GetResult();
        }

        if (
            (only.StartsWith("shop", StringComparison.Ordinal) || "shop".StartsWith(only, StringComparison.Ordinal))
            && Environment.GetEnvironmentVariable("Shop__Connection") is not null
        )
        {
            over |= ShopBench.Run(only).GetAwaiter().GetResult();
        }

        // Needs a database of its own, which the script starts for it.
        if (
            "hostile".StartsWith(only, StringComparison.Ordinal)
            && Environment.GetEnvironmentVariable("Shop__Connection") is not null
        )
        {
            over |= HostileBench.Run().GetAwaiter().GetResult();
        }

        return over ? 1 : 0;
    }

    private const int ShopYears = 300;

    /// <summary>An 8-in-10 date holds 77 to 83 times in a hundred once a trade has a dozen records, and not less often
    /// before.</summary>
    private static bool Calibrate()
    {
        Console.Error.WriteLine("measuring plan.calibration...");
        var (early, late) = Calibration.Run(ShopYears);
        Console.WriteLine($"bench plan.calibration early: {early}");
        Console.WriteLine($"bench plan.calibration late: {late}");
        var over = late.Share80 is < 77 or > 83 || early.Share80 < 77;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"bench plan.calibration-p80 {late.Share80:0.0} of 100 77-83 {(over ? "over" : "ok")}"
            )
        );
        return over;
    }

    private static bool Growth(string name, bool samePeople)
    {
        Console.Error.WriteLine($"measuring {name}...");
        var (curve, growth) = PlanBenches.Grow(samePeople);
        foreach (var (operations, milliseconds) in curve)
        {
            Console.WriteLine(
                string.Create(CultureInfo.InvariantCulture, $"bench {name}-{operations} {milliseconds:0.0} ms - curve")
            );
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"bench {name} {growth:0.0} times {MostGrowth:0} {(growth > MostGrowth ? "over" : "ok")}"
            )
        );
        return growth > MostGrowth;
    }

    private static double Measure(Action act)
    {
        // What takes seconds is measured fewer times; what is quick is first run until it is compiled for good.
        if (Once(act) > 500)
        {
            return Enumerable.Range(0, 5).Select(_ => Once(act)).Order().ElementAt(3);
        }

        for (var i = 0; i < 40; i++)
        {
            act();
        }

        return Enumerable.Range(0, 40).Select(_ => Once(act)).Order().ElementAt(37);
    }

    private static double Once(Action act)
    {
        var from = Stopwatch.GetTimestamp();
        act();
        return Stopwatch.GetElapsedTime(from).TotalMilliseconds;
    }

    /// <summary>Finding by words, side and number over five thousand bags, as the search answers it.</summary>
    private static Action FindBags()
    {
        string[] whats =
        [
            "quarter window screws",
            "door seal",
            "headlamp rim",
            "wing bolts",
            "heater",
            "window regulator",
            "lock striker",
            "seat rail",
            "bumper iron",
            "grille clips",
        ];
        string[] froms =
        [
            "rear window, frame to body",
            "front door, inside",
            "under the dash",
            "behind the bumper",
            "left front floor",
        ];
        var bags = Enumerable
            .Range(0, Bags)
            .Select(i =>
            {
                var bag = new Bag
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = Guid.Empty,
                    Code = 100 + i,
                    Side = (PanelSide)(i % 3),
                    What = $"{whats[i % whats.Length]} {i / 50}",
                    From = froms[i % froms.Length],
                    Pieces = [new("piece", 1 + i % 4)],
                    Fasteners = [new("screw", "oval", "M4 x 16", "chrome", 8, true, 0)],
                    OffBy = "",
                    OffAt = default,
                };
                return BagEntry.Of(bag);
            })
            .ToList();
        string[] questions =
        [
            "left rear window screws",
            "FC 2417 R",
            "heater",
            "bolts behind the bumper right",
            "nothing like this",
        ];
        var turn = 0;
        return () => BagFinder.Find(questions[turn++ % questions.Length], bags);
    }

    /// <summary>All that the panel map of a survey with four hundred findings shows, with every finding's sums, as it
    /// is sent.</summary>
    private static Action SurveyMap()
    {
        var vehicle = new Vehicle(
            "Make",
            "",
            1960,
            BodyStyleKey.Saloon,
            Construction.SeparateChassis,
            "",
            "",
            "#334455",
            BodyDimensions.Of(BodyStyleKey.Saloon)
        );
        var places = SurveyPlaces.Of(vehicle, [HistoryHint.SaltAir]);
        var findings = Enumerable
            .Range(0, Findings)
            .Select(i =>
            {
                var f = new Finding
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = Guid.Empty,
                    Number = i + 1,
                    FoundBy = "",
                    FoundAt = default,
                    Place = places[i % places.Count].Key,
                    At = new(i % 90, i % 400),
                    Kind = (FindingKind)(i % 16),
                    Area = [new(0, 0), new(20, 0), new(20, 15 + i % 9), new(0, 15)],
                };
                f.Judge([
                    new(Verdict.Repair, 4 + i % 9, Trade.Metal, 20, 30, RiskPercent: 15),
                    new(Verdict.Replace, 3, Trade.Metal, Part: 200 + i, Freight: 30, LeadDays: 5, RiskPercent: 5),
                    new(Verdict.Fabricate, 9, Trade.Metal, 40),
                ]);
                return f;
            })
            .ToList();
        var marks = places
            .Select(
                (p, i) =>
                    new PunchMark
                    {
                        Id = Guid.CreateVersion7(),
                        BuildId = Guid.Empty,
                        Place = p.Key,
                        At = new(i, i),
                        Result = (Probe)(i % 3),
                        By = "",
                        On = default,
                    }
            )
            .ToList();
        var terms = new VerdictTerms(
            Enum.GetValues<Trade>().ToDictionary(t => t, _ => 58m),
            36,
            FinishGrade.Show,
            true
        );
        return () =>
        {
            var sheet = SurveySheet.Of(SurveyPlaces.Of(vehicle, [HistoryHint.SaltAir]), marks, [], findings);
            var sums = findings.Select(f => VerdictSums.Of(f, terms)).ToList();
            JsonSerializer.Serialize(
                new
                {
                    sheet.Places,
                    sums,
                    body = SurveyEndpoints.View(Body.Unfold(vehicle.Style, vehicle.Dimensions)),
                },
                StoreJson.Options
            );
        };
    }

    /// <summary>A body that nobody has unfolded before.</summary>
    private static Action UnfoldBody()
    {
        var own = BodyDimensions.Of(BodyStyleKey.Estate);
        var turn = 0;
        return () => Body.Unfold(BodyStyleKey.Estate, own with { LengthMm = own.LengthMm + ++turn });
    }
}
