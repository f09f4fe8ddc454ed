namespace FirstCoat.Core.Fitup;

/// <summary>A point of the left side and the same on the right.</summary>
public readonly record struct PointPair(Point Left, Point Right)
{
    public Point Middle => 0.5 * (Left + Right);

    public Point Across => Left - Right;
}

/// <summary>The plane in which both sides of a body mirror each other best.</summary>
/// <param name="Normal">Of length one, to the left.</param>
/// <param name="DistanceMm">Of the plane from the origin, along the normal.</param>
/// <param name="Asymmetry">Of each pair: the left point less the mirrored right one.</param>
/// <param name="CentreOffMm">How far each point of the centre line lies to the left of the plane.</param>
public sealed record MirrorPlane(
    Point Normal,
    double DistanceMm,
    IReadOnlyList<Point> Asymmetry,
    IReadOnlyList<double> CentreOffMm
)
{
    private const double Nothing = 1e-9;

    /// <summary>Root mean square over the pairs.</summary>
    public double RmsMm => Math.Sqrt(Asymmetry.Average(a => a.Dot(a)));

    /// <summary>A point on the other side of the plane.</summary>
    public Point Mirrored(Point p) => p - 2 * (Normal.Dot(p) - DistanceMm) * Normal;

    /// <summary>Source: least squares. The squared error of a pair is 4 (n.m - d)^2 + |e|^2 - (n.e)^2 with its middle m
    /// and its way across e; so d = n.mean(m), and n is the eigenvector of the least value of 4 Sm - Se. A point of the
    /// centre line is its own partner.</summary>
    /// <exception cref="Refusal">Fewer than two pairs, or more than one plane does as well.</exception>
    public static MirrorPlane Of(IReadOnlyList<PointPair> pairs, IReadOnlyList<Point> centre)
    {
        Refusal.When(pairs.Count < 2, "pairs", "Two pairs at least say where the middle is.");
        var all = pairs.Concat(centre.Select(p => new PointPair(p, p))).ToList();
        var middle = Point.Mean([.. all.Select(p => p.Middle)]);
        var (m, e) = (
            RigidFit.Scatter(all.Select(p => p.Middle), middle),
            RigidFit.Scatter(all.Select(p => p.Across), default)
        );
        var sums = new double[3, 3];
        for (var i = 0; i < 3; i++)
        {
            for (var j = 0; j < 3; j++)
            {
                sums[i, j] = 4 * m[i, j] - e[i, j];
            }
        }

        var eigen = Eigen.Of(sums);
        var largest = eigen.Max(x => Math.Abs(x.Value));
        Refusal.When(
            eigen[1].Value - eigen[0].Value <= Nothing * largest,
            "pairs",
            "These points are mirrored as well by more than one plane."
        );
        var v = eigen[0].Vector;
        var normal = new Point(v[0], v[1], v[2]);
        if (pairs.Sum(p => normal.Dot(p.Across)) < 0)
        {
            normal = -1 * normal;
        }

        var plane = new MirrorPlane(normal, normal.Dot(middle), [], []);
        return plane with
        {
            Asymmetry = [.. pairs.Select(p => p.Left - plane.Mirrored(p.Right))],
            CentreOffMm = [.. centre.Select(p => normal.Dot(p) - plane.DistanceMm)],
        };
    }
}
