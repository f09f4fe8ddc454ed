using FirstCoat.Store.Plan;

namespace FirstCoat.Server.Demo;

/// <summary>What the shop promised itself on Mondays, and what it said on Fridays of what was not done.</summary>
internal sealed class DemoWeeks(DemoShop shop)
{
    /// <summary>Weeks back that are told.</summary>
    private const int Told = 12;

    /// <summary>Promises of one person in a week, at most.</summary>
    private const int Most = 5;

    /// <summary>Less of a piece in a week is not worth a promise, in minutes.</summary>
    private const int Least = 60;

    private static readonly string[] Reasons =
    [
        "part not here",
        "found more",
        "part not here",
        "somebody else needed",
        "took longer",
        "found more",
        "part not here",
        "ill",
    ];

    private int _said;

    public bool Tells(LocalDate day) => day > shop.Day.PlusWeeks(-Told);

    /// <summary>On Monday, before the hall opens.</summary>
    public Task Commit(LocalDate monday, CancellationToken cancel) => shop.As("sunniva", async s =>
        {
            var desk = s.GetRequiredService<WeekDesk>();
            var draft = (await desk.Look(monday, cancel)).Draft.Work;
            var ready = await shop.ReadyIds(cancel);
            var chosen = draft
                .Where(w => w.Minutes >= Least && Guid.TryParse(w.Operation, out var id) && ready.Contains(id))
                .GroupBy(w => w.Person)
                .SelectMany(g => g.OrderBy(w => w.Times[0].Start).Take(Most))
                .Select(w => new ChosenPromise(Guid.Parse(w.Operation), Guid.Parse(w.Person), Careful(w.Minutes)))
                .ToList();
            if (chosen.Count > 0)
            {
                await desk.Commit(Guid.CreateVersion7(), monday, chosen, cancel);
            }
        });

    /// <summary>On Friday, after the hall has closed.</summary>
    public Task Count(LocalDate friday, CancellationToken cancel) => shop.As("sunniva", async s =>
        {
            var desk = s.GetRequiredService<WeekDesk>();
            var facts = await desk.Look(friday, cancel);
            if (facts.Week is { } week)
            {
                var why = week.Promises.Where(p => facts.KeptBy(p) is null).ToDictionary(p => p.Id, _ => Next());
                await desk.Count(friday, why, cancel);
            }
        });

    /// <summary>A promise that can be kept: of long work not all that the plan has.</summary>
    private static int? Careful(long minutes) => minutes <= 4 * 60 ? null : (int)(minutes * 2 / 5 / 30 * 30);

    private string Next() => Reasons[_said++ % Reasons.Length];
}
