using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Shop;

/// <summary>A sheet as it is bought.</summary>
/// <param name="GaugeMm">Its thickness.</param>
/// <param name="Price">Of the whole sheet, at cost.</param>
public sealed record SheetStock(decimal GaugeMm, int WidthMm, int HeightMm, decimal Price)
{
    /// <summary>Price of a square metre.</summary>
    public decimal M2Price => Price / (WidthMm * (decimal)HeightMm / 1_000_000);
}

/// <summary>The shop's own settings; there is one row.</summary>
public sealed class ShopSettings : Entity
{
    /// <summary>The only id this entity ever has.</summary>
    public static readonly Guid TheOne = new("018f0000-0000-7000-8000-000000000001");

    public required string Name { get; set; }
    public string Place { get; set; } = "";
    public string Phone { get; set; } = "";

    /// <summary>Where clients reach this application, such as https://shop.example; it stands in letters. Nothing:
    /// where the server listens.</summary>
    public string Address { get; set; } = "";

    /// <summary>ISO 4217 code.</summary>
    public string Currency { get; set; } = "GBP";

    /// <summary>TZDB name; wall times are read in it.</summary>
    public string TimeZone { get; set; } = "Europe/London";

    public UnitSystem Units { get; set; } = UnitSystem.Metric;

    /// <summary>Size of the shop's plan, in millimetres.</summary>
    public int PlanWidthMm { get; set; } = 25000;

    public int PlanDepthMm { get; set; } = 20300;

    /// <summary>Percent by category.</summary>
    public Dictionary<TaxCategory, decimal> TaxRates { get; set; } =
        Enum.GetValues<TaxCategory>().ToDictionary(c => c, _ => 0m);

    /// <summary>Mark-up on parts, by unit cost.</summary>
    public List<PartTier> PartTiers { get; set; } = [new(null, 0)];

    /// <summary>Percent on outside work and on booked materials.</summary>
    public decimal OutsideMarkup { get; set; }

    public decimal MaterialsMarkup { get; set; }

    /// <summary>Consumables as percent of billed net labour, and the most they may come to (null: no cap).</summary>
    public decimal ConsumablesPercent { get; set; }

    public decimal? ConsumablesCap { get; set; }

    /// <summary>Days after notice of completion on which a vehicle stands free, and what each day after them costs,
    /// net.</summary>
    public int StorageFreeDays { get; set; } = 7;

    public decimal StoragePerDay { get; set; }

    public MinuteRounding Rounding { get; set; } = MinuteRounding.None;

    /// <summary>Daily hours before overtime, and what an overtime minute costs.</summary>
    public decimal OvertimeAfterHours { get; set; } = 8;

    public decimal OvertimeMultiplier { get; set; } = 1.5m;

    /// <summary>What a day of waiting for a part costs a build: floor, money tied up.</summary>
    public decimal DelayPerDay { get; set; }

    /// <summary>Sheet that the shop buys, by its thickness.</summary>
    public List<SheetStock> Sheets { get; set; } = [];

    /// <summary>The manager has put the first-run list away.</summary>
    public bool FirstThingsAway { get; set; }

    /// <summary>Walls and doors on the plan.</summary>
    public ShopLayout Layout { get; set; } = new();

    /// <summary>Where bags and parts lie.</summary>
    public List<ShopRack> Racks { get; set; } = UsualRacks();

    /// <summary>Work that is nobody's build, by name.</summary>
    public List<string> Jobs { get; set; } = UsualJobs();

    /// <summary>Racks of a shop that has not named its own.</summary>
    public static List<ShopRack> UsualRacks() => [.. "ABCD".Select(c => new ShopRack($"{c}", 5, 12))];

    /// <summary>Longest name of a job that is nobody's build.</summary>
    public const int JobMost = 60;

    /// <summary>Jobs of a shop that has not named its own.</summary>
    public static List<string> UsualJobs() => ["Cleaning", "Tooling", "Training"];

    /// <summary>What the plan must know besides the week.</summary>
    public PlanRules Plan { get; set; } = new();

    /// <summary>The week's shifts.</summary>
    public List<DayShift> Week { get; set; } = [];

