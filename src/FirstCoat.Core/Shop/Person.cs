using NodaTime;

namespace FirstCoat.Core.Shop;

/// <summary>Somebody who works in the shop.</summary>
public sealed class Person : Entity
{
    public required string Name { get; set; }
    public List<Trade> Trades { get; set; } = [];
    public bool Active { get; set; } = true;
    public List<PersonRate> Rates { get; set; } = [];
    public List<Absence> Absences { get; set; } = [];

    /// <summary>The first name, as the floor and the clock show it.</summary>
    public string ShortName => Name.Split(' ', 2)[0];

    /// <summary>The rate that holds on a day: the last one that began on or before it.</summary>
    /// <returns>Null when no rate had begun.</returns>
    public PersonRate? RateOn(LocalDate day) => Rates.Where(r => r.From <= day).MaxBy(r => r.From);

    /// <summary>Checks the person as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check()
    {
        Refusal.Text(Name, "name", 100);
        Refusal.When(Rates.Any(r => r.Cost < 0), "cost", "A cost rate cannot be negative.");
        Refusal.When(Rates.Any(r => r.Billing < 0), "billing", "A billing rate cannot be negative.");
        Refusal.When(Rates.Any(r => r.Cost > 100_000 || r.Billing > 100_000), "billing", "A rate above 100,000 an hour is a slip of the finger.");
        Refusal.When(Rates.GroupBy(r => r.From).Any(g => g.Count() > 1), "from", "Two rates begin on the same day.");
        Refusal.When(Absences.Any(a => a.To <= a.From), "absences", "An absence ends after it starts.");
    }
}

/// <summary>Rates per hour that hold from a date on.</summary>
public sealed record PersonRate(LocalDate From, decimal Cost, decimal Billing);

/// <summary>A half-open stretch of wall time in which a person is away.</summary>
public sealed record Absence(LocalDateTime From, LocalDateTime To, string Reason);
