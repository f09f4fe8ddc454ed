using System.Text.Json.Serialization;
using FirstCoat.Core.Bodies;
using NodaTime;

namespace FirstCoat.Core.Fitup;

/// <summary>A place as it was typed or read from a file: x to the rear, y to the left, z up.</summary>
public readonly record struct TypedPoint(decimal X, decimal Y, decimal Z, LengthUnit Unit)
{
    private const decimal MostMm = 20_000;

    /// <summary>In millimetres, exactly.</summary>
    public Point InMm() =>
        new((double)Lengths.InMm(X, Unit), (double)Lengths.InMm(Y, Unit), (double)Lengths.InMm(Z, Unit));

    /// <exception cref="Refusal">No vehicle reaches that far.</exception>
    public void Check(string of)
    {
        var p = this;
        Refusal.Each(() => Near(p.X, "x"), () => Near(p.Y, "y"), () => Near(p.Z, "z"));
        void Near(decimal value, string field) =>
            Refusal.When(
                Math.Abs(Lengths.InMm(value, p.Unit)) > MostMm,
                field,
                $"{of}: no point of a vehicle lies 20 m away."
            );
    }
}

/// <summary>A point of a reference sheet.</summary>
/// <param name="Letter">Left and right points of a pair share it.</param>
/// <param name="Name">Where it is: "spring front eye".</param>
/// <param name="IsProtected">The reference itself: it must survive the cut.</param>
public sealed record DatumPoint(string Letter, PanelSide Side, string Name, TypedPoint At, bool IsProtected = false)
{
    /// <summary>"D R": its letter and its side.</summary>
    [JsonIgnore]
    public string Key =>
        Side switch
        {
            PanelSide.Left => $"{Letter} L",
            PanelSide.Right => $"{Letter} R",
            _ => Letter,
        };

    /// <summary>The letter and the side of a key.</summary>
    public static (string Letter, PanelSide Side) Parts(string key)
    {
        var words = key.Trim().ToUpperInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return words is [var letter, "L" or "LEFT"] ? (letter, PanelSide.Left)
            : words is [var other, "R" or "RIGHT"] ? (other, PanelSide.Right)
            : (string.Join(" ", words), PanelSide.Centre);
    }
}

/// <summary>When a shell is read.</summary>
public enum DatumRound
{
    BeforeCut,
    AfterCut,
}

/// <summary>What a point is read with.</summary>
public enum DatumTool
{
    PlumbBob,
    Tape,
    Laser,
    Other,
}

/// <summary>Figures of a chassis by tape, plumb bob and level, in millimetres; null: not read.</summary>
public sealed record ChassisFigures(
    double? WheelbaseLeftMm = null,
    double? WheelbaseRightMm = null,
    double? TrackMm = null,
    double? AxleLeftMm = null,
    double? AxleRightMm = null,
    double? HeightFrontLeftMm = null,
    double? HeightFrontRightMm = null,
    double? HeightRearLeftMm = null,
    double? HeightRearRightMm = null
)
{
    /// <summary>By how many degrees the axles are out of parallel; null: not all of it is read.</summary>
    public double? SkewDeg() =>
        WheelbaseLeftMm is { } l && WheelbaseRightMm is { } r && TrackMm is { } t ? Frame.SkewDeg(l, r, t) : null;

    /// <summary>By how much the rear axle lies too far to the right.</summary>
    public double? OffCentreMm() => AxleLeftMm is { } l && AxleRightMm is { } r ? Frame.OffCentreMm(l, r) : null;

    public FrameTwist? Twist() =>
        HeightFrontLeftMm is { } a
        && HeightFrontRightMm is { } b
        && HeightRearLeftMm is { } c
        && HeightRearRightMm is { } d
            ? Frame.Twist(a, b, c, d)
            : null;

    /// <exception cref="Refusal">A length that is none.</exception>
    public void Check()
    {
        foreach (
            var (value, field) in new[]
            {
                (WheelbaseLeftMm, "wheelbaseLeftMm"),
                (WheelbaseRightMm, "wheelbaseRightMm"),
                (TrackMm, "trackMm"),
                (AxleLeftMm, "axleLeftMm"),
                (AxleRightMm, "axleRightMm"),
            }
        )
        {
            Refusal.When(
                value is { } v && !(v is > 0 and <= 20_000),
                field,
                "A length is more than nothing, up to 20 m."
            );
        }

        Refusal.When(
            new[] { HeightFrontLeftMm, HeightFrontRightMm, HeightRearLeftMm, HeightRearRightMm }.Any(h =>
                h is { } v && !(Math.Abs(v) <= 20_000)
            ),
            "heightFrontLeftMm",
            "A corner stands within 20 m of the level."
        );
    }
}

