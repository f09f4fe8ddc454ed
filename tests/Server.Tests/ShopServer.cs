using System.Net;
using System.Net.Http.Json;
using FirstCoat.Server.Access;
using FirstCoat.Store.Access;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.Configuration;

namespace FirstCoat.Server.Tests;

/// <summary>The application over a database and folders of its own, on a clock that is set.</summary>
public abstract class ShopServer : WebApplicationFactory<Program>
{
    public const string Password = "a long test password";
    private readonly Dictionary<HttpClient, CookieContainer> _cookies = [];

    public SetClock Clock { get; } = new(new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero));

    protected string Connection { get; set; } = "";

    /// <summary>Photos, letters and keys lie in it.</summary>
    protected string Folder { get; init; } = Directory.CreateTempSubdirectory("firstcoat-test").FullName;

    /// <summary>The application's own parts, acting as the application.</summary>
    public AsyncServiceScope Scope()
    {
        var scope = Services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
        return scope;
    }

    /// <summary>The cookie header of a signed-in client, for what does not go through it.</summary>
    public string CookieOf(HttpClient client) =>
        string.Join("; ", _cookies[client].GetCookies(new Uri("http://localhost")).Select(c => $"{c.Name}={c.Value}"));

    /// <summary>A browser without a sign-in, with its anti-forgery token.</summary>
    public async Task<HttpClient> Anonymous()
    {
        var cookies = new CookieContainer();
        var client = CreateDefaultClient(new Uri("http://localhost"), new Browser(cookies));
        _cookies[client] = cookies;
        await client.GetAsync("/api/session");
        return client;
    }

    public async Task<HttpClient> SignIn(string user)
    {
        var client = await Anonymous();
        var answer = await client.PostAsJsonAsync("/api/session", new { user, password = Password });
        answer.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        await client.GetAsync("/api/session");
        return client;
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("Shop:Connection", Connection);
        builder.UseSetting("Shop:Photos", Path.Combine(Folder, "photos"));
        builder.UseSetting("Shop:Mail", Path.Combine(Folder, "mail"));
        builder.UseSetting("Shop:Keys", Path.Combine(Folder, "keys"));
        builder.UseSetting("Shop:SignInsPerMinute", "1000");
        // How good a thousand are is the core's test; here they only have to arrive.
        builder.UseSetting("Shop:Futures", "60");
        builder.UseSetting("Shop:WaitForFutures", "true");
        builder.UseSetting("Serilog:MinimumLevel:Default", "Error");
        // Sign-in runs on the machine's clock otherwise, and a slow machine would have waited enough by itself.
        builder.ConfigureServices(s => s.AddSingleton<TimeProvider>(Clock).AddSingleton(new SignInPace(Clock)));
    }

    /// <summary>Keeps cookies and sends the anti-forgery token back, as the front end does.</summary>
    private sealed class Browser(CookieContainer cookies) : DelegatingHandler
    {
        protected override async Task<HttpResponseMessage> SendAsync(
            HttpRequestMessage request,
            CancellationToken cancellationToken
        )
        {
            var all = cookies.GetCookies(request.RequestUri!);
            if (all.Count > 0)
            {
                request.Headers.Add("Cookie", string.Join("; ", all.Select(c => $"{c.Name}={c.Value}")));
            }

            if (all["XSRF-TOKEN"]?.Value is { } token)
            {
                request.Headers.Add("X-XSRF-TOKEN", Uri.UnescapeDataString(token));
            }

            var response = await base.SendAsync(request, cancellationToken);
            foreach (var cookie in response.Headers.TryGetValues("Set-Cookie", out var set) ? set : [])
            {
                cookies.SetCookies(request.RequestUri!, cookie.Split(';')[0] + "; path=/");
            }

            return response;
        }
    }
}

/// <summary>The application over a database and folders that were restored.</summary>
public sealed class RestoredShop : ShopServer
{
    public RestoredShop(string connection, IConfiguration settings) =>
        (Connection, Folder) = (connection, Path.GetDirectoryName(settings["Shop:Photos"])!);
}
