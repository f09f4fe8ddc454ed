using System.Text.Json;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Plan.Files;
using FirstCoat.Core.Plan.Plain;
using FirstCoat.Optimizer;

namespace FirstCoat.Server.Plans;

/// <summary>Plans a problem from a file: no database, no server.</summary>
internal static class PlanCommand
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    private sealed record Wanted(string File, bool Plain, double Seconds, int Seed, int Threads, string? Out);

    /// <returns>0: planned; 2: the file or what stands in it is at fault, and standard error says where.</returns>
    public static int Run(string[] args)
    {
        try
        {
            var wanted = Read(args);
            using var file = File.OpenRead(wanted.File);
            object answer = wanted.Plain
                ? PlainPlanner.Plan(PlainReader.Read(file), wanted.Seconds, wanted.Seed, wanted.Threads)
                : Shop(ShopFileReader.Read(file), wanted);
            var text = JsonSerializer.Serialize(answer, Json);
            if (wanted.Out is null)
            {
                Console.Out.WriteLine(text);
            }
            else
            {
                File.WriteAllText(wanted.Out, text + "\n");
            }

            return 0;
        }
        catch (Exception e) when (e is PlanFileFault or IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(e.Message);
            return 2;
        }
    }

    private static ShopFileAnswer Shop(PlanProblem problem, Wanted wanted) =>
        ShopFileAnswer.Of(problem, PlanImprovement.Search(problem, wanted.Seconds, wanted.Threads, wanted.Seed));

    private static Wanted Read(string[] args)
    {
        var wanted = new Wanted("", false, 0, 1, 2, null);
        for (var i = 0; i < args.Length; i++)
        {
            string Next(string name) =>
                ++i < args.Length ? args[i] : throw new PlanFileFault(name, "a value is missing");
            wanted = args[i] switch
            {
                "--plain" => wanted with { Plain = true },
                "--seconds" => wanted with { Seconds = Number(Next("--seconds"), "--seconds", 0, 86_400) },
                "--seed" => wanted with { Seed = (int)Number(Next("--seed"), "--seed", 0, int.MaxValue) },
                "--threads" => wanted with { Threads = (int)Number(Next("--threads"), "--threads", 1, 64) },
                "--out" => wanted with { Out = Next("--out") },
                ['-', '-', ..] => throw new PlanFileFault(args[i], "is not known"),
                _ => wanted with { File = args[i] },
            };
        }

        return wanted.File.Length > 0
            ? wanted
            : throw new PlanFileFault(
                "plan",
                "a file is needed: plan [--plain] FILE [--seconds S] [--seed N] [--threads N] [--out FILE]"
            );
    }

    private static double Number(string text, string name, double least, double most) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) && n >= least && n <= most
            ? n
            : throw new PlanFileFault(
                name,
                string.Create(CultureInfo.InvariantCulture, $"a number between {least} and {most} is needed")
            );
}
