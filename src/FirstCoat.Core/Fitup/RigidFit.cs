namespace FirstCoat.Core.Fitup;

/// <summary>Measured points laid on a reference, turned and shifted but neither stretched nor mirrored.</summary>
/// <param name="Rotation">Three rows.</param>
/// <param name="Translation">Added once a point is turned.</param>
/// <param name="Residuals">Where each measured point lands, less its reference, in the reference's frame.</param>
public sealed record RigidFit(double[][] Rotation, Point Translation, IReadOnlyList<Point> Residuals)
{
    /// <summary>By so much of the largest, what ought to be nothing may be more than nothing.</summary>
    private const double Nothing = 1e-9;

    /// <summary>Root mean square of the residuals.</summary>
    public double RmsMm => Math.Sqrt(Residuals.Average(r => r.Dot(r)));

    /// <summary>Lands a measured point in the frame of the reference.</summary>
    public Point Land(Point p) => Turned(Rotation, p) + Translation;

    /// <summary>Source: Horn, J. Opt. Soc. Am. A 4 (1987) 629: the rotation of least squares as the quaternion of the
    /// largest eigenvalue of a 4 x 4 matrix.</summary>
    /// <exception cref="Refusal">Fewer than three points, unequal counts, all on one line or in one spot, or more than one
    /// way to lay them on.</exception>
    public static RigidFit Of(IReadOnlyList<Point> measured, IReadOnlyList<Point> reference)
    {
        Refusal.When(measured.Count < 3, "measured", "Three points at least say how it lies.");
        Refusal.When(
            measured.Count != reference.Count,
            "reference",
            "Each measured point has its own on the reference sheet."
        );
        Refusal.When(IsOnLine(measured), "measured", "The measured points lie on one line.");
        Refusal.When(IsOnLine(reference), "reference", "The points of the reference lie on one line.");
        return TryFit(measured, reference)
            ?? throw new Refusal("measured", "The points can be laid on the reference in more than one way.");
    }

    /// <summary>Null: the points do not say how it lies.</summary>
    internal static RigidFit? TryFit(IReadOnlyList<Point> measured, IReadOnlyList<Point> reference)
    {
        var (m, r) = (Point.Mean([.. measured]), Point.Mean([.. reference]));
        var s = new double[3, 3];
        foreach (var (from, to) in measured.Zip(reference))
        {
            var (a, b) = ((from - m).Array, (to - r).Array);
            for (var i = 0; i < 3; i++)
            {
                for (var j = 0; j < 3; j++)
                {
                    s[i, j] += a[i] * b[j];
                }
            }
        }

        var eigen = Eigen.Of(
            new[,]
            {
                { s[0, 0] + s[1, 1] + s[2, 2], s[1, 2] - s[2, 1], s[2, 0] - s[0, 2], s[0, 1] - s[1, 0] },
                { s[1, 2] - s[2, 1], s[0, 0] - s[1, 1] - s[2, 2], s[0, 1] + s[1, 0], s[2, 0] + s[0, 2] },
                { s[2, 0] - s[0, 2], s[0, 1] + s[1, 0], -s[0, 0] + s[1, 1] - s[2, 2], s[1, 2] + s[2, 1] },
                { s[0, 1] - s[1, 0], s[2, 0] + s[0, 2], s[1, 2] + s[2, 1], -s[0, 0] - s[1, 1] + s[2, 2] },
            }
        );
        if (eigen[3].Value - eigen[2].Value <= Nothing * eigen.Max(e => Math.Abs(e.Value)))
        {
            return null;
        }

        var turn = Rows(eigen[3].Vector);
        var shift = r - Turned(turn, m);
        return new(turn, shift, [.. measured.Zip(reference, (from, to) => Turned(turn, from) + shift - to)]);
    }

    /// <summary>Whether points lie on one line, or in one spot.</summary>
    internal static bool IsOnLine(IReadOnlyList<Point> points)
    {
        var eigen = Eigen.Of(Scatter(points, Point.Mean([.. points])));
        return eigen[1].Value <= Nothing * eigen[2].Value || eigen[2].Value == 0;
    }

    /// <summary>Sums of the products of coordinates, from a middle.</summary>
    internal static double[,] Scatter(IEnumerable<Point> points, Point middle)
    {
        var sum = new double[3, 3];
        foreach (var p in points)
        {
            var d = (p - middle).Array;
            for (var i = 0; i < 3; i++)
            {
                for (var j = 0; j < 3; j++)
                {
                    sum[i, j] += d[i] * d[j];
                }
            }
        }

        return sum;
    }

    private static Point Turned(double[][] rows, Point p)
    {
        double Row(int i) => rows[i][0] * p.X + rows[i][1] * p.Y + rows[i][2] * p.Z;
        return new(Row(0), Row(1), Row(2));
    }

