using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Builds;

public enum ContractKind
{
    TimeAndMaterials,
    Fixed,
    Capped,
    Progress,
}

/// <summary>How the work is paid.</summary>
/// <param name="Price">Fixed and progress: the agreed price, net. Capped: the cap, net.</param>
/// <param name="Stages">Progress: named shares of the price in percent, adding up to 100.</param>
/// <param name="DonePercent">Fixed: how much is billed at withdrawal, in percent.</param>
/// <param name="RetentionPercent">Held back from the net until released.</param>
public sealed record ContractTerms(
    ContractKind Kind,
    decimal? Price = null,
    List<ContractStage>? Stages = null,
    decimal DonePercent = 100,
    decimal RetentionPercent = 0,
    bool RetentionReleased = false
)
{
    /// <summary>Time and materials, nothing held back.</summary>
    public static ContractTerms TimeAndMaterials => new(ContractKind.TimeAndMaterials);

    /// <summary>Refuses terms that cannot be billed.</summary>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    !Enum.IsDefined(Kind),
                    "kind",
                    "The contract is by time and materials, fixed, capped or by progress."
                ),
            CheckPrice,
            CheckStages
        );

    private void CheckPrice()
    {
        if (Kind == ContractKind.TimeAndMaterials)
        {
            return;
        }

        var field = Kind == ContractKind.Capped ? "cap" : "price";
        Refusal.When(Price is null, field, $"Give the {field} of the contract.");
        Refusal.When(Price < 0, field, $"The {field} cannot be negative.");
        Refusal.When(!Cents.AreWhole(Price!.Value), field, $"The {field} must be in whole cents.");
        Percent(DonePercent, "done");
    }

    private void CheckStages()
    {
        if (Kind != ContractKind.Progress)
        {
            return;
        }

        var stages = Stages ?? [];
        foreach (var stage in stages)
        {
            Percent(stage.SharePercent, "share");
            Percent(stage.DonePercent, "done");
        }

        Refusal.When(
            stages.Sum(s => s.SharePercent) != 100,
            "share",
            "The shares of the stages must add up to 100 percent."
        );
    }

    /// <summary>Whether the kind of price, its amount, the shares of its stages and what is held back are the
    /// same.</summary>
    public bool SamePrice(ContractTerms other) =>
        Kind == other.Kind
        && Price == other.Price
        && RetentionPercent == other.RetentionPercent
        && (Stages ?? [])
            .Select(s => (s.Name, s.SharePercent))
            .SequenceEqual((other.Stages ?? []).Select(s => (s.Name, s.SharePercent)));

    internal static void Percent(decimal value, string field) =>
        Refusal.When(value is < 0 or > 100, field, $"A {field} must be between 0 and 100 percent.");
}

/// <summary>A stage of a progress contract.</summary>
public sealed record ContractStage(string Name, decimal SharePercent, decimal DonePercent = 0);
