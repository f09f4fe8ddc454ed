using FirstCoat.Core.Kernel;
using FirstCoat.Core.Parts;
using NodaTime;

namespace FirstCoat.Core.Teardown;

/// <summary>How something that is missing will come.</summary>
public enum Missing
{
    ToBuy,
    Ordered,
    AtSupplier,
    NotFound,
    OnAnotherCar,
}

/// <summary>Something that must be here before a step is put back.</summary>
/// <param name="Here">Likely day; null: nobody knows.</param>
/// <param name="HereLate">By this day eight times in ten.</param>
/// <param name="OrderBy">Last working day on which ordering it still makes it eight times in ten; only for what is to
/// buy.</param>
/// <param name="Cost">What it is expected to cost, net; nothing where no price is known.</param>
public sealed record Lacking(
    string What,
    Missing How,
    string From,
    LocalDate? Here,
    LocalDate? HereLate,
    LocalDate? OrderBy,
    decimal Cost,
    Guid? PartId,
    Guid? BagId
)
{
    /// <summary>Days in hand before it is needed; negative: it comes late eight times in ten or more.</summary>
    public int? DaysInHand(LocalDate needed) => HereLate is { } late ? Period.DaysBetween(late, needed) : null;
}

/// <summary>A step of putting back: the teardown's in reverse, with its bag, photo and notes.</summary>
/// <param name="Needed">The day on which it comes by the plan; null: the plan does not say.</param>
public sealed record BackStep(
    int Order,
    TeardownStep Step,
    StepState State,
    Bag? Bag,
    LocalDate? Needed,
    IReadOnlyList<Lacking> Lacks
)
{
    /// <summary>Whether something will probably be missing when its day comes.</summary>
    public bool Late =>
        Lacks.Any(l =>
            l.How == Missing.NotFound
            || (Needed is { } day && (l.DaysInHand(day) ?? (l.How == Missing.Ordered ? -1 : 0)) < 0)
            || (Needed is not null && l.OrderBy is null && l.How == Missing.ToBuy && l.HereLate is null)
        );
}

/// <summary>What the reassembly list is made from.</summary>
/// <param name="Bags">Of the build, by id.</param>
/// <param name="Parts">Lines of the buying list that came from a bag, and by their bag.</param>
/// <param name="Away">By supplier's name: when what is there comes back, likely and eight in ten.</param>
/// <param name="Lead">Lead time of a supplier; of nobody: of all together.</param>
/// <param name="WorkingBack">The last working day on or before a day.</param>
public sealed record ReassemblyFacts(
    SubAssembly Of,
    IReadOnlyDictionary<Guid, Bag> Bags,
    IReadOnlyList<PartLine> Parts,
    IReadOnlyDictionary<string, (LocalDate Likely, LocalDate High)> Away,
    Func<Guid?, LeadTime> Lead,
    Func<Guid?, string> Supplier,
    StepTimes Times,
    LocalDate Today,
    LocalDate? Start,
    decimal HoursPerDay,
    Func<LocalDate, LocalDate> WorkingBack,
    Func<LocalDate, int, LocalDate> WorkingOn
);

/// <summary>The list by which something is put back, and what must still come for it.</summary>
/// <param name="Done">Steps that are back on.</param>
public sealed record Reassembly(IReadOnlyList<BackStep> Steps, int Done, decimal ToBuy)
{
    /// <summary>Everything that is missing, the pressing first: what is late, then by the day to order, then by the day
    /// it is needed.</summary>
    public IReadOnlyList<(BackStep Step, Lacking What)> Lacks =>
        Steps
            .SelectMany(s => s.Lacks.Select(l => (s, l)))
            .OrderByDescending(x => x.s.Late)
            .ThenBy(x => x.l.OrderBy ?? LocalDate.MaxIsoValue)
            .ThenBy(x => x.s.Needed ?? LocalDate.MaxIsoValue)
            .ThenBy(x => x.s.Order)
            .ToList();

