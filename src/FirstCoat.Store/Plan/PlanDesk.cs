using FirstCoat.Core.Builds;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Outside;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Labour;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>When an operation runs by the plan, by whom, and why not earlier.</summary>
/// <param name="PersonId">The first of those who do it.</param>
public sealed record OperationForecast(Guid Id, Guid BuildId, Instant Start, Instant Finish, Guid? PersonId, PlanReason Reason);

/// <summary>When a build is likely finished, and what holds it now.</summary>
/// <param name="Partly">Some of its work has no date, so that the finish is only of the rest.</param>
public sealed record BuildForecast(Guid Id, Instant Finish, Guid? First, PlanReason Holds, bool Partly = false);

/// <summary>An operation that has no date, and why.</summary>
public sealed record WithoutDate(Guid OperationId, Guid BuildId, PlanReason Reason);

/// <summary>An operation that makes a finish unsure, by so many days.</summary>
public sealed record RiskRow(Guid OperationId, decimal Days);

/// <summary>When a build is finished in half, eight and nine of ten sampled futures.</summary>
/// <param name="Kept">Share of the futures that keep the promise; null: nothing is promised.</param>
public sealed record BuildChance(Guid Id, LocalDate P50, LocalDate P80, LocalDate P90, decimal? Kept, List<RiskRow> Risks);

/// <summary>An open decision with the days it costs the worst-hit build.</summary>
/// <param name="Taken">Each build's likely finish if this one were taken now and the others stay open.</param>
public sealed record RankedDecision(Decision Decision, decimal Days, Guid WorstBuild, IReadOnlyDictionary<Guid, Instant> Taken)
{
    /// <summary>What a week of leaving it open costs.</summary>
    public decimal CostPerWeek(LocalDate today, decimal delayPerDay) => WaitCost.PerWeek(Days, Period.DaysBetween(today, Decision.DueOn) + 1, delayPerDay);
}

/// <summary>The plan as the shop sees it.</summary>
/// <param name="DaysWaiting">Sum over builds of likely delay with all decisions left open, less with all taken now.</param>
public sealed record PlanView(IReadOnlyDictionary<Guid, OperationForecast> Operations, IReadOnlyDictionary<Guid, BuildForecast> Builds, IReadOnlyList<RankedDecision> Decisions, decimal DaysWaiting)
{
    public IReadOnlyList<WithoutDate> Without { get; init; } = [];

    /// <summary>An operation, what it waits for, what that waits for, and so on to the root.</summary>
    public IReadOnlyList<OperationForecast> Chain(Guid operation)
    {
        var chain = new List<OperationForecast>();
        for (Guid? at = operation; at is { } id && Operations.TryGetValue(id, out var planned) && !chain.Contains(planned);)
        {
            chain.Add(planned);
            at = planned.Reason.PointsAtOperation && Guid.TryParse(planned.Reason.Ref, out var next) ? next : null;
        }

        return chain;
    }
}

/// <summary>Keeps the last plan until something changes or five minutes have passed.</summary>
public sealed class PlanCache
{
    private (long Change, long Minute, PlanView View)? _last;
    private (long Change, long Minute, List<BuildChance> Chances)? _chances;

    internal List<BuildChance>? Chances(long change, long minute) => _chances is { } l && l.Change == change && l.Minute == minute ? l.Chances : null;

    internal void Set(long change, long minute, List<BuildChance> chances) => _chances = (change, minute, chances);

    internal PlanView? Get(long change, long minute) => _last is { } l && l.Change == change && l.Minute == minute ? l.View : null;

    internal void Set(long change, long minute, PlanView view) => _last = (change, minute, view);
}

