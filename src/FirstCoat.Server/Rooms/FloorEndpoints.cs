using FirstCoat.Core.Builds;
using FirstCoat.Core.Plan;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>The floor: what stands where, and what waits for whom.</summary>
public static class FloorEndpoints
{
    /// <summary>Whom to ask, and how.</summary>
    public sealed record Call(string Name, string Phone, string Email);

    /// <param name="Call">The client, where the word is the client's.</param>
    /// <param name="Days">By which it moves the planned finish of the worst-hit build; null: not worked out yet.</param>
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
        decimal? Days,
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
    /// <param name="FuturesAt">When the futures were drawn of which the cards tell; null: none were yet.</param>
    /// <param name="DaysWaiting">The headline: computed once over all builds, not added up; null: not worked out
    /// yet.</param>
    public sealed record FloorView(
        List<BuildCard> Builds,
        List<DecisionRow> Decisions,
        decimal? DaysWaiting,
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
        Instant? FuturesAt
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

    public static void MapFloor(this RouteGroupBuilder api) =>
        api.MapGet("/floor", Floor).RequireAuthorization(Policies.Anyone).WithName("getFloor");

    private static async Task<FloorView> Floor(
        FloorReader reader,
        ShopClock clock,
        PlanDesk plan,
        CurrentActor current,
        CancellationToken cancel
    )
    {
        var (facts, actor) = (await reader.Look(cancel), current.Actor);
        var (builds, today) = (facts.Builds, facts.Today);
        var advice = await plan.Advise(cancel);
        var away = facts.Jobs.Where(j => builds.ContainsKey(j.BuildId)).Select(Away).ToList();
        var returning = away.Count(a => a.HereOn >= today && a.HereOn <= facts.NextFreight);
        return new(
            [.. facts.InOrder],
            [.. advice.Decisions.Where(d => builds.ContainsKey(d.Decision.BuildId)).Select(Question)],
            advice.DaysWaiting,
            away,
            [.. facts.Gates.Select(g => new ReadyGate(g.Id, g.BuildId, builds[g.BuildId].Number, g.Name))],
            facts.Logged.Count(e => e.IsRunning),
            facts.Logged.Where(e => facts.Day.Has(e.Start)).Sum(e => e.Minutes(clock.Now)),
            facts.NextFreight,
            facts.Orders + returning,
            clock.Now,
            Contending(advice.Contentions, builds, facts.OpenWork),
            actor.IsManager ? Flagged(facts) : [],
            actor.IsManager ? Inspections(facts) : [],
            (await plan.LastChances(cancel)).At
        );

        DecisionRow Question(RankedDecision d) =>
            new(
                d.Decision.Id,
                d.Decision.BuildId,
                builds[d.Decision.BuildId].Number,
                builds[d.Decision.BuildId].ColourHex,
                d.Decision.Question,
                d.Decision.Detail,
                d.Decision.For,
                d.Decision.For == DecisionFor.Client && actor.IsDesk ? facts.Calls[d.Decision.BuildId] : null,
                d.Decision.Options,
                d.Decision.DueOn,
                d.Days,
                !actor.IsDesk ? 0 : d.CostPerWeek(today, facts.Shop.DelayPerDay),
                builds.TryGetValue(d.WorstBuild, out var worst) ? worst.Number : builds[d.Decision.BuildId].Number,
                d.Decision.PaperId
            );

        AwayRow Away(Core.Outside.OutsideJob j)
        {
            var here = facts.Suppliers[j.SupplierId].HereOn(j.PromisedOn!.Value);
            return new(
                j.Id,
                j.BuildId,
                builds[j.BuildId].Number,
                builds[j.BuildId].ColourHex,
                j.Title,
                facts.Suppliers[j.SupplierId].Name,
                j.SentOn,
                j.PromisedOn,
                here,
                Period.DaysBetween(j.SentOn!.Value, today),
                j.IsLate(here, today)
            );
        }
    }

    private static List<InspectionRow> Inspections(FloorFacts facts) =>
        [
            .. facts
                .Stations.Where(s => s.Terms.IsDue(facts.Today))
                .OrderBy(s => s.Terms.InspectedUntil)
                .Select(s => new InspectionRow(
                    s.Id,
                    s.Name,
                    s.Terms.InspectedWhat(),
                    s.Terms.InspectedUntil!.Value,
                    s.Terms.PastInspection(facts.Today)
                )),
        ];

    /// <summary>What waits to be settled because it was done against a rule.</summary>
    private static List<FlagRow> Flagged(FloorFacts facts) =>
        [
            .. facts
                .FlaggedHours.Select(h => new FlagRow(
                    h.Entry.Id,
                    true,
                    h.Entry.BuildId,
                    facts.Builds[h.Entry.BuildId].Number,
                    facts.Builds[h.Entry.BuildId].ColourHex,
                    h.Operation,
                    h.Person,
                    h.Entry.Start,
                    h.Entry.Flag!.Against
                ))
                .Concat(
                    facts.FlaggedPanels.Select(e => new FlagRow(
                        e.Id,
                        false,
                        e.BuildId,
                        facts.Builds[e.BuildId].Number,
                        facts.Builds[e.BuildId].ColourHex,
                        $"{e.Panel}: {e.Coat?.ToString() ?? e.Held?.ToString() ?? e.Fact.ToString()}",
                        e.By,
                        e.At,
                        e.Flag!.Against
                    ))
                )
                .OrderBy(f => f.At),
        ];

    private static List<ContentionView> Contending(
        IReadOnlyList<ContentionRow> rows,
        IReadOnlyDictionary<Guid, BuildCard> builds,
        IReadOnlyDictionary<Guid, string> operations
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
                    operations[c.OperationId],
                    c.Kind,
                    c.Over,
                    c.FirstLoses,
                    c.SecondGains
                )),
        ];
}
