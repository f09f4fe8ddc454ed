using FirstCoat.Core.Bodies;
using NodaTime;

namespace FirstCoat.Core.Teardown;

/// <summary>What a step's clock counts: hands at work, or finding out how.</summary>
public enum StepClock
{
    Stopped,
    Doing,
    FindingOut,
}

/// <summary>How far a step has come.</summary>
/// <param name="DoingSeconds">Hands at work.</param>
/// <param name="FindingSeconds">Finding out how: it is not repeated on the other side.</param>
/// <param name="OutOfOrderWhy">Why it was closed before what comes first was off.</param>
/// <param name="NoPhoto">Closed without its photos, and somebody said so.</param>
/// <param name="Note">For whoever puts it back.</param>
public sealed record StepState(
    string Step,
    int DoingSeconds,
    int FindingSeconds,
    StepClock Clock,
    Instant? ClockSince,
    Instant? OffAt,
    string OffBy,
    Guid? BagId,
    Guid? PhotoId,
    bool NoPhoto,
    string OutOfOrderWhy,
    string Note,
    Instant? BackAt
)
{
    public static StepState Of(string step) =>
        new(step, 0, 0, StepClock.Stopped, null, null, "", null, null, false, "", "", null);

    public bool IsOff => OffAt is not null;

    public int Seconds => DoingSeconds + FindingSeconds;

    /// <summary>The state with what its running clock has counted until now.</summary>
    public StepState Counted(Instant now)
    {
        var seconds = ClockSince is { } since ? Math.Max(0, (int)(now - since).TotalSeconds) : 0;
        return Clock switch
        {
            StepClock.Doing => this with { DoingSeconds = DoingSeconds + seconds, ClockSince = now },
            StepClock.FindingOut => this with { FindingSeconds = FindingSeconds + seconds, ClockSince = now },
            _ => this,
        };
    }
}

/// <summary>Something that is taken apart step by step, and put back in reverse: a door, a front end, or a list of the
/// shop's own.</summary>
public sealed class SubAssembly : Recorded
{
    public required Guid BuildId { get; init; }
    public required AssemblyKind Kind { get; init; }
    public required PanelSide Side { get; init; }
    public string Name { get; set; } = "";

    /// <summary>The operation by which it is back together.</summary>
    public Guid? BackWith { get; set; }

    public List<TeardownStep> Steps { get; private set; } = [];
    public List<StepState> States { get; private set; } = [];

    /// <summary>How far a step has come; a step nobody has touched included.</summary>
    public StepState State(string step) => States.FirstOrDefault(s => s.Step == step) ?? StepState.Of(step);

    /// <summary>Replaces the steps: what is off or begun stays in the list.</summary>
    public void Plan(IReadOnlyList<TeardownStep> steps)
    {
        Refusal.When(steps.Count > 60, "steps", "At most sixty steps.");
        Refusal.When(
            steps.Select(s => s.Key).Distinct().Count() != steps.Count,
            "steps",
            "Two steps carry the same key."
        );
        Refusal.When(
            States.Any(s => s.Seconds > 0 && steps.All(x => x.Key != s.Step)),
            "steps",
            "A step that was begun stays in the list."
        );
        foreach (var s in steps)
        {
            Refusal.When(
                string.IsNullOrWhiteSpace(s.Key) || s.Key.Length > 40,
                "key",
                "A step has a key of at most 40 characters."
            );
            Refusal.Text(s.Name, "name", 80);
            Refusal.When(
                s.Says.Length > 120 || s.Tool.Length > 80 || s.Piece.Length > 80,
                "steps",
                "At most 120 characters, 80 for tool and piece."
            );
            Refusal.When(
                s.Pieces is < 0 or > 1000 || s.Minutes is < 0 or > 10_000,
                "minutes",
                "Counts and minutes are not negative."
            );
            Refusal.When(
                s.How.Count > 20 || s.Photos.Count > 10 || s.How.Concat(s.Photos).Any(t => t.Length > 200),
                "how",
                "At most twenty lines and ten photos."
            );
            Refusal.When(
                s.After.Any(a => a.Step == s.Key || steps.All(x => x.Key != a.Step)),
                "after",
                $"“{s.Name}” comes after something that is not in the list."
            );
        }

        Refusal.When(Ordered(steps) is null, "after", "These steps wait for each other.");
        Steps = [.. steps];
    }