/// <summary>Makes the plan of all builds from what is recorded.</summary>
public sealed class PlanDesk(ShopDb db, ShopClock clock, CurrentActor current, IPlanner planner, PlanCache cache, HistoryDesk history) : Desk(db, clock, current)
{
    /// <summary>The chances of every build, from a thousand sampled futures; today's are kept with the first look of a day.</summary>
    public async Task<List<BuildChance>> Chances(CancellationToken cancel)
    {
        var change = await Db.Audit.MaxAsync(a => (long?)a.Id, cancel) ?? 0;
        var minute = Clock.Now.ToUnixTimeSeconds() / 300;
        if (cache.Chances(change, minute) is { } known)
        {
            return known;
        }

        var facts = await Read(cancel);
        var outlook = Outlook.Of(Problem(facts, facts.Decisions), await Believed(cancel));
        var chances = outlook.Builds.Values.Select(b => new BuildChance(
            Guid.Parse(b.Build), DayOf(facts, b.P50), DayOf(facts, b.P80), DayOf(facts, b.P90), b.Kept is { } kept ? Math.Round((decimal)kept, 3) : null,
            b.Risks.Where(r => Guid.TryParse(r.Operation, out _)).Select(r => new RiskRow(Guid.Parse(r.Operation), (decimal)r.Days)).ToList())).ToList();
        cache.Set(change, minute, chances);
        return chances;
    }

    /// <summary>The problem as it stands now, for a search or for a file.</summary>
    public async Task<PlanProblem> Present(CancellationToken cancel)
    {
        var facts = await Read(cancel);
        return Problem(facts, facts.Decisions);
    }

    /// <summary>Keeps the forecast of a night, once.</summary>
    /// <returns>Whether it was not kept before.</returns>
    public async Task<bool> KeepNight(CancellationToken cancel)
    {
        var shop = await Shop(cancel);
        var today = Clock.Now.InZone(DateTimeZoneProviders.Tzdb[shop.TimeZone]).Date;
        if (await Db.ForecastNights.AnyAsync(n => n.On == today, cancel))
        {
            return false;
        }

        var (view, chances) = (await Look(cancel), await Chances(cancel));
        foreach (var chance in chances)
        {
            var holds = view.Builds[chance.Id].Holds;
            Db.ForecastNights.Add(new() { Id = Guid.CreateVersion7(), BuildId = chance.Id, On = today, P50 = chance.P50, P80 = chance.P80, P90 = chance.P90, Kept = chance.Kept, HoldsKind = holds.Kind, Holds = holds.Text.Length > 200 ? holds.Text[..200] : holds.Text });
        }

        await Db.SaveChangesAsync(cancel);
        return chances.Count > 0;
    }

    /// <summary>What was thought of a build's finish, night by night.</summary>
    public async Task<List<ForecastNight>> Nights(Guid buildId, CancellationToken cancel) =>
        await Db.ForecastNights.AsNoTracking().Where(n => n.BuildId == buildId).OrderBy(n => n.On).ToListAsync(cancel);

    private static LocalDate DayOf(Facts facts, long minute) => facts.Calendar.Local(minute).Date;

    private async Task<Beliefs> Believed(CancellationToken cancel)
    {
        var log = await history.Look(cancel);
        var trades = Enum.GetValues<Trade>().Select(t => (Trade: t, Bias: log.Of(t))).ToDictionary(x => x.Trade.ToString(), x => new Belief(x.Bias.Learned.Mean, x.Bias.Learned.Sd, x.Bias.Spread));
        var back = await Db.OutsideJobs.AsNoTracking().Where(j => j.SentOn != null && j.PromisedOn != null && j.BackOn != null).ToListAsync(cancel);
        var suppliers = back.Where(j => j.PromisedOn > j.SentOn && j.BackOn > j.SentOn).GroupBy(j => j.SupplierId).ToDictionary(g => g.Key.ToString(), g =>
        {
            var learned = Learning.Bias(g.Select(j => ((double)Period.DaysBetween(j.SentOn!.Value, j.BackOn!.Value), (double)Period.DaysBetween(j.SentOn!.Value, j.PromisedOn!.Value))));
            return new Belief(learned.Mean, learned.Sd, Belief.Prior.Spread);
        });
        return new(trades, suppliers);
    }

