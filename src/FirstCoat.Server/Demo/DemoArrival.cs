using FirstCoat.Core.Builds;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
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
        PromisedPiece Piece(string what, int promised, int came) => new(Guid.CreateVersion7(), what, promised, came, null, null, null);
        var (bows, wheels, radiator) = (Piece("Roof bows", 7, 6), Piece("Wheels", 5, 4), Piece("Radiator", 1, 0));
        await shop.As("nessa", s => s.GetRequiredService<ArrivalDesk>().Put(shop.Build(46), a =>
        {
            (a.CameOn, a.As, a.Serial, a.Keys, a.Battery, a.Storage) = (shop.Day.PlusWeeks(-15), ArrivedAs.RollingShell, 1187, 0, BatteryKind.None, "Shelf 12, yard container");
            a.Breaks = [new(1150, "cone clutch, four-stud hubs", "plate clutch, six-stud hubs")];
            a.Fluids = ["fuel, an inch in the tank"];
            a.Promised = [Piece("Body tub, wood frame", 1, 1), Piece("Side doors", 5, 5), bows, Piece("Bench seats", 5, 5), wheels, Piece("Head lamps", 2, 0), Piece("Engine, gearbox", 2, 2), radiator, Piece("Logbook", 1, 0), Piece("Brass handles", 10, 10)];
            a.CameUnasked = ["two axle springs", "a horn"];
            a.StandIns = [new(Guid.CreateVersion7(), "Radiator core", "43, Quill estate's", shop.Day.PlusDays(28), null)];
            a.ToUndo = ["angle iron bolted across the scuttle", "second skin over the left lower panel"];
            a.Hazards = [new(Guid.CreateVersion7(), Hazard.Asbestos, "Pad behind the bulkhead, may be asbestos", "Leave it shut. Licensed removal is booked", false), new(Guid.CreateVersion7(), Hazard.Lead, "Lead in the scuttle seam", "", false)];
            a.Heights = new(2310, 520, 50, [new("Low dolly", 360), new("Bows off", 640)]);
        }, null, cancel));
        foreach (var (piece, days) in new[] { (bows, 11), (wheels, 11), (radiator, 18) })
        {
            await shop.As("iben", s => s.GetRequiredService<ArrivalDesk>().Ask(shop.Build(46), piece.Id, shop.Day.PlusDays(days), null, cancel));
        }

        var photos = new List<Guid>();
        await shop.As("nessa", async s => photos = await s.GetRequiredService<ShopDb>().Photos.Where(p => p.BuildId == shop.Build(46)).OrderBy(p => p.Seq).Select(p => p.Id).ToListAsync(cancel));
        string[] taken = ["front", "leftFront", "leftFore", "leftAft", "rightAft", "rightFore", "rightFront", "engine", "dash"];
        foreach (var (station, i) in photos.Count == 0 ? [] : taken.Select((s, i) => (s, i)))
        {
            await shop.As("nessa", s => s.GetRequiredService<ArrivalDesk>().Shoot(shop.Build(46), station, photos[i % photos.Count], cancel));
        }
    }

    private Task Pickup(CancellationToken cancel) => shop.As("nessa", s => s.GetRequiredService<ArrivalDesk>().Put(shop.Build(45), a =>
    {
        (a.CameOn, a.As, a.Odometer, a.Keys, a.Battery, a.Storage) = (shop.Day.PlusWeeks(-8), ArrivedAs.Whole, 61_204, 2, BatteryKind.Starter, "In the cab");
        a.ToUndo = ["tow bar bracket welded to the frame"];
        a.Heights = new(1780, 0, 50, []);
    }, null, cancel));

    /// <summary>A farm has another cab and bed; two days after the survey somebody went and looked.</summary>
    private Task FarmBody(CancellationToken cancel) => shop.As("iben", async s =>
    {
        var view = await s.GetRequiredService<FindingsDesk>().Look(shop.Build(45), cancel);
        var judged = new Dictionary<string, FindingOption>
        {
            ["wing"] = new(Verdict.Replace, 8, Trade.Metal, Part: 690, LeadDays: 8, RiskPercent: 5),
            ["bonnet"] = new(Verdict.Replace, 2, Trade.Metal, Part: 310, LeadDays: 8, RiskPercent: 5),
            ["sill"] = new(Verdict.Repair, 2, Trade.Metal, 4, RiskPercent: 10),
            ["corner"] = new(Verdict.Repair, 3, Trade.Metal, 12, RiskPercent: 15),
            ["bed"] = new(Verdict.Repair, 3.5m, Trade.Metal, 20, RiskPercent: 15),
            ["bedside"] = new(Verdict.Repair, 11, Trade.Metal, 60, RiskPercent: 15),
            ["tailgate"] = new(Verdict.Replace, 1.5m, Trade.Metal, Part: 380, LeadDays: 5),
            ["roof"] = new(Verdict.Repair, 4, Trade.Body, 30, RiskPercent: 10),
        };
        var zones = view.Sheet.Places.Where(p => p.Place.Round).Select(p => SurveyPlaces.Stem(p.Place.Key)).Distinct()
            .Select(z => new OtherZone(z, true, z == "sill", judged.TryGetValue(z, out var way) ? [way] : [], "")).ToList();
        List<YearSpan> spans =
        [
            new("Doors, hinges", 1958, 1968, ""), new("Sills, cab mounts", 1958, 1968, ""), new("Cab corners", 1959, 1967, ""), new("Wings", 1960, 1968, ""),
            new("Bonnet", 1958, 1963, ""), new("Bonnet", 1964, 1968, "catch moved"), new("Bed sides", 1958, 1964, ""), new("Bed sides", 1965, 1968, "six stake holes, not four"), new("Tailgate", 1958, 1962, ""), new("Tailgate", 1963, 1968, "hinge pins 12 mm, not 10"),
        ];
        await s.GetRequiredService<BodiesDesk>().Put(shop.Build(45), Guid.CreateVersion7(), new("Sallow Farm body", 1965, shop.Day.PlusDays(-2), shop.Day.PlusDays(6), 650, 286, zones, spans, ""), null, cancel);
    });
}
