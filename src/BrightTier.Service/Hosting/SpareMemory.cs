using System.Runtime;

namespace BrightTier.Service.Hosting;

/// <summary>
/// Memory that work on thousands of documents took, given back to the machine a little after it: by itself the collector keeps it for the
/// next of the kind, which may come in a month.
/// </summary>
public static class SpareMemory
{
    private const int Many = 1_000;
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(5);
    private static int waiting;

    /// <summary>To be called when so many documents have been dealt with.</summary>
    public static void After(int documents)
    {
        if (documents >= Many && Interlocked.Exchange(ref waiting, 1) == 0)
        {
            _ = GiveBack();
        }
    }

    private static async Task GiveBack()
    {
        await Task.Delay(Rest);
        waiting = 0;
        GCSettings.LargeObjectHeapCompactionMode = GCLargeObjectHeapCompactionMode.CompactOnce;
        GC.Collect(GC.MaxGeneration, GCCollectionMode.Aggressive, blocking: true, compacting: true);
    }
}