    /// <summary>The plan as it stands now.</summary>
    public async Task<PlanView> Look(CancellationToken cancel)
    {
        var change = await Db.Audit.MaxAsync(a => (long?)a.Id, cancel) ?? 0;
        var minute = Clock.Now.ToUnixTimeSeconds() / 300;
        if (cache.Get(change, minute) is { } known)
        {
            return known;
        }

        var view = Compute(await Read(cancel));
        cache.Set(change, minute, view);
        return view;
    }

    /// <summary>By how many days operations move the likely finish of their build, once the question that holds them is answered.</summary>
    public async Task<decimal> DaysOf(Guid buildId, IReadOnlySet<Guid> operations, Guid? decision, CancellationToken cancel)
    {
        var facts = await Read(cancel);
        var key = buildId.ToString();
        var others = facts.Decisions.Where(d => d.Id != decision).ToList();
        if (operations.Count == 0 || planner.Plan(Problem(facts, others)).Builds.GetValueOrDefault(key) is not { } with)
        {
            return 0;
        }

        foreach (var gone in facts.Operations.Where(o => operations.Contains(o.Id)).ToList())
        {
            facts.Operations.Remove(gone);
            foreach (var next in facts.Operations.Where(o => o.After.Any(a => a.Operation == gone.Id)))
            {
                next.After = [.. next.After.Where(a => a.Operation != gone.Id).Concat(gone.After).DistinctBy(a => a.Operation)];
            }
        }

        return Days(with.Finish - planner.Plan(Problem(facts, others)).Builds[key].Finish);
    }

    private sealed record Facts(
        ShopSettings Shop, WorkCalendar Calendar, List<Person> People, List<Station> Stations, List<Build> Builds, List<Operation> Operations,
        List<PartLine> Parts, List<OutsideJob> Jobs, List<Supplier> Suppliers, List<Decision> Decisions, Dictionary<Guid, Guid> LastPerson, long Now, Dictionary<string, double> Turns);

    private async Task<Facts> Read(CancellationToken cancel)
    {
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var closed = await Db.ClosedDays.AsNoTracking().Select(d => d.Date).ToListAsync(cancel);
        var builds = await Db.Builds.AsNoTracking().Where(b => b.Status == BuildStatus.Open).ToListAsync(cancel);
        var ids = builds.Select(b => b.Id).ToList();
        var operations = await Db.Operations.AsNoTracking().Where(o => ids.Contains(o.BuildId) && !o.Removed).OrderBy(o => o.Position).ToListAsync(cancel);
        var hands = await Db.TimeEntries.AsNoTracking().Where(e => ids.Contains(e.BuildId) && e.ReplacedBy == null && !e.Void)
            .GroupBy(e => new { e.OperationId, e.PersonId }).Select(g => new { g.Key.OperationId, g.Key.PersonId, Last = g.Max(e => e.Start) }).ToListAsync(cancel);
        return new(
            shop, new(WorkWeek.From(shop.Week), closed, zone),
            await Db.People.AsNoTracking().Where(p => p.Active).OrderBy(p => p.Name).ToListAsync(cancel),
            await Db.Stations.AsNoTracking().ToListAsync(cancel), builds, operations,
            await Db.Parts.AsNoTracking().Where(p => ids.Contains(p.BuildId) && p.OperationId != null && p.State < PartState.Received).ToListAsync(cancel),
            await Db.OutsideJobs.AsNoTracking().Where(j => ids.Contains(j.BuildId) && j.OperationId != null).ToListAsync(cancel),
            await Db.Suppliers.AsNoTracking().ToListAsync(cancel),
            await Db.Decisions.AsNoTracking().Where(d => ids.Contains(d.BuildId) && d.SettledAt == null).ToListAsync(cancel),
            hands.GroupBy(h => h.OperationId).ToDictionary(g => g.Key, g => g.MaxBy(h => h.Last)!.PersonId),
            TimeMinute(Clock.Now),
            await Db.Turns.AsNoTracking().Where(t => !t.Undone).OrderByDescending(t => t.Seq).Select(t => t.Turns).FirstOrDefaultAsync(cancel) ?? []);
    }

