using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Money.Papers;

/// <summary>What the client is asked to agree to: the estimate at the start, a change after it.</summary>
public enum PaperKind
{
    Estimate,
    ChangeOrder,
}

public enum PaperState
{
    Draft,
    Sent,
    Accepted,
    Declined,
    Withdrawn,
}

/// <summary>How a paper reached the client: by a letter that left, or printed and handed over.</summary>
public enum SentWay
{
    Letter,
    ByHand,
}

/// <summary>How the client answered: with a code sent to the known address, or on paper.</summary>
public enum AnswerWay
{
    Code,
    Paper,
}

/// <summary>Work and goods that come with a choice or a line of a change and are not in the sequence yet, and work that
/// goes; goods net.</summary>
/// <param name="Minutes">Of new work, done by the trade in the stage.</param>
/// <param name="OutsideDays">Until what is sent out is back; nothing: nothing is sent out.</param>
/// <param name="Leaves">Operations that are not done then.</param>
public sealed record AddedWork(
    int Minutes,
    Trade? Trade,
    Stage? Stage,
    decimal Parts,
    decimal Outside,
    int OutsideDays,
    decimal Materials,
    List<Guid> Leaves
)
{
    public bool IsNothing() =>
        Minutes == 0 && Parts == 0 && Outside == 0 && OutsideDays == 0 && Materials == 0 && Leaves.Count == 0;

    /// <summary>Whether it becomes an operation of its own.</summary>
    public bool HasWork() => Minutes > 0;

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () =>
                Refusal.When(
                    Minutes is < 0 or > 600_000,
                    "minutes",
                    "At most 10,000 hours are added; work that is taken out is chosen from the sequence."
                ),
            () =>
                Refusal.When(
                    Minutes > 0 && (Trade is null || Stage is null),
                    "trade",
                    "Say whose hours they are, and in which stage they are worked."
                ),
            () =>
                Refusal.When(
                    OutsideDays is < 0 or > 1000,
                    "outsideDays",
                    "What is sent out is back within 1,000 days."
                ),
            () => Refusal.When(OutsideDays > 0 && Stage is null, "stage", "Say in which stage it is sent out."),
            () =>
                Refusal.When(
                    new[] { Parts, Outside, Materials }.Any(a => !Cents.AreWhole(a) || Math.Abs(a) > 10_000_000),
                    "adds",
                    "Amounts are in whole cents."
                ),
            () => Refusal.When(Leaves.Count > 60, "leaves", "At most sixty operations are taken out.")
        );

    /// <summary>What it comes to, net: hours at their trade's rate with the consumables on them, goods as entered, less
    /// what is not done at the same rates.</summary>
    /// <param name="left">The operations that are not done then.</param>
    public EstimateTotals Price(
        IReadOnlyDictionary<Trade, decimal> rates,
        decimal consumablesPercent,
        IEnumerable<Operation> left
    )
    {
        var labour = Hours(Minutes, Trade, rates) - left.Sum(o => Hours(o.BudgetMinutes, o.Trade, rates));
        return new(labour, Parts, Outside, Materials + Cents.Round(labour * consumablesPercent / 100));
    }

    /// <summary>Minutes at a trade's rate, rounded once.</summary>
    public static decimal Hours(int minutes, Trade? trade, IReadOnlyDictionary<Trade, decimal> rates) =>
        trade is { } t ? Cents.Round(minutes * rates.GetValueOrDefault(t) / 60) : 0;
}

/// <summary>A line of a change order: work and goods that it adds, or below nothing takes out, net.</summary>
/// <param name="FindingId">The finding it comes from; null: it was asked for.</param>
/// <param name="Operations">That wait until the client has agreed.</param>
public sealed record PaperLine(
    Guid Id,
    Guid? FindingId,
    string Text,
    int Minutes,
    EstimateTotals Adds,
    List<Guid> Operations,
    List<Guid> Parts
)
{
    /// <summary>What it brings that is not in the sequence yet; null: nothing.</summary>
    public AddedWork? Work { get; init; }
}

/// <summary>Something the client may choose with the estimate.</summary>
/// <param name="Adds">To the estimate when taken, net; negative: it saves.</param>
/// <param name="Days">Later, or sooner when negative, by the plan; null: some of the work has no date, so nobody can
/// say.</param>
public sealed record PaperChoice(string Letter, string Text, decimal Adds, int? Days)
{
    /// <summary>What it becomes when it is taken.</summary>
    public AddedWork? Work { get; init; }

