using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>Makes the plan of all builds from what is recorded.</summary>
public sealed class PlanDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    IPlanner planner,
    ShopCache cache,
    PlanReader reader,
    FutureCount futures,
    ShopChanges changes,
    Renewed<List<BuildChance>> chances,
    Renewed<PlanAdvice> advice
) : Desk(db, clock, current)
{
    /// <summary>As far ahead as kept times are looked through, and it is told how full somebody is.</summary>
    private const int WeeksAhead = 4;

    /// <summary>The chances of every build, from a thousand sampled futures; today's are kept with the first look of a
    /// day.</summary>
    public async Task<List<BuildChance>> Chances(CancellationToken cancel) =>
        (await Anew(chances, d => d.Draw(), cancel)).Value;

    /// <summary>The chances by the last futures that were drawn, and when that was; where something has changed since,
    /// new ones are drawn beside it.</summary>
    /// <returns>None at all where none were drawn yet.</returns>
    public async Task<(Instant? At, List<BuildChance> Chances)> LastChances(CancellationToken cancel)
    {
        if (chances.Renew is null)
        {
            var now = await Anew(chances, d => d.Draw(), cancel);
            return (now.At, now.Value);
        }

        return await Newest(chances, cancel) is { } last ? (last.At, last.Value) : (null, []);
    }

    /// <summary>What the plan advises now. Where that takes long it is what it advised last, without what was settled
    /// since: what was asked since has no days yet, and nothing is said of all together.</summary>
    public async Task<PlanAdvice> Advise(CancellationToken cancel)
    {
        if (IsWithinChange || advice.Renew is null || advice.Last is null)
        {
            return await RenewAdvice(cancel);
        }

        var last = (await Newest(advice, cancel))!.Value.Value;
        if (advice.Is(State()))
        {
            return last;
        }

        var open = await Db.Decisions.AsNoTracking().Where(d => d.SettledAt == null).ToListAsync(cancel);
        var settled = await Settled(cancel);
        return last with
        {
            DaysWaiting = null,
            Decisions =
            [
                .. last.Decisions.Where(r => open.Exists(d => d.Id == r.Decision.Id)),
                .. open.Where(d => last.Decisions.All(r => r.Decision.Id != d.Id))
                    .Select(d => new RankedDecision(d, null, d.BuildId)),
            ],
            Contentions = [.. last.Contentions.Where(c => !settled.Contains((c.First, c.Second)))],
        };
    }

    /// <summary>Advises anew, however long that takes.</summary>
    public async Task<PlanAdvice> RenewAdvice(CancellationToken cancel) =>
        (await Anew(advice, d => d.MakeAdvice(), cancel)).Value;

    /// <summary>Made for the present state; it is the last from now on, unless it was made of what nobody else sees
    /// yet.</summary>
    private async Task<MadeFor<T>> Anew<T>(Renewed<T> renewed, Func<PlanDesk, Task<T>> make, CancellationToken cancel)
        where T : class
    {
        var made = await Made(make, cancel);
        if (!IsWithinChange)
        {
            renewed.Take(made.State, made.At, made.Value);
        }

        return made;
    }

    private async Task<(Instant At, T Value)?> Newest<T>(Renewed<T> renewed, CancellationToken cancel)
        where T : class
    {
        if (!renewed.Is(State()) && renewed.Renew is { } renew)
        {
            await Task.WhenAny(renew(), Task.Delay(renewed.Patience.ToTimeSpan(), cancel));
        }

        return renewed.Last;
    }

    /// <summary>With the state that it was made for.</summary>
    private sealed record MadeFor<T>(PlanState State, Instant At, T Value)
        where T : class;

    /// <summary>Made once for the present state; within a change that is not kept yet, for that alone.</summary>
    private async Task<MadeFor<T>> Made<T>(Func<PlanDesk, Task<T>> make, CancellationToken cancel)
        where T : class
    {
        var state = State();
        return await Once<PlanDesk, MadeFor<T>>(cache, state, async d => new(state, Clock.Now, await make(d)), cancel);
    }

    /// <summary>What the plan is made from, read once for all; nobody changes it.</summary>
    private async Task<PlanFacts> Facts(CancellationToken cancel) => (await Made(d => d.ReadFacts(), cancel)).Value;

    private Task<PlanFacts> ReadFacts() => reader.Read(CancellationToken.None);

    /// <summary>What was recorded so far, and the five minutes that it is.</summary>
    private PlanState State() => new(changes.ForPlan, Clock.FiveMinutes);

    private async Task<List<BuildChance>> Draw()
    {
        var facts = await Facts(CancellationToken.None);
        var beliefs = await reader.Believed(CancellationToken.None);
        var outlook = Outlook.Of(facts.Problem(), beliefs, futures.Of, threads: futures.Threads);
        return
        [
            .. Open(facts, outlook.Builds.Values, b => b.Build)
                .Select(b => new BuildChance(
                    Guid.Parse(b.Build),
                    DayOf(facts, b.P20),
                    DayOf(facts, b.P50),
                    DayOf(facts, b.P80),
                    DayOf(facts, b.P90),
                    DayOf(facts, b.P95),
                    b.Kept is { } kept ? Math.Round((decimal)kept, 3) : null,
                    b.Risks.Where(r => Guid.TryParse(r.Operation, out _))
                        .Select(r => new RiskRow(Guid.Parse(r.Operation), (decimal)r.Days))
                        .ToList(),
                    b.Partly
                )),
        ];
    }

    /// <summary>The day by which a build is finished in half of the futures; null: it is not open, or some of its work
    /// has no date.</summary>
    public async Task<LocalDate?> Likely(Guid buildId, CancellationToken cancel) =>
        (await Chances(cancel)).FirstOrDefault(c => c.Id == buildId && !c.Partly)?.P50;

    /// <summary>The likely day if one question were answered now and the others stay open: by the same futures, never
    /// later than with all of them open.</summary>
    public async Task<LocalDate?> LikelyAnswered(Guid buildId, Guid decision, CancellationToken cancel)
    {
        var (facts, open) = (await Facts(cancel), await Likely(buildId, cancel));
        if (open is not { } likely || facts.Decisions.All(d => d.Id != decision))
        {
            return open;
        }

        var answered = Outlook.Of(
            facts.Problem([.. facts.Decisions.Where(d => d.Id != decision)]),
            await reader.Believed(cancel),
            futures.Of
        );
        return LocalDate.Min(likely, DayOf(facts, answered.Builds[buildId.ToString()].P50));
    }

    /// <summary>The day by which a build is finished in eight of ten futures; null: it is not open, or some of its work
    /// has no date.</summary>
    public async Task<LocalDate?> InTenBy(Guid buildId, CancellationToken cancel) =>
        (await Chances(cancel)).FirstOrDefault(c => c.Id == buildId && !c.Partly)?.P80;

    /// <summary>The problem as it stands now, for a search or for a file.</summary>
    public async Task<PlanProblem> Present(CancellationToken cancel) => (await Facts(cancel)).Problem();

    /// <summary>Keeps the forecast of a night, once; of a build that has work without a date nothing is kept: the days
    /// of the rest are no forecast of its end.</summary>
    /// <returns>Whether it was not kept before.</returns>
    public async Task<bool> KeepNight(CancellationToken cancel)
    {
        var shop = await Shop(cancel);
        var today = Clock.Now.InZone(DateTimeZoneProviders.Tzdb[shop.TimeZone]).Date;
        if (await Db.ForecastNights.AnyAsync(n => n.On == today, cancel))
        {
            return false;
        }

        var (view, whole) = (await Look(cancel), (await Chances(cancel)).Where(c => !c.Partly).ToList());
        foreach (var chance in whole)
        {
            var holds = await Holding(view, chance.Id, cancel);
            Db.ForecastNights.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = chance.Id,
                    On = today,
                    P50 = chance.P50,
                    P80 = chance.P80,
                    P90 = chance.P90,
                    Kept = chance.Kept,
                    HoldsKind = holds.Kind,
                    Holds = Core.Words.Shortened(holds.Text, 200),
                }
            );
        }

        await Db.SaveChangesAsync(cancel);
        return whole.Count > 0;
    }

    /// <summary>What holds a build whatever the hour of the day: the first of its work that waits for somebody or
    /// something.</summary>
    private async Task<PlanReason> Holding(PlanView view, Guid buildId, CancellationToken cancel)
    {
        var first = view
            .Operations.Values.Where(o =>
                o.BuildId == buildId
                && o.Reason.Kind is not (WaitKind.Calendar or WaitKind.Nothing or WaitKind.Operation or WaitKind.Cure)
            )
            .MinBy(o => o.Start);
        if (first is null)
        {
            return view.Builds[buildId].Holds;
        }

        var name = await Db
            .Operations.AsNoTracking()
            .Where(o => o.Id == first.Id)
            .Select(o => o.Name)
            .SingleAsync(cancel);
        return first.Reason with { Text = $"{name}: {first.Reason.Text}" };
    }

    /// <summary>Without the paused ones: their vehicles stand in the plan, and they have no finish.</summary>
    private static IEnumerable<T> Open<T>(PlanFacts facts, IEnumerable<T> rows, Func<T, string> build)
    {
        var open = facts.Builds.Select(b => b.Id.ToString()).ToHashSet();
        return rows.Where(r => open.Contains(build(r)));
    }

    private static LocalDate DayOf(PlanFacts facts, long minute) => facts.Calendar.Local(minute).Date;

    /// <summary>The plan as it stands now.</summary>
    public async Task<PlanView> Look(CancellationToken cancel) => (await Made(d => d.MakeView(), cancel)).Value;

    /// <summary>Two builds that want the same, where it moves a promise who goes first; what was settled lately is left
    /// out.</summary>
    public async Task<List<ContentionRow>> Contentions(CancellationToken cancel) =>
        (await RenewAdvice(cancel)).Contentions.ToList();

    private List<ContentionRow> Contending(PlanProblem problem, ShopPlan open, HashSet<(Guid, Guid)> settled)
    {
        return
        [
            .. Contention
                .Of(problem, open, planner)
                // What the plan put in by itself has no place of its own in the queue.
                .Where(c => Guid.TryParse(c.Operation, out _))
                .Where(c => !settled.Contains((Guid.Parse(c.First), Guid.Parse(c.Second))))
                .Select(c => new ContentionRow(
                    Guid.Parse(c.First),
                    Guid.Parse(c.Second),
                    Guid.Parse(c.Operation),
                    c.Kind,
                    c.Over,
                    c.FirstLoses,
                    c.SecondGains,
                    c.Turning
                )),
        ];
    }

    private async Task<PlanAdvice> MakeAdvice()
    {
        var facts = await Facts(CancellationToken.None);
        var settled = await Settled(CancellationToken.None);
        return Advice(facts, settled);
    }

    /// <summary>Pairs of which it was said lately who goes first, each way round.</summary>
    private async Task<HashSet<(Guid, Guid)>> Settled(CancellationToken cancel)
    {
        var since = Clock.Now - Duration.FromDays(SettledContention.Holds);
        var pairs = await Db
            .SettledContentions.AsNoTracking()
            .Where(c => c.RecordedAt > since)
            .Select(c => new { c.First, c.Second })
            .ToListAsync(cancel);
        return [.. pairs.SelectMany(c => new[] { (c.First, c.Second), (c.Second, c.First) })];
    }

    private PlanAdvice Advice(PlanFacts facts, HashSet<(Guid, Guid)> settled)
    {
        var problem = facts.Problem();
        var open = planner.Plan(problem);
        var ranked = new List<RankedDecision>();
        foreach (var decision in facts.Decisions)
        {
            var taken = planner.Plan(facts.Problem([.. facts.Decisions.Where(d => d.Id != decision.Id)]));
            var (worst, minutes) = facts
                .Builds.Select(b =>
                    (b.Id, Late: open.Builds[b.Id.ToString()].Finish - taken.Builds[b.Id.ToString()].Finish)
                )
                .MaxBy(x => x.Late);
            ranked.Add(new(decision, InDays.Of(Math.Max(0, minutes)), minutes > 0 ? worst : decision.BuildId));
        }

        var allTaken = facts.Decisions.Count == 0 ? open : planner.Plan(facts.Problem([]));
        var waiting = facts.Builds.Sum(b =>
            Math.Max(0, open.Builds[b.Id.ToString()].Finish - allTaken.Builds[b.Id.ToString()].Finish)
        );
        return new(
            ranked.OrderByDescending(r => r.Days).ThenBy(r => r.Decision.DueOn).ThenBy(r => r.Decision.Seq).ToList(),
            InDays.Of(waiting),
            CoverNeed
                .Of(problem, open, planner)
                .ToDictionary(
                    n => Guid.Parse(n.Build),
                    n => new NextCover(
                        DayOf(facts, n.By),
                        facts.Builds.First(b => b.Id == Guid.Parse(n.Build)).Terms.Spending is { AsFarAsPaid: true }
                            ? facts.Covers[Guid.Parse(n.Build)].Short
                            : n.Amount
                    )
                ),
            Contending(problem, open, settled)
        );
    }

    /// <summary>By how many days operations move the likely finish of their build, once the question that holds them is
    /// answered.</summary>
    public async Task<decimal> DaysOf(
        Guid buildId,
        IReadOnlySet<Guid> operations,
        Guid? decision,
        CancellationToken cancel
    )
    {
        var facts = await reader.ReadApart(cancel);
        var key = buildId.ToString();
        var others = facts.Decisions.Where(d => d.Id != decision).ToList();
        if (operations.Count == 0 || planner.Plan(facts.Problem(others)).Builds.GetValueOrDefault(key) is not { } with)
        {
            return 0;
        }

        var left = facts.Operations.ToList();
        foreach (var gone in facts.Operations.Where(o => operations.Contains(o.Id)))
        {
            left.Remove(gone);
            foreach (var next in left.Where(o => o.After.Any(a => a.Operation == gone.Id)))
            {
                next.After =
                [
                    .. next.After.Where(a => a.Operation != gone.Id).Concat(gone.After).DistinctBy(a => a.Operation),
                ];
            }
        }

        return InDays.Of(
            with.Finish - planner.Plan((facts with { Operations = left }).Problem(others)).Builds[key].Finish
        );
    }

    /// <summary>
    /// By how many days the planned finish of a build moves when its sequence is changed so; nothing is kept. The build
    /// is planned as if it were alone in the shop: what changes the place of a build in the queue is no answer to what
    /// the work itself takes.
    /// </summary>
    /// <param name="change">Makes the build's new sequence of its operations.</param>
    /// <returns>Null: some of its work has no date.</returns>
    public async Task<decimal?> DaysWith(
        Guid buildId,
        Func<List<Operation>, List<Operation>> change,
        CancellationToken cancel
    )
    {
        var (facts, key) = (await reader.ReadApart(cancel), buildId.ToString());
        var own = facts.Operations.Where(o => o.BuildId == buildId).ToList();
        var alone = facts with
        {
            Builds = [.. facts.Builds.Where(b => b.Id == buildId)],
            Paused = [],
            Operations = own,
        };
        if (planner.Plan(alone.Problem()).Builds.GetValueOrDefault(key) is not { Partly: false } now)
        {
            return null;
        }

        return planner.Plan((alone with { Operations = change(own) }).Problem()).Builds[key] is { Partly: false } then
            ? InDays.Of(then.Finish - now.Finish)
            : null;
    }

    private async Task<PlanView> MakeView()
    {
        var facts = await Facts(CancellationToken.None);
        var problem = facts.Problem();
        var open = planner.Plan(problem);
        var lanes = new Lazy<PlanLanes>(() => PlanLanes.Of(problem, open));
        var measured = facts
            .Parts.Where(p => p.MeasuredBy is not null)
            .ToDictionary(p => p.Id, p => p.MeasuredBy!.Value);
        PlanReason Shown(PlanReason r) =>
            r with
            {
                Ref = ShopReference.Of(r.Ref, measured),
                Text = r.Dated(facts.Calendar),
            };
        WhyView Told(PlanWhy why) =>
            new(
                [.. why.Roots.Select(Shown)],
                [.. why.Steps.Select(s => s with { Reason = Shown(s.Reason) })],
                why.WithoutThem is { } at ? At(at) : null
            );
        return new(
            open.Operations.Values.Where(o => Guid.TryParse(o.Id, out _))
                .ToDictionary(
                    o => Guid.Parse(o.Id),
                    o => new OperationForecast(
                        Guid.Parse(o.Id),
                        Guid.Parse(o.Build),
                        At(o.Start),
                        At(o.Finish),
                        o.Person is null ? null : Guid.Parse(o.Person),
                        new(() => Shown(o.Reason))
                    )
                    {
                        People = [.. o.People.Select(Guid.Parse)],
                        Minutes = o.Worked.Sum(w => w.End - w.Start),
                        PlaceId = Guid.TryParse(o.Place, out var place) ? place : null,
                        Assumes = o.Assumes,
                        MissesDeadline = o.MissesDeadline,
                        StartBy = o.StartBy is { } by ? At(by) : null,
                    }
                ),
            Open(facts, open.Builds.Values, b => b.Id)
                .ToDictionary(
                    b => Guid.Parse(b.Id),
                    b => new BuildForecast(
                        Guid.Parse(b.Id),
                        At(b.Finish),
                        Guid.TryParse(b.First, out var first) ? first : null,
                        new(() => Shown(b.Holds)),
                        b.Partly
                    )
                )
        )
        {
            WhyOf = id => Told(open.Why(id.ToString())),
            Used = new(() => PlanFigures.Of(facts, problem, open, WeeksAhead).Used),
            Lanes = lanes,
            FullBooth = new(() => FullPlace.Of(problem, lanes.Value.Holds, nameof(StationKind.Booth))),
            WeekOf = (from, to) => WeekDraft.Of(problem, open, lanes.Value, from, to),
            SlackOf = id => open.SlackOf(id.ToString()) is { } slack ? InDays.Of(slack) : null,
            FollowersOf = id => PlanLanes.After(problem, open, id.ToString()),
            KeptAhead = new(() => KeptTime.Ahead(problem, open, WeeksAhead)),
            Without = open
                .Unplanned.Where(u => Guid.TryParse(u.Operation, out _))
                .Select(u => new WithoutDate(Guid.Parse(u.Operation), Guid.Parse(u.Build), Shown(u.Reason)))
                .ToList(),
            OutOfReach =
            [
                .. open
                    .OutOfReach.Where(r => Guid.TryParse(r.Operation, out _))
                    .Select(r => new ReachRow(
                        Guid.Parse(r.Operation),
                        Guid.Parse(r.Build),
                        r.Why,
                        Guid.TryParse(r.Until, out var until) ? until : null
                    )),
            ],
            Inserted =
            [
                .. open.Inserted.Select(i => new InsertedRow(Guid.Parse(i.Build), i.Name, Guid.Parse(i.Before), i.Why)),
            ],
            Stays =
            [
                .. open.Stays.Select(s => new StayRow(
                    Guid.Parse(s.Build),
                    s.Place is { } at ? Guid.Parse(at) : null,
                    At(s.From),
                    s.To is { } to ? At(to) : null,
                    Guid.TryParse(s.For, out var on) ? on : null,
                    s.Move is { } move ? At(move.Start) : null,
                    [.. s.MovedBy.Select(Guid.Parse)],
                    s.Gone
                )),
            ],
        };
    }

    private static Instant At(long minute) => Instant.FromUnixTimeSeconds(minute * 60);

    /// <summary>What the plan says if an operation starts no sooner than the first minute of a day.</summary>
    /// <returns>Null: it has no date.</returns>
    /// <exception cref="Core.Refusal">The day has passed.</exception>
    public async Task<StartedOn?> StartsOn(Guid operation, LocalDate on, CancellationToken cancel)
    {
        var facts = await Facts(cancel);
        var (problem, today) = (facts.Problem(), DayOf(facts, facts.Now));
        Core.Refusal.When(on < today, "on", "Nothing starts in the past.");
        var from = Math.Max(facts.Now, facts.Calendar.Minute(on.AtMidnight()));
        return StartedOn.Of(problem, planner, operation.ToString(), from);
    }

    /// <summary>The times of the week that are kept for a build: why the next unused one is unused, and how many were
    /// missed in the last eight weeks.</summary>
    public async Task<List<KeptRow>> KeptFor(Guid buildId, CancellationToken cancel)
    {
        const int WeeksBack = 8;
        var facts = await Facts(cancel);
        var mine = facts.People.Where(p => p.Terms.Slots.Exists(s => s.BuildId == buildId)).ToList();
        if (mine.Count == 0 || facts.Builds.All(b => b.Id != buildId))
        {
            return [];
        }

        var (problem, key) = (facts.Problem(), buildId.ToString());
        var opened = facts.Builds.Single(b => b.Id == buildId).OpenedOn;
        var ahead = (await Look(cancel)).KeptAhead.Value.Where(k => k.Build == key).ToList();
        var since = Clock.Now - Duration.FromDays(7 * (WeeksBack + 1));
        var worked = (
            await Db
                .TimeEntries.AsNoTracking()
                .Where(e => e.BuildId == buildId && e.ReplacedBy == null && !e.Void && e.Start > since)
                .ToListAsync(cancel)
        ).ToLookup(
            e => e.PersonId,
            e => new Span(e.Start.ToUnixTimeSeconds() / 60, (e.Stop ?? Clock.Now).ToUnixTimeSeconds() / 60)
        );
        return [.. mine.SelectMany(p => p.Terms.Slots.Where(s => s.BuildId == buildId).Select(s => Row(p, s)))];

        KeptRow Row(Person p, KeptSlot slot)
        {
            var (person, from) = (
                problem.People.Single(x => x.Id == p.Id.ToString()),
                slot.From.Hour * 60 + slot.From.Minute
            );
            var unused = ahead.FirstOrDefault(k =>
                k.Person == person.Id
                && k.Why is not null
                && facts.Calendar.Local(k.From) is var at
                && at.DayOfWeek == slot.Day
                && at.TimeOfDay == slot.From
            );
            return new(
                p.Id,
                slot,
                unused?.Why,
                unused is null ? null : DayOf(facts, unused.From),
                KeptTime.Missed(
                    problem,
                    person,
                    person.Slots.First(x => x.Build == key && x.Day == slot.Day && x.From == from),
                    WeeksBack,
                    slot.Since ?? opened,
                    worked[p.Id]
                )
            );
        }
    }

    /// <summary>Says who goes first of two builds; where they are turned round, the queue changes, or the accepted
    /// order where one is in force.</summary>
    public async Task SettleContention(Guid id, Guid first, Guid second, bool turned, CancellationToken cancel)
    {
        if (await Db.SettledContentions.FindAsync([id], cancel) is not null)
        {
            return;
        }

        var row = (await Contentions(cancel)).FirstOrDefault(c => c.First == first && c.Second == second);
        Core.Refusal.When(row is null, "first", "These two do not stand in each other's way any more.");
        if (turned)
        {
            foreach (var (build, rank) in row!.Turning.Ranks)
            {
                (await Build(Guid.Parse(build), cancel)).Priority = rank;
            }

            if (row.Turning.Turns is { } turns)
            {
                Db.Turns.Add(
                    new()
                    {
                        Id = Guid.CreateVersion7(),
                        Turns = turns.ToDictionary(),
                        AcceptedBy = Actor.Name,
                        LateBefore = row.Turning.LateBefore,
                        LateAfter = row.Turning.LateAfter,
                        RecordedAt = Clock.Now,
                        RecordedBy = Actor.AccountId,
                    }
                );
            }
        }

        Db.SettledContentions.Add(
            new()
            {
                Id = id,
                First = first,
                Second = second,
                Turned = turned,
                By = Actor.Name,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
        await Save(cancel);
    }

    /// <summary>Keeps the plan of a build as it stands: what later progress is held against.</summary>
    public async Task KeepBaseline(Guid buildId, string why, CancellationToken cancel)
    {
        var view = await Look(cancel);
        if (!view.Builds.TryGetValue(buildId, out var build))
        {
            return;
        }

        var operations = await Db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == buildId && !o.Removed)
            .OrderBy(o => o.Position)
            .ToListAsync(cancel);
        Db.Baselines.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                BuildId = buildId,
                Why = why,
                Finish = build.Finish,
                Rows =
                [
                    .. operations.Select(o =>
                        view.Operations.TryGetValue(o.Id, out var planned)
                            ? new BaselineRow(o.Id, o.Stage, o.BudgetMinutes, planned.Start, planned.Finish)
                            : new(o.Id, o.Stage, o.BudgetMinutes, o.DoneAt, o.DoneAt)
                    ),
                ],
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
        await Save(cancel);
    }
}
