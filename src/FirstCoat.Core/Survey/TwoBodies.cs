using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Survey;

/// <summary>A zone of another body, as somebody judged it: both sides together.</summary>
/// <param name="Zone">Key of the zone: a place without its side.</param>
/// <param name="Looked">False: nobody has looked there yet.</param>
/// <param name="Ways">None: it is sound.</param>
public sealed record OtherZone(string Zone, bool Looked, bool Structural, List<FindingOption> Ways, string Note);

/// <summary>Model years over which a part interchanges; a part with several spans was changed between them.</summary>
/// <param name="Differs">What is different from this span on.</param>
public sealed record YearSpan(string Part, int From, int To, string Differs);

/// <summary>Another body that could be taken instead of the one that came.</summary>
public sealed class OtherBody : Recorded
{
    public required Guid BuildId { get; init; }
    public string Name { get; set; } = "";
    public int? Year { get; set; }
    public LocalDate? SeenOn { get; set; }

    /// <summary>Until when its owner holds it.</summary>
    public LocalDate? HeldUntil { get; set; }

    public decimal Purchase { get; set; }
    public decimal Freight { get; set; }
    public List<OtherZone> Zones { get; set; } = [];
    public List<YearSpan> Spans { get; set; } = [];

    /// <summary>Which body carries the vehicle's legal identity, as answered by whoever may say so.</summary>
    public string Identity { get; set; } = "";

    /// <summary>The open question about it.</summary>
    public Guid? DecisionId { get; set; }

    /// <summary>Checks it by itself.</summary>
    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check()
    {
        Name = Refusal.Text(Name, "name", 80);
        Refusal.When(Year is < 1880 or > 2100, "year", "Give the year with four digits, or leave it out.");
        Refusal.When(
            new[] { Purchase, Freight }.Any(a => a is < 0 or > 10_000_000 || !Cents.AreWhole(a)),
            "purchase",
            "Amounts are in whole cents, not negative."
        );
        Refusal.When(
            Zones.Count > 80 || Zones.Select(z => z.Zone).Distinct().Count() != Zones.Count,
            "zones",
            "Each zone is judged once."
        );
        Refusal.When(Zones.Any(z => z.Note.Length > 200), "zones", "At most 200 characters.");
        Refusal.When(
            Spans.Count > 60
                || Spans.Any(s =>
                    string.IsNullOrWhiteSpace(s.Part)
                    || s.Part.Length > 60
                    || s.Differs.Length > 80
                    || s.From is < 1880 or > 2100
                    || s.To < s.From
                    || s.To > 2100
                ),
            "spans",
            "A span has a part and goes from a year to the same or a later one."
        );
        Refusal.When(Identity.Length > 300, "identity", "At most 300 characters.");
        foreach (var zone in Zones)
        {
            // The same rules as for a finding's ways.
            new Finding
            {
                BuildId = BuildId,
                Number = 1,
                FoundBy = "",
                FoundAt = default,
            }.Judge(zone.Ways);
        }
    }
}

/// <summary>What one body comes to in a zone.</summary>
/// <param name="Total">Null: not looked at. Nothing: sound.</param>
/// <param name="How">The ways taken, such as "repair, replace".</param>
/// <param name="Parts">Labour, bought (material, part, freight), wait, hidden: they add up to the total.</param>
public sealed record ZoneCost(decimal? Total, string How, ZoneParts Parts);

/// <summary>A zone's sum taken apart.</summary>
public sealed record ZoneParts(decimal Labour, decimal Bought, decimal Wait, decimal Hidden)
{
    public static readonly ZoneParts None = new(0, 0, 0, 0);

    public ZoneParts Plus(ZoneParts o) => new(Labour + o.Labour, Bought + o.Bought, Wait + o.Wait, Hidden + o.Hidden);
}

/// <summary>A rung of the comparison: one zone of both.</summary>
public sealed record Rung(string Zone, string Name, IReadOnlyList<string> Places, ZoneCost Own, ZoneCost Other)
{
    /// <summary>Whether the own body is cheaper here; null: alike, or one is not known.</summary>
    public bool? OwnWins => Own.Total is { } a && Other.Total is { } b && a != b ? a < b : null;
}

/// <summary>Whether a part crosses from one model year to the other.</summary>
public sealed record PartFit(string Part, bool Fits, string Differs, IReadOnlyList<YearSpan> Spans);

