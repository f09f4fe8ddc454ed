using FirstCoat.Core.Plan;
using FirstCoat.Store.Access;
using FirstCoat.Store.Labour;
using FirstCoat.Store.Overview;
using FirstCoat.Store.Photos;
using FirstCoat.Store.Plan;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.DependencyInjection.Extensions;
using NodaTime;

namespace FirstCoat.Store;

/// <summary>Puts the store together.</summary>
public static class StoreSetup
{
    /// <summary>The database's options from a connection string.</summary>
    public static DbContextOptions<ShopDb> Options(string connection) =>
        (DbContextOptions<ShopDb>)Configure(new DbContextOptionsBuilder<ShopDb>(), connection).Options;

    /// <summary>Adds the database, the photo folder and one desk per room.</summary>
    /// <param name="photoFolder">Where photo files lie; made when missing.</param>
    /// <param name="mailFolder">Where the mail stand-in puts letters; made with the first.</param>
    /// <param name="keyFolder">Where the server's own secrets lie; made with the first.</param>
    public static IServiceCollection AddStore(
        this IServiceCollection services,
        Func<IServiceProvider, string> connection,
        Func<IServiceProvider, string> photoFolder,
        Func<IServiceProvider, string> mailFolder,
        Func<IServiceProvider, string> keyFolder
    )
    {
        services.AddDbContext<ShopDb>(
            (provider, options) =>
                Configure(options, connection(provider)).AddInterceptors(provider.GetRequiredService<ShopChanges>())
        );
        services.AddSingleton<ShopClock>();
        services.AddSingleton<IPlanner, Planner>();
        services.AddSingleton<ShopCache>();
        services.AddSingleton(typeof(Readings.Shelf<>));
        services.AddSingleton<DoneWorkShelf>();
        services.TryAddSingleton(new FutureCount());
        services.AddSingleton<ShopChanges>();
        services.AddSingleton(new Renewed<List<BuildChance>>(Duration.Zero));
        services.AddSingleton(new Renewed<PlanAdvice>(Duration.FromMilliseconds(400)));
        services.AddSingleton<ImprovementRuns>();
        services.AddSingleton(provider => new PhotoFiles(photoFolder(provider)));
        services.AddSingleton<IMail>(provider => new MailFolder(
            mailFolder(provider),
            provider.GetRequiredService<ShopClock>()
        ));
        services.AddSingleton(provider => new ShopSecrets(keyFolder(provider)));
        services.TryAddSingleton(new ShopAddress(() => "http://127.0.0.1"));
        services.AddScoped<CurrentActor>();
        services.AddScoped<CurrentRequest>();
        services.AddScoped<ClientLetters>();
        services.AddScoped<FindDesk>();
        foreach (var desk in typeof(Desk).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(Desk))))
        {
            services.AddScoped(desk);
        }

        return services;
    }

    private static DbContextOptionsBuilder Configure(DbContextOptionsBuilder options, string connection) =>
        options.UseNpgsql(connection, n => n.UseNodaTime()).UseSnakeCaseNamingConvention();
}
