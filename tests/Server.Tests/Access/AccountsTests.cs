using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using FirstCoat.Server.Access;
using FirstCoat.Store.Access;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.Configuration;
using NodaTime;

namespace FirstCoat.Server.Tests.Access;

/// <summary>Accounts are closed, reset and named; sessions end when they are said to.</summary>
public sealed class AccountsTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private int _people;

    private async Task<(Guid Id, string User, Guid Person)> Technician()
    {
        var (id, person, user) = (Guid.CreateVersion7(), Guid.CreateVersion7(), $"tech{Guid.NewGuid():N}"[..12]);
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/shop/people/{person}",
                new
                {
                    name = $"Technician {++_people}",
                    trades = new[] { "mechanic" },
                    active = true,
                    version = (uint?)null,
                }
            )
            .Json();
        await shop
            .Manager.PostAsJsonAsync(
                "/api/accounts",
                new
                {
                    id,
                    user,
                    password = ShopFixture.Password,
                    name = "Somebody",
                    role = "technician",
                    personId = person,
                }
            )
            .Json();
        return (id, user, person);
    }

    private static Task<HttpResponseMessage> Enter(
        HttpClient client,
        string user,
        string password,
        string? chosen = null
    ) =>
        client.PostAsJsonAsync(
            "/api/session",
            new
            {
                user,
                password,
                chosen,
            }
        );

    private async Task<JsonElement> Row(Guid id) =>
        (await shop.Manager.GetAsync("/api/accounts").Json())
            .EnumerateArray()
            .Single(a => a.GetProperty("id").GetGuid() == id);

    private HubConnection Live(HttpClient of, string? origin = null) =>
        new HubConnectionBuilder()
            .WithUrl("http://localhost/live", o =>
            {
                o.HttpMessageHandlerFactory = _ => shop.Server.CreateHandler();
                o.Transports = Microsoft.AspNetCore.Http.Connections.HttpTransportType.LongPolling;
                o.Headers["Cookie"] = shop.CookieOf(of);
                if (origin is not null)
                {
                    o.Headers["Origin"] = origin;
                }
            })
            .Build();

    [Fact]
    public async Task A_closed_account_is_out_at_once_its_clock_cannot_be_started_and_it_stays_in_the_records()
    {
        var (id, user, _) = await Technician();
        var phone = await shop.SignIn(user);
        var build = await TestBuild.Open(shop);
        var work = await build.Add(TestBuild.Work("Rear axle"));
        await phone.GetAsync("/api/clock").Json();
        await shop.Manager.PostAsJsonAsync($"/api/accounts/{id}/close", new { }).Json();
        (await phone.StartClock(work)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        await Enter(await shop.Anonymous(), user, ShopFixture.Password)
            .Refused("password", HttpStatusCode.Unauthorized);
        (await Row(id)).GetProperty("closedAt").ValueKind.ShouldBe(JsonValueKind.String);
        await using var scope = shop.Scope();
        var audit = await scope
            .ServiceProvider.GetRequiredService<Store.ShopDb>()
            .Audit.Where(a => a.Of == id)
            .ToListAsync(TestContext.Current.CancellationToken);
        audit.ShouldContain(a => a.Action == "added" && a.After!.Contains(user, StringComparison.Ordinal));
        audit.ShouldContain(a => a.Action == "changed" && a.After!.Contains("ClosedAt", StringComparison.Ordinal));
        audit.ShouldAllBe(a => !$"{a.Before}{a.After}".Contains("Hash", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_one_time_word_opens_once_for_choosing_a_password_and_nothing_that_opened_before_does()
    {
        var (id, user, _) = await Technician();
        var phone = await shop.SignIn(user);
        var word = (await shop.Manager.PostAsJsonAsync($"/api/accounts/{id}/word", new { }).Json())
            .GetProperty("word")
            .GetString()!;
        (await phone.GetAsync("/api/clock")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        var again = await shop.Anonymous();
        await Enter(again, user, ShopFixture.Password).Refused("password", HttpStatusCode.Unauthorized);
        await Enter(again, user, word).Refused("chosen");
        await Enter(again, user, word, "password1234").Refused("chosen");
        (await Enter(again, user, word, "copper tea lantern")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        await Enter(await shop.Anonymous(), user, word, "another tea lantern")
            .Refused("password", HttpStatusCode.Unauthorized);
        (await Enter(await shop.Anonymous(), user, "copper tea lantern")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Ones_own_password_is_changed_with_the_old_one_and_ends_the_other_sessions_not_this()
    {
        var (_, user, _) = await Technician();
        var (here, there) = (await shop.SignIn(user), await shop.SignIn(user));
        (await here.GetAsync("/api/session/all").Json()).EnumerateArray().Count().ShouldBe(2);
        await here.PutAsJsonAsync(
                "/api/session/password",
                new { old = "not the old one", chosen = "copper tea lantern" }
            )
            .Refused("old");
        await here.PutAsJsonAsync("/api/session/password", new { old = ShopFixture.Password, chosen = "too short" })
            .Refused("chosen");
        (
            await here.PutAsJsonAsync(
                "/api/session/password",
                new { old = ShopFixture.Password, chosen = "copper tea lantern" }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await there.GetAsync("/api/clock")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        await here.GetAsync("/api/clock").Json();
    }

    [Fact]
    public async Task Other_sessions_are_ended_and_this_one_stays()
    {
        var (_, user, _) = await Technician();
        var (here, there) = (await shop.SignIn(user), await shop.SignIn(user));
        (await here.DeleteAsync("/api/session/others")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await there.GetAsync("/api/clock")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await here.GetAsync("/api/session/all").Json())
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetProperty("here")
            .GetBoolean()
            .ShouldBeTrue();
    }

    [Fact]
    public async Task Signing_out_ends_the_session_on_the_server_and_the_live_connection_with_it()
    {
        var (_, user, _) = await Technician();
        var phone = await shop.SignIn(user);
        await using var live = Live(phone);
        var closed = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        live.Closed += _ =>
        {
            closed.TrySetResult();
            return Task.CompletedTask;
        };
        await live.StartAsync(TestContext.Current.CancellationToken);
        var kept = shop.CookieOf(phone);
        (await phone.DeleteAsync("/api/session")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        using var replay = new HttpRequestMessage(HttpMethod.Get, "/api/clock");
        replay.Headers.Add("Cookie", kept);
        (await shop.CreateClient().SendAsync(replay, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.Unauthorized,
            "the cookie was kept aside, and opens nothing"
        );
        await closed.Task.WaitAsync(TimeSpan.FromSeconds(60), TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task An_account_gets_a_name_a_person_and_a_role_and_the_last_manager_stays_one()
    {
        var id = Guid.CreateVersion7();
        await shop
            .Manager.PostAsJsonAsync(
                "/api/accounts",
                new
                {
                    id,
                    user = "second",
                    password = ShopFixture.Password,
                    name = "Second",
                    role = "manager",
                    personId = (Guid?)null,
                }
            )
            .Json();
        var second = await shop.SignIn("second");
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/accounts/{id}",
                new
                {
                    name = "Second",
                    role = "technician",
                    personId = (Guid?)null,
                }
            )
            .Refused("personId");
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/accounts/{id}",
                new
                {
                    name = "Second",
                    role = "manager",
                    personId = shop.TechnicianPerson,
                }
            )
            .Refused("personId");
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/accounts/{id}",
                new
                {
                    name = "Second Name",
                    role = "office",
                    personId = (Guid?)null,
                }
            )
            .Json();
        (await second.GetAsync("/api/accounts")).StatusCode.ShouldBe(
            HttpStatusCode.Unauthorized,
            "what it was let do as a manager has ended"
        );
        (await Row(id)).GetProperty("role").GetString().ShouldBe("office");
        var mara = (await shop.Manager.GetAsync("/api/accounts").Json())
            .EnumerateArray()
            .Single(a => a.GetProperty("user").GetString() == "mara")
            .GetProperty("id")
            .GetGuid();
        await shop
            .Manager.PutAsJsonAsync(
                $"/api/accounts/{mara}",
                new
                {
                    name = "Mara",
                    role = "office",
                    personId = (Guid?)null,
                }
            )
            .Refused("role");
        await shop.Manager.PostAsJsonAsync($"/api/accounts/{mara}/close", new { }).Refused("id");
    }

    [Fact]
    public async Task An_account_asked_for_many_times_at_once_is_made_once_and_whole()
    {
        var (id, user) = (Guid.CreateVersion7(), "many");
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(_ =>
                    shop.Manager.PostAsJsonAsync(
                        "/api/accounts",
                        new
                        {
                            id,
                            user,
                            password = ShopFixture.Password,
                            name = "Many",
                            role = "office",
                            personId = (Guid?)null,
                        }
                    )
                )
        );
        answers.ShouldAllBe(a => a.StatusCode == HttpStatusCode.OK);
        (await Row(id)).GetProperty("role").GetString().ShouldBe("office");
        await shop
            .Manager.PostAsJsonAsync(
                "/api/accounts",
                new
                {
                    id,
                    user,
                    password = ShopFixture.Password,
                    name = "Another",
                    role = "office",
                    personId = (Guid?)null,
                }
            )
            .Refused("id", HttpStatusCode.Conflict);
        await shop
            .Manager.PostAsJsonAsync(
                "/api/accounts",
                new
                {
                    id = Guid.CreateVersion7(),
                    user,
                    password = ShopFixture.Password,
                    name = "Many",
                    role = "office",
                    personId = (Guid?)null,
                }
            )
            .Refused("user");
    }

    [Fact]
    public async Task Who_keeps_guessing_waits_and_nobody_else_does()
    {
        var (_, user, _) = await Technician();
        var stranger = await shop.Anonymous();
        for (var i = 0; i < 5; i++)
        {
            await Enter(stranger, user, "a wrong password").Refused("password", HttpStatusCode.Unauthorized);
        }

        var slowed = await Enter(stranger, user, ShopFixture.Password);
        slowed.StatusCode.ShouldBe(HttpStatusCode.TooManyRequests);
        slowed.Headers.RetryAfter!.Delta!.Value.TotalSeconds.ShouldBeGreaterThan(0);
        JsonDocument
            .Parse(await slowed.Content.ReadAsStringAsync())
            .RootElement.GetProperty("detail")
            .GetString()
            .ShouldStartWith("Too many wrong tries. Wait ");
        await shop.SignIn("olga");
        for (var i = 0; i < 5; i++)
        {
            await Enter(stranger, "nobody at all", "a wrong password").Refused("password", HttpStatusCode.Unauthorized);
        }

        (await Enter(stranger, "nobody at all", "a wrong password")).StatusCode.ShouldBe(
            HttpStatusCode.TooManyRequests,
            "an unknown name is slowed like a known one"
        );
    }

    [Fact]
    public void The_wait_doubles_belongs_to_name_and_address_together_and_ends()
    {
        var clock = new SetClock(new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero));
        var pace = new SignInPace(clock);
        for (var i = 0; i < 6; i++)
        {
            pace.Wrong("Mara", "10.0.0.1");
        }

        pace.Wait("mara ", "10.0.0.1").ShouldBe(TimeSpan.FromSeconds(4));
        pace.Wait("mara", "10.0.0.2").ShouldBe(TimeSpan.Zero, "a stranger locks nobody out");
        pace.Wait("olga", "10.0.0.1").ShouldBe(TimeSpan.Zero);
        clock.Set(Instant.FromUtc(2026, 3, 2, 9, 0, 5));
        pace.Wait("mara", "10.0.0.1").ShouldBe(TimeSpan.Zero);
        for (var i = 0; i < 40; i++)
        {
            pace.Wrong("mara", "10.0.0.1");
        }

        pace.Wait("mara", "10.0.0.1").ShouldBe(TimeSpan.FromMinutes(5));
        pace.Right("mara", "10.0.0.1");
        pace.Wait("mara", "10.0.0.1").ShouldBe(TimeSpan.Zero);
    }

    [Fact]
    public async Task The_live_connection_is_for_the_applications_own_pages_and_tells_the_floor_only_what_it_may_know()
    {
        await Should.ThrowAsync<HttpRequestException>(async () =>
        {
            await using var foreign = Live(shop.Office, "https://evil.example");
            await foreign.StartAsync(TestContext.Current.CancellationToken);
        });
        await using var floor = Live(shop.Technician, "http://localhost");
        var heard = new List<string>();
        var end = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        floor.On<string>("changed", what =>
        {
            lock (heard)
            {
                heard.Add(what);
            }

            if (what == "ClosedDay")
            {
                end.TrySetResult();
            }
        });
        await floor.StartAsync(TestContext.Current.CancellationToken);
        var build = await TestBuild.Open(shop);
        await shop
            .Office.PostAsJsonAsync(
                $"/api/builds/{build.Id}/payments",
                new
                {
                    id = Guid.CreateVersion7(),
                    on = "2026-03-01",
                    amount = 500,
                    note = "",
                }
            )
            .Json();
        await shop
            .Manager.PostAsJsonAsync($"/api/builds/{build.Id}/links", new { id = Guid.CreateVersion7(), days = 5 })
            .Json();
        await shop
            .Manager.PutAsJsonAsync(
                "/api/shop/closed-days/2026-12-24",
                new { id = Guid.CreateVersion7(), reason = "holiday" }
            )
            .Json();
        await end.Task.WaitAsync(TimeSpan.FromSeconds(60), TestContext.Current.CancellationToken);
        lock (heard)
        {
            heard.ShouldContain("Build");
            heard.ShouldNotContain("Payment");
            heard.ShouldNotContain("PrivateLink");
            heard.ShouldAllBe(h => !h.Contains(':', StringComparison.Ordinal));
        }
    }

    [Fact]
    public async Task Keys_and_letters_are_the_shops_accounts_alone_and_sign_in_keys_lie_locked_in_the_database()
    {
        await using var scope = shop.Scope();
        var keys = await scope
            .ServiceProvider.GetRequiredService<Store.ShopDb>()
            .DataProtectionKeys.AsNoTracking()
            .ToListAsync(TestContext.Current.CancellationToken);
        keys.ShouldNotBeEmpty();
        keys.ShouldAllBe(k =>
            k.Xml!.Contains("encryptedSecret", StringComparison.Ordinal)
            && !k.Xml.Contains("<masterKey", StringComparison.Ordinal)
        );
        _ = scope.ServiceProvider.GetRequiredService<ShopSecrets>().Hashing;
        var folder = new DirectoryInfo(scope.ServiceProvider.GetRequiredService<IConfiguration>()["Shop:Keys"]!);
        folder.UnixFileMode.ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        folder.GetFiles().Length.ShouldBe(2);
        folder.GetFiles().ShouldAllBe(f => f.UnixFileMode == (UnixFileMode.UserRead | UnixFileMode.UserWrite));
        var mail = Directory.CreateTempSubdirectory("firstcoat-letters");
        await new MailFolder(mail.FullName, new ShopClock(shop.Clock)).Send(
            new("o@example.org", "O", "Hello", "Text"),
            "Shop",
            TestContext.Current.CancellationToken
        );
        mail.GetFiles("*.eml")
            .ShouldHaveSingleItem()
            .UnixFileMode.ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        mail.UnixFileMode.ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
    }

    [Theory]
    [InlineData("Otto <o@example.org>, p@example.org")]
    [InlineData("no address at all")]
    [InlineData("o@example.org\r\nBcc: p@example.org")]
    public async Task A_letter_that_cannot_be_made_is_a_refusal_with_its_field_and_leaves_nothing(string to)
    {
        var mail = Directory.CreateTempSubdirectory("firstcoat-letters");
        var letter = new Letter(to, "O", "Hello", "Text");
        (
            await Should.ThrowAsync<Core.Refusal>(() =>
                new MailFolder(mail.FullName, new ShopClock(shop.Clock)).Send(
                    letter,
                    "Shop",
                    TestContext.Current.CancellationToken
                )
            )
        ).Field.ShouldBe("clientEmail");
        mail.GetFiles().ShouldBeEmpty();
    }

    [Fact]
    public void Where_nobody_said_who_acts_nothing_is_done() =>
        Should.Throw<InvalidOperationException>(() => new CurrentActor().Actor);
}
