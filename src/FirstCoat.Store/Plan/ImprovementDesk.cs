using FirstCoat.Core.Plan;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Plan;

/// <summary>An order on offer.</summary>
/// <param name="Builds">Whose order is taken, the others' kept; null: everybody's.</param>
/// <param name="Before">What futures say of the order in force.</param>
/// <param name="After">What the same futures say of this one: an order that looks better can be riskier.</param>
public sealed record Offer(IReadOnlySet<Guid>? Builds, ShopPlan Plan, Outlook Before, Outlook After)
{
    /// <summary>Whether it is the one that somebody looked at.</summary>
    public bool Is(IReadOnlySet<Guid>? builds) =>
        Builds is null ? builds is null : builds is not null && Builds.SetEquals(builds);
}

/// <summary>A search for a better order that runs beside everything else. It changes nothing until it is
/// accepted.</summary>
/// <param name="outlook">What futures say of an order.</param>
public sealed class ImprovementRun(Guid id, PlanProblem problem, double seconds, Func<PlanProblem, Outlook> outlook)
    : IDisposable
{
    private readonly CancellationTokenSource _stop = new();

    public Guid Id { get; } = id;

    public double Seconds { get; } = seconds;

    public ShopPlan Before { get; } = new Planner().Plan(problem);

    /// <summary>How far it has come, 0 to 1.</summary>
    public double Share => Found is not null ? 1 : Math.Min(1, _watch.Elapsed.TotalSeconds / Seconds);

    /// <summary>Weight x days late of the best so far.</summary>
    public double Best { get; private set; } = double.PositiveInfinity;

    /// <summary>Null until it has ended.</summary>
    public Improvement? Found { get; private set; }

    /// <summary>What is offered: what was found, or its order for some builds; null while it is worked out.</summary>
    public Offer? Offered { get; private set; }

    /// <summary>It broke off by a fault of its own; nothing was changed.</summary>
    public bool Failed { get; private set; }

    public bool IsStopped => _stop.IsCancellationRequested;

    private Outlook? _before;

    private readonly System.Diagnostics.Stopwatch _watch = System.Diagnostics.Stopwatch.StartNew();

    /// <summary>Searches; returns when it is done, stopped, or has failed: then it throws what made it fail.</summary>
    public void Work()
    {
        Best = Before.WeightedDaysLate;
        try
        {
            var found = PlanImprovement.Search(
                problem,
                Seconds,
                threads: 2,
                told: p => Best = Math.Min(Best, p.WeightedDaysLate),
                stop: _stop.Token
            );
            Best = found.Plan.WeightedDaysLate;
            _before = outlook(problem);
            Found = found;
            Offered = Offering(found.Plan, null);
        }
        catch
        {
            Failed = true;
            throw;
        }
    }

    /// <summary>Takes back what is offered, because something else is worked out.</summary>
    public void Withdraw() => Offered = null;

    /// <summary>Offers the order that was found for some builds only; works, and returns when it is worked
    /// out.</summary>
    /// <param name="builds">Null: for all again.</param>
    public void Choose(IReadOnlySet<Guid>? builds)
    {
        var found = Found ?? throw new Core.Refusal("id", "This order is not on offer any more.");
        try
        {
            Offered = Offering(
                builds is null
                    ? found.Plan
                    : PlanImprovement.For(problem, found.Plan, builds.Select(b => b.ToString()).ToHashSet()),
                builds
            );
        }
        catch
        {
            Failed = true;
            throw;
        }
    }

    private Offer Offering(ShopPlan plan, IReadOnlySet<Guid>? builds) =>
        new(builds, plan, _before!, outlook(problem with { Turns = plan.Turns }));

    public void Stop() => _stop.Cancel();

    public void Dispose() => _stop.Dispose();
}

/// <summary>The search that runs now, one at a time for the shop.</summary>
public sealed partial class ImprovementRuns(Microsoft.Extensions.Logging.ILogger<ImprovementRuns> log)
{
    private readonly Lock _lock = new();

    public ImprovementRun? Current { get; private set; }

    /// <exception cref="Core.Refusal">One runs already.</exception>
    public ImprovementRun Start(Guid id, PlanProblem problem, double seconds, Func<PlanProblem, Outlook> outlook)
    {
        lock (_lock)
        {
            Core.Refusal.When(
                Current is { Found: null, Failed: false },
                "id",
                "A better order is being looked for already."
            );
            Current = new(id, problem, seconds, outlook);
            Beside(Current.Work);
            return Current;
        }
    }

