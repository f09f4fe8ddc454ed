using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;
using NodaTime;

namespace FirstCoat.Core.Builds;

public enum BuildStatus
{
    Enquiry,
    Open,
    Paused,
    Closed,
    Withdrawn,
}

public enum Construction
{
    SeparateChassis,
    Unitary,
    WoodFramed,
    Composite,
}

public enum FinishGrade
{
    Driver,
    Show,
    Concours,
}

public enum OriginalityPolicy
{
    Original,
    OriginalLook,
    Custom,
}

/// <summary>Whose vehicle it is.</summary>
public sealed class Client : Entity
{
    public required string Name { get; set; }
    public string Email { get; set; } = "";
    public string Phone { get; set; } = "";
}

/// <summary>What stands in the shop.</summary>
public sealed record Vehicle(
    string Make,
    string Model,
    int? Year,
    BodyStyleKey Style,
    Construction Construction,
    string Identification,
    string ColourName,
    string ColourHex,
    BodyDimensions Dimensions
)
{
    /// <summary>Checks the vehicle as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.Text(Make, "make", 60),
            () => Refusal.When(Model.Length > 60, "model", "The model may have at most 60 characters."),
            () => Refusal.When(Year is < 1880 or > 2100, "year", "Give the year with four digits, or leave it out."),
            () =>
                Refusal.When(
                    !Paint.IsHex(ColourHex),
                    "colourHex",
                    "Give the colour as # and six digits, such as #1B6670."
                ),
            () =>
                Refusal.When(
                    Style == BodyStyleKey.Saloon && Construction == Construction.Unitary,
                    "style",
                    "A unitary saloon has no running boards: choose the saloon without them."
                ),
            () => Dimensions.Check(Style)
        );
}

/// <summary>What the client wants.</summary>
public sealed record Brief(
    FinishGrade Grade,
    OriginalityPolicy Originality,
    LocalDate? Promised,
    decimal? Budget,
    List<Milestone> Milestones
)
{
    /// <summary>Checks the brief as a whole.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(Budget is < 0 or > 100_000_000, "budget", "A budget must be between 0 and 100 million."),
            () =>
                Refusal.When(
                    Milestones.Any(m => string.IsNullOrWhiteSpace(m.Name) || m.Name.Length > 100),
                    "milestones",
                    "Each milestone needs a name of at most 100 characters."
                )
        );
}

/// <summary>A day that matters before the handover: rolling, drivable, a show.</summary>
public sealed record Milestone(string Name, LocalDate On);

/// <summary>What was agreed at the start, by kind of cost, without tax.</summary>
public sealed record EstimateTotals(decimal Labour, decimal Parts, decimal Outside, decimal Materials)
{
    public decimal Total => Labour + Parts + Outside + Materials;

    /// <summary>Kind by kind.</summary>
    public EstimateTotals Plus(EstimateTotals other) =>
        new(Labour + other.Labour, Parts + other.Parts, Outside + other.Outside, Materials + other.Materials);

    /// <summary>No kind below nothing: more cannot be taken out than is in it.</summary>
    public EstimateTotals AtLeastNothing() =>
        new(Math.Max(0, Labour), Math.Max(0, Parts), Math.Max(0, Outside), Math.Max(0, Materials));

    /// <summary>In the same proportion and adding up to another sum, to the cent; what is nothing becomes
    /// labour.</summary>
    public EstimateTotals ScaledTo(decimal total)
    {
        if (total == Total)
        {
            return this;
        }

        var kinds = AtLeastNothing();
        if (kinds.Total == 0 || total < 0)
        {
            return new(total, 0, 0, 0);
        }

        var parts = Cents.Split(total, [kinds.Labour, kinds.Parts, kinds.Outside, kinds.Materials]);
        return new(parts[0], parts[1], parts[2], parts[3]);
    }

    /// <summary>Checks the amounts.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.When(
            new[] { Labour, Parts, Outside, Materials }.Any(a => a is < 0 or > 100_000_000 || !Cents.AreWhole(a)),
            "estimate",
            "Estimated amounts are in whole cents, not negative."
        );
}

