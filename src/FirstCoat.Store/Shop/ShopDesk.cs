using FirstCoat.Core;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Shop;

/// <summary>Commands of the shop room: settings, people, stations, suppliers, closed days.</summary>
public sealed class ShopDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>Sets the shop up, or changes its settings.</summary>
    public async Task<ShopSettings> SaveSettings(Action<ShopSettings> change, uint? version, CancellationToken cancel)
    {
        var shop = await Db.Settings.SingleOrDefaultAsync(cancel);
        if (shop is null)
        {
            shop = new() { Id = ShopSettings.TheOne, Name = "" };
            Db.Add(shop);
        }

        Expect(shop, version);
        change(shop);
        shop.Check();
        await Save(cancel);
        return shop;
    }

    /// <summary>Adds or changes a person; rates and absences are left out for <see cref="SetRate"/> and
    /// <see cref="SetAbsences"/>.</summary>
    public async Task<Person> PutPerson(
        Guid id,
        string name,
        List<Trade> trades,
        bool active,
        uint? version,
        CancellationToken cancel
    )
    {
        var person = await Db.People.FindAsync([id], cancel);
        if (person is null)
        {
            person = new() { Id = id, Name = name };
            Db.Add(person);
        }

        Expect(person, version);
        (person.Name, person.Trades, person.Active) = (
            Refusal.Text(name, "name", 100),
            trades.Distinct().ToList(),
            active
        );
        person.Check();
        await Save(cancel);
        return person;
    }

    /// <summary>Sets the rates that hold from a day on; the same day again replaces them.</summary>
    public async Task<Person> SetRate(Guid id, PersonRate rate, CancellationToken cancel)
    {
        Plausible(rate.From, "from");
        var person = await Find<Person>(id, "person", cancel);
        person.Rates = [.. person.Rates.Where(r => r.From != rate.From).Append(rate).OrderBy(r => r.From)];
        person.Check();
        await Save(cancel);
        return person;
    }

    /// <summary>Sets when a person is away.</summary>
    public async Task<Person> SetAbsences(Guid id, List<Absence> absences, CancellationToken cancel)
    {
        Refusal.When(absences.Count > 500, "absences", "At most 500 absences.");
        absences.ForEach(a => Plausible(a.From.Date, "from"));
        var person = await Find<Person>(id, "person", cancel);
        person.Absences = [.. absences.OrderBy(a => a.From)];
        person.Check();
        await Save(cancel);
        return person;
    }

    /// <summary>Sets how a person works: pace, own hours, kept times, kinds of work they are not given.</summary>
    public async Task<Person> SetPersonTerms(Guid id, PersonTerms terms, uint? version, CancellationToken cancel)
    {
        var person = await Find<Person>(id, "person", cancel);
        Expect(person, version);
        terms.Hours.ForEach(h => Plausible(h.From, "hours"));
        foreach (var slot in terms.Slots)
        {
            Refusal.When(await Db.Builds.FindAsync([slot.BuildId], cancel) is null, "slots", "There is no such build.");
        }

        person.Terms = terms.Agreed(person.Terms, await Today(cancel));
        person.Check();
        await Save(cancel);
        return person;
    }

    /// <summary>Sets when a station may be used and whose air it shares.</summary>
    public async Task<Station> SetStationTerms(Guid id, StationTerms terms, uint? version, CancellationToken cancel)
    {
        var station = await Find<Station>(id, "station", cancel);
        Expect(station, version);
        terms.Closed.ForEach(c => Plausible(c.From, "closed"));
        station.Terms = terms;
        station.Check(await Shop(cancel));
        await Save(cancel);
        return station;
    }

    /// <summary>Sets shared things, air, ways of holding a shell, and the margin under doors.</summary>
    public Task<ShopSettings> SetPlanRules(PlanRules rules, uint? version, CancellationToken cancel) =>
        SaveSettings(s => s.Plan = rules, version, cancel);

    /// <summary>Adds or changes a place. A new one can be made several times: they lie side by side in its outline,
    /// each with a number behind the name.</summary>
    public async Task<Station> PutStation(
        Guid id,
        Action<Station> change,
        uint? version,
        CancellationToken cancel,
        int copies = 1
    )
    {
        Refusal.When(copies is < 1 or > 24, "copies", "Between one place and twenty-four.");
        var shop = await Shop(cancel);
        var station = await Db.Stations.FindAsync([id], cancel);
        if (station is not null)
        {
            Expect(station, version);
            change(station);
            station.Check(shop);
            await RefuseOnTop(station, cancel);
            await Save(cancel);
            return station;
        }

        for (var i = copies; i >= 1; i--)
        {
            station = new() { Id = i == 1 ? id : Guid.CreateVersion7(), Name = "" };
            Db.Add(station);
            Expect(station, version);
            change(station);
            station.TakePart(i, copies);
            station.Check(shop);
            await RefuseOnTop(station, cancel);
        }

        await Save(cancel);
        return station!;
    }

    /// <summary>Two places do not lie on each other; painted lines may touch.</summary>
    private async Task RefuseOnTop(Station station, CancellationToken cancel)
    {
        var others = await Db.Stations.AsNoTracking().Where(s => s.Id != station.Id).ToListAsync(cancel);
        var under = others.Find(o => station.LiesOn(o));
        Refusal.When(under is not null, "xMm", $"{station.Name} would lie on {under?.Name}.");
    }

    /// <summary>Takes a place off the plan; one where a vehicle stands, or that work is held for, stays.</summary>
    public async Task RemoveStation(Guid id, CancellationToken cancel)
    {
        if (await Db.Stations.FindAsync([id], cancel) is not { } station)
        {
            return;
        }

        var stands = await Db
            .Builds.AsNoTracking()
            .Where(b => b.StationId == id)
            .OrderBy(b => b.Number)
            .Select(b => (int?)b.Number)
            .FirstOrDefaultAsync(cancel);
        Refusal.When(stands is not null, "id", $"Build {stands} stands on {station.Name}: move it first.");
        Db.Remove(station);
        await Save(cancel);
    }

    /// <summary>Draws walls and doors.</summary>
    public Task<ShopSettings> SetLayout(
        ShopLayout layout,
        int widthMm,
        int depthMm,
        uint? version,
        CancellationToken cancel
    ) => SaveSettings(s => (s.Layout, s.PlanWidthMm, s.PlanDepthMm) = (layout, widthMm, depthMm), version, cancel);

    /// <summary>Names racks with their shelves and trays.</summary>
    public Task<ShopSettings> SetRacks(List<ShopRack> racks, uint? version, CancellationToken cancel) =>
        SaveSettings(s => s.Racks = [.. racks.Select(r => r with { Name = r.Name.Trim() })], version, cancel);

    /// <summary>Names the work that is nobody's build.</summary>
    public Task<ShopSettings> SetJobs(List<string> jobs, uint? version, CancellationToken cancel) =>
        SaveSettings(s => s.Jobs = [.. jobs.Select(j => j.Trim()).Where(j => j.Length > 0)], version, cancel);

    /// <summary>How the first things of a new shop stand.</summary>
    public async Task<List<FirstThing>> FirstThingsOf(CancellationToken cancel)
    {
        var accounts = await Db
            .Users.AsNoTracking()
            .Where(u => u.ClosedAt == null)
            .Select(u => u.PersonId)
            .ToListAsync(cancel);
        var builds = await Db
            .Builds.AsNoTracking()
            .Where(b => b.Status != Core.Builds.BuildStatus.Closed && b.Status != Core.Builds.BuildStatus.Withdrawn)
            .Select(b => new
            {
                b.Id,
                b.Number,
                b.StationId,
                b.AwayAt,
            })
            .ToListAsync(cancel);
        var open = builds.Select(b => b.Id).ToList();
        var asked = await Db
            .Operations.AsNoTracking()
            .Where(o => open.Contains(o.BuildId) && o.DoneAt == null && o.Trade != null)
            .Select(o => o.Trade!.Value)
            .Distinct()
            .ToListAsync(cancel);
        return FirstThings.Of(
            new(
                await Shop(cancel),
                await Db.Stations.AsNoTracking().ToListAsync(cancel),
                await Db.People.AsNoTracking().ToListAsync(cancel),
                await Db.Suppliers.CountAsync(cancel),
                accounts.Count,
                accounts.Count(p => p is not null),
                builds.Count,
                [.. builds.Where(b => b.StationId is null && b.AwayAt.Length == 0).Select(b => b.Number).Order()]
            )
            {
                Asked = asked,
            }
        );
    }

    /// <summary>Puts the first-run list away, or takes it out again.</summary>
    public Task<ShopSettings> PutFirstThingsAway(bool away, CancellationToken cancel) =>
        SaveSettings(s => s.FirstThingsAway = away, null, cancel);

    /// <summary>Adds or changes a supplier.</summary>
    public async Task<Supplier> PutSupplier(
        Guid id,
        string name,
        string what,
        List<IsoDayOfWeek> freightDays,
        List<IsoDayOfWeek> workDays,
        SupplierTerms terms,
        uint? version,
        CancellationToken cancel
    )
    {
        Refusal.When(
            freightDays.Any(d => d == IsoDayOfWeek.None),
            "freightDays",
            "A freight day is a day of the week."
        );
        Refusal.When(workDays.Any(d => d == IsoDayOfWeek.None), "workDays", "A working day is a day of the week.");
        terms.Closed.ForEach(c => Plausible(c.From, "closed"));
        Refusal.When(what.Length > 200, "what", "At most 200 characters.");
        var supplier = await Db.Suppliers.FindAsync([id], cancel);
        if (supplier is null)
        {
            supplier = new() { Id = id, Name = name };
            Db.Add(supplier);
        }

        Expect(supplier, version);
        (supplier.Terms, supplier.Name, supplier.What, supplier.FreightDays, supplier.WorkDays) = (
            terms,
            Refusal.Text(name, "name", 100),
            what,
            freightDays.Distinct().Order().ToList(),
            workDays.Distinct().Order().ToList()
        );
        supplier.Check();
        await Save(cancel);
        return supplier;
    }

    /// <summary>Closes the shop on a day.</summary>
    public async Task<ClosedDay> Close(Guid id, LocalDate date, string reason, CancellationToken cancel)
    {
        Plausible(date, "date");
        var day = await Db.ClosedDays.SingleOrDefaultAsync(d => d.Date == date, cancel);
        if (day is null)
        {
            day = new() { Id = id, Date = date };
            Db.Add(day);
        }

        day.Reason = Refusal.Text(reason, "reason", 100);
        await Save(cancel);
        return day;
    }

    /// <summary>Opens the shop on a day that was closed.</summary>
    public async Task Reopen(LocalDate date, CancellationToken cancel)
    {
        if (await Db.ClosedDays.SingleOrDefaultAsync(d => d.Date == date, cancel) is { } day)
        {
            Db.Remove(day);
            await Save(cancel);
        }
    }
}
