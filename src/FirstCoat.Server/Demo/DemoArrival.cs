using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Builds;
using FirstCoat.Store.Survey;

namespace FirstCoat.Server.Demo;

/// <summary>How two vehicles came, and the other body that was offered for one of them.</summary>
internal sealed class DemoArrival(DemoShop shop)
{
    public async Task Tell(CancellationToken cancel)
    {
        await Charabanc(cancel);
        await Pickup(cancel);
        await FarmBody(cancel);
    }

    private async Task Charabanc(CancellationToken cancel)
    {
        PromisedPiece Piece(string what, int promised, int came) =>
            new(Guid.CreateVersion7(), what, promised, came, null, null, null);
        var (bows, wheels, radiator) = (Piece("Roof bows", 7, 6), Piece("Wheels", 5, 4), Piece("Radiator", 1, 0));
        await shop.As("nessa", s => s.GetRequiredService<ArrivalDesk>()
                .Put(
                    shop.Build(46),
                    a =>
                    {
                        (a.CameOn, a.As, a.Serial, a.Keys, a.Battery, a.Storage) = (
                            shop.Day.PlusWeeks(-15),
                            ArrivedAs.RollingShell,
                            1187,
                            0,
                            BatteryKind.None,
                            "Shelf 12, yard container"
                        );
                        a.Breaks = [new(1150, "cone clutch, four-stud hubs", "plate clutch, six-stud hubs")];
                        a.Fluids = ["fuel, an inch in the tank"];
                        a.Promised =
                        [
                            Piece("Body tub, wood frame", 1, 1),
                            Piece("Side doors", 5, 5),
                            bows,
                            Piece("Bench seats", 5, 5),
                            wheels,
                            Piece("Head lamps", 2, 0),
                            Piece("Engine, gearbox", 2, 2),
                            radiator,
                            Piece("Logbook", 1, 0),
                            Piece("Brass handles", 10, 10),
                        ];
                        a.CameUnasked = ["two axle springs", "a horn"];
                        a.StandIns =
                        [
                            new(
                                Guid.CreateVersion7(),
                                "Radiator core",
                                "43, Quill estate's",
                                shop.Day.PlusDays(28),
                                null
                            ),
                        ];
                        a.ToUndo = ["angle iron bolted across the scuttle", "second skin over the left lower panel"];
                        a.Hazards =
                        [
                            new(
                                Guid.CreateVersion7(),
                                Hazard.Asbestos,
                                "Pad behind the bulkhead, may be asbestos",
                                "Leave it shut. Licensed removal is booked",
                                false
                            )
                            {
                                ExpectedOn = shop.Day.PlusDays(9),
                            },
                            new(Guid.CreateVersion7(), Hazard.Lead, "Lead in the scuttle seam", "", false),
                        ];
                        a.Heights = new(2310, 520, 50, [new("Low dolly", 360), new("Bows off", 640)]);
                    },
                    null,
                    cancel
                ));
        // The seam was tested and the way to work on it settled; the pad stays shut until it is taken out.
        await shop.As("sunniva", async s =>
        {
            var desk = s.GetRequiredService<ArrivalDesk>();
            var lead = (await desk.Look(shop.Build(46), cancel)).Arrival!.Hazards.Single(h => h.Hazard == Hazard.Lead);
            await desk.Settle(
                shop.Build(46),
                lead.Id,
                "Scraped wet under extraction, no dry sanding, waste in the marked drum",
                cancel
            );
        });
        foreach (var (piece, days) in new[] { (bows, 11), (wheels, 11), (radiator, 18) })
        {
            await shop.As("iben", s =>
                s.GetRequiredService<ArrivalDesk>().Ask(shop.Build(46), piece.Id, shop.Day.PlusDays(days), null, cancel)
            );
        }

        var photos = new List<Guid>();
        await shop.As("nessa", async s =>
            photos = await s.GetRequiredService<ShopDb>()
                .Photos.Where(p => p.BuildId == shop.Build(46))
                .OrderBy(p => p.Seq)
                .Select(p => p.Id)
                .ToListAsync(cancel)
        );
        string[] taken =
        [
            "front",
            "leftFront",
            "leftFore",
            "leftAft",
            "rightAft",
            "rightFore",
            "rightFront",
            "engine",
            "dash",
        ];
        foreach (var (station, i) in photos.Count == 0 ? [] : taken.Select((s, i) => (s, i)))
        {
            await shop.As("nessa", s =>
                s.GetRequiredService<ArrivalDesk>().Shoot(shop.Build(46), station, photos[i % photos.Count], cancel)
            );
        }
    }

