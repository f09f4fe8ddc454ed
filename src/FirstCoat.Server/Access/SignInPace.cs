using System.Collections.Concurrent;

namespace FirstCoat.Server.Access;

/// <summary>
/// Slows down who keeps guessing one name from one address. Only that pair waits: a stranger cannot lock anybody out,
/// and the right owner signs in from elsewhere meanwhile. The number of tries from one address, whatever the name, has
/// its own limit.
/// </summary>
public sealed class SignInPace(TimeProvider time)
{
    /// <summary>Tries that cost no wait.</summary>
    private const int Free = 4;

    /// <summary>So many pairs are kept in mind.</summary>
    private const int Most = 10_000;

    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(5),
        Forgotten = TimeSpan.FromHours(1);
    private readonly ConcurrentDictionary<(string Name, string Address), (int Wrong, DateTimeOffset Last)> _tries =
        new();

    /// <summary>How long to wait before the next try; nothing: none.</summary>
    public TimeSpan Wait(string name, string address)
    {
        if (!_tries.TryGetValue(Key(name, address), out var t) || t.Wrong <= Free)
        {
            return TimeSpan.Zero;
        }

        var wait = TimeSpan.FromSeconds(Math.Min(Longest.TotalSeconds, Math.Pow(2, t.Wrong - Free)));
        var left = t.Last + wait - time.GetUtcNow();
        return left > TimeSpan.Zero ? left : TimeSpan.Zero;
    }

    /// <summary>A try that was wrong.</summary>
    public void Wrong(string name, string address)
    {
        var now = time.GetUtcNow();
        if (_tries.Count >= Most)
        {
            Forget(now);
        }

        _tries.AddOrUpdate(
            Key(name, address),
            _ => (1, now),
            (_, t) => (now - t.Last > Forgotten ? 1 : t.Wrong + 1, now)
        );
    }

    /// <summary>The right one.</summary>
    public void Right(string name, string address) => _tries.TryRemove(Key(name, address), out _);

    private void Forget(DateTimeOffset now)
    {
        foreach (
            var (key, _) in _tries
                .Where(t => now - t.Value.Last > Forgotten)
                .Concat(_tries.OrderBy(t => t.Value.Last).Take(Most / 10))
                .ToList()
        )
        {
            _tries.TryRemove(key, out _);
        }
    }

    private static (string, string) Key(string name, string address) => (name.Trim().ToUpperInvariant(), address);
}