    private static long TimeMinute(Instant at) => at.ToUnixTimeSeconds() / 60;

    private PlanView Compute(Facts facts)
    {
        var open = planner.Plan(Problem(facts, facts.Decisions));
        var ranked = new List<RankedDecision>();
        foreach (var decision in facts.Decisions)
        {
            var taken = planner.Plan(Problem(facts, facts.Decisions.Where(d => d.Id != decision.Id).ToList()));
            var (worst, minutes) = facts.Builds.Select(b => (b.Id, Late: open.Builds[b.Id.ToString()].Finish - taken.Builds[b.Id.ToString()].Finish)).MaxBy(x => x.Late);
            ranked.Add(new(decision, Days(Math.Max(0, minutes)), minutes > 0 ? worst : decision.BuildId, facts.Builds.ToDictionary(b => b.Id, b => At(taken.Builds[b.Id.ToString()].Finish))));
        }

        var allTaken = facts.Decisions.Count == 0 ? open : planner.Plan(Problem(facts, []));
        var waiting = facts.Builds.Sum(b => Math.Max(0, open.Builds[b.Id.ToString()].Finish - allTaken.Builds[b.Id.ToString()].Finish));
        return new(
            open.Operations.Values.Where(o => Guid.TryParse(o.Id, out _)).ToDictionary(o => Guid.Parse(o.Id), o => new OperationForecast(Guid.Parse(o.Id), Guid.Parse(o.Build), At(o.Start), At(o.Finish), o.Person is null ? null : Guid.Parse(o.Person), o.Reason)),
            open.Builds.Values.ToDictionary(b => Guid.Parse(b.Id), b => new BuildForecast(Guid.Parse(b.Id), At(b.Finish), Guid.TryParse(b.First, out var first) ? first : null, b.Holds, b.Partly)),
            ranked.OrderByDescending(r => r.Days).ThenBy(r => r.Decision.DueOn).ThenBy(r => r.Decision.Seq).ToList(),
            Days(waiting))
        {
            Without = open.Unplanned.Where(u => Guid.TryParse(u.Operation, out _)).Select(u => new WithoutDate(Guid.Parse(u.Operation), Guid.Parse(u.Build), u.Reason)).ToList(),
        };
    }

    private static Instant At(long minute) => Instant.FromUnixTimeSeconds(minute * 60);

    private static decimal Days(long minutes) => Math.Round(minutes / 1440m, 1, MidpointRounding.AwayFromZero);

    private static PlanProblem Problem(Facts f, IReadOnlyList<Decision> decisions)
    {
        var people = f.People.Select(p => new PlanPerson(p.Id.ToString(), p.ShortName, p.Trades.Select(t => t.ToString()).ToHashSet(), new(p.Absences.Select(a => new Core.Plan.Span(f.Calendar.Minute(a.From), f.Calendar.Minute(a.To)))))).ToList();
        var stations = f.Stations.GroupBy(s => s.Kind).Select(g => new PlanStation(g.Key.ToString(), g.Sum(s => s.Count))).ToList();
        var trades = people.SelectMany(p => p.Trades).ToHashSet();
        var builds = f.Builds.OrderBy(b => b.FillIn).ThenBy(b => b.Priority).ThenBy(b => b.Number).Select(b =>
        {
            var all = f.Operations.Where(o => o.BuildId == b.Id).ToDictionary(o => o.Id);
            return new PlanBuild(b.Id.ToString(), $"{b.Number}", all.Values.Where(o => !o.IsDone).OrderBy(o => o.Position).Select(o => ToPlan(f, o, all, trades, decisions)).ToList())
            {
                Rank = b.Priority,
                FillIn = b.FillIn,
                Due = b.Brief.Promised is { } promised ? f.Calendar.Minute(promised.PlusDays(1).AtMidnight()) : null,
            };
        });
        return new(f.Now, f.Calendar, people, stations, builds.ToList()) { Turns = f.Turns };
    }

