using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan;

/// <summary>Everything a plan is made from, on the calendar's axis of minutes. No clock and no database behind
/// it.</summary>
/// <param name="Builds">In order of priority.</param>
public sealed record PlanProblem(
    long Now,
    WorkCalendar Calendar,
    IReadOnlyList<PlanPerson> People,
    IReadOnlyList<PlanStation> Stations,
    IReadOnlyList<PlanBuild> Builds
)
{
    public IReadOnlyList<PlanSupplier> Suppliers { get; init; } = [];

    /// <summary>Things that are shared and run out: clamps, trestles, the compressor.</summary>
    public IReadOnlyList<PlanStock> Stock { get; init; } = [];

    /// <summary>Kinds of work that may not go on in one air space at one moment.</summary>
    public IReadOnlyList<AirRule> Air { get; init; } = [];
    public IReadOnlyList<CrowdRule> Crowds { get; init; } = [];

    /// <summary>What it takes to move a vehicle from place to place.</summary>
    public PlanMoves Moves { get; init; } = new();

    /// <summary>The mean share of a stage's hours that is found later, in futures; none: nothing is.</summary>
    public double FoundShare { get; init; }

    /// <summary>Who goes first where it was settled, by operation; those that are missing follow the rule.</summary>
    public IReadOnlyDictionary<string, double> Turns { get; init; } = new Dictionary<string, double>();
}

/// <summary>Somebody who can do work of the trades named.</summary>
public sealed record PlanPerson(string Id, string Name, IReadOnlySet<string> Trades, Blocked Absent)
{
    /// <summary>Time that a likely hour takes: 1.25 is slower, 0.8 quicker.</summary>
    public double Pace { get; init; } = 1;

    /// <summary>Own hours, each from a minute on; before the first, and with none, the shop's.</summary>
    public IReadOnlyList<PlanHours> Hours { get; init; } = [];

    /// <summary>Kinds of work they are not given.</summary>
    public IReadOnlySet<string> NotGiven { get; init; } = new HashSet<string>();

    /// <summary>Times of the week that belong to one build.</summary>
    public IReadOnlyList<PlanSlot> Slots { get; init; } = [];
}

/// <summary>Working hours that hold from a minute on.</summary>
public sealed record PlanHours(long From, WorkCalendar Calendar);

/// <summary>A time of the week kept for one build. Minutes after midnight, wall time.</summary>
public sealed record PlanSlot(NodaTime.IsoDayOfWeek Day, int From, int To, string Build);

/// <summary>A move takes so long and so many people, more where the shell does not roll.</summary>
public sealed record PlanMoves(int Minutes = 15, int Hands = 1, int HandsNotRolling = 2);

/// <summary>A place of a kind, and how many builds it serves at once.</summary>
public sealed record PlanStation(string Kind, int Count)
{
    /// <summary>The kind to which vehicles are pushed out of the way.</summary>
    public const string YardKind = "Yard";

    /// <summary>Its own; none: it is as many places as its count, each called by the kind and a number.</summary>
    public string? Id { get; init; }

    /// <summary>What it is called; none: by its id.</summary>
    public string? Name { get; init; }

    /// <summary>Stretches in which some of them are not to be used: an inspection that has run out, a repair.</summary>
    public IReadOnlyList<PlanClosure> Closed { get; init; } = [];

    /// <summary>When its inspection runs out, which is assumed to be renewed in time, and what is inspected; null: none
    /// is due.</summary>
    public PlanInspection? Inspection { get; init; }

    /// <summary>What a shell must be to get there; null: anything gets there.</summary>
    public PlanDoor? Door { get; init; }
}

/// <summary>So many stations out of use, and why.</summary>
/// <param name="To">Null: until further notice.</param>
public sealed record PlanClosure(long From, long? To, int Count, string Why);

/// <summary>What has to be renewed by a minute for a place to stay open.</summary>
public sealed record PlanInspection(long Until, string What);

/// <summary>The door in front of a station, in millimetres, and the margin that is left above.</summary>
public sealed record PlanDoor(int HeightMm, int MarginMm);

/// <summary>A thing of which there are so many.</summary>
public sealed record PlanStock(string Name, int Count);

/// <summary>Two kinds of work that keep out of each other's way, everywhere or within one space.</summary>
/// <param name="OnOneVehicle">It holds for work on one vehicle, wherever that stands, in place of one air space.</param>
public sealed record AirRule(string One, string Other, string Why, bool OnOneVehicle = false);

