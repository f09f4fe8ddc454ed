using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Live;

/// <summary>Draws the futures again once somebody has looked after a change, and tells the browsers; one drawing at a
/// time.</summary>
/// <remarks>Shop:WaitForFutures true switches it off: then whoever asks waits.</remarks>
public sealed partial class FuturesRenewal(
    IServiceScopeFactory scopes,
    LastFutures last,
    LiveConnections live,
    ILogger<FuturesRenewal> log
) : IHostedService
{
    private int _running;

    public Task StartAsync(CancellationToken cancellationToken)
    {
        last.Renew = () =>
        {
            if (Interlocked.CompareExchange(ref _running, 1, 0) == 0)
            {
                _ = Task.Run(Draw, CancellationToken.None);
            }
        };
        return Task.CompletedTask;
    }

    public Task StopAsync(CancellationToken cancellationToken)
    {
        last.Renew = null;
        return Task.CompletedTask;
    }

    private async Task Draw()
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
            await scope.ServiceProvider.GetRequiredService<PlanDesk>().Chances(CancellationToken.None);
            await live.Tell("Futures", CancellationToken.None);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            Failed(log, e);
        }
        finally
        {
            Volatile.Write(ref _running, 0);
        }
    }

    [LoggerMessage(
        Level = LogLevel.Warning,
        Message = "The futures could not be drawn; they are drawn with the next look."
    )]
    private static partial void Failed(ILogger log, Exception e);
}
