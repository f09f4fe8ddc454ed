using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>The plan as a picture: every build's promise, and all work in the lanes of places, people, builds and
/// suppliers.</summary>
public static class LanesEndpoints
{
    /// <summary>As far as the axis reaches, in days.</summary>
    private const int MostDays = 2 * 366;

    /// <param name="From">The instant of its midnight.</param>
    /// <param name="Closed">The shop does not work that day.</param>
    /// <param name="Freight">Something can come that day from a supplier who has a batch.</param>
    public sealed record LaneDay(LocalDate Date, Instant From, bool Closed, bool Freight);

    /// <param name="P20">Null, as the others: no futures are drawn yet, or it is paused.</param>
    /// <param name="Partly">Some of its work has no date: the days are of the rest.</param>
    /// <param name="DaysLate">By which the likely day is after the promise; null: it is not, or nothing is said of
    /// it.</param>
    /// <param name="Carrier">The work that makes its finish most unsure.</param>
    public sealed record LaneBuild(
        Guid Id,
        int Number,
        string ColourHex,
        string Title,
        bool Paused,
        bool FillIn,
        LocalDate? Promised,
        LocalDate? P20,
        LocalDate? P50,
        LocalDate? P80,
        LocalDate? P95,
        bool Partly,
        int? DaysLate,
        LaneCarrier? Carrier
    );

    public sealed record LaneCarrier(Guid OperationId, string Name, decimal Days);

    public sealed record LanePlace(Guid Id, string Name, StationKind Kind);

    /// <param name="Share">Of their working time of the next four weeks that is planned.</param>
    public sealed record LanePerson(
        Guid Id,
        string Name,
        decimal Share,
        int FreeMinutes,
        List<LaneSpan> Absent,
        List<LaneKept> Kept
    );

    public sealed record LaneSpan(Instant From, Instant To);

    /// <summary>A time that is kept for a build.</summary>
    /// <param name="Why">Why it goes unused; null: it is used.</param>
    public sealed record LaneKept(Guid BuildId, Instant From, Instant To, string? Why);

    /// <summary>Work that is planned, or that was worked on since last week.</summary>
    /// <param name="Key">What tells it from the others.</param>
    /// <param name="OperationId">Null: the plan put it in by itself.</param>
    /// <param name="Hours">When who is at it.</param>
    /// <param name="DryUntil">Until when it dries before what follows may start.</param>
    /// <param name="Asks">An open question stops it.</param>
    /// <param name="Away">At a supplier.</param>
    /// <param name="Cures">Nobody is at it: it cures, dries or sets.</param>
    /// <param name="Worked">It is behind us.</param>
    /// <param name="PinnedOn">The day on which somebody wants it to start; null: the plan settles it.</param>
    /// <param name="PinnedTo">Who is to do it, where somebody settled that.</param>
    /// <param name="PinnedAt">The place in which it is to be done, where somebody settled that.</param>
    /// <param name="Broken">What of that the plan cannot keep, and why.</param>
    /// <param name="Version">Of its operation.</param>
    public sealed record LaneWork(
        string Key,
        Guid? OperationId,
        Guid BuildId,
        string Name,
        Instant Start,
        Instant Finish,
        Guid? PlaceId,
        List<Guid> People,
        List<LaneSpan> Hours,
        Instant? DryUntil,
        bool Asks,
        bool Away,
        bool Cures,
        bool Worked,
        LocalDate? PinnedOn,
        Guid? PinnedTo,
        Guid? PinnedAt,
        List<string> Broken,
        uint? Version
    );

    /// <summary>A place that a vehicle takes, worked on or not.</summary>
    /// <param name="To">Null: nothing moves it.</param>
    public sealed record LaneHeld(Guid BuildId, Guid PlaceId, Instant From, Instant? To);

    /// <summary>A batch at a supplier.</summary>
    /// <param name="NeededOn">When the plan starts what waits for it; null: nothing does, or it has no date.</param>
    /// <param name="DaysOver">Days by which it comes after that in two of ten cases; null: it does not.</param>
    public sealed record LaneAway(
        Guid JobId,
        Guid BuildId,
        string Title,
        string Supplier,
        LocalDate SentOn,
        LocalDate PromisedOn,
        LocalDate Likely,
        LocalDate High,
        LocalDate? NeededOn,
        int? DaysOver
    );

    /// <param name="Builds">Late ones first, then as the shop has queued them.</param>
    /// <param name="FuturesAt">When the futures were drawn; null: none were yet.</param>
    /// <param name="FullBooth">Days on end on which no other vehicle finds room in the booth; null: there are
    /// none.</param>
    public sealed record LanesView(
        Instant Now,
        LocalDate Today,
        List<LaneDay> Days,
        List<LaneBuild> Builds,
        List<LanePlace> Places,
        List<LanePerson> People,
        List<LaneWork> Work,
        List<LaneHeld> Held,
        List<LaneAway> Away,
        Instant? FuturesAt,
        LaneDays? FullBooth
    );

