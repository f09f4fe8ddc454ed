using System.Runtime.InteropServices;

namespace FirstCoat.Store.Plan;

/// <summary>Computes on a thread of its own that lets everybody else go first: whoever waits for a page does not wait
/// for it.</summary>
internal static partial class Aside
{
    private const int Process = 0,
        LaterInTurn = 10;

    /// <summary>Ends with the result; what is thrown is thrown to whoever waits.</summary>
    public static Task<T> Run<T>(Func<T> compute)
    {
        var done = new TaskCompletionSource<T>(TaskCreationOptions.RunContinuationsAsynchronously);
        var thread = new Thread(() =>
        {
            // Of this thread alone: the kernel counts threads as processes here. Refused, it has its turn as others.
            _ = SetPriority(Process, 0, LaterInTurn);
            try
            {
                done.SetResult(compute());
            }
            catch (Exception e)
            {
                done.SetException(e);
            }
        })
        {
            IsBackground = true,
            Name = "plan, aside",
        };
        thread.Start();
        return done.Task;
    }

    [LibraryImport("libc", EntryPoint = "setpriority")]
    private static partial int SetPriority(int which, uint who, int priority);
}
