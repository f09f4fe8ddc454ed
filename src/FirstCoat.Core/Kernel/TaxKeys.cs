namespace FirstCoat.Core.Kernel;

/// <summary>Names of tax categories on a statement.</summary>
public static class TaxKeys
{
    public const string Labour = "labour";
    public const string Parts = "parts";
    public const string Outside = "outside";
    public const string Materials = "materials";

    /// <summary>The shop's rates by the names that a statement uses.</summary>
    public static IReadOnlyDictionary<string, decimal> Of(IReadOnlyDictionary<TaxCategory, decimal> rates) =>
        Enum.GetValues<TaxCategory>()
            .ToDictionary(c => c.ToString().ToLowerInvariant(), c => rates.GetValueOrDefault(c));
}
