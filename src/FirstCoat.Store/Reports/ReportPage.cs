using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Photos;
using NodaTime;

namespace FirstCoat.Store.Reports;

/// <summary>A report as the client sees it: words, figures, pictures by hash. Stored whole when published.</summary>
public sealed record ReportPage(
    string Shop,
    string Place,
    string Phone,
    string Currency,
    string From,
    string For,
    int Number,
    LocalDate On,
    string Title,
    string Lede,
    int BuildNumber,
    string Vehicle,
    string ColourHex,
    LocalDate? Promised,
    LocalDate? Likely,
    IReadOnlyList<PageMilestone> Milestones,
    IReadOnlyList<PageStage> Stages,
    int SinceMinutes,
    IReadOnlyList<PageCost> Costs,
    PageTotals Totals,
    IReadOnlyList<PageAdjustment> Adjusted,
    IReadOnlyList<string> Done,
    IReadOnlyList<string> Next,
    IReadOnlyList<PageWait> Waiting,
    IReadOnlyList<PageDecision> Decisions,
    IReadOnlyList<PagePhoto> Photos,
    PageBody Body,
    IReadOnlyDictionary<string, decimal> Lines
)
{
    /// <summary>The day by which it is ready eight times in ten; null on pages of before it was told.</summary>
    public LocalDate? InTenBy { get; init; }

    /// <summary>Structural repairs that the client said no to; it is not for the desk to leave them out.</summary>
    public IReadOnlyList<string> Declined { get; init; } = [];

    /// <summary>Every picture on the page; nothing else is handed out through its link.</summary>
    public IEnumerable<PagePhoto> AllPhotos() => Photos.Concat(Decisions.Select(d => d.Photo).OfType<PagePhoto>());

    /// <summary>Whether a picture of this hash, whole or small, is on the page.</summary>
    public bool Shows(string hash) => AllPhotos().Any(p => p.Hash == hash || p.ThumbHash == hash);
}

public sealed record PageMilestone(string Name, LocalDate On);

/// <summary>Hours of a stage, in minutes.</summary>
public sealed record PageStage(
    Stage Stage,
    int BudgetMinutes,
    decimal EarnedMinutes,
    int SpentMinutes,
    int SinceMinutes
);

public sealed record PageCost(string Kind, decimal Estimate, decimal Net);

public sealed record PageTotals(
    decimal Estimate,
    decimal Net,
    decimal Tax,
    decimal Gross,
    decimal Retention,
    decimal Paid,
    decimal Balance
);

/// <summary>What was corrected after an earlier report had told it.</summary>
public sealed record PageAdjustment(int Report, string What, int? Minutes, decimal? Amount);

public sealed record PageWait(string What, string Where, LocalDate? Until);

/// <summary>A question for the client, with whom to call.</summary>
/// <param name="LikelyNow">Likely finish when it is answered on the day of the report.</param>
/// <param name="LikelyOpen">Likely finish when it stays open until it is due.</param>
/// <param name="Photo">What it is about; null: nothing to be seen.</param>
public sealed record PageDecision(
    string Question,
    string Detail,
    LocalDate DueOn,
    decimal? Adds,
    LocalDate? LikelyNow,
    LocalDate? LikelyOpen,
    string Call,
    string Phone,
    PagePhoto? Photo = null
);

public sealed record PageBody(BodyStyleKey Style, BodyDimensions Dimensions, IReadOnlyList<PanelState> Panels);
