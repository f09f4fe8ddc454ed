using Npgsql;

namespace FirstCoat.Server.Live;

/// <summary>
/// Hears the database's own notice of every change and of every session's end, whichever server made it, and passes it
/// on. After a broken connection everything is announced as changed and every session is asked for again, since the
/// database keeps no notices for an absent listener.
/// </summary>
public sealed class ChangeListener(
    IConfiguration settings,
    LiveConnections live,
    ShopChanges changes,
    ILogger<ChangeListener> log
) : BackgroundService
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
        await using var connection = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(settings["Shop:Connection"])
            {
                KeepAlive = 15,
                Pooling = false,
            }.ConnectionString
        );
        connection.Notification += (_, notice) =>
        {
            if (notice.Channel == AccountsDesk.EndedChannel)
            {
                live.End(Guid.Parse(notice.Payload));
            }
            else
            {
                var what = notice.Payload.Split(':')[0];
                changes.Elsewhere(what, notice.PID);
                _ = live.Tell(what, cancel);
            }
        };
        await connection.OpenAsync(cancel);
        await using (
            var listen = new NpgsqlCommand($"listen {Channel}; listen {AccountsDesk.EndedChannel}", connection)
        )
        {
            await listen.ExecuteNonQueryAsync(cancel);
        }

        await live.EndThoseThatEnded(cancel);
        changes.Elsewhere(LiveConnections.Everything, connection: null);
        await live.Tell(LiveConnections.Everything, cancel);
        while (!cancel.IsCancellationRequested)
        {
            await connection.WaitAsync(cancel);
        }
    }
}