/// <summary>While work of a kind goes on, so many places of a kind of station are nobody's.</summary>
public sealed record CrowdRule(string Kind, string Station, int Count);

/// <summary>Somebody outside with their own working days, closed days left out.</summary>
public sealed record PlanSupplier(string Id, string Name, WorkCalendar Calendar)
{
    /// <summary>When they work here, where they come to the shop; null: in the shop's hours on their days.</summary>
    public WorkCalendar? Visits { get; init; }

    /// <summary>The shop is opened for them also where it is closed.</summary>
    public bool OpensForThem { get; init; }

    /// <summary>Days on which goods cross from them to the shop; null: any day.</summary>
    public WorkCalendar? Freight { get; init; }
}

/// <summary>One build's open operations, in the order of its sequence.</summary>
public sealed record PlanBuild(string Id, string Name, IReadOnlyList<PlanOperation> Operations)
{
    /// <summary>When it is promised; null: nothing is promised.</summary>
    public long? Due { get; init; }

    /// <summary>The manager's word on who goes first: each place counts as two weeks in which its work must start
    /// sooner.</summary>
    public int Rank { get; init; }

    /// <summary>What a day of lateness counts against another build's.</summary>
    public int Weight { get; init; } = 1;

    /// <summary>Uses only what the others leave, in stretches of half an hour and more.</summary>
    public bool FillIn { get; init; }

    /// <summary>Money that may be spent, by when; nothing starts that it does not cover. Null: no limit.</summary>
    public IReadOnlyList<PlanCover>? Covered { get; init; }

    /// <summary>Sides that stay closed until the other is signed off.</summary>
    public IReadOnlyList<PlanSideLock> SideLocks { get; init; } = [];

    /// <summary>Groups of operations of which no two go on at once.</summary>
    public IReadOnlyList<IReadOnlyList<string>> OneAtATime { get; init; } = [];

    /// <summary>How the shell stands now.</summary>
    public PlanSupport? Support { get; init; }

    /// <summary>The place in which the vehicle stands, by its id, or by its kind where places have none. Null: not
    /// known, it takes none.</summary>
    public string? StandsAt { get; init; }

    /// <summary>Height of the shell on its wheels as it is now, in millimetres; null: not measured.</summary>
    public int? HeightMm { get; init; }

    /// <summary>What is to be kept free above it in a door, in millimetres; null: as the door says.</summary>
    public int? KeptFreeMm { get; init; }
}

/// <summary>From a minute on so much may be spent in all, from now on.</summary>
public sealed record PlanCover(long From, decimal InAll);

/// <summary>The operations of the reference side wait for the sign-off of the other, unless the shell stands in a
/// jig.</summary>
public sealed record PlanSideLock(string SignOff, IReadOnlyList<string> Reference);

/// <summary>How a shell stands: what on, whether that rolls, and how much it lifts it.</summary>
public sealed record PlanSupport(string State, bool Rolls, int DollyMm = 0);

/// <summary>Something to be done.</summary>
public sealed record PlanOperation
{
    public required string Id { get; init; }
    public required string Name { get; init; }

    /// <summary>The stage it belongs to, whose found work comes after its last planned work in futures; null: nothing
    /// is found.</summary>
    public string? Stage { get; init; }

    /// <summary>Likely working minutes left of each who does it; with nobody and no supplier, minutes on the
    /// clock.</summary>
    public required long Minutes { get; init; }

    /// <summary>One in five takes less; null: as the trade's record says.</summary>
    public double? Low { get; init; }

    /// <summary>One in five takes more.</summary>
    public double? High { get; init; }

    /// <summary>Null: nobody is needed (cure, transport, work outside).</summary>
    public string? Trade { get; init; }

    /// <summary>Others at the same time: the same trade again, or another.</summary>
    public IReadOnlyList<PlanHands> With { get; init; } = [];

    /// <summary>Who does it, where that is settled.</summary>
    public string? Person { get; init; }

    /// <summary>Who has begun it and goes on with it, unless somebody else would be done more than a day
    /// sooner.</summary>
    public string? GoesOn { get; init; }

    /// <summary>Whoever of them it suits best; none: whoever has the trade.</summary>
    public IReadOnlyList<string> Preferred { get; init; } = [];

    /// <summary>What kind of work it is, for people who are not given it and for the air it needs.</summary>
    public IReadOnlySet<string> Kinds { get; init; } = new HashSet<string>();

    /// <summary>The air space it happens in, where rules about air ask.</summary>
    public string? Space { get; init; }

