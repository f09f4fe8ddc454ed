using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>What somebody promises: the plan says how much of it lies in the week.</summary>
/// <param name="Minutes">Fewer than the plan has: so much of it; null: as the plan has it.</param>
public sealed record ChosenPromise(Guid OperationId, Guid PersonId, int? Minutes);

/// <summary>A week with what is planned in it, what was promised for it, and what has been done of it.</summary>
/// <param name="Draft">What the plan has in it from now on.</param>
/// <param name="Worked">Hours in it, by operation and person.</param>
/// <param name="DoneAt">By operation, when what was worked or promised in it was done.</param>
/// <param name="Past">Weeks that were counted, the last first.</param>
public sealed record WeekFacts(
    LocalDate Monday,
    LocalDate Today,
    WorkCalendar Calendar,
    CommittedWeek? Week,
    WeekDraft Draft,
    PlanView View,
    IReadOnlyList<Build> Builds,
    IReadOnlyList<Person> People,
    IReadOnlyList<Station> Stations,
    IReadOnlyList<WorkedHours> Worked,
    IReadOnlyDictionary<Guid, Instant> DoneAt,
    IReadOnlyDictionary<Guid, string> Names,
    IReadOnlyList<CommittedWeek> Past,
    Instant Now
)
{
    private DateTimeZone Zone => Calendar.Zone!;

    /// <summary>The day from which on the week can be counted: its last on which the shop works.</summary>
    public LocalDate CountedFrom =>
        Enumerable.Range(0, 7).Select(Monday.PlusDays).LastOrDefault(Calendar.WorksOn, Monday.PlusDays(4));

    /// <summary>The day on which a promise was kept, as far as it is known now.</summary>
    public LocalDate? KeptBy(WeekPromise promise) =>
        Week is { IsCounted: true }
            ? promise.KeptOn
            : promise.KeptBy(
                Monday,
                DoneAt.TryGetValue(promise.OperationId, out var done) ? done : null,
                Worked
                    .Where(w => w.Operation == promise.OperationId && w.Person == promise.PersonId)
                    .Select(w => new WorkedTime(w.From, w.To ?? Now)),
                Zone
            );

    /// <summary>Whether the plan still brings a promise that is open in its week.</summary>
    public bool IsOnItsWay(WeekPromise promise)
    {
        var planned = Draft.Work.FirstOrDefault(w =>
            w.Operation == promise.OperationId.ToString() && w.Person == promise.PersonId.ToString()
        );
        if (promise.Whole)
        {
            return planned is { Whole: true }
                || Draft.Work.Any(w => w.Operation == promise.OperationId.ToString() && w.Whole);
        }

        var worked = Worked
            .Where(w => w.Operation == promise.OperationId && w.Person == promise.PersonId)
            .Sum(w => ((w.To ?? Now) - w.From).TotalMinutes);
        return worked + (planned?.Minutes ?? 0) >= promise.Minutes;
    }

    /// <summary>Operations that were done in the week and promised by nobody.</summary>
    public int Extra()
    {
        var promised = (Week?.Promises ?? []).Select(p => p.OperationId).ToHashSet();
        var (start, end) = (Start(Monday), Start(Monday.PlusDays(7)));
        return DoneAt.Count(d => !promised.Contains(d.Key) && d.Value >= start && d.Value < end);
    }

    private Instant Start(LocalDate day) => Zone.AtStartOfDay(day).ToInstant();
}

/// <summary>Commands of the week: what is promised on Monday, and what came of it.</summary>
public sealed class WeekDesk(ShopDb db, ShopClock clock, CurrentActor current, PlanDesk plan) : Desk(db, clock, current)
{
    /// <summary>Weeks back that are shown.</summary>
    private const int Back = 12;

