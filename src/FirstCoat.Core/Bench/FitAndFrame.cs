using System.Text.Json;
using System.Text.Json.Nodes;
using FirstCoat.Core.Fitup;

namespace FirstCoat.Core.Bench;

/// <summary>Gaps, openings, frames, datum points and marking out in the bench's form.</summary>
internal static class FitAndFrame
{
    private static readonly IReadOnlyDictionary<string, TaperLaw> Laws = new Dictionary<string, TaperLaw>
    {
        ["linear"] = TaperLaw.Linear,
        ["eased"] = TaperLaw.Eased,
    };

    public static IReadOnlyDictionary<string, Func<Question, JsonNode>> All { get; } =
        new Dictionary<string, Func<Question, JsonNode>>
        {
            ["gap.panel"] = Gap,
            ["gap.hingeShim"] = Shim,
            ["square.opening"] = Square,
            ["chassis.skew"] = q => new JsonObject
            {
                ["skewDeg"] = Frame.SkewDeg(
                    q.Number("wheelbaseLeftMm"),
                    q.Number("wheelbaseRightMm"),
                    q.Number("trackMm")
                ),
            },
            ["chassis.centring"] = q => new JsonObject
            {
                ["offsetMm"] = Frame.OffCentreMm(q.Number("leftMm"), q.Number("rightMm")),
                ["trackMm"] = q.Number("leftMm") + q.Number("rightMm"),
            },
            ["chassis.twist"] = Twist,
            ["tacks"] = TackUp,
            ["datum.fit"] = Fit,
            ["datum.bent"] = Bent,
            ["datum.mirror"] = Mirror,
            ["centre.find"] = Find,
            ["centre.targets"] = Targets,
            ["taper.table"] = Taper,
            ["stack.clearance"] = Chain,
            ["holes.plugs"] = Plugs,
        };

    private static JsonObject Gap(Question q)
    {
        var profile = GapProfile.Of(
            [.. q.List("stations").Select(s => new GapStation(s.Number("posMm"), s.Number("gapMm")))],
            new(q.Number("targetMm"), q.Number("toleranceMm"), q.Number("rangeLimitMm"))
        );
        return new()
        {
            ["meanMm"] = profile.MeanMm,
            ["rangeMm"] = profile.RangeMm,
            ["taperMmPerM"] = profile.TaperMmPerM,
            ["pass"] = profile.Passes,
            ["reasons"] = BenchCalculations.Array(profile.Faults, f => JsonNamingPolicy.CamelCase.ConvertName($"{f}")),
            ["stationsOff"] = BenchCalculations.Array(profile.Off, i => i),
        };
    }

    private static JsonObject Shim(Question q)
    {
        var shim = HingeShim.For(q.Number("rearDropMm"), q.Number("hingeSpacingMm"), q.Number("hingeToRearMm"));
        return new()
        {
            ["shimMm"] = shim.ThicknessMm,
            ["hinge"] = shim.Behind is { } hinge ? JsonNamingPolicy.CamelCase.ConvertName($"{hinge}") : null,
        };
    }

    private static JsonObject Square(Question q)
    {
        var opening = Opening.Of(
            q.Number("d1Mm"),
            q.Number("d2Mm"),
            q.Number("widthMm"),
            q.Number("sideMm"),
            q.Number("toleranceMm")
        );
        return new()
        {
            ["shearMm"] = opening.ShearMm,
            ["diagonalDifferenceMm"] = opening.DiagonalDifferenceMm,
            ["impliedSideMm"] = opening.ImpliedSideMm,
            ["leanDeg"] = opening.LeanDeg,
            ["sideMismatchMm"] = opening.MismatchMm,
            ["consistent"] = opening.IsConsistent,
        };
    }

    private static JsonObject Twist(Question q)
    {
        var twist = Frame.Twist(q.Number("flMm"), q.Number("frMm"), q.Number("rlMm"), q.Number("rrMm"));
        return new()
        {
            ["residualMm"] = twist.ResidualMm,
            ["cornerGapMm"] = twist.CornerGapMm,
            ["highDiagonal"] = twist.FrontLeftHigh switch
            {
                true => "fl-rr",
                false => "fr-rl",
                null => null,
            },
        };
    }

    private static JsonObject TackUp(Question q)
    {
        Refusal.When(!q.Has("closed"), "closed", "Say whether the seam runs into itself.");
        var tacks = Tacks.Along(q.Number("lengthMm"), q.Number("spacingMm"), q.Flag("closed"));
        return new() { ["count"] = tacks.Count, ["actualSpacingMm"] = tacks.SpacingMm };
    }

    private static JsonObject Fit(Question q)
    {
        var fit = RigidFit.Of(Points(q, "measured"), Points(q, "reference"));
        return new()
        {
            ["rotation"] = BenchCalculations.Array(fit.Rotation, r => BenchCalculations.Array(r, x => x)),
            ["translationMm"] = Json(fit.Translation),
            ["residualsMm"] = BenchCalculations.Array(fit.Residuals, Json),
            ["offMm"] = BenchCalculations.Array(fit.Residuals, r => r.Length),
            ["rmsMm"] = fit.RmsMm,
        };
    }

