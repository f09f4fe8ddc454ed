using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Fitup;

/// <summary>A trial mark between two edges.</summary>
/// <param name="MoveRightMm">By so much the mark goes to the right to be in the middle.</param>
/// <param name="DeviationMm">The left reading less the right one.</param>
public readonly record struct CentreMark(double WidthMm, double MoveRightMm, double DeviationMm, bool IsCentred)
{
    /// <summary>Source: half the difference of both readings.</summary>
    /// <exception cref="Refusal">A reading of nothing or less, a tolerance below nothing.</exception>
    public static CentreMark Of(double leftMm, double rightMm, double toleranceMm)
    {
        Refusal.When(leftMm <= 0, "leftMm", "The mark lies between both edges.");
        Refusal.When(rightMm <= 0, "rightMm", "The mark lies between both edges.");
        Refusal.When(toleranceMm < 0, "toleranceMm", "The tolerance is nothing or more.");
        return new(
            leftMm + rightMm,
            (rightMm - leftMm) / 2,
            leftMm - rightMm,
            Near.AtMost(Math.Abs(leftMm - rightMm), toleranceMm)
        );
    }
}

/// <summary>A place of which a dimension was read, in millimetres.</summary>
public readonly record struct PlaceReading(string Id, double Mm);

/// <summary>The doubtful side of a body, by the sound one.</summary>
/// <param name="Targets">What each place of the doubtful side should read.</param>
/// <param name="Off">By how much those that were read are off it.</param>
/// <param name="Outside">Those of them that are off by more than the tolerance.</param>
/// <param name="NotRead">Places of the sound side that were not read on the other.</param>
public sealed record MirrorTargets(
    IReadOnlyList<PlaceReading> Targets,
    IReadOnlyList<PlaceReading> Off,
    IReadOnlyList<string> Outside,
    IReadOnlyList<string> NotRead
)
{
    /// <summary>Source: the sound side's dimension and what the maker built unequal.</summary>
    /// <param name="asymmetryMm">The doubtful side less the sound one, as the manual has it; else 0.</param>
    /// <exception cref="Refusal">No place, a place twice or unknown, a tolerance below nothing.</exception>
    public static MirrorTargets Of(
        IReadOnlyList<PlaceReading> sound,
        IReadOnlyList<PlaceReading> doubtful,
        double asymmetryMm,
        double toleranceMm
    )
    {
        Refusal.When(sound.Count == 0, "good", "Read one place of the sound side at least.");
        Refusal.When(sound.DistinctBy(p => p.Id).Count() != sound.Count, "good", "Each place stands once.");
        Refusal.When(doubtful.DistinctBy(p => p.Id).Count() != doubtful.Count, "other", "Each place stands once.");
        Refusal.When(
            doubtful.ExceptBy(sound.Select(p => p.Id), p => p.Id).Any(),
            "other",
            "Each place of the doubtful side was read on the sound one too."
        );
        Refusal.When(toleranceMm < 0, "toleranceMm", "The tolerance is nothing or more.");
        var targets = sound.Select(p => p with { Mm = p.Mm + asymmetryMm }).ToList();
        var read = doubtful.ToDictionary(p => p.Id, p => p.Mm);
        var off = targets.Where(t => read.ContainsKey(t.Id)).Select(t => t with { Mm = read[t.Id] - t.Mm }).ToList();
        return new(
            targets,
            off,
            [.. off.Where(o => !Near.AtMost(Math.Abs(o.Mm), toleranceMm)).Select(o => o.Id)],
            [.. targets.Where(t => !read.ContainsKey(t.Id)).Select(t => t.Id)]
        );
    }
}
