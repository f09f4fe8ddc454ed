using NodaTime;

namespace FirstCoat.Core.Builds;

public enum DecisionFor { Manager, Client }

/// <summary>A question that holds work until somebody answers it.</summary>
public sealed class Decision : Recorded
{
    public required Guid BuildId { get; init; }
    public required string Question { get; set; }
    public string Detail { get; set; } = "";
    public DecisionFor For { get; set; }
    public List<string> Options { get; set; } = [];

    /// <summary>Operations that do not start while it is open.</summary>
    public List<Guid> Holds { get; set; } = [];

    /// <summary>By when it is needed; until then an open decision is assumed to stay open.</summary>
    public LocalDate DueOn { get; set; }

    /// <summary>What it adds to the bill when taken, net; null when it adds nothing.</summary>
    public decimal? Adds { get; set; }

    /// <summary>The photo that shows what it is about; the client sees it when the photo may be seen.</summary>
    public Guid? PhotoId { get; set; }

    public string? Answer { get; private set; }
    public Instant? SettledAt { get; private set; }
    public string? SettledBy { get; private set; }

    public bool IsOpen => SettledAt is null;

    /// <summary>Takes the decision.</summary>
    public void Settle(string answer, string by, Instant at)
    {
        Refusal.When(!IsOpen, "answer", $"{SettledBy} has answered this already: {Answer}.");
        (Answer, SettledBy, SettledAt) = (Refusal.Text(answer, "answer", 300), by, at);
    }
}