    /// <summary>Works out the order for some builds, beside everything else.</summary>
    /// <exception cref="Core.Refusal">Nothing is on offer now.</exception>
    public void Choose(ImprovementRun run, IReadOnlySet<Guid>? builds)
    {
        lock (_lock)
        {
            Core.Refusal.When(run.Offered is null, "id", "This order is not on offer now.");
            run.Withdraw();
        }

        Beside(() => run.Choose(builds));
    }

    private void Beside(Action work) =>
        _ = Task
            .Factory.StartNew(work, TaskCreationOptions.LongRunning)
            .ContinueWith(t => Broke(log, t.Exception!), TaskContinuationOptions.OnlyOnFaulted);

    [Microsoft.Extensions.Logging.LoggerMessage(
        Level = Microsoft.Extensions.Logging.LogLevel.Error,
        Message = "The search for a better order broke off; the plan stands."
    )]
    private static partial void Broke(Microsoft.Extensions.Logging.ILogger log, Exception fault);

    /// <summary>Stops it and forgets what it found.</summary>
    public void Drop()
    {
        lock (_lock)
        {
            Current?.Stop();
            Current = null;
        }
    }
}

/// <summary>Looks for a better order of who goes first, and keeps the one that a manager accepts.</summary>
public sealed class ImprovementDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    PlanDesk plan,
    PlanReader reader,
    ImprovementRuns runs,
    FutureCount futures
) : Desk(db, clock, current)
{
    public const double LeastSeconds = 1,
        MostSeconds = 600;

    /// <summary>Starts a search.</summary>
    public async Task<ImprovementRun> Start(Guid id, double seconds, CancellationToken cancel)
    {
        Core.Refusal.When(
            !(seconds is >= LeastSeconds and <= MostSeconds),
            "seconds",
            $"Between {LeastSeconds} and {MostSeconds} seconds."
        );
        var beliefs = await reader.Believed(cancel);
        return runs.Start(id, await plan.Present(cancel), seconds, p => Outlook.Of(p, beliefs, futures.Of));
    }

    /// <summary>Offers the order that was found for some builds only, or for all again; nothing changes yet.</summary>
    public void Choose(Guid id, IReadOnlySet<Guid>? builds)
    {
        var run = runs.Current;
        Core.Refusal.When(run?.Id != id, "id", "This order is not on offer any more.");
        Core.Refusal.When(builds is { Count: 0 }, "builds", "Choose at least one build whose order is taken.");
        var unknown = builds?.Where(b => !run!.Before.Builds.ContainsKey(b.ToString())).ToList() ?? [];
        Core.Refusal.When(unknown.Count > 0, "builds", "One of these builds is not in the plan.");
        runs.Choose(run!, builds);
    }

    /// <summary>Takes what is offered into the plan.</summary>
    /// <param name="builds">Whose order was looked at; null: everybody's.</param>
    public async Task Accept(Guid id, IReadOnlySet<Guid>? builds, CancellationToken cancel)
    {
        var run = runs.Current;
        Core.Refusal.When(run?.Id != id || run.Offered is null, "id", "This order is not on offer any more.");
        Core.Refusal.When(
            !run!.Offered!.Is(builds),
            "builds",
            "Somebody has chosen other builds in between. Look at what is offered now."
        );
        var offered = run.Offered.Plan;
        Db.Turns.Add(
            new()
            {
                Id = id,
                Turns = new(offered.Turns),
                AcceptedBy = Actor.Name,
                LateBefore = run.Before.WeightedDaysLate,
                LateAfter = offered.WeightedDaysLate,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
        await Db.SaveChangesAsync(cancel);
        runs.Drop();
    }

    /// <summary>Puts one piece of work before another in the order of who goes first.</summary>
    public async Task PutBefore(Guid id, Guid operation, Guid other, CancellationToken cancel)
    {
        if (await Again<AcceptedTurns>(id, cancel) is not null)
        {
            return;
        }

        var problem = await plan.Present(cancel);
        var turns = TurnBefore.Of(problem, operation.ToString(), other.ToString());
        var planner = new Planner();
        Db.Turns.Add(
            new()
            {
                Id = id,
                Turns = turns,
                AcceptedBy = Actor.Name,
                LateBefore = planner.Plan(problem).WeightedDaysLate,
                LateAfter = planner.Plan(problem with { Turns = turns }).WeightedDaysLate,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
        await Save(cancel);
    }

    /// <summary>Takes the last accepted order back.</summary>
    public async Task Undo(CancellationToken cancel)
    {
        var last = await Db.Turns.Where(t => !t.Undone).OrderByDescending(t => t.Seq).FirstOrDefaultAsync(cancel);
        Core.Refusal.When(last is null, "id", "No order was accepted that could be undone.");
        last!.Undo();
        await Db.SaveChangesAsync(cancel);
    }
}