/// <summary>A reference sheet of a build: what its shell should measure, and where that is written.</summary>
public sealed class DatumSheet : Entity
{
    private const int MostPoints = 60;

    public required Guid BuildId { get; init; }

    /// <summary>Number of the drawing, its revision and page: an unnamed source is none.</summary>
    public string Drawing { get; set; } = "";

    public string Revision { get; set; } = "";
    public string Page { get; set; } = "";

    /// <summary>Within which a point agrees, in millimetres.</summary>
    public double ToleranceMm { get; set; } = 2;

    public List<DatumPoint> Points { get; set; } = [];

    public ChassisFigures Before { get; set; } = new();

    public ChassisFigures After { get; set; } = new();

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check()
    {
        Refusal.Each(
            () => Refusal.Text(Drawing, "drawing", 80),
            () => Refusal.When(Revision.Length > 40, "revision", "Up to 40 characters."),
            () => Refusal.When(Page.Length > 40, "page", "Up to 40 characters."),
            () =>
                Refusal.When(
                    !(ToleranceMm is > 0 and <= 100),
                    "toleranceMm",
                    "A point agrees within more than 0 and up to 100 mm."
                ),
            () => Refusal.When(Points.Count > MostPoints, "points", $"A sheet has up to {MostPoints} points.")
        );
        foreach (var point in Points)
        {
            Refusal.When(
                point.Letter.Length is 0 or > 12,
                "points",
                "Each point has a letter or a number of up to 12 characters."
            );
            Refusal.When(point.Name.Length > 80, "points", $"{point.Key}: up to 80 characters.");
            point.At.Check(point.Key);
        }

        var twice = Points.GroupBy(p => p.Key).FirstOrDefault(g => g.Count() > 1)?.Key;
        Refusal.When(twice is not null, "points", $"{twice} is there twice.");
        Before.Check();
        After.Check();
    }
}

/// <summary>Where a point of the shell was read. The last that stands counts.</summary>
public sealed class DatumReading : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>Key of the point.</summary>
    public required string Point { get; init; }

    public required DatumRound Round { get; init; }

    /// <summary>In whatever frame it was read; the fit finds how that lies to the sheet's.</summary>
    public required TypedPoint At { get; init; }

    public required DatumTool Tool { get; init; }

    /// <summary>Which one, as the shop calls it.</summary>
    public string Instrument { get; init; } = "";

    public required Instant ReadAt { get; init; }
    public required string By { get; init; }
    public bool TakenBack { get; private set; }

    /// <param name="sheet">The sheet that it is read against.</param>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check(DatumSheet sheet)
    {
        Refusal.When(!sheet.Points.Exists(p => p.Key == Point), "point", $"The sheet has no point {Point}.");
        Refusal.When(Instrument.Length > 60, "instrument", "Up to 60 characters.");
        At.Check(Point);
    }

    public void TakeBack() => TakenBack = true;
}

/// <summary>A shell in one round, laid on its sheet.</summary>
/// <param name="Fit">Of the points that agree; null: it cannot be said how it lies.</param>
/// <param name="Why">Why not; empty: it can.</param>
/// <param name="Off">Each point that was read: by how much it is off its place, in the sheet's frame.</param>
/// <param name="Bent">Keys of those that do not agree.</param>
/// <param name="IsSearched">All sets of points were tried; else the worst was left out one after another.</param>
public sealed record DatumFit(
    DatumRound Round,
    RigidFit? Fit,
    string Why,
    IReadOnlyDictionary<string, Point> Off,
    IReadOnlySet<string> Bent,
    bool IsSearched
)
{
    /// <summary>Lays what was read on the sheet.</summary>
    /// <param name="read">By the key of the point.</param>
    public static DatumFit Of(DatumSheet sheet, DatumRound round, IReadOnlyDictionary<string, Point> read)
    {
        var points = sheet.Points.Where(p => read.ContainsKey(p.Key)).ToList();
        DatumFit Cannot(string why) =>
            new(round, null, why, new Dictionary<string, Point>(), new HashSet<string>(), false);
        if (points.Count < 3)
        {
            return Cannot("Three points at least say how the shell lies.");
        }

        var (measured, reference) = (points.ConvertAll(p => read[p.Key]), points.ConvertAll(p => p.At.InMm()));
        try
        {
            var isSearched = points.Count <= BentPoints.Most;
            var found = isSearched
                ? BentPoints.Of(measured, reference, sheet.ToleranceMm)
                : BentPoints.OneByOne(measured, reference, sheet.ToleranceMm);
            return found is not null
                ? new(
                    round,
                    found.Fit,
                    "",
                    points.Zip(found.Residuals).ToDictionary(x => x.First.Key, x => x.Second),
                    found.Bent.Select(i => points[i].Key).ToHashSet(),
                    isSearched
                )
                : Cannot(
                    "No more than half of the points agree: more is bent than that, or a reading is wrong. Read again."
                );
        }
        catch (Refusal refusal)
        {
            return Cannot(refusal.Message);
        }
    }
}

