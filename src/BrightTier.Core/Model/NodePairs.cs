namespace BrightTier.Core.Model;

/// <summary>
/// Which nodes of two layouts are one and the same, where ids do not say so: by what they hold, first those that stand in what is the same,
/// then those anywhere; then by their names; last what is alone of its kind on both sides.
/// </summary>
internal sealed class NodePairs
{
    /// <summary>The share of fields and items two nodes must have in common to be the same one.</summary>
    private const double Enough = 0.5;

    private static readonly HashSet<string> Nothing = [];

    private readonly Layout before;
    private readonly Layout after;
    private readonly HashSet<NodeId> kept;

    /// <summary>Those of before that nothing is paired with yet.</summary>
    private readonly Dictionary<NodeId, Node> open;

    private readonly Dictionary<NodeId, HashSet<string>> were = [];
    private readonly Dictionary<NodeId, HashSet<string>> are = [];

    /// <summary>From the id after to the id before.</summary>
    private readonly Dictionary<NodeId, NodeId> pairs = [];

    private NodePairs(Layout before, Layout after, HashSet<NodeId> kept)
    {
        (this.before, this.after, this.kept) = (before, after, kept);
        open = before.Walk().Where(node => !kept.Contains(node.Id)).ToDictionary(node => node.Id);
        Gather(before.Root, were);
        Gather(after.Root, are);
    }

    /// <summary>The pairs, from the id after to the id before.</summary>
    /// <param name="kept">The ids after that say which node is meant; each stands for the one before that has it.</param>
    public static Dictionary<NodeId, NodeId> Of(Layout before, Layout after, HashSet<NodeId> kept)
    {
        var found = new NodePairs(before, after, kept);
        if (!kept.Contains(after.Root.Id) && found.open.ContainsKey(before.Root.Id))
        {
            found.Pair(after.Root, before.Root);
        }

        foreach (var node in after.Walk().Where(node => kept.Contains(node.Id)))
        {
            found.PairInside(node, before.Find(node.Id));
        }

        found.PairAnywhere();
        return found.pairs;
    }

    private void PairAnywhere()
    {
        var rest = after.Walk().Where(IsOpen).ToList();
        PairAlike(rest, [.. open.Values]);
        foreach (var node in rest.Where(IsOpen))
        {
            if (open.TryGetValue(node.Id, out var old) && old.Kind == node.Kind)
            {
                Pair(node, old);
            }
        }

        foreach (var node in rest.Where(node => IsOpen(node) && are[node.Id].Count == 0))
        {
            // What holds nothing to tell it by is the same one where it is the only one of its kind that is missed there.
            if (
                after.ParentOf(node.Id) is { } parent
                && before.Find(pairs.GetValueOrDefault(parent, parent)) is { } was
                && (kept.Contains(parent) || pairs.ContainsKey(parent))
                && was.Children.Where(old => old.Kind == node.Kind && open.ContainsKey(old.Id)).Take(2).ToArray() is [var only]
                && after.Find(parent)!.Children.Count(other => other.Kind == node.Kind && IsOpen(other)) == 1
            )
            {
                Pair(node, only);
            }
        }
    }

    private bool IsOpen(Node node) => !kept.Contains(node.Id) && !pairs.ContainsKey(node.Id);

    private static bool IsPart(Node node) =>
        node.Kind is NodeKind.Top or NodeKind.Start or NodeKind.Body or NodeKind.End or NodeKind.Bottom;

    /// <summary>Pairs two, and what stands in them.</summary>
    private void Pair(Node node, Node old)
    {
        pairs[node.Id] = old.Id;
        open.Remove(old.Id);
        PairInside(node, old);
    }

    private void PairInside(Node node, Node? old)
    {
        if (old is null || node.Children.IsEmpty)
        {
            return;
        }

        // A part of which there is one is that part, whatever is in it by now.
        foreach (var child in node.Children.Where(child => IsPart(child) && IsOpen(child)))
        {
            if (old.Children.FirstOrDefault(each => each.Kind == child.Kind && open.ContainsKey(each.Id)) is { } part)
            {
                Pair(child, part);
            }
        }

        PairAlike([.. node.Children.Where(IsOpen)], [.. old.Children.Where(child => open.ContainsKey(child.Id))]);
    }

    /// <summary>Pairs what holds the same, the namesake first; then what has enough in common, the most first.</summary>
    private void PairAlike(IReadOnlyList<Node> nodes, IReadOnlyList<Node> olds)
    {
        var there = olds.Select(old => old.Id).ToHashSet();
        var same = olds.Where(old => were[old.Id].Count > 0)
            .GroupBy(old => Signature(old, were))
            .ToDictionary(group => group.Key, group => new Queue<Node>(group), StringComparer.Ordinal);
        foreach (var node in nodes.Where(IsOpen))
        {
            var namesake = there.Contains(node.Id) ? open.GetValueOrDefault(node.Id) : null;
            if (namesake is not null && Signature(namesake, were) == Signature(node, are))
            {
                Pair(node, namesake);
            }
        }

        foreach (var node in nodes.Where(node => IsOpen(node) && are[node.Id].Count > 0))
        {
            var queue = same.GetValueOrDefault(Signature(node, are)) ?? [];
            while (queue.TryDequeue(out var old))
            {
                if (open.ContainsKey(old.Id))
                {
                    Pair(node, old);
                    break;
                }
            }
        }

        var holders = olds.Where(old => open.ContainsKey(old.Id))
            .SelectMany(old => were[old.Id].Select(part => (part, old)))
            .ToLookup(each => each.part, each => each.old, StringComparer.Ordinal);
        foreach (var node in nodes.Where(IsOpen))
        {
            var nearest = are[node.Id]
                .SelectMany(part => holders[part])
                .Distinct()
                .Where(old => old.Kind == node.Kind && open.ContainsKey(old.Id))
                .Select(old => (old, common: Common(are[node.Id], were[old.Id])))
                .Where(pair => pair.common >= Enough)
                .OrderByDescending(pair => pair.common)
                .ThenByDescending(pair => pair.old.Id == node.Id)
                .Select(pair => pair.old)
                .FirstOrDefault();
            if (nearest is not null)
            {
                Pair(node, nearest);
            }
        }
    }

    /// <summary>A node's kind and what it holds, one text for all that hold the same.</summary>
    private static string Signature(Node node, Dictionary<NodeId, HashSet<string>> contents) =>
        $"{node.Kind} {string.Join('\n', contents[node.Id].Order(StringComparer.Ordinal))}";

    /// <summary>What each node is known by: the fields and items it holds.</summary>
    private static HashSet<string> Gather(Node node, Dictionary<NodeId, HashSet<string>> contents)
    {
        var own = node.Kind is NodeKind.Field or NodeKind.Column or NodeKind.Related or NodeKind.Piece
            ? new HashSet<string>(StringComparer.Ordinal) { $"{node.Kind} {node.Word(Grammar.Of(node.Kind).Main ?? "")}" }
            : null;
        foreach (var child in node.Children)
        {
            var more = Gather(child, contents);
            if (more.Count > 0)
            {
                (own ??= new HashSet<string>(StringComparer.Ordinal)).UnionWith(more);
            }
        }

        return contents[node.Id] = own ?? Nothing;
    }

    private static double Common(HashSet<string> one, HashSet<string> other)
    {
        var both = one.Count(other.Contains);
        return both == 0 ? 0 : (double)both / (one.Count + other.Count - both);
    }
}
