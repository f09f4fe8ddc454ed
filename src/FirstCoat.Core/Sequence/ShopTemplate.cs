using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>One operation of a template of the shop's own.</summary>
/// <param name="Id">By which its links and terms know it inside the template.</param>
/// <param name="Key">Its key in every build that is made from it.</param>
public sealed record TemplateWork(Guid Id, string Key, string Name, Stage Stage, OperationKind Kind)
{
    public Trade? Trade { get; init; }
    public int Minutes { get; init; }
    public StationKind? Station { get; init; }
    public List<string> Panels { get; init; } = [];
    public Coat? Coat { get; init; }
    public Held? Held { get; init; }
    public bool WithoutStop { get; init; }
    public GateKind? Gate { get; init; }
    public Hazard? Hazard { get; init; }
    public int ClockMinutes { get; init; }
    public List<OperationLink> After { get; init; } = [];
    public OperationTerms Terms { get; init; } = new();
}

/// <summary>A template that the shop saved from one of its builds: its order, links, gates, waits and hours, without
/// what belongs to that vehicle and those days.</summary>
public sealed class ShopTemplate : Recorded
{
    private const string Prefix = "own-";

    /// <summary>The most of the shop's own that are offered.</summary>
    public const int Most = 40;

    public required string Name { get; init; }

    /// <summary>Where it came from.</summary>
    public required Guid FromBuildId { get; init; }

    /// <summary>By what its hours were multiplied there: scale and finish.</summary>
    public required decimal Factor { get; init; }

    public required List<TemplateWork> Works { get; init; }

    /// <summary>Not offered any more; builds that came from it still know it.</summary>
    public bool Dropped { get; set; }

    /// <summary>What a build keeps of it.</summary>
    public string Key => Prefix + Id.ToString("N");

    /// <summary>Saves a sequence.</summary>
    /// <param name="all">As its template had allowed for it: what findings took out is back in.</param>
    /// <param name="found">Operations that came of findings: they are this vehicle's.</param>
    /// <exception cref="Refusal">It has no name, or nothing would be in it.</exception>
    public static ShopTemplate From(
        Guid id,
        string name,
        Build build,
        IReadOnlyList<Operation> all,
        IReadOnlySet<Guid> found,
        Instant at,
        Guid by
    )
    {
        Refusal.Text(name, "name", 60);
        var own = all.Where(o => !o.Removed && !(found.Contains(o.Id) && o.TemplateKey.Length == 0))
            .OrderBy(o => o.Position)
            .ToList();
        Refusal.When(own.Count == 0, "name", "This sequence has nothing to save.");
        var there = all.ToDictionary(o => o.Id);
        var kept = own.Select(o => o.Id).ToHashSet();
        var keys = new HashSet<string>();
        return new()
        {
            Id = id,
            RecordedAt = at,
            RecordedBy = by,
            Name = name.Trim(),
            FromBuildId = build.Id,
            Factor = build.Terms.Scale * Templates.GradeFactor(build.Brief.Grade),
            Works =
            [
                .. own.Select(o =>
                    Work(o, keys, [.. o.After.SelectMany(a => Past(a, kept, there)).DistinctBy(a => a.Operation)], kept)
                ),
            ],
        };
    }

    /// <summary>A link, or where it leads to what is not saved, what that came after.</summary>
    private static IEnumerable<OperationLink> Past(
        OperationLink link,
        HashSet<Guid> kept,
        Dictionary<Guid, Operation> there
    ) =>
        kept.Contains(link.Operation) ? [link]
        : there.TryGetValue(link.Operation, out var gone)
            ? gone.After.SelectMany(a => Past(new(a.Operation, 0), kept, there))
        : [];

    private static TemplateWork Work(
        Operation o,
        HashSet<string> keys,
        List<OperationLink> after,
        HashSet<Guid> kept
    ) =>
        new(
            o.Id,
            o.TemplateKey.Length > 0 && keys.Add(o.TemplateKey) ? o.TemplateKey : o.Id.ToString("N"),
            o.Name,
            o.Stage,
            o.Kind
        )
        {
            Trade = o.Trade,
            Minutes = o.BudgetMinutes,
            Station = o.Station,
            Panels = o.Panels,
            Coat = o.Coat,
            Held = o.Held,
            WithoutStop = o.WithoutStop,
            Gate = o.Gate,
            Hazard = o.Hazard,
            ClockMinutes = o.ClockMinutes,
            After = after,
            Terms = o.Terms with
            {
                Preferred = [],
                NotBefore = null,
                PinnedOn = null,
                PinnedAt = null,
                Deadline = null,
                Replaced = [],
                Hold = o.Terms.Hold is { } h && kept.Contains(h.Until) ? h : null,
                ClosedUntil = o.Terms.ClosedUntil is { } c && kept.Contains(c) ? c : null,
            },
        };

