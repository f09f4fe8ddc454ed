using System.Text.Json.Nodes;
using FirstCoat.Core.Fitup;
using static FirstCoat.Core.Bench.BenchFigures;

namespace FirstCoat.Core.Bench;

/// <summary>Openings by their diagonals, gaps with their shim, chains of dimensions.</summary>
internal static class FitSums
{
    public static BenchAnswer OfOpening(BenchFigures f)
    {
        var (d1, d2) = (f.Extent("d1", "the first diagonal"), f.Extent("d2", "the second diagonal"));
        var (width, side) = (f.Extent("width", "the width"), f.Extent("side", "a slanted side"));
        var o = Opening.Of(d1, d2, width, side, f.Length("tolerance", "within what the side agrees"));
        var square = Math.Abs(o.ShearMm) <= OpeningReading.UsualLeanMm + 1e-9;
        return new(
            !o.IsConsistent ? $"The four figures do not agree by {f.Say(Math.Abs(o.MismatchMm))}: read again"
                : Math.Abs(o.ShearMm) < 0.05 ? "Square"
                : $"Leans {f.Say(Math.Abs(o.ShearMm))} to the {(o.ShearMm > 0 ? "right" : "left")}",
            !o.IsConsistent || !square,
            square || !o.IsConsistent ? [] : [o.Pull(f.Say)],
            [
                new("Leans", f.Show(o.ShearMm), IsWrong: !square),
                new("By", $"{Fixed(o.LeanDeg, "0.00")}°"),
                new("Side, implied", f.Show(o.ImpliedSideMm)),
                new("Side, measured", f.Show(side), IsWrong: !o.IsConsistent),
            ],
            [
                $"({f.Typed(d1)}² − {f.Typed(d2)}²) / (4 × {f.Typed(width)}) = {f.Show(o.ShearMm)}",
                $"√(({f.Typed(d1)}² + {f.Typed(d2)}²) / 2 − {f.Typed(width)}²) = {f.Show(o.ImpliedSideMm)}",
            ],
            new(
                $"Parallelogram law; the side is the slanted one itself. A lean of up to {OpeningReading.UsualLeanMm:0} mm is let go: a rule of thumb.",
                true
            ),
            new()
            {
                ["widthMm"] = width,
                ["shearMm"] = o.ShearMm,
                ["highMm"] = Math.Sqrt(Math.Max(0, o.ImpliedSideMm * o.ImpliedSideMm - o.ShearMm * o.ShearMm)),
                ["consistent"] = o.IsConsistent,
                ["square"] = square,
            }
        );
    }

    public static BenchAnswer Gap(BenchFigures f)
    {
        var stations = f.Rows("stations", r =>
        {
            var s = new GapStation(r.Length("pos", "where it was read"), r.Length("gap", "the gap there"));
            r.RefuseWhen(s.GapMm < 0, "gap", "A gap is nothing or more.");
            return s;
        });
        var limits = new GapLimits(
            f.Length("target", "the target"),
            f.Length("tolerance", "by what a station may be off"),
            f.Length("rangeLimit", "by what the widest may differ from the tightest")
        );
        var gap = GapProfile.Of(stations, limits);
        var (rows, worked, notes) = (new List<BenchRow>(), new List<string>(), new List<string>());
        rows.Add(new("Mean", f.Show(gap.MeanMm)));
        rows.Add(new("Range", f.Show(gap.RangeMm), IsWrong: gap.Faults.Contains(GapFault.NotUniform)));
        if (gap.TaperMmPerM is { } taper)
        {
            rows.Add(new("Taper, mm per m", Fixed(taper, "0.00")));
        }

        worked.Add(
            $"({string.Join(" + ", stations.Take(9).Select(s => f.Typed(s.GapMm)))}{(stations.Count > 9 ? " + …" : "")}) / {stations.Count} = {f.Show(gap.MeanMm)}"
        );
        worked.Add(
            $"{f.Typed(stations.Max(s => s.GapMm))} − {f.Typed(stations.Min(s => s.GapMm))} = {f.Show(gap.RangeMm)}"
        );
        var shim = (HingeShim?)null;
        if (f.Has("rearDrop"))
        {
            var (drop, apart) = (
                f.Length("rearDrop", "by what the rear hangs"),
                f.Extent("hingeSpacing", "the distance of the hinges")
            );
            var reach = f.Extent("hingeToRear", "from the hinges to the rear edge");
            shim = HingeShim.For(drop, apart, reach);
            notes.Add(
                shim.Value.Behind is { } hinge
                    ? $"Shim {Shim(shim.Value.ThicknessMm)} behind the {Words.Of(hinge)} hinge lifts the rear by {f.Say(drop)}{(drop < 0 ? " (it drops)" : "")}. Then read every line of the door again."
                    : "The rear hangs level: no shim."
            );
            rows.Add(new("Shim", Shim(shim.Value.ThicknessMm)));
            worked.Add(
                $"{f.Typed(Math.Abs(drop))} × {f.Typed(apart)} / {f.Typed(reach)} = {Shim(shim.Value.ThicknessMm)}"
            );
        }

        return new(
            gap.Passes
                ? "In limits at every station"
                : VehicleSums.Capital(
                    string.Join(
                        ", ",
                        gap.Faults.Select(x =>
                            x switch
                            {
                                GapFault.TooTight => $"too tight at {At(s => s < limits.TargetMm)}",
                                GapFault.TooWide => $"too wide at {At(s => s > limits.TargetMm)}",
                                _ => $"not even: {f.Say(gap.RangeMm)} between widest and tightest",
                            }
                        )
                    )
                ),
            !gap.Passes,
            notes,
            rows,
            worked,
            new("Mean, range, and taper by least squares; shim by similar triangles. A mean never passes a line."),
            new()
            {
                ["stations"] = BenchCalculations.Array(stations, s => new JsonObject
                {
                    ["posMm"] = s.PosMm,
                    ["gapMm"] = s.GapMm,
                }),
                ["off"] = BenchCalculations.Array(gap.Off, i => i),
                ["targetMm"] = limits.TargetMm,
                ["toleranceMm"] = limits.ToleranceMm,
                ["shimMm"] = shim?.ThicknessMm,
                ["lower"] = shim?.Behind is { } b ? b == Hinge.Lower : null,
            }
        );

        string At(Func<double, bool> side) =>
            string.Join(", ", gap.Off.Where(i => side(stations[i].GapMm)).Select(i => $"{i + 1}"));
        string Shim(double mm) => f.Unit == LengthUnit.Inch ? f.Say(mm) : $"{Fixed(mm, "0.00")} mm";
    }

