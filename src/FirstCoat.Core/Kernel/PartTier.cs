namespace FirstCoat.Core.Kernel;

/// <summary>A mark-up percentage for parts whose unit cost is at most <paramref name="UpTo"/> (null: no
/// limit).</summary>
/// <remarks>The whole unit cost takes its tier's percentage, so a price can drop just past a limit: a known kink of
/// such tables.</remarks>
public sealed record PartTier(decimal? UpTo, decimal Percent)
{
    /// <summary>The percentage for a part of this unit cost; the limit itself belongs to its tier.</summary>
    public static decimal PercentFor(decimal unitCost, IReadOnlyList<PartTier> tiers) =>
        tiers.First(t => t.UpTo is null || unitCost <= t.UpTo).Percent;

    /// <summary>Refuses tiers that do not ascend or have no open last one.</summary>
    public static void Check(IReadOnlyList<PartTier> tiers)
    {
        Refusal.When(
            tiers.Count == 0 || tiers[^1].UpTo is not null,
            "partTiers",
            "The last mark-up tier must have no upper limit."
        );
        for (var i = 0; i < tiers.Count - 1; i++)
        {
            Refusal.When(
                tiers[i].UpTo is null || (i > 0 && tiers[i].UpTo <= tiers[i - 1].UpTo),
                "partTiers",
                "Mark-up tiers must ascend by unit cost."
            );
        }

        Refusal.When(tiers.Any(t => t.UpTo < 0 || t.Percent < 0), "partTiers", "Mark-up tiers cannot be negative.");
    }
}
