using FirstCoat.Core;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Money;
using FirstCoat.Store.Sequence;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Survey;

/// <summary>A finding as entered.</summary>
public sealed record FindingEntry(
    string Place,
    MapPoint At,
    List<MapPoint> Area,
    FindingKind Kind,
    Probe? Probe,
    int? SizeMm,
    bool Structural,
    decimal? GaugeMm,
    string Note,
    Guid? PhotoId,
    Guid? Behind
);

/// <summary>A finding with the sums of its ways.</summary>
/// <param name="Mended">The work of its verdict is done.</param>
public sealed record JudgedFinding(Finding Finding, VerdictSums Sums, bool Mended);

/// <summary>A build's survey: its places, marks and findings with their sums.</summary>
public sealed record SurveyView(
    IReadOnlyList<HistoryHint> History,
    SurveySheet Sheet,
    IReadOnlyList<PunchMark> Marks,
    IReadOnlyList<JudgedFinding> Findings
)
{
    /// <summary>What the ways chosen so far come to.</summary>
    public decimal Chosen =>
        Findings.Sum(f => f.Sums.Ways.FirstOrDefault(w => w.Option.Verdict == f.Finding.Choice)?.Total ?? 0);
}

/// <summary>Commands of the survey room: the punch, what was looked at, findings and their verdicts.</summary>
public sealed class FindingsDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    SequenceDesk sequence,
    PapersDesk papers
) : Desk(db, clock, current)
{
    /// <summary>One number after another for a build's findings, whichever phone asks first.</summary>
    private const long NumberTurn = 0x4643_4649_4E44;

    /// <summary>The survey as it stands.</summary>
    public async Task<SurveyView> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var places = SurveyPlaces.Of(build.Vehicle, build.History);
        var marks = await Db
            .PunchMarks.AsNoTracking()
            .Where(m => m.BuildId == buildId && m.WithdrawnBy == null)
            .OrderBy(m => m.Seq)
            .ToListAsync(cancel);
        var looks = await Db.SurveyLooks.AsNoTracking().Where(l => l.BuildId == buildId).ToListAsync(cancel);
        var findings = await Db
            .Findings.AsNoTracking()
            .Where(f => f.BuildId == buildId)
            .OrderBy(f => f.Number)
            .ToListAsync(cancel);
        var terms = await TermsByFinding(build, cancel);
        var made = findings.SelectMany(f => f.Operations).ToList();
        var done = await Db
            .Operations.AsNoTracking()
            .Where(o => made.Contains(o.Id) && o.DoneAt != null)
            .Select(o => o.Id)
            .ToListAsync(cancel);
        return new(
            build.History,
            SurveySheet.Of(places, marks, looks, findings),
            marks,
            findings
                .Where(f => f.Counts)
                .Select(f => new JudgedFinding(
                    f,
                    VerdictSums.Of(f, terms(f)),
                    f.Operations.Count > 0 && f.Operations.All(done.Contains)
                ))
                .ToList()
        );
    }

    /// <summary>Says what is known of the vehicle's life.</summary>
    public async Task<Build> Tell(Guid buildId, List<HistoryHint> history, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        Refusal.When(
            history.Any(h => !Enum.IsDefined(h)),
            "history",
            "That is not among the things a history can say."
        );
        build.History = history.Distinct().Order().ToList();
        await Save(cancel);
        return build;
    }

    /// <summary>Notes a blow of the punch; asked again with the same id it returns what is there.</summary>
    public async Task<PunchMark> Punch(
        Guid buildId,
        Guid id,
        string place,
        MapPoint at,
        Probe result,
        CancellationToken cancel
    )
    {
        if (await Again<PunchMark>(id, cancel) is { } there)
        {
            return there;
        }

        KnownPlace(await Build(buildId, cancel), place);
        OnMap(at);
        Refusal.When(!Enum.IsDefined(result), "result", "The punch rings, dents or goes through.");
        var mark = new PunchMark
        {
            Id = id,
            BuildId = buildId,
            Place = place,
            At = at,
            Result = result,
            By = Actor.Name,
            On = Clock.Now,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        Db.Add(mark);
        await Save(cancel);
        return mark;
    }

    /// <summary>Takes a mark back.</summary>
    public async Task<PunchMark> TakeBack(Guid id, CancellationToken cancel)
    {
        var mark = await Find<PunchMark>(id, "mark", cancel);
        Refusal.When(
            !Actor.IsDesk && mark.RecordedBy != Actor.AccountId,
            "id",
            "You take back your own marks; ask the desk for this one."
        );
        mark.Withdraw(Actor.Name);
        await Save(cancel);
        return mark;
    }

    /// <summary>Notes that a place was looked at and nothing was found.</summary>
    public async Task<SurveyLook> LookedAt(Guid buildId, Guid id, string place, CancellationToken cancel)
    {
        if (await Again<SurveyLook>(id, cancel) is { } there)
        {
            return there;
        }

        KnownPlace(await Build(buildId, cancel), place);
        var look = new SurveyLook
        {
            Id = id,
            BuildId = buildId,
            Place = place,
            By = Actor.Name,
            On = Clock.Now,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        Db.Add(look);
        await Save(cancel);
        return look;
    }

    /// <summary>Notes every place of the round that nobody has looked at as looked at, with nothing there: in the
    /// actor's name, all at once.</summary>
    /// <returns>How many places that were.</returns>
    public async Task<int> RestIsSound(Guid buildId, Guid id, CancellationToken cancel)
    {
        if (await Again<SurveyLook>(id, cancel) is not null)
        {
            return 0;
        }

        var dark = (await Look(buildId, cancel)).Sheet.StillDark;
        Db.AddRange(
            dark.Select(
                (p, i) =>
                    new SurveyLook
                    {
                        Id = i == 0 ? id : Guid.CreateVersion7(),
                        BuildId = buildId,
                        Place = p.Key,
                        By = Actor.Name,
                        On = Clock.Now,
                        RecordedAt = Clock.Now,
                        RecordedBy = Actor.AccountId,
                    }
            )
        );
        await Save(cancel);
        return dark.Count;
    }

    /// <summary>Adds a finding, with the build's next number, or changes what is known of one.</summary>
    public async Task<Finding> Put(Guid buildId, Guid id, FindingEntry entry, uint? version, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        KnownPlace(build, entry.Place);
        // What the body stands on is structural without anybody's tick, at the desk and on the phone alike.
        var structural =
            entry.Structural || SurveyPlaces.Of(build.Vehicle, []).Single(p => p.Key == entry.Place).Carries;
        Refusal.When(
            entry.PhotoId is { } photo && !await Db.Photos.AnyAsync(p => p.Id == photo && p.BuildId == buildId, cancel),
            "photoId",
            "There is no such photo of this build."
        );
        Refusal.When(
            entry.Behind == id
                || (
                    entry.Behind is { } behind
                    && !await Db.Findings.AnyAsync(f => f.Id == behind && f.BuildId == buildId, cancel)
                ),
            "behind",
            "There is no such finding of this build."
        );
        await using var turn = await Db.Database.BeginTransactionAsync(cancel);
        var finding = await Db.Findings.FindAsync([id], cancel);
        if (finding is null)
        {
            await Turn(NumberTurn, cancel);
            var number =
                (await Db.Findings.Where(f => f.BuildId == buildId).MaxAsync(f => (int?)f.Number, cancel) ?? 0) + 1;
            finding = new()
            {
                Id = id,
                BuildId = buildId,
                Number = number,
                FoundBy = Actor.Name,
                FoundAt = Clock.Now,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(finding);
        }

        Refusal.When(finding.BuildId != buildId, "id", "This finding belongs to another build.");
        Refusal.When(!finding.Counts, "id", "This finding has been taken back.");
        Expect(finding, version);
        var known = (finding.Place, finding.Kind, finding.Structural, finding.AreaM2);
        (finding.Place, finding.At, finding.Area, finding.Kind, finding.Probe, finding.SizeMm) = (
            entry.Place,
            entry.At,
            entry.Area,
            entry.Kind,
            entry.Probe,
            entry.SizeMm
        );
        (finding.Structural, finding.GaugeMm, finding.Note, finding.PhotoId, finding.Behind) = (
            structural,
            entry.GaugeMm,
            entry.Note.Trim(),
            entry.PhotoId,
            entry.Behind
        );
        finding.SizeMm ??= finding.DrawnMm;
        finding.Check();
        if (known != (finding.Place, finding.Kind, finding.Structural, finding.AreaM2))
        {
            finding.Reconsider();
        }

        await Save(cancel);
        await turn.CommitAsync(cancel);
        return finding;
    }

    /// <summary>Takes a finding back for a reason.</summary>
    public async Task<Finding> Withdraw(Guid id, string why, CancellationToken cancel)
    {
        var finding = await Find<Finding>(id, "finding", cancel);
        finding.Withdraw(why);
        await sequence.TakeOut(finding.BuildId, finding.Id, [], putBack: true, cancel);
        await Save(cancel);
        return finding;
    }

    /// <summary>Says what each way would take.</summary>
    public async Task<Finding> Judge(Guid id, List<FindingOption> options, uint? version, CancellationToken cancel)
    {
        var finding = await Find<Finding>(id, "finding", cancel);
        Expect(finding, version);
        finding.Judge(options);
        await Save(cancel);
        return finding;
    }

    /// <summary>Chooses a way.</summary>
    public async Task<Finding> Choose(Guid id, Verdict verdict, string reason, CancellationToken cancel)
    {
        var finding = await Find<Finding>(id, "finding", cancel);
        var sums = VerdictSums.Of(
            finding,
            (await TermsByFinding(await Build(finding.BuildId, cancel), cancel))(finding)
        );
        finding.Choose(verdict, reason, sums.BarredBecause(verdict), Actor.Name, Clock.Now);
        await Save(cancel);
        return finding;
    }

    /// <summary>The manager agrees to the choice.</summary>
    public async Task<Finding> Agree(Guid id, CancellationToken cancel)
    {
        var finding = await Find<Finding>(id, "finding", cancel);
        var sums = VerdictSums.Of(
            finding,
            (await TermsByFinding(await Build(finding.BuildId, cancel), cancel))(finding)
        );
        finding.Agree(Actor.Name, Clock.Now, finding.Choice is { } choice ? sums.BarredBecause(choice) : null);
        await Save(cancel);
        return finding;
    }

    /// <summary>What applying the agreed verdict would do.</summary>
    public async Task<VerdictWork> Preview(Guid id, CancellationToken cancel) =>
        (await Reckon(await Find<Finding>(id, "finding", cancel), cancel)).Work;

    /// <summary>Makes operations, parts and estimate of the agreed verdict, all or nothing.</summary>
    public async Task<VerdictWork> Apply(Guid id, CancellationToken cancel)
    {
        var finding = await Find<Finding>(id, "finding", cancel);
        Refusal.When(finding.AgreedBy is null, "verdict", "The choice has not been agreed to yet.");
        var (work, build, made, allowance) = await Reckon(finding, cancel);
        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        await sequence.TakeOut(build.Id, finding.Id, work.RemoveOperations, work.PutsBack is not null, cancel);

        if (work.Operation is { } o)
        {
            if (work.Replaces is not null)
            {
                allowance!.TakeOut(finding.Place, finding.Id);
            }

            await sequence.Put(
                build.Id,
                o.Id,
                x =>
                {
                    (
                        x.Name,
                        x.Stage,
                        x.Trade,
                        x.BudgetMinutes,
                        x.Station,
                        x.Panels,
                        x.Coat,
                        x.Held,
                        x.Hazard,
                        x.After
                    ) = (
                        o.Name,
                        o.Stage,
                        o.Trade,
                        o.BudgetMinutes,
                        o.Station,
                        [.. o.Panels],
                        o.Coat,
                        o.Held,
                        o.Hazard,
                        [.. o.After]
                    );
                    x.Terms = x.Terms.At(o.Station) with
                    {
                        LowMinutes = null,
                        HighMinutes = null,
                        ClosedUntil = o.ClosedUntil,
                        OneAtATime = o.OneAtATime,
                    };
                },
                null,
                cancel
            );
            foreach (var next in o.Before)
            {
                await sequence.Put(
                    build.Id,
                    next,
                    x => x.After = x.After.Any(a => a.Operation == o.Id) ? x.After : [.. x.After, new(o.Id, 0)],
                    null,
                    cancel
                );
            }
        }

        Db.Parts.RemoveRange(await Db.Parts.Where(p => work.RemoveParts.Contains(p.Id)).ToListAsync(cancel));
        foreach (var p in work.Parts)
        {
            var line = await Db.Parts.FindAsync([p.Id], cancel);
            if (line is null)
            {
                line = new()
                {
                    Id = p.Id,
                    BuildId = build.Id,
                    Name = p.Name,
                    RecordedAt = Clock.Now,
                    RecordedBy = Actor.AccountId,
                };
                Db.Add(line);
            }

            (line.Name, line.UnitCost, line.OperationId) = (p.Name, p.UnitCost, work.Operation?.Id);
        }

        var begun = made.Started;
        finding.Operations =
        [
            .. made
                .Operations.Select(x => x.Id)
                .Except(work.RemoveOperations)
                .Where(x => x != work.PutsBack?.Operation)
                .Union(work.Operation is { } one ? [one.Id] : []),
        ];
        finding.Parts = [.. made.Parts.Select(x => x.Id).Except(work.RemoveParts).Union(work.Parts.Select(x => x.Id))];
        finding.InEstimate = work.InEstimate;
        if (build.AcceptedAt is null)
        {
            build.Estimate = build.Estimate.Plus(work.Adds).AtLeastNothing();
        }
        else
        {
            // What the client has agreed to stands; what is found now is put to them first.
            await papers.Propose(
                build,
                finding,
                SurveyPlaces.Of(build.Vehicle, []).First(p => p.Key == finding.Place).Name,
                work,
                finding.Operations.Except(begun).ToList(),
                finding.Parts,
                cancel
            );
        }

        await Save(cancel);
        await all.CommitAsync(cancel);
        return work;
    }

    private async Task<(VerdictWork Work, Build Build, VerdictMade Made, Allowance? Allowance)> Reckon(
        Finding finding,
        CancellationToken cancel
    )
    {
        Refusal.When(finding.Choice is null, "verdict", "Nothing has been chosen yet.");
        var build = await Build(finding.BuildId, cancel);
        var shop = await Shop(cancel);
        var operations = await sequence.Of(build.Id, cancel);
        var own = operations.Where(o => finding.Operations.Contains(o.Id)).ToList();
        var ids = own.Select(o => o.Id).ToList();
        var booked = await Booked(ids, cancel);
        var parts = await Db
            .Parts.AsNoTracking()
            .Where(p => finding.Parts.Contains(p.Id))
            .OrderBy(p => p.Seq)
            .ToListAsync(cancel);
        var made = new VerdictMade(
            own,
            own.Where(o => o.IsDone || booked.Contains(o.Id)).Select(o => o.Id).ToHashSet(),
            parts.Select(p => (p.Id, p.Name)).ToList(),
            parts.Where(p => p.State > PartState.Needed).Select(p => p.Id).ToHashSet()
        );
        var terms = (await TermsByFinding(build, cancel))(finding);
        var sum = VerdictSums.Of(finding, terms).Ways.First(w => w.Option.Verdict == finding.Choice);
        var places = SurveyPlaces.Of(build.Vehicle, build.History);
        var place = places.First(p => p.Key == finding.Place);
        var allowance = Allowance.For(
            finding.Id,
            place,
            places,
            operations,
            await Booked(operations.Select(o => o.Id).ToList(), cancel)
        );
        var work = VerdictWork.Of(
            finding,
            place,
            sum,
            operations,
            made,
            allowance,
            new(shop.PartTiers, shop.MaterialsMarkup, terms.Rates, shop.ConsumablesPercent),
            finding.InEstimate,
            Guid.CreateVersion7
        );
        return (work, build, made, allowance);
    }

    /// <summary>Those operations on which hours are booked.</summary>
    private async Task<HashSet<Guid>> Booked(List<Guid> operations, CancellationToken cancel) =>
        [
            .. await Db
                .TimeEntries.Where(e => operations.Contains(e.OperationId) && e.ReplacedBy == null && !e.Void)
                .Select(e => e.OperationId)
                .Distinct()
                .ToListAsync(cancel),
        ];

    /// <summary>What ways are reckoned with on a build, by whether their place is seen.</summary>
    internal async Task<Func<bool, VerdictTerms>> Terms(Build build, CancellationToken cancel)
    {
        var rates = TradeRates.On(await Today(cancel), await Db.People.AsNoTracking().ToListAsync(cancel));
        var shop = await Shop(cancel);
        return seen => new(rates, shop.DelayPerDay, build.Brief.Grade, seen, shop.Sheets);
    }

    private async Task<Func<Finding, VerdictTerms>> TermsByFinding(Build build, CancellationToken cancel)
    {
        var outside = Body.Unfold(build.Vehicle.Style, build.Vehicle.Dimensions).Panels.Select(p => p.Key).ToHashSet();
        var terms = await Terms(build, cancel);
        return f => terms(outside.Contains(f.Place));
    }

    private static void KnownPlace(Build build, string place) =>
        Refusal.When(
            SurveyPlaces.Of(build.Vehicle, []).All(p => p.Key != place),
            "place",
            "This vehicle has no such place."
        );

    private static void OnMap(MapPoint at) =>
        Refusal.When(
            !double.IsFinite(at.X) || !double.IsFinite(at.Y) || Math.Abs(at.X) > 2000 || Math.Abs(at.Y) > 2000,
            "at",
            "The point lies off the map."
        );
}
