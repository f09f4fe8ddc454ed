using System.Text.Json;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Parts;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>The plan room: the floor and what waits for a decision.</summary>
public static class PlanEndpoints
{
    /// <summary>Whom to ask, and how.</summary>
    public sealed record Call(string Name, string Phone, string Email);

    /// <param name="Call">The client, where the word is the client's.</param>
    public sealed record DecisionRow(
        Guid Id,
        Guid BuildId,
        int BuildNumber,
        string ColourHex,
        string Question,
        string Detail,
        DecisionFor For,
        Call? Call,
        List<string> Options,
        LocalDate DueOn,
        decimal Days,
        decimal PerWeek,
        int WorstBuild,
        Guid? PaperId
    );

    public sealed record AwayRow(
        Guid JobId,
        Guid BuildId,
        int BuildNumber,
        string ColourHex,
        string Title,
        string Supplier,
        LocalDate? SentOn,
        LocalDate? PromisedOn,
        LocalDate? HereOn,
        int AwayDays,
        bool Late
    );

    public sealed record ReadyGate(Guid OperationId, Guid BuildId, int BuildNumber, string Name);

    /// <param name="OnFreight">Orders and outside jobs that are expected by that day and not before today.</param>
    /// <param name="DaysWaiting">The headline: computed once over all builds, not added up.</param>
    public sealed record FloorView(
        List<BuildCard> Builds,
        List<DecisionRow> Decisions,
        decimal DaysWaiting,
        List<AwayRow> Away,
        List<ReadyGate> ReadyGates,
        int OnTheClock,
        int TodayMinutes,
        LocalDate? NextFreight,
        int OnFreight,
        Instant Now,
        List<ContentionView> Contentions,
        List<FlagRow> Flagged,
        List<InspectionRow> Inspections,
        Instant FuturesAt
    );

    /// <summary>A place whose inspection has run out, or runs out within thirty days: the manager is asked to renew
    /// it.</summary>
    public sealed record InspectionRow(Guid StationId, string Name, string What, LocalDate Until, bool Past);

    /// <summary>Something that was done although a rule stood against it, for the manager to settle.</summary>
    /// <param name="Hours">Hours that were entered; else something noted on a panel.</param>
    public sealed record FlagRow(
        Guid Id,
        bool Hours,
        Guid BuildId,
        int BuildNumber,
        string ColourHex,
        string What,
        string By,
        Instant At,
        string Against
    );

    /// <summary>What was thought of a build's finish one night.</summary>
    /// <param name="Days">By how many days the likely finish moved since the night before; negative: sooner.</param>
    /// <param name="Changed">What was recorded in between, where it moved.</param>
    public sealed record NightRow(
        LocalDate On,
        LocalDate P50,
        LocalDate P80,
        LocalDate P90,
        decimal? Kept,
        WaitKind HoldsKind,
        string Holds,
        int? Days,
        List<string> Changed
    );

    public sealed record ReachView(Guid OperationId, string Name, string Why, string? Until);

    public sealed record InsertedView(string Name, string Before, string Why);

    public sealed record CarrierRow(Guid OperationId, string Name, decimal Days);

    /// <summary>How sure a build's finish is, what makes it unsure, and how it came to be.</summary>
    /// <param name="Chance">Null: the build is not open.</param>
    /// <param name="Cover">When its money must be topped up; null: its work waits for none.</param>
    /// <param name="Against">Progress against what was accepted; not for technicians.</param>
    public sealed record OutlookView(
        BuildChance? Chance,
        List<CarrierRow> Carriers,
        List<NightRow> Nights,
        List<WithoutDateRow> Without,
        List<CauseRow> Causes,
        List<ReachView> OutOfReach,
        List<InsertedView> Inserted,
        NextCover? Cover,
        AgainstBaseline? Against
    );

    /// <summary>A cause for which work of a build has no date, with what waits for it itself and how many come after
    /// that.</summary>
    public sealed record CauseRow(WaitKind Kind, string Text, List<string> Own, int Behind);

