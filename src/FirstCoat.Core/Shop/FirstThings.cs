using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Shop;

/// <summary>What a new shop enters, in the order that saves most typing.</summary>
public enum FirstThingKey
{
    Shop,
    Week,
    Places,
    People,
    Suppliers,
    Racks,
    Accounts,
    Build,
    Standing,
}

public enum FirstThingState
{
    Open,
    Begun,
    Done,
}

/// <summary>One of the first things, and how it stands.</summary>
/// <param name="Says">What is there, or what is missing.</param>
public sealed record FirstThing(FirstThingKey Key, FirstThingState State, string Says);

/// <summary>What the list is made from.</summary>
/// <param name="WithPeople">Accounts that belong to a person of the shop.</param>
/// <param name="Lost">Numbers of builds whose place nobody has said.</param>
public sealed record FirstFacts(
    ShopSettings Shop,
    IReadOnlyList<Station> Stations,
    IReadOnlyList<Person> People,
    int Suppliers,
    int Accounts,
    int WithPeople,
    int Builds,
    IReadOnlyList<int> Lost
)
{
    /// <summary>Trades that open work asks for.</summary>
    public IReadOnlyCollection<Trade> Asked { get; init; } = [];
}

/// <summary>The first-run list. Each thing can wait; the plan says what it misses.</summary>
public static class FirstThings
{
    /// <summary>All things in order.</summary>
    public static List<FirstThing> Of(FirstFacts f) =>
        [
            new(
                FirstThingKey.Shop,
                f.Shop.Place.Length > 0 || f.Shop.Phone.Length > 0 || f.Shop.TaxRates.Values.Any(r => r > 0)
                    ? FirstThingState.Done
                    : FirstThingState.Begun,
                $"{f.Shop.Name}, {f.Shop.Currency}, {(f.Shop.Units == UnitSystem.Metric ? "metric" : "inches")}{(f.Shop.TaxRates.Values.Any(r => r > 0) ? "" : "; no tax yet")}"
            ),
            new(
                FirstThingKey.Week,
                f.Shop.Week.Count > 0 ? FirstThingState.Done : FirstThingState.Open,
                WeekSays(f.Shop.Week)
            ),
            Places(f),
            People(f),
            new(
                FirstThingKey.Suppliers,
                f.Suppliers > 0 ? FirstThingState.Done : FirstThingState.Open,
                f.Suppliers == 0 ? "none yet; by file, or as they come"
                    : f.Suppliers == 1 ? "one"
                    : $"{f.Suppliers}"
            ),
            Racks(f.Shop.Racks),
            Accounts(f),
            new(
                FirstThingKey.Build,
                f.Builds > 0 ? FirstThingState.Done : FirstThingState.Open,
                f.Builds == 0 ? "ten minutes from brief to plan"
                    : f.Builds == 1 ? "one is open"
                    : $"{f.Builds} are open"
            ),
            .. f.Lost.Count == 0
                ? []
                : new[]
                {
                    new FirstThing(
                        FirstThingKey.Standing,
                        FirstThingState.Open,
                        $"nobody has said where {string.Join(", ", f.Lost.Take(6))} {(f.Lost.Count == 1 ? "stands" : "stand")}"
                    ),
                },
        ];

    private static string WeekSays(IReadOnlyList<DayShift> week)
    {
        if (week.Count == 0)
        {
            return "no working hours yet";
        }

        var (days, same) = (
            week.Select(d => d.Day).Distinct().Order().ToList(),
            week.Select(d => (d.From, d.To)).Distinct().ToList()
        );
        var run = days.Count > 2 && (int)days[^1] - (int)days[0] == days.Count - 1;
        var named = run
            ? $"{days[0].ToString()[..3]} to {days[^1].ToString()[..3]}"
            : string.Join(", ", days.Select(d => d.ToString()[..3]));
        return same.Count == 1 ? $"{named}, {Hour(same[0].From)} to {Hour(same[0].To)}" : $"{named}, hours by day";
    }

    private static string Hour(NodaTime.LocalTime at) => at.Minute == 0 ? $"{at.Hour}" : $"{at.Hour}:{at.Minute:00}";

    private static FirstThing Places(FirstFacts f)
    {
        var vehicles = f.Stations.Count(s => s.Kind.IsForVehicles());
        return new(
            FirstThingKey.Places,
            vehicles > 0 ? FirstThingState.Done
                : f.Stations.Count > 0 ? FirstThingState.Begun
                : FirstThingState.Open,
            f.Stations.Count == 0 ? "none drawn yet"
                : vehicles == 0 ? $"{f.Stations.Count} drawn; none takes a vehicle"
                : $"{f.Stations.Count} drawn"
        );
    }

    private static FirstThing People(FirstFacts f)
    {
        var here = f.People.Where(p => p.Active).ToList();
        var (unrated, untrained) = (here.Count(p => p.Rates.Count == 0), here.Count(p => p.Trades.Count == 0));
        var nobody = f.Asked.Where(t => !here.Exists(p => p.Trades.Contains(t))).Order().Select(t => t.Name()).ToList();
        var missing = new[]
        {
            unrated == 0 ? ""
            : here.Count == 1 ? "no rate yet"
            : $"{unrated} without a rate",
            untrained == here.Count && here.Count > 0 ? "nobody has a trade" : "",
            nobody.Count > 0 && untrained < here.Count ? $"nobody does: {string.Join(", ", nobody)}" : "",
        }.Where(t => t.Length > 0).ToList();
        return new(
            FirstThingKey.People,
            here.Count == 0 ? FirstThingState.Open
                : missing.Count > 0 ? FirstThingState.Begun
                : FirstThingState.Done,
            here.Count == 0
                ? "nobody yet; by file, or one by one"
                : string.Join(", ", new[] { here.Count == 1 ? here[0].Name : $"{here.Count}" }.Concat(missing))
        );
    }

    private static FirstThing Racks(IReadOnlyList<ShopRack> racks)
    {
        var own = !racks.SequenceEqual(ShopSettings.UsualRacks());
        return new(
            FirstThingKey.Racks,
            own ? FirstThingState.Done : FirstThingState.Open,
            racks.Count == 0 ? "none: bags lie where somebody writes"
                : own ? string.Join(", ", racks.Select(r => r.Name).Take(6))
                : "A to D; name yours"
        );
    }

    private static FirstThing Accounts(FirstFacts f)
    {
        var here = f.People.Count(p => p.Active);
        return new(
            FirstThingKey.Accounts,
            here > 0 && f.WithPeople >= here ? FirstThingState.Done
                : f.WithPeople > 0 ? FirstThingState.Begun
                : FirstThingState.Open,
            f.Accounts > 1 ? $"{f.Accounts}, {f.WithPeople} with a clock of their own"
                : f.WithPeople == 0 ? "yours; Clock needs one a person"
                : here == 1 ? "yours, with a clock"
                : "yours; Clock needs one for each of the others"
        );
    }
}