    /// <summary>What it adds by kind of cost; null: it was entered as one sum.</summary>
    public EstimateTotals? ByKind { get; init; }

    /// <summary>By kind of cost; one sum counts as labour.</summary>
    public EstimateTotals Totals() => ByKind ?? new(Adds, 0, 0, 0);
}

/// <summary>What the desk writes around the figures.</summary>
public sealed record PaperWords(
    string Title,
    string Reason,
    List<string> NotIncluded,
    List<string> Terms,
    List<PaperChoice> Choices,
    List<PaperGoods> Goods,
    List<Guid> Photos,
    LocalDate AnswerBy,
    decimal? Deposit
)
{
    /// <summary>Checks the words.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Title, "title", 120),
            () => Refusal.When(Reason.Length > 1000, "reason", "At most 1,000 characters."),
            () =>
                Refusal.When(
                    NotIncluded.Count > 20 || NotIncluded.Any(t => t.Length > 200),
                    "notIncluded",
                    "At most twenty lines of up to 200 characters."
                ),
            () =>
                Refusal.When(
                    Terms.Count > 20 || Terms.Any(t => t.Length > 200),
                    "terms",
                    "At most twenty lines of up to 200 characters."
                ),
            () =>
                Refusal.When(
                    Choices.Count > 8
                        || Choices.Any(c =>
                            c.Letter.Length != 1 || string.IsNullOrWhiteSpace(c.Text) || c.Text.Length > 120
                        ),
                    "choices",
                    "At most eight choices, each with a letter and up to 120 characters."
                ),
            () =>
                Refusal.When(
                    Choices.Select(c => c.Letter).Distinct().Count() != Choices.Count,
                    "choices",
                    "Each choice has its own letter."
                ),
            () =>
                Refusal.When(
                    Choices.Any(c =>
                        !Cents.AreWhole(c.Adds) || Math.Abs(c.Adds) > 10_000_000 || Math.Abs(c.Days ?? 0) > 1000
                    ),
                    "choices",
                    "What a choice adds is in whole cents."
                ),
            () => Choices.ForEach(c => c.Work?.Check()),
            () => Refusal.When(Goods.Count > 30, "goods", "At most thirty rows of goods."),
            () => Refusal.When(Photos.Count > 12, "photos", "At most twelve photos."),
            () =>
                Refusal.When(AnswerBy.Year is < 1990 or > 2100, "answerBy", "The date must be between 1990 and 2100."),
            () =>
                Refusal.When(
                    Deposit is < 0 or > 10_000_000 || (Deposit is { } d && !Cents.AreWhole(d)),
                    "deposit",
                    "The deposit is in whole cents, not negative."
                ),
            () => Goods.ForEach(EstimateFigures.CheckGoods)
        );
}

/// <summary>What the client said, who and when; it is never changed.</summary>
/// <param name="Choices">Letters of what was taken with it.</param>
/// <param name="Note">Where the paper lies, or to which address the code went.</param>
public sealed record PaperAnswer(bool Yes, string Name, Instant At, AnswerWay Way, List<string> Choices, string Note);

/// <summary>An estimate or a change order. The number is the build's for its kind. Once sent, its page stands
/// still.</summary>
public sealed class ClientPaper : Recorded
{
    public required Guid BuildId { get; init; }
    public required PaperKind Kind { get; init; }
    public required int Number { get; init; }
    public required PaperWords Words { get; set; }

    /// <summary>Of a change order.</summary>
    public List<PaperLine> Lines { get; private set; } = [];

    /// <summary>The open question that holds the operations of a change order.</summary>
    public Guid? DecisionId { get; set; }

    /// <summary>How it reached the client; null: it has not, or nobody noted it.</summary>
    public SentWay? SentAs { get; private set; }

    public Instant? SentAt { get; private set; }
    public string? SentBy { get; private set; }

    /// <summary>The page as sent; null while it is a draft.</summary>
    public string? Page { get; private set; }

    public PaperAnswer? Answer { get; private set; }
    public string? WithdrawnWhy { get; private set; }

    public PaperState State =>
        Answer is { } a
            ? a.Yes
                ? PaperState.Accepted
                : PaperState.Declined
            : WithdrawnWhy is not null
                ? PaperState.Withdrawn
                : SentAt is null
                    ? PaperState.Draft
                    : PaperState.Sent;

    public bool IsOpen => State is PaperState.Draft or PaperState.Sent;

    public string Name => Kind == PaperKind.Estimate ? $"Estimate {Number}" : $"Change order {Number}";

