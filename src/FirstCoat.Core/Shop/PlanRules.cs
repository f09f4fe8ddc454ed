using FirstCoat.Core.Kernel;

namespace FirstCoat.Core.Shop;

/// <summary>How a shell is held: on its own chassis or stands, in a jig, on a level cart, in a rotisserie, on its
/// wheels.</summary>
public enum SupportState
{
    OwnChassis,
    Jig,
    Cart,
    Rotisserie,
    Wheels,
}

/// <summary>What a way of holding the shell means for moving it.</summary>
/// <param name="LiftMm">How much higher the shell stands than on its wheels.</param>
public sealed record SupportFacts(SupportState State, bool Rolls, int LiftMm);

/// <summary>A thing that is shared and runs out: clamps, trestles, the compressor.</summary>
public sealed record SharedThing(string Name, int Count);

/// <summary>Two kinds of work that may not go on in one air space at one moment, or on one vehicle.</summary>
public sealed record AirClash(WorkKind One, WorkKind Other, string Why, bool OnOneVehicle = false);

/// <summary>Work of this kind takes so many places of a kind of station away from everybody while it goes on, as
/// blasting crowds what lies beside it.</summary>
public sealed record Crowding(WorkKind Work, StationKind Closes, int Count);

/// <summary>To make a kind of place ready, and to clear it afterwards, takes so many minutes of work, of all hands
/// together.</summary>
public sealed record MakingReady(StationKind Place, int Minutes);

/// <summary>What the plan must know of the shop besides its week, people and stations.</summary>
public sealed record PlanRules
{
    public List<SharedThing> Things { get; init; } = [];

    /// <summary>The usual caution; a shop adds its own. Local codes and data sheets come first.</summary>
    public List<AirClash> Air { get; init; } =
    [
        new(WorkKind.Grinding, WorkKind.WetCoat, "grinding dust and a wet coat share the air"),
        new(WorkKind.Blasting, WorkKind.WetCoat, "blasting and a wet coat share the air"),
        new(WorkKind.HotWork, WorkKind.OpenFuel, "hot work beside open fuel"),
        new(WorkKind.HotWork, WorkKind.LiveBattery, "hot work beside a live battery"),
    ];

    /// <summary>What nobody takes off the list: a vehicle is not cut, ground or welded while it is lifted or its
    /// support
    /// is changed.</summary>
    public static readonly IReadOnlyList<AirClash> Always =
    [
        new(WorkKind.HotWork, WorkKind.Heavy, "no welding or cutting while it is lifted or put on its support", true),
        new(WorkKind.Grinding, WorkKind.Heavy, "no grinding or cutting while it is lifted or put on its support", true),
    ];

    /// <summary>The shop's rules and those that always hold.</summary>
    public IEnumerable<AirClash> Clashes() => Air.Concat(Always);

    /// <summary>What some work closes or crowds beside it; the shop's own matter, so none is usual.</summary>
    public List<Crowding> Crowds { get; init; } = [];

    /// <summary>What making ready takes; the shop's own matter, so none is usual. The plan does not book it: it tells
    /// what is saved where work shares it.</summary>
    public List<MakingReady> Ready { get; init; } = [];

    public List<SupportFacts> Supports { get; init; } =
    [
        new(SupportState.OwnChassis, true, 0),
        new(SupportState.Jig, false, 0),
        new(SupportState.Cart, true, 450),
        new(SupportState.Rotisserie, true, 600),
        new(SupportState.Wheels, true, 0),
    ];

    /// <summary>A vehicle is moved from place to place in so long, by so many people, and by so many where the shell
    /// does not roll.</summary>
    public int MoveMinutes { get; init; } = 15;

    public int MoveHands { get; init; } = 1;
    public int MoveHandsNotRolling { get; init; } = 2;

    /// <summary>Kept free under a door, in millimetres.</summary>
    public int DoorMarginMm { get; init; } = 40;

    /// <summary>What is known of a way of holding the shell; one that is not listed does not roll.</summary>
    public SupportFacts Of(SupportState state) =>
        Supports.FirstOrDefault(s => s.State == state) ?? new(state, false, 0);

    /// <summary>Minutes of work to make a kind of place ready; nothing said: 0.</summary>
    public int ReadyMinutes(StationKind place) => Ready.Find(r => r.Place == place)?.Minutes ?? 0;

    /// <summary>Checks the rules by themselves.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    Things.Count > 60
                        || Things.Any(t =>
                            string.IsNullOrWhiteSpace(t.Name) || t.Name.Length > 60 || t.Count is < 1 or > 1000
                        ),
                    "things",
                    "Each shared thing has a name of up to 60 characters and a number of 1 to 1,000."
                ),
            () =>
                Refusal.When(
                    Things.Select(t => t.Name).Distinct().Count() != Things.Count,
                    "things",
                    "Each shared thing stands once."
                ),
            () =>
                Refusal.When(
                    Air.Count > 30 || Air.Any(a => string.IsNullOrWhiteSpace(a.Why) || a.Why.Length > 120),
                    "air",
                    "Each rule about air says why, in up to 120 characters."
                ),
            () =>
                Refusal.When(
                    Crowds.Count > 30 || Crowds.Any(c => c.Count is < 1 or > 100),
                    "crowds",
                    "Work closes between one and a hundred places of a kind."
                ),
            () =>
                Refusal.When(
                    Crowds.Select(c => (c.Work, c.Closes)).Distinct().Count() != Crowds.Count,
                    "crowds",
                    "Each kind of work stands once for each kind of place."
                ),
            () =>
                Refusal.When(
                    Ready.Any(r => r.Minutes is < 1 or > 6000)
                        || Ready.Select(r => r.Place).Distinct().Count() != Ready.Count,
                    "ready",
                    "Each kind of place stands once, with up to 100 hours to make it ready."
                ),
            () =>
                Refusal.When(
                    Supports.Any(s => s.LiftMm is < 0 or > 5000),
                    "supports",
                    "A shell stands between 0 and 5 m higher."
                ),
            () =>
                Refusal.When(
                    Supports.Select(s => s.State).Distinct().Count() != Supports.Count,
                    "supports",
                    "Each way of holding the shell stands once."
                ),
            () =>
                Refusal.When(
                    MoveMinutes is < 1 or > 240,
                    "moveMinutes",
                    "A move takes between a minute and four hours."
                ),
            () =>
                Refusal.When(
                    MoveHands is < 1 or > 2 || MoveHandsNotRolling is < 1 or > 2,
                    "moveHands",
                    "One or two people move a vehicle."
                ),
            () =>
                Refusal.When(
                    DoorMarginMm is < 0 or > 1000,
                    "doorMarginMm",
                    "Between nothing and a metre is kept free under a door."
                )
        );
}
