using System.Diagnostics;
using System.Text.Json;
using Npgsql;

namespace FirstCoat.Server.Benches;

/// <summary>
/// Asks a shop of many years for its pages, as thirty people do, on a server of its own. The shop is made once and is
/// kept; each run works on a copy. Loopback only, and it ends by itself.
/// </summary>
internal static class ShopBench
{
    private const string Kept = "bigshop",
        Copy = "bigrun";

    /// <summary>Said with the kept shop; another one is made when it differs.</summary>
    private const string Edition = "7, 20261201061817_Figures";

    private const int Rounds = 40;
    private static readonly Instant Now = Instant.FromUtc(2026, 10, 13, 9, 42);

    /// <summary>What each page of a build asks for; "{0}" is the build.</summary>
    private static readonly (string Page, string[] Asks)[] Pages =
    [
        ("floor", ["/api/session", "/api/floor", "/api/shop", "/api/builds", "/api/shop/first-things"]),
        ("builds", ["/api/builds", "/api/builds/ended", "/api/plan/chances"]),
        (
            "body",
            [
                "/api/builds",
                "/api/builds/{0}",
                "/api/builds/{0}/body",
                "/api/builds/{0}/survey",
                "/api/builds/{0}/fit",
                "/api/builds/{0}/operations",
                "/api/shop",
                "/api/plan/chances",
            ]
        ),
        ("plan", ["/api/builds", "/api/plan/lanes"]),
        ("week", ["/api/builds", "/api/plan/week"]),
        (
            "sequence",
            [
                "/api/builds",
                "/api/builds/{0}/operations",
                "/api/shop",
                "/api/builds/{0}/outlook",
                "/api/builds/{0}/ahead",
            ]
        ),
        ("money", ["/api/builds", "/api/builds/{0}/money"]),
    ];

    /// <summary>Where the cluster is stands in the environment, as for the server.</summary>
    /// <returns>Whether anything was over its budget.</returns>
    public static async Task<bool> Run(string only)
    {
        await Make();
        var connection = On(Copy);
        await Admin($"drop database if exists {Copy} with (force)");
        await Admin($"create database {Copy} template {Kept} strategy file_copy");
        var port = BenchServer.FreePort();
        using var server = BenchServer.Child(
            "--urls",
            $"http://127.0.0.1:{port}",
            "--now",
            "2026-10-13T09:42Z",
            "--Shop:Connection",
            connection,
            "--Shop:SignInsPerMinute",
            "1000000",
            "--Serilog:MinimumLevel:Default",
            "Error"
        );
        try
        {
            var address = new Uri($"http://127.0.0.1:{port}");
            await BenchServer.Healthy(address);
            using var manager = await BenchServer.SignIn(address, "manager", BigShop.Password);
            var phones = new List<HttpClient>();
            foreach (var user in BigShop.Users)
            {
                phones.Add(await BenchServer.SignIn(address, user, BigShop.Password));
            }

            var over = await Measure(only, manager, [.. await Task.WhenAll(phones.Select(PhoneOf))]);
            foreach (var script in InBrowser)
            {
                over |= await script.Measure(only, address);
            }

            return over;
        }
        finally
        {
            server.Kill(entireProcessTree: true);
            await server.WaitForExitAsync();
            NpgsqlConnection.ClearAllPools();
            await Admin($"drop database if exists {Copy} with (force)");
        }
    }