    private static double[][] Rows(double[] quaternion)
    {
        var (w, x, y, z) = (quaternion[0], quaternion[1], quaternion[2], quaternion[3]);
        return
        [
            [w * w + x * x - y * y - z * z, 2 * (x * y - w * z), 2 * (x * z + w * y)],
            [2 * (x * y + w * z), w * w - x * x + y * y - z * z, 2 * (y * z - w * x)],
            [2 * (x * z - w * y), 2 * (y * z + w * x), w * w - x * x - y * y + z * z],
        ];
    }
}

/// <summary>The largest set of points that agree with the reference, and those that are bent.</summary>
/// <param name="Bent">By their place in the list.</param>
/// <param name="Fit">Of those that agree.</param>
/// <param name="Residuals">Of all points, in the frame of those that agree.</param>
public sealed record BentPoints(IReadOnlyList<int> Bent, RigidFit Fit, IReadOnlyList<Point> Residuals)
{
    /// <summary>More points than that are not tried in every way.</summary>
    public const int Most = 12;

    /// <summary>Every set of more than half of the points, the largest first; of equal ones that with the least root
    /// mean square.</summary>
    /// <param name="toleranceMm">Within which each point of a set lies in its own fit.</param>
    /// <returns>Null: no such set agrees.</returns>
    /// <exception cref="Refusal">As <see cref="RigidFit.Of"/>, no tolerance, or more points than are tried.</exception>
    public static BentPoints? Of(IReadOnlyList<Point> measured, IReadOnlyList<Point> reference, double toleranceMm)
    {
        Refusal.When(toleranceMm <= 0, "toleranceMm", "The tolerance is more than nothing.");
        Refusal.When(measured.Count > Most, "measured", $"At most {Most} points are tried in every way.");
        RigidFit.Of(measured, reference);
        for (var size = measured.Count; size >= 3 && 2 * size > measured.Count; size--)
        {
            (RigidFit Fit, int[] Members)? best = null;
            foreach (var members in Sets(measured.Count, size))
            {
                var (m, r) = (members.Select(i => measured[i]).ToList(), members.Select(i => reference[i]).ToList());
                if (
                    !RigidFit.IsOnLine(m)
                    && !RigidFit.IsOnLine(r)
                    && RigidFit.TryFit(m, r) is { } fit
                    && fit.Residuals.All(x => x.Length <= toleranceMm + 1e-9)
                    && (best is null || fit.RmsMm < best.Value.Fit.RmsMm)
                )
                {
                    best = (fit, members);
                }
            }

            if (best is { } found)
            {
                return new(
                    [.. Enumerable.Range(0, measured.Count).Except(found.Members)],
                    found.Fit,
                    [.. measured.Zip(reference, (from, to) => found.Fit.Land(from) - to)]
                );
            }
        }

        return null;
    }

    /// <summary>Leaves out the worst point and lays the others on again, until all of them agree: for more points than
    /// are tried in every way. It may leave out more than it had to.</summary>
    /// <returns>Null: no more than half of them are left before they agree.</returns>
    /// <exception cref="Refusal">As <see cref="RigidFit.Of"/>, or no tolerance.</exception>
    public static BentPoints? OneByOne(
        IReadOnlyList<Point> measured,
        IReadOnlyList<Point> reference,
        double toleranceMm
    )
    {
        Refusal.When(toleranceMm <= 0, "toleranceMm", "The tolerance is more than nothing.");
        RigidFit.Of(measured, reference);
        List<int> members = [.. Enumerable.Range(0, measured.Count)];
        while (members.Count >= 3 && 2 * members.Count > measured.Count)
        {
            if (
                RigidFit.TryFit(members.ConvertAll(i => measured[i]), members.ConvertAll(i => reference[i]))
                is not { } fit
            )
            {
                return null;
            }

            var worst = members.MaxBy(i => (fit.Land(measured[i]) - reference[i]).Length);
            if ((fit.Land(measured[worst]) - reference[worst]).Length <= toleranceMm + 1e-9)
            {
                return new(
                    [.. Enumerable.Range(0, measured.Count).Except(members)],
                    fit,
                    [.. measured.Zip(reference, (from, to) => fit.Land(from) - to)]
                );
            }

            members.Remove(worst);
        }

        return null;
    }

    /// <summary>All sets of some of so many, each ascending.</summary>
    private static IEnumerable<int[]> Sets(int count, int size)
    {
        for (var bits = 0; bits < 1 << count; bits++)
        {
            if (System.Numerics.BitOperations.PopCount((uint)bits) == size)
            {
                yield return [.. Enumerable.Range(0, count).Where(i => (bits >> i & 1) == 1)];
            }
        }
    }
}