    /// <param name="To">The last of them.</param>
    public sealed record LaneDays(LocalDate From, LocalDate To);

    /// <param name="Days">By how many the planned finish moves; negative: sooner.</param>
    public sealed record PlannedMove(Guid BuildId, int BuildNumber, decimal Days)
    {
        /// <summary>Of builds that are known by a number, those that move by a tenth of a day or more.</summary>
        internal static IEnumerable<PlannedMove> Of(
            IEnumerable<BuildMove> moves,
            IReadOnlyDictionary<Guid, int> numbers
        ) =>
            moves
                .Where(m => m.Days != 0 && numbers.ContainsKey(Guid.Parse(m.Build)))
                .Select(m => new PlannedMove(Guid.Parse(m.Build), numbers[Guid.Parse(m.Build)], m.Days));
    }

    /// <param name="Sooner">The day lies before the planned start, and it cannot start sooner than that.</param>
    public sealed record StartsOnView(Instant Start, Instant Finish, List<PlannedMove> Moves, bool Sooner);

    public static void MapLanes(this RouteGroupBuilder api)
    {
        api.MapGet("/plan/lanes", Lanes).RequireAuthorization(Policies.Anyone).WithName("getPlanLanes");
        api.MapGet("/operations/{id:guid}/starts-on", StartsOn)
            .RequireAuthorization(Policies.Anyone)
            .WithName("getStartsOn");
    }

    private static async Task<LanesView> Lanes(
        LanesDesk desk,
        PlanDesk plan,
        ShopClock clock,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        var facts = await desk.Look(cancel);
        var (futuresAt, chances) = await plan.LastChances(cancel);
        var (lanes, open) = (facts.View.Lanes.Value, facts.Builds.Select(b => b.Id).ToHashSet());
        var names = facts.Operations.ToDictionary(o => o.Key, o => o.Value.Name);
        var builds = facts.Builds.Select(b => Row(b, chances.Find(c => c.Id == b.Id), names)).ToList();
        var work = lanes
            .Blocks.Where(b => open.Contains(Guid.Parse(b.Build)))
            .Select(b => Planned(b, facts))
            .Concat(Behind(facts, current.Actor))
            .ToList();
        return new(
            clock.Now,
            facts.Today,
            Days(facts, work, builds),
            [.. builds.OrderByDescending(b => b.DaysLate ?? 0)],
            [.. facts.Stations.Select(s => new LanePlace(s.Id, s.Name, s.Kind))],
            [.. facts.People.Select(p => Person(p, facts, lanes))],
            work,
            [
                .. lanes.Holds.Select(h => new LaneHeld(
                    Guid.Parse(h.Build),
                    Guid.Parse(h.Place),
                    At(h.From),
                    h.To is { } to ? At(to) : null
                )),
            ],
            [
                .. facts.Away.Select(a => new LaneAway(
                    a.Job.Id,
                    a.Job.BuildId,
                    a.Job.Title,
                    a.Supplier,
                    a.Job.SentOn!.Value,
                    a.Job.PromisedOn!.Value,
                    a.Likely,
                    a.High,
                    a.NeededOn,
                    a.DaysOver
                )),
            ],
            futuresAt,
            facts.View.FullBooth.Value is { } full ? new(full.From, full.To) : null
        );
    }

    private static LaneBuild Row(Build build, BuildChance? chance, Dictionary<Guid, string> names)
    {
        var promised = build.Brief.Promised;
        var worst = chance?.Risks.Find(r => names.ContainsKey(r.OperationId));
        return new(
            build.Id,
            build.Number,
            build.Vehicle.ColourHex,
            build.Title,
            build.Status == BuildStatus.Paused,
            build.FillIn,
            promised,
            chance?.P20,
            chance?.P50,
            chance?.P80,
            chance?.P95,
            chance?.Partly ?? false,
            chance?.DaysLate(promised),
            worst is null ? null : new(worst.OperationId, names[worst.OperationId], worst.Days)
        );
    }

    private static LanePerson Person(Person person, LaneFacts facts, PlanLanes lanes)
    {
        var key = person.Id.ToString();
        var use = facts.View.Used.Value.FirstOrDefault(u => u.IsPerson && u.Id == key);
        return new(
            person.Id,
            person.ShortName,
            use is null ? 0 : Math.Round((decimal)use.Share, 3),
            (int)(use?.FreeMinutes ?? 0),
            [.. lanes.Absences.Where(a => a.Person == key).Select(a => new LaneSpan(At(a.From), At(a.To)))],
            [
                .. facts
                    .View.KeptAhead.Value.Where(k => k.Person == key)
                    .Select(k => new LaneKept(Guid.Parse(k.Build), At(k.From), At(k.To), k.Why)),
            ]
        );
    }

