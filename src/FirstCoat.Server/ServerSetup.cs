using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Threading.RateLimiting;
using FirstCoat.Core.Access;
using FirstCoat.Server.Access;
using FirstCoat.Server.Live;
using FirstCoat.Server.Reports;
using FirstCoat.Server.Rooms;
using FirstCoat.Server.Web;
using FirstCoat.Store.Plan;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using NodaTime.Serialization.SystemTextJson;
using Serilog;

namespace FirstCoat.Server;

/// <summary>Puts the server together.</summary>
public static class ServerSetup
{
    /// <summary>True when the build tool runs the program only to write the API document.</summary>
    private static bool OnlyDocument => Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";

    public static WebApplication Build(string[] args)
    {
        var builder = WebApplication.CreateBuilder(args);
        builder.Host.UseSerilog(
            (context, log) =>
                log
                    .ReadFrom.Configuration(context.Configuration)
                    .WriteTo.Console(formatProvider: CultureInfo.InvariantCulture)
        );
        Services(builder.Services, builder.Configuration);
        var app = builder.Build();
        Pipeline(app);
        return app;
    }

    private static void Services(IServiceCollection services, ConfigurationManager settings)
    {
        services.AddSingleton(ClockFrom(settings["now"], settings.GetValue<bool>("Shop:StillClock")));
        services.AddSingleton(p => new FutureCount(
            p.GetRequiredService<IConfiguration>().GetValue("Shop:Futures", Core.Plan.Outlook.Futures),
            // Whoever waits for a page has the rest.
            Math.Max(1, Environment.ProcessorCount / 2)
        ));
        services.AddStore(
            p => p.GetRequiredService<IConfiguration>()["Shop:Connection"] ?? "Host=127.0.0.1;Database=firstcoat",
            p =>
                p.GetRequiredService<IConfiguration>()["Shop:Photos"]
                ?? Path.Combine(AppContext.BaseDirectory, "photos"),
            p => p.GetRequiredService<IConfiguration>()["Shop:Mail"] ?? Path.Combine(AppContext.BaseDirectory, "mail"),
            p => KeyFolder(p.GetRequiredService<IConfiguration>())
        );
        services.AddSingleton(p => new ShopAddress(() =>
            p.GetRequiredService<IConfiguration>()["Shop:Address"] is { Length: > 0 } said
                ? said
                : p.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault()
                    ?? "http://127.0.0.1"
        ));
        services.ConfigureHttpJsonOptions(o =>
        {
            var json = o.SerializerOptions;
            json.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
            json.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
            json.NumberHandling = JsonNumberHandling.Strict;
            json.RespectNullableAnnotations = true;
            json.RespectRequiredConstructorParameters = true;
        });
        services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
        services.AddOpenApi(ApiDocument.Configure);
        services.AddProblemDetails();
        services.AddExceptionHandler<ProblemHandler>();
        services.AddAntiforgery(o =>
            (o.HeaderName, o.Cookie.SecurePolicy) = ("X-XSRF-TOKEN", CookieSecurePolicy.SameAsRequest)
        );
        services.Configure<KestrelServerOptions>(o => o.Limits.MaxRequestBodySize = RequestGuard.MostBody);
        services.Configure<FormOptions>(o => o.MultipartBodyLengthLimit = RequestGuard.MostBody);
        services.AddSingleton<DiskSpace>();
        services.AddResponseCompression();
        services.AddHttpContextAccessor();
        AddAccess(services, settings);
        services.AddScoped<BuildCards>();
        services.AddScoped<FloorReader>();
        services.AddScoped<Trials>();
        services.AddSingleton<PrintTickets>();
        services.AddSingleton<PrintTurns>();
        services.AddSingleton<PagePrinter>();
        services.AddSingleton<LiveConnections>();
        services.AddSignalR();
        if (!OnlyDocument)
        {
            // The keys of sign-ins lie in the database, locked: who reads a copy of it cannot make a sign-in of it.
            services
                .AddDataProtection()
                .PersistKeysToDbContext<ShopDb>()
                .SetApplicationName("FirstCoat")
                .ProtectKeysWithCertificate(new ShopSecrets(KeyFolder(settings)).Lock);
            services.AddHostedService<Migrator>();
            services.AddHostedService<ChangeListener>();
            services.AddHostedService<NightlyForecast>();
            if (!settings.GetValue<bool>("Shop:WaitForFutures"))
            {
                services.AddHostedService<PlanRenewal>();
            }
        }
    }

