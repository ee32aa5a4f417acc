using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>A change laid over what happened since it was made: the edits that bring it about now, or what stands against it.</summary>
public sealed record RebaseOutcome(IReadOnlyList<Edit> Edits, IReadOnlyList<Conflict> Conflicts, Refusal? Refusal = null);

/// <summary>
/// Lays a change made against an older state over what came since, by merging; so live co-design, undo and merging of files are one
/// mechanism.
/// </summary>
public static class EditRebase
{
    /// <param name="against">The state the edits were made for.</param>
    /// <param name="now">The state as it is.</param>
    /// <param name="choose">Which side has its way in a conflict, mine being the edits'. Without it conflicts are only told, and nothing is
    /// to be applied.</param>
    public static RebaseOutcome Rebase(Layout against, IReadOnlyList<Edit> edits, Layout now, Func<Conflict, Side>? choose = null)
    {
        // Ids made up here must be new on both sides.
        var taken = against.Walk().Concat(now.Walk()).Select(node => node.Id).ToHashSet();
        var named = edits
            .Select(edit =>
                edit is Edit.Insert insert && insert.Node.Walk().Any(node => node.Id.Name is not { Length: > 0 })
                    ? insert with
                    {
                        Node = Filled(insert.Node, taken),
                    }
                    : edit
            )
            .ToArray();
        var applied = against.Apply(named);
        if (applied.Refusal is { } refusal)
        {
            return new RebaseOutcome([], [], refusal);
        }

        var merged = LayoutMerge.Merge(against, applied.Layout!, now, choose);
        return merged.Conflicts.Count > 0 && choose is null
            ? new RebaseOutcome([], merged.Conflicts)
            : new RebaseOutcome(LayoutDiff.Edits(now, merged.Layout), merged.Conflicts);
    }

    private static Node Filled(Node node, HashSet<NodeId> taken)
    {
        var filled = DerivedIds.Fill(node, taken);
        taken.UnionWith(filled.Walk().Select(each => each.Id));
        return filled;
    }
}
