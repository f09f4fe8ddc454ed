using System.Globalization;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Plan;

/// <summary>What work has in common that is made ready once for all of it.</summary>
public enum SetUpKind
{
    /// <summary>The floor is cleared and the blast place made ready.</summary>
    Blasting,

    /// <summary>One coat is mixed and sprayed, and the gun and the booth are cleaned after it.</summary>
    Coat,

    /// <summary>Pieces go to one supplier on one crossing.</summary>
    Crossing,
}

/// <summary>A piece of work that would share a set-up, with its planned start now and then.</summary>
/// <param name="StartBefore">On the axis of minutes.</param>
/// <param name="StartAfter">Null: it would have no date.</param>
/// <param name="On">The day to which it is pinned; null: it leaves with a batch.</param>
public sealed record SharingWork(Operation Operation, long StartBefore, long? StartAfter, LocalDate? On);

/// <summary>Work of several builds that could share a set-up, and what the plan says of that.</summary>
/// <param name="What">The supplier, or the coat; nothing for blasting.</param>
/// <param name="On">The first day of it, one after the other; null: it leaves together.</param>
/// <param name="Batch">The name under which it leaves together; none: it is done here.</param>
/// <param name="SetUpsBefore">How often the place is made ready, or goods cross, by the plan as it is.</param>
/// <param name="ReadyMinutes">Of work to make ready, saved; by the shop's own figure, and on top of the plan.</param>
/// <param name="MoveMinutes">Of people who push vehicles, saved; negative: more.</param>
/// <param name="WithoutDate">Names of work that would have no date any more.</param>
public sealed record SharedSetUp(
    SetUpKind Kind,
    string What,
    LocalDate? On,
    string Batch,
    IReadOnlyList<SharingWork> Works,
    int SetUpsBefore,
    int SetUpsAfter,
    int ReadyMinutes,
    long MoveMinutes,
    PlanComparison Comparison,
    IReadOnlyList<string> WithoutDate
)
{
    /// <summary>Weight x days late that it costs; negative: it gains them.</summary>
    public decimal DaysLater => InDays.Of(Comparison.WeightedAfter) - InDays.Of(Comparison.WeightedBefore);
}

/// <summary>
/// Finds work of several builds that could share a set-up: blasting, one coat in the booth, one supplier's crossing.
/// Each proposal is planned in full with everything else of the shop, and is one only if that plan makes ready less
/// often.
/// </summary>
/// <param name="facts">The shop as it is; nothing of it is changed.</param>
public sealed class SharedSetUps(PlanFacts facts, IPlanner planner, int threads)
{
    /// <summary>Work that lies further apart is not held back for company, in days.</summary>
    private const int Apart = 21;

    /// <summary>A place stays as it was made ready for so long, in working minutes.</summary>
    private const int StaysReady = 480;

    private const int MostWorks = 4,
        MostTried = 16,
        MostOffered = 6;

    /// <summary>What is proposed, that which costs the least lateness first; no work stands in two of them.</summary>
    public IReadOnlyList<SharedSetUp> Find()
    {
        var now = planner.Plan(facts.Problem());
        var groups = Candidates(now)
            .OrderBy(g => g.Sum(o => Start(g[^1], now) - Start(o, now)) / (g.Count - 1))
            .Take(MostTried)
            .ToArray();
        var tried = new SharedSetUp?[groups.Length];
        Parallel.For(0, groups.Length, new ParallelOptions { MaxDegreeOfParallelism = threads }, i =>
            tried[i] = Try(groups[i], now)
        );
        var (offered, taken) = (new List<SharedSetUp>(), new HashSet<Guid>());
        foreach (
            var good in tried
                .OfType<SharedSetUp>()
                .OrderBy(s => s.WithoutDate.Count)
                .ThenBy(s => s.DaysLater)
                .ThenByDescending(s => s.SetUpsBefore - s.SetUpsAfter)
        )
        {
            if (offered.Count < MostOffered && good.Works.All(w => !taken.Contains(w.Operation.Id)))
            {
                offered.Add(good);
                taken.UnionWith(good.Works.Select(w => w.Operation.Id));
            }
        }

        return offered;
    }

    private static long Start(Operation o, ShopPlan plan) => plan.Operations[o.Id.ToString()].Start;

    /// <summary>Runs of work that have the set-up in common and lie close in the plan, each in its order.</summary>
    private IEnumerable<IReadOnlyList<Operation>> Candidates(ShopPlan now)
    {
        var free = facts
            .Operations.Where(o => IsFree(o) && now.Operations.ContainsKey(o.Id.ToString()))
            .OrderBy(o => Start(o, now))
            .ThenBy(o => o.Id);
        foreach (var alike in free.GroupBy(Common).Where(g => g.Key is not null))
        {
            var works = alike.ToList();
            for (var from = 0; from < works.Count; from++)
            {
                for (var count = 2; count <= MostWorks && from + count <= works.Count; count++)
                {
                    var run = works.GetRange(from, count);
                    if (Start(run[^1], now) - Start(run[0], now) > Apart * 1440)
                    {
                        break;
                    }

                    if (run.Select(o => o.BuildId).Distinct().Count() > 1)
                    {
                        yield return run;
                    }
                }
            }
        }
    }

    /// <summary>Nobody has begun it or settled its day, and it has not left.</summary>
    private bool IsFree(Operation o) =>
        !o.IsDone
        && o.StatedShare is null
        && o.Terms.PinnedOn is null
        && o.Terms.Batch.Length == 0
        && !facts.LastPerson.ContainsKey(o.Id)
        && !facts.Running.ContainsKey(o.Id)
        && facts.Jobs.All(j => j.OperationId != o.Id || j.SentOn is null);