    private static void AddAccess(IServiceCollection services, ConfigurationManager settings)
    {
        services.AddIdentity<Account, IdentityRole<Guid>>(NoPasswordRules).AddEntityFrameworkStores<ShopDb>();
        services.ConfigureApplicationCookie(SessionCookie.Configure);
        services.AddSingleton(new SignInPace(TimeProvider.System));
        services
            .AddAuthorizationBuilder()
            .SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build())
            .AddPolicy(Policies.Manager, p => p.RequireRole(Roles.Manager))
            .AddPolicy(Policies.Desk, p => p.RequireRole(Roles.Manager, Roles.Office))
            .AddPolicy(Policies.Floor, p => p.RequireRole(Roles.Manager, Roles.Technician))
            .AddPolicy(Policies.Anyone, p => p.RequireRole(Roles.Manager, Roles.Office, Roles.Technician));
        var perMinute = settings.GetValue("Shop:SignInsPerMinute", 8);
        services.AddRateLimiter(o =>
        {
            o.OnRejected = (context, _) =>
                throw new TooMany(
                    "Too many requests from your address. Wait a minute, then try again.",
                    context.Lease.TryGetMetadata(MetadataName.RetryAfter, out var after)
                        ? after
                        : TimeSpan.FromMinutes(1)
                );
            RateLimitPartition<string> Limit(HttpContext c, int permits) =>
                RateLimitPartition.GetFixedWindowLimiter(c.Connection.RemoteIpAddress?.ToString() ?? "", _ =>
                    new() { PermitLimit = permits, Window = TimeSpan.FromMinutes(1) }
                );
            o.AddPolicy(Policies.SignInLimit, c => Limit(c, perMinute));
            o.AddPolicy(Policies.LinkLimit, c => Limit(c, perMinute * 15));
        });
    }

    private static string KeyFolder(IConfiguration settings) =>
        settings["Shop:Keys"] ?? Path.Combine(AppContext.BaseDirectory, "keys");

    /// <summary>Passwords are judged by the core's own rules, in one place.</summary>
    public static void NoPasswordRules(IdentityOptions o)
    {
        o.Password.RequiredLength = 1;
        o.Password.RequiredUniqueChars = 0;
        o.Password.RequireNonAlphanumeric =
            o.Password.RequireUppercase =
            o.Password.RequireDigit =
            o.Password.RequireLowercase =
                false;
    }

    private static void Pipeline(WebApplication app)
    {
        // Behind a proxy on this machine, and only then, the caller's address and scheme are the ones it forwards: the
        // limits count callers.
        app.UseForwardedHeaders(
            new ForwardedHeadersOptions
            {
                ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
            }
        );
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.UseResponseCompression();
        app.Use(Headers.Add);
        app.UseRateLimiter();
        app.Use(LiveConnections.CheckOrigin);
        app.UseAuthentication();
        app.UseAuthorization();
        app.Use(RequestGuard.Check);
        var api = app.MapGroup("/api");
        api.AddEndpointFilterFactory(InputCheck.Filter);
        api.MapSession();
        api.MapAccounts();
        api.MapShop();
        api.MapBuilds();
        api.MapOverview();
        api.MapArrival();
        api.MapSequence();
        api.MapProvisions();
        api.MapFitup();
        api.MapDatum();
        api.MapOpenings();
        api.MapFigures();
        api.MapGauge();
        api.MapRipples();
        api.MapLabour();
        api.MapParts();
        api.MapOutside();
        api.MapPhotos();
        api.MapSurvey();
        api.MapFindings();
        api.MapBodies();
        api.MapTeardown();
        api.MapSteps();
        api.MapPlan();
        api.MapLanes();
        api.MapWeek();
        api.MapWays();
        api.MapSetUps();
        api.MapCalendars();
        api.MapFloor();
        api.MapMoney();
        api.MapPapers();
        api.MapReports();
        api.MapPrivatePages();
        api.MapBench();
        api.MapFallback(() => Results.Problem("There is no such address in the API.", statusCode: 404))
            .AllowAnonymous();
        app.MapHub<LiveHub>("/live").RequireAuthorization(Policies.Anyone);
        app.MapOpenApi("/api/openapi.json").RequireAuthorization(Policies.Anyone);
        app.MapGet("/health", async (ShopDb db, CancellationToken cancel) =>
                await db.Database.CanConnectAsync(cancel) ? Results.Ok() : Results.StatusCode(503)
            )
            .AllowAnonymous()
            .ExcludeFromDescription();
        if (!OnlyDocument)
        {
            app.MapStaticAssets().AllowAnonymous();
        }

        app.MapFallback("/assets/{**rest}", http => Results.NotFound().ExecuteAsync(http)).AllowAnonymous();
        app.MapFallbackToFile(
                "index.html",
                new StaticFileOptions { OnPrepareResponse = c => c.Context.Response.Headers.CacheControl = "no-cache" }
            )
            .AllowAnonymous();
    }

    private static Task Status(HttpContext context, int status)
    {
        context.Response.StatusCode = status;
        return Task.CompletedTask;
    }

    private static TimeProvider ClockFrom(string? now, bool still)
    {
        if (string.IsNullOrWhiteSpace(now))
        {
            return TimeProvider.System;
        }

        var at = DateTimeOffset.Parse(now, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal);
        // A clock that stands still gives the same figures however long a run takes.
        return still ? new SetClock(at) : new ShiftedClock(at - TimeProvider.System.GetUtcNow());
    }
}

/// <summary>Names of policies.</summary>
public static class Policies
{
    public const string Manager = "manager";
    public const string Desk = "desk";

    /// <summary>Who works on the vehicles: the manager and the technicians.</summary>
    public const string Floor = "floor";
    public const string Anyone = "anyone";
    public const string SignInLimit = "sign-in";
    public const string LinkLimit = "link";
}
