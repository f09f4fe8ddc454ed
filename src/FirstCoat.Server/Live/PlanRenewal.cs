using System.Diagnostics;
using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Live;

/// <summary>Renews what of the plan takes long once somebody has looked after a change, and tells the browsers; each
/// thing one at a time, and what takes long not more than a fifth of the time.</summary>
/// <remarks>Shop:WaitForFutures true switches it off: then whoever asks waits.</remarks>
public sealed partial class PlanRenewal(
    IServiceScopeFactory scopes,
    Renewed<List<BuildChance>> chances,
    Renewed<PlanAdvice> advice,
    LiveConnections live,
    ILogger<PlanRenewal> log
) : IHostedService
{
    /// <summary>Told to the browsers; no kind of record.</summary>
    public const string Futures = "Futures",
        Advice = "Advice";

    /// <summary>What took longer than this rests four times as long, else as long as it took.</summary>
    private static readonly TimeSpan Long = TimeSpan.FromSeconds(3);

    private static readonly TimeSpan LongestRest = TimeSpan.FromMinutes(2);

    public Task StartAsync(CancellationToken cancellationToken)
    {
        chances.Renew = new OneAtATime(() => Make(Futures, d => d.Chances(CancellationToken.None))).Ask;
        advice.Renew = new OneAtATime(async () =>
        {
            var from = Stopwatch.GetTimestamp();
            await Make(Advice, d => d.RenewAdvice(CancellationToken.None));
            advice.Took = Duration.FromTimeSpan(Stopwatch.GetElapsedTime(from));
        }).Ask;
        // Who comes first finds it made.
        _ = chances.Renew();
        _ = advice.Renew();
        return Task.CompletedTask;
    }

    public Task StopAsync(CancellationToken cancellationToken)
    {
        (chances.Renew, advice.Renew) = (null, null);
        return Task.CompletedTask;
    }

    private async Task Make(string what, Func<PlanDesk, Task> make)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
            if (await scope.ServiceProvider.GetRequiredService<ShopDb>().Settings.AnyAsync())
            {
                await make(scope.ServiceProvider.GetRequiredService<PlanDesk>());
                await live.Tell(what, CancellationToken.None);
            }
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            Failed(log, what, e);
        }
    }

    /// <summary>Does something once more when it is asked for, after a rest.</summary>
    private sealed class OneAtATime(Func<Task> act)
    {
        private readonly Lock _turn = new();
        private Task _going = Task.CompletedTask;
        private long _restedAt;

        public Task Ask()
        {
            lock (_turn)
            {
                return _going.IsCompleted ? _going = Task.Run(Go) : _going;
            }
        }

        private async Task Go()
        {
            var rest = TimeSpan.FromMilliseconds(_restedAt - Environment.TickCount64);
            if (rest > TimeSpan.Zero)
            {
                await Task.Delay(rest);
            }

            var from = Stopwatch.GetTimestamp();
            await act();
            var took = Stopwatch.GetElapsedTime(from);
            rest = TimeSpan.FromTicks(Math.Min((took > Long ? 4 : 1) * took.Ticks, LongestRest.Ticks));
            _restedAt = Environment.TickCount64 + (long)rest.TotalMilliseconds;
        }
    }

    [LoggerMessage(
        Level = LogLevel.Warning,
        Message = "{What} of the plan could not be renewed; that is tried again with the next look."
    )]
    private static partial void Failed(ILogger log, string what, Exception e);
}
