namespace FirstCoat.Core.Plan;

/// <summary>Everything a plan is made from, on the calendar's axis of minutes. No clock and no database behind it.</summary>
/// <param name="Builds">In order of priority.</param>
public sealed record PlanProblem(long Now, WorkCalendar Calendar, IReadOnlyList<PlanPerson> People, IReadOnlyList<PlanStation> Stations, IReadOnlyList<PlanBuild> Builds);

/// <summary>Somebody who can do work of the trades named.</summary>
public sealed record PlanPerson(string Id, string Name, IReadOnlySet<string> Trades, Blocked Absent);

/// <summary>Stations of one kind, and how many builds they serve at once.</summary>
public sealed record PlanStation(string Kind, int Count);

/// <summary>One build's open operations, in the order of its sequence.</summary>
public sealed record PlanBuild(string Id, string Name, IReadOnlyList<PlanOperation> Operations);

/// <summary>Something to be done.</summary>
public sealed record PlanOperation
{
    public required string Id { get; init; }
    public required string Name { get; init; }

    /// <summary>Working minutes left; with no <see cref="Trade"/>, minutes on the clock.</summary>
    public required long Minutes { get; init; }

    /// <summary>Null: nobody is needed (cure, transport, work outside).</summary>
    public string? Trade { get; init; }

    /// <summary>Who does it, where that is settled.</summary>
    public string? Person { get; init; }

    public string? Station { get; init; }

    /// <summary>Must run within one shift.</summary>
    public bool WithoutStop { get; init; }

    /// <summary>Work that must not stop goes on through a break.</summary>
    public bool ThroughBreak { get; init; }

    public IReadOnlyList<PlanLink> After { get; init; } = [];

    /// <summary>What it waits for besides other operations.</summary>
    public IReadOnlyList<PlanWait> Waits { get; init; } = [];
}

/// <summary>Starts when <paramref name="Operation"/> has finished and <paramref name="LagMinutes"/> have passed on the clock.</summary>
public sealed record PlanLink(string Operation, long LagMinutes);

/// <summary>Something dated that must come first: a part, a supplier, a decision, a gate.</summary>
public sealed record PlanWait(WaitKind Kind, long Until, string Text, string? Ref = null);

/// <summary>Why an operation does not start earlier.</summary>
public enum WaitKind { Nothing, Operation, Cure, Person, Absence, Station, Part, Outside, Decision, Gate, Calendar, NotBefore }

/// <summary>Why an operation does not start earlier, with what it points at.</summary>
public sealed record PlanReason(WaitKind Kind, string Text, string? Ref = null);

/// <summary>When, by whom and why then.</summary>
public sealed record PlannedOperation(string Id, string Build, long Start, long Finish, string? Person, IReadOnlyList<Span> Worked, PlanReason Reason);

/// <summary>What the plan says of a build.</summary>
/// <param name="Holds">What holds it now: the reason of the operation that comes first.</param>
public sealed record PlannedBuild(string Id, long Finish, string? First, PlanReason Holds);

/// <summary>A plan of all builds.</summary>
public sealed record ShopPlan(IReadOnlyDictionary<string, PlannedOperation> Operations, IReadOnlyDictionary<string, PlannedBuild> Builds);

/// <summary>Makes plans. The first one is a single pass; a scheduler that improves can take its place.</summary>
public interface IPlanner
{
    /// <summary>Plans all builds; the same problem always gives the same plan.</summary>
    /// <exception cref="Refusal">A cycle, an unknown predecessor or trade, or work that fits no shift.</exception>
    ShopPlan Plan(PlanProblem problem);
}
