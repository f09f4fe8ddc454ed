using FirstCoat.Core.Bodies;

namespace FirstCoat.Core.Survey;

/// <summary>A place of the arrival round: where to stand and what the picture shows, in centimetres of the plan from
/// above, nose at the top.</summary>
/// <param name="HalfAngle">Half of what the picture takes in, in degrees; nothing for a close-up.</param>
public sealed record RoundStation(string Key, string Name, MapPoint At, MapPoint Aim, double HalfAngle);

/// <summary>
/// The prompted round of pictures when a vehicle comes: once about it, then the close-ups that are asked for later when
/// somebody doubts.
/// </summary>
public static class ArrivalRound
{
    /// <summary>All places in the order of a walk: front, down the left, rear, up the right, then close-ups.</summary>
    /// <param name="lengthMm">Of the body; likewise its width.</param>
    public static IReadOnlyList<RoundStation> Of(int lengthMm, int widthMm)
    {
        var (length, half) = (lengthMm / 10.0, widthMm / 20.0);
        var (side, end) = (half + 190, 170.0);
        RoundStation Walk(string key, string name, double x, double y, double aimX, double aimY, double angle) =>
            new(key, name, new(x, y), new(aimX, aimY), angle);
        RoundStation Close(string key, string name, double x, double y) => new(key, name, new(x, y), new(x, y), 0);
        return
        [
            Walk("front", "front", 0, -end, 0, length * .2, 24),
            Walk("leftFront", "left front", -half - 130, -end * .7, -half * .3, length * .2, 24),
            Walk("leftFore", "left side, fore", -side, length * .28, 0, length * .30, 27),
            Walk("leftAft", "left side, aft", -side, length * .74, 0, length * .72, 27),
            Walk("leftRear", "left rear", -half - 130, length + end * .7, -half * .3, length * .8, 24),
            Walk("rear", "rear", 0, length + end, 0, length * .8, 24),
            Walk("rightRear", "right rear", half + 130, length + end * .7, half * .3, length * .8, 24),
            Walk("rightAft", "right side, aft", side, length * .74, 0, length * .72, 27),
            Walk("rightFore", "right side, fore", side, length * .28, 0, length * .30, 27),
            Walk("rightFront", "right front", half + 130, -end * .7, half * .3, length * .2, 24),
            Close("engine", "engine", 0, length * .16),
            Close("dash", "dash and odometer", half * .35, length * .36),
            Close("cabin", "cabin", -half * .3, length * .52),
            Close("plate", "maker's plate", half * .55, length * .27),
        ];
    }
}
