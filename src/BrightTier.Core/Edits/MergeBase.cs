namespace BrightTier.Core.Edits;

/// <summary>What a document was at two places, one text after another, and where the two ways parted.</summary>
public static class MergeBase
{
    /// <summary>
    /// Where two histories, oldest first, last held the same, in the first of them; null where they never did. They are laid side by side
    /// so that most of
    /// them agrees in order (a longest common subsequence), for one side may have gone back to what it had before: that it once had a text
    /// does not make
    /// the text its latest word.
    /// </summary>
    public static int? Find(IReadOnlyList<string> here, IReadOnlyList<string> there)
    {
        // agreed[i, j] is how many agree in order among the first i of the one and the first j of the other.
        var agreed = new int[here.Count + 1, there.Count + 1];
        for (var i = 1; i <= here.Count; i++)
        {
            for (var j = 1; j <= there.Count; j++)
            {
                agreed[i, j] = here[i - 1] == there[j - 1] ? agreed[i - 1, j - 1] + 1 : Math.Max(agreed[i - 1, j], agreed[i, j - 1]);
            }
        }

        var most = agreed[here.Count, there.Count];
        return most == 0
            ? null
            : Enumerable
                .Range(0, here.Count)
                .Last(i => Enumerable.Range(0, there.Count).Any(j => here[i] == there[j] && agreed[i, j] == most - 1));
    }
}
