using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>What somebody is about to do with an operation, or has done.</summary>
public enum WorkStep
{
    Begin,
    TakeHours,
    End,
    Leave,
    ChangePanel,
}

/// <summary>What can stand against work.</summary>
public enum ObstacleKind
{
    Gate,
    Question,
    OtherSide,
    TemporaryMetal,
    Danger,
    Cure,
    Away,
    Order,
    Air,
}

/// <summary>One thing that stands against work, with the door by which it is opened.</summary>
/// <param name="Words">A sentence that somebody can act on.</param>
/// <param name="Of">The gate, question, danger or operation that it is.</param>
/// <param name="Asks">It is passed by saying why; every other one is opened where it stands: signed, answered, settled,
/// taken out.</param>
public sealed record Obstacle(ObstacleKind Kind, string Words, Guid? Of, bool Asks = false);

/// <summary>Metal that is in a build for a time.</summary>
/// <param name="What">Its purpose, as it was noted.</param>
/// <param name="OutBy">The stage whose coats and gate it must be out for.</param>
public sealed record TemporaryMetal(string Panel, string What, bool BlocksHanging, Stage OutBy)
{
    /// <summary>Metal of which nobody said when it must go is out before filler goes on.</summary>
    public const Stage UsuallyOutBy = Stage.Fill;
}

