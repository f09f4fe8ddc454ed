namespace FirstCoat.Core.Fitup;

/// <summary>A line with its panel moved.</summary>
/// <param name="Gaps">What each station that was read would read then; null: it was not read.</param>
/// <param name="Then">How the line would be judged; null: nothing of it was read.</param>
/// <param name="Left">What moving the panel cannot do, in words; empty: nothing is left.</param>
public sealed record MovedLine(EdgeLine Line, IReadOnlyList<double?> Gaps, GapProfile? Then, string Left);

/// <summary>How a panel should be moved, and what that does to every line round it.</summary>
/// <param name="Why">The sum by which the shim was found, with its figures; empty: there is none.</param>
public sealed record FitAdvice(FitMove Move, string Why, IReadOnlyList<MovedLine> Lines)
{
    /// <summary>Whether every line that was read is in its limits then.</summary>
    public bool Heals => Lines.All(l => l.Left.Length == 0);

    /// <summary>What to do to a panel, from what was read round it.</summary>
    /// <param name="read">Per line, the gap at each station in millimetres; null: it was not read.</param>
    /// <param name="limits">Of each line.</param>
    /// <exception cref="Refusal">Nothing was read round it.</exception>
    public static FitAdvice Of(
        HungPanel panel,
        Func<GapLine, IReadOnlyList<double?>> read,
        Func<GapLine, GapLimits> limits
    )
    {
        var known = panel
            .Lines.Select(l => new Known(l, read(l.Line), limits(l.Line)))
            .Where(k => k.Gaps.Any(g => g is not null))
            .ToList();
        Refusal.When(known.Count == 0, "panel", "Read a line of this panel first.");
        var (move, why) = panel.IsDoor ? Door(panel, known) : (Lid(panel, known), "");
        return With(panel, move.Rounded(), read, limits) with { Why = why };
    }

    /// <summary>What a move does to every line round a panel.</summary>
    public static FitAdvice With(
        HungPanel panel,
        FitMove move,
        Func<GapLine, IReadOnlyList<double?>> read,
        Func<GapLine, GapLimits> limits
    )
    {
        move.Check();
        return new(
            move,
            "",
            [
                .. panel.Lines.Select(l =>
                {
                    var gaps = read(l.Line).Select((g, i) => g + panel.Change(l, i, move)).ToList();
                    var stations = Stations(l.Line, gaps);
                    var then = stations.Count == 0 ? null : Judged(stations, limits(l.Line));
                    return new MovedLine(l, gaps, then, Left(l, gaps, then, limits(l.Line)));
                }),
            ]
        );
    }

    private sealed record Known(EdgeLine Line, IReadOnlyList<double?> Gaps, GapLimits Limits)
    {
        public GapProfile Profile => GapProfile.Of(Stations(Line.Line, Gaps), Limits);

        /// <summary>The mean with a move, less the target.</summary>
        public double Off(HungPanel panel, FitMove move) =>
            Gaps.Select((g, i) => g + panel.Change(Line, i, move)).OfType<double>().Average() - Limits.TargetMm;
    }

    private static List<GapStation> Stations(GapLine line, IReadOnlyList<double?> gaps) =>
        [
            .. gaps.Select((g, i) => (g, i))
                .Where(x => x.g is not null)
                .Select(x => new GapStation(line.StationsMm[x.i], x.g!.Value)),
        ];

    /// <summary>Panels that would run into each other are judged as touching.</summary>
    private static GapProfile Judged(List<GapStation> stations, GapLimits limits) =>
        GapProfile.Of([.. stations.Select(s => s with { GapMm = Math.Max(0, s.GapMm) })], limits);

