using FirstCoat.Core.Fitup;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Fitup;

namespace FirstCoat.Server.Demo;

/// <summary>Gap sheets: good ones where a gate was signed, one that stays as it is by name, a method that did not work,
/// and the right side of the coupe since its wing has new metal.</summary>
internal sealed class DemoFit(DemoShop shop)
{
    private const int Coupe = 41,
        Deviates = 38,
        Tried = 36;

    /// <summary>What a gate asks of the sheets is there when it is signed.</summary>
    public async Task BeforeSigning(
        int number,
        Operation gate,
        IReadOnlyDictionary<Guid, Operation> operations,
        CancellationToken cancel
    )
    {
        if (gate.Gate is not (GateKind.FitUp or GateKind.UniformCoat or GateKind.Side))
        {
            return;
        }

        FitLook look = null!;
        await shop.As("wil", async s => look = await s.GetRequiredService<FitDesk>().Look(shop.Build(number), cancel));
        if (look.Gates.All(g => g.Id != gate.Id))
        {
            return;
        }

        var lines = FitGate.LinesOf(gate, operations, look.Lines).Where(l => !l.IsGood).ToList();
        if (number == Tried && look.Changes.Count == 0 && Door(lines) is { } door)
        {
            await DidNotWork(number, door, cancel);
        }

        var deviates = number == Deviates ? lines.FirstOrDefault(l => l.Rounds.Count == 0) : null;
        await Read(
            number,
            lines.Select(l =>
                (l.Line, look.Next[l.Line.Key], Figures(l, l == deviates ? new(5.2, 5.0, .3) : Good(l.Line, number)))
            ),
            cancel
        );
        if (deviates is not null)
        {
            await Stays(number, deviates.Line, cancel);
        }
    }

    private static GapLine? Door(List<LineState> lines) =>
        lines.Select(l => l.Line).FirstOrDefault(l => l.Key == "door/sill R");

    private Task DidNotWork(int number, GapLine line, CancellationToken cancel) => shop.As("wil", async s =>
        {
            var desk = s.GetRequiredService<FitDesk>();
            var id = Guid.CreateVersion7();
            await desk.Change(
                shop.Build(number),
                id,
                ["doorR"],
                FitMethod.Striker,
                null,
                "R door: striker moved 2 mm in",
                cancel
            );
            await desk.JudgeChange(
                id,
                false,
                $"the step is gone, the gap of line {line.Letter} did not move",
                null,
                cancel
            );
        });

    /// <summary>The coupe as it stands today: read before the weld and after it, its right side out since the wing's
    /// new corner.</summary>
    public async Task Tell(CancellationToken cancel)
    {
        FitLook look = null!;
        await shop.As("wil", async s =>
        {
            var desk = s.GetRequiredService<FitDesk>();
            look = await desk.Look(shop.Build(Coupe), cancel);
            await desk.Hang(shop.Build(Coupe), new("doorR", 350, 120, 1150), cancel);
        });
        await shop.As("sunniva", s =>
            s.GetRequiredService<FitDesk>()
                .Judge(shop.Build(Coupe), new(look.Sheet.Painted, look.Sheet.Bright, 220, []), null, cancel)
        );
        await Openings(cancel);
        await Others(cancel);
        var unread = look.Lines.Where(l => l.Rounds.All(r => r.Round != GapRound.BeforeWeld));
        await Read(Coupe, unread.Select(l => (l.Line, GapRound.BeforeWeld, Figures(l, Good(l.Line, 1)))), cancel);
        await Read(
            Coupe,
            look.Lines.Select(l =>
                (l.Line, GapRound.AfterWeld, Figures(l, Weld.GetValueOrDefault(l.Line.Key) ?? Good(l.Line, 2)))
            ),
            cancel
        );
    }

    /// <summary>The van after its paint, one line as it came from the works; the tourer, whose door would not fit by
    /// its striker.</summary>
    private async Task Others(CancellationToken cancel)
    {
        FitLook van = null!,
            tourer = null!;
        await shop.As("wil", async s =>
        {
            var desk = s.GetRequiredService<FitDesk>();
            (van, tourer) = (await desk.Look(shop.Build(Deviates), cancel), await desk.Look(shop.Build(Tried), cancel));
        });
        var deviates = van.Lines[0];
        await Read(
            Deviates,
            van.Lines.Select(l =>
                (l.Line, GapRound.AfterPaint, Figures(l, l == deviates ? new(5.2, 5.0, .3) : Good(l.Line, 3)))
            ),
            cancel
        );
        await Stays(Deviates, deviates.Line, cancel);
        if (tourer.Changes.Count > 0 || Door([.. tourer.Lines]) is not { } door)
        {
            return;
        }

        await DidNotWork(Tried, door, cancel);
        await Read(
            Tried,
            tourer
                .Lines.Where(l => l.Line.Between.Contains("doorR"))
                .Select(l => (l.Line, tourer.Next[l.Line.Key], Figures(l, new(4.2, l.Line == door ? 5.6 : 4.4, .2)))),
            cancel
        );
    }