    private static PlanOperation ToPlan(Facts f, Operation o, Dictionary<Guid, Operation> all, HashSet<string> trades, IReadOnlyList<Decision> decisions)
    {
        var job = f.Jobs.FirstOrDefault(j => j.OperationId == o.Id && j.IsAway);
        var sent = job is not null && o.Kind == OperationKind.Outside;
        var trade = o.Kind == OperationKind.Work ? o.Trade?.ToString() : null;
        f.LastPerson.TryGetValue(o.Id, out var last);
        var person = o.PersonId ?? (last == Guid.Empty ? null : last);
        return new()
        {
            Id = o.Id.ToString(),
            Name = o.Name,
            Minutes = o.Kind == OperationKind.Work ? o.LeftMinutes : sent ? 0 : o.ClockMinutes,
            // Work for a trade that nobody has is planned on the clock, so that one gap does not take the plan away.
            Trade = trade is not null && trades.Contains(trade) ? trade : null,
            Person = person is { } p && f.People.Any(x => x.Id == p && x.Trades.Contains(o.Trade ?? default)) ? p.ToString() : null,
            Station = o.Station?.ToString(),
            // Longer than any shift cannot go without a stop: then it is planned like other work.
            WithoutStop = o.WithoutStop && o.LeftMinutes <= f.Calendar.LongestShift,
            ThroughBreak = true,
            After = o.After.Where(a => all.TryGetValue(a.Operation, out var before) && !before.IsDone).Select(a => new PlanLink(a.Operation.ToString(), a.LagMinutes)).ToList(),
            Waits = [.. Waits(f, o, all, job, decisions)],
        };
    }

    private static IEnumerable<PlanWait> Waits(Facts f, Operation o, Dictionary<Guid, Operation> all, OutsideJob? job, IReadOnlyList<Decision> decisions)
    {
        foreach (var link in o.After.Where(a => a.LagMinutes > 0))
        {
            if (all.TryGetValue(link.Operation, out var before) && before.DoneAt is { } done)
            {
                yield return new(WaitKind.Cure, TimeMinute(done) + link.LagMinutes, $"{before.Name} cures", before.Id.ToString());
            }
        }

        if (o.Kind == OperationKind.Cure && o.After.Select(a => all.GetValueOrDefault(a.Operation)).All(b => b?.DoneAt is not null) && o.After.Count > 0)
        {
            // It cures since its coat was done, not since now.
            var since = o.After.Max(a => TimeMinute(all[a.Operation].DoneAt!.Value));
            yield return new(WaitKind.Cure, since, "cures", o.Id.ToString());
        }

        if (job?.PromisedOn is { } promised)
        {
            var supplier = f.Suppliers.Single(s => s.Id == job.SupplierId);
            var here = supplier.HereOn(promised);
            yield return new(WaitKind.Outside, f.Calendar.Minute(here.AtMidnight()), $"{job.Title} at {supplier.Name}", job.Id.ToString()) { Supplier = supplier.Id.ToString() };
        }

        foreach (var part in f.Parts.Where(p => p.OperationId == o.Id && p.ExpectedOn is not null))
        {
            yield return new(WaitKind.Part, f.Calendar.Minute(part.ExpectedOn!.Value.AtMidnight()), part.Name, part.Id.ToString());
        }

        foreach (var decision in decisions.Where(d => d.Stops(o.Id)))
        {
            yield return new(WaitKind.Decision, f.Calendar.Minute(decision.DueOn.PlusDays(1).AtMidnight()), decision.Question, decision.Id.ToString());
        }
    }
}
