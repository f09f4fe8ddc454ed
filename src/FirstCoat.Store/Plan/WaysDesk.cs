using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using FirstCoat.Store.Sequence;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>A vehicle for which a build may be opened.</summary>
/// <param name="Arrives">Its first work is not before; null: it is here.</param>
/// <param name="Priority">Its place in the queue; null: behind all others.</param>
public sealed record NewVehicle(
    Vehicle Vehicle,
    FinishGrade Grade,
    LocalDate? Promised,
    LocalDate? Arrives,
    int? Priority
);

/// <summary>A way that is asked about, for a build or for one that may come.</summary>
/// <param name="Anew">What was changed by hand becomes as the template has it.</param>
public sealed record WayAsked(Guid? BuildId, NewVehicle? New, Way Way, decimal Scale, bool Anew);

/// <summary>One answer beside what is chosen.</summary>
/// <param name="Plan">With this answer.</param>
public sealed record AnswerBeside(SchoolOption Option, WayPlan Plan, DoingAgain Again);

/// <param name="Chosen">As it is asked about.</param>
public sealed record WaysBeside(Guid Build, WayPlan Chosen, List<AnswerBeside> Answers, bool IsPlanned);

/// <summary>Work that has no date, and why; what has the same reason stands together.</summary>
public sealed record Undated(string Why, List<string> Names);

/// <summary>A way looked at by itself, beside how the build runs now.</summary>
/// <param name="Changes">What it does to the sequence that there is; null: the build is not there yet.</param>
/// <param name="Moves">How it moves the planned finish of others.</param>
public sealed record WayBeside(
    Guid Build,
    WayPlan Plan,
    Resequenced? Changes,
    IReadOnlyList<BuildMove> Moves,
    List<Undated> WithoutDate
);

