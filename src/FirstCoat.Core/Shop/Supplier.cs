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

    public SupplierTerms Terms { get; set; } = new();

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

    /// <summary>The first day from today on which freight of any of them comes; null: none has freight days.</summary>
    public static LocalDate? NextFreight(IEnumerable<Supplier> suppliers, LocalDate today)
    {
        var days = suppliers.SelectMany(s => s.FreightDays).ToHashSet();
        return days.Count == 0
            ? null
            : Enumerable.Range(0, 7).Select(today.PlusDays).First(d => days.Contains(d.DayOfWeek));
    }

    /// <summary>Checks the supplier as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() => Refusal.Each(() => Refusal.Text(Name, "name", 100), () => Terms.Check());
}

/// <summary>Days, last one included, on which nobody is there.</summary>
public sealed record ClosedDays(LocalDate From, LocalDate To);

/// <summary>When a supplier works, besides the days of the week.</summary>
public sealed record SupplierTerms
{
    public List<ClosedDays> Closed { get; init; } = [];

    /// <summary>The hours in which they work here, where they come to the shop; none: the shop's.</summary>
    public LocalTime? VisitsFrom { get; init; }

    public LocalTime? VisitsTo { get; init; }

    /// <summary>The manager opens for them also where the shop is closed.</summary>
    public bool OpensForThem { get; init; }

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    Closed.Count > 60 || Closed.Any(c => c.To < c.From || Period.DaysBetween(c.From, c.To) > 400),
                    "closed",
                    "Closed days end after they begin, within a year."
                ),
            () =>
                Refusal.When(
                    (VisitsFrom is null) != (VisitsTo is null) || VisitsTo <= VisitsFrom,
                    "visitsTo",
                    "Say from when to when they work here."
                ),
            () =>
                Refusal.When(
                    OpensForThem && VisitsFrom is null,
                    "visitsFrom",
                    "Say the hours for which the shop is opened."
                )
        );
}
