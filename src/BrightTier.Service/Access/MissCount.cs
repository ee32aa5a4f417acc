using System.Collections.Concurrent;

namespace BrightTier.Service.Access;

/// <summary>How often something was missed lately, by whatever it is counted by; bounded, and forgotten after a while.</summary>
internal sealed class MissCount(TimeProvider time, TimeSpan window)
{
    /// <summary>Names at most; beyond that those whose time is over go, and if that is not enough all do.</summary>
    private const int Most = 100_000;

    private readonly ConcurrentDictionary<string, (long Until, int Count)> counts = new(StringComparer.Ordinal);

    /// <summary>Counts one more; how many there are then. The window begins with the first.</summary>
    public int Count(string by)
    {
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        if (counts.Count >= Most)
        {
            foreach (var (key, _) in counts.Where(pair => pair.Value.Until <= now))
            {
                counts.TryRemove(key, out _);
            }

            if (counts.Count >= Most)
            {
                counts.Clear();
            }
        }

        var until = now + (long)window.TotalMilliseconds;
        return counts.AddOrUpdate(by, (until, 1), (_, known) => known.Until > now ? (known.Until, known.Count + 1) : (until, 1)).Count;
    }

    public void Forget(string by) => counts.TryRemove(by, out _);

    /// <summary>Forgets a name however it was counted.</summary>
    public void ForgetAll(string name)
    {
        foreach (var (key, _) in counts.Where(pair => pair.Key == name || pair.Key.StartsWith(name + "\n", StringComparison.Ordinal)))
        {
            counts.TryRemove(key, out _);
        }
    }
}
