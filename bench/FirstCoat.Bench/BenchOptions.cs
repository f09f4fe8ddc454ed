using System.Globalization;

namespace FirstCoat.Bench;

/// <summary>What is asked for on the command line.</summary>
internal sealed class BenchOptions(string[] args)
{
    public IReadOnlyList<string> Sets => Text("--set", "40,150,500,1500,classic").Split(',');

    /// <summary>Problems of each set.</summary>
    public int Count => (int)Number("--count", 4);

    public double Seconds => Number("--seconds", 5);

    public int Threads => (int)Number("--threads", 2);

    public int Seed => (int)Number("--seed", 1);

    /// <summary>Where the best values known are kept and read.</summary>
    public string Known => Text("--known", "known.json");

    public string Out => Text("--out", "problems");

    private double Number(string name, double otherwise) =>
        double.Parse(Text(name, otherwise.ToString(CultureInfo.InvariantCulture)), CultureInfo.InvariantCulture);

    private string Text(string name, string otherwise) =>
        Array.IndexOf(args, name) is var i and >= 0 && i + 1 < args.Length ? args[i + 1] : otherwise;
}
