using System.Buffers.Binary;
using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using FirstCoat.Server.Demo;
using SkiaSharp;

namespace FirstCoat.Server.Benches;

/// <summary>
/// Sends some fifteen thousand requests that mean no good to a server of its own over the demo shop, as each role, and
/// counts the answers by status; before that, pictures that want more memory than there is. Loopback only, and it ends
/// by itself.
/// </summary>
public static class HostileBench
{
    private const int PicturesMb = 600,
        LeastRequests = 15_000;

    /// <summary>Where the shop lies stands in the environment, as for the server; the database is empty.</summary>
    /// <returns>Whether anything was over.</returns>
    public static async Task<bool> Run()
    {
        Console.Error.WriteLine("telling the demo shop for hostile (about a minute)...");
        using (var load = BenchServer.Child("demo-load"))
        {
            await load.WaitForExitAsync();
        }

        var port = BenchServer.FreePort();
        using var server = BenchServer.Child(
            "--urls",
            $"http://127.0.0.1:{port}",
            "--Shop:SignInsPerMinute",
            "1000000",
            "--Shop:Futures",
            "60",
            "--Serilog:MinimumLevel:Default",
            "Fatal"
        );
        try
        {
            var address = new Uri($"http://127.0.0.1:{port}");
            await BenchServer.Healthy(address);
            var clients = new Dictionary<string, HttpClient>
            {
                ["manager"] = await BenchServer.SignIn(address, "sunniva", DemoCast.Password),
                ["office"] = await BenchServer.SignIn(address, "iben", DemoCast.Password),
                ["technician"] = await BenchServer.SignIn(address, "wil", DemoCast.Password),
            };
            var ids = await Ids();
            var over = await Pictures(server, clients["technician"], ids["builds"]);
            return await Requests(clients, ids) || over;
        }
        finally
        {
            server.Kill(entireProcessTree: true);
            await server.WaitForExitAsync();
        }
    }

