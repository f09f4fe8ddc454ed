using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace FirstCoat.Server.Tests.Shop;

/// <summary>A shop that entered its bays with a count has as many places with names of their own after the
/// change.</summary>
public sealed class PlacesMigrationTests
{
    private const string Before = "20261129073025_Gatekeeper";

    [Fact]
    public async Task A_station_with_a_count_becomes_as_many_places_and_its_vehicles_stand_in_them_one_by_one()
    {
        var connection = await TemplateDatabase.Clone();
        var services = Demo.DemoCommand.Services(
            connection,
            Directory.CreateTempSubdirectory("firstcoat-none").FullName,
            Path.GetTempPath(),
            Path.GetTempPath(),
            new SetClock(DateTimeOffset.UtcNow)
        );
        await using (services)
        {
            await using (var scope = services.CreateAsyncScope())
            {
                scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
                var db = scope.ServiceProvider.GetRequiredService<ShopDb>();
                await Counted(db);
                var migrator = db.GetInfrastructure().GetRequiredService<IMigrator>();
                await migrator.MigrateAsync(Before);
                await db.Database.ExecuteSqlRawAsync(
                    "update sequence_operations set terms = jsonb_set(terms, '{{body}}', '\"beside\"') where terms ->> 'body' = 'onBody'"
                );
                await migrator.MigrateAsync();
            }

            await using var after = services.CreateAsyncScope();
            await Named(after.ServiceProvider.GetRequiredService<ShopDb>());
        }

        await TemplateDatabase.Drop(connection);
    }

    /// <summary>Three bays as one station with two vehicles, benches, a yard, and work in and out of them.</summary>
    private static async Task Counted(ShopDb db)
    {
        var bay = new Station
        {
            Id = Guid.CreateVersion7(),
            Name = "Bay",
            Kind = StationKind.Bay,
            Count = 3,
            XMm = 1000,
            WidthMm = 12000,
            DepthMm = 4500,
            DoorHeightMm = 2600,
            Terms = new() { AirSpace = "hall" },
        };
        var yard = new Station
        {
            Id = Guid.CreateVersion7(),
            Name = "Yard",
            Kind = StationKind.Yard,
            Count = 12,
            WidthMm = 9000,
            DepthMm = 3000,
        };
        var client = new Client { Id = Guid.CreateVersion7(), Name = "Petra Client" };
        db.AddRange(
            bay,
            yard,
            client,
            new Station
            {
                Id = Guid.CreateVersion7(),
                Name = "Benches",
                Kind = StationKind.Bench,
                Count = 3,
                WidthMm = 3000,
                DepthMm = 3000,
            }
        );
        foreach (var (number, at) in new[] { (1, bay), (2, bay), (3, yard) })
        {
            var build = new Build
            {
                Id = Guid.CreateVersion7(),
                Number = number,
                ClientId = client.Id,
                Vehicle = new(
                    "Plover",
                    "Eight",
                    1951,
                    BodyStyleKey.Coupe,
                    Construction.Unitary,
                    "",
                    "Grey",
                    "#808080",
                    BodyDimensions.Of(BodyStyleKey.Coupe)
                ),
                Brief = new(FinishGrade.Show, OriginalityPolicy.OriginalLook, null, null, []),
                Contract = ContractTerms.TimeAndMaterials,
            };
            build.Open();
            build.Stand(at.Id, "");
            db.Add(build);
            db.Add(
                new Operation
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = build.Id,
                    Position = number,
                    Name = "Work",
                    Trade = Trade.Metal,
                    BudgetMinutes = 60,
                    Station = number == 2 ? StationKind.Bench : StationKind.Bay,
                    Terms = new()
                    {
                        Body =
                            number == 3
                                ? BodyUse.TakesAway
                                : OperationTerms.UsualBody(number == 2 ? null : StationKind.Bay),
                    },
                }
            );
        }

        await db.SaveChangesAsync();
    }

    private static async Task Named(ShopDb db)
    {
        var places = await db.Stations.OrderBy(s => s.Name).ToListAsync();
        places
            .Select(s => (s.Name, s.Count, s.XMm, s.WidthMm))
            .ShouldBe([
                ("Bay 1", 1, 1000, 4000),
                ("Bay 2", 1, 5000, 4000),
                ("Bay 3", 1, 9000, 4000),
                ("Benches", 3, 0, 3000),
                ("Yard", 12, 0, 9000),
            ]);
        places.Take(3).ShouldAllBe(p => p.Terms.AirSpace == "hall" && p.DoorHeightMm == 2600);
        var builds = await db.Builds.OrderBy(b => b.Number).ToListAsync();
        builds.Select(b => places.Single(p => p.Id == b.StationId).Name).ShouldBe(["Bay 1", "Bay 2", "Yard"]);
        (await db.Operations.OrderBy(o => o.Position).ToListAsync())
            .Select(o => o.Terms.Body)
            .ShouldBe([BodyUse.OnBody, BodyUse.Beside, BodyUse.TakesAway]);
    }
}