/// <summary>
/// The one who answers, on every path alike, whether work may begin, take hours, end, leave the shop or change a panel:
/// with all that stands against it, in words.
/// </summary>
/// <param name="operations">Of one build, those that are in its sequence.</param>
/// <param name="questions">Its open ones.</param>
/// <param name="dangers">Noticed and not settled.</param>
/// <param name="metal">Temporary metal that is in.</param>
/// <param name="away">Operations whose pieces are at a supplier, with the name of the batch.</param>
public sealed class Gatekeeper(
    IReadOnlyDictionary<Guid, Operation> operations,
    IReadOnlyList<Decision> questions,
    IReadOnlyList<NoticedHazard> dangers,
    IReadOnlyList<TemporaryMetal> metal,
    IReadOnlyDictionary<Guid, string> away
)
{
    /// <summary>All that stands against an operation, what cannot be passed first.</summary>
    /// <param name="manager">Who may end a cure before its time.</param>
    public IReadOnlyList<Obstacle> Against(Operation o, WorkStep step, Instant now, bool manager = false) =>
        [
            .. Gates(o),
            .. Questions(o),
            .. OtherSide(o),
            .. Metal(o),
            .. Dangers(o),
            .. step is WorkStep.End ? Ends(o, now, manager) : [],
            .. step is WorkStep.End or WorkStep.Leave ? Order(o) : [],
        ];

    /// <summary>What stands against signing a gate besides the work before it: metal that must be out by then, and
    /// dangers of the work it checks.</summary>
    public IReadOnlyList<Obstacle> AgainstSigning(Operation gate)
    {
        // A gate of the dry build is passed with its braces in; the gates of the finish are not.
        var finish =
            gate.Gate
            is GateKind.Provisions
                or GateKind.UniformCoat
                or GateKind.FilmAndCure
                or GateKind.Surface
                or GateKind.FirstDrive
                or GateKind.Handover;
        return finish
            ?
            [
                .. metal
                    .Where(m => m.OutBy <= gate.Stage || gate.Gate is GateKind.FirstDrive or GateKind.Handover)
                    .Select(m => Out(m, "this is signed")),
            ]
            : [];
    }

    /// <summary>Operations not done yet that would put this onto a panel: what stands against them stands against
    /// noting it by hand.</summary>
    public IReadOnlyList<Obstacle> AgainstPanel(string panel, Coat? coat, Held? held, Instant now)
    {
        var would = operations
            .Values.Where(o =>
                !o.IsDone
                && o.Panels.Contains(panel)
                && ((coat is { } c && o.Coat == c) || (held is { } h && o.Held == h))
            )
            .OrderBy(o => o.Position)
            .ToList();
        if (would.Count == 0)
        {
            return held is { } hung && Hangs(hung)
                ? [.. metal.Where(m => m.Panel == panel && m.BlocksHanging).Select(InTheWay)]
                : [];
        }

        // Where one of them is free to go on, this may be its work.
        var all = would.Select(o => Against(o, WorkStep.ChangePanel, now)).ToList();
        return all.Any(a => a.Count == 0) ? [] : all[0];
    }

    /// <summary>Metal that has to be out before an operation begins.</summary>
    public static IEnumerable<TemporaryMetal> Stopping(Operation o, IEnumerable<TemporaryMetal> metal) =>
        metal.Where(m => IsInTheWay(m, o) || IsDueOut(m, o));

    /// <summary>Those of the dangers that hold an operation until they are settled.</summary>
    public static IEnumerable<NoticedHazard> Holding(Operation o, IEnumerable<NoticedHazard> dangers) =>
        dangers.Where(d => !d.Settled && Concerns(d.Hazard, o));

    /// <summary>That a danger is not settled, and which; no full stop.</summary>
    public static string Unsettled(NoticedHazard d) =>
        $"{WordsOf(d.Hazard)} {(d.Where.Length > 0 ? $"({d.Where}) " : "")}is not settled";

    private IEnumerable<Obstacle> Gates(Operation o) =>
        OperationOrder
            .ShutGatesBefore(o, operations)
            .Select(g => new Obstacle(ObstacleKind.Gate, $"Not signed yet: {g.Name}.", g.Id));

    private IEnumerable<Obstacle> Questions(Operation o) =>
        questions
            .Where(q => q.Stops(o.Id))
            .Select(q => new Obstacle(
                ObstacleKind.Question,
                $"This waits for an answer: {q.Question}. A manager can let it go on, with a reason.",
                q.Id
            ));

    private IEnumerable<Obstacle> OtherSide(Operation o)
    {
        var onJig = operations.Values.Any(x => x.Terms.Hold?.Station == StationKind.Jig);
        return
            !onJig && o.Terms.ClosedUntil is { } until && operations.TryGetValue(until, out var other) && !other.IsDone
            ?
            [
                new(
                    ObstacleKind.OtherSide,
                    $"This side is the reference and stays closed until the other one is signed off: {other.Name}.",
                    other.Id
                ),
            ]
            : [];
    }

    private IEnumerable<Obstacle> Metal(Operation o) =>
        metal
            .Where(m => IsInTheWay(m, o))
            .Select(InTheWay)
            .Concat(metal.Where(m => IsDueOut(m, o)).Select(m => Out(m, "this coat")));

    private static bool IsInTheWay(TemporaryMetal m, Operation o) =>
        o.Panels.Contains(m.Panel) && m.BlocksHanging && o.Held is { } held && Hangs(held);

    private static bool IsDueOut(TemporaryMetal m, Operation o) =>
        o.Coat is not null
        && o.Stage is >= Stage.Epoxy and <= Stage.Polish
        && o.Stage >= m.OutBy
        && (o.Panels.Count == 0 || o.Panels.Contains(m.Panel));

    private IEnumerable<Obstacle> Dangers(Operation o) =>
        Holding(o, dangers)
            .Select(d => new Obstacle(ObstacleKind.Danger, $"{Unsettled(d)}. {Cautions.Text(d.Hazard)}", d.Id));

    private IEnumerable<Obstacle> Ends(Operation o, Instant now, bool manager)
    {
        if (o.Kind == OperationKind.Outside && away.TryGetValue(o.Id, out var batch))
        {
            yield return new(ObstacleKind.Away, $"“{batch}” is away: it is done when the batch is counted in.", o.Id);
        }

        if (o.Kind == OperationKind.Cure && !manager && !(o.CuredAt(operations) <= now))
        {
            yield return new(
                ObstacleKind.Cure,
                o.CuredAt(operations) is null
                    ? "This has not begun to cure: what comes before is not done."
                    : "This still cures. The manager can end it earlier.",
                o.Id
            );
        }
    }

    private IEnumerable<Obstacle> Order(Operation o) =>
        o
            .After.Select(a => operations.GetValueOrDefault(a.Operation))
            .Where(b => b is { IsDone: false } && b.Kind != OperationKind.Gate)
            .Select(b => new Obstacle(
                ObstacleKind.Order,
                $"Before this comes {b!.Name}, which is not done. Say why the order is another.",
                b.Id,
                Asks: true
            ));

    private static bool Hangs(Held held) => held is Held.Loose or Held.Clamped or Held.Screwed or Held.Bolted;

    private static Obstacle InTheWay(TemporaryMetal m) =>
        new(ObstacleKind.TemporaryMetal, $"Temporary metal is in the way: {m.What}. Note it as out first.", null);

    private static Obstacle Out(TemporaryMetal m, string before) =>
        new(ObstacleKind.TemporaryMetal, $"Temporary metal must be out before {before}: {m.What}.", null);

    /// <summary>The work that could disturb it. Wider than the one operation that carries the hazard: a pad is met by
    /// whoever takes things apart.</summary>
    private static bool Concerns(Hazard danger, Operation o) =>
        o.Kind == OperationKind.Work
        && (
            o.Hazard == danger
            || danger switch
            {
                Hazard.Asbestos => o.Stage is Stage.Teardown or Stage.Strip || o.Hazard is Hazard.Blasting,
                Hazard.Lead => o.Hazard is Hazard.Blasting or Hazard.Welding or Hazard.Dust or Hazard.AirTools
                    || o.Stage is Stage.Strip,
                Hazard.Fuel => o.Hazard is Hazard.Welding,
                Hazard.HighVoltage => o.Stage is Stage.Driveline
                    || o.Trade == Trade.Electric
                    || o.Hazard is Hazard.Welding,
                Hazard.Blasting => o.Stage is Stage.Strip,
                _ => false,
            }
        );

    private static string WordsOf(Hazard danger) =>
        danger switch
        {
            Hazard.Asbestos => "Suspected asbestos",
            Hazard.Lead => "Lead",
            Hazard.Fuel => "Fuel in the vehicle",
            Hazard.HighVoltage => "A traction battery",
            Hazard.Blasting => "An old coating that was not tested",
            Hazard.TwoPack => "A two-pack coating",
            _ => $"A danger ({danger.ToString().ToLowerInvariant()})",
        };
}

/// <summary>What was done although something stood against it: kept, flagged, and counting for nothing until a manager
/// has settled it.</summary>
/// <param name="Against">What stood against it, in words.</param>
public sealed record AgainstRule(
    string Against,
    string? SettledWhy = null,
    string? SettledBy = null,
    Instant? SettledAt = null
)
{
    public const int Most = 500;

    public bool IsOpen => SettledAt is null;

    /// <summary>Null where nothing stood against it.</summary>
    public static AgainstRule? Of(IReadOnlyList<Obstacle> obstacles) =>
        obstacles.Count == 0 ? null : new(Words.Shortened(string.Join(" ", obstacles.Select(o => o.Words)), Most));

    /// <summary>The manager has looked at it and says what holds.</summary>
    public AgainstRule Settle(string why, string by, Instant at)
    {
        Refusal.When(!IsOpen, "id", $"{SettledBy} has settled this already.");
        return this with { SettledWhy = Refusal.Text(why, "reason", 300), SettledBy = by, SettledAt = at };
    }
}
