using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Shop;

/// <summary>What an hour of a trade is billed at, before it is known who will work.</summary>
public static class TradeRates
{
    /// <summary>By trade: the mean of what its people bill on the day; a trade nobody has takes the mean of
    /// all.</summary>
    public static IReadOnlyDictionary<Trade, decimal> On(LocalDate day, IEnumerable<Person> people)
    {
        var billed = people
            .Where(p => p.Active)
            .Select(p => (p.Trades, Rate: p.RateOn(day)?.Billing))
            .Where(p => p.Rate is > 0)
            .Select(p => (p.Trades, Rate: p.Rate!.Value))
            .ToList();
        decimal Mean(IEnumerable<decimal> rates) => Cents.Round(rates.DefaultIfEmpty(0).Average());
        var all = Mean(billed.Select(b => b.Rate));
        return Enum.GetValues<Trade>()
            .ToDictionary(
                t => t,
                t =>
                    billed.Any(b => b.Trades.Contains(t))
                        ? Mean(billed.Where(b => b.Trades.Contains(t)).Select(b => b.Rate))
                        : all
            );
    }
}
