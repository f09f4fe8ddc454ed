namespace FirstCoat.Core.Plan;

/// <summary>Who goes first, as a manager took it from an improvement; the last one that was not undone holds.</summary>
public sealed class AcceptedTurns : Recorded
{
    /// <summary>By operation, lower before higher.</summary>
    public required Dictionary<string, double> Turns { get; init; }

    public required string AcceptedBy { get; init; }

    /// <summary>Weight x days late before and after, as it was offered.</summary>
    public required double LateBefore { get; init; }

    public required double LateAfter { get; init; }
    public bool Undone { get; private set; }

    /// <summary>Takes it back: what held before holds again.</summary>
    public void Undo()
    {
        Refusal.When(Undone, "id", "It has been undone already.");
        Undone = true;
    }
}