    /// <summary>A door is turned until its lower edge runs true, then moved until its lines are as wide as they
    /// should be, what cannot be had at both ends shared between them.</summary>
    private static (FitMove Move, string Why) Door(HungPanel panel, List<Known> known)
    {
        Known? At(PanelEdge edge) => known.FirstOrDefault(k => k.Line.Edge == edge);
        var (bottom, front, rear) = (At(PanelEdge.Bottom), At(PanelEdge.Front), At(PanelEdge.Rear));
        var hang = panel.Hang!;
        var (move, why) = Turned();
        if (bottom is not null)
        {
            move = move with { RaiseMm = -bottom.Off(panel, move) };
        }

        var rearward = (front, rear) switch
        {
            ({ } f, { } r) => (r.Off(panel, move) - f.Off(panel, move)) / 2,
            ({ } f, null) => -f.Off(panel, move),
            (null, { } r) => r.Off(panel, move),
            _ => 0,
        };
        return (move with { RearwardMm = rearward }, why);

        (FitMove, string) Turned()
        {
            // How far the rear edge hangs, by the line that shows it best.
            double? drop =
                bottom?.Profile.TaperMmPerM is { } b ? -b * hang.HingeToRearMm / 1000
                : rear?.Profile.TaperMmPerM is { } r ? -r * Climb(rear) * hang.HingeToRearMm / 1000
                : front?.Profile.TaperMmPerM is { } f ? f * Climb(front) * hang.HingeToRearMm / 1000
                : null;
            if (drop is not { } hangs || Math.Abs(hangs) >= hang.HingeToRearMm)
            {
                return (new(), "");
            }

            var shim = HingeShim.For(hangs, hang.HingeSpacingMm, hang.HingeToRearMm);
            return (
                new(shim.ThicknessMm, shim.Behind),
                string.Create(
                    System.Globalization.CultureInfo.InvariantCulture,
                    $"s h / L = {Math.Abs(hangs):0.0} × {hang.HingeSpacingMm:0} / {hang.HingeToRearMm:0} = {shim.ThicknessMm:0.0} mm"
                )
            );
        }

        // Stations of an edge that goes up run from its lower end; 1 where they lie as high as they are far.
        static double Climb(Known k) =>
            (k.Line.YMm[^1] - k.Line.YMm[0]) / (k.Line.Line.StationsMm[^1] - k.Line.Line.StationsMm[0]) >= 0 ? 1 : -1;
    }

    /// <summary>A lid is moved and turned in its opening so that all lines together are as near their targets as can
    /// be.</summary>
    /// <remarks>Source: linear least squares over all stations, normal equations.</remarks>
    private static FitMove Lid(HungPanel panel, List<Known> known)
    {
        FitMove[] units = [new(RightMm: 1), new(RearwardMm: 1), new(TurnMmPerM: 1)];
        var (a, b) = (new double[3, 3], new double[3]);
        foreach (var k in known)
        {
            for (var i = 0; i < k.Gaps.Count; i++)
            {
                if (k.Gaps[i] is not { } gap)
                {
                    continue;
                }

                double[] by = [.. units.Select(u => panel.Change(k.Line, i, u))];
                for (var p = 0; p < 3; p++)
                {
                    b[p] -= by[p] * (gap - k.Limits.TargetMm);
                    for (var q = 0; q < 3; q++)
                    {
                        a[p, q] += by[p] * by[q];
                    }
                }
            }
        }

        var x = LeastNorm(a, b);
        return new(RightMm: x[0], RearwardMm: x[1], TurnMmPerM: x[2]);
    }

    /// <summary>The shortest of the best solutions: what no reading speaks of is left alone.</summary>
    private static double[] LeastNorm(double[,] a, double[] b)
    {
        var x = new double[b.Length];
        var parts = Eigen.Of(a);
        var largest = parts[^1].Value;
        foreach (var (value, vector) in parts.Where(p => p.Value > 1e-9 * Math.Max(largest, 1e-12)))
        {
            var share = vector.Zip(b, (v, w) => v * w).Sum() / value;
            for (var i = 0; i < x.Length; i++)
            {
                x[i] += share * vector[i];
            }
        }

        return x;
    }

    private static string Left(EdgeLine line, IReadOnlyList<double?> gaps, GapProfile? then, GapLimits limits)
    {
        if (then is null || then.Passes)
        {
            return "";
        }

        if (gaps.Any(g => g < 0))
        {
            return $"{line.Line.Name}: the panels would touch";
        }

        if (then.Faults.Contains(GapFault.NotUniform))
        {
            return FormattableString.Invariant(
                $"{line.Line.Name}: not even, {then.RangeMm:0.0} mm between the widest and the tightest: dress the edge"
            );
        }

        var off = then.MeanMm - limits.TargetMm;
        return FormattableString.Invariant(
            $"{line.Line.Name}: even, but {Math.Abs(off):0.0} mm too {(off > 0 ? "wide: build the edge" : "tight: take the edge back")}"
        );
    }
}