    private static async Task<bool> Measure(string only, HttpClient manager, List<Phone> phones)
    {
        var builds = (await Json(manager, "/api/builds"))
            .EnumerateArray()
            .Select(b => $"{b.GetProperty("id")}")
            .ToList();
        // What is drawn when a server starts is there before anybody comes to work.
        while ((await Json(manager, "/api/plan/chances")).GetArrayLength() == 0)
        {
            await Task.Delay(500);
        }

        var over = false;
        async Task Line(string name, double budget, Func<Task<List<double>>> take)
        {
            if (!$"shop.{name}".StartsWith(only, StringComparison.Ordinal))
            {
                return;
            }

            Console.Error.WriteLine($"measuring shop.{name}...");
            var times = await take();
            var value = times.Order().ElementAt((int)(times.Count * 0.95));
            over |= value > budget;
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"bench shop.{name} {value:0.0} ms {budget:0} {(value > budget ? "over" : "ok")}"
                )
            );
        }

        foreach (var (page, asks) in Pages)
        {
            await Line(page, 100, () => Looks(manager, asks, builds, change: null));
        }

        await Line("clock", 100, () => Looks(phones[0].Client, ["/api/session", "/api/clock"], builds, change: null));
        var turn = 0;
        foreach (var (page, asks) in Pages)
        {
            await Line($"{page}-after-change", 250, () => Looks(manager, asks, builds, () => Touch(phones, turn++)));
        }

        await Line("clock-after-change", 250, () =>
            Looks(phones[0].Client, ["/api/session", "/api/clock"], builds, () => Touch(phones, turn++))
        );
        await Line("clock-touch", 100, () => Touches(phones));
        await Line("find", 100, () => Finds(manager));
        return over;
    }

    /// <summary>Times in which all that a page asks for is answered.</summary>
    /// <param name="change">Made before each look; null: the plan is fresh.</param>
    private static async Task<List<double>> Looks(
        HttpClient who,
        string[] asks,
        List<string> builds,
        Func<Task>? change
    )
    {
        var (times, slowest) = (new List<double>(), new List<(string First, double Second)>());
        for (var round = -builds.Count; round < Rounds; round++)
        {
            if (change is not null)
            {
                await change();
            }

            var build = builds[(round + builds.Count) % builds.Count];
            var from = Stopwatch.GetTimestamp();
            var each = await Task.WhenAll(
                asks.Select(a => Timed(() => Get(who, a.Replace("{0}", build, StringComparison.Ordinal))))
            );
            if (round >= 0)
            {
                times.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
                slowest.AddRange(asks.Zip(each));
            }
        }

        foreach (var ask in slowest.GroupBy(s => s.First))
        {
            var value = ask.Select(s => s.Second).Order().ElementAt((int)(ask.Count() * 0.95));
            Console.Error.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {ask.Key} {value:0.0} ms"));
        }

        return times;
    }

    /// <summary>A technician's phone, with work of theirs that may be started; null: none may, and it starts what is
    /// nobody's build.</summary>
    private sealed record Phone(HttpClient Client, Guid? Operation);

    private static async Task<Phone> PhoneOf(HttpClient client)
    {
        foreach (var job in (await Json(client, "/api/clock")).GetProperty("next").EnumerateArray())
        {
            var phone = new Phone(client, job.GetProperty("operationId").GetGuid());
            using var answer = await Start(phone);
            if (answer.IsSuccessStatusCode)
            {
                await Stop(phone);
                return phone;
            }
        }

        return new(client, null);
    }

    /// <summary>Somebody starts or stops.</summary>
    private static async Task Touch(List<Phone> phones, int turn)
    {
        var phone = phones[turn / 2 % phones.Count];
        if (turn % 2 == 0)
        {
            using var answer = await Start(phone);
            await Fine(answer);
        }
        else
        {
            await Stop(phone);
        }
    }

    private static Task<HttpResponseMessage> Start(Phone phone) =>
        phone.Operation is { } operation
            ? phone.Client.PostAsJsonAsync(
                "/api/clock/start",
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = (Guid?)null,
                    operationId = operation,
                    kind = "billable",
                    share = (decimal?)null,
                    breakWorked = (bool?)null,
                    acknowledged = true,
                }
            )
            : phone.Client.PostAsJsonAsync(
                "/api/clock/start-shop",
                new
                {
                    id = Guid.CreateVersion7(),
                    personId = (Guid?)null,
                    job = "Cleaning",
                    share = (decimal?)null,
                    breakWorked = (bool?)null,
                }
            );

    private static async Task Stop(Phone phone)
    {
        using var answer = await phone.Client.PostAsJsonAsync(
            "/api/clock/stop",
            new
            {
                personId = (Guid?)null,
                share = 0.3,
                done = false,
                breakWorked = (bool?)null,
                at = (Instant?)null,
            }
        );
        await Fine(answer);
    }

    /// <summary>All phones start at once, then all stop at once.</summary>
    private static async Task<List<double>> Touches(List<Phone> phones)
    {
        var times = new List<double>();
        for (var round = -2; round < 8; round++)
        {
            var start = await Task.WhenAll(
                phones.Select(p =>
                    Timed(async () =>
                    {
                        using var answer = await Start(p);
                        await Fine(answer);
                    })
                )
            );
            var stop = await Task.WhenAll(phones.Select(p => Timed(() => Stop(p))));
            if (round >= 0)
            {
                times.AddRange([.. start, .. stop]);
            }
        }

        return times;
    }

    private static async Task<List<double>> Finds(HttpClient who)
    {
        string[] questions =
        [
            "door seal",
            "windwo regulator",
            "41",
            "halloway",
            "seat rial left",
            "brake line 17",
            "zzzzqq",
            "s",
            "lamp rim chrome",
        ];
        var times = new List<double>();
        for (var round = -2; round < 12; round++)
        {
            foreach (var question in questions)
            {
                var time = await Timed(() => Get(who, $"/api/find?q={Uri.EscapeDataString(question)}"));
                if (round >= 0)
                {
                    times.Add(time);
                }
            }
        }

        return times;
    }

    private static async Task Fine(HttpResponseMessage answer)
    {
        if (!answer.IsSuccessStatusCode)
        {
            throw new InvalidOperationException(await answer.Content.ReadAsStringAsync());
        }
    }

    /// <summary>What a browser measures on a processor a quarter as fast.</summary>
    private static readonly BrowserMeasure[] InBrowser =
    [
        new("first-page.mjs", [new("first-page", "ms", 2000), new("first-page-script", "kB", 250)]),
        new("plan-hand.mjs", [new("plan-pan", "ms", 50), new("plan-zoom", "ms", 50), new("plan-hover", "ms", 50)]),
    ];

    private sealed record Budget(string Name, string Unit, double Most);

    /// <summary>A script that says, as JSON, what each of its figures is.</summary>
    private sealed record BrowserMeasure(string Script, Budget[] Budgets)
    {
        public async Task<bool> Measure(string only, Uri address)
        {
            var asked = Budgets.Where(b => $"shop.{b.Name}".StartsWith(only, StringComparison.Ordinal)).ToList();
            if (asked.Count == 0)
            {
                return false;
            }

            if (Environment.GetEnvironmentVariable("FIRSTCOAT_SCRIPTS") is not { Length: > 0 } scripts)
            {
                Console.Error.WriteLine($"shop.{asked[0].Name} needs Chromium, which the script brings: not measured.");
                return false;
            }

            Console.Error.WriteLine($"measuring shop.{asked[0].Name}...");
            var start = new ProcessStartInfo("node") { RedirectStandardOutput = true };
            string[] arguments =
            [
                Path.Combine(scripts, Script),
                address.ToString().TrimEnd('/'),
                "manager",
                BigShop.Password,
            ];
            foreach (var argument in arguments)
            {
                start.ArgumentList.Add(argument);
            }

            using var node = Process.Start(start)!;
            var said = JsonDocument.Parse(await node.StandardOutput.ReadToEndAsync()).RootElement;
            var over = false;
            foreach (var budget in asked)
            {
                var value = said.GetProperty(budget.Name).GetDouble();
                over |= value > budget.Most;
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"bench shop.{budget.Name} {value:0.0} {budget.Unit} {budget.Most:0} {(value > budget.Most ? "over" : "ok")}"
                    )
                );
            }

            return over;
        }
    }

    private static async Task<double> Timed(Func<Task> act)
    {
        var from = Stopwatch.GetTimestamp();
        await act();
        return Stopwatch.GetElapsedTime(from).TotalMilliseconds;
    }

    private static async Task Get(HttpClient who, string address)
    {
        using var answer = await who.GetAsync(address);
        answer.EnsureSuccessStatusCode();
        await answer.Content.ReadAsByteArrayAsync();
    }

    private static async Task<JsonElement> Json(HttpClient who, string address) =>
        JsonDocument.Parse(await who.GetStringAsync(address)).RootElement.Clone();

    private static async Task Make()
    {
        if (
            await Admin(
                $"select coalesce(shobj_description(oid, 'pg_database'), '') from pg_database where datname = '{Kept}'"
            ) is Edition
        )
        {
            return;
        }

        Console.Error.WriteLine("making the big shop (once, some minutes)...");
        await Admin($"drop database if exists {Kept} with (force)");
        await Admin($"create database {Kept}");
        var folder = Directory.CreateTempSubdirectory("firstcoat-bench").FullName;
        await using (
            var services = Demo.DemoCommand.Services(
                On(Kept) + ";Pooling=false",
                folder,
                folder,
                folder,
                new SetClock(Now.ToDateTimeOffset())
            )
        )
        {
            await using var scope = services.CreateAsyncScope();
            await Access.Migrator.Migrate(scope.ServiceProvider, CancellationToken.None);
            await new BigShop(Now).Fill(scope.ServiceProvider.GetRequiredService<ShopDb>(), scope.ServiceProvider);
        }

        NpgsqlConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
        await Admin($"comment on database {Kept} is '{Edition}'");
    }

    private static string On(string database) =>
        new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("Shop__Connection"))
        {
            Database = database,
        }.ConnectionString;

    private static async Task<string?> Admin(string statement)
    {
        await using var source = NpgsqlDataSource.Create(On("postgres"));
        await using var command = source.CreateCommand(statement);
        command.CommandTimeout = 600;
        return await command.ExecuteScalarAsync() as string;
    }
}
