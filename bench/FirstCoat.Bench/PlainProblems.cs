using System.Text.Json;
using FirstCoat.Core.Plan.Plain;

namespace FirstCoat.Bench;

/// <summary>The sets of problems that are measured.</summary>
internal static class PlainProblems
{
    /// <summary>Names as the documented form has them.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    private static readonly int[] ClassicSizes = [30, 60, 90, 120];

    /// <summary>The problems of a set: a number of operations, or "classic".</summary>
    public static IEnumerable<PlainProblem> Of(string set, int count) =>
        set == "classic"
            ? ClassicSizes.SelectMany(n => Enumerable.Range(1, count).Select(seed => PlainGenerator.Classic(n, seed)))
            : Enumerable
                .Range(1, count)
                .Select(seed =>
                    PlainGenerator.Shop(int.Parse(set, System.Globalization.CultureInfo.InvariantCulture), seed)
                );

    public static void Write(BenchOptions options)
    {
        Directory.CreateDirectory(options.Out);
        foreach (var problem in options.Sets.SelectMany(s => Of(s, options.Count)))
        {
            File.WriteAllText(
                Path.Combine(options.Out, problem.Name + ".json"),
                JsonSerializer.Serialize(problem, Json)
            );
        }
    }
}
