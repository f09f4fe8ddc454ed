namespace FirstCoat.Store.Photos;

/// <summary>Lets pictures into memory: two at once at the most, and no more than there is room for.</summary>
public sealed class PictureRoom : IDisposable
{
    /// <summary>Room for decoding, in bytes. Upload, what is kept of it and the encoder take up to a hundred megabytes
    /// more.</summary>
    public const long Bytes = 440_000_000;

    private readonly SemaphoreSlim _two = new(2);
    private readonly Lock _lock = new();
    private readonly Queue<(long Needed, TaskCompletionSource Turn)> _waiting = new();
    private long _free = Bytes;

    /// <summary>Waits until fewer than two pictures are being taken in.</summary>
    public async Task<IDisposable> Turn(CancellationToken cancel)
    {
        await _two.WaitAsync(cancel);
        return new Leave(() => _two.Release());
    }

    /// <summary>Waits until there is so much room; first come, first served.</summary>
    /// <param name="needed">In bytes, at most <see cref="Bytes"/>.</param>
    public async Task<IDisposable> Room(long needed, CancellationToken cancel)
    {
        var turn = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        lock (_lock)
        {
            _waiting.Enqueue((needed, turn));
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
                LetIn();
            }

            throw;
        }

        return new Leave(() =>
        {
            lock (_lock)
            {
                _free += needed;
                LetIn();
            }
        });
    }

    public void Dispose() => _two.Dispose();

    private void LetIn()
    {
        while (_waiting.TryPeek(out var next) && (next.Turn.Task.IsCanceled || next.Needed <= _free))
        {
            _waiting.Dequeue();
            if (next.Turn.TrySetResult())
            {
                _free -= next.Needed;
            }
        }
    }
}
