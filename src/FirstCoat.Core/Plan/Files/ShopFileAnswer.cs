namespace FirstCoat.Core.Plan.Files;

/// <summary>A plan as a file has it: wall times of the shop.</summary>
public sealed record ShopFileAnswer(
    ShopFileObjective Objective,
    ShopFileObjective Bound,
    IReadOnlyDictionary<string, ShopFileBuild> Builds,
    IReadOnlyDictionary<string, ShopFilePlaced> Operations,
    IReadOnlyList<InsertedOperation> Inserted,
    IReadOnlyList<ShopFileUnplanned> Unplanned,
    IReadOnlyList<OutOfReach> OutOfReach,
    IReadOnlyList<ShopFileStay> Stays
)
{
    public static ShopFileAnswer Of(PlanProblem problem, Improvement found)
    {
        string At(long minute) =>
            problem
                .Calendar.Local(minute)
                .ToString("uuuu'-'MM'-'dd'T'HH':'mm", System.Globalization.CultureInfo.InvariantCulture);
        ShopFileReason Why(PlanReason r) => new(Lower(r.Kind), r.Text, r.Ref);
        var plan = found.Plan;
        return new(
            new(plan.WeightedDaysLate),
            new(found.LeastWeightedDaysLate),
            plan.Builds.Values.ToDictionary(
                b => b.Id,
                b => new ShopFileBuild(At(b.Finish), b.Late / 1440.0, b.Partly, Why(b.Holds))
            ),
            plan.Operations.Values.ToDictionary(
                o => o.Id,
                o => new ShopFilePlaced(
                    At(o.Start),
                    At(o.Finish),
                    o.People,
                    o.Station,
                    o.Worked.Select(w => new[] { At(w.Start), At(w.End) }).ToList(),
                    o.StartBy is { } by ? At(by) : null,
                    o.MissesDeadline,
                    Why(o.Reason)
                )
            ),
            plan.Inserted,
            plan.Unplanned.Select(u => new ShopFileUnplanned(u.Operation, u.Build, Why(u.Reason))).ToList(),
            plan.OutOfReach,
            [
                .. plan.Stays.Select(s => new ShopFileStay(
                    s.Build,
                    s.Place,
                    At(s.From),
                    s.To is { } to ? At(to) : null,
                    s.For,
                    s.MovedBy,
                    s.Gone
                )),
            ]
        );
    }

    private static string Lower(WaitKind kind) => char.ToLowerInvariant(kind.ToString()[0]) + kind.ToString()[1..];
}

/// <param name="WeightedDaysLate">Sum over builds of weight x days after the promise.</param>
public sealed record ShopFileObjective(double WeightedDaysLate);

public sealed record ShopFileBuild(string Finish, double DaysLate, bool Partly, ShopFileReason Holds);

/// <param name="StartBy">The last start inside its windows.</param>
public sealed record ShopFilePlaced(
    string Start,
    string Finish,
    IReadOnlyList<string> People,
    string? Station,
    IReadOnlyList<string[]> Worked,
    string? StartBy,
    bool MissesDeadline,
    ShopFileReason Reason
);

public sealed record ShopFileReason(string Kind, string Text, string? Ref);

public sealed record ShopFileUnplanned(string Operation, string Build, ShopFileReason Reason);

/// <summary>A vehicle in one place, worked on or not.</summary>
/// <param name="Place">Null: in none that is known, or out of the shop.</param>
/// <param name="To">Null: nothing moves it.</param>
/// <param name="For">The operation that it is taken there for.</param>
public sealed record ShopFileStay(
    string Build,
    string? Place,
    string From,
    string? To,
    string? For,
    IReadOnlyList<string> MovedBy,
    bool Gone
);
