using FirstCoat.Core.Kernel;
using NodaTime;

namespace FirstCoat.Core.Sequence;

/// <summary>What is said of something that rested on work which has changed.</summary>
public enum RippleVerdict
{
    StillGood,

    /// <summary>Somebody looks at it: that is work of its own. Of work and gates alone.</summary>
    Check,

    /// <summary>It is done again: work and gates are open again; of a part the verdict alone is kept.</summary>
    Redo,
}

/// <summary>What kind of thing rests on the work.</summary>
public enum RestsAs
{
    Work,
    Gate,
    Part,
}

/// <summary>Something that rested on work which has changed.</summary>
/// <param name="Id">Of the operation or the part.</param>
/// <param name="Name">As it was called when the change was told.</param>
/// <param name="How">How far it had come.</param>
/// <param name="Verdict">Null: nobody has judged it.</param>
public sealed record Resting(
    RestsAs As,
    Guid Id,
    string Name,
    string How,
    RippleVerdict? Verdict = null,
    string By = "",
    Instant? At = null
);

/// <summary>A part as far as a ripple asks for it.</summary>
/// <param name="Operation">The work that needs it.</param>
/// <param name="MeasuredBy">The work that measured for it.</param>
/// <param name="How">Ordered, here or fitted.</param>
public sealed record RestingPart(Guid Id, string Name, Guid? Operation, Guid? MeasuredBy, string How);

/// <summary>Finished work has changed (a tunnel raised, another engine): what rested on it is judged one by
/// one.</summary>
public sealed class Ripple : Recorded
{
    public required Guid BuildId { get; init; }

    /// <summary>The finished work that is another now.</summary>
    public required Guid OperationId { get; init; }

    /// <summary>What is another.</summary>
    public required string What { get; init; }

    public required List<Resting> Rests { get; set; }

    /// <summary>Whether something of it is not judged yet.</summary>
    public bool IsOpen => Rests.Exists(r => r.Verdict is null);

    /// <exception cref="Refusal">Names what cannot be.</exception>
    public void Check() => Refusal.Text(What, "what", 200);

    /// <summary>What can be said of a thing now: "still good" can be thought over; what is being checked or done again
    /// is work already; nobody is given a look at a part by itself.</summary>
    public static IReadOnlyList<RippleVerdict> Open(Resting thing) =>
        thing.Verdict is RippleVerdict.Check or RippleVerdict.Redo
            ? []
            :
            [
                .. Enum.GetValues<RippleVerdict>()
                    .Where(v => v != thing.Verdict && !(thing.As == RestsAs.Part && v == RippleVerdict.Check)),
            ];

    /// <summary>Judges one thing.</summary>
    public Resting Judge(Guid thing, RippleVerdict verdict, string by, Instant at)
    {
        var judged = Rests.Find(r => r.Id == thing) ?? throw Refusal.Missing("thing on this list");
        Refusal.When(
            !Open(judged).Contains(verdict),
            "verdict",
            judged.Verdict is { } said
                ? $"{judged.Name} is judged already: {Words.Of(said)}."
                : $"{judged.Name} is a part: say whether it is still good, or is ordered anew."
        );
        var now = judged with { Verdict = verdict, By = by, At = at };
        Rests = [.. Rests.Select(r => r.Id == thing ? now : r)];
        return now;
    }
}

/// <summary>Finds what rests on finished work.</summary>
public static class Ripples
{
    /// <summary>
    /// Work that follows it, directly or through other work, and was done or begun; gates behind it that are signed;
    /// parts that it measured for, or that such work needs, once they are ordered. In the order of the list.
    /// </summary>
    /// <param name="operations">Of the build, those that are in its sequence.</param>
    public static List<Resting> On(
        Operation changed,
        IReadOnlyCollection<Operation> operations,
        IReadOnlySet<Guid> worked,
        IEnumerable<RestingPart> parts
    )
    {
        var behind = OperationOrder.Behind(changed.Id, operations);
        var work = operations
            .Where(o => behind.Contains(o.Id) && o.Kind != OperationKind.Cure)
            .Where(o => o.IsDone || (o.Kind == OperationKind.Work && worked.Contains(o.Id)))
            .OrderBy(o => o.Position)
            .Select(o =>
                o.Kind == OperationKind.Gate
                    ? new Resting(RestsAs.Gate, o.Id, o.Name, "signed")
                    : new(RestsAs.Work, o.Id, o.Name, o.IsDone ? "done" : "begun")
            );
        var needed = parts
            .Where(p => p.MeasuredBy == changed.Id || p.Operation == changed.Id || IsBehind(p.Operation))
            .Select(p => new Resting(RestsAs.Part, p.Id, p.Name, p.How));
        return [.. work, .. needed];

        bool IsBehind(Guid? operation) => operation is { } o && behind.Contains(o);
    }

    /// <summary>How long a look takes where nobody says otherwise, in minutes: a rule of thumb.</summary>
    public const int LookMinutes = 30;

    /// <summary>The work by which somebody looks at what rested on changed work.</summary>
    /// <param name="minutes">How long that takes.</param>
    public static Operation Look(Guid id, Operation at, Operation changed, int minutes, int position) =>
        new()
        {
            Id = id,
            BuildId = at.BuildId,
            Name = Words.Shortened($"Check: {at.Name}", 120),
            Stage = at.Stage,
            Trade = at.Trade ?? Trade.Hand,
            Station = at.Station,
            BudgetMinutes = minutes,
            Panels = at.Panels,
            After = [new(changed.Id, 0)],
            Position = position,
        };
}
