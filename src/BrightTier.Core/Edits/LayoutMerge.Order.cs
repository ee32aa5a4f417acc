using BrightTier.Core.Model;
using static BrightTier.Core.Edits.LayoutDiff;

namespace BrightTier.Core.Edits;

// In what order the children of a node stand.
public sealed partial class LayoutMerge
{
    private static readonly HashSet<NodeId> None = [];

    private static readonly Comparer<NodeId> ById = Comparer<NodeId>.Create((a, b) => string.CompareOrdinal(a.Name, b.Name));

    /// <summary>
    /// The children of one parent: those that neither side moved keep their order; behind each of them, and before them all, comes what
    /// each side
    /// put there, in that side's order, the two sides' runs ordered by their ids.
    /// </summary>
    private IEnumerable<NodeId> Ordered(NodeId parent, HashSet<NodeId> arriving)
    {
        var old =
            !brought.ContainsKey(parent) && origin.TryGetValue(parent, out var was) ? was.Node.Children.Select(child => child.Id) : [];
        // One that a circle sent home stands among its siblings of old.
        var spine = old.Where(id => Exists(id) && !brought.ContainsKey(id) && PlaceOf(id) is { By: null } place && place.Parent == parent)
            .ToList();
        var placed = arriving.Where(id => places[id].By is not null).ToArray();
        if (placed.Length == 0)
        {
            return spine;
        }

        var here = spine.Concat(placed).ToHashSet();
        var fixedHere = spine.ToHashSet();
        var runs = (Mine: Runs(mine, parent, here, fixedHere, Side.Mine), Theirs: Runs(theirs, parent, here, fixedHere, Side.Theirs));
        var ordered = new List<NodeId>(here.Count);
        var done = new HashSet<NodeId>();
        foreach (var anchor in spine.Select(id => (NodeId?)id).Prepend(null))
        {
            if (anchor is { } standing)
            {
                ordered.Add(standing);
            }

            var key = anchor ?? default;
            ordered.AddRange(Interleaved(runs.Mine.GetValueOrDefault(key) ?? [], runs.Theirs.GetValueOrDefault(key) ?? []).Where(done.Add));
        }

        return ordered;
    }

    /// <summary>What one side put under a parent, by the sibling it stands behind (the nearest that is still there).</summary>
    private Dictionary<NodeId, List<NodeId>> Runs(SideOf side, NodeId parent, HashSet<NodeId> here, HashSet<NodeId> fixedHere, Side name)
    {
        var runs = new Dictionary<NodeId, List<NodeId>>();
        var anchor = default(NodeId);
        foreach (
            var child in standsFor
                .Where(pair => pair.Value == parent)
                .Select(pair => pair.Key)
                .Append(parent)
                .Order(ById)
                .SelectMany(id => side.Places.TryGetValue(id, out var standing) ? standing.Node.Children : [])
        )
        {
            if (fixedHere.Contains(child.Id))
            {
                anchor = child.Id;
            }
            else if (here.Contains(child.Id) && (PlaceOf(child.Id)?.By == name || agreed.Contains(child.Id)))
            {
                (runs.TryGetValue(anchor, out var run) ? run : runs[anchor] = []).Add(child.Id);
            }
        }

        return runs;
    }

    /// <summary>
    /// Two runs as one: what both have stands once and holds them together; between, the run whose first id is smaller comes first.
    /// </summary>
    private static IEnumerable<NodeId> Interleaved(List<NodeId> a, List<NodeId> b)
    {
        if (a.Count == 0 || b.Count == 0)
        {
            return a.Count == 0 ? b : a;
        }

        // The smaller first id leads, so that swapping the sides changes nothing.
        var (lead, follow) = string.CompareOrdinal(Whole(a), Whole(b)) <= 0 ? (a, b) : (b, a);
        var order = follow.Select((id, i) => (id, i)).ToDictionary(pair => pair.id, pair => pair.i);
        var common = LongestRising([.. lead.Where(order.ContainsKey)], id => order[id]).Reverse().ToList();
        var merged = new List<NodeId>();
        var (i, j) = (0, 0);
        foreach (var meeting in common)
        {
            var (toI, toJ) = (lead.IndexOf(meeting, i), follow.IndexOf(meeting, j));
            merged.AddRange(ByFirst(lead[i..toI], follow[j..toJ]));
            merged.Add(meeting);
            (i, j) = (toI + 1, toJ + 1);
        }

        merged.AddRange(ByFirst(lead[i..], follow[j..]));
        return merged;

        static IEnumerable<NodeId> ByFirst(List<NodeId> x, List<NodeId> y) =>
            x.Count == 0 ? y
            : y.Count == 0 ? x
            : string.CompareOrdinal(x[0].Name, y[0].Name) <= 0 ? x.Concat(y)
            : y.Concat(x);

        static string Whole(List<NodeId> run) => string.Join('\n', run.Select(id => id.Name));
    }
}