    /// <summary>Two builds that want the same, where it moves a promise who goes first.</summary>
    public sealed record ContentionView(
        Guid First,
        int FirstNumber,
        string FirstColourHex,
        Guid Second,
        int SecondNumber,
        string SecondColourHex,
        string Operation,
        WaitKind Kind,
        string Over,
        decimal FirstLoses,
        decimal SecondGains
    );

    public sealed record ContentionAnswer(Guid Id, Guid First, Guid Second, bool Turned);

    public sealed record WhatIfBody(
        [property: System.ComponentModel.DataAnnotations.StringLength(100)] string Name,
        List<WhatIfChange> Changes,
        uint? Version
    );

    public sealed record WhatIfView(Guid Id, string Name, List<WhatIfChange> Changes, uint Version);

    /// <summary>Work that the plan cannot give a date.</summary>
    public sealed record WithoutDateRow(Guid OperationId, Guid BuildId, string Name, WaitKind Kind, string Text);

    /// <summary>A build's vehicle in one place.</summary>
    /// <param name="Place">Null: in none that is known, or out of the shop.</param>
    /// <param name="To">Null: nothing that has a date moves it.</param>
    /// <param name="For">What it is taken there for; null: it stands there already, or makes room.</param>
    /// <param name="MovedBy">Who pushes it there.</param>
    public sealed record StayView(
        string? Place,
        Instant From,
        Instant? To,
        string? For,
        Instant? MovedAt,
        List<string> MovedBy,
        bool Gone
    );

    /// <summary>A time of the week that a person keeps for a build.</summary>
    /// <param name="Unused">Why the next of them that goes unused does; null: the next four weeks' are used.</param>
    /// <param name="UnusedOn">The day of that one.</param>
    /// <param name="Missed">Times that went by without work on the build in the last eight weeks.</param>
    public sealed record KeptView(
        string Person,
        IsoDayOfWeek Day,
        LocalTime From,
        LocalTime To,
        string? Unused,
        LocalDate? UnusedOn,
        int Missed
    );

    /// <summary>Where a build's vehicle stands and when it is moved, and the times that are kept for it.</summary>
    public sealed record AheadView(List<StayView> Stays, List<KeptView> Kept);

    /// <summary>One link of the chain of reasons.</summary>
    /// <param name="Key">What tells it from the other rows.</param>
    /// <param name="SlackDays">Days by which it can be later without moving the end of its build.</param>
    public sealed record WhyRow(
        string Key,
        string Build,
        string Name,
        Instant Start,
        WaitKind Kind,
        string Text,
        decimal SlackDays
    );

    /// <param name="Roots">What would have to go, all of it together; none: it starts as soon as it can.</param>
    /// <param name="WithoutThem">When it would start then, with everything else as it is.</param>
    /// <param name="SoonerDays">How much sooner that is.</param>
    public sealed record WhyAnswer(List<string> Roots, Instant? WithoutThem, decimal SoonerDays, List<WhyRow> Rows);

    public sealed record ImproveBody(Guid Id, double Seconds);

    /// <summary>From when to when a build's likely day and its day of eight in ten move, by the same futures, and the
    /// share that keeps its promise.</summary>
    /// <param name="Days">By how many days the planned finish moves; negative: sooner.</param>
    /// <param name="LateBefore">Days late by the plan.</param>
    /// <param name="Riskier">Noticeably fewer futures keep the promise than now.</param>
    /// <param name="KeptBefore">Null: nothing is promised, or some of its work has no date.</param>
    public sealed record MoveRow(
        int BuildNumber,
        string ColourHex,
        LocalDate? Promised,
        LocalDate Before,
        LocalDate After,
        LocalDate Before80,
        LocalDate After80,
        decimal? KeptBefore,
        decimal? KeptAfter,
        bool Riskier,
        decimal Days,
        decimal LateBefore,
        decimal LateAfter
    );

    public sealed record AcceptedRow(string By, Instant At);

