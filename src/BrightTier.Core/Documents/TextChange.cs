namespace BrightTier.Core.Documents;

/// <summary>How a text became another: one place, what stood there and what stands there now. Exact, and it leads both ways.</summary>
/// <param name="At">Where it begins, in UTF-16 units from the start; never within a pair of surrogates.</param>
public sealed record TextChange(int At, string Was, string Is)
{
    /// <summary>The shortest that leads from one text to another by one place.</summary>
    public static TextChange Between(string before, string after)
    {
        var shorter = Math.Min(before.Length, after.Length);
        var at = before.AsSpan().CommonPrefixLength(after);
        // A pair that is half alike is another one.
        at -= at > 0 && char.IsHighSurrogate(before[at - 1]) ? 1 : 0;
        var tail = 0;
        while (tail < shorter - at && before[^(tail + 1)] == after[^(tail + 1)])
        {
            tail++;
        }

        tail -= tail > 0 && char.IsLowSurrogate(before[^tail]) ? 1 : 0;
        return new TextChange(at, before[at..^tail], after[at..^tail]);
    }

    /// <returns>The text before; null where this did not lead to the one given.</returns>
    public string? Undo(string after) => Replace(after, Is, Was);

    /// <returns>The text behind; null where this does not begin with the one given.</returns>
    public string? Apply(string before) => Replace(before, Was, Is);

    private string? Replace(string text, string there, string instead) =>
        At <= text.Length && text.AsSpan(At).StartsWith(there, StringComparison.Ordinal)
            ? string.Concat(text.AsSpan(0, At), instead, text.AsSpan(At + there.Length))
            : null;
}
