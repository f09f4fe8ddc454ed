using FirstCoat.Core.Plan;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Plan;

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

    /// <summary>What the same futures say of the order in force and of the one that was found: an order that looks
    /// better can be riskier. Null until it has ended.</summary>
    public (Outlook Before, Outlook After)? Chances { get; private set; }

    /// <summary>It broke off by a fault of its own; nothing was changed.</summary>
    public bool Failed { get; private set; }

    public bool IsStopped => _stop.IsCancellationRequested;

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
            Chances = (outlook(problem), outlook(problem with { Turns = found.Plan.Turns }));
            Found = found;
        }
        catch
        {
            Failed = true;
            throw;
        }
    }

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
            _ = Task
                .Factory.StartNew(Current.Work, TaskCreationOptions.LongRunning)
                .ContinueWith(t => Broke(log, t.Exception!), TaskContinuationOptions.OnlyOnFaulted);
            return Current;
        }
    }

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

    /// <summary>Takes what was found into the plan.</summary>
    public async Task Accept(Guid id, CancellationToken cancel)
    {
        var run = runs.Current;
        Core.Refusal.When(run?.Id != id || run.Found is null, "id", "This order is not on offer any more.");
        Db.Turns.Add(
            new()
            {
                Id = id,
                Turns = new(run!.Found!.Plan.Turns),
                AcceptedBy = Actor.Name,
                LateBefore = run.Before.WeightedDaysLate,
                LateAfter = run.Found.Plan.WeightedDaysLate,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }
        );
        await Db.SaveChangesAsync(cancel);
        runs.Drop();
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