/// <summary>How fast money may be spent on a build: so much a month, as far as the deposit reaches, or both.</summary>
/// <param name="PerMonth">Tax included; null: no monthly limit.</param>
public sealed record SpendingPace(decimal? PerMonth, bool AsFarAsPaid)
{
    /// <summary>The client pays nothing before this day: until then the work goes on as far as what was paid reaches,
    /// and from then on as if it were paid for in time. Null: nothing is known of such a day.</summary>
    public LocalDate? PaysFrom { get; init; }

    /// <summary>Whether it holds anything back from a day on.</summary>
    public bool Limits(LocalDate today) => PerMonth is not null || AsFarAsPaid || PaysFrom > today;
}

/// <summary>What the plan keeps to for a build; the defaults ask for nothing.</summary>
public sealed record BuildTerms
{
    /// <summary>What a day of lateness counts against another build's.</summary>
    public int Weight { get; init; } = 1;

    public SpendingPace? Spending { get; init; }

    /// <summary>The schools its sequence follows.</summary>
    public TemplateChoices Choices { get; init; } = new();

    /// <summary>By what its template's hours were multiplied; 1 is a full restoration of a mid-sized car.</summary>
    public decimal Scale { get; init; } = 1;

    /// <summary>How the shell was held at the start; finished work says how it is held since. Null: not looked
    /// at.</summary>
    public SupportState? Support { get; init; }

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(Weight is < 1 or > 100, "weight", "A day of lateness counts between 1 and 100."),
            () =>
                Refusal.When(
                    Spending?.PerMonth is <= 0 or > 10_000_000 || (Spending?.PerMonth is { } m && !Cents.AreWhole(m)),
                    "perMonth",
                    "A month's spending is more than nothing, in whole cents."
                )
        );
}

/// <summary>One vehicle being worked on for one client.</summary>
public sealed class Build : Entity
{
    /// <summary>The number on its dab; given once, never used again.</summary>
    public required int Number { get; init; }

    public required Guid ClientId { get; set; }

    /// <summary>The build of an earlier visit, whose specification, paint and settings it starts from.</summary>
    public Guid? ReturnOf { get; init; }

    public BuildStatus Status { get; private set; } = BuildStatus.Enquiry;
    public required Vehicle Vehicle { get; set; }
    public required Brief Brief { get; set; }
    public required ContractTerms Contract { get; set; }
    public EstimateTotals Estimate { get; set; } = new(0, 0, 0, 0);

    /// <summary>When the client accepted the estimate; what is found later is a change.</summary>
    public Instant? AcceptedAt { get; private set; }

    /// <summary>What is known of the vehicle's life, that says where to look harder.</summary>
    public List<HistoryHint> History { get; set; } = [];

    /// <summary>Which template its sequence came from.</summary>
    public string Template { get; set; } = "";

    /// <summary>Place in the queue: lower goes first.</summary>
    public int Priority { get; set; }

    /// <summary>Takes only what the others leave.</summary>
    public bool FillIn { get; set; }

    /// <summary>What the plan keeps to for it.</summary>
    public BuildTerms Terms { get; set; } = new();

    /// <summary>The station it stands on; null: away from the shop.</summary>
    public Guid? StationId { get; private set; }

    /// <summary>Where it is while away, such as a painter's name.</summary>
    public string AwayAt { get; private set; } = "";

    public LocalDate OpenedOn { get; init; }

    /// <summary>The day on which the client was told that the work is complete; from it storage is counted.</summary>
    public LocalDate? NoticeOn { get; private set; }

    /// <summary>The day on which the vehicle left for good.</summary>
    public LocalDate? LeftOn { get; private set; }

    /// <summary>Where exactly it was left, and the first move, while paused.</summary>
    public string LeftAt { get; private set; } = "";

    public string FirstMove { get; private set; } = "";

    /// <summary>Make and model in one.</summary>
    public string Title => $"{Vehicle.Make} {Vehicle.Model}".Trim();

    /// <summary>Whether work on it is planned.</summary>
    public bool IsPlanned => Status == BuildStatus.Open;