    public string? Station { get; init; }

    /// <summary>The place in which it is to be done, by its id; null: in any of its kind.</summary>
    public string? At { get; init; }

    /// <summary>Keeps a station from its start to the end of another operation.</summary>
    public PlanHold? Hold { get; init; }

    /// <summary>What else is in use while it goes on.</summary>
    public IReadOnlyList<PlanStock> Uses { get; init; } = [];

    /// <summary>Must run within one shift.</summary>
    public bool WithoutStop { get; init; }

    /// <summary>Work that must not stop goes on through a break.</summary>
    public bool ThroughBreak { get; init; }

    /// <summary>Work outside counts in this supplier's own working days: <see cref="Minutes"/> are days x
    /// 1,440.</summary>
    public string? Supplier { get; init; }

    /// <summary>Somebody from outside does it here: <see cref="Minutes"/> are worked in the shop's hours, on the
    /// supplier's days where one is named.</summary>
    public bool Here { get; init; }

    /// <summary>What leaves together has the same batch.</summary>
    public string? Batch { get; init; }

    public IReadOnlyList<PlanLink> After { get; init; } = [];

    /// <summary>What it waits for besides other operations.</summary>
    public IReadOnlyList<PlanWait> Waits { get; init; } = [];

    /// <summary>By when it should be done by itself, whatever the build's date; only told, not enforced.</summary>
    public long? Deadline { get; init; }

    /// <summary>What it costs, against a limit of spending.</summary>
    public decimal Cost { get; init; }

    /// <summary>How the shell must stand for it.</summary>
    public IReadOnlyList<string> Needs { get; init; } = [];

    /// <summary>How the shell must not stand.</summary>
    public IReadOnlyList<string> Forbids { get; init; } = [];

    /// <summary>How the shell stands after it; null: as before.</summary>
    public PlanSupport? Sets { get; init; }

    /// <summary>By how much lower the shell stands after it, in millimetres.</summary>
    public int LowersMm { get; init; }

    /// <summary>On what its date rests besides the plan, each beginning with "if".</summary>
    public IReadOnlyList<string> Assumes { get; init; } = [];

    /// <summary>Somebody has begun it: what it was begun in stays its place until it is done.</summary>
    public bool Begun { get; init; }

    /// <summary>Whether it happens on the body, beside it, or takes the body out of the shop: then nothing goes on at
    /// it meanwhile.</summary>
    public BodyUse Body { get; init; }

    /// <summary>It goes on already (a station that is held since last week, a body that is away): nobody else's work
    /// comes before it.</summary>
    public bool UnderWay { get; init; }

    /// <summary>As what others wait for it.</summary>
    public WaitKind WaitsAs { get; init; } = WaitKind.Operation;
}

/// <summary>So many people more, of a trade.</summary>
public sealed record PlanHands(string Trade, int Count);

/// <summary>A station kept until the end of an operation.</summary>
public sealed record PlanHold(string Station, string Until);

/// <summary>Starts when <paramref name="Operation"/> has finished and <paramref name="LagMinutes"/> have passed on the
/// clock.</summary>
public sealed record PlanLink(string Operation, long LagMinutes)
{
    /// <summary>Counted from the other's start instead of its end.</summary>
    public bool FromStart { get; init; }

    /// <summary>The lag is the shop's working time (work that needs somebody about), not the clock.</summary>
    public bool Working { get; init; }

    /// <summary>Starts no later than this after the other's end (or start), on the clock; null: no window.</summary>
    public long? AtMost { get; init; }

    /// <summary>What must be done again where the window cannot be kept.</summary>
    public PlanLapse? Lapse { get; init; }

    /// <summary>When the other was finished, where it is done already and so is not in the plan.</summary>
    public long? DoneAt { get; init; }
}

/// <summary>What a window that was not kept asks for before the work can go on.</summary>
public sealed record PlanLapse(string Name, long Minutes, string Trade);

/// <summary>Something dated that must come first: a part, a supplier, a decision, a gate.</summary>
/// <param name="Until">Null: nobody knows yet; the operation is not planned until there is a date.</param>
public sealed record PlanWait(WaitKind Kind, long? Until, string Text, string? Ref = null)
{
    /// <summary>Who sends it: in a future their bias makes it come earlier or later. Null: as sure as it is.</summary>
    public string? Supplier { get; init; }
}

