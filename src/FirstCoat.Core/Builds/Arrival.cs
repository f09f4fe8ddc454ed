using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Builds;

/// <summary>In which state a vehicle came.</summary>
public enum ArrivedAs
{
    Whole,
    RollingShell,
    BareBody,
    OnBorrowedChassis,
    InBoxes,
}

/// <summary>What it is driven or started by.</summary>
public enum BatteryKind
{
    None,
    Starter,
    Traction,
}

/// <summary>From this serial number on the maker fitted something else: the number picks the parts, not the
/// year.</summary>
public sealed record SerialBreak(int At, string Before, string From);

/// <summary>A kind of piece that the client promised to bring.</summary>
/// <param name="By">Until when the rest is asked for; null: nobody has asked.</param>
/// <param name="PartId">The line of the buying list that waits for it.</param>
public sealed record PromisedPiece(
    Guid Id,
    string What,
    int Promised,
    int Came,
    LocalDate? AskedOn,
    LocalDate? By,
    Guid? PartId
)
{
    public int Missing => Math.Max(0, Promised - Came);
}

/// <summary>A piece of another car that stands in for one that is missing.</summary>
/// <param name="Whose">Whose it is: a build's number or a name.</param>
public sealed record StandIn(Guid Id, string What, string Whose, LocalDate ReturnBy, LocalDate? ReturnedOn);

/// <summary>A danger that was noticed when the vehicle came.</summary>
/// <param name="Next">What is done about it, such as who removes it and when.</param>
/// <param name="Settled">It is gone, or the way to work with it is settled: from then on it holds no work.</param>
public sealed record NoticedHazard(Guid Id, Hazard Hazard, string Where, string Next, bool Settled)
{
    /// <summary>The day by which it is to be settled; null: nobody knows yet, and the work that it concerns has no
    /// date.</summary>
    public LocalDate? ExpectedOn { get; init; }

    /// <summary>By which method, who said so, and when; empty while it is not settled.</summary>
    public string Method { get; init; } = "";

    public string SettledBy { get; init; } = "";
    public Instant? SettledAt { get; init; }
}

/// <summary>A way to lower what stands too high for a door.</summary>
public sealed record Lowering(string How, int ByMm);

/// <summary>Heights that decide which doors the vehicle passes, in millimetres.</summary>
public sealed record Heights(int BodyMm, int DollyMm, int KeptFreeMm, List<Lowering> Lower)
{
    public int OnDollyMm => BodyMm + DollyMm;

    /// <summary>The body as low as the best known way makes it; how it is done is told where the vehicle's doors
    /// are.</summary>
    public int LowestMm => BodyMm - Lower.Select(l => l.ByMm).DefaultIfEmpty(0).Max();

    /// <exception cref="Refusal">Names the heights that no vehicle has.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(BodyMm is < 200 or > 6000, "bodyMm", "The body is between 20 cm and 6 m high."),
            () => Refusal.When(DollyMm is < 0 or > 2000, "dollyMm", "A dolly is between 0 and 2 m high."),
            () => Refusal.When(KeptFreeMm is < 0 or > 1000, "keptFreeMm", "Between nothing and a metre is kept free."),
            () =>
                Refusal.When(
                    Lower.Count > 8
                        || Lower.Any(l =>
                            string.IsNullOrWhiteSpace(l.How) || l.How.Length > 60 || l.ByMm is < 1 or > 3000
                        ),
                    "lower",
                    "Each way to lower it says how and by how many millimetres."
                )
        );
}

/// <summary>One picture of the arrival round.</summary>
public sealed record RoundShot(string Station, Guid PhotoId);

/// <summary>How a vehicle came: what it is, what came with it, what is missing, what is dangerous, where it
/// stands.</summary>
public sealed class Arrival : Recorded
{
    public required Guid BuildId { get; init; }
    public LocalDate CameOn { get; set; }
    public ArrivedAs As { get; set; }

    /// <summary>Whose chassis or wheels it stands on, where they are not its own.</summary>
    public string OnWhose { get; set; } = "";

    /// <summary>The running number in the maker's series; null: not read.</summary>
    public int? Serial { get; set; }