    /// <summary>The client has accepted the estimate.</summary>
    public void Accept(EstimateTotals agreed, Instant at)
    {
        Refusal.When(
            AcceptedAt is not null,
            "id",
            "An estimate has been accepted already; what comes now is a change order."
        );
        (Estimate, AcceptedAt) = (agreed, at);
    }

    /// <summary>Changes how the work is paid. Once the estimate is accepted only what has been done and what is held
    /// back changes: price and cap are raised by approved changes.</summary>
    public void Contracted(ContractTerms contract)
    {
        contract.Check();
        Refusal.When(
            AcceptedAt is not null && !contract.SamePrice(Contract),
            "contract",
            "The client has accepted the estimate with this price: what changes it is a change order."
        );
        Contract = contract;
    }

    /// <summary>Takes the build into the shop.</summary>
    public void Open()
    {
        Refusal.When(
            Status is BuildStatus.Closed or BuildStatus.Withdrawn,
            "status",
            "A closed build is not opened again; open a new one for the return visit."
        );
        (Status, LeftAt, FirstMove) = (BuildStatus.Open, "", "");
    }

    /// <summary>Goes on with a paused build, once somebody has looked whether it is still as it was left.</summary>
    /// <param name="stillHolds">Where it was left and its first move both hold; null: not looked at.</param>
    /// <param name="firstMove">What comes first instead, where they do not.</param>
    public void GoOn(bool? stillHolds, string firstMove)
    {
        Refusal.When(Status != BuildStatus.Paused, "status", "Only a paused build goes on.");
        Refusal.When(
            stillHolds is null,
            "stillHolds",
            Words.Shortened($"It was left: {LeftAt}. First move: {FirstMove}. Look at it: do both still hold?", 400)
        );
        var first = stillHolds == true ? FirstMove : Refusal.Text(firstMove, "firstMove", 500);
        Open();
        FirstMove = first;
    }

    /// <summary>Somebody is at work on it: its first move has been made.</summary>
    public void BeginAgain() => FirstMove = Status == BuildStatus.Open ? "" : FirstMove;

    /// <summary>Takes back that the client withdrew: the build stands paused, as it was left.</summary>
    public void TakeBack(string leftAt, string firstMove)
    {
        Refusal.When(Status != BuildStatus.Withdrawn, "status", "Only a withdrawal is taken back.");
        LeftOn = null;
        Status = BuildStatus.Open;
        Pause(leftAt, firstMove);
    }

    /// <summary>Stops the build; it must say where it was left and what comes first when it goes on.</summary>
    public void Pause(string leftAt, string firstMove)
    {
        Refusal.When(Status != BuildStatus.Open, "status", "Only an open build can be paused.");
        LeftAt = Refusal.Text(leftAt, "leftAt", 500);
        FirstMove = Refusal.Text(firstMove, "firstMove", 500);
        Status = BuildStatus.Paused;
    }

    /// <summary>Notes that the client was told, or takes the note back.</summary>
    public void Notice(LocalDate? on)
    {
        Refusal.When(on < OpenedOn, "on", "The work was not complete before the build was opened.");
        NoticeOn = on;
    }

    /// <summary>Ends the build: handed over, or withdrawn by the client. The vehicle leaves, so its place is
    /// free.</summary>
    public void End(bool withdrawn, LocalDate on)
    {
        Refusal.When(Status is BuildStatus.Closed or BuildStatus.Withdrawn, "status", "The build has ended already.");
        (LeftOn, StationId, AwayAt) = (on, null, "");
        Status = withdrawn ? BuildStatus.Withdrawn : BuildStatus.Closed;
    }

    /// <summary>Moves the vehicle to a station of the shop, or away.</summary>
    public void Stand(Guid? station, string awayAt)
    {
        Refusal.When(
            station is null && string.IsNullOrWhiteSpace(awayAt),
            "awayAt",
            "Say where the vehicle is when it is not in the shop."
        );
        Refusal.When(awayAt.Length > 100, "awayAt", "At most 100 characters.");
        (StationId, AwayAt) = station is null ? ((Guid?)null, awayAt.Trim()) : (station, "");
    }
}
