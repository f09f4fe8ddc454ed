using System.ComponentModel.DataAnnotations;
using System.Text.Json;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Plan;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>The plan room: when what is done, how sure that is, and what would change it.</summary>
public static class PlanEndpoints
{
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
    /// <param name="FuturesAt">When the futures of the chance were drawn; null: none were yet.</param>
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
        AgainstBaseline? Against,
        Instant? FuturesAt
    );

    /// <summary>A cause for which work of a build has no date, with what waits for it itself and how many come after
    /// that.</summary>
    public sealed record CauseRow(WaitKind Kind, string Text, List<string> Own, int Behind);

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

    /// <summary>A stretch of somebody's time that others leave free, and what it is used for.</summary>
    public sealed record FreeHours(string Person, Instant From, Instant To, string Work);

    /// <summary>Where a build's vehicle stands and when it is moved, and the times that are kept for it.</summary>
    /// <param name="Fills">The next stretches that a fill-in job is given; of no other build.</param>
    public sealed record AheadView(List<StayView> Stays, List<KeptView> Kept, List<FreeHours> Fills);

    /// <summary>So many stretches of a fill-in job are told.</summary>
    private const int FillsTold = 12;

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

    /// <summary>Work that follows, and the days by which this can be later before that is.</summary>
    /// <param name="Over">The person or place that both need; null: it comes next on the vehicle.</param>
    public sealed record FollowerRow(
        string Key,
        int BuildNumber,
        string Name,
        Instant Start,
        decimal RoomDays,
        string? Over
    );

    /// <param name="Roots">What would have to go, all of it together; none: it starts as soon as it can.</param>
    /// <param name="WithoutThem">When it would start then, with everything else as it is.</param>
    /// <param name="SoonerDays">How much sooner that is.</param>
    /// <param name="Followers">What it holds up if it is late, the tightest first.</param>
    public sealed record WhyAnswer(
        List<string> Roots,
        Instant? WithoutThem,
        decimal SoonerDays,
        List<WhyRow> Rows,
        List<FollowerRow> Followers
    );

    public sealed record ImproveBody(Guid Id, double Seconds);

    /// <summary>From when to when a build's likely day and its day of eight in ten move, by the same futures, and the
    /// share that keeps its promise.</summary>
    /// <param name="Days">By how many days the planned finish moves; negative: sooner.</param>
    /// <param name="LateBefore">Days late by the plan.</param>
    /// <param name="Riskier">Noticeably fewer futures keep the promise than now.</param>
    /// <param name="KeptBefore">Null: nothing is promised, or some of its work has no date.</param>
    public sealed record MoveRow(
        Guid BuildId,
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
    /// <param name="Chosen">Builds whose order is offered, the others' kept; null: everybody's.</param>
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
        bool Failed,
        List<Guid>? Chosen
    );

    /// <param name="Builds">Whose order is taken, the others' kept; null: everybody's.</param>
    public sealed record ChosenBody([property: MaxLength(500)] List<Guid>? Builds);

    /// <param name="Id">Of the order that comes of it.</param>
    /// <param name="Other">The work before which it is put.</param>
    public sealed record BeforeBody(Guid Id, Guid Other);

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
        api.MapPost("/plan/improvement/{id:guid}/choose", (Guid id, ChosenBody b, ImprovementDesk desk) =>
                desk.Choose(id, b.Builds?.ToHashSet())
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("chooseImprovement");
        api.MapPost(
                "/plan/improvement/{id:guid}/accept",
                (Guid id, ChosenBody b, ImprovementDesk desk, CancellationToken cancel) =>
                    desk.Accept(id, b.Builds?.ToHashSet(), cancel)
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("acceptImprovement");
        var before = api.MapGroup("/operations/{id:guid}/before").RequireAuthorization(Policies.Manager);
        before
            .MapPost("", (Guid id, BeforeBody b, ImprovementDesk desk, CancellationToken cancel) =>
                desk.PutBefore(b.Id, id, b.Other, cancel)
            )
            .WithName("putBefore");
        before
            .MapPost("/try", (Guid id, BeforeBody b, ImprovementDesk desk, Trials trials, CancellationToken cancel) =>
                trials.Of(() => desk.PutBefore(b.Id, id, b.Other, cancel), id, cancel)
            )
            .WithName("tryBefore");
        api.MapPost("/plan/turns/undo", (ImprovementDesk desk, CancellationToken cancel) => desk.Undo(cancel))
            .RequireAuthorization(Policies.Manager)
            .WithName("undoTurns");
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
            return new(null, 0, 0, 0, null, null, false, 0, accepted, false, null);
        }

        var builds = await db.Builds.AsNoTracking().ToDictionaryAsync(b => b.Id.ToString(), cancel);
        var zone = DateTimeZoneProviders.Tzdb[(await db.Settings.AsNoTracking().SingleAsync(cancel)).TimeZone];
        LocalDate Day(long minute) => Instant.FromUnixTimeSeconds(minute * 60).InZone(zone).Date;
        static decimal? Share(double? kept) => kept is { } k ? Math.Round((decimal)k, 3) : null;
        var offered = run.Offered;
        MoveRow Row(string build, BuildOutlook was, BuildOutlook now, PlanComparison compared) =>
            new(
                builds[build].Id,
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
                InDays.Of(offered!.Plan.Builds[build].Late)
            );
        var compared = offered is null ? null : PlanComparison.Of(run.Before, offered.Plan);
        return new(
            run.Id,
            Math.Round(run.Share, 3),
            InDays.Of(run.Before.WeightedDaysLate),
            InDays.Of(compared?.WeightedAfter ?? Math.Min(run.Best, run.Before.WeightedDaysLate)),
            run.Found is { } f ? InDays.Of(f.LeastWeightedDaysLate) : null,
            compared is null
                ? null
                :
                [
                    .. offered!
                        .After.Builds.Values.Where(b =>
                            builds.TryGetValue(b.Build, out var x)
                            && x.Status == BuildStatus.Open
                            && run.Before.Builds.ContainsKey(b.Build)
                        )
                        .Select(b => Row(b.Build, offered.Before.Builds[b.Build], b, compared))
                        .OrderByDescending(r => Math.Abs(r.Days))
                        .ThenBy(r => r.BuildNumber),
                ],
            compared?.IsBetter ?? false,
            compared?.DaysSooner ?? 0,
            accepted,
            run.Failed,
            offered?.Builds?.ToList()
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
        var (futuresAt, chances) = await plan.LastChances(cancel);
        var chance = chances.Find(c => c.Id == id);
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
            !current.Actor.IsDesk ? null : (await plan.Advise(cancel)).Covers.GetValueOrDefault(id),
            !current.Actor.IsDesk ? null : await slips.Against(id, cancel),
            futuresAt
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

    private static async Task<AheadView> Ahead(
        Guid id,
        ShopDb db,
        ShopClock clock,
        PlanDesk plan,
        CancellationToken cancel
    )
    {
        var build = await db.Builds.AsNoTracking().SingleOrDefaultAsync(b => b.Id == id, cancel)
            ?? throw new Refusal("id", "There is no such build.");
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
            ],
            build.FillIn
                ?
                [
                    .. view
                        .Lanes.Value.HoursOf($"{id}", clock.Now.ToUnixTimeSeconds() / 60)
                        .Take(FillsTold)
                        .Select(h => new FreeHours(
                            people[Guid.Parse(h.Person)],
                            LanesEndpoints.At(h.Hours.Start),
                            LanesEndpoints.At(h.Hours.End),
                            h.Work.Name
                        )),
                ]
                : []
        );
    }

    /// <summary>Why an operation does not start sooner: what would have to go, and the way there.</summary>
    private static async Task<WhyAnswer> Why(Guid id, ShopDb db, PlanDesk plan, CancellationToken cancel)
    {
        if (!await db.Operations.AnyAsync(o => o.Id == id, cancel))
        {
            throw Refusal.Missing("operation");
        }

        var view = await plan.Look(cancel);
        var (why, followers) = (view.WhyOf(id), view.FollowersOf(id));
        var named = await Named(db, [.. followers.Select(f => f.Operation)], cancel);
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
            ],
            [
                .. followers
                    .Where(f => named.ContainsKey(f.Operation))
                    .Select(f => new FollowerRow(
                        f.Operation,
                        named[f.Operation].Build,
                        named[f.Operation].Name,
                        Instant.FromUnixTimeSeconds(f.Start * 60),
                        f.RoomDays,
                        f.Over
                    )),
            ]
        );
    }

    /// <summary>Operations of the shop among ids of the plan, with the numbers of their builds.</summary>
    private static async Task<Dictionary<string, (int Build, string Name)>> Named(
        ShopDb db,
        List<string> keys,
        CancellationToken cancel
    )
    {
        var ids = keys.Where(k => Guid.TryParse(k, out _)).Select(Guid.Parse).ToList();
        var rows = await db
            .Operations.AsNoTracking()
            .Where(o => ids.Contains(o.Id))
            .Join(
                db.Builds,
                o => o.BuildId,
                b => b.Id,
                (o, b) =>
                    new
                    {
                        o.Id,
                        o.Name,
                        b.Number,
                    }
            )
            .ToListAsync(cancel);
        return rows.ToDictionary(r => r.Id.ToString(), r => (r.Number, r.Name));
    }
}