    /// <summary>What must be off before a step, and is not.</summary>
    public IReadOnlyList<TeardownStep> Before(string step) =>
        Step(step).After.Select(a => Step(a.Step)).Where(s => !State(s.Key).IsOff).ToList();

    /// <summary>The longest chain of steps that ends in this one: what must come off to free it.</summary>
    public IReadOnlyList<TeardownStep> Chain(string step)
    {
        var last = Step(step);
        var before = last.After.Select(a => Chain(a.Step)).OrderByDescending(c => c.Count).FirstOrDefault() ?? [];
        return [.. before, last];
    }

    /// <summary>Starts a step's clock, switches what it counts, or stops it; one clock runs at a time.</summary>
    public void Count(string step, StepClock clock, Instant now)
    {
        Refusal.When(!Enum.IsDefined(clock), "clock", "The clock counts doing or finding out, or is stopped.");
        Refusal.When(State(Step(step).Key).IsOff && clock != StepClock.Stopped, "step", "This is off already.");
        foreach (var running in States.Where(s => s.Clock != StepClock.Stopped && s.Step != step).ToList())
        {
            Put(running.Counted(now) with { Clock = StepClock.Stopped, ClockSince = null });
        }

        Put(State(step).Counted(now) with { Clock = clock, ClockSince = clock == StepClock.Stopped ? null : now });
    }

    /// <summary>Closes a step: it is off and in its bag.</summary>
    /// <param name="seconds">Doing and finding out, where no clock ran; null: as counted.</param>
    /// <exception cref="Refusal">Without a photo and without saying so; out of order and without a reason.</exception>
    public void Close(
        string step,
        Guid? bag,
        Guid? photo,
        bool noPhoto,
        string outOfOrderWhy,
        string note,
        (int Doing, int Finding)? seconds,
        string by,
        Instant at
    )
    {
        var s = Step(step);
        var state = State(step);
        Refusal.When(state.IsOff, "step", $"{state.OffBy} has taken it off already.");
        Refusal.When(
            s.Photos.Count > 0 && photo is null && !noPhoto,
            "photoId",
            $"A photo first: {string.Join(", ", s.Photos)}. Or say that there is none."
        );
        var first = Before(step);
        Refusal.When(
            first.Count > 0 && string.IsNullOrWhiteSpace(outOfOrderWhy),
            "outOfOrderWhy",
            first.Count == 0
                ? ""
                : $"Before it: {string.Join(", ", first.Select(x => x.Name))}. {s.After.First(a => a.Step == first[0].Key).Why}. Say why it came off first."
        );
        Refusal.When(note.Length > 300 || outOfOrderWhy.Length > 300, "note", "At most 300 characters.");
        Refusal.When(
            seconds is { } t && (t.Doing is < 0 or > 360_000 || t.Finding is < 0 or > 360_000),
            "minutes",
            "The time must be between 0 and a hundred hours."
        );
        var counted = state.Counted(at);
        Put(
            counted with
            {
                DoingSeconds = seconds?.Doing ?? counted.DoingSeconds,
                FindingSeconds = seconds?.Finding ?? counted.FindingSeconds,
                Clock = StepClock.Stopped,
                ClockSince = null,
                OffAt = at,
                OffBy = by,
                BagId = bag,
                PhotoId = photo,
                NoPhoto = photo is null,
                OutOfOrderWhy = outOfOrderWhy.Trim(),
                Note = note.Trim(),
            }
        );
    }

    /// <summary>It is back on, or was marked so by a slip.</summary>
    public void PutBack(string step, bool back, Instant at)
    {
        var state = State(Step(step).Key);
        Refusal.When(!state.IsOff, "step", "It is not off.");
        Put(state with { BackAt = back ? at : null });
    }

    /// <summary>The steps in an order in which they can come off; null: they wait for each other.</summary>
    public static IReadOnlyList<TeardownStep>? Ordered(IReadOnlyList<TeardownStep> steps)
    {
        var (done, left) = (new List<TeardownStep>(), steps.ToList());
        while (left.Count > 0)
        {
            var next = left.FirstOrDefault(s => s.After.All(a => done.Any(d => d.Key == a.Step)));
            if (next is null)
            {
                return null;
            }

            done.Add(next);
            left.Remove(next);
        }

        return done;
    }

    private TeardownStep Step(string key) => Steps.FirstOrDefault(s => s.Key == key) ?? throw Refusal.Missing("step");

    private void Put(StepState state) => States = [.. States.Where(s => s.Step != state.Step), state];
}
