using Microsoft.AspNetCore.SignalR;
using Npgsql;

namespace FirstCoat.Server.Live;

/// <summary>Tells signed-in browsers that something changed; they ask again for what they show.</summary>
public sealed class LiveHub : Hub;

/// <summary>
/// Hears the database's own notice of every change, whichever server made it, and passes it on. After a broken
/// connection everything is announced as changed, since the database keeps no notices for an absent listener.
/// </summary>
public sealed class ChangeListener(IConfiguration settings, IHubContext<LiveHub> hub, ILogger<ChangeListener> log) : BackgroundService
{
    public const string Channel = "shop_changed";

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await Listen(stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or System.Net.Sockets.SocketException or IOException)
            {
                log.LogWarning("The database does not answer ({Reason}); listening again shortly.", e.Message);
                await Task.Delay(TimeSpan.FromSeconds(1), stoppingToken);
            }
        }
    }

    private async Task Listen(CancellationToken cancel)
    {
        await using var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(settings["Shop:Connection"]) { KeepAlive = 15, Pooling = false }.ConnectionString);
        connection.Notification += (_, notice) => _ = hub.Clients.All.SendAsync("changed", notice.Payload, cancel);
        await connection.OpenAsync(cancel);
        await using (var listen = new NpgsqlCommand($"listen {Channel}", connection))
        {
            await listen.ExecuteNonQueryAsync(cancel);
        }

        await hub.Clients.All.SendAsync("changed", "everything", cancel);
        while (!cancel.IsCancellationRequested)
        {
            await connection.WaitAsync(cancel);
        }
    }
}