    /// <summary>What a change order adds, net, by kind of cost.</summary>
    public EstimateTotals Adds => Lines.Aggregate(new EstimateTotals(0, 0, 0, 0), (sum, l) => sum.Plus(l.Adds));

    /// <summary>What the client took with the estimate.</summary>
    public IEnumerable<PaperChoice> Taken =>
        Answer is { Yes: true } a ? Words.Choices.Where(c => a.Choices.Contains(c.Letter)) : [];

    /// <summary>Operations that wait for the answer to a change order.</summary>
    public IEnumerable<Guid> Operations => Lines.SelectMany(l => l.Operations);

    /// <summary>How the statement sees a change order.</summary>
    public ChangeStatus Change =>
        State switch
        {
            PaperState.Accepted => ChangeStatus.Approved,
            PaperState.Declined or PaperState.Withdrawn => ChangeStatus.Declined,
            _ => ChangeStatus.Pending,
        };

    /// <summary>Changes the words of a draft.</summary>
    public void Edit(PaperWords words)
    {
        Refusal.When(State != PaperState.Draft, "id", $"{Name} has gone to the client and stays as it is.");
        words.Check();
        Words = words;
    }

    /// <summary>Adds a line to a draft or replaces the one with its id; a line of nothing goes out.</summary>
    public void Put(PaperLine line)
    {
        Refusal.When(Kind != PaperKind.ChangeOrder, "id", "An estimate's lines come from the sequence.");
        Refusal.When(State != PaperState.Draft, "id", $"{Name} has gone to the client and stays as it is.");
        Refusal.Text(line.Text, "text", 200);
        Refusal.When(
            Math.Abs((long)line.Minutes) > 600_000,
            "minutes",
            "At most 10,000 hours are added, or taken out."
        );
        var totals = new[] { line.Adds.Labour, line.Adds.Parts, line.Adds.Outside, line.Adds.Materials };
        Refusal.When(
            totals.Any(a => !Cents.AreWhole(a) || Math.Abs(a) > 10_000_000),
            "adds",
            "Amounts are in whole cents."
        );
        line.Work?.Check();
        var nothing =
            totals.All(a => a == 0)
            && line.Operations.Count == 0
            && line.Parts.Count == 0
            && line.Work?.IsNothing() != false;
        var at = Lines.FindIndex(l => l.Id == line.Id);
        Refusal.When(at < 0 && Lines.Count >= 60, "text", "At most sixty lines.");
        Lines =
            at < 0
                ? nothing
                    ? Lines
                    : [.. Lines, line]
                : [.. Lines.Take(at), .. nothing ? [] : new[] { line }, .. Lines.Skip(at + 1)];
    }

    /// <summary>Freezes the page and asks the client.</summary>
    /// <param name="words">As they stand on the page.</param>
    public void Send(string page, PaperWords words, SentWay way, string by, Instant at)
    {
        Refusal.When(State != PaperState.Draft, "id", $"{Name} has gone to the client already.");
        Refusal.When(
            Kind == PaperKind.ChangeOrder && Lines.Count == 0,
            "lines",
            "A change order has at least one line."
        );
        Refusal.When(
            Kind == PaperKind.ChangeOrder && string.IsNullOrWhiteSpace(Words.Reason),
            "reason",
            "Say why: what was found, and why it matters."
        );
        (Page, Words, SentAs, SentBy, SentAt) = (page, words, way, by, at);
    }

    /// <summary>Notes the client's answer.</summary>
    /// <exception cref="Refusal">It is not out, or has been answered.</exception>
    public void Take(PaperAnswer answer)
    {
        Refusal.When(Answer is not null, "id", Answer is null ? "" : $"{Answer.Name} has answered this already.");
        Refusal.When(State != PaperState.Sent, "id", $"{Name} is not with the client.");
        Refusal.When(
            answer.Choices.Except(Words.Choices.Select(c => c.Letter)).Any(),
            "choices",
            "That is not among the choices."
        );
        Refusal.When(answer.Note.Length > 200, "note", "At most 200 characters.");
        Answer = answer with
        {
            Name = Refusal.Text(answer.Name, "name", 100),
            Choices = answer.Choices.Distinct().Order().ToList(),
        };
    }

    /// <summary>Takes it back, for a reason.</summary>
    public void Withdraw(string why)
    {
        Refusal.When(!IsOpen, "id", $"{Name} has been settled.");
        WithdrawnWhy = Refusal.Text(why, "reason", 300);
    }
}
