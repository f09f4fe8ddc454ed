namespace FirstCoat.Core.Fitup;

/// <summary>How far a frame is out of flat.</summary>
/// <param name="ResidualMm">Each corner lies so far from the plane that fits all four best.</param>
/// <param name="CornerGapMm">Under the fourth corner, where it rests on three.</param>
/// <param name="FrontLeftHigh">Front left and rear right stand high; else the other two. Null: it is flat.</param>
public readonly record struct FrameTwist(double ResidualMm, double CornerGapMm, bool? FrontLeftHigh);

/// <summary>A chassis by a tape, a plumb bob and a level. Answers are unrounded.</summary>
public static class Frame
{
    /// <summary>By how many degrees the axles are out of parallel; more than 0: the left wheelbase is the longer.
    /// Source: atan((left - right) / track), wheelbases along the centre line and the track square to it.</summary>
    /// <exception cref="Refusal">A length of nothing or less.</exception>
    public static double SkewDeg(double wheelbaseLeftMm, double wheelbaseRightMm, double trackMm)
    {
        Positive(wheelbaseLeftMm, "wheelbaseLeftMm");
        Positive(wheelbaseRightMm, "wheelbaseRightMm");
        Positive(trackMm, "trackMm");
        return Math.Atan((wheelbaseLeftMm - wheelbaseRightMm) / trackMm) * 180 / Math.PI;
    }

    /// <summary>By how much an axle lies too far to the right, in millimetres. Source: half the difference of its two
    /// distances from the centre line.</summary>
    /// <exception cref="Refusal">A length of nothing or less.</exception>
    public static double OffCentreMm(double leftMm, double rightMm)
    {
        Positive(leftMm, "leftMm");
        Positive(rightMm, "rightMm");
        return (rightMm - leftMm) / 2;
    }

    /// <summary>Heights of the four corners over any level. Source: residual of the plane of least squares on a
    /// rectangle, |zFL - zFR - zRL + zRR| / 4; resting on three corners, the gap under the fourth is four times
    /// that.</summary>
    public static FrameTwist Twist(double frontLeftMm, double frontRightMm, double rearLeftMm, double rearRightMm)
    {
        var across = frontLeftMm - frontRightMm - rearLeftMm + rearRightMm;
        return new(Math.Abs(across) / 4, Math.Abs(across), across == 0 ? null : across > 0);
    }

    private static void Positive(double length, string field) =>
        Refusal.When(length <= 0, field, "A length is more than nothing.");
}
