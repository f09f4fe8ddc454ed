namespace FirstCoat.Core.Fitup;

/// <summary>Eigenvalues of a small symmetric matrix, ascending, each with its vector of length one.</summary>
/// <remarks>Source: cyclic Jacobi rotations, Golub and Van Loan, Matrix Computations, 8.5.</remarks>
internal static class Eigen
{
    private const int MostSweeps = 60;

    public static IReadOnlyList<(double Value, double[] Vector)> Of(double[,] symmetric)
    {
        var n = symmetric.GetLength(0);
        var a = (double[,])symmetric.Clone();
        var v = new double[n, n];
        for (var i = 0; i < n; i++)
        {
            v[i, i] = 1;
        }

        for (var sweep = 0; sweep < MostSweeps && OffDiagonal(a, n) > 0; sweep++)
        {
            for (var p = 0; p < n; p++)
            {
                for (var q = p + 1; q < n; q++)
                {
                    Rotate(a, v, n, p, q);
                }
            }
        }

        return
        [
            .. Enumerable
                .Range(0, n)
                .Select(i => (a[i, i], Enumerable.Range(0, n).Select(k => v[k, i]).ToArray()))
                .OrderBy(e => e.Item1),
        ];
    }

    private static double OffDiagonal(double[,] a, int n)
    {
        var sum = 0.0;
        for (var p = 0; p < n; p++)
        {
            for (var q = p + 1; q < n; q++)
            {
                sum += Math.Abs(a[p, q]);
            }
        }

        return sum;
    }

    private static void Rotate(double[,] a, double[,] v, int n, int p, int q)
    {
        // What is lost in the diagonal's last digit is nothing.
        if (Math.Abs(a[p, q]) <= 1e-300 || Math.Abs(a[p, q]) < 1e-18 * (Math.Abs(a[p, p]) + Math.Abs(a[q, q])))
        {
            a[p, q] = a[q, p] = 0;
            return;
        }

        var theta = (a[q, q] - a[p, p]) / (2 * a[p, q]);
        var t = (theta < 0 ? -1 : 1) / (Math.Abs(theta) + Math.Sqrt(theta * theta + 1));
        var c = 1 / Math.Sqrt(t * t + 1);
        var s = t * c;
        for (var k = 0; k < n; k++)
        {
            (a[k, p], a[k, q]) = (c * a[k, p] - s * a[k, q], s * a[k, p] + c * a[k, q]);
        }

        for (var k = 0; k < n; k++)
        {
            (a[p, k], a[q, k]) = (c * a[p, k] - s * a[q, k], s * a[p, k] + c * a[q, k]);
            (v[k, p], v[k, q]) = (c * v[k, p] - s * v[k, q], s * v[k, p] + c * v[k, q]);
        }
    }
}
