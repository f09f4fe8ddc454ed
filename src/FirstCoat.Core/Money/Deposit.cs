using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Money;

/// <summary>An amount on a day.</summary>
public sealed record DatedAmount(LocalDate Date, decimal Amount);

/// <summary>How far a deposit reaches.</summary>
/// <param name="RunsOut">First day with a move on which the balance is below nothing; null: never.</param>
/// <param name="LeftBefore">Balance after the last day before that.</param>
/// <param name="TopUpNeeded">The deepest debt.</param>
public sealed record DepositCover(
    bool AlreadyOut,
    LocalDate? RunsOut,
    decimal LeftBefore,
    decimal TopUpNeeded,
    decimal End
);

/// <summary>Deposit cover by day. Source: arithmetic.</summary>
public static class Deposit
{
    /// <summary>Walks the days, a day's deposits before its charges; a balance of exactly nothing is still
    /// covered.</summary>
    /// <exception cref="Refusal">Negative moves or part cents.</exception>
    public static DepositCover Cover(
        decimal balance,
        IEnumerable<DatedAmount> charges,
        IEnumerable<DatedAmount> deposits
    )
    {
        var (outgoing, incoming) = (charges.ToList(), deposits.ToList());
        Refusal.When(!Cents.AreWhole(balance), "balance", "The balance is in whole cents.");
        foreach (var move in outgoing.Concat(incoming))
        {
            Refusal.When(move.Amount < 0, "amount", "A charge or deposit cannot be negative.");
            Refusal.When(!Cents.AreWhole(move.Amount), "amount", "A charge or deposit is in whole cents.");
        }

        var (now, lowest) = (balance, balance);
        LocalDate? runsOut = null;
        var left = balance;
        foreach (
            var day in outgoing
                .Select(c => (c.Date, By: -c.Amount))
                .Concat(incoming.Select(d => (d.Date, By: d.Amount)))
                .GroupBy(m => m.Date)
                .OrderBy(g => g.Key)
        )
        {
            var before = now;
            now += day.Sum(m => m.By);
            lowest = Math.Min(lowest, now);
            if (runsOut is null && now < 0)
            {
                (runsOut, left) = (day.Key, before);
            }
        }

        return new(balance < 0, runsOut, runsOut is null ? now : left, Math.Max(0, -lowest), now);
    }
}