    /// <summary>Makes the list: steps that came off, last first, each on its day by the minutes before it.</summary>
    public static Reassembly Of(ReassemblyFacts f)
    {
        var minutes = 0.0;
        var steps = new List<BackStep>();
        foreach (
            var step in f
                .Of.Steps.Where(s => f.Of.State(s.Key).IsOff)
                .OrderByDescending(s => f.Of.State(s.Key).OffAt)
                .ThenByDescending(s => f.Of.Steps.IndexOf(s))
        )
        {
            var state = f.Of.State(step.Key);
            var needed = f.Start is { } start
                ? f.WorkingOn(start, (int)(minutes / 60 / (double)Math.Max(1, f.HoursPerDay)))
                : (LocalDate?)null;
            if (state.BackAt is null)
            {
                minutes += f.Times.Of(f.Of, step).Likely;
            }

            var bag = state.BagId is { } id ? f.Bags.GetValueOrDefault(id) : null;
            steps.Add(
                new(steps.Count + 1, step, state, bag, needed, state.BackAt is not null ? [] : Lacking(f, bag, needed))
            );
        }

        return new(
            steps,
            steps.Count(s => s.State.BackAt is not null),
            steps.SelectMany(s => s.Lacks).Where(l => l.How == Missing.ToBuy).Sum(l => l.Cost)
        );
    }

    private static List<Lacking> Lacking(ReassemblyFacts f, Bag? bag, LocalDate? needed)
    {
        var lacks = new List<Lacking>();
        if (bag is null)
        {
            return lacks;
        }

        if (bag.State == BagState.NotFound)
        {
            lacks.Add(new(bag.What, Missing.NotFound, "", null, null, null, 0, null, bag.Id));
        }
        else if (bag.State == BagState.AtSupplier)
        {
            (LocalDate Likely, LocalDate High)? back = f.Away.TryGetValue(bag.Place, out var known) ? known : null;
            lacks.Add(new(bag.What, Missing.AtSupplier, bag.Place, back?.Likely, back?.High, null, 0, null, bag.Id));
        }
        else if (bag.State is BagState.WithClient or BagState.Sold or BagState.Scrapped)
        {
            lacks.Add(
                new(
                    bag.What,
                    Missing.ToBuy,
                    bag.State == BagState.WithClient ? "with the client" : "",
                    null,
                    null,
                    null,
                    0,
                    null,
                    bag.Id
                )
            );
        }

        foreach (var part in f.Parts.Where(p => p.BagId == bag.Id && p.State < PartState.Received))
        {
            var lead = f.Lead(part.SupplierId);
            if (part.ExpectedOn is { } here)
            {
                lacks.Add(
                    new(part.Name, Missing.Ordered, f.Supplier(part.SupplierId), here, here, null, 0, part.Id, bag.Id)
                );
            }
            else if (part.State != PartState.Needed)
            {
                var ordered = part.OrderedOn ?? f.Today;
                lacks.Add(
                    new(
                        part.Name,
                        Missing.Ordered,
                        f.Supplier(part.SupplierId),
                        ordered.PlusDays(Up(lead.Likely)),
                        ordered.PlusDays(Up(lead.High)),
                        null,
                        0,
                        part.Id,
                        bag.Id
                    )
                );
            }
            else
            {
                var by = needed is { } day ? f.WorkingBack(day.PlusDays(-Up(lead.High))) : (LocalDate?)null;
                lacks.Add(
                    new(
                        part.Name,
                        Missing.ToBuy,
                        f.Supplier(part.SupplierId),
                        f.Today.PlusDays(Up(lead.Likely)),
                        f.Today.PlusDays(Up(lead.High)),
                        by,
                        Cents.Round(part.Quantity * part.UnitCost),
                        part.Id,
                        bag.Id
                    )
                );
            }
        }

        return lacks;
    }

    private static int Up(double days) => (int)Math.Ceiling(days);
}
