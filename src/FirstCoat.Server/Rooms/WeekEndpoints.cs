using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using FirstCoat.Server.Plans;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>The week: who does what, what was promised on Monday, what came of it; and calendars of it.</summary>
public static class WeekEndpoints
{
    /// <summary>Weeks over which reasons are counted.</summary>
    private const int ReasonWeeks = 4;

    /// <summary>How work stands in its week.</summary>
    public enum WeekState
    {
        /// <summary>Promised, and the plan brings it in its week.</summary>
        Promised,

        /// <summary>Promised and kept.</summary>
        Kept,

        /// <summary>Promised, and it cannot be kept as the plan stands.</summary>
        Slips,

        /// <summary>Promised and not kept, as the week was counted.</summary>
        Missed,

        /// <summary>Planned, promised by nobody.</summary>
        Offered,

        /// <summary>Worked, promised by nobody.</summary>
        Worked,
    }

    public sealed record WeekDay(LocalDate Date, Instant From, Instant? Opens, Instant? Closes);

    public sealed record WeekBuild(Guid Id, int Number, string ColourHex, string Title, bool FillIn);

    /// <param name="Passed">It was promised for a time that has passed without it.</param>
    public sealed record WeekBlock(
        string Key,
        Guid? OperationId,
        Guid BuildId,
        string Name,
        Instant From,
        Instant To,
        WeekState State,
        bool Passed
    );

    /// <param name="Minutes">That its person works on it in the week.</param>
    /// <param name="Whole">It is to be done by the end of the week.</param>
    public sealed record WeekPromiseRow(
        Guid Id,
        Guid OperationId,
        Guid BuildId,
        string Name,
        int Minutes,
        bool Whole,
        WeekState State,
        LocalDate? KeptOn,
        string Reason
    );

    /// <summary>What the plan offers a person for the week.</summary>
    public sealed record WeekOffer(Guid? OperationId, Guid BuildId, string Name, int Minutes, bool Whole);

    /// <param name="FreeMinutes">Of the rest of the week.</param>
    public sealed record WeekPerson(
        Guid Id,
        string Name,
        List<Trade> Trades,
        int FreeMinutes,
        List<LanesEndpoints.LaneSpan> Absent,
        List<WeekBlock> Blocks,
        List<WeekPromiseRow> Promises,
        List<WeekOffer> Offers
    );

    public sealed record WeekPlace(Guid Id, string Name, List<LanesEndpoints.LaneHeld> Held);

    public sealed record WeekCount(LocalDate Monday, int Promised, int Kept, int Extra, double? Percent);

    public sealed record WeekReason(string Reason, int Times);

    /// <param name="Of">Its Monday.</param>
    /// <param name="CountedFrom">The day from which on it can be counted.</param>
    public sealed record WeekView(
        LocalDate Of,
        LocalDate Today,
        Instant Now,
        Instant? CommittedAt,
        string CommittedBy,
        Instant? CountedAt,
        LocalDate CountedFrom,
        int Promised,
        int Kept,
        int Not,
        double? Percent,
        List<WeekDay> Days,
        List<WeekBuild> Builds,
        List<WeekPerson> People,
        List<WeekPlace> Places,
        List<WeekCount> Past,
        List<WeekReason> Reasons
    );

    public sealed record WeekPromiseBody(Guid OperationId, Guid PersonId, int? Minutes);

    public sealed record CommitWeekBody(
        Guid Id,
        LocalDate Of,
        [property: MaxLength(CommittedWeek.Most)] List<WeekPromiseBody> Promises
    );

    public sealed record WhyNotKeptBody(Guid PromiseId, [property: StringLength(120)] string Reason);

    public sealed record CountWeekBody(
        LocalDate Of,
        [property: MaxLength(CommittedWeek.Most)] List<WhyNotKeptBody> Reasons
    );

    public sealed record TakeWeekBackBody(LocalDate Of);

