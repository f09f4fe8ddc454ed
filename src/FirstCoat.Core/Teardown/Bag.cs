using System.Text.RegularExpressions;
using FirstCoat.Core.Bodies;
using NodaTime;

namespace FirstCoat.Core.Teardown;

/// <summary>Where what came off is now.</summary>
public enum BagState
{
    OnShelf,
    AtSupplier,
    OnCar,
    WithClient,
    Sold,
    Scrapped,
    NotFound,
}

/// <summary>Pieces of one kind.</summary>
public sealed record BagPiece(string Name, int Count);

/// <summary>Fasteners of one kind, as they were taken out.</summary>
/// <param name="Kind">Screw, bolt, clip.</param>
/// <param name="Thread">Such as M6 x 20.</param>
/// <param name="Shows">Whether it is seen on the finished vehicle.</param>
/// <param name="Destroyed">How many did not survive their removal.</param>
public sealed record BagFastener(
    string Kind,
    string Head,
    string Thread,
    string Finish,
    int Count,
    bool Shows,
    int Destroyed
)
{
    /// <summary>In one line: "8 screws, oval head M4 x 16, chrome".</summary>
    public string Words =>
        string.Join(
            ", ",
            new[]
            {
                $"{Count} {Kind}{(Count == 1 || Kind.EndsWith('s') ? "" : "s")}",
                $"{Head} {Thread}".Trim(),
                Finish,
            }.Where(t => t.Length > 0)
        );
}

/// <summary>One change of place.</summary>
public sealed class BagMove : Recorded
{
    public required Guid BuildId { get; init; }
    public required Guid BagId { get; init; }
    public required BagState State { get; init; }
    public required string Place { get; init; }
    public string Note { get; init; } = "";
    public required string By { get; init; }
    public required Instant At { get; init; }
}

/// <summary>
/// What came off together and is kept together. Its number is the shop's, grows without limit and is never used again;
/// the side belongs to it, so that left and right cannot share a bag.
/// </summary>
public sealed partial class Bag : Recorded
{
    /// <summary>Characters of what it holds, and of where it lies.</summary>
    public const int WhatMost = 100,
        PlaceMost = 60;

    public required Guid BuildId { get; init; }
    public required int Code { get; init; }
    public required PanelSide Side { get; init; }
    public string What { get; set; } = "";

    /// <summary>Where on the vehicle it was.</summary>
    public string From { get; set; } = "";

    public List<BagPiece> Pieces { get; set; } = [];
    public List<BagFastener> Fasteners { get; set; } = [];

    /// <summary>Rack, shelf and tray, such as C3-7, or a place in words; empty while it is not on a shelf.</summary>
    public string Place { get; private set; } = "";

    public BagState State { get; private set; }

    /// <summary>The operation that needs it as a pattern.</summary>
    public Guid? PatternFor { get; set; }

    public Guid? PhotoId { get; set; }

    /// <summary>Closed without a photo, and somebody said so.</summary>
    public bool NoPhoto { get; set; }

    public required string OffBy { get; init; }
    public required Instant OffAt { get; init; }

    /// <summary>As people say and write it: "214 L".</summary>
    public string Label =>
        Side switch
        {
            PanelSide.Left => $"{Code} L",
            PanelSide.Right => $"{Code} R",
            _ => $"{Code}",
        };

    /// <summary>What its square code holds.</summary>
    public string Scan => $"FC {Label}";

    public int PieceCount => Pieces.Sum(p => p.Count);

    public int FastenerCount => Fasteners.Sum(f => f.Count);

    /// <summary>Whether the other is the same thing from the other side of the same vehicle.</summary>
    public bool IsTwinOf(Bag other) =>
        Side != PanelSide.Centre
        && other.Side != PanelSide.Centre
        && other.Side != Side
        && other.BuildId == BuildId
        && string.Equals(other.What, What, StringComparison.OrdinalIgnoreCase);

