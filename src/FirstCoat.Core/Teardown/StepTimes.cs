using FirstCoat.Core.Bodies;
using FirstCoat.Core.Labour;

namespace FirstCoat.Core.Teardown;

/// <summary>How long a step is expected to take, in minutes, and what that rests on.</summary>
/// <param name="Likely">Half of the times it takes less.</param>
/// <param name="High">Eight in ten times it takes less; null: nothing is known yet.</param>
public sealed record StepTime(double Likely, double? High, string RestsOn);

/// <summary>
/// Times learned from what was taken apart before: doing is told apart from finding out, because only doing is
/// repeated. The second of a pair takes the first's doing times the shop's factor for second times.
/// </summary>
/// <remarks>Source: <see cref="Learning.Repeat"/> over doing times of both sides of finished pairs.</remarks>
public sealed class StepTimes(IReadOnlyList<SubAssembly> all)
{
    /// <summary>How much quicker the second side goes in this shop.</summary>
    public Learned Second { get; } = Learning.Repeat(Pairs(all));

    /// <summary>What a step of a sub-assembly is expected to take.</summary>
    public StepTime Of(SubAssembly one, TeardownStep step)
    {
        if (Twin(one, all)?.State(step.Key) is { IsOff: true, DoingSeconds: > 0 } first)
        {
            var doing = first.DoingSeconds / 60.0;
            return new(doing * Second.Multiplier, doing * Second.P80, "the other side");
        }

        var before = all.Where(a =>
                a.Id != one.Id && a.BuildId != one.BuildId && a.Kind == one.Kind && one.Kind != AssemblyKind.List
            )
            .Select(a => a.State(step.Key))
            .Where(s => s.IsOff && s.Seconds > 0)
            .Select(s => s.Seconds / 60.0)
            .Order()
            .ToList();
        return before.Count > 0
            ? new(before[before.Count / 2], null, $"{before.Count} before")
            : new(step.Minutes, null, "rule of thumb");
    }

    /// <summary>The same thing on the other side of the same build.</summary>
    public static SubAssembly? Twin(SubAssembly one, IEnumerable<SubAssembly> all) =>
        one.Side == PanelSide.Centre
            ? null
            : all.FirstOrDefault(a =>
                a.Id != one.Id
                && a.BuildId == one.BuildId
                && a.Kind == one.Kind
                && a.Side != one.Side
                && a.Side != PanelSide.Centre
                && TradeHistory.WithoutSide(a.Name) == TradeHistory.WithoutSide(one.Name)
            );

    private static IEnumerable<(double First, double Second)> Pairs(IReadOnlyList<SubAssembly> all) =>
        from a in all
        let b = Twin(a, all)
        where b is not null
        from step in a.Steps
        let x = a.State(step.Key)
        let y = b.State(step.Key)
        where x.IsOff && y.IsOff && x.OffAt < y.OffAt && x.DoingSeconds > 0 && y.DoingSeconds > 0
        select ((double)x.DoingSeconds, (double)y.DoingSeconds);
}
