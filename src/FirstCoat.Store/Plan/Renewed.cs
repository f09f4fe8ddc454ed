using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>What a plan was made from: so many changes, in which five minutes.</summary>
internal sealed record PlanState(long Changes, long FiveMinutes);

/// <summary>Something of the plan that may take longer than a page waits: where a server renews it beside what goes on,
/// a page shows the last one meanwhile.</summary>
/// <param name="patience">How long a page waits for a new one.</param>
public sealed class Renewed<T>(Duration patience)
    where T : class
{
    /// <summary>When it was made, and what it says; null: none was.</summary>
    public (Instant At, T Value)? Last { get; private set; }

    /// <summary>How often one was taken: whoever keeps what is made of it looks whether this has grown.</summary>
    public long Times { get; private set; }

    private PlanState? _state;

    /// <summary>Makes a new one unless one is being made, and ends when it is there; null: whoever asks makes it and
    /// waits.</summary>
    public Func<Task>? Renew { get; set; }

    /// <summary>How long a page waits; not at all where the last took longer than that.</summary>
    internal Duration Patience => Took > patience ? Duration.Zero : patience;

    /// <summary>How long the last took.</summary>
    public Duration Took { get; set; }

    internal bool Is(PlanState state) => Last is not null && _state == state;

    internal (Instant At, T Value) Take(PlanState state, Instant at, T value)
    {
        if (!ReferenceEquals(Last?.Value, value))
        {
            Times++;
        }

        (_state, Last) = (state, (at, value));
        return (at, value);
    }
}

/// <summary>How many futures are sampled, a thousand unless whoever sets the server up wants it quicker and rougher; by
/// how many threads.</summary>
public sealed record FutureCount(int Of = Outlook.Futures, int Threads = 2);
