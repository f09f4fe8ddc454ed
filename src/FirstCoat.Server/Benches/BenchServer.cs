using System.Diagnostics;
using System.Net;

namespace FirstCoat.Server.Benches;

/// <summary>A server of a bench's own, as a shop runs it, and those who sign in to it. Loopback only.</summary>
internal static class BenchServer
{
    /// <summary>In kilobytes.</summary>
    public static long Memory(Process server, string what) =>
        long.Parse(
            File.ReadLines($"/proc/{server.Id}/status")
                .First(l => l.StartsWith(what, StringComparison.Ordinal))
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
            CultureInfo.InvariantCulture
        );

    public static Process Child(params string[] arguments)
    {
        var start = new ProcessStartInfo("dotnet")
        {
            RedirectStandardOutput = true,
            WorkingDirectory = AppContext.BaseDirectory,
        };
        start.ArgumentList.Add(typeof(BenchServer).Assembly.Location);
        Array.ForEach(arguments, start.ArgumentList.Add);
        // What is measured is the server as a shop runs it.
        start.Environment.Remove("DOTNET_gcServer");
        start.Environment.Remove("DOTNET_GCgen0size");
        start.Environment["ASPNETCORE_ENVIRONMENT"] = "Production";
        var process = Process.Start(start)!;
        process.OutputDataReceived += (_, _) => { };
        process.BeginOutputReadLine();
        return process;
    }

    public static int FreePort()
    {
        using var listener = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    public static async Task Healthy(Uri address)
    {
        using var http = new HttpClient { BaseAddress = address };
        for (var i = 0; i < 600; i++)
        {
            try
            {
                if ((await http.GetAsync("/health")).IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // Not yet.
            }

            await Task.Delay(100);
        }

        throw new TimeoutException("The server to be measured did not start.");
    }

    public static async Task<HttpClient> SignIn(Uri address, string user, string password)
    {
        var cookies = new CookieContainer();
        var client = new HttpClient(new SocketsHttpHandler { CookieContainer = cookies })
        {
            BaseAddress = address,
            Timeout = TimeSpan.FromMinutes(2),
        };
        async Task Token()
        {
            await client.GetAsync("/api/session");
            client.DefaultRequestHeaders.Remove("X-XSRF-TOKEN");
            client.DefaultRequestHeaders.Add(
                "X-XSRF-TOKEN",
                Uri.UnescapeDataString(cookies.GetCookies(address)["XSRF-TOKEN"]!.Value)
            );
        }

        await Token();
        (await client.PostAsJsonAsync("/api/session", new { user, password })).EnsureSuccessStatusCode();
        await Token();
        return client;
    }
}
