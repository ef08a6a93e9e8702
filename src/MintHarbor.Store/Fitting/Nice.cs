using System.Runtime.InteropServices;

namespace MintHarbor.Store.Fitting;

/// <summary>Work beside what people wait for: the processor goes to the pages first.</summary>
internal static partial class Nice
{
    private const int Process = 0,
        Less = 5;

    /// <summary>Does something on a lowered thread of its own, its loops not spread over the processors.</summary>
    public static Task<T> Work<T>(Func<T> work, CancellationToken over) =>
        Task.Factory.StartNew(
            () =>
            {
                Lower();
                return Core.Alone.Run(work);
            },
            over,
            TaskCreationOptions.LongRunning,
            TaskScheduler.Default
        );

    /// <summary>Lowers the calling thread for the rest of its life. Where the system knows no such thing, nothing happens.</summary>
    private static void Lower()
    {
        if (OperatingSystem.IsLinux())
            _ = setpriority(Process, 0, Less);
    }

    // On Linux "process 0" is the calling thread.
    [LibraryImport("libc")]
    private static partial int setpriority(int which, int who, int priority);
}