    /// <summary>Checks the bag by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => What = Refusal.Text(What, "what", WhatMost),
            () => Refusal.When(From.Length > 200, "from", "At most 200 characters."),
            () =>
                Refusal.When(PieceCount + FastenerCount == 0, "pieces", "A bag holds at least one piece or fastener."),
            () =>
                Refusal.When(
                    Pieces.Count > 50
                        || Pieces.Any(p =>
                            string.IsNullOrWhiteSpace(p.Name) || p.Name.Length > 100 || p.Count is < 1 or > 10_000
                        ),
                    "pieces",
                    "Each kind of piece has a name and a count from 1 on."
                ),
            () =>
                Refusal.When(
                    Fasteners.Count > 50
                        || Fasteners.Any(f =>
                            string.IsNullOrWhiteSpace(f.Kind)
                            || f.Kind.Length > 40
                            || f.Head.Length > 40
                            || f.Thread.Length > 40
                            || f.Finish.Length > 40
                            || f.Count is < 1 or > 10_000
                        ),
                    "fasteners",
                    "Each kind of fastener has a name and a count from 1 on."
                ),
            () =>
                Refusal.When(
                    Fasteners.Any(f => f.Destroyed < 0 || f.Destroyed > f.Count),
                    "destroyed",
                    "No more are destroyed than came out."
                ),
            () =>
                Refusal.When(
                    Side == PanelSide.Left && Pieces.Any(p => RightWord().IsMatch(p.Name)),
                    "pieces",
                    "This is a left bag: what came off the right goes into its own."
                ),
            () =>
                Refusal.When(
                    Side == PanelSide.Right && Pieces.Any(p => LeftWord().IsMatch(p.Name)),
                    "pieces",
                    "This is a right bag: what came off the left goes into its own."
                )
        );

    /// <summary>Moves it, to a place on the shelves or away.</summary>
    /// <param name="patternOpen">Name of the operation that still needs it as a pattern; null: none does.</param>
    /// <exception cref="Refusal">A pattern in use is neither scrapped nor sold.</exception>
    public void Move(BagState state, string place, string? patternOpen)
    {
        Refusal.When(!Enum.IsDefined(state), "state", "Say where it is.");
        Refusal.When(
            state is BagState.Scrapped or BagState.Sold && patternOpen is not null,
            "state",
            $"It is kept as the pattern for “{patternOpen}” until that is signed off."
        );
        Refusal.When(State == BagState.Scrapped, "state", "It was scrapped; what came off anew is a new bag.");
        var address = state is BagState.OnShelf or BagState.AtSupplier or BagState.WithClient
            ? Refusal.Text(place, "place", PlaceMost)
            : "";
        (State, Place) = (state, Tray().IsMatch(address) ? address.ToUpperInvariant() : address);
    }

    [GeneratedRegex("^[A-Za-z][1-9]-(1[0-2]|[1-9])$")]
    private static partial Regex Tray();

    [GeneratedRegex(@"(?i:\bleft\b)|\bL\b")]
    private static partial Regex LeftWord();

    [GeneratedRegex(@"(?i:\bright\b)|\bR\b")]
    private static partial Regex RightWord();
}

/// <summary>Counts of all that came off a build.</summary>
public sealed record TeardownCounts(
    int CameOff,
    int Fasteners,
    int Bags,
    IReadOnlyDictionary<BagState, int> Pieces,
    int AsPattern
)
{
    /// <summary>Every piece is in exactly one place; a bag of fasteners alone counts as one piece.</summary>
    public static TeardownCounts Of(IReadOnlyCollection<Bag> bags)
    {
        static int Count(Bag b) => Math.Max(1, b.PieceCount);
        return new(
            bags.Sum(Count),
            bags.Sum(b => b.FastenerCount),
            bags.Count(b => b.State == BagState.OnShelf),
            Enum.GetValues<BagState>().ToDictionary(s => s, s => bags.Where(b => b.State == s).Sum(Count)),
            bags.Where(b => b.PatternFor is not null).Sum(Count)
        );
    }
}
