using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using FirstCoat.Bench;
using FirstCoat.Core.Plan.Engine;
using FirstCoat.Core.Plan.Plain;

double D(string name, double otherwise) => args.Contains(name) ? double.Parse(args[Array.IndexOf(args, name) + 1], CultureInfo.InvariantCulture) : otherwise;
ListSearch.CriticalShare = D("--crit", 0.6);
Improver.HeatShare = D("--heat", 0.1);
var seconds = D("--seconds", 5);
var threads = (int)D("--threads", 2);
var known = "/tmp/known.json";
var sum = new Dictionary<string, List<double>>();
foreach (var a in args.Where(a => a.Contains(':')))
{
    var n = a.Split(':').Select(int.Parse).ToArray();
    var p = n[0] < 0 ? PlainGenerator.Classic(-n[0], n[1]) : PlainGenerator.Shop(n[0], n[1]);
    var m = new PlainModel(p).Model;
    var first = Rules.Best(m)!.Value;
    var fifty = Rules.Fifty(m).Min(s => s.Value);
    var w = Stopwatch.StartNew();
    var improver = new Improver(m, first.Order, first.Schedule, new(seconds, threads, (int)D("--seed", 1)) { Found = s => { }, Solver = args.Contains("--cp") ? new FirstCoat.Optimizer.PartSolver() : null });
    var s = improver.Run();
    var best = File.Exists(known) ? JsonSerializer.Deserialize<Dictionary<string, long>>(File.ReadAllText(known))! : [];
    var value = Best.Of(s.Weighted, s.Makespan);
    if (!best.TryGetValue(p.Name, out var b) || value < b) { best[p.Name] = b = value; File.WriteAllText(known, JsonSerializer.Serialize(best)); }
    var zero = Best.Of(fifty.Item1, fifty.Item2);
    double Share(long v) => zero == b ? 1 : n[0] < 0 || b >> 20 > 0 || zero >> 20 > 0 ? (zero - v) / (double)(zero - b) : 1;
    Console.WriteLine($"{p.Name}: fifty {fifty} rules {first.Schedule.Weighted} ({Share(Best.Of(first.Schedule.Weighted, first.Schedule.Makespan)):0.00}) got {s.Weighted}/{s.Makespan} known {b >> 20} share {Share(value):0.000}");
    var key = n[0] < 0 ? "classic" : n[0].ToString(CultureInfo.InvariantCulture);
    (sum.TryGetValue(key, out var l) ? l : sum[key] = []).Add(Share(value));
}
Console.WriteLine(string.Join("  ", sum.Select(x => $"{x.Key}: {x.Value.Average():0.000}")));

static class Best { public static long Of(long w, int m) => (w << 20) + m; }
