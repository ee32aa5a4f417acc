namespace BrightTier.Core.Conditions;

/// <summary>Which candidates are left of each variable, and which variables matter so far.</summary>
internal sealed class CandidateSets
{
    private readonly bool[][] left;
    private readonly int[] counts;
    private readonly bool[] touched;

    public CandidateSets(IEnumerable<int> sizes)
    {
        counts = [.. sizes];
        left = new bool[counts.Length][];
        for (var i = 0; i < counts.Length; i++)
        {
            left[i] = new bool[counts[i]];
            Array.Fill(left[i], true);
        }

        touched = new bool[counts.Length];
    }

    /// <summary>A copy that goes its own way; sets are copied when they change.</summary>
    public CandidateSets(CandidateSets other)
    {
        left = [.. other.left];
        counts = [.. other.counts];
        touched = [.. other.touched];
    }

    public int Count(int variable) => counts[variable];

    public bool Has(int variable, int candidate) => left[variable][candidate];

    public int First(int variable) => Array.IndexOf(left[variable], true);

    public bool IsTouched(int variable) => touched[variable];

    public void Touch(int variable) => touched[variable] = true;

    public bool Any(int variable, Func<int, bool> fits)
    {
        var set = left[variable];
        for (var candidate = 0; candidate < set.Length; candidate++)
        {
            if (set[candidate] && fits(candidate))
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>Takes away what does not fit; false where nothing is left.</summary>
    public bool Keep(int variable, Func<int, bool> fits)
    {
        var set = left[variable];
        bool[]? kept = null;
        for (var candidate = 0; candidate < set.Length; candidate++)
        {
            if (set[candidate] && !fits(candidate))
            {
                kept ??= [.. set];
                kept[candidate] = false;
                counts[variable]--;
            }
        }

        left[variable] = kept ?? set;
        return counts[variable] > 0;
    }
}