    private static JsonObject Bent(Question q)
    {
        var found = BentPoints.Of(Points(q, "measured"), Points(q, "reference"), q.Number("toleranceMm"));
        return new()
        {
            ["found"] = found is not null,
            ["bent"] = BenchCalculations.Array(found?.Bent ?? [], i => i),
            ["rmsGoodMm"] = found?.Fit.RmsMm,
            ["residualsMm"] = BenchCalculations.Array(found?.Residuals ?? [], Json),
            ["offMm"] = BenchCalculations.Array(found?.Residuals ?? [], r => r.Length),
        };
    }

    private static JsonObject Mirror(Question q)
    {
        var plane = MirrorPlane.Of(
            [.. q.List("pairs").Select(p => new PointPair(PointOf(p.Part("left")), PointOf(p.Part("right"))))],
            Points(q, "centre")
        );
        return new()
        {
            ["normal"] = Json(plane.Normal),
            ["distanceMm"] = plane.DistanceMm,
            ["asymmetryMm"] = BenchCalculations.Array(plane.Asymmetry, Json),
            ["offMm"] = BenchCalculations.Array(plane.Asymmetry, a => a.Length),
            ["rmsMm"] = plane.RmsMm,
            ["centreOffMm"] = BenchCalculations.Array(plane.CentreOffMm, x => x),
        };
    }

    private static JsonObject Find(Question q)
    {
        var mark = CentreMark.Of(q.Number("leftMm"), q.Number("rightMm"), q.Number("toleranceMm"));
        return new()
        {
            ["widthMm"] = mark.WidthMm,
            ["moveRightMm"] = mark.MoveRightMm,
            ["deviationMm"] = mark.DeviationMm,
            ["centred"] = mark.IsCentred,
        };
    }

    private static JsonObject Targets(Question q)
    {
        List<PlaceReading> Places(string field) =>
            [.. q.List(field).Select(p => new PlaceReading(p.Text("id"), p.Number("mm")))];
        JsonArray Json(IEnumerable<PlaceReading> places, string figure) =>
            BenchCalculations.Array(places, p => new JsonObject { ["id"] = p.Id, [figure] = p.Mm });
        var targets = MirrorTargets.Of(
            Places("good"),
            Places("other"),
            q.Has("asymmetryMm") ? q.Number("asymmetryMm") : 0,
            q.Number("toleranceMm")
        );
        return new()
        {
            ["targets"] = Json(targets.Targets, "mm"),
            ["off"] = Json(targets.Off, "deviationMm"),
            ["outside"] = BenchCalculations.Array(targets.Outside, id => id),
            ["notRead"] = BenchCalculations.Array(targets.NotRead, id => id),
        };
    }

    private static JsonObject Taper(Question q)
    {
        var table = TaperTable.Of(
            q.Whole("stations"),
            q.Number("firstMm"),
            q.Number("lastMm"),
            q.Choice("law", Laws),
            q.Has("chordMm") ? q.Number("chordMm") : null
        );
        return new()
        {
            ["valuesMm"] = BenchCalculations.Array(table.ValuesMm, v => v),
            ["radiiMm"] = table.RadiiMm is { } radii ? BenchCalculations.Array(radii, r => r) : null,
        };
    }

    private static JsonObject Chain(Question q)
    {
        var chain = DimensionChain.Of(
            [
                .. q.List("links")
                    .Select(l =>
                    {
                        var sign = l.Whole("sign");
                        Refusal.When(sign is not (1 or -1), "sign", "A dimension adds (1) or takes away (-1).");
                        return new ChainLink(l.Number("mm"), l.Number("tolMm"), sign == 1);
                    }),
            ],
            q.Number("movementMm"),
            q.Number("needMm")
        );
        return new()
        {
            ["nominalMm"] = chain.NominalMm,
            ["worstMm"] = chain.WorstMm,
            ["rssMm"] = chain.RssMm,
            ["leastWorstMm"] = chain.LeastWorstMm,
            ["leastRssMm"] = chain.LeastRssMm,
            ["clearsWorst"] = chain.ClearsWorst,
            ["clearsRss"] = chain.ClearsRss,
        };
    }

    private static JsonObject Plugs(Question q)
    {
        var holes = PlugHoles.Along(q.Number("lengthMm"), q.Number("pitchMm"), q.Number("endMm"));
        return new()
        {
            ["count"] = holes.PositionsMm.Count,
            ["steps"] = holes.Steps,
            ["actualMm"] = holes.PitchMm,
            ["positionsMm"] = BenchCalculations.Array(holes.PositionsMm, x => x),
        };
    }

    private static List<Point> Points(Question q, string field) => [.. q.List(field).Select(PointOf)];

    private static Point PointOf(Question q)
    {
        var at = q.Numbers();
        Refusal.When(at.Count != 3, q.Name, "A point has three coordinates.");
        return new(at[0], at[1], at[2]);
    }

    private static JsonArray Json(Point p) => new(p.X, p.Y, p.Z);
}