    /// <summary>What an operation has in common with others like it; null: nothing that is made ready for it.</summary>
    private (SetUpKind Kind, string What)? Common(Operation o)
    {
        if (o is { Kind: OperationKind.Outside, Terms.SupplierId: { } supplier })
        {
            var there = facts.Suppliers.FirstOrDefault(s => s.Id == supplier);
            return there is null ? null : (SetUpKind.Crossing, there.Name);
        }

        if (o.Kind != OperationKind.Work || facts.Stations.All(s => s.Kind != o.Station))
        {
            return null;
        }

        return o.Station switch
        {
            StationKind.Blast => (SetUpKind.Blasting, ""),
            StationKind.Booth when o.Coat is { } coat => (SetUpKind.Coat, Words.Of(coat)),
            _ => null,
        };
    }

    /// <summary>On the day on which the last of it would start, or, where that day is too short for all of it, on the
    /// next that the shop works.</summary>
    private SharedSetUp? Try(IReadOnlyList<Operation> works, ShopPlan now)
    {
        var day = facts.Calendar.Local(Start(works[^1], now)).Date;
        return Try(works, day, now)
            ?? (Common(works[0])!.Value.Kind == SetUpKind.Crossing ? null : Try(works, Next(day), now));
    }

    private LocalDate Next(LocalDate day) =>
        Enumerable.Range(1, 14).Select(day.PlusDays).FirstOrDefault(facts.Calendar.WorksOn, day.PlusDays(1));

    private SharedSetUp? Try(IReadOnlyList<Operation> works, LocalDate day, ShopPlan now)
    {
        var (kind, what) = Common(works[0])!.Value;
        var batch =
            kind == SetUpKind.Crossing
                ? $"{what[..Math.Min(what.Length, 40)]}, {day.ToString("d MMM yyyy", CultureInfo.InvariantCulture)}"
                : "";
        var pins = works.ToDictionary(o => o.Id, _ => kind == SetUpKind.Crossing ? (LocalDate?)null : day);
        var then = Together(pins, batch);
        if (kind != SetUpKind.Crossing)
        {
            // Each is pinned to the day on which its turn comes, so that no pin is broken from the start.
            foreach (var o in works.Where(o => then.Operations.ContainsKey(o.Id.ToString())))
            {
                pins[o.Id] = facts.Calendar.Local(Start(o, then)).Date;
            }

            then = Together(pins, batch);
        }

        var alike = facts.Operations.Where(o => Common(o) == (kind, what)).Select(o => o.Id.ToString()).ToHashSet();
        var (before, after) = (SetUps(kind, alike, now), SetUps(kind, alike, then));
        if (after >= before)
        {
            return null;
        }

        var undated = then
            .Unplanned.Select(u => u.Operation)
            .Except(now.Unplanned.Select(u => u.Operation))
            .ToHashSet();
        return new(
            kind,
            what,
            pins.Values.Min(),
            batch,
            [
                .. works.Select(o => new SharingWork(
                    o,
                    Start(o, now),
                    then.Operations.GetValueOrDefault(o.Id.ToString())?.Start,
                    pins[o.Id]
                )),
            ],
            before,
            after,
            kind != SetUpKind.Crossing && works[0].Station is { } place
                ? (before - after) * facts.Shop.Plan.ReadyMinutes(place)
                : 0,
            Pushing(now) - Pushing(then),
            PlanComparison.Of(now, then),
            [.. facts.Operations.Where(o => undated.Contains(o.Id.ToString())).Select(o => o.Name)]
        );
    }

    /// <summary>The plan once some work is pinned, or leaves together.</summary>
    private ShopPlan Together(Dictionary<Guid, LocalDate?> pins, string batch)
    {
        Operation As(Operation o)
        {
            if (!pins.TryGetValue(o.Id, out var on))
            {
                return o;
            }

            var copy = o.Copy();
            copy.Terms = on is null ? o.Terms with { Batch = batch } : o.Terms with { NotBefore = on, PinnedOn = on };
            return copy;
        }

        return planner.Plan((facts with { Operations = [.. facts.Operations.Select(As)] }).Problem());
    }

    /// <summary>How often a plan makes ready for some work: for goods that cross, each departure; else whenever the
    /// place was used for something else of its kind, or not at all for a working day.</summary>
    private int SetUps(SetUpKind kind, HashSet<string> alike, ShopPlan plan)
    {
        if (kind == SetUpKind.Crossing)
        {
            return plan.Operations.Values.Where(o => alike.Contains(o.Id)).Select(o => o.Start).Distinct().Count();
        }

        var (count, station) = (0, plan.Operations.Values.FirstOrDefault(o => alike.Contains(o.Id))?.Station);
        foreach (var place in plan.Operations.Values.Where(o => o.Station == station).GroupBy(o => o.Place))
        {
            PlannedOperation? last = null;
            foreach (var o in place.OrderBy(o => o.Start))
            {
                if (
                    alike.Contains(o.Id)
                    && (
                        last is null
                        || !alike.Contains(last.Id)
                        || facts.Calendar.Between(last.Finish, o.Start) > StaysReady
                    )
                )
                {
                    count++;
                }

                last = o;
            }
        }

        return count;
    }

    /// <summary>Minutes of people who push vehicles from place to place.</summary>
    private static long Pushing(ShopPlan plan) =>
        plan.Stays.Sum(s => s.Move is { } move ? (move.End - move.Start) * s.MovedBy.Count : 0);
}