    /// <param name="Id">Null: nothing is looked for or on offer.</param>
    /// <param name="Share">How far the search is.</param>
    /// <param name="Before">Weight x days late as it stands.</param>
    /// <param name="Least">No plan can do better; null until the search has ended.</param>
    /// <param name="Moves">Null until the search has ended.</param>
    /// <param name="Better">What was found is worth taking.</param>
    /// <param name="DaysSooner">Days by which the builds together are done sooner by it.</param>
    /// <param name="Failed">The search broke off; nothing was changed.</param>
    public sealed record ImprovementView(
        Guid? Id,
        double Share,
        decimal Before,
        decimal Best,
        decimal? Least,
        List<MoveRow>? Moves,
        bool Better,
        decimal DaysSooner,
        AcceptedRow? Accepted,
        bool Failed
    );

    public static void MapPlan(this RouteGroupBuilder api)
    {
        api.MapGet("/plan/chances", async (PlanDesk plan, CancellationToken cancel) =>
                (await plan.LastChances(cancel)).Chances
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("getPlanChances");
        api.MapGet("/builds/{id:guid}/ahead", Ahead).RequireAuthorization(Policies.Anyone).WithName("getAhead");
        api.MapGet("/plan/without-date", Without).RequireAuthorization(Policies.Anyone).WithName("getWithoutDate");
        api.MapGet("/operations/{id:guid}/why", Why).RequireAuthorization(Policies.Anyone).WithName("getOperationWhy");
        api.MapGet("/builds/{id:guid}/outlook", LookAhead)
            .RequireAuthorization(Policies.Anyone)
            .WithName("getBuildOutlook");
        api.MapPost("/plan/contentions/answer", (ContentionAnswer b, PlanDesk plan, CancellationToken cancel) =>
                plan.SettleContention(b.Id, b.First, b.Second, b.Turned, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("answerContention");
        var sandboxes = api.MapGroup("/plan/what-ifs").RequireAuthorization(Policies.Manager);
        sandboxes
            .MapGet("", async (WhatIfDesk desk, CancellationToken cancel) =>
                (await desk.Open(cancel)).Select(w => new WhatIfView(w.Id, w.Name, w.Changes, w.Version)).ToList()
            )
            .WithName("listWhatIfs");
        sandboxes
            .MapPut("/{id:guid}", async (Guid id, WhatIfBody b, WhatIfDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Put(id, b.Name, b.Changes, b.Version, cancel))
            )
            .WithName("putWhatIf");
        sandboxes
            .MapGet("/{id:guid}/beside", (Guid id, WhatIfDesk desk, CancellationToken cancel) =>
                desk.Compare(id, cancel)
            )
            .WithName("compareWhatIf");
        sandboxes
            .MapPost("/{id:guid}/adopt", async (Guid id, WhatIfDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Adopt(id, cancel))
            )
            .WithName("adoptWhatIf");
        sandboxes
            .MapDelete("/{id:guid}", (Guid id, WhatIfDesk desk, CancellationToken cancel) => desk.Drop(id, cancel))
            .WithName("dropWhatIf");
        api.MapGet("/plan/problem", async (PlanDesk plan, CancellationToken cancel) =>
                TypedResults.Text(
                    Core.Plan.Files.ShopFileWriter.Write(await plan.Present(cancel))
                        .ToJsonString(new(JsonSerializerDefaults.Web) { WriteIndented = true }),
                    "application/json"
                )
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("exportPlanProblem");
        api.MapGet("/plan/improvement", Improvement).RequireAuthorization(Policies.Manager).WithName("getImprovement");
        api.MapPost(
                "/plan/improvement",
                async (
                    ImproveBody b,
                    ImprovementDesk desk,
                    ShopDb db,
                    ImprovementRuns runs,
                    CancellationToken cancel
                ) =>
                {
                    await desk.Start(b.Id, b.Seconds, cancel);
                    return await Improvement(db, runs, cancel);
                }
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("startImprovement");
        api.MapDelete("/plan/improvement", (ImprovementRuns runs) => runs.Drop())
            .RequireAuthorization(Policies.Manager)
            .WithName("dropImprovement");
        api.MapPost("/plan/improvement/{id:guid}/accept", (Guid id, ImprovementDesk desk, CancellationToken cancel) =>
                desk.Accept(id, cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("acceptImprovement");
        api.MapPost("/plan/turns/undo", (ImprovementDesk desk, CancellationToken cancel) => desk.Undo(cancel))
            .RequireAuthorization(Policies.Manager)
            .WithName("undoTurns");
        api.MapGet("/floor", Floor).RequireAuthorization(Policies.Anyone).WithName("getFloor");
    }

    private static async Task<ImprovementView> Improvement(ShopDb db, ImprovementRuns runs, CancellationToken cancel)
    {
        var accepted = await db
            .Turns.AsNoTracking()
            .Where(t => !t.Undone)
            .OrderByDescending(t => t.Seq)
            .Select(t => new AcceptedRow(t.AcceptedBy, t.RecordedAt))
            .FirstOrDefaultAsync(cancel);
        if (runs.Current is not { } run)
        {
            return new(null, 0, 0, 0, null, null, false, 0, accepted, false);
        }

        var builds = await db.Builds.AsNoTracking().ToDictionaryAsync(b => b.Id.ToString(), cancel);
        var zone = DateTimeZoneProviders.Tzdb[(await db.Settings.AsNoTracking().SingleAsync(cancel)).TimeZone];
        LocalDate Day(long minute) => Instant.FromUnixTimeSeconds(minute * 60).InZone(zone).Date;
        static decimal? Share(double? kept) => kept is { } k ? Math.Round((decimal)k, 3) : null;
        MoveRow Row(string build, BuildOutlook was, BuildOutlook now, PlanComparison compared) =>
            new(
                builds[build].Number,
                builds[build].Vehicle.ColourHex,
                builds[build].Brief.Promised,
                Day(was.P50),
                Day(now.P50),
                Day(was.P80),
                Day(now.P80),
                Share(was.Kept),
                Share(now.Kept),
                now.IsRiskierThan(was),
                compared.Moves.FirstOrDefault(m => m.Build == build)?.Days ?? 0,
                InDays.Of(run.Before.Builds[build].Late),
                InDays.Of(run.Found!.Plan.Builds[build].Late)
            );
        var compared = run.Found is { } found ? PlanComparison.Of(run.Before, found.Plan) : null;
        return new(
            run.Id,
            Math.Round(run.Share, 3),
            InDays.Of(run.Before.WeightedDaysLate),
            InDays.Of(compared?.WeightedAfter ?? Math.Min(run.Best, run.Before.WeightedDaysLate)),
            run.Found is { } f ? InDays.Of(f.LeastWeightedDaysLate) : null,
            compared is null || run.Chances is not { } chances
                ? null
                :
                [
                    .. chances
                        .After.Builds.Values.Where(b =>
                            builds.TryGetValue(b.Build, out var x)
                            && x.Status == BuildStatus.Open
                            && run.Before.Builds.ContainsKey(b.Build)
                        )
                        .Select(b => Row(b.Build, chances.Before.Builds[b.Build], b, compared))
                        .OrderByDescending(r => Math.Abs(r.Days))
                        .ThenBy(r => r.BuildNumber),
                ],
            compared?.IsBetter ?? false,
            compared?.DaysSooner ?? 0,
            accepted,
            run.Failed
        );
    }

    private static async Task<OutlookView> LookAhead(
        Guid id,
        ShopDb db,
        PlanDesk plan,
        SlipDesk slips,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        Refusal.When(!await db.Builds.AnyAsync(b => b.Id == id, cancel), "id", "There is no such build.");
        var view = await plan.Look(cancel);
        var operations = await db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == id)
            .ToDictionaryAsync(o => o.Id, cancel);
        var names = operations.ToDictionary(o => o.Key, o => o.Value.Name);
        var without = view.Without.Where(w => w.BuildId == id).ToList();
        var chance = (await plan.Chances(cancel)).FirstOrDefault(c => c.Id == id);
        return new(
            chance,
            [
                .. (chance?.Risks ?? [])
                    .Where(r => names.ContainsKey(r.OperationId))
                    .Select(r => new CarrierRow(r.OperationId, names[r.OperationId], r.Days)),
            ],
            [
                .. (await slips.Nights(id, cancel)).Select(m => new NightRow(
                    m.Night.On,
                    m.Night.P50,
                    m.Night.P80,
                    m.Night.P90,
                    m.Night.Kept,
                    m.Night.HoldsKind,
                    m.Night.Holds,
                    m.Days,
                    m.Changed
                )),
            ],
            [
                .. without.Select(w => new WithoutDateRow(
                    w.OperationId,
                    w.BuildId,
                    names[w.OperationId],
                    w.Reason.Kind,
                    w.Reason.Text
                )),
            ],
            [
                .. MissingDates
                    .Of([.. without.Select(w => (w.OperationId, w.Reason))], o =>
                        operations[o].After.Select(a => a.Operation)
                    )
                    .Select(c => new CauseRow(c.Kind, c.Text, [.. c.Own.Select(o => names[o])], c.Behind)),
            ],
            [
                .. view
                    .OutOfReach.Where(r => r.BuildId == id)
                    .Select(r => new ReachView(
                        r.OperationId,
                        names[r.OperationId],
                        r.Why,
                        r.Until is { } until ? names[until] : null
                    )),
            ],
            [
                .. view
                    .Inserted.Where(i => i.BuildId == id)
                    .Select(i => new InsertedView(i.Name, names[i.Before], i.Why)),
            ],
            !current.Actor.IsDesk ? null : view.Covers.GetValueOrDefault(id),
            !current.Actor.IsDesk ? null : await slips.Against(id, cancel)
        );
    }

    private static async Task<List<WithoutDateRow>> Without(ShopDb db, PlanDesk plan, CancellationToken cancel)
    {
        var view = await plan.Look(cancel);
        var ids = view.Without.Select(w => w.OperationId).ToList();
        var names = await db
            .Operations.AsNoTracking()
            .Where(o => ids.Contains(o.Id))
            .ToDictionaryAsync(o => o.Id, o => o.Name, cancel);
        return view
            .Without.Select(w => new WithoutDateRow(
                w.OperationId,
                w.BuildId,
                names[w.OperationId],
                w.Reason.Kind,
                w.Reason.Text
            ))
            .ToList();
    }

    private static async Task<AheadView> Ahead(Guid id, ShopDb db, PlanDesk plan, CancellationToken cancel)
    {
        Refusal.When(!await db.Builds.AnyAsync(b => b.Id == id, cancel), "id", "There is no such build.");
        var view = await plan.Look(cancel);
        var places = await db.Stations.AsNoTracking().ToDictionaryAsync(s => s.Id, s => s.Name, cancel);
        var names = await db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == id)
            .ToDictionaryAsync(o => o.Id, o => o.Name, cancel);
        var people = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.ShortName, cancel);
        return new(
            [
                .. view
                    .Stays.Where(s => s.BuildId == id)
                    .Select(s => new StayView(
                        s.PlaceId is { } at ? places.GetValueOrDefault(at) : null,
                        s.From,
                        s.To,
                        s.For is { } on ? names.GetValueOrDefault(on) : null,
                        s.MovedAt,
                        [.. s.MovedBy.Select(p => people[p])],
                        s.Gone
                    )),
            ],
            [
                .. (await plan.KeptFor(id, cancel)).Select(k => new KeptView(
                    people[k.Person],
                    k.Slot.Day,
                    k.Slot.From,
                    k.Slot.To,
                    k.Unused,
                    k.UnusedOn,
                    k.Missed
                )),
            ]
        );
    }

    /// <summary>Why an operation does not start sooner: what would have to go, and the way there.</summary>
    private static async Task<WhyAnswer> Why(Guid id, ShopDb db, PlanDesk plan, CancellationToken cancel)
    {
        if (!await db.Operations.AnyAsync(o => o.Id == id, cancel))
        {
            throw Refusal.Missing("operation");
        }

        var why = (await plan.Look(cancel)).WhyOf(id);
        return new(
            [.. why.Roots.Select(r => r.Text)],
            why.WithoutThem,
            why.WithoutThem is { } at ? InDays.Of(why.Steps[0].Start - at.ToUnixTimeSeconds() / 60) : 0,
            [
                .. why.Steps.Select(s => new WhyRow(
                    s.Operation,
                    s.Build,
                    s.Name,
                    Instant.FromUnixTimeSeconds(s.Start * 60),
                    s.Reason.Kind,
                    s.Reason.Text,
                    InDays.Of(s.Slack)
                )),
            ]
        );
    }

    private static async Task<FloorView> Floor(
        ShopDb db,
        ShopClock clock,
        BuildCards cards,
        PlanDesk plan,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        var shop = await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel)
            ?? throw new Refusal("shop", "The shop has not been set up yet.");
        var zone = DateTimeZoneProviders.Tzdb[shop.TimeZone];
        var today = clock.Now.InZone(zone).Date;
        var builds = await cards.Look(cancel);
        var byId = builds.ToDictionary(b => b.Id);
        var view = await plan.Look(cancel);
        var clients = await db
            .Clients.AsNoTracking()
            .Join(
                db.Builds.AsNoTracking(),
                c => c.Id,
                b => b.ClientId,
                (c, b) => new { b.Id, Call = new Call(c.Name, c.Phone, c.Email) }
            )
            .ToDictionaryAsync(x => x.Id, x => x.Call, cancel);
        var decisions = view
            .Decisions.Where(d => byId.ContainsKey(d.Decision.BuildId))
            .Select(d => new DecisionRow(
                d.Decision.Id,
                d.Decision.BuildId,
                byId[d.Decision.BuildId].Number,
                byId[d.Decision.BuildId].ColourHex,
                d.Decision.Question,
                d.Decision.Detail,
                d.Decision.For,
                d.Decision.For == DecisionFor.Client && current.Actor.IsDesk ? clients[d.Decision.BuildId] : null,
                d.Decision.Options,
                d.Decision.DueOn,
                d.Days,
                !current.Actor.IsDesk ? 0 : d.CostPerWeek(today, shop.DelayPerDay),
                byId.TryGetValue(d.WorstBuild, out var worst) ? worst.Number : byId[d.Decision.BuildId].Number,
                d.Decision.PaperId
            ))
            .ToList();
        var suppliers = await db.Suppliers.AsNoTracking().ToDictionaryAsync(s => s.Id, cancel);
        var jobs = await db
            .OutsideJobs.AsNoTracking()
            .Where(j => j.SentOn != null && j.BackOn == null)
            .OrderBy(j => j.PromisedOn)
            .ToListAsync(cancel);
        var away = jobs.Where(j => byId.ContainsKey(j.BuildId))
            .Select(j =>
            {
                var here = suppliers[j.SupplierId].HereOn(j.PromisedOn!.Value);
                return new AwayRow(
                    j.Id,
                    j.BuildId,
                    byId[j.BuildId].Number,
                    byId[j.BuildId].ColourHex,
                    j.Title,
                    suppliers[j.SupplierId].Name,
                    j.SentOn,
                    j.PromisedOn,
                    here,
                    Period.DaysBetween(j.SentOn!.Value, today),
                    j.IsLate(here, today)
                );
            })
            .ToList();
        var operations = (await db.Operations.AsNoTracking().Where(o => !o.Removed).ToListAsync(cancel))
            .Where(o => byId.TryGetValue(o.BuildId, out var b) && b.Status == BuildStatus.Open)
            .ToDictionary(o => o.Id);
        var ready = Gates
            .Ready(operations.Values)
            .Select(o => new ReadyGate(o.Id, o.BuildId, byId[o.BuildId].Number, o.Name))
            .ToList();
        var day = DayBounds.Of(today, zone);
        var logged = await db
            .TimeEntries.AsNoTracking()
            .Where(e => e.ReplacedBy == null && !e.Void && (e.Stop == null || e.Start >= day.Start))
            .ToListAsync(cancel);
        var freight = suppliers.Values.SelectMany(s => s.FreightDays).Distinct().ToList();
        var next =
            freight.Count == 0
                ? (LocalDate?)null
                : Enumerable.Range(0, 7).Select(today.PlusDays).First(d => freight.Contains(d.DayOfWeek));
        var orders = next is null
            ? 0
            : await db
                .Parts.AsNoTracking()
                .CountAsync(p => p.State < PartState.Received && p.ExpectedOn >= today && p.ExpectedOn <= next, cancel);
        var returning = next is null ? 0 : away.Count(a => a.HereOn >= today && a.HereOn <= next);
        return new(
            builds,
            decisions,
            view.DaysWaiting,
            away,
            ready,
            logged.Count(e => e.IsRunning),
            logged.Where(e => day.Has(e.Start)).Sum(e => e.Minutes(clock.Now)),
            next,
            orders + returning,
            clock.Now,
            Contending(await plan.Contentions(cancel), byId, operations),
            current.Actor.IsManager ? await Flagged(db, byId, cancel) : [],
            current.Actor.IsManager
                ?
                [
                    .. (await db.Stations.AsNoTracking().ToListAsync(cancel))
                        .Where(s => s.Terms.IsDue(today))
                        .OrderBy(s => s.Terms.InspectedUntil)
                        .Select(s => new InspectionRow(
                            s.Id,
                            s.Name,
                            s.Terms.InspectedWhat(),
                            s.Terms.InspectedUntil!.Value,
                            s.Terms.PastInspection(today)
                        )),
                ]
                : [],
            (await plan.LastChances(cancel)).At
        );
    }

    /// <summary>What waits to be settled because it was done against a rule.</summary>
    private static async Task<List<FlagRow>> Flagged(
        ShopDb db,
        Dictionary<Guid, BuildCard> builds,
        CancellationToken cancel
    )
    {
        var hours = (
            await db
                .TimeEntries.AsNoTracking()
                .Where(e => e.Flag != null && e.ReplacedBy == null && !e.Void)
                .ToListAsync(cancel)
        )
            .Where(e => e.Flag!.IsOpen && builds.ContainsKey(e.BuildId))
            .ToList();
        var panels = (await db.PanelEvents.AsNoTracking().Where(e => e.Flag != null).ToListAsync(cancel))
            .Where(e => !e.Counts && builds.ContainsKey(e.BuildId))
            .ToList();
        var of = hours.Select(h => h.OperationId).ToList();
        var names = await db
            .Operations.AsNoTracking()
            .Where(o => of.Contains(o.Id))
            .ToDictionaryAsync(o => o.Id, o => o.Name, cancel);
        var people = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        return
        [
            .. hours
                .Select(e => new FlagRow(
                    e.Id,
                    true,
                    e.BuildId,
                    builds[e.BuildId].Number,
                    builds[e.BuildId].ColourHex,
                    names[e.OperationId],
                    people[e.PersonId],
                    e.Start,
                    e.Flag!.Against
                ))
                .Concat(
                    panels.Select(e => new FlagRow(
                        e.Id,
                        false,
                        e.BuildId,
                        builds[e.BuildId].Number,
                        builds[e.BuildId].ColourHex,
                        $"{e.Panel}: {e.Coat?.ToString() ?? e.Held?.ToString() ?? e.Fact.ToString()}",
                        e.By,
                        e.At,
                        e.Flag!.Against
                    ))
                )
                .OrderBy(f => f.At),
        ];
    }

    private static List<ContentionView> Contending(
        List<ContentionRow> rows,
        Dictionary<Guid, BuildCard> builds,
        Dictionary<Guid, Operation> operations
    ) =>
        [
            .. rows.Where(c =>
                    builds.ContainsKey(c.First) && builds.ContainsKey(c.Second) && operations.ContainsKey(c.OperationId)
                )
                .Select(c => new ContentionView(
                    c.First,
                    builds[c.First].Number,
                    builds[c.First].ColourHex,
                    c.Second,
                    builds[c.Second].Number,
                    builds[c.Second].ColourHex,
                    operations[c.OperationId].Name,
                    c.Kind,
                    c.Over,
                    c.FirstLoses,
                    c.SecondGains
                )),
        ];
}
