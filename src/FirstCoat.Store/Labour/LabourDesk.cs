using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Sequence;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Labour;

/// <summary>Hours as entered or corrected on the desk.</summary>
public sealed record HoursEntry(
    Guid PersonId,
    Guid OperationId,
    Instant Start,
    Instant Stop,
    LabourKind Kind,
    string Note
);

/// <summary>A timer that was stopped.</summary>
/// <param name="NotDone">Why its work was not marked done although that was said; null: nothing kept it.</param>
/// <param name="Asks">It is marked done when somebody says why its order is another.</param>
public sealed record Stopped(TimeEntry Entry, string? NotDone, bool Asks);

/// <summary>Commands of the labour room: the clock and the hours.</summary>
public sealed class LabourDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    SequenceDesk sequence,
    GatekeeperDesk gatekeeper,
    CautionDesk cautions
) : Desk(db, clock, current)
{
    /// <summary>Starts a timer; one that runs is stopped at the same minute.</summary>
    /// <param name="share">How far the operation that is left has come; null: not said.</param>
    /// <param name="at">When it was touched, where that could only be sent later; null: now.</param>
    /// <param name="acknowledged">The caution of this kind of work was read.</param>
    public async Task<TimeEntry> Start(
        Guid id,
        Guid personId,
        Guid operationId,
        LabourKind kind,
        decimal? share,
        bool? breakWorked,
        CancellationToken cancel,
        Instant? at = null,
        bool acknowledged = false
    )
    {
        MayClock(personId);
        await using var hold = await Hold(personId, cancel);
        if (await Again<TimeEntry>(id, cancel) is { } there)
        {
            return there;
        }

        var operation = await Find<Operation>(operationId, "operation", cancel);
        await LockBuild(operation.BuildId, cancel);
        var build = await Build(operation.BuildId, cancel);
        Refusal.When(build.Status != BuildStatus.Open, "operationId", $"Build {build.Number} is not open.");
        Refusal.When(
            operation.Kind != OperationKind.Work || operation.Removed,
            "operationId",
            "Only work can be clocked."
        );
        Refusal.When(
            operation.IsDone && kind != LabourKind.Rework,
            "operationId",
            "This is done; say that it is rework, or open it again."
        );
        await gatekeeper.Refuse(operation, WorkStep.Begin, "operationId", "", cancel, personId);
        var now = ClockTouch.Started(at, Clock.Now);
        await cautions.Ask(
            build.Id,
            operation.Name,
            personId,
            operation.Hazard,
            acknowledged,
            now,
            at is not null,
            cancel
        );
        if (await Running(personId, cancel) is { } running)
        {
            Refusal.When(running.OperationId == operationId, "operationId", "Your clock runs on this already.");
            await StopTracked(running, Instant.Max(now, running.Start), share, breakWorked, cancel);
            // The running timer is unique per person: free its place before the next takes it.
            await Save(cancel);
        }

        await StopShopTime(personId, breakWorked, now, cancel);
        // What overlaps is looked for in what is kept.
        await Save(cancel);
        var entry = new TimeEntry
        {
            Id = id,
            PersonId = personId,
            BuildId = build.Id,
            OperationId = operationId,
            Start = now,
            Kind = kind,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        await RefuseOverlap(personId, now, now.Plus(Duration.FromMinutes(1)), null, cancel);
        Db.Add(entry);
        build.BeginAgain();
        await Save(cancel);
        await hold.CommitAsync(cancel);
        return entry;
    }

    /// <summary>Stops the running timer, with "how far?", or as done.</summary>
    /// <param name="breakWorked">Whether an unpaid break that the entry runs across was worked; null: not asked
    /// yet.</param>
    /// <param name="at">When work really stopped, for a timer that was forgotten; null: now.</param>
    /// <param name="why">Why it is done before what comes before it, where that is asked.</param>
    /// <returns>The stopped entry, and what kept its work from being marked done; null when no timer of a build ran.
    /// Stopping itself is never refused.</returns>
    public async Task<Stopped?> Stop(
        Guid personId,
        decimal? share,
        bool done,
        bool? breakWorked,
        Instant? at,
        CancellationToken cancel,
        string why = ""
    )
    {
        MayClock(personId);
        Obstacle? shut = null;
        await using var hold = await Hold(personId, cancel);
        var running = await Running(personId, cancel);
        if (running is null)
        {
            await StopShopTime(personId, breakWorked, at, cancel);
            await Save(cancel);
            await hold.CommitAsync(cancel);
            return null;
        }

        await StopTracked(
            running,
            ClockTouch.Stopped(at, Clock.Now, running.Start),
            done ? null : share,
            breakWorked,
            cancel
        );
        if (done)
        {
            var operation = await Locked(running.OperationId, cancel);
            var against = operation.IsDone ? [] : await gatekeeper.Against(operation, WorkStep.End, cancel);
            shut = against.FirstOrDefault(o => !o.Asks || string.IsNullOrWhiteSpace(why));
            if (!operation.IsDone && shut is null)
            {
                sequence.FinishTracked(operation, against.Count > 0 ? why : "");
            }
        }

        await Save(cancel);
        await hold.CommitAsync(cancel);
        return new(running, shut?.Words, shut?.Asks ?? false);
    }

    /// <summary>Starts the clock on work that is nobody's build; a timer that runs is stopped at the same
    /// minute.</summary>
    public async Task<ShopTime> StartShopTime(
        Guid id,
        Guid personId,
        string job,
        decimal? share,
        bool? breakWorked,
        CancellationToken cancel,
        Instant? at = null
    )
    {
        MayClock(personId);
        await using var hold = await Hold(personId, cancel);
        if (await Again<ShopTime>(id, cancel) is { } there)
        {
            return there;
        }

        await KnownJob(job, cancel);
        var now = ClockTouch.Started(at, Clock.Now);
        if (await Running(personId, cancel) is { } running)
        {
            await StopTracked(running, Instant.Max(now, running.Start), share, breakWorked, cancel);
        }

        await StopShopTime(personId, breakWorked, now, cancel);
        await Save(cancel);
        var entry = new ShopTime
        {
            Id = id,
            PersonId = personId,
            Job = job,
            Start = now,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        await RefuseOverlap(personId, now, now.Plus(Duration.FromMinutes(1)), null, cancel);
        Db.Add(entry);
        await Save(cancel);
        await hold.CommitAsync(cancel);
        return entry;
    }

    /// <summary>Enters shop time that was not clocked.</summary>
    public async Task<ShopTime> EnterShopTime(
        Guid id,
        Guid personId,
        string job,
        Instant start,
        Instant stop,
        string note,
        CancellationToken cancel
    )
    {
        await using var hold = await Hold(personId, cancel);
        if (await Again<ShopTime>(id, cancel) is { } there)
        {
            return there;
        }

        await KnownJob(job, cancel);
        await Find<Person>(personId, "person", cancel);
        var (from, to) = Worked(start, stop, note);
        await RefuseOverlap(personId, from, to, null, cancel);
        var entry = new ShopTime
        {
            Id = id,
            PersonId = personId,
            Job = job,
            Start = from,
            Note = note.Trim(),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        entry.StopAt(to);
        Db.Add(entry);
        await Save(cancel);
        await hold.CommitAsync(cancel);
        return entry;
    }

    /// <summary>Says that shop time was not worked; it stays to be read.</summary>
    public async Task<ShopTime> VoidShopTime(Guid id, string why, CancellationToken cancel)
    {
        var entry = await Find<ShopTime>(id, "entry", cancel);
        entry.Void(why);
        await Save(cancel);
        return entry;
    }

    private async Task KnownJob(string job, CancellationToken cancel) =>
        Refusal.When(
            !(await Shop(cancel)).Jobs.Contains(job),
            "job",
            "The shop has no such job: a manager names it under Shop."
        );

    /// <summary>Ends shop time that runs; a break that was run across is asked for, as with a build's work.</summary>
    private async Task StopShopTime(Guid personId, bool? breakWorked, Instant? at, CancellationToken cancel)
    {
        if (
            await Db.ShopTimes.SingleOrDefaultAsync(t => t.PersonId == personId && t.Stop == null, cancel)
            is not { } running
        )
        {
            return;
        }

        var end = Instant.Max(running.Start, ClockTouch.Stopped(at, Clock.Now, running.Start));
        LabourMinutes.CheckStretch(running.Start, end);
        var breaks = await Breaks(running.Start, end, cancel);
        Refusal.When(
            breaks.Count > 0 && breakWorked is null,
            "breakWorked",
            "Your clock ran across the break. Was the break worked?"
        );
        running.StopAt(breaks.Count == 0 || breakWorked == true ? end : breaks[0].From);
        if (running.Stop == end)
        {
            return;
        }

        // The running one is unique per person: free its place before the rest is added.
        await Save(cancel);
        for (var i = 0; i < breaks.Count; i++)
        {
            var rest = new ShopTime
            {
                Id = Guid.CreateVersion7(),
                PersonId = personId,
                Job = running.Job,
                Start = breaks[i].To,
                Note = "after the break",
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            rest.StopAt(i + 1 < breaks.Count ? breaks[i + 1].From : end);
            Db.Add(rest);
        }
    }

    /// <summary>Enters hours that were not clocked.</summary>
    public async Task<TimeEntry> Enter(Guid id, HoursEntry hours, CancellationToken cancel)
    {
        await using var hold = await Hold(hours.PersonId, cancel);
        if (await Again<TimeEntry>(id, cancel) is { } there)
        {
            return there;
        }

        var entry = await Make(id, hours, null, cancel);
        Db.Add(entry);
        await Save(cancel);
        await hold.CommitAsync(cancel);
        return entry;
    }

    /// <summary>Corrects an entry by a new one that replaces it; the original keeps its figures.</summary>
    /// <param name="hours">Null: the entry was not worked at all.</param>
    public async Task<TimeEntry> Correct(
        Guid originalId,
        Guid id,
        HoursEntry? hours,
        string reason,
        CancellationToken cancel
    )
    {
        var original = await Find<TimeEntry>(originalId, "entry", cancel);
        await using var hold = await Hold(original.PersonId, cancel);
        if (await Again<TimeEntry>(id, cancel) is { } there)
        {
            return there;
        }

        Refusal.When(
            hours is not null && hours.PersonId != original.PersonId,
            "personId",
            "A correction stays with its person; void this one and enter the other's hours."
        );
        if (!Actor.IsManager)
        {
            var (zone, today) = (await Zone(cancel), await Today(cancel));
            Refusal.When(original.PersonId != Actor.PersonId, "personId", "You correct your own hours only.");
            Refusal.When(
                original.Start.InZone(zone).Date != today,
                "start",
                "You correct hours on the same day; ask the manager for older ones."
            );
            Refusal.When(
                hours is not null && hours.Start.InZone(zone).Date != today,
                "start",
                "Hours stay on the day on which they were booked; ask the manager to move them."
            );
        }

        var note = Refusal.Text(reason, "reason", 300);
        var entry = hours is null
            ? new TimeEntry
            {
                Id = id,
                PersonId = original.PersonId,
                BuildId = original.BuildId,
                OperationId = original.OperationId,
                Start = original.Start,
                Kind = original.Kind,
                Note = note,
                Replaces = original.Id,
                Void = true,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
            : await Make(id, hours with { Note = note }, original, cancel);
        if (hours is null)
        {
            entry.StopAt(original.Stop ?? original.Start);
        }

        original.ReplaceBy(entry);
        Db.Add(entry);
        await Save(cancel);
        await hold.CommitAsync(cancel);
        return entry;
    }

    /// <summary>The running timer of a person.</summary>
    public Task<TimeEntry?> Running(Guid personId, CancellationToken cancel) =>
        Db.TimeEntries.SingleOrDefaultAsync(e => e.PersonId == personId && e.Stop == null, cancel);

    /// <summary>Ends the running entry. Breaks are never deducted silently: one that was run across is asked for
    /// once.</summary>
    private async Task StopTracked(
        TimeEntry running,
        Instant at,
        decimal? share,
        bool? breakWorked,
        CancellationToken cancel
    )
    {
        LabourMinutes.CheckStretch(running.Start, at);
        var breaks = await Breaks(running.Start, at, cancel);
        Refusal.When(
            breaks.Count > 0 && breakWorked is null,
            "breakWorked",
            "Your clock ran across the break. Was the break worked?"
        );
        if (breaks.Count == 0 || breakWorked == true)
        {
            running.StopAt(at);
        }
        else
        {
            await StopWithoutBreaks(running, at, breaks, cancel);
        }

        if (share is { } far)
        {
            var operation = await Locked(running.OperationId, cancel);
            if (!operation.IsDone)
            {
                operation.State(far, at);
            }
        }
    }

    /// <summary>An operation as it is, until the transaction ends: two who stop on it at the same moment do so one
    /// after the other.</summary>
    private async Task<Operation> Locked(Guid operation, CancellationToken cancel)
    {
        await Db.Database.ExecuteSqlAsync(
            $"select 1 from sequence_operations where id = {operation} for update",
            cancel
        );
        return await Find<Operation>(operation, "operation", cancel);
    }

    /// <summary>The entry ends where the first break begins; the work after each break is an entry of its
    /// own.</summary>
    private async Task StopWithoutBreaks(
        TimeEntry running,
        Instant at,
        IReadOnlyList<(Instant From, Instant To)> breaks,
        CancellationToken cancel
    )
    {
        running.StopAt(breaks[0].From);
        // The running timer is unique per person: free its place before the rest is added.
        await Save(cancel);
        for (var i = 0; i < breaks.Count; i++)
        {
            var rest = new TimeEntry
            {
                Id = Guid.CreateVersion7(),
                PersonId = running.PersonId,
                BuildId = running.BuildId,
                OperationId = running.OperationId,
                Start = breaks[i].To,
                Kind = running.Kind,
                Note = "after the break",
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            rest.StopAt(i + 1 < breaks.Count ? breaks[i + 1].From : at);
            Db.Add(rest);
        }
    }

    private async Task<IReadOnlyList<(Instant From, Instant To)>> Breaks(
        Instant from,
        Instant to,
        CancellationToken cancel
    )
    {
        var shop = await Shop(cancel);
        if (shop.Week.Count == 0)
        {
            return [];
        }

        var calendar = new WorkCalendar(WorkWeek.From(shop.Week), zone: DateTimeZoneProviders.Tzdb[shop.TimeZone]);
        static Instant At(long minute) => Instant.FromUnixTimeSeconds(minute * 60);
        return calendar
            .BreaksWithin(from.ToUnixTimeSeconds() / 60, to.ToUnixTimeSeconds() / 60)
            .Select(b => (At(b.Start), At(b.End)))
            .ToList();
    }

    /// <summary>A stretch as entered, to whole minutes.</summary>
    /// <exception cref="Refusal">It ends before it starts, or later than now.</exception>
    private (Instant Start, Instant Stop) Worked(Instant from, Instant to, string note)
    {
        Plausible(from, "start");
        Plausible(to, "stop");
        var (start, stop) = (TimeEntry.WholeMinute(from), TimeEntry.WholeMinute(to));
        Refusal.When(stop <= start, "stop", "The end must be later than the start.");
        Refusal.When(start > Clock.Now, "start", "Hours are entered when they have been worked.");
        Refusal.When(
            stop > Clock.Now,
            "stop",
            "Hours are entered when they have been worked: this ends later than now."
        );
        Refusal.When(note.Length > 300, "note", "At most 300 characters.");
        return (start, stop);
    }

    private async Task<TimeEntry> Make(Guid id, HoursEntry hours, TimeEntry? original, CancellationToken cancel)
    {
        var (start, stop) = Worked(hours.Start, hours.Stop, hours.Note);
        await Find<Person>(hours.PersonId, "person", cancel);
        var operation = await Find<Operation>(hours.OperationId, "operation", cancel);
        Refusal.When(operation.Kind != OperationKind.Work, "operationId", "Only work has hours.");
        var entry = new TimeEntry
        {
            Id = id,
            PersonId = hours.PersonId,
            BuildId = operation.BuildId,
            OperationId = operation.Id,
            Start = start,
            Kind = hours.Kind,
            Note = hours.Note.Trim(),
            Replaces = original?.Id,
            // What was worked is kept, whatever stood against it, and flagged for the manager.
            Flag =
                original?.OperationId == operation.Id
                    ? original.Flag
                    : await gatekeeper.Flag(operation, WorkStep.TakeHours, cancel),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        entry.StopAt(stop);
        await RefuseOverlap(hours.PersonId, start, stop, original?.Id, cancel);
        return entry;
    }

    /// <summary>The manager settles hours that were worked although something stood against them.</summary>
    public async Task<TimeEntry> Settle(Guid id, string why, CancellationToken cancel)
    {
        var entry = await Find<TimeEntry>(id, "entry", cancel);
        entry.Flag = (entry.Flag ?? throw new Refusal("id", "Nothing stood against these hours.")).Settle(
            why,
            Actor.Name,
            Clock.Now
        );
        await Save(cancel);
        return entry;
    }

    private async Task RefuseOverlap(Guid personId, Instant start, Instant stop, Guid? except, CancellationToken cancel)
    {
        var build = await Db
            .TimeEntries.Where(e =>
                e.PersonId == personId
                && e.ReplacedBy == null
                && !e.Void
                && e.Id != except
                && e.Start < stop
                && (e.Stop == null || e.Stop > start)
                && e.Start != e.Stop
            )
            .Select(e => new { e.Start, e.Stop })
            .FirstOrDefaultAsync(cancel);
        var clash = build
            ?? await Db
                .ShopTimes.Where(e =>
                    e.PersonId == personId
                    && e.VoidWhy == null
                    && e.Start < stop
                    && (e.Stop == null || e.Stop > start)
                    && e.Start != e.Stop
                )
                .Select(e => new { e.Start, e.Stop })
                .FirstOrDefaultAsync(cancel);
        if (clash is not null)
        {
            var zone = await Zone(cancel);
            string At(Instant i) => i.InZone(zone).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);
            throw new Refusal(
                "start",
                $"This overlaps other hours of the same person: {At(clash.Start)} to {(clash.Stop is { } s ? At(s) : "now")}."
            );
        }
    }

    /// <summary>One change at a time per person, so that two requests cannot both see no overlap.</summary>
    private async Task<Microsoft.EntityFrameworkCore.Storage.IDbContextTransaction> Hold(
        Guid personId,
        CancellationToken cancel
    )
    {
        var transaction = await Db.Database.BeginTransactionAsync(cancel);
        await Db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({PersonLock.Key(personId)})", cancel);
        return transaction;
    }

    private void MayClock(Guid personId) =>
        Refusal.When(!Actor.IsDesk && Actor.PersonId != personId, "personId", "You clock your own time only.");
}