    public sealed record CalendarBody(Guid Id, Guid? PersonId, Guid? StationId);

    public sealed record CalendarRow(Guid Id, Guid? PersonId, Guid? StationId, Instant MadeAt);

    /// <param name="Path">On this server; it is shown this once.</param>
    public sealed record NewCalendar(Guid Id, string Path);

    public static void MapWeek(this RouteGroupBuilder api)
    {
        api.MapGet("/plan/week", async (DateOnly? of, WeekDesk desk, CurrentActor current, CancellationToken cancel) =>
                Show(await desk.Look(of is { } d ? LocalDate.FromDateOnly(d) : null, cancel), current.Actor)
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("getWeek");
        api.MapPost("/plan/week/commit", async (CommitWeekBody b, WeekDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Commit(
                        b.Id,
                        b.Of,
                        [.. b.Promises.Select(p => new ChosenPromise(p.OperationId, p.PersonId, p.Minutes))],
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Manager)
            .WithName("commitWeek");
        api.MapPost("/plan/week/take-back", async (TakeWeekBackBody b, WeekDesk desk, CancellationToken cancel) =>
            {
                await desk.TakeBack(b.Of, cancel);
                return Results.NoContent();
            })
            .RequireAuthorization(Policies.Manager)
            .WithName("takeWeekBack");
        api.MapPost("/plan/week/count", async (CountWeekBody b, WeekDesk desk, CancellationToken cancel) =>
            {
                Refusal.When(
                    b.Reasons.DistinctBy(r => r.PromiseId).Count() != b.Reasons.Count,
                    "reasons",
                    "A promise has one reason."
                );
                var reasons = b.Reasons.ToDictionary(r => r.PromiseId, r => r.Reason);
                return Saved.From(await desk.Count(b.Of, reasons, cancel));
            })
            .RequireAuthorization(Policies.Manager)
            .WithName("countWeek");
        api.MapGet("/calendars", async (CalendarDesk desk, CancellationToken cancel) =>
                (await desk.Links(cancel)).ConvertAll(l => new CalendarRow(l.Id, l.PersonId, l.StationId, l.RecordedAt))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("listCalendars");
        api.MapPost("/calendars", async (CalendarBody b, CalendarDesk desk, CancellationToken cancel) =>
            {
                var (link, token) = await desk.Make(b.Id, b.PersonId, b.StationId, cancel);
                return new NewCalendar(link.Id, $"/api/calendars/{token}/plan.ics");
            })
            .RequireAuthorization(Policies.Anyone)
            .WithName("makeCalendar");
        api.MapPost("/calendars/{id:guid}/revoke", async (Guid id, CalendarDesk desk, CancellationToken cancel) =>
                Saved.From(await desk.Revoke(id, cancel))
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("revokeCalendar");
    }

    /// <summary>What calendar programs read, without a sign-in: the address is the key.</summary>
    public static void MapCalendars(this RouteGroupBuilder api) =>
        api.MapGet(
                "/calendars/{token}/plan.ics",
                async (string token, CalendarDesk calendars, LanesDesk lanes, CancellationToken cancel) =>
                    await calendars.Of(token, cancel) is { } link
                        ? Results.Text(
                            PlanCalendar.Of(await lanes.Look(cancel), link.PersonId, link.StationId),
                            "text/calendar",
                            System.Text.Encoding.UTF8
                        )
                        : Results.Problem(
                            "This calendar is closed, or there never was one under this address.",
                            statusCode: StatusCodes.Status404NotFound
                        )
            )
            .AllowAnonymous()
            .RequireRateLimiting(Policies.LinkLimit)
            .WithName("readCalendar");

    private static WeekView Show(WeekFacts facts, Actor actor)
    {
        var zone = facts.Calendar.Zone!;
        // Who has no trade and nothing to do is no hand of the hall.
        var people = facts
            .People.Select(p => Person(p, facts, actor))
            .Where(p => p.Trades.Count + p.Blocks.Count + p.Promises.Count > 0)
            .ToList();
        var promises = people.SelectMany(p => p.Promises).ToList();
        var past = facts.Past.Select(w => (Week: w, Result: w.Result())).ToList();
        var shown = people
            .SelectMany(p => p.Blocks.Select(b => b.BuildId).Concat(p.Promises.Select(x => x.BuildId)))
            .ToHashSet();
        var (start, end) = (Start(facts.Monday), Start(facts.Monday.PlusDays(7)));
        var counted = facts.Week is { IsCounted: true } ? facts.Week.Result() : null;
        return new(
            facts.Monday,
            facts.Today,
            facts.Now,
            facts.Week?.CommittedAt,
            facts.Week?.CommittedBy ?? "",
            facts.Week?.CountedAt,
            facts.CountedFrom,
            facts.Week?.Promises.Count ?? 0,
            promises.Count(p => p.State == WeekState.Kept),
            promises.Count(p => p.State is WeekState.Slips or WeekState.Missed),
            counted?.Percent,
            [.. Enumerable.Range(0, 7).Select(facts.Monday.PlusDays).Select(Day)],
            [
                .. facts
                    .Builds.Where(b => b.Status is BuildStatus.Open or BuildStatus.Paused || shown.Contains(b.Id))
                    .Select(b => new WeekBuild(b.Id, b.Number, b.Vehicle.ColourHex, b.Title, b.FillIn)),
            ],
            people,
            [
                .. facts
                    .Stations.Select(s => new WeekPlace(s.Id, s.Name, Held(s)))
                    .Where(p => p.Held.Count > 0 || facts.Stations.Count < 12),
            ],
            [
                .. past.Select(p => new WeekCount(
                        p.Week.Monday,
                        p.Result.Committed,
                        p.Result.Done,
                        p.Result.Extra,
                        p.Result.Percent
                    ))
                    .Reverse(),
            ],
            [
                .. past.Take(ReasonWeeks)
                    .SelectMany(p => p.Result.Reasons)
                    .GroupBy(r => r.Reason)
                    .Select(g => new WeekReason(g.Key, g.Sum(r => r.Times)))
                    .OrderByDescending(r => r.Times)
                    .ThenBy(r => r.Reason, StringComparer.Ordinal),
            ]
        );

        Instant Start(LocalDate day) => zone.AtStartOfDay(day).ToInstant();

        WeekDay Day(LocalDate day)
        {
            var open = facts
                .Calendar.From(facts.Calendar.Minute(day.AtMidnight()))
                .TakeWhile(s => facts.Calendar.Local(s.Start).Date == day)
                .ToList();
            return new(
                day,
                Start(day),
                open.Count == 0 ? null : LanesEndpoints.At(open[0].Start),
                open.Count == 0 ? null : LanesEndpoints.At(open[^1].End)
            );
        }

        List<LanesEndpoints.LaneHeld> Held(Station station) =>
            [
                .. facts
                    .View.Lanes.Value.Holds.Where(h => h.Place == station.Id.ToString())
                    .Select(h => new LanesEndpoints.LaneHeld(
                        Guid.Parse(h.Build),
                        station.Id,
                        LanesEndpoints.At(h.From),
                        h.To is { } to ? LanesEndpoints.At(to) : null
                    ))
                    .Where(h => h.From < end && (h.To is null || h.To > start)),
            ];
    }

    private static WeekPerson Person(Person person, WeekFacts facts, Actor actor)
    {
        var key = person.Id.ToString();
        var zone = facts.Calendar.Zone!;
        var (start, end) = (
            zone.AtStartOfDay(facts.Monday).ToInstant(),
            zone.AtStartOfDay(facts.Monday.PlusDays(7)).ToInstant()
        );
        var mine = (facts.Week?.Promises ?? []).Where(p => p.PersonId == person.Id).ToList();
        var states = mine.ToDictionary(p => p.OperationId, p => State(p, facts));
        var offers = facts.Draft.Work.Where(w => w.Person == key).ToList();
        var worked = facts.Worked.Where(w => w.Person == person.Id).ToList();
        var blocks = new List<WeekBlock>();
        foreach (var w in worked.Where(_ => actor.ReadsHoursOf(person.Id)))
        {
            var (from, to) = (Instant.Max(w.From, start), Instant.Min(w.To ?? facts.Now, end));
            if (to > from)
            {
                // The tick stands where a promise was kept; else it is work like any other that is behind.
                var state = states.GetValueOrDefault(w.Operation, WeekState.Worked);
                state = state == WeekState.Kept ? state : WeekState.Worked;
                blocks.Add(
                    Block($"w{w.From.ToUnixTimeSeconds()}", w.Operation, w.Build, Name(w.Operation), from, to, state)
                );
            }
        }

        foreach (var promise in mine)
        {
            // Its time has passed and nobody was at it: that hole is shown where it was to be.
            foreach (var time in promise.Times.Where(t => t.To <= facts.Now))
            {
                if (!worked.Exists(w => w.From < time.To && (w.To ?? facts.Now) > time.From))
                {
                    blocks.Add(
                        Block(
                            $"p{promise.Id}{time.From.ToUnixTimeSeconds()}",
                            promise.OperationId,
                            promise.BuildId,
                            promise.Name,
                            time.From,
                            time.To,
                            states[promise.OperationId],
                            true
                        )
                    );
                }
            }
        }

        foreach (var w in offers)
        {
            Guid? operation = Guid.TryParse(w.Operation, out var id) ? id : null;
            var state = operation is { } o && states.TryGetValue(o, out var s) ? s : WeekState.Offered;
            foreach (var time in w.Times)
            {
                blocks.Add(
                    Block(
                        $"o{w.Operation}{time.Start}",
                        operation,
                        Guid.Parse(w.Build),
                        w.Name,
                        LanesEndpoints.At(time.Start),
                        LanesEndpoints.At(time.End),
                        state
                    )
                );
            }
        }

        return new(
            person.Id,
            person.Name,
            [.. person.Trades],
            (int)facts.Draft.Free.GetValueOrDefault(key),
            [
                .. facts
                    .View.Lanes.Value.Absences.Where(a => a.Person == key)
                    .Select(a => new LanesEndpoints.LaneSpan(LanesEndpoints.At(a.From), LanesEndpoints.At(a.To)))
                    .Where(a => a.From < end && a.To > start),
            ],
            [.. blocks.OrderBy(b => b.From)],
            [
                .. mine.Select(p => new WeekPromiseRow(
                    p.Id,
                    p.OperationId,
                    p.BuildId,
                    p.Name,
                    p.Minutes,
                    p.Whole,
                    states[p.OperationId],
                    facts.KeptBy(p),
                    p.Reason
                )),
            ],
            [
                .. offers.Select(w => new WeekOffer(
                    Guid.TryParse(w.Operation, out var id) ? id : null,
                    Guid.Parse(w.Build),
                    w.Name,
                    (int)w.Minutes,
                    w.Whole
                )),
            ]
        );

        string Name(Guid operation) => facts.Names.GetValueOrDefault(operation) ?? "";

        WeekBlock Block(
            string id,
            Guid? operation,
            Guid build,
            string name,
            Instant from,
            Instant to,
            WeekState state,
            bool passed = false
        ) => new(id, operation, build, name, from, to, state, passed);
    }

    private static WeekState State(WeekPromise promise, WeekFacts facts) =>
        facts.KeptBy(promise) is not null ? WeekState.Kept
        : facts.Week is { IsCounted: true } || facts.Monday.PlusDays(7) <= facts.Today ? WeekState.Missed
        : facts.IsOnItsWay(promise) ? WeekState.Promised
        : WeekState.Slips;
}
