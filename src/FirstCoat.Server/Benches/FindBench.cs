using System.Diagnostics;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Store.Overview;
using Npgsql;

namespace FirstCoat.Server.Benches;

/// <summary>Asks for things in a shop of years: 230 builds, a hundred thousand findable things in a database of its
/// own.</summary>
public static class FindBench
{
    private const int Builds = 230,
        Things = 100_000,
        Rounds = 25;
    private const double Budget = 100;

    private static readonly string[] Questions =
    [
        "rear window screw",
        "windwo screws rear",
        "door",
        "left doro seal",
        "41",
        "screw",
        "gearbox cable right",
        "c12 lamp",
        "zzzzqq",
        "halloway",
        "halloway door hinge",
        "s",
        "open build",
        "bracket 5120",
        "carpet rod 230",
    ];

    /// <summary>Where a cluster is stands in the environment, as for the server.</summary>
    /// <returns>Whether the 95th percentile was over its budget.</returns>
    public static async Task<bool> Run()
    {
        Console.Error.WriteLine($"filling a shop of {Things} things for find.anything...");
        var own = new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("Shop__Connection"))
        {
            Database = "findbench",
        };
        await using var db = new ShopDb(
            StoreSetup.Options(own.ConnectionString),
            new(TimeProvider.System),
            new CurrentActor { Actor = Actor.Application },
            new CurrentRequest()
        );
        await db.Database.EnsureDeletedAsync();
        await db.Database.MigrateAsync();
        await Fill(db);
        var manager = new CurrentActor { Actor = new(Guid.CreateVersion7(), null, "Bench", Core.Access.Roles.Manager) };
        var desk = new FindDesk(db, manager);
        var times = new List<(string Question, double Milliseconds)>();
        for (var round = -3; round < Rounds; round++)
        {
            foreach (var question in Questions)
            {
                var from = Stopwatch.GetTimestamp();
                _ = await desk.Find(question, 41, CancellationToken.None);
                if (round >= 0)
                {
                    times.Add((question, Stopwatch.GetElapsedTime(from).TotalMilliseconds));
                }
            }
        }

        await db.Database.EnsureDeletedAsync();
        foreach (
            var (question, middle) in times
                .GroupBy(t => t.Question)
                .Select(g => (g.Key, g.Select(t => t.Milliseconds).Order().ElementAt(Rounds / 2)))
        )
        {
            Console.Error.WriteLine(
                string.Create(CultureInfo.InvariantCulture, $"  {question}: {middle:0.0} ms in the middle")
            );
        }

        var value = times.Select(t => t.Milliseconds).Order().ElementAt((int)(times.Count * 0.95));
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"bench find.anything-{Things} {value:0.0} ms {Budget:0} {(value > Budget ? "over" : "ok")}"
            )
        );
        return value > Budget;
    }

    private static async Task Fill(ShopDb db)
    {
        var client = new Client { Id = Guid.CreateVersion7(), Name = "Ingeborg Halloway" };
        db.Add(client);
        for (var i = 0; i < Builds; i++)
        {
            db.Add(
                new Build
                {
                    Id = Guid.CreateVersion7(),
                    Number = i + 1,
                    ClientId = client.Id,
                    OpenedOn = new LocalDate(2026, 1, 5),
                    Contract = Core.Builds.ContractTerms.TimeAndMaterials,
                    Brief = new(FinishGrade.Show, OriginalityPolicy.Original, null, null, []),
                    Vehicle = new(
                        "Plover",
                        $"Mark {i}",
                        1950 + i % 30,
                        (BodyStyleKey)(i % 10),
                        Construction.SeparateChassis,
                        $"P{i}",
                        "Tidewater",
                        "#1B6670",
                        BodyDimensions.Of((BodyStyleKey)(i % 10))
                    ),
                }
            );
        }

        await db.SaveChangesAsync();
        await db
            .Builds.OrderBy(b => b.Number)
            .Skip(30)
            .ExecuteUpdateAsync(s => s.SetProperty(b => b.Status, BuildStatus.Closed));
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into overview_finds (id, kind, build_id, label, detail, text, for_desk)
            select gen_random_uuid(), (array['Part', 'Bag', 'Operation', 'Batch'])[1 + i % 4], b.ids[1 + i % {Builds}],
                   t.words, 'C' || i % 40, lower(t.words || ' ' || i || ' c' || i % 40), false
            from (select array_agg(id) as ids from builds) b, generate_series(1, {Things}) i,
            lateral (select concat_ws(' ',
                (array['Left', 'Right', 'Front', 'Rear'])[1 + i / 7 % 4],
                (array['door', 'window', 'wing', 'lamp', 'seat', 'floor', 'hinge', 'bracket', 'carpet', 'gearbox'])
                    [1 + i / 3 % 10],
                (array['screw', 'bolt', 'seal', 'clip', 'trim', 'panel', 'rod', 'glass', 'rail', 'cable'])
                    [1 + i / 11 % 10]) as words) t
            """
        );
        // As the cluster does by itself some minutes later.
        await db.Database.ExecuteSqlAsync($"vacuum analyze overview_finds");
    }
}