/// <summary>Why an operation does not start earlier.</summary>
public enum WaitKind
{
    Nothing,
    Operation,
    Cure,
    Person,
    Absence,
    Station,
    Part,
    Outside,
    Decision,
    Gate,
    Calendar,
    NotBefore,
    Deposit,
    Stock,
    Air,
    Support,
    Measurement,
    Window,
    Fault,
    Danger,
    Trade,
    Kept,
    Visit,
    Inspection,
    Body,
}

/// <summary>Why an operation does not start earlier, with what it points at.</summary>
/// <param name="Ref">What the kind says: another operation, or a part, job, decision or person; null: none of
/// them.</param>
public sealed record PlanReason(WaitKind Kind, string Text, string? Ref = null)
{
    public static readonly PlanReason CanStart = new(WaitKind.Nothing, "can start now");

    /// <summary>The reason with its date, as it is spoken.</summary>
    public string Dated(WorkCalendar calendar)
    {
        if (
            Until is not { } until
            || Kind
                is WaitKind.Nothing
                    or WaitKind.Operation
                    or WaitKind.Cure
                    or WaitKind.Support
                    or WaitKind.Window
                    or WaitKind.NotBefore
                    or WaitKind.Fault
        )
        {
            return Text;
        }

        var at = calendar.Local(until);
        var midnight = at.TimeOfDay == NodaTime.LocalTime.Midnight;
        var day = (midnight ? at.PlusDays(-1) : at).ToString(
            midnight ? "ddd d MMM" : "ddd d MMM HH:mm",
            System.Globalization.CultureInfo.InvariantCulture
        );
        return Kind switch
        {
            WaitKind.Part or WaitKind.Outside or WaitKind.Measurement =>
                $"{Text}, here {at.ToString("ddd d MMM", System.Globalization.CultureInfo.InvariantCulture)}",
            WaitKind.Decision or WaitKind.Danger => $"{Text}, due {day}",
            _ => $"{Text} until {day}",
        };
    }

    /// <summary>Until when it holds; null: nobody knows, or it has no end of its own.</summary>
    public long? Until { get; init; }

    /// <summary>What comes before it cures, dries or sets, for so many minutes.</summary>
    public static PlanReason Cures(long minutes, string after, string? name = null) =>
        new(WaitKind.Cure, $"{name ?? "it"} cures {minutes / 60.0:0.#} h first", after);
}

/// <summary>One step of a chain of reasons.</summary>
/// <param name="Build">The build's name.</param>
/// <param name="Slack">Minutes by which it can be later without moving the end of its build.</param>
public sealed record WhyStep(string Operation, string Name, string Build, long Start, PlanReason Reason, long Slack);

/// <summary>Why an operation does not start sooner.</summary>
/// <param name="Roots">What would have to go, all of it together, with everything else as it is; none: it starts as
/// soon as it can.</param>
/// <param name="Steps">The operation itself first, then what it waits for, to where the roots are.</param>
public sealed record PlanWhy(IReadOnlyList<PlanReason> Roots, IReadOnlyList<WhyStep> Steps)
{
    public static readonly PlanWhy None = new([], []);

    /// <summary>When it would start with the roots gone and everything else as it is; null: there are none.</summary>
    public long? WithoutThem { get; init; }
}

/// <summary>When, by whom and why then.</summary>
/// <param name="Said">Why then; null: found when somebody asks.</param>
public sealed record PlannedOperation(
    string Id,
    string Build,
    long Start,
    long Finish,
    string? Person,
    IReadOnlyList<Span> Worked,
    PlanReason? Said = null
)
{
    /// <summary>What keeps it from starting sooner.</summary>
    public PlanReason Reason => Said ?? Ask?.Invoke().Steps.FirstOrDefault()?.Reason ?? PlanReason.CanStart;

    internal Func<PlanWhy>? Ask { get; init; }

    /// <summary>All who do it, the first of them <see cref="Person"/>.</summary>
    public IReadOnlyList<string> People
    {
        get => field ?? (Person is null ? [] : [Person]);
        init;
    }

    public string? Station { get; init; }

    /// <summary>The place in which the vehicle stands for it, by its id; null: it is not done on the vehicle, or nobody
    /// knows.</summary>
    public string? Place { get; init; }

    /// <summary>On what its date rests, each beginning with "if": an inspection that is renewed, temporary metal that
    /// is out. Null: on nothing.</summary>
    public string? Assumes { get; init; }

    /// <summary>Later than its own deadline.</summary>
    public bool MissesDeadline { get; init; }

    /// <summary>The last start inside its windows, as what they follow is done or planned; null: it has none.</summary>
    public long? StartBy { get; init; }
}

