using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Outside;

/// <summary>A kind of piece in a batch: how many went, how many were counted back.</summary>
/// <param name="BagId">The bag that goes; null: a piece without a bag.</param>
public sealed record OutsidePiece(string Name, int Count, int CountedIn = 0, Guid? BagId = null)
{
    /// <summary>Characters of its name.</summary>
    public const int NameMost = 100;

    public bool AllIn => CountedIn == Count;
}

/// <summary>Work that a supplier does on pieces of a build.</summary>
public sealed class OutsideJob : Recorded
{
    public required Guid BuildId { get; init; }
    public required Guid SupplierId { get; set; }

    /// <summary>The operation of the sequence that it is.</summary>
    public Guid? OperationId { get; set; }

    public required string Title { get; set; }
    public List<OutsidePiece> Pieces { get; set; } = [];
    public int QuotedDays { get; set; }
    public decimal Quoted { get; set; }

    /// <summary>The supplier's bill; null while it has not come.</summary>
    public decimal? Billed { get; set; }

    public LocalDate? SentOn { get; private set; }

    /// <summary>When the supplier says it is done.</summary>
    public LocalDate? PromisedOn { get; private set; }

    public LocalDate? BackOn { get; private set; }

    public bool IsAway => SentOn is not null && BackOn is null;

    /// <summary>Whether it should have been back before today.</summary>
    /// <param name="hereOn">The day on which it is here by its promise and the supplier's freight.</param>
    public bool IsLate(LocalDate? hereOn, LocalDate today) => IsAway && hereOn < today;

    /// <summary>When a batch that is away is likely here, and by when in eight of ten cases, as jobs outside went so
    /// far against their promise.</summary>
    /// <param name="learned">Actual days over promised days.</param>
    public (LocalDate Likely, LocalDate High) Expected(Supplier supplier, Learned learned, LocalDate today)
    {
        var promised = Period.DaysBetween(SentOn!.Value, PromisedOn!.Value);
        LocalDate Here(double times) =>
            supplier.HereOn(LocalDate.Max(SentOn.Value.PlusDays((int)Math.Ceiling(promised * times)), today));
        return (Here(learned.Multiplier), Here(learned.P80));
    }

    /// <summary>What jobs that are back say of promises: actual days over promised days.</summary>
    public static Learned Lateness(IEnumerable<OutsideJob> jobs) =>
        Learning.Bias(
            jobs.Where(j => j.BackOn is not null && j.SentOn < j.PromisedOn)
                .Select(j =>
                    (
                        (double)Math.Max(1, Period.DaysBetween(j.SentOn!.Value, j.BackOn!.Value)),
                        (double)Period.DaysBetween(j.SentOn!.Value, j.PromisedOn!.Value)
                    )
                ),
            "quotedDays"
        );

    public int Sent => Pieces.Sum(p => p.Count);
    public int CountedIn => Pieces.Sum(p => p.CountedIn);

    /// <summary>Pieces not counted in once it is back.</summary>
    public int MissingPieces => BackOn is null ? 0 : Sent - CountedIn;

    /// <summary>The batch leaves the shop.</summary>
    public void Send(LocalDate on, LocalDate promised)
    {
        Refusal.When(SentOn is not null, "sentOn", "The batch has left already.");
        Refusal.When(promised < on, "promisedOn", "It cannot be promised for a day before it leaves.");
        (SentOn, PromisedOn) = (on, promised);
    }

    /// <summary>The supplier names another day.</summary>
    public void Promise(LocalDate promised)
    {
        Refusal.When(SentOn is null, "promisedOn", "Send the batch first.");
        Refusal.When(promised < SentOn, "promisedOn", "It cannot be promised for a day before it left.");
        PromisedOn = promised;
    }

    /// <summary>The batch comes back and is counted, kind by kind; counting again replaces the count.</summary>
    public void CountIn(LocalDate on, IReadOnlyList<int> counts)
    {
        Refusal.When(SentOn is null, "backOn", "Send the batch first.");
        Refusal.When(on < SentOn, "backOn", "It cannot be back before it left.");
        Refusal.When(counts.Count != Pieces.Count, "counts", "Give one count for each kind of piece.");
        Refusal.When(
            counts.Zip(Pieces, (c, p) => c < 0 || c > p.Count).Any(wrong => wrong),
            "counts",
            "A count must be between 0 and what was sent."
        );
        BackOn ??= on;
        Pieces = Pieces.Zip(counts, (p, c) => p with { CountedIn = c }).ToList();
    }

    /// <summary>Checks the job by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Title, "title", 200),
            () =>
                Refusal.When(
                    Pieces.Count > 200
                        || Pieces.Any(p =>
                            string.IsNullOrWhiteSpace(p.Name)
                            || p.Name.Length > OutsidePiece.NameMost
                            || p.Count is < 1 or > 10_000
                        ),
                    "pieces",
                    "At most 200 kinds of piece, each with a name of up to 100 characters and a count of 1 to 10,000."
                ),
            () =>
                Refusal.When(
                    Pieces.Where(p => p.BagId is not null).GroupBy(p => p.BagId).Any(g => g.Count() > 1),
                    "pieces",
                    "A bag goes once in a batch."
                ),
            () => Refusal.When(QuotedDays is < 0 or > 1000, "quotedDays", "Quoted days must be between 0 and 1,000."),
            () => Refusal.When(Quoted is < 0 or > 10_000_000, "quoted", "The quote must be between 0 and 10 million."),
            () => Refusal.When(Billed is < 0 or > 10_000_000, "billed", "The bill must be between 0 and 10 million.")
        );

    /// <summary>The supplier's price, net: as billed, before that as quoted.</summary>
    public decimal Price => Billed ?? Quoted;

    /// <summary>What all of it comes to for the client, net, in whole cents.</summary>
    /// <param name="markup">The shop's mark-up on outside work, percent.</param>
    public decimal ToClient(decimal markup) => Cents.Round(Markup.On(Price, markup));
}
