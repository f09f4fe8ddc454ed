namespace FirstCoat.Core.Fitup;

/// <summary>A point in space, or the way between two, in millimetres: x to the rear, y to the left, z up.</summary>
public readonly record struct Point(double X, double Y, double Z)
{
    public double Length => Math.Sqrt(Dot(this));

    public static Point operator +(Point a, Point b) => new(a.X + b.X, a.Y + b.Y, a.Z + b.Z);

    public static Point operator -(Point a, Point b) => new(a.X - b.X, a.Y - b.Y, a.Z - b.Z);

    public static Point operator *(double k, Point a) => new(k * a.X, k * a.Y, k * a.Z);

    public double Dot(Point o) => X * o.X + Y * o.Y + Z * o.Z;

    /// <summary>The middle of some points.</summary>
    public static Point Mean(IReadOnlyCollection<Point> all) =>
        1.0 / all.Count * all.Aggregate(default(Point), (sum, p) => sum + p);

    internal double[] Array => [X, Y, Z];
}