/// <summary>What the plan says of a build.</summary>
/// <param name="Held">What holds it now; null: the reason of the operation that comes first.</param>
public sealed record PlannedBuild(string Id, long Finish, string? First, PlanReason? Held = null)
{
    /// <summary>What holds it now: the reason of the operation that comes first.</summary>
    public PlanReason Holds => Held ?? Ask?.Invoke() ?? PlanReason.CanStart;

    internal Func<PlanReason>? Ask { get; init; }

    /// <summary>Whether some of it has no date in the plan, so that the finish is only of the rest.</summary>
    public bool Partly { get; init; }

    /// <summary>Minutes on the clock after what was promised; nothing promised: 0.</summary>
    public long Late { get; init; }
}

/// <summary>Work that a window which cannot be kept brings with it.</summary>
/// <param name="Id">Its id in the plan.</param>
/// <param name="Before">The operation that it goes before.</param>
public sealed record InsertedOperation(string Id, string Build, string Name, string After, string Before, string Why);

/// <summary>Work that cannot be reached as the shell is held now, and what it waits for to be held otherwise.</summary>
public sealed record OutOfReach(string Operation, string Build, string Why, string? Until);

/// <summary>A vehicle in one place, worked on or not.</summary>
/// <param name="Place">By its id; null: in none that is known, or out of the shop.</param>
/// <param name="To">Null: nothing moves it.</param>
/// <param name="For">The operation that it is taken there for; null: it stands there already, or makes room for
/// somebody.</param>
/// <param name="MovedBy">Who pushes it there, in the minutes before it is there.</param>
public sealed record PlannedStay(
    string Build,
    string? Place,
    long From,
    long? To,
    string? For,
    Span? Move,
    IReadOnlyList<string> MovedBy
)
{
    /// <summary>It is out of the shop.</summary>
    public bool Gone { get; init; }
}

/// <summary>An operation that has no date, and why; the rest of the plan stands.</summary>
public sealed record Unplanned(string Operation, string Build, PlanReason Reason);

/// <summary>A plan of all builds.</summary>
public sealed record ShopPlan(
    IReadOnlyDictionary<string, PlannedOperation> Operations,
    IReadOnlyDictionary<string, PlannedBuild> Builds
)
{
    public IReadOnlyList<InsertedOperation> Inserted { get; init; } = [];
    public IReadOnlyList<Unplanned> Unplanned { get; init; } = [];

    /// <summary>What the present support does not allow; each list is empty before the shell moves on from the next
    /// one.</summary>
    public IReadOnlyList<OutOfReach> OutOfReach { get; init; } = [];

    /// <summary>Where vehicles stand, build by build, one place after the other.</summary>
    public IReadOnlyList<PlannedStay> Stays { get; init; } = [];

    /// <summary>Sum over builds of weight x days late.</summary>
    public double WeightedDaysLate { get; init; }

    /// <summary>The order that it was made by, for <see cref="PlanProblem.Turns"/>.</summary>
    public IReadOnlyDictionary<string, double> Turns { get; init; } = new Dictionary<string, double>();

    /// <summary>Why an operation does not start sooner, each time something that was tried.</summary>
    public PlanWhy Why(string operation) => Reasons?.Invoke(operation) ?? PlanWhy.None;

    internal Func<string, PlanWhy>? Reasons { get; init; }

    /// <summary>Minutes by which an operation can be later without moving the end of its build, everything else at its
    /// planned length; null: it has no date.</summary>
    /// <remarks>Source: total float of the critical path method, over the links between operations.</remarks>
    public long? SlackOf(string operation) => Slacks?.Invoke(operation);

    internal Func<string, long?>? Slacks { get; init; }

    /// <summary>The chain of an operation as it is placed again without its roots; for tests.</summary>
    internal Func<string, IReadOnlyList<PlannedOperation>>? Again { get; init; }

    /// <summary>The reason of an operation, the reason of what that goes on to, and so on to where its roots
    /// are.</summary>
    public IReadOnlyList<(string Operation, PlanReason Reason)> Chain(string operation) =>
        [.. Why(operation).Steps.Select(s => (s.Operation, s.Reason))];
}

/// <summary>Makes plans.</summary>
public interface IPlanner
{
    /// <summary>Plans all builds; the same problem always gives the same plan.</summary>
    ShopPlan Plan(PlanProblem problem);
}
