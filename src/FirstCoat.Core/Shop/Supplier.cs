using NodaTime;

namespace FirstCoat.Core.Shop;

/// <summary>Somebody outside who sends parts or does work.</summary>
public sealed class Supplier : Entity
{
    public required string Name { get; set; }
    public string What { get; set; } = "";

    /// <summary>Weekdays on which goods cross from them to the shop; none: any day.</summary>
    public List<IsoDayOfWeek> FreightDays { get; set; } = [];

    /// <summary>Weekdays on which they work; none: Monday to Friday.</summary>
    public List<IsoDayOfWeek> WorkDays { get; set; } = [];

    /// <summary>The first day on or after <paramref name="ready"/> on which goods can be here.</summary>
    public LocalDate HereOn(LocalDate ready)
    {
        var day = ready;
        while (FreightDays.Count > 0 && !FreightDays.Contains(day.DayOfWeek))
        {
            day = day.PlusDays(1);
        }

        return day;
    }

    /// <summary>Checks the supplier as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() => Refusal.Text(Name, "name", 100);
}