    /// <summary>Checks the settings as a whole.</summary>
    /// <exception cref="Refusal">Names the setting that cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Name, "name"),
            () =>
                Refusal.When(
                    Address.Length > 200
                        || (
                            Address.Length > 0
                            && !(
                                Uri.TryCreate(Address, UriKind.Absolute, out var at)
                                && (at.Scheme is "http" or "https")
                                && at.UserInfo.Length == 0
                                && at.Query.Length == 0
                                && at.Fragment.Length == 0
                            )
                        ),
                    "address",
                    "Give the address as in https://shop.example, or leave it out."
                ),
            () =>
                Refusal.When(
                    Currency.Length != 3 || !Currency.All(char.IsAsciiLetterUpper),
                    "currency",
                    "Give the currency as three letters, such as GBP."
                ),
            () =>
                Refusal.When(
                    DateTimeZoneProviders.Tzdb.GetZoneOrNull(TimeZone) is null,
                    "timeZone",
                    "That time zone is not known; give it as in Europe/London."
                ),
            () =>
                Refusal.When(
                    TaxRates.Values.Any(r => r is < 0 or > 100),
                    "taxRates",
                    "A tax rate must be between 0 and 100 percent."
                ),
            () =>
                Refusal.When(
                    PlanWidthMm is < 1000 or > 1_000_000,
                    "planWidthMm",
                    "The shop's plan is between 1 m and 1,000 m wide."
                ),
            () =>
                Refusal.When(
                    PlanDepthMm is < 1000 or > 1_000_000,
                    "planDepthMm",
                    "The shop's plan is between 1 m and 1,000 m deep."
                ),
            () =>
                Refusal.When(
                    DelayPerDay is < 0 or > 100_000,
                    "delayPerDay",
                    "A day of waiting costs between 0 and 100,000."
                ),
            () =>
                Refusal.When(
                    OutsideMarkup is < 0 or > 1000,
                    "outsideMarkup",
                    "The mark-up on outside work must be between 0 and 1,000 percent."
                ),
            () =>
                Refusal.When(
                    MaterialsMarkup is < 0 or > 1000,
                    "materialsMarkup",
                    "The mark-up on materials must be between 0 and 1,000 percent."
                ),
            () =>
                Refusal.When(
                    ConsumablesPercent is < 0 or > 100,
                    "consumablesPercent",
                    "Consumables must be between 0 and 100 percent of labour."
                ),
            () => Refusal.When(ConsumablesCap is < 0, "consumablesCap", "The cap on consumables cannot be negative."),
            () =>
                Refusal.When(
                    StorageFreeDays is < 0 or > 1000,
                    "storageFreeDays",
                    "Free days must be between 0 and 1,000."
                ),
            () =>
                Refusal.When(
                    StoragePerDay is < 0 or > 10_000,
                    "storagePerDay",
                    "A day of storage costs between 0 and 10,000."
                ),
            () =>
                Refusal.When(
                    OvertimeAfterHours is < 0 or > 24 || OvertimeAfterHours * 60 % 1 != 0,
                    "overtimeAfterHours",
                    "Daily hours must be between 0 and 24, in whole minutes."
                ),
            () =>
                Refusal.When(
                    OvertimeMultiplier is < 1 or > 10,
                    "overtimeMultiplier",
                    "Overtime costs at least the normal rate."
                ),
            () =>
                Refusal.When(
                    Sheets.Count > 40
                        || Sheets.Any(s =>
                            s.GaugeMm is <= 0 or > 20
                            || s.WidthMm is < 100 or > 10_000
                            || s.HeightMm is < 100 or > 10_000
                            || s.Price is < 0 or > 100_000
                        ),
                    "sheets",
                    "A sheet is up to 20 mm thick, between 10 cm and 10 m each way, and has a price."
                ),
            () =>
                Refusal.When(
                    Sheets.Select(s => s.GaugeMm).Distinct().Count() != Sheets.Count,
                    "sheets",
                    "Each thickness has one price."
                ),
            () => Layout.Check(PlanWidthMm, PlanDepthMm),
            () => ShopRack.Check(Racks),
            () =>
                Refusal.When(
                    Jobs.Count > 30 || Jobs.Any(j => string.IsNullOrWhiteSpace(j) || j.Length > JobMost),
                    "jobs",
                    "At most thirty jobs, each with a name of up to 60 characters."
                ),
            () =>
                Refusal.When(
                    Jobs.GroupBy(j => j, StringComparer.OrdinalIgnoreCase).Any(g => g.Count() > 1),
                    "jobs",
                    "Two jobs carry the same name."
                ),
            () => PartTier.Check(PartTiers),
            () => Plan.Check(),
            () => _ = WorkWeek.From(Week)
        );
}

/// <summary>A day on which no shift starts.</summary>
public sealed class ClosedDay : Entity
{
    public required LocalDate Date { get; init; }
    public string Reason { get; set; } = "";
}
