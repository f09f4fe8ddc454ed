using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Fitup;

/// <summary>An opening of a body that is measured by its diagonals.</summary>
/// <param name="Key">"doorL", "screen", "cabin".</param>
/// <param name="Name">In words: "L door opening".</param>
public sealed record BodyOpening(string Key, string Name)
{
    /// <summary>All of a body: one for each panel that hangs, the screen, and the cabin floor.</summary>
    public static IReadOnlyList<BodyOpening> Of(Body body) =>
        [
            .. body.Panels.Where(p => BodyPanel.Hangs(p.Key)).Select(p => new BodyOpening(p.Key, $"{p.Name} opening")),
            new("screen", "Screen opening"),
            new("cabin", "Cabin floor"),
        ];
}

/// <summary>An opening as it was measured once. The last that stands counts; what it read before stays to be
/// compared.</summary>
public sealed class OpeningReading : Recorded
{
    private const decimal MostMm = 10_000;

    /// <summary>Rules of thumb: by so much an opening may lean, and within so much its four figures agree, in
    /// millimetres.</summary>
    public const double UsualLeanMm = 3,
        UsualAgreeMm = 2;

    public required Guid BuildId { get; init; }

    /// <summary>Key of the opening.</summary>
    public required string Of { get; init; }

    /// <summary>From bottom left to top right, as typed.</summary>
    public required decimal Diagonal1 { get; init; }

    /// <summary>From bottom right to top left.</summary>
    public required decimal Diagonal2 { get; init; }

    public required decimal Width { get; init; }

    /// <summary>One of the slanted sides.</summary>
    public required decimal Side { get; init; }

    public required LengthUnit Unit { get; init; }

    /// <summary>Before or after what: "before the sill is welded".</summary>
    public required string When { get; init; }

    public required Instant At { get; init; }
    public required string By { get; init; }
    public bool TakenBack { get; private set; }

    /// <summary>What follows from its figures.</summary>
    public Opening Sum() => Opening.Of(Mm(Diagonal1), Mm(Diagonal2), Mm(Width), Mm(Side), UsualAgreeMm);

    private double Mm(decimal value) => (double)Lengths.InMm(value, Unit);

    /// <param name="openings">Of the build's body.</param>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(IReadOnlyList<BodyOpening> openings)
    {
        Refusal.When(openings.All(o => o.Key != Of), "opening", "This body has no such opening.");
        Refusal.Text(When, "when", 120);
        foreach (
            var (value, field) in new[]
            {
                (Diagonal1, "diagonal1"),
                (Diagonal2, "diagonal2"),
                (Width, "width"),
                (Side, "side"),
            }
        )
        {
            Refusal.When(
                value <= 0 || Lengths.InMm(value, Unit) > MostMm,
                field,
                "A length of an opening is more than nothing, up to 10 m."
            );
        }

        try
        {
            Sum();
        }
        catch (Refusal refusal)
        {
            throw new Refusal("diagonal1", refusal.Message);
        }
    }

    public void TakeBack() => TakenBack = true;
}

/// <summary>One measurement of an opening with what follows from it.</summary>
/// <param name="DriftMm">By how much it leans more to the right than at the measurement before; null: it is the
/// first.</param>
public sealed record OpeningRound(OpeningReading Reading, Opening Sum, double? DriftMm);

/// <summary>An opening with all its measurements.</summary>
public sealed record OpeningState(BodyOpening Opening, IReadOnlyList<OpeningRound> Rounds)
{
    /// <summary>Null: it was not measured.</summary>
    public OpeningRound? Last => Rounds.Count == 0 ? null : Rounds[^1];

    /// <summary>What is wrong with it, in words; empty: nothing, or it was not measured.</summary>
    public string Wrong =>
        Last is not { } last ? ""
        : !last.Sum.IsConsistent
            ? FormattableString.Invariant(
                $"its figures do not agree by {Math.Abs(last.Sum.MismatchMm):0.0} mm: read it again"
            )
        : !Near.AtMost(Math.Abs(last.Sum.ShearMm), OpeningReading.UsualLeanMm)
            ? FormattableString.Invariant(
                $"leans {Math.Abs(last.Sum.ShearMm):0.0} mm to the {(last.Sum.ShearMm > 0 ? "right" : "left")}"
            )
        : "";

    /// <summary>What to do about a lean, in words; empty: nothing.</summary>
    public string Advice =>
        Last is { Sum.IsConsistent: true } last && Wrong.Length > 0
            ? last.Sum.Pull(mm => FormattableString.Invariant($"{mm:0.0} mm"))
            : "";

    /// <param name="readings">Of the build, in the order in which they were recorded.</param>
    public static IReadOnlyList<OpeningState> Of(
        IReadOnlyList<BodyOpening> openings,
        IReadOnlyList<OpeningReading> readings
    ) =>
        [
            .. openings.Select(o =>
            {
                var sums = readings.Where(r => r.Of == o.Key && !r.TakenBack).Select(r => (r, Sum: r.Sum())).ToList();
                return new OpeningState(
                    o,
                    [
                        .. sums.Select(
                            (x, i) =>
                                new OpeningRound(x.r, x.Sum, i == 0 ? null : x.Sum.ShearMm - sums[i - 1].Sum.ShearMm)
                        ),
                    ]
                );
            }),
        ];

    /// <summary>What the dry build's gate asks: that openings which were measured agree and stand square.</summary>
    public static IReadOnlyList<GateAsk> Asks(Operation gate, IReadOnlyList<OpeningState> all)
    {
        if (gate.Gate != GateKind.FitUp)
        {
            return [];
        }

        var wrong = all.Where(o => o.Wrong.Length > 0).Select(o => $"{o.Opening.Name} {o.Wrong}").ToList();
        return all.All(o => o.Last is null)
            ? [new("Openings measured", "no opening was measured", false)]
            : [new("Openings square", string.Join("; ", wrong), true)];
    }
}
