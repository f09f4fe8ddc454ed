using FirstCoat.Core.Access;
using FirstCoat.Store.Migrations;
using Microsoft.AspNetCore.Identity;

namespace FirstCoat.Server.Access;

/// <summary>Brings the database up to date before anything else starts.</summary>
public sealed class Migrator(IServiceProvider services) : IHostedLifecycleService
{
    public async Task StartingAsync(CancellationToken cancellationToken)
    {
        await using var scope = services.CreateAsyncScope();
        await Migrate(scope.ServiceProvider, cancellationToken);
        // What a stopped server left half-done.
        Reports.PagePrinter.Sweep();
        _ = services.GetRequiredService<Store.Photos.PhotoFiles>();
    }

    /// <summary>Migrates and makes the roles.</summary>
    public static async Task Migrate(IServiceProvider scope, CancellationToken cancel)
    {
        scope.GetRequiredService<CurrentActor>().Actor = Actor.Application;
        var db = scope.GetRequiredService<ShopDb>();
        await EarlierShapes.BringOn(db, cancel);
        await db.Database.MigrateAsync(cancel);
        // A shop of before everything could be found.
        await db.FillFinds(cancel);
        // Keys of an earlier version lay open in the database: they open nothing any more, and everybody signs in once
        // more.
        await db
            .DataProtectionKeys.Where(k => k.Xml == null || !k.Xml.Contains("encryptedSecret"))
            .ExecuteDeleteAsync(cancel);
        var roles = scope.GetRequiredService<RoleManager<IdentityRole<Guid>>>();
        foreach (var role in Roles.All)
        {
            if (!await roles.RoleExistsAsync(role))
            {
                await roles.CreateAsync(new(role) { Id = Guid.CreateVersion7() });
            }
        }
    }

    public Task StartAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StartedAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StoppingAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StoppedAsync(CancellationToken cancellationToken) => Task.CompletedTask;
}