    /// <summary>A week as it stands.</summary>
    /// <param name="of">Any day of it; null: this week.</param>
    public async Task<WeekFacts> Look(LocalDate? of, CancellationToken cancel)
    {
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var today = Clock.Now.InZone(zone).Date;
        Plausible(of, "of");
        var monday = (of ?? today).With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));
        var (start, end) = (zone.AtStartOfDay(monday).ToInstant(), zone.AtStartOfDay(monday.PlusDays(7)).ToInstant());
        var view = await plan.Look(cancel);
        var week = await Db.CommittedWeeks.SingleOrDefaultAsync(w => w.Monday == monday, cancel);
        var worked = await Db
            .TimeEntries.AsNoTracking()
            .Where(e => e.Start < end && (e.Stop == null || e.Stop > start) && e.ReplacedBy == null && !e.Void)
            .Where(e => e.Start > start - Duration.FromDays(1))
            .OrderBy(e => e.Start)
            .Select(e => new WorkedHours(e.OperationId, e.BuildId, e.PersonId, e.Start, e.Stop))
            .ToListAsync(cancel);
        var draft = view.WeekOf(Minute(start), Minute(end));
        var seen = worked
            .Select(w => w.Operation)
            .Concat((week?.Promises ?? []).Select(p => p.OperationId))
            .Distinct()
            .ToList();
        var operations = await Db
            .Operations.AsNoTracking()
            .Where(o => seen.Contains(o.Id) || (o.DoneAt >= start && o.DoneAt < end && o.Kind == OperationKind.Work))
            .Select(o => new
            {
                o.Id,
                o.Name,
                o.DoneAt,
                o.BuildId,
            })
            .ToListAsync(cancel);
        var shown = operations.Select(o => o.BuildId).ToHashSet();
        return new(
            monday,
            today,
            new(
                WorkWeek.From(shop.Week),
                await Db.ClosedDays.AsNoTracking().Select(d => d.Date).ToListAsync(cancel),
                zone
            ),
            week,
            draft,
            view,
            await Db
                .Builds.AsNoTracking()
                .Where(b => b.Status == BuildStatus.Open || b.Status == BuildStatus.Paused || shown.Contains(b.Id))
                .OrderBy(b => b.Number)
                .ToListAsync(cancel),
            await Db.People.AsNoTracking().Where(p => p.Active).OrderBy(p => p.Name).ToListAsync(cancel),
            await Db.Stations.AsNoTracking().OrderBy(s => s.Kind).ThenBy(s => s.Name).ToListAsync(cancel),
            worked,
            operations.Where(o => o.DoneAt is not null).ToDictionary(o => o.Id, o => o.DoneAt!.Value),
            operations.ToDictionary(o => o.Id, o => o.Name),
            await Db
                .CommittedWeeks.AsNoTracking()
                .Where(w => w.CountedAt != null && w.Monday <= monday)
                .OrderByDescending(w => w.Monday)
                .Take(Back)
                .ToListAsync(cancel),
            Clock.Now
        );
    }

    /// <summary>Commits a week: what was chosen of its draft is promised.</summary>
    /// <exception cref="Refusal">It is over or committed already, or the plan has no such work in it.</exception>
    public async Task<CommittedWeek> Commit(
        Guid id,
        LocalDate of,
        IReadOnlyList<ChosenPromise> chosen,
        CancellationToken cancel
    )
    {
        if (await Again<CommittedWeek>(id, cancel) is { } there)
        {
            return there;
        }

        var facts = await Look(of, cancel);
        Refusal.When(facts.Monday.PlusDays(7) <= facts.Today, "of", "That week is over.");
        Refusal.When(facts.Week is not null, "of", $"{facts.Week?.CommittedBy} has committed this week already.");
        var week = new CommittedWeek
        {
            Id = id,
            Monday = facts.Monday,
            CommittedAt = Clock.Now,
            CommittedBy = Actor.Name,
        };
        week.Promise(chosen.Select(c => Promise(c, facts)));
        Db.Add(week);
        await SaveOnce(cancel);
        return week;
    }

    /// <summary>Takes a commitment back on the day on which it was made.</summary>
    public async Task TakeBack(LocalDate of, CancellationToken cancel)
    {
        var facts = await Look(of, cancel);
        var week = facts.Week ?? throw new Refusal("of", "This week has not been committed.");
        var zone = await Zone(cancel);
        Refusal.When(
            week.IsCounted || week.CommittedAt.InZone(zone).Date != facts.Today,
            "of",
            "A commitment is taken back on the day on which it was made; later it is counted."
        );
        Db.Remove(week);
        await Save(cancel);
    }

    /// <summary>Counts a week.</summary>
    /// <param name="reasons">Why a promise was not kept, by promise.</param>
    /// <exception cref="Refusal">It is not over, or something that was not done has no reason.</exception>
    public async Task<CommittedWeek> Count(
        LocalDate of,
        IReadOnlyDictionary<Guid, string> reasons,
        CancellationToken cancel
    )
    {
        var facts = await Look(of, cancel);
        var week = facts.Week ?? throw new Refusal("of", "This week has not been committed.");
        Refusal.When(
            facts.Today < facts.CountedFrom,
            "of",
            $"The week is counted from {facts.CountedFrom.DayOfWeek} on."
        );
        week.Count(facts.KeptBy, reasons, facts.Extra(), Clock.Now, Actor.Name);
        await Save(cancel);
        return week;
    }

    private static WeekPromise Promise(ChosenPromise chosen, WeekFacts facts)
    {
        var planned = facts.Draft.Work.FirstOrDefault(w =>
            w.Operation == chosen.OperationId.ToString() && w.Person == chosen.PersonId.ToString()
        );
        Refusal.When(planned is null, "promises", "The plan has no such work in this week. Look at it again.");
        Refusal.When(
            chosen.Minutes is { } m && (m < 1 || m > planned!.Minutes),
            "promises",
            $"{planned!.Name}: between a minute and what the plan has in this week is promised."
        );
        return new(
            Guid.CreateVersion7(),
            chosen.OperationId,
            Guid.Parse(planned.Build),
            chosen.PersonId,
            planned.Name,
            chosen.Minutes ?? (int)planned.Minutes,
            planned.Whole && (chosen.Minutes is null || chosen.Minutes == planned.Minutes),
            [.. planned.Times.Select(t => new PromisedTime(At(t.Start), At(t.End)))]
        );
    }

    /// <summary>Of two who commit the same week at the same moment one is told.</summary>
    private async Task SaveOnce(CancellationToken cancel)
    {
        try
        {
            await Save(cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is Npgsql.PostgresException { SqlState: "23505" })
        {
            throw new Refusal("of", "Somebody has committed this week already.");
        }
    }

    private static long Minute(Instant at) => at.ToUnixTimeSeconds() / 60;

    private static Instant At(long minute) => Instant.FromUnixTimeSeconds(minute * 60);
}