    /// <summary>The operations of a build, linked, with new ids; without panels that this body does not have.</summary>
    /// <param name="scale">Multiplies all hours, as in <see cref="Templates.Make"/>.</param>
    public IReadOnlyList<Operation> Make(
        Guid buildId,
        Vehicle vehicle,
        FinishGrade grade,
        decimal scale,
        Func<Guid> newId
    )
    {
        var panels = Body.Unfold(vehicle.Style, vehicle.Dimensions).Panels.Select(p => p.Key).ToHashSet();
        var ids = Works.ToDictionary(w => w.Id, _ => newId());
        var times = scale * Templates.GradeFactor(grade) / Factor;
        return
        [
            .. Works.Select(
                (w, i) =>
                    new Operation
                    {
                        Id = ids[w.Id],
                        BuildId = buildId,
                        Position = i + 1,
                        TemplateKey = w.Key,
                        Name = w.Name,
                        Stage = w.Stage,
                        Kind = w.Kind,
                        Trade = w.Trade,
                        BudgetMinutes = Quarters(w.Minutes, times),
                        Station = w.Station,
                        Panels = [.. w.Panels.Where(panels.Contains)],
                        Coat = w.Coat,
                        Held = w.Held,
                        WithoutStop = w.WithoutStop,
                        Gate = w.Gate,
                        Hazard = w.Hazard,
                        ClockMinutes = w.ClockMinutes,
                        After = [.. w.After.Select(a => a with { Operation = ids[a.Operation] })],
                        Terms = w.Terms with
                        {
                            LowMinutes = w.Terms.LowMinutes is { } low ? Math.Max(1, (int)(low * times)) : null,
                            HighMinutes = w.Terms.HighMinutes is { } high ? (int)Math.Ceiling(high * times) + 15 : null,
                            Hold = w.Terms.Hold is { } h ? h with { Until = ids[h.Until] } : null,
                            ClosedUntil = w.Terms.ClosedUntil is { } c ? ids[c] : null,
                        },
                    }
            ),
        ];
    }

    /// <summary>To quarters of an hour; work has one at the least.</summary>
    private static int Quarters(int minutes, decimal times) =>
        minutes == 0 ? 0 : Math.Max(15, (int)(Math.Round(minutes * times / 15, MidpointRounding.AwayFromZero) * 15));
}

/// <summary>All templates: those that come with the application, and the shop's own.</summary>
/// <param name="own">Those that were dropped as well.</param>
public sealed class TemplateShelf(IReadOnlyList<ShopTemplate> own)
{
    /// <summary>Those that are offered.</summary>
    public IReadOnlyList<SequenceTemplate> Offered =>
        [
            .. Templates.All,
            .. own.Where(t => !t.Dropped)
                .OrderBy(t => t.Name, StringComparer.Ordinal)
                .Select(t => new SequenceTemplate(t.Key, t.Name, "", t.Id)),
        ];

    public bool Knows(string key) => Templates.All.Any(t => t.Key == key) || own.Any(t => t.Key == key);

    /// <summary>Operations of a build that runs in a way.</summary>
    /// <exception cref="Refusal">The template is not known.</exception>
    public IReadOnlyList<Operation> Make(
        Way way,
        Guid buildId,
        Vehicle vehicle,
        FinishGrade grade,
        decimal scale,
        Func<Guid> newId
    )
    {
        Refusal.When(scale is <= 0 or > 10, "scale", "The hours are multiplied by more than 0 and at most 10.");
        return own.FirstOrDefault(t => t.Key == way.Template) is { } mine
            ? mine.Make(buildId, vehicle, grade, scale, newId)
            : Templates.Make(way.Template, buildId, vehicle, grade, scale, newId, way.Choices);
    }
}