/// <summary>Two bodies by the same sums, zone by zone. No total while a zone of it has not been looked at.</summary>
/// <remarks>A zone's cost is the sum over its findings of the way that was chosen, else the cheapest allowed one that
/// was judged. Source: rule of thumb, as <see cref="RepairOptions"/>.</remarks>
public sealed record TwoBodies(
    IReadOnlyList<Rung> Rungs,
    decimal? OwnTotal,
    decimal? OtherTotal,
    IReadOnlyList<PartFit> Fits
)
{
    public int OwnWon => Rungs.Count(r => r.OwnWins == true);

    public int OtherWon => Rungs.Count(r => r.OwnWins == false);

    /// <summary>How much cheaper the own body is, purchase and freight of the other included; negative: the other
    /// is.</summary>
    public decimal? OwnSaves => OtherTotal - OwnTotal;

    /// <summary>Puts both bodies beside each other.</summary>
    /// <param name="sheet">The own body's survey.</param>
    /// <param name="findings">Its findings with their sums.</param>
    /// <param name="terms">What a zone's ways are reckoned with; the flag says whether it is seen.</param>
    public static TwoBodies Of(
        SurveySheet sheet,
        IReadOnlyList<(Finding Finding, VerdictSums Sums)> findings,
        int? ownYear,
        OtherBody other,
        Func<bool, VerdictTerms> terms
    )
    {
        var zones = sheet
            .Places.Where(p => p.Place.Round || p.Findings > 0)
            .GroupBy(p => SurveyPlaces.Stem(p.Place.Key))
            .ToList();
        var rungs = zones
            .Select(z =>
            {
                var places = z.Select(p => p.Place.Key).ToList();
                var own = findings.Where(f => places.Contains(f.Finding.Place)).ToList();
                var name =
                    z.Count() > 1 && z.First().Place.Name.Length > 2 && z.First().Place.Name[1] == ' '
                        ? z.First().Place.Name[2..]
                        : z.First().Place.Name;
                return new Rung(
                    z.Key,
                    char.ToUpperInvariant(name[0]) + name[1..],
                    places,
                    Own([.. z], own),
                    Other(other.Zones.FirstOrDefault(x => x.Zone == z.Key), z.First().Place, terms)
                );
            })
            .ToList();
        decimal? Sum(Func<Rung, decimal?> of) => rungs.Any(r => of(r) is null) ? null : rungs.Sum(r => of(r));
        return new(
            rungs,
            Sum(r => r.Own.Total),
            Sum(r => r.Other.Total) + other.Purchase + other.Freight,
            Fit(other.Spans, ownYear, other.Year)
        );
    }

    private static ZoneCost Own(List<PlaceState> places, List<(Finding Finding, VerdictSums Sums)> findings)
    {
        var dark = places.Where(p => !p.Looked).ToList();
        if (dark.Count > 0)
        {
            // What was judged on one side is not forgotten because nobody has looked at the other.
            var side =
                dark.Count < places.Count
                && dark.Select(p => p.Place.Side).Distinct().ToList() is [PanelSide.Left or PanelSide.Right] sides
                    ? sides[0].ToString().ToLowerInvariant()
                    : "";
            return new(
                null,
                dark.Count == places.Count ? "not looked at"
                    : side.Length > 0 ? $"{side} side not looked at"
                    : "part not looked at",
                ZoneParts.None
            );
        }

        var chosen = findings
            .Select(f =>
                f.Finding.Choice is { } choice
                    ? f.Sums.Ways.FirstOrDefault(w => w.Option.Verdict == choice)
                    : Cheapest(f.Sums, f.Finding.Options)
            )
            .ToList();
        return chosen.Any(c => c is null)
            ? new(null, "no allowed way", ZoneParts.None)
            : Cost(chosen.OfType<OptionSum>().ToList());
    }

    private static ZoneCost Other(OtherZone? zone, SurveyPlace place, Func<bool, VerdictTerms> terms)
    {
        if (zone is not { Looked: true })
        {
            return new(null, "not looked at", ZoneParts.None);
        }

        if (zone.Ways.Count == 0)
        {
            return Cost([]);
        }

        var finding = new Finding
        {
            BuildId = Guid.Empty,
            Number = 1,
            FoundBy = "",
            FoundAt = default,
            Place = place.Key,
            Structural = zone.Structural,
            Kind = FindingKind.RustThrough,
        };
        finding.Judge(zone.Ways);
        return Cheapest(VerdictSums.Of(finding, terms(place.Group == PlaceGroup.Outside)), zone.Ways) is { } way
            ? Cost([way])
            : new(null, "no allowed way", ZoneParts.None);
    }

    /// <summary>The cheapest allowed of the ways that somebody judged; leaving it counts only where it was
    /// meant.</summary>
    private static OptionSum? Cheapest(VerdictSums sums, List<FindingOption> judged) =>
        sums
            .Ways.Where(w => w.Barred is null && judged.Any(o => o.Verdict == w.Option.Verdict))
            .OrderBy(w => w.Total)
            .FirstOrDefault();

    private static ZoneCost Cost(List<OptionSum> ways)
    {
        var parts = ways.Aggregate(ZoneParts.None, (sum, w) =>
            sum.Plus(new(w.Labour, w.Material + w.Part + w.Freight, w.Wait, w.Hidden))
        );
        var how = string.Join(
            ", ",
            ways.GroupBy(w => w.Option.Verdict)
                .OrderBy(g => g.Key)
                .Select(g => $"{g.Key.ToString().ToLowerInvariant()}{(g.Count() > 1 ? $" ×{g.Count()}" : "")}")
        );
        return new(ways.Sum(w => w.Total), ways.Count == 0 ? "sound" : how, parts);
    }

    /// <summary>A part fits when one span holds both years; those that fit come first.</summary>
    private static List<PartFit> Fit(List<YearSpan> spans, int? own, int? other) =>
        own is not { } a || other is not { } b
            ? []
            : spans
                .GroupBy(s => s.Part)
                .Select(g =>
                {
                    var fits = g.Any(s => s.From <= Math.Min(a, b) && Math.Max(a, b) <= s.To);
                    var change = g.Where(s => s.From > Math.Min(a, b) && s.From <= Math.Max(a, b))
                        .OrderBy(s => s.From)
                        .FirstOrDefault();
                    return new PartFit(
                        g.Key,
                        fits,
                        fits ? ""
                            : change?.Differs is { Length: > 0 } d ? d
                            : "not known for one of the years",
                        [.. g.OrderBy(s => s.From)]
                    );
                })
                .OrderByDescending(f => f.Fits)
                .ToList();
}
