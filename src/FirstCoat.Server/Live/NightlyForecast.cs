using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Live;

/// <summary>Keeps each night's forecast, so that a build's slip over time can be seen.</summary>
/// <remarks>Shop:Nightly false switches it off.</remarks>
public sealed partial class NightlyForecast(IServiceScopeFactory scopes, ILogger<NightlyForecast> log)
    : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromMinutes(15);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
                if (await scope.ServiceProvider.GetRequiredService<ShopDb>().Settings.AnyAsync(stoppingToken))
                {
                    await scope.ServiceProvider.GetRequiredService<PlanDesk>().KeepNight(stoppingToken);
                }
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                Failed(log, e);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "The night's forecast could not be kept; it is tried again.")]
    private static partial void Failed(ILogger log, Exception e);
}
