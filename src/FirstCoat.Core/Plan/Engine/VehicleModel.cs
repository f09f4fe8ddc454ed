using FirstCoat.Core.Sequence;

namespace FirstCoat.Core.Plan.Engine;

/// <summary>A place in which vehicles stand.</summary>
/// <param name="Resource">Its room for vehicles.</param>
/// <param name="Whole">The room of all places of its kind, which work on the bench takes part of; -1: it is the only
/// one, or no such work is there.</param>
/// <param name="Closed">When nobody works in it; a vehicle may stand there meanwhile.</param>
/// <param name="Number">Its place in the problem's list.</param>
internal sealed record Place(
    string Id,
    string Name,
    string Kind,
    int Resource,
    int Whole,
    (int From, int To)[] Closed,
    int Number
);

/// <summary>A vehicle in one place, from when it was moved there until it is moved on.</summary>
/// <param name="At">The number of the place; <see cref="Nowhere"/>, <see cref="Gone"/>.</param>
/// <param name="From">When it is taken there, or since it stands there.</param>
/// <param name="Busy">The end of the last work on it there.</param>
/// <param name="Until">When it is moved on, or has to be; <see cref="Model.Parked"/>: nothing moves it.</param>
/// <param name="For">The operation that it came for; -1: it stood there, or was moved out of the way.</param>
internal readonly record struct Stay(int At, int From, int Busy, int Until, int For)
{
    /// <summary>In no place of the shop that is known.</summary>
    public const int Nowhere = -1;

    /// <summary>Pushed aside, where no place of the shop is free.</summary>
    public const int Aside = -3;

    /// <summary>Out of the shop.</summary>
    public const int Gone = -2;

    /// <summary>When it is pushed there; -1: nobody pushes it.</summary>
    public int Moved { get; init; } = -1;

    /// <summary>Who pushes it; -1: nobody.</summary>
    public int Mover { get; init; } = -1;

    public int SecondMover { get; init; } = -1;

    /// <summary>From when on it can be worked on there.</summary>
    public int Ready(int moveMinutes) => Moved >= 0 ? Moved + moveMinutes : From;
}

/// <summary>How a shell stands: whether it rolls, what it stands on and how high it is itself; the height null: not
/// measured.</summary>
internal readonly record struct Shell(bool Rolls, int DollyMm, int? HeightMm);

/// <summary>What an operation changes of it.</summary>
/// <param name="Rolls">Null: it stands as before.</param>
internal sealed record ShellChange(bool? Rolls, int DollyMm, int LowersMm);

/// <summary>Where vehicles stand and which work is done on them there.</summary>
internal sealed class VehicleModel
{
    public required Place[] Places { get; init; }

    /// <summary>Where each build's vehicle stands now.</summary>
    public required int[] StandsAt { get; init; }

    public required BodyUse[] Body { get; init; }

    /// <summary>Places in which an operation on the vehicle can be done; null: wherever it stands.</summary>
    public required int[]?[] Options { get; init; }

    /// <summary>Places in which vehicles stand too, of work that is not done on one; null: none.</summary>
    public required int[]?[] Benches { get; init; }

    /// <summary>How long a place is wanted from an operation's start on, work and waits at that kind of place
    /// alone.</summary>
    public required int[] Visit { get; init; }

    /// <summary>How each build's shell stands now.</summary>
    public required Shell[] Shells { get; init; }

    /// <summary>What an operation changes of how its shell stands; null: nothing.</summary>
    public required ShellChange?[] Changes { get; init; }

    /// <summary>How high each build's shell may be, as it stands, to get into each place or out of it; none: any
    /// height.</summary>
    public required int[][] Passes { get; init; }

    /// <summary>How many push a shell that rolls, and one that does not.</summary>
    public required (int Rolling, int NotRolling) Hands { get; init; }

    /// <summary>A place that is not there, for the question what one more would do.</summary>
    public required int Spare { get; init; }

    /// <summary>Places to which a vehicle is pushed out of the way.</summary>
    public required int[] Yards { get; init; }

    public required int MoveMinutes { get; init; }

    /// <summary>Operations of each build.</summary>
    public required int[] Operations { get; init; }

    /// <summary>From so many idle minutes on a vehicle makes room where the yard has some.</summary>
    public const int LongIdle = 2 * 1440;
}
