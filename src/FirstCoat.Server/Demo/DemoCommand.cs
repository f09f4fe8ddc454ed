using FirstCoat.Store.Plan;
using Microsoft.AspNetCore.Identity;

namespace FirstCoat.Server.Demo;

/// <summary>Loads the demo shop into an empty database.</summary>
public static class DemoCommand
{
    /// <summary>Sampled for each paper and evening of the half year that is told: enough for a likely day, and nobody
    /// waits for the rest. What the shop shows from then on is drawn in full.</summary>
    private const int Futures = 150;

    public static async Task<int> Run(WebApplication app)
    {
        var settings = app.Configuration;
        var now = Instant.FromDateTimeOffset(app.Services.GetRequiredService<TimeProvider>().GetUtcNow());
        // A history that is told again when it is lost need not wait for the disk at each word.
        var connection = new Npgsql.NpgsqlConnectionStringBuilder(settings["Shop:Connection"])
        {
            Options = "-c synchronous_commit=off",
        }.ConnectionString;
        await using var services = Services(
            connection,
            settings["Shop:Photos"]!,
            settings["Shop:Mail"] ?? Path.Combine(settings["Shop:Photos"]!, "..", "mail"),
            settings["Shop:Keys"] ?? Path.Combine(settings["Shop:Photos"]!, "..", "keys"),
            new SetClock(now.ToDateTimeOffset()),
            Futures
        );
        await new DemoShop(services, now, Say).Tell(CancellationToken.None);
        Console.Out.WriteLine();
        return 0;
    }

    /// <summary>One line that changes on a terminal, a line for each week elsewhere.</summary>
    private static void Say(string bar) => Console.Out.Write(Console.IsOutputRedirected ? bar + "\n" : "\r" + bar);

    /// <summary>The store and its desks over a clock that is set while the history is told.</summary>
    /// <param name="futures">Sampled for each look at the chances.</param>
    public static ServiceProvider Services(
        string connection,
        string photos,
        string mail,
        string keys,
        SetClock clock,
        int futures = Futures
    )
    {
        var services = new ServiceCollection();
        services.AddLogging();
        services.AddSingleton<TimeProvider>(clock);
        services.AddSingleton(clock);
        services.AddSingleton(new FutureCount(futures));
        services.AddStore(_ => connection, _ => photos, _ => mail, _ => keys);
        services
            .AddIdentityCore<Account>(ServerSetup.NoPasswordRules)
            .AddRoles<IdentityRole<Guid>>()
            .AddEntityFrameworkStores<ShopDb>();
        return services.BuildServiceProvider();
    }
}
