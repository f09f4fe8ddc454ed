using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Survey;

/// <summary>What a panel event says.</summary>
public enum PanelFact
{
    Coat,
    Held,
    Replace,
    NewMetal,
    TemporaryMetalIn,
    TemporaryMetalOut,
    TakenBack,
}

/// <summary>Something that happened to a panel or a zone of it: by a finished operation, or by hand with a
/// name.</summary>
public sealed class PanelEvent : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>Key of the panel in the body, with its side.</summary>
    public required string Panel { get; init; }

    /// <summary>Name of a zone of the panel; null: all of it.</summary>
    public string? Zone { get; init; }

    public required PanelFact Fact { get; init; }
    public Coat? Coat { get; init; }
    public Held? Held { get; init; }

    /// <summary>Temporary metal: what it is for and what it blocks.</summary>
    public string Note { get; init; } = "";

    /// <summary>Temporary metal: the stage by which it must be out; null: before filler.</summary>
    public Stage? OutBy { get; init; }

    /// <summary>Temporary metal: whether the panel cannot be hung while it is in; null: a panel that hangs
    /// cannot.</summary>
    public bool? BlocksHanging { get; init; }

    /// <summary>What stood against it; until a manager has settled that, the event is kept and changes
    /// nothing.</summary>
    public AgainstRule? Flag { get; set; }

    /// <summary>Whether it says how the panel is.</summary>
    public bool Counts => Flag is not { IsOpen: true };

    /// <summary>An event that this one takes back, because the operation that made it was opened again.</summary>
    public Guid? TakesBack { get; init; }

    public required Instant At { get; init; }
    public required string By { get; init; }
    public Guid? OperationId { get; init; }

    /// <summary>Checks the event by itself.</summary>
    /// <exception cref="Refusal">Names what is missing.</exception>
    public void Check() =>
        Refusal.Each(
            () => Refusal.When(Fact == PanelFact.Coat && Coat is null, "coat", "Say which coat the panel wears."),
            () => Refusal.When(Fact == PanelFact.Held && Held is null, "held", "Say how the panel is held."),
            () =>
                Refusal.When(
                    Fact == PanelFact.TemporaryMetalIn && string.IsNullOrWhiteSpace(Note),
                    "note",
                    "Say what the temporary metal is for."
                ),
            () => Refusal.When(Note.Length > 300, "note", "At most 300 characters.")
        );
}

/// <summary>A zone that differs from the rest of its panel.</summary>
public sealed record ZoneState(string Zone, Coat? Coat, bool Replace, bool NewMetal);

/// <summary>How one panel stands now.</summary>
public sealed record PanelState(
    string Panel,
    Coat Coat,
    Held Held,
    IReadOnlyList<Coat> Coats,
    IReadOnlyList<ZoneState> Zones,
    bool Replace,
    bool NewMetal,
    IReadOnlyList<string> TemporaryMetal
);

/// <summary>Present states from the list of events.</summary>
public static class PanelStates
{
    /// <summary>The state of every panel named, whether or not anything happened to it.</summary>
    /// <param name="all">Of one build; they count in the order in which they were recorded.</param>
    public static IReadOnlyList<PanelState> Of(IEnumerable<string> panels, IEnumerable<PanelEvent> all)
    {
        var events = Counting(all);
        var byPanel = events.OrderBy(e => e.Seq).GroupBy(e => e.Panel).ToDictionary(g => g.Key, g => g.ToList());
        return panels.Select(p => One(p, byPanel.GetValueOrDefault(p) ?? [])).ToList();
    }

    /// <summary>Events that say how panels are: neither taken back nor waiting to be settled.</summary>
    public static IReadOnlyList<PanelEvent> Counting(IEnumerable<PanelEvent> events)
    {
        var all = events.ToList();
        var back = all.Select(e => e.TakesBack).OfType<Guid>().ToHashSet();
        return [.. all.Where(e => e.Counts && e.Fact != PanelFact.TakenBack && !back.Contains(e.Id))];
    }

    /// <summary>Temporary metal that is in, with what it blocks.</summary>
    public static IReadOnlyList<TemporaryMetal> MetalIn(IEnumerable<PanelEvent> events) =>
        [
            .. Counting(events)
                .Where(e => e.Fact is PanelFact.TemporaryMetalIn or PanelFact.TemporaryMetalOut)
                .OrderBy(e => e.Seq)
                .GroupBy(e => (e.Panel, Note: e.Note.Trim()))
                .Where(g => g.Last().Fact == PanelFact.TemporaryMetalIn)
                .Select(g => new TemporaryMetal(
                    g.Key.Panel,
                    g.Key.Note,
                    g.Last().BlocksHanging ?? BodyPanel.Hangs(g.Key.Panel),
                    g.Last().OutBy ?? TemporaryMetal.UsuallyOutBy
                )),
        ];

    private static PanelState One(string panel, List<PanelEvent> events)
    {
        var whole = events.Where(e => e.Zone is null).ToList();
        var coats = whole.Where(e => e.Fact == PanelFact.Coat).Select(e => e.Coat!.Value).ToList();
        var lastCoatAt = whole.LastOrDefault(e => e.Fact == PanelFact.Coat)?.Seq ?? long.MinValue;
        // A coat over the whole panel covers what zones wore before it.
        var zones = events
            .Where(e => e.Zone is not null)
            .GroupBy(e => e.Zone!)
            .Select(g => new ZoneState(
                g.Key,
                g.LastOrDefault(e => e.Fact == PanelFact.Coat && e.Seq > lastCoatAt)?.Coat,
                LastIs(g, PanelFact.Replace, PanelFact.NewMetal),
                LastIs(g, PanelFact.NewMetal, PanelFact.Replace)
                    && g.Last(e => e.Fact == PanelFact.NewMetal).Seq > lastCoatAt
            ))
            .Where(z => z.Coat is not null || z.Replace || z.NewMetal)
            .ToList();
        var metal = events
            .Where(e => e.Fact is PanelFact.TemporaryMetalIn or PanelFact.TemporaryMetalOut)
            .GroupBy(e => e.Note.Trim())
            .Where(g => g.Last().Fact == PanelFact.TemporaryMetalIn)
            .Select(g => g.Key)
            .ToList();
        return new(
            panel,
            coats.Count > 0 ? coats[^1] : Coat.AsFound,
            whole.LastOrDefault(e => e.Fact == PanelFact.Held)?.Held ?? Held.Dressed,
            coats,
            zones,
            LastIs(whole, PanelFact.Replace, PanelFact.NewMetal),
            LastIs(whole, PanelFact.NewMetal, PanelFact.Replace)
                && whole.Last(e => e.Fact == PanelFact.NewMetal).Seq > lastCoatAt,
            metal
        );
    }

    private static bool LastIs(IEnumerable<PanelEvent> events, PanelFact fact, PanelFact other) =>
        events.LastOrDefault(e => e.Fact == fact || e.Fact == other)?.Fact == fact;
}