    public static BenchAnswer Chain(BenchFigures f)
    {
        var links = f.Rows("links", r =>
        {
            var link = (
                Name: r.Text("name"),
                Link: new ChainLink(
                    r.Length("size", "the dimension"),
                    r.Has("tol") ? r.Length("tol", "its tolerance") : 0,
                    !r.Flag("takes")
                )
            );
            r.RefuseWhen(link.Link.Mm < 0, "size", "A dimension is nothing or more; tick whether it takes away.");
            r.RefuseWhen(link.Link.TolMm < 0, "tol", "A tolerance is nothing or more.");
            return link;
        });
        var (movement, need) = (f.Length("movement", "the movement"), f.Length("need", "what is wanted"));
        var chain = DimensionChain.Of([.. links.Select(l => l.Link)], movement, need);
        var sum = string.Concat(
            links.Select((l, i) => $"{(l.Link.Adds ? i == 0 ? "" : " + " : " − ")}{f.Typed(l.Link.Mm)}")
        );
        return new(
            chain.ClearsWorst ? $"Clears at the worst: {f.Say(chain.LeastWorstMm)} left"
                : chain.ClearsRss ? $"Clears as tolerances fall together, not at the worst: {f.Say(chain.LeastWorstMm)}"
                : $"{f.Say(need - chain.LeastRssMm)} short of what is wanted",
            !chain.ClearsWorst,
            chain.ClearsWorst || !chain.ClearsRss
                ? []
                :
                [
                    "Measure the parts in hand before you rely on it: root sum square is an average of many, not a promise of one.",
                ],
            [
                new("Nominal", f.Show(chain.NominalMm)),
                new("Least, worst", f.Show(chain.LeastWorstMm), IsWrong: !chain.ClearsWorst),
                new("Least, root sum square", f.Show(chain.LeastRssMm), IsWrong: !chain.ClearsRss),
                new("Wanted", f.Show(need)),
            ],
            [
                $"{sum} = {f.Show(chain.NominalMm)}",
                $"worst {string.Join(" + ", links.Select(l => f.Typed(l.Link.TolMm)))} = {f.Show(chain.WorstMm)}",
                $"√({string.Join(" + ", links.Select(l => $"{f.Typed(l.Link.TolMm)}²"))}) = {f.Show(chain.RssMm)}",
                $"{f.Show(chain.NominalMm)} − {f.Typed(movement)} − {f.Show(chain.WorstMm)} = {f.Show(chain.LeastWorstMm)}",
            ],
            new("Signed dimensions and their tolerances, summed; root of the sum of squares."),
            new()
            {
                ["links"] = BenchCalculations.Array(links, l => new JsonObject
                {
                    ["name"] = l.Name,
                    ["mm"] = l.Link.Mm,
                    ["tolMm"] = l.Link.TolMm,
                    ["takes"] = !l.Link.Adds,
                }),
                ["nominalMm"] = chain.NominalMm,
                ["movementMm"] = movement,
                ["leastMm"] = chain.LeastWorstMm,
                ["leastRssMm"] = chain.LeastRssMm,
                ["clears"] = chain.ClearsWorst,
            }
        );
    }
}