    private Task Stays(int number, GapLine line, CancellationToken cancel) =>
        shop.As("sunniva", s =>
            s.GetRequiredService<FitDesk>()
                .Accept(
                    shop.Build(number),
                    Guid.CreateVersion7(),
                    line.Key,
                    "it was so from the works, and the client wants it kept",
                    cancel
                )
        );

    /// <summary>The cabin of the coupe before its floor is cut, and a door that a weld pulled.</summary>
    private async Task Openings(CancellationToken cancel)
    {
        (string Of, decimal D1, decimal D2, decimal Width, decimal Side, string When)[] measured =
        [
            ("cabin", 1510, 1490, 1200, 900, "before the floor is cut"),
            ("doorR", 1243, 1242, 980, 764, "before the wing is welded"),
            ("doorR", 1244, 1240, 980, 764, "after the wing is welded"),
            ("doorL", 1242, 1242, 980, 763, "before the weld"),
        ];
        foreach (var m in measured)
        {
            await shop.As("wil", s =>
                s.GetRequiredService<OpeningsDesk>()
                    .Read(
                        shop.Build(Coupe),
                        Guid.CreateVersion7(),
                        new(m.Of, m.D1, m.D2, m.Width, m.Side, LengthUnit.Mm, m.When),
                        cancel
                    )
            );
        }
    }

    /// <summary>How a line runs: its gap at the first station and at the last, and the largest step.</summary>
    private sealed record Run(double From, double To, double Flush);

    /// <summary>The lines of the coupe that the weld pulled.</summary>
    private static readonly Dictionary<string, Run> Weld = new()
    {
        ["bonnet/wing R"] = new(3.9, 5.6, .7),
        ["door/sill R"] = new(6.6, 2.6, 1.1),
        ["door/quarter R"] = new(7.5, 5.2, 1.2),
        ["boot/quarter R"] = new(3.4, 2.6, .4),
    };

    private static Run Good(GapLine line, int seed)
    {
        // Some tenths to and fro, the same each time.
        var k = line.Key.Sum(c => c) * 7 + seed * 13;
        return new(3.8 + k % 5 * .1, 3.9 + k / 5 % 5 * .1, .1 + k / 25 % 4 * .1);
    }

    private static IReadOnlyList<(int Station, FitMeasure Measure, double Mm)> Figures(LineState l, Run run)
    {
        var last = l.Line.StationsMm.Count - 1;
        double[] wave = [0, .1, 0, -.1, 0, .1, -.1, 0, 0];
        return
        [
            .. Enumerable
                .Range(0, last + 1)
                .Select(i =>
                    (
                        i + 1,
                        FitMeasure.Gap,
                        run.From + (run.To - run.From) * i / last + (i == 0 || i == last ? 0 : wave[i])
                    )
                ),
            .. LineRound.FlushAt(last + 1).Select(n => (n, FitMeasure.Flush, run.Flush * (n - 1) / last)),
        ];
    }

    private Task Read(
        int number,
        IEnumerable<(
            GapLine Line,
            GapRound Round,
            IReadOnlyList<(int Station, FitMeasure Measure, double Mm)> Figures
        )> lines,
        CancellationToken cancel
    ) =>
        shop.As("wil", s =>
            s.GetRequiredService<FitDesk>()
                .Read(
                    shop.Build(number),
                    [
                        .. lines.SelectMany(l =>
                            l.Figures.Select(x =>
                                (
                                    Guid.CreateVersion7(),
                                    new ReadingEntry(
                                        l.Line.Key,
                                        l.Round,
                                        x.Station,
                                        x.Measure,
                                        Math.Round((decimal)x.Mm, 1),
                                        LengthUnit.Mm,
                                        "feeler steps, 0.1"
                                    )
                                )
                            )
                        ),
                    ],
                    cancel
                )
        );
}
