using NodaTime;

namespace FirstCoat.Core.Reports;

/// <summary>A progress report to the client. Once published it is stored whole and never computed again.</summary>
public sealed class ClientReport : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>Counts from 1 within the build.</summary>
    public required int Number { get; init; }

    /// <summary>What was recorded after this place in the order, and up to <see cref="CoversTo"/>, is its
    /// subject.</summary>
    public required long CoversFrom { get; init; }

    public long CoversTo { get; private set; }

    /// <summary>What the manager edits.</summary>
    public ReportText Text { get; private set; } = new("", "", [], [], []);

    /// <summary>The published page, whole, as stored; null while it is a draft.</summary>
    public string? Published { get; private set; }

    public Instant? PublishedAt { get; private set; }
    public string? PublishedBy { get; private set; }

    /// <summary>The address that the letter about it went to; nothing: no letter left.</summary>
    public string SentTo { get; private set; } = "";

    public bool IsDraft => Published is null;

    /// <summary>Changes the draft.</summary>
    public void Edit(ReportText text)
    {
        Refusal.When(!IsDraft, "id", "A published report is not changed; the next one shows what was adjusted.");
        text.Check();
        Text = text;
    }

    /// <summary>Freezes the page.</summary>
    /// <param name="sentTo">The address that the letter about it goes to; nothing: none does.</param>
    public void Publish(string page, long coversTo, string by, Instant at, string sentTo)
    {
        Refusal.When(!IsDraft, "id", "The report is published already.");
        (Published, CoversTo, PublishedBy, PublishedAt, SentTo) = (page, coversTo, by, at, sentTo);
    }
}

/// <summary>The words and the choice of a report.</summary>
public sealed record ReportText(string Title, string Lede, List<string> Done, List<string> Next, List<Guid> Photos)
{
    /// <summary>Refuses what would not fit the page.</summary>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(Title.Length > 120, "title", "The title may have at most 120 characters."),
            () => Refusal.When(Lede.Length > 2000, "lede", "The opening may have at most 2,000 characters."),
            () =>
                Refusal.When(
                    Done.Concat(Next).Any(t => t.Length > 300),
                    "done",
                    "A line may have at most 300 characters."
                ),
            () => Refusal.When(Done.Count > 60 || Next.Count > 60, "done", "At most 60 lines."),
            () => Refusal.When(Photos.Count > 24, "photos", "At most 24 photos.")
        );
}