    private Task Pickup(CancellationToken cancel) => shop.As("nessa", s => s.GetRequiredService<ArrivalDesk>()
                .Put(
                    shop.Build(45),
                    a =>
                    {
                        (a.CameOn, a.As, a.Odometer, a.Keys, a.Battery, a.Storage) = (
                            shop.Day.PlusWeeks(-8),
                            ArrivedAs.Whole,
                            61_204,
                            2,
                            BatteryKind.Starter,
                            "In the cab"
                        );
                        a.ToUndo = ["tow bar bracket welded to the frame"];
                        a.Heights = new(1780, 0, 50, []);
                    },
                    null,
                    cancel
                ));

    /// <summary>A farm has another tub for the roadster; two days after the survey somebody went and looked.</summary>
    private Task FarmBody(CancellationToken cancel) => shop.As("iben", async s =>
        {
            var view = await s.GetRequiredService<FindingsDesk>().Look(shop.Build(44), cancel);
            var judged = new Dictionary<string, FindingOption>
            {
                ["wing"] = new(Verdict.Replace, 8, Trade.Metal, Part: 980, LeadDays: 9, RiskPercent: 5),
                ["bonnet"] = new(Verdict.Replace, 2, Trade.Metal, Part: 540, LeadDays: 9, RiskPercent: 5),
                ["sill"] = new(Verdict.Repair, 2, Trade.Metal, 4, RiskPercent: 10),
                ["scuttle"] = new(Verdict.Repair, 9, Trade.Metal, 40, RiskPercent: 20),
                ["floorF"] = new(Verdict.Repair, 3, Trade.Metal, 12, RiskPercent: 15),
                ["quarter"] = new(Verdict.Repair, 16, Trade.Metal, 70, RiskPercent: 20),
                ["boot"] = new(Verdict.Replace, 1.5m, Trade.Metal, Part: 420, LeadDays: 5),
                ["rail"] = new(Verdict.Repair, 6, Trade.Metal, 30, RiskPercent: 10),
            };
            var zones = view
                .Sheet.Places.Where(p => p.Place.Round)
                .Select(p => SurveyPlaces.Stem(p.Place.Key))
                .Distinct()
                .Select(z => new OtherZone(
                    z,
                    true,
                    z is "sill" or "rail",
                    judged.TryGetValue(z, out var way) ? [way] : [],
                    ""
                ))
                .ToList();
            List<YearSpan> spans =
            [
                new("Doors, hinges", 1952, 1960, ""),
                new("Sills", 1952, 1960, ""),
                new("Wings", 1953, 1958, ""),
                new("Quarters", 1952, 1957, ""),
                new("Bonnet", 1952, 1954, ""),
                new("Bonnet", 1955, 1960, "catch moved"),
                new("Scuttle, screen", 1952, 1955, ""),
                new("Scuttle, screen", 1956, 1960, "20 mm taller"),
                new("Boot lid", 1952, 1955, ""),
                new("Boot lid", 1956, 1960, "hinge pins 12 mm, not 10"),
            ];
            await s.GetRequiredService<BodiesDesk>()
                .Put(
                    shop.Build(44),
                    Guid.CreateVersion7(),
                    new(
                        "Sallow Farm tub",
                        1956,
                        shop.Day.PlusDays(-2),
                        shop.Day.PlusDays(6),
                        650,
                        286,
                        zones,
                        spans,
                        ""
                    ),
                    null,
                    cancel
                );
        });
}
