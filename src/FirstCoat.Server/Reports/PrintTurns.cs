using FirstCoat.Server.Web;

namespace FirstCoat.Server.Reports;

/// <summary>
/// Who prints next. Two print at once; the shop's own prints go before those of clients, and a client with a link takes
/// no more than two places in the queue.
/// </summary>
public sealed class PrintTurns
{
    public const int AtOnce = 2,
        ShopMost = 8,
        LinkMost = 2;

    private const string ForShop = "Eight prints are waiting already. Try again in a minute.",
        ForLink = "This is being printed for you already. Try again in a minute.";
    private static readonly TimeSpan Later = TimeSpan.FromSeconds(30);
    private readonly Lock _lock = new();
    private readonly LinkedList<(string? Link, TaskCompletionSource Turn)> _waiting = new();
    private readonly List<string?> _printing = [];

    /// <summary>Waits for a turn.</summary>
    /// <param name="link">Which private link asks; null: the shop.</param>
    /// <returns>Gives the turn back when it is disposed.</returns>
    /// <exception cref="TooMany">The queue is full.</exception>
    public async Task<IDisposable> Enter(string? link, CancellationToken cancel)
    {
        var turn = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        LinkedListNode<(string?, TaskCompletionSource)> place;
        lock (_lock)
        {
            var ofLinks = _waiting.Count(w => w.Link is not null);
            if (
                link is null
                    ? _waiting.Count - ofLinks >= ShopMost
                    : ofLinks >= ShopMost || _waiting.Count(w => w.Link == link) >= LinkMost
            )
            {
                throw new TooMany(link is null ? ForShop : ForLink, Later);
            }

            place = _waiting.AddLast((link, turn));
            LetIn();
        }

        await using var given = cancel.Register(() => turn.TrySetCanceled(cancel));
        try
        {
            await turn.Task;
        }
        catch (OperationCanceledException)
        {
            lock (_lock)
            {
                if (place.List is not null)
                {
                    _waiting.Remove(place);
                }
            }

            throw;
        }

        return new Leave(() =>
        {
            lock (_lock)
            {
                _printing.Remove(link);
                LetIn();
            }
        });
    }

    private void LetIn()
    {
        while (_printing.Count < AtOnce && (First(w => w.Link is null) ?? First(_ => true)) is { } next)
        {
            _waiting.Remove(next);
            if (next.Value.Turn.TrySetResult())
            {
                _printing.Add(next.Value.Link);
            }
        }
    }

    private LinkedListNode<(string? Link, TaskCompletionSource Turn)>? First(
        Func<(string? Link, TaskCompletionSource Turn), bool> of
    )
    {
        for (var node = _waiting.First; node is not null; node = node.Next)
        {
            if (of(node.Value))
            {
                return node;
            }
        }

        return null;
    }
}