    private static async Task<bool> Requests(Dictionary<string, HttpClient> clients, Dictionary<string, Guid> ids)
    {
        var requests = new HostileRequests(
            JsonNode.Parse(await clients["manager"].GetStringAsync("/api/openapi.json"))!,
            w => ids.TryGetValue(w, out var id) ? id : null
        );
        var (counts, faults) = (new SortedDictionary<int, int>(), 0);
        foreach (var (role, client) in clients)
        {
            Console.Error.WriteLine($"sending hostile requests as {role}...");
            foreach (
                var request in requests
                    .All()
                    .Where(r =>
                        r.Call.Name
                            is not (
                                "signOut"
                                or "endOtherSessions"
                                or "startImprovement"
                                or "closeAccount"
                                or "giveWord"
                                or "changePassword"
                            )
                        && !r.Call.Name.StartsWith("print", StringComparison.Ordinal)
                    )
            )
            {
                using var message = new HttpRequestMessage(request.Call.Method, request.Path)
                {
                    Content = request.Body is { } b ? new StringContent(b, Encoding.UTF8, "application/json") : null,
                };
                using var answer = await client.SendAsync(message);
                var status = (int)answer.StatusCode;
                counts[status] = counts.GetValueOrDefault(status) + 1;
                if (status >= 500)
                {
                    faults++;
                    Console.Error.WriteLine($"{status}: {request.Call.Name} as {role}, {request.How}");
                }
            }
        }

        foreach (var (status, count) in counts)
        {
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"bench hostile.status-{status} {count} answers - {(status >= 500 ? "over" : "ok")}"
                )
            );
        }

        var sum = counts.Values.Sum();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"bench hostile.requests {sum} requests {LeastRequests} {(sum < LeastRequests ? "over" : "ok")}"
            )
        );
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"bench hostile.faults {faults} answers 0 {(faults > 0 ? "over" : "ok")}"
            )
        );
        return faults > 0 || sum < LeastRequests;
    }

    /// <summary>Four of each kind of large picture at once: what the server needs over what it needed idle, in
    /// megabytes.</summary>
    private static async Task<bool> Pictures(Process server, HttpClient client, Guid build)
    {
        Console.Error.WriteLine("making pictures of 80 million pixels and one that hides 600 MB of text...");
        var pictures = Large();
        var idle = BenchServer.Memory(server, "VmRSS");
        var (most, sending) = (idle, true);
        var watch = Task.Run(async () =>
        {
            while (Volatile.Read(ref sending))
            {
                most = Math.Max(most, BenchServer.Memory(server, "VmRSS"));
                await Task.Delay(10);
            }
        });
        Console.Error.WriteLine("sending them four at a time...");
        var kept = 0;
        foreach (var (name, bytes) in pictures)
        {
            var answers = await Task.WhenAll(
                Enumerable
                    .Range(0, 4)
                    .Select(_ =>
                        client.PostAsync(
                            $"/api/builds/{build}/photos/{Guid.CreateVersion7()}",
                            new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", name } }
                        )
                    )
            );
            kept += answers.Count(a => a.StatusCode == HttpStatusCode.OK);
            Console.Error.WriteLine($"  {name}: {string.Join(", ", answers.Select(a => (int)a.StatusCode))}");
        }

        Volatile.Write(ref sending, false);
        await watch;
        var over = (most - idle) / 1024;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"bench hostile.pictures {over} MB {PicturesMb} {(over > PicturesMb || kept == 0 ? "over" : "ok")}"
            )
        );
        return over > PicturesMb || kept == 0;
    }

    private static List<(string Name, byte[] Bytes)> Large()
    {
        using var bitmap = new SKBitmap(8944, 8944);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.SteelBlue);
            using var paint = new SKPaint { Color = SKColors.OliveDrab };
            for (var i = 0; i < 400; i++)
            {
                canvas.DrawCircle(i * 97 % 8944, i * 193 % 8944, 60, paint);
            }
        }

        using var image = SKImage.FromBitmap(bitmap);
        using var small = SKImage.FromBitmap(new SKBitmap(64, 64));
        return
        [
            ("80mp.jpg", image.Encode(SKEncodedImageFormat.Jpeg, 60).ToArray()),
            ("80mp.png", image.Encode(SKEncodedImageFormat.Png, 1).ToArray()),
            ("hidden-text.png", WithText(small.Encode(SKEncodedImageFormat.Png, 100).ToArray(), 600)),
        ];
    }

    private static byte[] WithText(byte[] png, int megabytes)
    {
        using var folded = new MemoryStream();
        folded.Write("Comment\0\0"u8);
        using (var zip = new ZLibStream(folded, CompressionLevel.SmallestSize, leaveOpen: true))
        {
            var zeros = new byte[1024 * 1024];
            for (var i = 0; i < megabytes; i++)
            {
                zip.Write(zeros);
            }
        }

        var chunk = new byte[12 + folded.Length];
        BinaryPrimitives.WriteUInt32BigEndian(chunk, (uint)folded.Length);
        "zTXt"u8.CopyTo(chunk.AsSpan(4));
        folded.ToArray().CopyTo(chunk, 8);
        return [.. png[..^12], .. chunk, .. png[^12..]];
    }

    /// <summary>One of everything of the demo's fullest build, by the words of addresses and the names of
    /// fields.</summary>
    private static async Task<Dictionary<string, Guid>> Ids()
    {
        await using var db = new ShopDb(
            StoreSetup.Options(Environment.GetEnvironmentVariable("Shop__Connection")!),
            new(TimeProvider.System),
            new(),
            new()
        );
        var build = await db
            .Bags.GroupBy(b => b.BuildId)
            .OrderByDescending(g => g.Count())
            .Select(g => g.Key)
            .FirstAsync();
        var ids = new Dictionary<string, Guid>();
        void Keep(Guid id, params string[] words) => Array.ForEach(words, w => ids[w] = id);
        Keep(build, "builds", "buildId");
        Keep(
            await db
                .Operations.Where(o => o.BuildId == build && !o.Removed && o.DoneAt == null)
                .Select(o => o.Id)
                .FirstAsync(),
            "operations",
            "operationId",
            "operation",
            "patternFor",
            "backWith"
        );
        Keep(await db.People.Select(p => p.Id).FirstAsync(), "people", "personId");
        Keep(await db.Stations.Select(s => s.Id).FirstAsync(), "stations", "stationId");
        Keep(await db.Suppliers.Select(s => s.Id).FirstAsync(), "suppliers", "supplierId");
        Keep(await db.Bags.Where(b => b.BuildId == build).Select(b => b.Id).FirstAsync(), "bags", "bagId");
        Keep(await db.Parts.Select(p => p.Id).FirstAsync(), "parts", "partId");
        Keep(await db.OutsideJobs.Select(p => p.Id).FirstAsync(), "outside", "jobId");
        Keep(await db.Photos.Where(p => p.BuildId == build).Select(p => p.Id).FirstAsync(), "photos", "photoId");
        Keep(await db.Findings.Select(f => f.Id).FirstAsync(), "findings", "findingId");
        Keep(await db.Papers.Select(p => p.Id).FirstAsync(), "papers", "paperId");
        Keep(await db.Reports.Select(p => p.Id).FirstAsync(), "reports");
        Keep(await db.Decisions.Select(p => p.Id).FirstAsync(), "decisions");
        Keep(await db.PunchMarks.Select(p => p.Id).FirstAsync(), "marks");
        Keep(await db.TimeEntries.Select(p => p.Id).FirstAsync(), "hours");
        Keep(await db.SubAssemblies.Select(p => p.Id).FirstAsync(), "assemblies");
        Keep(await db.OtherBodies.Select(p => p.Id).FirstAsync(), "bodies", "bodyId");
        Keep(await db.PrivateLinks.Select(p => p.Id).FirstAsync(), "links");
        return ids;
    }
}
