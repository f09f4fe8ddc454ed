using System.Text.Json;
using FirstCoat.Core;
using FirstCoat.Core.Access;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Photos;
using FirstCoat.Core.Reports;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Money;
using FirstCoat.Store.Photos;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Readings;
using FirstCoat.Store.Survey;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Text;

namespace FirstCoat.Store.Reports;

/// <summary>Commands of the reports room: draft, edit, preview, publish; private links.</summary>
public sealed class ReportsDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    MoneyDesk money,
    PlanDesk plan,
    SurveyDesk survey,
    ClientLetters letters
) : Desk(db, clock, current)
{
    private static readonly LocalDatePattern DayPattern = LocalDatePattern.CreateWithInvariantCulture("d MMM");

    /// <summary>Starts a draft, with the words that follow from what was recorded since the last report.</summary>
    public async Task<ClientReport> Draft(Guid buildId, Guid id, CancellationToken cancel)
    {
        if (await Again<ClientReport>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        var all = await Db.Reports.Where(r => r.BuildId == buildId).OrderBy(r => r.Number).ToListAsync(cancel);
        Refusal.When(all.Any(r => r.IsDraft), "id", "There is a draft already: finish that one.");
        var report = new ClientReport
        {
            Id = id,
            BuildId = buildId,
            Number = all.Count + 1,
            CoversFrom = all.Count == 0 ? 0 : all[^1].CoversTo,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        report.Edit(await Words(report, all.LastOrDefault(), cancel));
        Db.Add(report);
        await Save(cancel);
        return report;
    }

    /// <summary>Changes the words and the choice of photos of a draft.</summary>
    public async Task<ClientReport> Edit(Guid id, ReportText text, uint? version, CancellationToken cancel)
    {
        var report = await Find<ClientReport>(id, "report", cancel);
        Expect(report, version);
        var allowed = await Db
            .Photos.Where(p => p.BuildId == report.BuildId && p.ClientMaySee)
            .Select(p => p.Id)
            .ToListAsync(cancel);
        Refusal.When(
            text.Photos.Except(allowed).Any(),
            "photos",
            "A photo that the client may not see cannot be in a report."
        );
        report.Edit(text);
        await Save(cancel);
        return report;
    }

    /// <summary>The page as the client will see it, or sees it.</summary>
    public async Task<ReportPage> Page(Guid id, CancellationToken cancel)
    {
        var report = await Find<ClientReport>(id, "report", cancel);
        return report.Published is { } stored ? Read(stored) : await Compose(report, cancel);
    }

    /// <summary>Freezes the page and writes to the client's known address with a new private link; without an address
    /// it can be read behind a link that is handed over.</summary>
    public async Task<ClientReport> Publish(Guid id, uint? version, CancellationToken cancel)
    {
        var report = await Find<ClientReport>(id, "report", cancel);
        Expect(report, version);
        Refusal.When(string.IsNullOrWhiteSpace(report.Text.Title), "title", "Give the report a title.");
        var build = await Build(report.BuildId, cancel);
        var client = await Find<Client>(build.ClientId, "client", cancel);
        var page = await Compose(report, cancel);
        var last = await Db
            .Database.SqlQueryRaw<long>($"select last_value as \"Value\" from {ShopDb.RecordedSequence}")
            .SingleAsync(cancel);
        report.Publish(JsonSerializer.Serialize(page, StoreJson.Options), last, Actor.Name, Clock.Now, client.Email);
        // A letter that cannot be written leaves the report a draft.
        await using var all = await Whole(cancel);
        await Save(cancel);
        if (client.Email.Length > 0)
        {
            await letters.WriteWithLink(
                build,
                client,
                await Shop(cancel),
                $"Report {report.Number} on your {build.Title}",
                $"there is news of your {build.Title}: {report.Text.Title}.",
                "",
                "You find the earlier reports there too.",
                cancel
            );
            await Save(cancel);
        }

        await all.Commit(cancel);
        return report;
    }

    /// <summary>Makes a private link to the published reports of a build.</summary>
    /// <returns>The link and its token, which is shown once and not kept.</returns>
    public async Task<(PrivateLink Link, string Token)> MakeLink(
        Guid buildId,
        Guid id,
        int days,
        CancellationToken cancel
    )
    {
        await Build(buildId, cancel);
        Refusal.When(days is < 1 or > 400, "days", "A link lives between 1 and 400 days.");
        Refusal.When(
            await Db.PrivateLinks.AnyAsync(l => l.Id == id, cancel),
            "id",
            "This link was made already; its address is shown once. Make another."
        );
        var token = PrivateLink.NewToken();
        var link = new PrivateLink
        {
            Id = id,
            BuildId = buildId,
            TokenHash = PrivateLink.Hash(token),
            ExpiresAt = Clock.Now + Duration.FromDays(days),
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        Db.Add(link);
        await Save(cancel);
        return (link, token);
    }

    /// <summary>Closes a link for good.</summary>
    public async Task<PrivateLink> Revoke(Guid id, CancellationToken cancel)
    {
        var link = await Find<PrivateLink>(id, "link", cancel);
        link.Revoke(Clock.Now);
        await Save(cancel);
        return link;
    }

    /// <summary>The published reports behind a token, newest first; null when the link opens nothing.</summary>
    public async Task<List<ClientReport>?> Behind(string token, CancellationToken cancel)
    {
        var hash = PrivateLink.Hash(token);
        var link = await Db.PrivateLinks.AsNoTracking().SingleOrDefaultAsync(l => l.TokenHash == hash, cancel);
        return link is null || !link.IsLive(Clock.Now)
            ? null
            : await Db
                .Reports.AsNoTracking()
                .Where(r => r.BuildId == link.BuildId && r.Published != null)
                .OrderByDescending(r => r.Number)
                .ToListAsync(cancel);
    }

    /// <summary>Reads a stored page.</summary>
    public static ReportPage Read(string stored) => JsonSerializer.Deserialize<ReportPage>(stored, StoreJson.Options)!;

    private async Task<ReportText> Words(ClientReport report, ClientReport? before, CancellationToken cancel)
    {
        var build = await Build(report.BuildId, cancel);
        var zone = await Zone(cancel);
        var since = before?.PublishedAt ?? Instant.MinValue;
        var operations = await Db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == build.Id && !o.Removed)
            .ToListAsync(cancel);
        var entries = await Db
            .TimeEntries.AsNoTracking()
            .Where(e => e.BuildId == build.Id && e.ReplacedBy == null && !e.Void)
            .ToListAsync(cancel);
        var parts = await Db.Parts.AsNoTracking().Where(p => p.BuildId == build.Id).ToListAsync(cancel);
        var jobs = await Db.OutsideJobs.AsNoTracking().Where(j => j.BuildId == build.Id).ToListAsync(cancel);
        var day = before?.PublishedAt is { } at ? at.InZone(zone).Date : new LocalDate(1900, 1, 1);
        var done = operations
            .Where(o => o.DoneAt > since)
            .OrderBy(o => o.DoneAt)
            .Select(o => o.Kind == OperationKind.Gate ? $"{o.Name}, signed by {o.DoneBy}" : o.Name)
            .Concat(parts.Where(p => p.ReceivedOn > day).Select(p => $"Received: {p.Name}"))
            .Concat(jobs.Where(j => j.BackOn > day).Select(j => $"Back: {j.Title}, {j.CountedIn} of {j.Sent} pieces"))
            .ToList();
        var gaps = GapStory.Of(
            GapLine.Of(build.Body()),
            await Db
                .FitReadings.AsNoTracking()
                .Where(r => r.BuildId == build.Id)
                .OrderBy(r => r.Seq)
                .ToListAsync(cancel),
            report.CoversFrom,
            (await Shop(cancel)).Units == UnitSystem.Us,
            3
        );
        var view = await plan.Look(cancel);
        var next = operations
            .Where(o => !o.IsDone && o.Kind != OperationKind.Gate && view.Operations.ContainsKey(o.Id))
            .OrderBy(o => view.Operations[o.Id].Start)
            .Take(5)
            .Select(o => $"{o.Name}, {DayPattern.Format(view.Operations[o.Id].Start.InZone(zone).Date)}")
            .ToList();
        var questions = await Db
            .Decisions.AsNoTracking()
            .Where(d => d.BuildId == build.Id && d.SettledAt == null && d.For == DecisionFor.Client)
            .Select(d => d.PhotoId)
            .ToListAsync(cancel);
        var photos = await Db
            .Photos.AsNoTracking()
            .Where(p =>
                p.BuildId == build.Id && p.ClientMaySee && p.Seq > report.CoversFrom && !questions.Contains(p.Id)
            )
            .OrderByDescending(p => p.Seq)
            .Select(p => p.Id)
            .Take(questions.Count > 0 ? 5 : 6)
            .ToListAsync(cancel);
        photos.Reverse();
        var progress = Progress.ByStage(operations, entries, Clock.Now);
        var worked = entries.Where(e => e.Seq > report.CoversFrom).Sum(e => e.Minutes(Clock.Now));
        var finished = operations.Count(o => o.DoneAt > since && o.Kind == OperationKind.Work);
        var lede =
            $"{Math.Round(Progress.Share(progress) * 100)} percent of the planned work on your {build.Title} is done. {(before is null ? "So far" : "Since the last report")} we worked {worked / 60} h {worked % 60:00} min{(finished == 0 ? "" : finished == 1 ? " and finished one piece of work" : $" and finished {finished} pieces of work")}."
            + (questions.Count > 0 ? " We need your answer to what is marked below." : "");
        var week = Period.Between(build.OpenedOn, await Today(cancel), PeriodUnits.Weeks).Weeks + 1;
        // A long first report would be a list of everything: the last pieces stand for the rest.
        return new(
            Core.Words.Shortened($"Your {build.Title}, week {week}", 120),
            lede,
            [.. done.TakeLast(14), .. gaps],
            next,
            photos
        );
    }

    private async Task<ReportPage> Compose(ClientReport report, CancellationToken cancel)
    {
        var build = await Build(report.BuildId, cancel);
        var shop = await Shop(cancel);
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var client = await Find<Client>(build.ClientId, "client", cancel);
        var before = await Db
            .Reports.AsNoTracking()
            .Where(r => r.BuildId == build.Id && r.Number < report.Number && r.Published != null)
            .OrderByDescending(r => r.Number)
            .FirstOrDefaultAsync(cancel);
        var operations = await Db.Operations.AsNoTracking().Where(o => o.BuildId == build.Id).ToListAsync(cancel);
        var entries = await Db.TimeEntries.AsNoTracking().Where(e => e.BuildId == build.Id).ToListAsync(cancel);
        var stages = Progress.ByStage(operations, entries, Clock.Now);
        var since = Progress
            .ByStage(operations, entries.Where(e => e.Counts && Root(e, entries).Seq > report.CoversFrom), Clock.Now)
            .ToDictionary(s => s.Stage, s => s.SpentMinutes);
        var sums = await money.Look(build.Id, cancel);
        var likely = build.Status == BuildStatus.Open ? await plan.Likely(build.Id, cancel) : null;
        var (_, panels, _) = await survey.Look(build.Id, cancel);
        var photos = await Db
            .Photos.AsNoTracking()
            .Where(p => report.Text.Photos.Contains(p.Id) && p.ClientMaySee)
            .ToListAsync(cancel);
        var s = sums.Statement;
        return new(
            shop.Name,
            shop.Place,
            shop.Phone,
            shop.Currency,
            Actor.Name,
            client.Name,
            report.Number,
            Clock.Now.InZone(zone).Date,
            report.Text.Title,
            report.Text.Lede,
            build.Number,
            build.Title,
            build.Vehicle.ColourHex,
            build.Brief.Promised,
            likely,
            build.Brief.Milestones.Select(m => new PageMilestone(m.Name, m.On)).ToList(),
            stages
                .Where(x => x.BudgetMinutes > 0 || x.SpentMinutes > 0)
                .Select(x => new PageStage(
                    x.Stage,
                    x.BudgetMinutes,
                    x.EarnedMinutes,
                    x.SpentMinutes,
                    since.GetValueOrDefault(x.Stage)
                ))
                .ToList(),
            since.Values.Sum(),
            sums.Kinds.Select(k => new PageCost(k.Kind, k.Estimate, k.Net)).ToList(),
            new(sums.Agreement.Net, s.Net, s.Tax, s.Gross, s.Retention, s.Paid, s.Balance),
            before is null ? [] : Adjusted(before, entries, sums),
            report.Text.Done,
            report.Text.Next,
            await Waiting(build.Id, cancel),
            await Decisions(build, shop, likely, cancel),
            report
                .Text.Photos.Select(id => photos.SingleOrDefault(p => p.Id == id))
                .OfType<Photo>()
                .Select(PagePhoto.Of)
                .ToList(),
            new(build.Vehicle.Style, build.Vehicle.Dimensions, panels),
            sums.Lines.GroupBy(l => l.Id).ToDictionary(g => g.Key, g => g.Sum(l => l.Net))
        )
        {
            InTenBy = await plan.InTenBy(build.Id, cancel),
            Declined = await Declined(build, cancel),
        };
    }

    private async Task<List<string>> Declined(Build build, CancellationToken cancel)
    {
        var places = SurveyPlaces.Of(build.Vehicle, []).ToDictionary(p => p.Key, p => p.Name);
        var no = (
            await Db
                .Papers.AsNoTracking()
                .Where(p => p.BuildId == build.Id && p.Kind == PaperKind.ChangeOrder)
                .ToListAsync(cancel)
        )
            .Where(p => p.State == PaperState.Declined)
            .SelectMany(p => p.Lines)
            .Select(l => l.FindingId)
            .OfType<Guid>()
            .ToHashSet();
        var findings = await Db
            .Findings.AsNoTracking()
            .Where(f => f.BuildId == build.Id && f.Structural && no.Contains(f.Id))
            .OrderBy(f => f.Number)
            .ToListAsync(cancel);
        return
        [
            .. findings
                .Where(f => f.Counts && f.NotDoneWhy is not null)
                .Select(f => places.GetValueOrDefault(f.Place, f.Place)),
        ];
    }

    /// <summary>The entry at the root of a chain of corrections: its place in the order says which report told of it
    /// first.</summary>
    private static TimeEntry Root(TimeEntry entry, List<TimeEntry> all)
    {
        while (entry.Replaces is { } earlier)
        {
            entry = all.Single(e => e.Id == earlier);
        }

        return entry;
    }

    /// <summary>What an earlier report told, computed with what is recorded now, less what it told then.</summary>
    private List<PageAdjustment> Adjusted(ClientReport before, List<TimeEntry> entries, MoneyView now)
    {
        var told = Read(before.Published!);
        var adjusted = new List<PageAdjustment>();
        var covered = entries
            .Where(e => e.Counts && e.Stop is not null && Root(e, entries).Seq <= before.CoversTo)
            .ToList();
        var hours = covered.Sum(e => e.Minutes(Clock.Now)) - told.Stages.Sum(x => x.SpentMinutes);
        if (hours != 0)
        {
            adjusted.Add(new(before.Number, "hours", hours, null));
        }

        var coveredIds = covered.Select(e => e.Id).ToHashSet();
        var labourNow = now.Lines.Where(l => l.Kind == "labour").Sum(l => ShareOf(l, coveredIds));
        var labourThen = told.Lines.Where(l => l.Key.Contains('@')).Sum(l => l.Value);
        if (labourNow != labourThen)
        {
            adjusted.Add(new(before.Number, "labour", null, labourNow - labourThen));
        }

        foreach (
            var line in now.Lines.Where(l =>
                l.Kind is "parts" or "outside" or "materials"
                && l.Id != "consumables"
                && told.Lines.TryGetValue(l.Id, out var then)
                && then != l.Net
            )
        )
        {
            adjusted.Add(new(before.Number, line.Text, null, line.Net - told.Lines[line.Id]));
        }

        return adjusted;
    }

    /// <summary>The part of a labour line that comes from the entries named, at the line's own rate.</summary>
    private static decimal ShareOf(MoneyLine line, HashSet<Guid> ids)
    {
        var rate = decimal.Parse(line.Id.Split('@')[1], System.Globalization.CultureInfo.InvariantCulture);
        return line.Entries.All(e => ids.Contains(e.Id))
            ? line.Net
            : Cents.Round(line.Entries.Where(e => ids.Contains(e.Id)).Sum(e => e.Minutes ?? 0) * rate / 60);
    }

    private async Task<List<PageWait>> Waiting(Guid buildId, CancellationToken cancel)
    {
        var suppliers = await Db.Suppliers.AsNoTracking().ToDictionaryAsync(x => x.Id, cancel);
        var jobs = await Db
            .OutsideJobs.AsNoTracking()
            .Where(j => j.BuildId == buildId && j.SentOn != null && j.BackOn == null)
            .OrderBy(j => j.PromisedOn)
            .ToListAsync(cancel);
        var parts = await Db
            .Parts.AsNoTracking()
            .Where(p => p.BuildId == buildId && (p.State == PartState.Ordered || p.State == PartState.Expected))
            .OrderBy(p => p.ExpectedOn)
            .ToListAsync(cancel);
        return
        [
            .. jobs.Select(j => new PageWait(
                j.Title,
                suppliers[j.SupplierId].Name,
                suppliers[j.SupplierId].HereOn(j.PromisedOn!.Value)
            )),
            .. parts.Select(p => new PageWait(
                p.Name,
                p.ClientSupplied ? "you"
                    : p.SupplierId is { } s ? suppliers[s].Name
                    : "",
                p.ExpectedOn
            )),
        ];
    }

    private async Task<List<PageDecision>> Decisions(
        Build build,
        Core.Shop.ShopSettings shop,
        LocalDate? likely,
        CancellationToken cancel
    )
    {
        var open = await Db
            .Decisions.AsNoTracking()
            .Where(d => d.BuildId == build.Id && d.SettledAt == null && d.For == DecisionFor.Client)
            .OrderBy(d => d.DueOn)
            .ToListAsync(cancel);
        var ids = open.Select(d => d.PhotoId).OfType<Guid>().ToList();
        var photos = await Db
            .Photos.AsNoTracking()
            .Where(p => ids.Contains(p.Id) && p.ClientMaySee)
            .ToListAsync(cancel);
        var asked = new List<PageDecision>();
        foreach (var d in open)
        {
            var now = await plan.LikelyAnswered(build.Id, d.Id, cancel);
            asked.Add(
                new(
                    d.Question,
                    d.Detail,
                    d.DueOn,
                    d.Adds,
                    now,
                    likely,
                    Actor.Name,
                    shop.Phone,
                    photos.Where(p => p.Id == d.PhotoId).Select(PagePhoto.Of).FirstOrDefault()
                )
            );
        }

        return asked;
    }
}