    public List<SerialBreak> Breaks { get; set; } = [];

    /// <summary>As read; the unit is the clock's own.</summary>
    public int? Odometer { get; set; }

    public int Keys { get; set; }

    /// <summary>What is still in it: fuel, coolant, brake fluid, refrigerant.</summary>
    public List<string> Fluids { get; set; } = [];

    public BatteryKind Battery { get; set; }

    /// <summary>Where its loose things lie.</summary>
    public string Storage { get; set; } = "";

    public List<PromisedPiece> Promised { get; set; } = [];
    public List<string> CameUnasked { get; set; } = [];
    public List<StandIn> StandIns { get; set; } = [];

    /// <summary>What earlier owners changed and is to be undone.</summary>
    public List<string> ToUndo { get; set; } = [];

    public List<NoticedHazard> Hazards { get; set; } = [];
    public Heights? Heights { get; set; }
    public List<RoundShot> Round { get; set; } = [];

    public int PiecesPromised => Promised.Sum(p => p.Promised);

    /// <summary>Of the promised ones; more than promised of a kind is no more than promised.</summary>
    public int PiecesCame => Promised.Sum(p => Math.Min(p.Came, p.Promised));

    /// <summary>Checks the record.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(CameOn.Year is < 1990 or > 2100, "cameOn", "The date must be between 1990 and 2100."),
            () =>
                Refusal.When(
                    As == ArrivedAs.OnBorrowedChassis && string.IsNullOrWhiteSpace(OnWhose),
                    "onWhose",
                    "Say whose chassis it stands on."
                ),
            () => Refusal.When(OnWhose.Length > 100, "onWhose", "At most 100 characters."),
            () => Refusal.When(Storage.Length > 100, "storage", "At most 100 characters."),
            () =>
                Refusal.When(
                    Serial is < 0 or > 100_000_000,
                    "serial",
                    "The serial number must be between 0 and 100 million."
                ),
            () =>
                Refusal.When(
                    Odometer is < 0 or > 10_000_000,
                    "odometer",
                    "The reading must be between 0 and ten million."
                ),
            () => Refusal.When(Keys is < 0 or > 100, "keys", "Between none and a hundred keys."),
            () =>
                Refusal.When(
                    Breaks.Count > 20
                        || Breaks.Any(b => b.At < 0 || b.Before.Length > 100 || b.From.Length > 100)
                        || Breaks.Select(b => b.At).Distinct().Count() != Breaks.Count,
                    "breaks",
                    "Each break has a number of its own, and up to 100 characters before and from it."
                ),
            () =>
                Refusal.When(
                    Fluids.Count > 12
                        || CameUnasked.Count > 60
                        || ToUndo.Count > 60
                        || Fluids
                            .Concat(CameUnasked)
                            .Concat(ToUndo)
                            .Any(t => string.IsNullOrWhiteSpace(t) || t.Length > 200),
                    "toUndo",
                    "At most sixty lines of up to 200 characters."
                ),
            () =>
                Refusal.When(
                    Promised.Count > 200
                        || Promised.Any(p =>
                            string.IsNullOrWhiteSpace(p.What)
                            || p.What.Length > 100
                            || p.Promised is < 1 or > 10_000
                            || p.Came is < 0 or > 10_000
                        ),
                    "promised",
                    "Each promised piece has a name and a count from 1 on."
                ),
            () =>
                Refusal.When(
                    StandIns.Any(s =>
                        string.IsNullOrWhiteSpace(s.What)
                        || string.IsNullOrWhiteSpace(s.Whose)
                        || s.What.Length > 100
                        || s.Whose.Length > 100
                    ),
                    "standIns",
                    "Say what stands in and whose it is."
                ),
            () =>
                Refusal.When(
                    Hazards.Any(h => !Enum.IsDefined(h.Hazard) || h.Where.Length > 100 || h.Next.Length > 200),
                    "hazards",
                    "A danger has a kind, a place and what is done about it."
                ),
            () => Heights?.Check(),
            () =>
                Refusal.When(
                    Round.Select(r => r.Station).Distinct().Count() != Round.Count,
                    "round",
                    "Each place of the round has one picture."
                )
        );

    /// <summary>Settles a danger by the method that is used; there is no other way past it.</summary>
    /// <exception cref="Refusal">It is settled, or nobody said how.</exception>
    public void Settle(Guid hazard, string method, string by, Instant at)
    {
        var noticed = Hazards.FirstOrDefault(h => h.Id == hazard) ?? throw Refusal.Missing("danger");
        Refusal.When(noticed.Settled, "id", $"{noticed.SettledBy} has settled this already.");
        var said = Refusal.Text(method, "method", 300);
        Hazards =
        [
            .. Hazards.Select(h =>
                h.Id == hazard ? h with { Settled = true, Method = said, SettledBy = by, SettledAt = at } : h
            ),
        ];
    }

    /// <summary>Takes dangers as they are entered: none that was noticed is lost, and none is settled in
    /// passing.</summary>
    public void Notice(IReadOnlyList<NoticedHazard> entered)
    {
        var known = Hazards.ToDictionary(h => h.Id);
        Refusal.When(
            entered.Any(h => h.Settled && !(known.TryGetValue(h.Id, out var was) && was.Settled)),
            "hazards",
            "A danger is settled by itself, by a manager, with the method."
        );
        Refusal.When(
            known.Keys.Except(entered.Select(h => h.Id)).Any(),
            "hazards",
            "A danger that was noticed stays in the record: settle it."
        );
        Refusal.When(
            entered.Any(h => known.TryGetValue(h.Id, out var was) && was.Hazard != h.Hazard),
            "hazards",
            "What kind of danger it is stays: settle it and note the other."
        );
        Hazards =
        [
            .. entered.Select(h =>
                known.TryGetValue(h.Id, out var was)
                    ? was with
                    {
                        Where = h.Where,
                        Next = h.Next,
                        ExpectedOn = h.ExpectedOn,
                    }
                    : h
            ),
        ];
    }

    /// <summary>Asks the client for what is missing of a promised piece.</summary>
    /// <returns>The piece as it stands now.</returns>
    public PromisedPiece Ask(Guid piece, LocalDate by, LocalDate on, Guid part)
    {
        var p = Promised.FirstOrDefault(x => x.Id == piece) ?? throw Refusal.Missing("piece");
        Refusal.When(p.Missing == 0, "id", "All of it has come.");
        Refusal.When(by < on, "by", "That day has passed.");
        var asked = p with { AskedOn = on, By = by, PartId = p.PartId ?? part };
        Promised = Promised.Select(x => x.Id == piece ? asked : x).ToList();
        return asked;
    }

    /// <summary>What a serial number says about each break.</summary>
    public IReadOnlyList<(SerialBreak Break, string Fitted, int Past)> Fitted() =>
        Serial is not { } n
            ? []
            : Breaks.OrderBy(b => b.At).Select(b => (b, n >= b.At ? b.From : b.Before, n - b.At)).ToList();

    /// <summary>How it passes a door; what would make it pass where it does not.</summary>
    public DoorPass? Passes(Station station) =>
        Heights is not { } h || station.DoorHeightMm is not { } door ? null : DoorPass.Of(h, door);
}

/// <summary>Whether it goes through a door, and with what it would.</summary>
/// <param name="SpareMm">What is left over the height and what is kept free; negative: too low.</param>
/// <param name="Ways">Ways to lower it that would do, with what each leaves.</param>
public sealed record DoorPass(int DoorMm, double SpareMm, bool Fits, IReadOnlyList<(Lowering Way, double SpareMm)> Ways)
{
    /// <summary>Compares heights. Source: counting, as <see cref="DoorClearance"/>.</summary>
    public static DoorPass Of(Heights h, int doorMm)
    {
        var now = DoorClearance.Of(h.BodyMm, h.DollyMm, h.KeptFreeMm, doorMm);
        var ways = now.Fits
            ? []
            : h
                .Lower.Select(l => (l, SpareMm: now.SpareMm + l.ByMm))
                .Where(w => w.SpareMm >= 0)
                .OrderByDescending(w => w.SpareMm)
                .ToList();
        return new(doorMm, now.SpareMm, now.Fits, ways);
    }
}
