using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Rooms;

/// <summary>In which ways a build could run, and what each would make of it.</summary>
public static class WaysEndpoints
{
    /// <param name="BuildId">The build that is asked about; null: one that may come.</param>
    /// <param name="Anew">What was changed by hand becomes as the template has it.</param>
    public sealed record WayBody(
        Guid? BuildId,
        NewVehicle? New,
        [property: StringLength(60)] string Template,
        decimal Scale,
        TemplateChoices Choices,
        bool Anew
    )
    {
        internal WayAsked Asked => new(BuildId, New, new(Template, Choices), Scale, Anew);
    }

    /// <param name="Template">How the build would run with it, together with the choices.</param>
    /// <param name="Minutes">More than with what is chosen; negative: fewer.</param>
    /// <param name="Days">By which the planned finish is later than with what is chosen; negative: sooner. Null: some of
    /// the work has no date, with one or the other.</param>
    /// <param name="OneIn">Builds in which something is done again because of it.</param>
    /// <param name="HoursAgain">That takes.</param>
    /// <param name="ExpectedHours">Hours to expect in every build.</param>
    /// <param name="Builds">Of the shop's own that this was learned from.</param>
    /// <param name="Refused">Why it cannot run so.</param>
    public sealed record AnswerView(
        string Key,
        string Template,
        TemplateChoices Choices,
        bool Chosen,
        int Minutes,
        decimal? Days,
        int OneIn,
        decimal HoursAgain,
        decimal ExpectedHours,
        string What,
        int Builds,
        string? Refused
    );

    public sealed record SchoolView(School School, List<AnswerView> Answers);

    /// <param name="Minutes">With what is chosen.</param>
    /// <param name="Finish">Planned with what is chosen; null: some of its work has no date.</param>
    /// <param name="Planned">False: it rests, and is looked at as if it went on.</param>
    public sealed record WaysView(int Minutes, Instant? Finish, bool Planned, List<SchoolView> Schools);

    /// <summary>An operation, as the order of work is drawn from it.</summary>
    /// <param name="Starts">Planned; null: it is done, or has no date.</param>
    /// <param name="People">At the same time.</param>
    public sealed record WayWork(
        Guid Id,
        int Position,
        string Name,
        Stage Stage,
        OperationKind Kind,
        List<OperationLink> After,
        int BudgetMinutes,
        int ClockMinutes,
        Instant? Starts,
        Instant? Finishes,
        Instant? DoneAt,
        int People
    );

    /// <summary>What a way does to the sequence that there is.</summary>
    public sealed record WayChanges(List<string> Kept, List<string> Changed, List<string> Added, List<string> TakenOut);

    /// <param name="Finish">Planned; null: some of its work has no date.</param>
    /// <param name="Moves">Other builds whose planned finish moves.</param>
    /// <param name="WithoutDate">Work that has none, by the reason.</param>
    /// <param name="Warning">What the usual caution says of how the shell is held.</param>
    public sealed record WayLook(
        List<WayWork> Works,
        int Minutes,
        Instant? Finish,
        List<LanesEndpoints.PlannedMove> Moves,
        List<Undated> WithoutDate,
        WayChanges? Changes,
        string? Warning
    );

    /// <param name="Partly">Some of its work has no date: these are the days of the rest.</param>
    public sealed record WayChances(Instant P20, Instant P50, Instant P80, Instant P95, bool Partly);

    public static void MapWays(this RouteGroupBuilder api)
    {
        var ways = api.MapGroup("/ways").RequireAuthorization(Policies.Manager);
        ways.MapPost("", Compare).WithName("compareWays");
        ways.MapPost("/look", Look).WithName("lookAtWay");
        ways.MapPost("/chances", Chances).WithName("chancesOfWay");
    }

    private static async Task<WaysView> Compare(WayBody b, WaysDesk desk, CancellationToken cancel)
    {
        var beside = await desk.Compare(b.Asked, cancel);
        var finish = beside.Chosen.Finish(beside.Build);
        return new(
            beside.Chosen.Minutes,
            finish is { } f ? LanesEndpoints.At(f) : null,
            beside.IsPlanned,
            [
                .. beside
                    .Answers.GroupBy(a => a.Option.School)
                    .Select(g => new SchoolView(g.Key, [.. g.Select(a => Answer(a, beside, b.Asked.Way))])),
            ]
        );
    }

    private static AnswerView Answer(AnswerBeside a, WaysBeside beside, Way chosen) =>
        new(
            Json(a.Option.Key),
            a.Option.Way.Template,
            a.Option.Way.Choices,
            a.Option.Way == chosen,
            a.Plan.Minutes - beside.Chosen.Minutes,
            a.Plan.Finish(beside.Build) is { } f && beside.Chosen.Finish(beside.Build) is { } c
                ? InDays.Of(f - c)
                : null,
            a.Again.OneIn,
            InDays.Of(a.Again.Hours),
            InDays.Of(a.Again.Expected),
            a.Again.What,
            a.Again.Builds,
            a.Plan.Refused
        );

    /// <summary>As the same answer is written among the choices.</summary>
    private static string Json(string key) => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(key);

    private static async Task<WayLook> Look(WayBody b, WaysDesk desk, ShopDb db, CancellationToken cancel)
    {
        var look = await desk.Look(b.Asked, cancel);
        static List<string> Names(IEnumerable<Operation> operations) => [.. operations.Select(o => o.Name)];
        var numbers = await db.Builds.AsNoTracking().ToDictionaryAsync(x => x.Id, x => x.Number, cancel);
        return new(
            [.. look.Plan.Operations.OrderBy(o => o.Position).Select(o => Work(o, look.Plan.Plan))],
            look.Plan.Minutes,
            look.Plan.Finish(look.Build) is { } f ? LanesEndpoints.At(f) : null,
            [.. LanesEndpoints.PlannedMove.Of(look.Moves, numbers)],
            look.WithoutDate,
            look.Changes is { } c ? new(Names(c.Kept), Names(c.Changed), Names(c.Added), Names(c.TakenOut)) : null,
            Templates.HasChoices(b.Template) ? b.Choices.Caution() : null
        );
    }

    private static WayWork Work(Operation o, ShopPlan plan)
    {
        var at = plan.Operations.GetValueOrDefault(o.Id.ToString());
        return new(
            o.Id,
            o.Position,
            o.Name,
            o.Stage,
            o.Kind,
            o.After,
            o.BudgetMinutes,
            o.ClockMinutes,
            at is null ? null : LanesEndpoints.At(at.Start),
            at is null ? null : LanesEndpoints.At(at.Finish),
            o.DoneAt,
            o.Kind == OperationKind.Work ? 1 + o.Terms.With.Sum(w => w.Count) : 0
        );
    }

    private static async Task<WayChances> Chances(WayBody b, WaysDesk desk, CancellationToken cancel)
    {
        var o = await desk.Chances(b.Asked, cancel);
        return new(
            LanesEndpoints.At(o.P20),
            LanesEndpoints.At(o.P50),
            LanesEndpoints.At(o.P80),
            LanesEndpoints.At(o.P95),
            o.Partly
        );
    }
}
