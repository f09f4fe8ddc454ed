using FirstCoat.Core;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Teardown;
using FirstCoat.Store.Access;
using FirstCoat.Store.Labour;
using FirstCoat.Store.Plan;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Teardown;

/// <summary>A step as it is closed: what went into its bag, and what the twin made somebody say.</summary>
/// <param name="Bag">Null: nothing went into a bag.</param>
/// <param name="CountsDiffer">It is known that the count differs from the other side's.</param>
public sealed record StepClosed(
    BagEntered? Bag,
    Guid BagId,
    bool CountsDiffer,
    string OutOfOrderWhy,
    string Note,
    int? DoingSeconds,
    int? FindingSeconds
);

/// <summary>A sub-assembly with what its steps are expected to take and what its twin has in its bags.</summary>
public sealed record AssemblyView(
    SubAssembly Assembly,
    SubAssembly? Twin,
    IReadOnlyDictionary<string, StepTime> Expected,
    IReadOnlyDictionary<Guid, Bag> Bags
);

/// <summary>Commands of the teardown room for sub-assemblies: step by step off, and back in reverse.</summary>
public sealed class StepsDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    TeardownDesk bags,
    PlanDesk plan,
    CautionDesk cautions
) : Desk(db, clock, current)
{
    /// <summary>All sub-assemblies of a build.</summary>
    public async Task<List<AssemblyView>> Look(Guid buildId, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        var all = await Db.SubAssemblies.AsNoTracking().OrderBy(a => a.Seq).ToListAsync(cancel);
        var own = await Db.Bags.AsNoTracking().Where(b => b.BuildId == buildId).ToDictionaryAsync(b => b.Id, cancel);
        var times = new StepTimes(all);
        return all.Where(a => a.BuildId == buildId).Select(a => View(a, all, times, own)).ToList();
    }

    /// <summary>Begins a sub-assembly with its usual steps; asked again with the same id it returns what is
    /// there.</summary>
    public async Task<SubAssembly> Begin(
        Guid buildId,
        Guid id,
        AssemblyKind kind,
        PanelSide side,
        string name,
        Guid? backWith,
        CancellationToken cancel
    )
    {
        if (await Again<SubAssembly>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        Refusal.When(
            !Enum.IsDefined(kind) || !Enum.IsDefined(side),
            "kind",
            "Say what is taken apart, and on which side."
        );
        await Check(buildId, backWith, cancel);
        var one = new SubAssembly
        {
            Id = id,
            BuildId = buildId,
            Kind = kind,
            Side = side,
            Name = Refusal.Text(name, "name", 80),
            BackWith = backWith,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        one.Plan(Assemblies.Steps(kind));
        Db.Add(one);
        await Save(cancel);
        return one;
    }

    /// <summary>Changes name, steps and the operation by which it is back together.</summary>
    public async Task<SubAssembly> Change(
        Guid id,
        string name,
        Guid? backWith,
        List<TeardownStep> steps,
        uint? version,
        CancellationToken cancel
    )
    {
        var one = await Find<SubAssembly>(id, "sub-assembly", cancel);
        Expect(one, version);
        await Check(one.BuildId, backWith, cancel);
        (one.Name, one.BackWith) = (Refusal.Text(name, "name", 80), backWith);
        one.Plan(steps);
        await Save(cancel);
        return one;
    }

    /// <summary>Runs, switches or stops the clock of a step; before it runs, its caution is read.</summary>
    public async Task<SubAssembly> Count(
        Guid id,
        string step,
        StepClock counts,
        CancellationToken cancel,
        bool acknowledged = false
    )
    {
        var one = await Find<SubAssembly>(id, "sub-assembly", cancel);
        if (counts != StepClock.Stopped && Actor.PersonId is { } person)
        {
            var named = one.Steps.FirstOrDefault(s => s.Key == step) ?? throw Refusal.Missing("step");
            await cautions.Ask(one.BuildId, named.Name, person, named.Hazard, acknowledged, Clock.Now, false, cancel);
        }

        one.Count(step, counts, Clock.Now);
        await Save(cancel);
        return one;
    }

    /// <summary>Closes a step; its bag gets the shop's next number in the same moment, all or nothing.</summary>
    public async Task<SubAssembly> Close(Guid id, string step, StepClosed closed, CancellationToken cancel)
    {
        var one = await Find<SubAssembly>(id, "sub-assembly", cancel);
        if (one.State(step) is { IsOff: true, BagId: { } known } && known == closed.BagId)
        {
            return one;
        }

        var entered = closed.Bag;
        Refusal.When(
            entered is not null && entered.Side != one.Side,
            "side",
            "What comes off one side goes into a bag of that side."
        );
        await RefuseOtherCount(one, step, closed, cancel);
        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        one.Close(
            step,
            entered is null ? null : closed.BagId,
            entered?.PhotoId,
            entered?.NoPhoto ?? true,
            closed.OutOfOrderWhy,
            closed.Note,
            closed.DoingSeconds is { } doing ? (doing, closed.FindingSeconds ?? 0) : null,
            Actor.Name,
            Clock.Now
        );
        if (entered is not null)
        {
            await bags.PutWithin(one.BuildId, closed.BagId, entered, null, cancel);
        }

        await Save(cancel);
        await all.CommitAsync(cancel);
        return one;
    }

    /// <summary>Marks a step as back on the car, or takes that back; its bag goes with it.</summary>
    public async Task<SubAssembly> PutBack(Guid id, string step, bool back, CancellationToken cancel)
    {
        var one = await Find<SubAssembly>(id, "sub-assembly", cancel);
        one.PutBack(step, back, Clock.Now);
        if (back && one.State(step).BagId is { } bag)
        {
            await bags.Move(bag, Guid.CreateVersion7(), BagState.OnCar, "", "back on", cancel);
        }

        await Save(cancel);
        return one;
    }

    /// <summary>The list by which a sub-assembly is put back, with what must still come.</summary>
    public async Task<(SubAssembly Of, Reassembly List)> Back(Guid id, CancellationToken cancel)
    {
        var one = await Find<SubAssembly>(id, "sub-assembly", cancel);
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var today = await Today(cancel);
        var view = await plan.Look(cancel);
        var start =
            one.BackWith is { } operation && view.Operations.TryGetValue(operation, out var planned)
                ? planned.Start.InZone(zone).Date
                : (LocalDate?)null;
        var own = await Db
            .Bags.AsNoTracking()
            .Where(b => b.BuildId == one.BuildId)
            .ToDictionaryAsync(b => b.Id, cancel);
        var parts = await Db
            .Parts.AsNoTracking()
            .Where(p => p.BuildId == one.BuildId && p.BagId != null)
            .OrderBy(p => p.Seq)
            .ToListAsync(cancel);
        var suppliers = await Db.Suppliers.AsNoTracking().ToDictionaryAsync(s => s.Id, cancel);
        var jobs = await Db.OutsideJobs.AsNoTracking().Where(j => j.SentOn != null).ToListAsync(cancel);
        var late = OutsideJob.Lateness(jobs);
        var away = jobs.Where(j => j.BuildId == one.BuildId && j.IsAway)
            .GroupBy(j => suppliers[j.SupplierId].Name)
            .ToDictionary(
                g => g.Key,
                g => g.Select(j => j.Expected(suppliers[j.SupplierId], late, today)).MaxBy(d => d.High)
            );
        var ordered = await Db
            .Parts.AsNoTracking()
            .Where(p => p.OrderedOn != null && p.ReceivedOn != null)
            .Select(p => new
            {
                p.SupplierId,
                Ordered = p.OrderedOn!.Value,
                Received = p.ReceivedOn!.Value,
            })
            .ToListAsync(cancel);
        LeadTime Lead(Guid? supplier) =>
            LeadTimes.Of(
                ordered
                    .Where(o => o.SupplierId == supplier)
                    .Select(o => Period.DaysBetween(o.Ordered, o.Received))
                    .ToList(),
                ordered.Select(o => Period.DaysBetween(o.Ordered, o.Received)).ToList()
            );
        var closed = (await Db.ClosedDays.AsNoTracking().Select(d => d.Date).ToListAsync(cancel)).ToHashSet();
        var worked = shop.Week.Select(d => d.Day).ToHashSet();
        bool Works(LocalDate d) => (worked.Count == 0 || worked.Contains(d.DayOfWeek)) && !closed.Contains(d);
        var hours =
            shop.Week.Count == 0
                ? 8
                : (decimal)
                    shop
                        .Week.Where(d => d.Day == shop.Week[0].Day)
                        .Sum(d =>
                            Period.Between(d.From, d.To, PeriodUnits.Minutes).Minutes
                            - d.Breaks.Sum(b => Period.Between(b.From, b.To, PeriodUnits.Minutes).Minutes)
                        ) / 60;
        LocalDate Back(LocalDate d)
        {
            while (!Works(d))
            {
                d = d.PlusDays(-1);
            }

            return d;
        }

        LocalDate On(LocalDate d, int days)
        {
            while (days > 0 || !Works(d))
            {
                days -= Works(d) ? 1 : 0;
                d = d.PlusDays(1);
            }

            return d;
        }

        var all = await Db.SubAssemblies.AsNoTracking().ToListAsync(cancel);
        return (
            one,
            Reassembly.Of(
                new(
                    one,
                    own,
                    parts,
                    away,
                    Lead,
                    s => s is { } x && suppliers.TryGetValue(x, out var found) ? found.Name : "",
                    new StepTimes(all),
                    today,
                    start,
                    hours,
                    Back,
                    On
                )
            )
        );
    }

    /// <summary>A count that is not the other side's is asked for once: a fastener may still be in the car.</summary>
    private async Task RefuseOtherCount(SubAssembly one, string step, StepClosed closed, CancellationToken cancel)
    {
        if (closed.Bag is null || closed.CountsDiffer)
        {
            return;
        }

        var others = await Db.SubAssemblies.AsNoTracking().Where(a => a.BuildId == one.BuildId).ToListAsync(cancel);
        if (
            StepTimes.Twin(one, others)?.State(step).BagId is { } twin
            && await Db.Bags.AsNoTracking().SingleOrDefaultAsync(b => b.Id == twin, cancel) is { } bag
        )
        {
            var (mine, theirs) = (closed.Bag.Fasteners.Sum(f => f.Count), bag.FastenerCount);
            Refusal.When(
                mine != theirs,
                "fasteners",
                $"{bag.Label} on the other side holds {theirs}, this {mine}. Look once more, or say that it is so."
            );
        }
    }

    private async Task Check(Guid buildId, Guid? backWith, CancellationToken cancel) =>
        Refusal.When(
            backWith is { } o
                && !await Db.Operations.AnyAsync(x => x.Id == o && x.BuildId == buildId && !x.Removed, cancel),
            "backWith",
            "There is no such operation on this build."
        );

    private static AssemblyView View(
        SubAssembly one,
        List<SubAssembly> all,
        StepTimes times,
        Dictionary<Guid, Bag> own
    ) => new(one, StepTimes.Twin(one, all), one.Steps.ToDictionary(s => s.Key, s => times.Of(one, s)), own);
}
