using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.WebSockets;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;

namespace FirstCoat.Server.Reports;

/// <summary>Paper sizes, in inches as the browser counts them.</summary>
/// <param name="Margin">Left and right; above and below a sixth less. Labels carry their own edge.</param>
public sealed record Paper(double Width, double Height, double Margin = .6)
{
    public static readonly Paper A4 = new(8.27, 11.69);
    public static readonly Paper Letter = new(8.5, 11);

    /// <summary>A label of 95 x 35 mm, one behind the other.</summary>
    public static readonly Paper Roll = new(95 / 25.4, 35 / 25.4, 0);
}

/// <summary>What comes out of the printer.</summary>
public enum PrintForm
{
    Pdf,
    Png,
}

/// <summary>Lets the printing browser open one page for a minute, without a sign-in.</summary>
public sealed class PrintTickets
{
    private readonly ConcurrentDictionary<string, object> _pages = new();

    public string Give(object page)
    {
        var ticket = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));
        _pages[ticket] = page;
        return ticket;
    }

    public T? Get<T>(string ticket)
        where T : class => _pages.GetValueOrDefault(ticket) as T;

    public void Take(string ticket) => _pages.TryRemove(ticket, out _);
}

/// <summary>Prints a page of the application with the machine's Chromium, so that screen and paper share one
/// layout.</summary>
public sealed partial class PagePrinter(
    IServer server,
    PrintTickets tickets,
    PrintTurns turns,
    IConfiguration settings,
    IHttpContextAccessor asks,
    ILogger<PagePrinter> log
)
{
    private const string ProfileName = "firstcoat-print-";
    private static readonly TimeSpan Limit = TimeSpan.FromSeconds(40);
    private static readonly TimeSpan LeftOver = TimeSpan.FromMinutes(10);

    /// <summary>The printed page of anything that a page at the route can draw from a ticket; null when there is no
    /// Chromium.</summary>
    /// <param name="link">Which private link asks; null: the shop.</param>
    /// <exception cref="Refusal">It took too long.</exception>
    /// <exception cref="Web.TooMany">Too many are waiting.</exception>
    public async Task<byte[]?> Print(
        object page,
        string route,
        Paper paper,
        PrintForm form,
        string? link,
        CancellationToken cancel
    )
    {
        var chromium = settings["Shop:Chromium"] ?? "/usr/bin/chromium";
        if (!File.Exists(chromium))
        {
            return null;
        }

        using var turn = await turns.Enter(link, cancel);
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(Limit);
        var ticket = tickets.Give(page);
        Process? browser = null;
        DirectoryInfo? profile = null;
        try
        {
            profile = Directory.CreateTempSubdirectory(ProfileName);
            browser = Start(chromium, profile.FullName, Language());
            var port = await Port(profile.FullName, limit.Token);
            return await Drive(port, $"{Address()}/{route}/{ticket}", paper, form, limit.Token);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new Refusal("paper", "Printing took too long. Try again in a moment.");
        }
        finally
        {
            tickets.Take(ticket);
            Stop(browser);
            await Clear(profile);
        }
    }

    /// <summary>Removes browser folders that an ended server left behind.</summary>
    public static void Sweep()
    {
        foreach (
            var left in new DirectoryInfo(Path.GetTempPath())
                .EnumerateDirectories($"{ProfileName}*")
                .Where(d => d.LastWriteTimeUtc < DateTime.UtcNow - LeftOver)
        )
        {
            try
            {
                left.Delete(recursive: true);
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                // Another shop's, or still in use: its owner clears it.
            }
        }
    }

    /// <summary>A browser that was ended may still write for a moment: its folder is removed again until it is
    /// gone.</summary>
    private async Task Clear(DirectoryInfo? profile)
    {
        for (var tries = 1; profile is not null && Directory.Exists(profile.FullName); tries++)
        {
            try
            {
                profile.Delete(recursive: true);
                return;
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                if (tries == 20)
                {
                    LogLeft(log, profile.FullName, e.Message);
                    return;
                }

                await Task.Delay(50, CancellationToken.None);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Could not clear {Folder}: {Reason}")]
    private static partial void LogLeft(ILogger log, string folder, string reason);

    /// <summary>The first language of whoever asks, so that paper has the reader's way with dates and
    /// numbers.</summary>
    private string? Language() =>
        asks
            .HttpContext?.Request.GetTypedHeaders()
            .AcceptLanguage.OrderByDescending(l => l.Quality ?? 1)
            .Select(l => l.Value.ToString())
            .FirstOrDefault(l => LanguageTag().IsMatch(l));

    [GeneratedRegex("^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]
    private static partial Regex LanguageTag();

    private static Process Start(string chromium, string profile, string? language)
    {
        var start = new ProcessStartInfo(chromium) { RedirectStandardError = true, RedirectStandardOutput = true };
        foreach (
            var argument in new[]
            {
                "--headless",
                "--no-sandbox",
                "--disable-gpu",
                "--disable-quic",
                "--no-first-run",
                "--disable-background-networking",
                "--disable-component-update",
                "--disable-sync",
                "--disable-dev-shm-usage",
                "--remote-debugging-port=0",
                $"--user-data-dir={profile}",
                $"--accept-lang={language ?? "en-GB"}",
                "about:blank",
            }
        )
        {
            start.ArgumentList.Add(argument);
        }

        var process = Process.Start(start)!;
        process.BeginErrorReadLine();
        process.BeginOutputReadLine();
        return process;
    }

    private static void Stop(Process? browser)
    {
        if (browser is { HasExited: false })
        {
            browser.Kill(entireProcessTree: true);
            browser.WaitForExit(5000);
        }

        browser?.Dispose();
    }

    private static async Task<int> Port(string profile, CancellationToken cancel)
    {
        var file = Path.Combine(profile, "DevToolsActivePort");
        while (true)
        {
            if (
                File.Exists(file)
                && (await File.ReadAllLinesAsync(file, cancel)) is [var first, ..]
                && int.TryParse(first, out var port)
            )
            {
                return port;
            }

            await Task.Delay(30, cancel);
        }
    }

    private string Address()
    {
        var address = settings["Shop:PrintAddress"]
            ?? server.Features.Get<IServerAddressesFeature>()!.Addresses.First();
        return address
            .Replace("[::]", "127.0.0.1", StringComparison.Ordinal)
            .Replace("0.0.0.0", "127.0.0.1", StringComparison.Ordinal)
            .TrimEnd('/');
    }

    private static async Task<byte[]> Drive(
        int port,
        string address,
        Paper paper,
        PrintForm form,
        CancellationToken cancel
    )
    {
        using var http = new HttpClient();
        var targets = JsonNode
            .Parse(await http.GetStringAsync(new Uri($"http://127.0.0.1:{port}/json"), cancel))!
            .AsArray();
        var target = targets.First(t => (string?)t!["type"] == "page")!["webSocketDebuggerUrl"]!.GetValue<string>();
        using var socket = new ClientWebSocket();
        await socket.ConnectAsync(new(target), cancel);
        var tools = new Tools(socket);
        await tools.Ask("Page.enable", null, cancel);
        await tools.Ask("Page.navigate", new JsonObject { ["url"] = address }, cancel);
        // The page says itself when its words, fonts and pictures are there.
        while (true)
        {
            var ready = await tools.Ask(
                "Runtime.evaluate",
                new JsonObject
                {
                    ["expression"] = "document.documentElement.dataset.ready === 'yes'",
                    ["returnByValue"] = true,
                },
                cancel
            );
            if (ready["result"]?["value"]?.GetValueKind() == JsonValueKind.True)
            {
                break;
            }

            await Task.Delay(50, cancel);
        }

        if (form == PrintForm.Png)
        {
            var size = await tools.Ask("Page.getLayoutMetrics", null, cancel);
            var (width, height) = (paper.Width * 96, size["cssContentSize"]!["height"]!.GetValue<double>());
            await tools.Ask(
                "Emulation.setDeviceMetricsOverride",
                new JsonObject
                {
                    ["width"] = (int)Math.Ceiling(width),
                    ["height"] = (int)Math.Ceiling(height),
                    ["deviceScaleFactor"] = 3,
                    ["mobile"] = false,
                },
                cancel
            );
            var shot = await tools.Ask(
                "Page.captureScreenshot",
                new JsonObject { ["format"] = "png", ["captureBeyondViewport"] = true },
                cancel
            );
            return Convert.FromBase64String(shot["data"]!.GetValue<string>());
        }

        var printed = await tools.Ask(
            "Page.printToPDF",
            new JsonObject
            {
                ["printBackground"] = true,
                ["generateTaggedPDF"] = true,
                ["paperWidth"] = paper.Width,
                ["paperHeight"] = paper.Height,
                ["marginTop"] = paper.Margin * 5 / 6,
                ["marginBottom"] = paper.Margin * 5 / 6,
                ["marginLeft"] = paper.Margin,
                ["marginRight"] = paper.Margin,
            },
            cancel
        );
        return Convert.FromBase64String(printed["data"]!.GetValue<string>());
    }

    private sealed class Tools(ClientWebSocket socket)
    {
        private int _last;

        public async Task<JsonNode> Ask(string method, JsonObject? parameters, CancellationToken cancel)
        {
            var id = ++_last;
            var request = new JsonObject
            {
                ["id"] = id,
                ["method"] = method,
                ["params"] = parameters ?? [],
            };
            await socket.SendAsync(
                Encoding.UTF8.GetBytes(request.ToJsonString()),
                WebSocketMessageType.Text,
                true,
                cancel
            );
            while (true)
            {
                var message = JsonNode.Parse(await Read(cancel))!;
                if (message["id"]?.GetValue<int>() == id)
                {
                    return message["result"] ?? throw new InvalidOperationException($"{method}: {message["error"]}");
                }
            }
        }

        private async Task<byte[]> Read(CancellationToken cancel)
        {
            using var memory = new MemoryStream();
            var buffer = new byte[64 * 1024];
            ValueWebSocketReceiveResult part;
            do
            {
                part = await socket.ReceiveAsync(buffer.AsMemory(), cancel);
                memory.Write(buffer, 0, part.Count);
            } while (!part.EndOfMessage);
            return memory.ToArray();
        }
    }
}
