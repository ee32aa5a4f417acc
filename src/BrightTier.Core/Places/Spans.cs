using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>How a row's cells share its 12 units.</summary>
public static class Spans
{
    /// <summary>
    /// Written spans stand; cells without one share what is left evenly, the first ones taking what does not divide, each at least one
    /// unit.
    /// </summary>
    public static ImmutableArray<int> Share(IReadOnlyList<int?> written)
    {
        var sharing = written.Count(span => span is null);
        if (sharing == 0)
        {
            return [.. written.Select(span => span!.Value)];
        }

        var left = Math.Max(Limits.Units - written.Sum(span => span ?? 0), sharing);
        var seen = 0;
        return [.. written.Select(span => span ?? (left / sharing) + (seen++ < left % sharing ? 1 : 0))];
    }
}
