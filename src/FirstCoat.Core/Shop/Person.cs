using FirstCoat.Core.Kernel;
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
    public PersonTerms Terms { get; set; } = new();

    /// <summary>The first name, as the floor and the clock show it.</summary>
    public string ShortName => Name.Split(' ', 2)[0];

    /// <summary>The rate that holds on a day: the last one that began on or before it, and before the first one, the
    /// first: no hour costs nothing.</summary>
    /// <returns>Null when nobody gave them a rate.</returns>
    public PersonRate? RateOn(LocalDate day) =>
        Rates.Where(r => r.From <= day).MaxBy(r => r.From) ?? Rates.MinBy(r => r.From);

    /// <summary>Checks the person as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Name, "name", 100),
            () => Refusal.When(Rates.Any(r => r.Cost < 0), "cost", "A cost rate cannot be negative."),
            () => Refusal.When(Rates.Any(r => r.Billing < 0), "billing", "A billing rate cannot be negative."),
            () =>
                Refusal.When(
                    Rates.Any(r => r.Cost > 100_000 || r.Billing > 100_000),
                    "billing",
                    "A rate above 100,000 an hour is a slip of the finger."
                ),
            () =>
                Refusal.When(
                    Rates.GroupBy(r => r.From).Any(g => g.Count() > 1),
                    "from",
                    "Two rates begin on the same day."
                ),
            () => Refusal.When(Absences.Any(a => a.To <= a.From), "absences", "An absence ends after it starts."),
            () => Terms.Check()
        );
}

/// <summary>Rates per hour that hold from a date on.</summary>
public sealed record PersonRate(LocalDate From, decimal Cost, decimal Billing);

/// <summary>A half-open stretch of wall time in which a person is away.</summary>
public sealed record Absence(LocalDateTime From, LocalDateTime To, string Reason);

/// <summary>A week's hours that hold from a day on, instead of the shop's.</summary>
public sealed record PersonHours(LocalDate From, List<DayShift> Week);

/// <summary>A time of the week that belongs to one build.</summary>
public sealed record KeptSlot(IsoDayOfWeek Day, LocalTime From, LocalTime To, Guid BuildId)
{
    /// <summary>The day on which it was agreed: none of its times before that was missed. Null: nobody noted
    /// it.</summary>
    public LocalDate? Since { get; init; }
}

/// <summary>How somebody works, for the plan; the defaults are the shop's hours and a likely pace.</summary>
public sealed record PersonTerms
{
    /// <summary>Time that a likely hour takes them: 1.25 is slower, 0.8 quicker.</summary>
    public decimal Pace { get; init; } = 1;

    public List<PersonHours> Hours { get; init; } = [];

    /// <summary>Kinds of work they are not given.</summary>
    public List<WorkKind> NotGiven { get; init; } = [];

    public List<KeptSlot> Slots { get; init; } = [];

    /// <summary>The same terms with the day on each kept time that is new; those that were kept before stay as they
    /// were agreed.</summary>
    public PersonTerms Agreed(PersonTerms before, LocalDate today) =>
        this with
        {
            Slots =
            [
                .. Slots.Select(s =>
                    s with
                    {
                        Since = before.Slots.Find(b => b with { Since = null } == s with { Since = null }) is { } kept
                            ? kept.Since
                            : today,
                    }
                ),
            ],
        };

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    Pace is < 0.25m or > 4,
                    "pace",
                    "A likely hour takes between a quarter of an hour and four."
                ),
            () =>
                Refusal.When(
                    Hours.Count > 50 || Hours.GroupBy(h => h.From).Any(g => g.Count() > 1),
                    "hours",
                    "Each change of hours begins on a day of its own."
                ),
            () =>
                Hours.ForEach(h =>
                    Refusal.When(
                        !WorkWeek.From(h.Week).HasWork,
                        "hours",
                        "Hours of a week have working time; who is not here at all is away."
                    )
                ),
            () =>
                Refusal.When(
                    Slots.Count > 40 || Slots.Any(s => s.Day == IsoDayOfWeek.None || s.To <= s.From),
                    "slots",
                    "A kept time has a day and ends after it starts."
                )
        );
}
