using NodaTime;

namespace FirstCoat.Core.Builds;

public enum DecisionFor
{
    Manager,
    Client,
}

/// <summary>Work that a manager lets go on although its question is open.</summary>
public sealed record LetGoOn(Guid Operation, string Reason, string By, Instant At);

/// <summary>A question that holds work until somebody answers it.</summary>
public sealed class Decision : Recorded
{
    public required Guid BuildId { get; init; }
    public required string Question { get; set; }
    public string Detail { get; set; } = "";
    public DecisionFor For { get; set; }
    public List<string> Options { get; set; } = [];

    /// <summary>Those of the answers that take the work it holds out of the sequence, such as "leave it".</summary>
    public List<string> TakesOut { get; set; } = [];

    /// <summary>Operations that do not start while it is open.</summary>
    public List<Guid> Holds { get; set; } = [];

    /// <summary>By when it is needed; until then an open decision is assumed to stay open.</summary>
    public LocalDate DueOn { get; set; }

    /// <summary>What it adds to the bill when taken, net; null when it adds nothing.</summary>
    public decimal? Adds { get; set; }

    /// <summary>The photo that shows what it is about; the client sees it when the photo may be seen.</summary>
    public Guid? PhotoId { get; set; }

    /// <summary>The change order that this question is about; it is answered there.</summary>
    public Guid? PaperId { get; init; }

    /// <summary>What goes on all the same, each with a manager's reason.</summary>
    public List<LetGoOn> LetGo { get; private set; } = [];

    public string? Answer { get; private set; }
    public Instant? SettledAt { get; private set; }
    public string? SettledBy { get; private set; }

    public bool IsOpen => SettledAt is null;

    /// <summary>Whether it keeps an operation from being worked on.</summary>
    public bool Stops(Guid operation) =>
        IsOpen && Holds.Contains(operation) && LetGo.All(l => l.Operation != operation);

    /// <summary>Lets an operation go on, for a reason that stays.</summary>
    public void Let(Guid operation, string reason, string by, Instant at)
    {
        Refusal.When(!Stops(operation), "operationId", "This question does not hold that operation.");
        LetGo = [.. LetGo, new(operation, Refusal.Text(reason, "reason", 300), by, at)];
    }

    /// <summary>Takes the decision.</summary>
    public void Settle(string answer, string by, Instant at)
    {
        Refusal.When(!IsOpen, "answer", $"{SettledBy} has answered this already: {Answer}.");
        (Answer, SettledBy, SettledAt) = (Refusal.Text(answer, "answer", 300), by, at);
    }
}
