namespace BrightTier.Core.Model;

/// <summary>Much work on many things at once, which leaves a core to whoever asks for little meanwhile.</summary>
public static class SideBySideWork
{
    private static readonly int Cores = Math.Max(1, Environment.ProcessorCount - 1);

    /// <summary>What follows is done for several at a time, and comes in their order.</summary>
    public static ParallelQuery<T> SideBySide<T>(this IEnumerable<T> all) => all.AsParallel().AsOrdered().WithDegreeOfParallelism(Cores);
}
