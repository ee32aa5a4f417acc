namespace BrightTier.Core.Tests;

/// <summary>
/// For what runs ten thousand times: the assertions that take an expression compile it at every call, which costs more than what is tested.
/// </summary>
internal static class PlainAssertions
{
    /// <summary>Every one holds; the first that does not is named.</summary>
    public static void EachShould<T>(this IEnumerable<T> all, Func<T, bool> hold, string? message = null)
    {
        foreach (var one in all)
        {
            if (!hold(one))
            {
                throw new ShouldAssertException($"does not hold of {one}. {message}");
            }
        }
    }
}
