using FirstCoat.Store.Access;
using Microsoft.Extensions.DependencyInjection;

namespace FirstCoat.Store;

/// <summary>Makes each thing once for a state of the shop, whoever asks and however many; the last of each is
/// kept.</summary>
public sealed class ShopCache(IServiceScopeFactory scopes)
{
    private readonly Lock _turn = new();

    /// <summary>So many things at most are kept; then all are made anew.</summary>
    private const int Most = 500;

    private readonly Dictionary<(Type What, Guid Of), (object State, Task Made)> _last = [];

    /// <summary>What was made for the state, or is being made; else it is made now, by itself: who asked first may
    /// leave.</summary>
    /// <param name="state">Equal as long as what is made of it is the same.</param>
    /// <param name="of">The record of which it is made; none: of the shop.</param>
    public Task<T> Of<T>(object state, Func<IServiceProvider, Task<T>> make, Guid of = default)
        where T : class
    {
        lock (_turn)
        {
            if (_last.TryGetValue((typeof(T), of), out var last) && last.State.Equals(state) && !last.Made.IsFaulted)
            {
                return (Task<T>)last.Made;
            }

            var making = Task.Run(async () =>
            {
                await using var scope = scopes.CreateAsyncScope();
                scope.ServiceProvider.GetRequiredService<CurrentActor>().Actor = Actor.Application;
                return await make(scope.ServiceProvider);
            });
            if (_last.Count >= Most)
            {
                _last.Clear();
            }

            _last[(typeof(T), of)] = (state, making);
            return making;
        }
    }
}
