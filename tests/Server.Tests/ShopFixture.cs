using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using FirstCoat.Core.Access;
using FirstCoat.Server.Access;
using FirstCoat.Store.Access;
using NodaTime;
using Npgsql;

namespace FirstCoat.Server.Tests;

/// <summary>A migrated template database, made once; each fixture clones it.</summary>
public static class TemplateDatabase
{
    private static readonly Lazy<Task> Made = new(Make);

    /// <summary>The cluster's address without a database, given by the test script.</summary>
    public static string Cluster =>
        Environment.GetEnvironmentVariable("FIRSTCOAT_TEST_DB")
        ?? throw new InvalidOperationException(
            "FIRSTCOAT_TEST_DB is not set: run ./firstcoat test, which starts a throw-away cluster."
        );

    public static async Task<string> Clone()
    {
        await Made.Value;
        var name = $"t_{Guid.NewGuid():N}";
        await Execute($"create database {name} template firstcoat_template strategy file_copy");
        return On(name);
    }

    /// <summary>A database with nothing in it.</summary>
    public static async Task<string> Blank()
    {
        var name = $"t_{Guid.NewGuid():N}";
        await Execute($"create database {name}");
        return On(name);
    }

    public static Task Drop(string connection)
    {
        NpgsqlConnection.ClearAllPools();
        return Execute(
            $"drop database if exists {new NpgsqlConnectionStringBuilder(connection).Database} with (force)"
        );
    }

    private static string On(string database, bool pooling = true) =>
        new NpgsqlConnectionStringBuilder(Cluster) { Database = database, Pooling = pooling }.ConnectionString;

    private static async Task Make()
    {
        await Execute("drop database if exists firstcoat_template with (force)");
        await Execute("create database firstcoat_template");
        var services = Demo.DemoCommand.Services(
            On("firstcoat_template", pooling: false),
            Directory.CreateTempSubdirectory("firstcoat-none").FullName,
            Path.GetTempPath(),
            Path.GetTempPath(),
            new SetClock(DateTimeOffset.UtcNow)
        );
        await using (services)
        {
            await using var scope = services.CreateAsyncScope();
            await Migrator.Migrate(scope.ServiceProvider, CancellationToken.None);
        }
    }

    private static async Task Execute(string sql)
    {
        await using var connection = new NpgsqlConnection(On("postgres", pooling: false));
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync();
    }
}

/// <summary>The application over its own database and a clock that is set, with one signed-in client per
/// role.</summary>
public sealed class ShopFixture : ShopServer, IAsyncLifetime
{
    private Task<FilledShop>? _filled;

    public HttpClient Manager { get; private set; } = null!;

    public HttpClient Office { get; private set; } = null!;

    public HttpClient Technician { get; private set; } = null!;

    /// <summary>The technician's person; the manager is a person too.</summary>
    public Guid TechnicianPerson { get; } = Guid.CreateVersion7();

    public Guid ManagerPerson { get; } = Guid.CreateVersion7();

    public async ValueTask InitializeAsync()
    {
        Connection = await TemplateDatabase.Clone();
        await using (var scope = Scope())
        {
            var desk = scope.ServiceProvider.GetRequiredService<Store.Shop.ShopDesk>();
            await desk.SaveSettings(
                s => (s.Name, s.TimeZone, s.Week) = ("Test shop", "Europe/London", SessionEndpoints.StandardWeek()),
                null,
                CancellationToken.None
            );
            await desk.PutPerson(ManagerPerson, "Mara Manager", [], true, null, CancellationToken.None);
            await desk.PutPerson(
                TechnicianPerson,
                "Tove Technician",
                [.. Enum.GetValues<Core.Kernel.Trade>()],
                true,
                null,
                CancellationToken.None
            );
            foreach (var person in new[] { ManagerPerson, TechnicianPerson })
            {
                await desk.SetRate(person, new(new LocalDate(2025, 1, 1), 25, 60), CancellationToken.None);
            }

            var accounts = scope.ServiceProvider.GetRequiredService<AccountsDesk>();
            await accounts.Add(
                Guid.CreateVersion7(),
                "mara",
                Password,
                "Mara Manager",
                Roles.Manager,
                ManagerPerson,
                CancellationToken.None
            );
            await accounts.Add(
                Guid.CreateVersion7(),
                "olga",
                Password,
                "Olga Office",
                Roles.Office,
                null,
                CancellationToken.None
            );
            await accounts.Add(
                Guid.CreateVersion7(),
                "tove",
                Password,
                "Tove Technician",
                Roles.Technician,
                TechnicianPerson,
                CancellationToken.None
            );
        }

        Manager = await SignIn("mara");
        Office = await SignIn("olga");
        Technician = await SignIn("tove");
    }

    /// <summary>The shop with one of everything in it, made once.</summary>
    public Task<FilledShop> Filled() => _filled ??= FilledShop.Make(this);

    /// <summary>Tells the page of a draft as it stands now.</summary>
    public async Task<string> SeenOf(Guid paper) =>
        (await Manager.GetAsync($"/api/papers/{paper}/page").Json()).GetProperty("seen").GetString()!;

    /// <summary>Sends a paper as somebody does who has just looked at it.</summary>
    public async Task<HttpResponseMessage> SendPaper(Guid paper, string way = "letter") =>
        await Manager.PostAsJsonAsync($"/api/papers/{paper}/send", new { seen = await SeenOf(paper), way });

    /// <summary>The newest letter to an address, as text.</summary>
    public string LastLetter(string to) =>
        new DirectoryInfo(Path.Combine(Folder, "mail"))
            .GetFiles("*.eml")
            .OrderByDescending(f => f.LastWriteTimeUtc)
            .Select(f => File.ReadAllText(f.FullName))
            .First(t => t.Contains(to, StringComparison.Ordinal));

    /// <summary>Sets the clock to a wall time of the shop.</summary>
    public void At(LocalDate day, int hour, int minute) =>
        Clock.Set(
            DateTimeZoneProviders.Tzdb["Europe/London"].AtLeniently(day.At(new LocalTime(hour, minute))).ToInstant()
        );

    async ValueTask IAsyncDisposable.DisposeAsync()
    {
        await DisposeAsync();
        await TemplateDatabase.Drop(Connection);
        Directory.Delete(Folder, recursive: true);
    }
}

/// <summary>Reading answers.</summary>
public static class Answers
{
    public static async Task<JsonElement> Json(
        this Task<HttpResponseMessage> call,
        HttpStatusCode status = HttpStatusCode.OK
    )
    {
        var answer = await call;
        var text = await answer.Content.ReadAsStringAsync();
        answer.StatusCode.ShouldBe(status, text);
        return text.Length == 0 ? default : JsonDocument.Parse(text).RootElement.Clone();
    }

    /// <summary>A problem document that names its field.</summary>
    public static async Task<JsonElement> Refused(
        this Task<HttpResponseMessage> call,
        string field,
        HttpStatusCode status = HttpStatusCode.BadRequest
    )
    {
        var problem = await call.Json(status);
        problem.GetProperty("field").GetString().ShouldBe(field);
        problem.GetProperty("detail").GetString().ShouldNotBeNullOrWhiteSpace();
        return problem;
    }
}
