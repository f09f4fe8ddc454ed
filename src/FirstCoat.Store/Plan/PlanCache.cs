using FirstCoat.Core.Plan;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>Keeps the last of what was computed until something changes or five minutes have passed.</summary>
public sealed class PlanCache
{
    private readonly System.Collections.Concurrent.ConcurrentDictionary<
        Type,
        (long Change, long Minute, object Value)
    > _last = [];

    internal T? Get<T>(long change, long minute)
        where T : class =>
        _last.TryGetValue(typeof(T), out var l) && l.Change == change && l.Minute == minute ? (T)l.Value : null;

    internal T Set<T>(long change, long minute, T value)
        where T : class
    {
        _last[typeof(T)] = (change, minute, value);
        return value;
    }
}

/// <summary>The futures that were drawn last, for what must not wait for the next.</summary>
public sealed class LastFutures
{
    /// <summary>When they were drawn, and what they said; null: none were.</summary>
    public (Instant At, List<BuildChance> Chances)? Drawn { get; internal set; }

    /// <summary>Draws them again beside what goes on; null: whoever asks waits.</summary>
    public Action? Renew { get; set; }
}

/// <summary>How many futures are sampled: a thousand, unless whoever sets the server up wants it quicker and
/// rougher.</summary>
public sealed record FutureCount(int Of = Outlook.Futures);
