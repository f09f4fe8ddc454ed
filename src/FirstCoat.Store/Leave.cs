namespace FirstCoat.Store;

/// <summary>Gives something back when it is disposed, once.</summary>
public sealed class Leave(Action then) : IDisposable
{
    private Action? _then = then;

    public void Dispose() => Interlocked.Exchange(ref _then, null)?.Invoke();
}
