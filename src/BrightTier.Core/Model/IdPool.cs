using System.Globalization;

namespace BrightTier.Core.Model;

/// <summary>
/// The ids that are taken, and the next one like a stem that is not: of many alike each is found where the one before was.
/// </summary>
internal sealed class IdPool
{
    private readonly HashSet<string> used;

    /// <summary>Of each stem, the number to go on from: what was taken stays so.</summary>
    private readonly Dictionary<string, int> next = new(StringComparer.Ordinal);

    /// <param name="capacity">How many ids there will be: a table that grows again and again is long in the way of everything else.</param>
    public IdPool(IEnumerable<NodeId> taken, int capacity)
    {
        used = new HashSet<string>(capacity, StringComparer.Ordinal);
        UnionWith(taken);
    }

    /// <summary>A layout whose ids are taken as well; null where there is none.</summary>
    public Layout? Layout { get; init; }

    public void UnionWith(IEnumerable<NodeId> ids) => used.UnionWith(ids.Select(id => id.Name));

    /// <summary>Takes an id; false where it is taken already.</summary>
    public bool Add(string name) => Layout?.Contains(new NodeId(name)) != true && used.Add(name);

    /// <summary>Takes the stem, or else the stem with the smallest number behind it, from 2, that is not taken.</summary>
    /// <param name="stem">Short enough that with a number behind it, it is still an id.</param>
    public string Take(string stem)
    {
        var number = next.GetValueOrDefault(stem, 1);
        string name;
        do
        {
            name = number == 1 ? stem : stem + number.ToString(CultureInfo.InvariantCulture);
            number++;
        } while (!Add(name));

        next[stem] = number;
        return name;
    }
}