    private static LaneWork Planned(LaneBlock b, LaneFacts facts)
    {
        Guid? id = Guid.TryParse(b.Operation, out var known) ? known : null;
        var operation = id is { } own ? facts.Operations.GetValueOrDefault(own) : null;
        return new(
            b.Operation,
            id,
            Guid.Parse(b.Build),
            b.Name,
            At(b.Start),
            At(b.Finish),
            Guid.TryParse(b.Place, out var place) ? place : null,
            [.. b.People.Select(Guid.Parse)],
            [.. b.Hours.Select(h => new LaneSpan(At(h.Start), At(h.End)))],
            b.DryUntil is { } until ? At(until) : null,
            b.Asks,
            b.Away,
            b.Cures,
            false,
            operation?.Pin.On,
            operation?.Pin.Person,
            operation?.Pin.Place,
            operation is null ? [] : Broken(b, operation, facts),
            operation?.Version
        );
    }

    private static List<string> Broken(LaneBlock b, LaneOperation operation, LaneFacts facts) =>
        [
            .. operation.Pin.Broken(
                At(b.Start).InZone(facts.Calendar.Zone!).Date,
                [.. b.People.Select(Guid.Parse)],
                Guid.TryParse(b.Place, out var at) ? at : null,
                () =>
                    facts.View.Operations.GetValueOrDefault(operation.Id)?.Reason is { Kind: not WaitKind.Nothing } why
                        ? why.Text
                        : "",
                id =>
                    facts.People.FirstOrDefault(p => p.Id == id)?.ShortName
                    ?? facts.Stations.FirstOrDefault(s => s.Id == id)?.Name
                    ?? "what is gone"
            ),
        ];

    /// <summary>What was worked on since last week, by operation and person. In which of several places of a kind it
    /// was is on no record.</summary>
    private static IEnumerable<LaneWork> Behind(LaneFacts facts, Actor actor)
    {
        var only = facts
            .Stations.GroupBy(s => s.Kind)
            .Where(k => k.Count() == 1)
            .ToDictionary(k => k.Key, k => k.Single().Id);
        return facts
            .Worked.Where(w => facts.Operations.ContainsKey(w.Operation) && actor.ReadsHoursOf(w.Person))
            .GroupBy(w => (w.Operation, w.Person))
            .Select(g =>
            {
                var operation = facts.Operations[g.Key.Operation];
                var going = facts.View.Operations.GetValueOrDefault(g.Key.Operation);
                Instant End(WorkedHours w) => w.To ?? facts.Now;
                return new LaneWork(
                    $"{g.Key.Operation} {g.Key.Person}",
                    g.Key.Operation,
                    g.First().Build,
                    operation.Name,
                    g.Min(w => w.From),
                    g.Max(End),
                    operation.Station is { } k && only.TryGetValue(k, out var place) ? place : going?.PlaceId,
                    [g.Key.Person],
                    [.. g.Select(w => new LaneSpan(w.From, End(w)))],
                    null,
                    false,
                    false,
                    false,
                    true,
                    null,
                    null,
                    null,
                    [],
                    null
                );
            });
    }

    /// <summary>The days of the axis: from last week's Monday until a month after the last date there is.</summary>
    private static List<LaneDay> Days(LaneFacts facts, List<LaneWork> work, List<LaneBuild> builds)
    {
        LocalDate On(Instant at) => at.InZone(facts.Calendar.Zone!).Date;
        var last = work.Where(w => !w.Worked)
            .Select(w => On(w.DryUntil ?? w.Finish))
            .Concat(builds.SelectMany(b => new[] { b.Promised, b.P95 }).OfType<LocalDate>())
            .Append(facts.Today.PlusDays(7 * 7))
            .Max()
            .PlusDays(30);
        var count = Math.Min(MostDays, Period.DaysBetween(facts.From, last));
        return
        [
            .. Enumerable
                .Range(0, count)
                .Select(facts.From.PlusDays)
                .Select(d => new LaneDay(
                    d,
                    At(facts.Calendar.Minute(d.AtMidnight())),
                    !facts.Calendar.WorksOn(d),
                    facts.FreightDays.Contains(d.DayOfWeek)
                )),
        ];
    }

    /// <summary>What the plan says if an operation starts no sooner than a day.</summary>
    private static async Task<StartsOnView> StartsOn(
        Guid id,
        DateOnly on,
        ShopDb db,
        PlanDesk plan,
        CancellationToken cancel
    )
    {
        var then = await plan.StartsOn(id, LocalDate.FromDateOnly(on), cancel)
            ?? throw new Refusal("id", "This work has no date in the plan, so nothing can be said of another.");
        var numbers = await db.Builds.AsNoTracking().ToDictionaryAsync(b => b.Id, b => b.Number, cancel);
        return new(At(then.Start), At(then.Finish), [.. PlannedMove.Of(then.Moves, numbers)], then.Sooner);
    }

    internal static Instant At(long minute) => Instant.FromUnixTimeSeconds(minute * 60);
}