/// <summary>A shell before and after a cut, by its sheet.</summary>
/// <param name="Moved">What moved between both, of the points that were read in both, in the sheet's frame.</param>
/// <param name="Mirror">Of the last round that can be laid on the sheet; null: no two pairs agree.</param>
/// <param name="Diagonals">From the foremost pair to the rearmost: left to right, right to left, in millimetres.</param>
public sealed record DatumState(
    DatumSheet Sheet,
    IReadOnlyList<DatumFit> Fits,
    IReadOnlyDictionary<string, Point> Moved,
    MirrorPlane? Mirror,
    (double LeftToRight, double RightToLeft)? Diagonals
)
{
    /// <summary>Points that were not read in a round.</summary>
    public IReadOnlyList<string> Unread(DatumRound round) =>
        [.. Sheet.Points.Select(p => p.Key).Except(Fits.FirstOrDefault(f => f.Round == round)?.Off.Keys ?? [])];

    /// <param name="readings">Of the build, in the order in which they were recorded.</param>
    public static DatumState Of(DatumSheet sheet, IReadOnlyList<DatumReading> readings)
    {
        var rounds = readings
            .Where(r => !r.TakenBack)
            .GroupBy(r => r.Round)
            .OrderBy(g => g.Key)
            .ToDictionary(
                g => g.Key,
                g =>
                    (IReadOnlyDictionary<string, Point>)
                        g.GroupBy(r => r.Point).ToDictionary(p => p.Key, p => p.Last().At.InMm())
            );
        var fits = rounds.Select(r => DatumFit.Of(sheet, r.Key, r.Value)).ToList();
        var (before, after) = (
            fits.Find(f => f is { Round: DatumRound.BeforeCut, Fit: not null }),
            fits.Find(f => f is { Round: DatumRound.AfterCut, Fit: not null })
        );
        var moved =
            before is null || after is null
                ? []
                : before.Off.Keys.Where(after.Off.ContainsKey).ToDictionary(k => k, k => after.Off[k] - before.Off[k]);
        var last = after ?? before;
        var at = last is null ? null : rounds[last.Round];
        return new(
            sheet,
            fits,
            moved,
            last is null ? null : MirrorOf(sheet, last, at!),
            last is null ? null : DiagonalsOf(sheet, at!)
        );
    }

    private static IEnumerable<(string Letter, string Left, string Right)> Pairs(DatumSheet sheet) =>
        sheet
            .Points.GroupBy(p => p.Letter)
            .Where(g => g.Any(p => p.Side == PanelSide.Left) && g.Any(p => p.Side == PanelSide.Right))
            .Select(g => (g.Key, $"{g.Key} L", $"{g.Key} R"));

    /// <summary>In the frame in which it was read, so that it says how the shell stands there.</summary>
    private static MirrorPlane? MirrorOf(DatumSheet sheet, DatumFit fit, IReadOnlyDictionary<string, Point> read)
    {
        bool Agrees(string key) => read.ContainsKey(key) && !fit.Bent.Contains(key);
        var pairs = Pairs(sheet)
            .Where(p => Agrees(p.Left) && Agrees(p.Right))
            .Select(p => new PointPair(read[p.Left], read[p.Right]))
            .ToList();
        if (pairs.Count < 2)
        {
            return null;
        }

        try
        {
            return MirrorPlane.Of(
                pairs,
                [.. sheet.Points.Where(p => p.Side == PanelSide.Centre && Agrees(p.Key)).Select(p => read[p.Key])]
            );
        }
        catch (Refusal)
        {
            return null;
        }
    }

    private static (double, double)? DiagonalsOf(DatumSheet sheet, IReadOnlyDictionary<string, Point> read)
    {
        var along = sheet.Points.ToDictionary(p => p.Key, p => p.At.InMm().X);
        var pairs = Pairs(sheet)
            .Where(p => read.ContainsKey(p.Left) && read.ContainsKey(p.Right))
            .OrderBy(p => along[p.Left])
            .ToList();
        return pairs.Count < 2
            ? null
            : (
                (read[pairs[0].Left] - read[pairs[^1].Right]).Length,
                (read[pairs[0].Right] - read[pairs[^1].Left]).Length
            );
    }
}