/// <summary>What it would make of the plan if a build ran in another way; nothing of it is kept.</summary>
public sealed class WaysDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    PlanReader reader,
    SequenceDesk sequence,
    TemplatesDesk templates,
    IPlanner planner,
    FutureCount futures
) : Desk(db, clock, current)
{
    /// <summary>Every answer to every question on which practitioners differ, with all others as they are
    /// chosen.</summary>
    public async Task<WaysBeside> Compare(WayAsked asked, CancellationToken cancel)
    {
        var (build, ways, _) = await Read(asked, cancel);
        var options = Schools.Of(asked.Way, build.Vehicle.Construction);
        var plans = ways.Of([asked.Way, .. options.Select(o => o.Way)]);
        var seen = await Seen(cancel);
        return new(
            build.Id,
            plans[asked.Way],
            [.. options.Select(o => new AnswerBeside(o, plans[o.Way], Learned(o, seen)))],
            IsPlanned(build)
        );
    }

    /// <summary>One way, with what it changes.</summary>
    public async Task<WayBeside> Look(WayAsked asked, CancellationToken cancel)
    {
        var (build, ways, facts) = await Read(asked, cancel);
        var plan = ways.Of(asked.Way);
        Refusal.When(plan.Refused is not null, "template", plan.Refused!);
        var now = build.Status == BuildStatus.Paused ? await GoingOn(build, cancel) : planner.Plan(facts.Problem());
        return new(
            build.Id,
            plan,
            asked.BuildId is null ? null : await Changes(build, asked, cancel),
            [.. PlanComparison.Of(now, plan.Plan).Moves.Where(m => m.Build != build.Id.ToString())],
            WithoutDate(plan)
        );
    }

    private static List<Undated> WithoutDate(WayPlan plan)
    {
        var names = plan.Operations.ToDictionary(o => o.Id.ToString(), o => o.Name);
        return
        [
            .. plan
                .Plan.Unplanned.Where(u => names.ContainsKey(u.Operation))
                .GroupBy(u => u.Reason.Text)
                .Select(g => new Undated(g.Key, [.. g.Select(u => names[u.Operation])])),
        ];
    }

    /// <summary>When the build would likely be finished, by as many futures as the forecast draws.</summary>
    public async Task<BuildOutlook> Chances(WayAsked asked, CancellationToken cancel)
    {
        var (build, ways, _) = await Read(asked, cancel);
        var problem = ways.Of(asked.Way).Problem;
        var outlook = Outlook.Of(problem, await reader.Believed(cancel), futures.Of, threads: futures.Threads);
        return outlook.Builds[build.Id.ToString()];
    }

    /// <summary>As if a build that rests went on as it is.</summary>
    private async Task<ShopPlan> GoingOn(Build build, CancellationToken cancel)
    {
        var runs = new Way(build.Template, build.Terms.Choices);
        return (await Read(new(build.Id, null, runs, build.Terms.Scale, false), cancel)).Ways.Of(runs).Plan;
    }

    private static bool IsPlanned(Build build) => build.Status == BuildStatus.Open;

    private async Task<(Build Build, Ways Ways, PlanFacts Facts)> Read(WayAsked asked, CancellationToken cancel)
    {
        Refusal.When(asked.BuildId is null == asked.New is null, "buildId", "Say which build, or which vehicle.");
        var shelf = await templates.All(cancel);
        Refusal.When(!shelf.Knows(asked.Way.Template), "template", "That template is not known.");
        var facts = await reader.Read(cancel);
        if (asked.New is { } come)
        {
            come.Vehicle.Check();
            var maybe = Maybe(come, facts);
            return (maybe, Of(maybe, way => Arriving(shelf, come, maybe.Id, way, asked.Scale)), facts);
        }

        var build = await Db.Builds.AsNoTracking().SingleOrDefaultAsync(b => b.Id == asked.BuildId, cancel)
            ?? throw Refusal.Missing("build");
        Refusal.When(
            build.Status is BuildStatus.Closed or BuildStatus.Withdrawn,
            "buildId",
            "This build is over: it runs no other way."
        );
        var present = await Present(build.Id, cancel);
        var again = await sequence.ToResequence(build, present, cancel);
        var runs = new Way(build.Template, build.Terms.Choices);
        return (build, Of(build, way =>
            {
                var all = present.Select(o => o.Copy()).ToList();
                if (way == runs && asked.Scale == build.Terms.Scale && !asked.Anew)
                {
                    return all;
                }

                var made = (again with { All = all }).From(way, asked.Scale, asked.Anew);
                return [.. all.Where(o => !o.Removed), .. made.Added];
            }), facts);

        Ways Of(Build b, Func<Way, IReadOnlyList<Operation>> run) => new(facts, b, run, planner, futures.Threads);
    }

    private Task<List<Operation>> Present(Guid build, CancellationToken cancel) =>
        Db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == build && !o.Removed)
            .OrderBy(o => o.Position)
            .ToListAsync(cancel);

    private async Task<Resequenced> Changes(Build build, WayAsked asked, CancellationToken cancel) =>
        (await sequence.ToResequence(build, await Present(build.Id, cancel), cancel)).From(
            asked.Way,
            asked.Scale,
            asked.Anew
        );

    private static Build Maybe(NewVehicle come, PlanFacts facts)
    {
        var build = new Build
        {
            Id = Guid.CreateVersion7(),
            Number = facts.Builds.Select(b => b.Number).DefaultIfEmpty(0).Max() + 1,
            ClientId = Guid.Empty,
            Vehicle = come.Vehicle,
            Brief = new(come.Grade, OriginalityPolicy.OriginalLook, come.Promised, null, []),
            Contract = new(ContractKind.TimeAndMaterials),
            Priority = come.Priority ?? facts.Builds.Select(b => b.Priority).DefaultIfEmpty(0).Max() + 1,
        };
        build.Open();
        return build;
    }

    private static IReadOnlyList<Operation> Arriving(
        TemplateShelf shelf,
        NewVehicle come,
        Guid build,
        Way way,
        decimal scale
    )
    {
        var operations = shelf.Make(way, build, come.Vehicle, come.Grade, scale, Guid.CreateVersion7);
        foreach (var first in operations.Where(o => o.After.Count == 0))
        {
            first.Terms = first.Terms with { NotBefore = come.Arrives };
        }

        return operations;
    }

    /// <summary>A build that is over, and the hours done again on it by stage.</summary>
    private sealed record Over(Build Build, Dictionary<Core.Kernel.Stage, double> Again);

    private async Task<List<Over>> Seen(CancellationToken cancel)
    {
        var over = await Db.Builds.AsNoTracking().Where(b => b.Status == BuildStatus.Closed).ToListAsync(cancel);
        var again = await Db
            .TimeEntries.AsNoTracking()
            .Where(e =>
                e.Kind == LabourKind.Rework
                && e.ReplacedBy == null
                && !e.Void
                && e.Stop != null
                && Db.Builds.Any(b => b.Id == e.BuildId && b.Status == BuildStatus.Closed)
            )
            .Join(
                Db.Operations,
                e => e.OperationId,
                o => o.Id,
                (e, o) =>
                    new
                    {
                        e.BuildId,
                        o.Stage,
                        e.Start,
                        e.Stop,
                    }
            )
            .ToListAsync(cancel);
        var by = again.ToLookup(e => e.BuildId);
        return
        [
            .. over.Select(b => new Over(
                b,
                by[b.Id]
                    .GroupBy(e => e.Stage)
                    .ToDictionary(g => g.Key, g => g.Sum(e => (e.Stop!.Value - e.Start).TotalHours))
            )),
        ];
    }

    /// <summary>What the shop has seen of an answer: of builds that ran so, the hours done again in the stages in which
    /// it shows.</summary>
    private static DoingAgain Learned(SchoolOption option, List<Over> seen)
    {
        var ran = seen.Where(s => Ran(s.Build, option)).ToList();
        var hours = ran.Select(s => Schools.StagesOf(option.School).Sum(t => s.Again.GetValueOrDefault(t)))
            .Where(h => h > 0)
            .ToList();
        return option.Again.Learned(ran.Count, hours);
    }

    private static bool Ran(Build b, SchoolOption option)
    {
        var way = new Way(b.Template, b.Terms.Choices);
        return Schools
            .Of(way, b.Vehicle.Construction)
            .Any(o => o.School == option.School && o.Key == option.Key && o.Way == way);
    }
}
