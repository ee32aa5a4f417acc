using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>One of the two sides of a merge.</summary>
public enum Side
{
    Mine,
    Theirs,
}

/// <summary>
/// Where two sides cannot both have their way: a stable code, a sentence, the node, and what each side did there (none where it did away
/// with the node by removing something around it). Codes: set-twice, moved-twice, inserted-twice, only-one, change-malformed,
/// removed-and-changed, replaced-and-changed, circle.
/// </summary>
public sealed record Conflict(string Code, Message Message, NodeId Node, IReadOnlyList<Edit> Mine, IReadOnlyList<Edit> Theirs)
{
    /// <summary>For set-twice: which property.</summary>
    public string? Property { get; init; }
}

/// <summary>The outcome of a merge, with every conflict resolved to the side chosen for it.</summary>
public sealed record MergeOutcome(Layout Layout, IReadOnlyList<Conflict> Conflicts);

/// <summary>
/// Merges what two sides did to one layout. Edits to different places or properties combine; the same edit on both sides is no conflict;
/// what
/// comes to one place from both sides is ordered by id. Swapping the sides, and the choices with them, gives the same layout.
/// </summary>
public sealed partial class LayoutMerge
{
    private readonly IReadOnlyDictionary<NodeId, Layout.NodePosition> origin;
    private readonly SideOf mine;
    private readonly SideOf theirs;
    private readonly Layout from;
    private readonly Func<Conflict, Side> choose;
    private readonly List<Conflict> conflicts = [];

    /// <summary>Nodes that both sides put in one place.</summary>
    private readonly HashSet<NodeId> agreed = [];

    private LayoutMerge(Layout from, Layout mine, Layout theirs, Func<Conflict, Side> choose)
    {
        this.from = from;
        this.choose = choose;
        origin = from.Standings;
        this.mine = new SideOf(from, mine);
        this.theirs = new SideOf(from, theirs);
    }

    /// <param name="choose">Which side has its way in a conflict; mine where none is given.</param>
    public static MergeOutcome Merge(Layout from, Layout mine, Layout theirs, Func<Conflict, Side>? choose = null)
    {
        var merging = new LayoutMerge(from, mine, theirs, choose ?? (_ => Side.Mine));
        var layout = merging.Run();
        return new MergeOutcome(layout, merging.conflicts);
    }

    /// <summary>One side: how its nodes stand, and what it did, by node.</summary>
    private sealed class SideOf
    {
        public SideOf(Layout from, Layout to)
        {
            Places = to.Standings;
            foreach (var edit in LayoutDiff.Edits(from, to))
            {
                switch (edit)
                {
                    case Edit.Move move:
                        Moves[move.Node] = move;
                        Note(move.Node, move);
                        Note(move.Parent, move);
                        break;
                    case Edit.Insert insert:
                        Note(insert.Parent, insert);
                        foreach (var node in insert.Node.Walk())
                        {
                            Inserts.TryAdd(node.Id, insert);
                        }

                        break;
                    case Edit.Remove remove:
                        Removes[remove.Node] = remove;
                        break;
                    case Edit.Set set:
                        Sets[(set.Node, set.Property)] = set;
                        Note(set.Node, set);
                        break;
                }
            }
        }

        public IReadOnlyDictionary<NodeId, Layout.NodePosition> Places { get; }

        public Dictionary<NodeId, Edit.Move> Moves { get; } = [];

        public Dictionary<NodeId, Edit.Insert> Inserts { get; } = [];

        public Dictionary<NodeId, Edit.Remove> Removes { get; } = [];

        public Dictionary<(NodeId Node, string Property), Edit.Set> Sets { get; } = [];

        private readonly Dictionary<NodeId, List<Edit>> on = [];

        /// <summary>Everything this side did to a node of the original, its own place and the places it gave to others in it.</summary>
        public IEnumerable<Edit> On(NodeId node) => on.GetValueOrDefault(node) ?? [];

        public bool Touched(NodeId node) => on.ContainsKey(node);

        private void Note(NodeId node, Edit edit) => (on.TryGetValue(node, out var edits) ? edits : on[node] = []).Add(edit);
    }

    /// <summary>Nodes that are gone from the original.</summary>
    private readonly HashSet<NodeId> dropped = [];

    /// <summary>Nodes a side brought, or brought anew with another kind, and which side's content they have.</summary>
    private readonly Dictionary<NodeId, Side> brought = [];

    /// <summary>Where nodes stand that a side moved or brought; every other node stays under its parent of old.</summary>
    private readonly Dictionary<NodeId, (NodeId Parent, Side? By)> places = [];

    private Layout Run()
    {
        Exist();
        Place();
        HoldOnlyOne();
        BreakCircles();
        return Layout.Of(Built());
    }

    private Side Decide(Conflict conflict)
    {
        conflicts.Add(conflict);
        return choose(conflict);
    }

    /// <summary>Finds which nodes the merged layout has, and for those that both sides brought with different content, whose.</summary>
    private void Exist()
    {
        Removed(mine, theirs, Side.Mine);
        Removed(theirs, mine, Side.Theirs);
        foreach (var (side, other, name) in new[] { (mine, theirs, Side.Mine), (theirs, mine, Side.Theirs) })
        {
            foreach (var id in side.Inserts.Keys)
            {
                if (dropped.Contains(id) && origin.ContainsKey(id))
                {
                    continue;
                }

                if (!other.Inserts.ContainsKey(id))
                {
                    brought[id] = name;
                }
                else if (name is Side.Mine)
                {
                    var (here, there) = (side.Places[id], other.Places[id]);
                    brought[id] =
                        here.Node.Kind == there.Node.Kind && here.Parent == there.Parent && Same(here.Node, there.Node)
                            ? Side.Mine
                            : Decide(
                                new Conflict(
                                    "inserted-twice",
                                    $"Both sides brought a node '{id}', each with something else in it.",
                                    id,
                                    [mine.Inserts[id]],
                                    [theirs.Inserts[id]]
                                )
                            );
                }
            }
        }
    }

    private bool Exists(NodeId id) => brought.ContainsKey(id) || (origin.ContainsKey(id) && !dropped.Contains(id));

    private static bool Same(Node a, Node b) => a.Properties.Equals(b.Properties);

    private void Removed(SideOf side, SideOf other, Side name)
    {
        foreach (var remove in side.Removes.Values)
        {
            var goes = origin[remove.Node].Node.Walk().Where(node => !side.Places.ContainsKey(node.Id)).Select(node => node.Id).ToArray();
            var touched = goes.Where(id => other.Touched(id) && other.Places.ContainsKey(id)).ToArray();
            if (touched.Length > 0)
            {
                var changes = touched.SelectMany(other.On).Distinct().ToArray();
                var conflict = new Conflict(
                    "removed-and-changed",
                    touched[0] == remove.Node
                        ? (Message)$"'{remove.Node}' was removed on one side, and changed on the other."
                        : $"'{remove.Node}' was removed on one side, and '{touched[0]}' in it changed on the other.",
                    remove.Node,
                    name is Side.Mine ? [remove] : changes,
                    name is Side.Mine ? changes : [remove]
                );
                if (Decide(conflict) != name)
                {
                    // It stays, but for what the other side took away as well.
                    dropped.UnionWith(goes.Where(id => !other.Places.ContainsKey(id)));
                    continue;
                }
            }

            dropped.UnionWith(goes);
        }
    }

    /// <summary>The tree. What nothing happened in is taken over as it was, whole.</summary>
    private Node Built()
    {
        var arriving = places
            .GroupBy(pair => pair.Value.Parent)
            .ToDictionary(group => group.Key, group => group.Select(pair => pair.Key).ToHashSet());
        // What is around a change as it was, and as it is now.
        var (were, are) = (new HashSet<NodeId>(), new HashSet<NodeId>());
        foreach (
            var id in dropped
                .Concat(places.Keys)
                .Concat(arriving.Keys)
                .Concat(mine.Sets.Keys.Concat(theirs.Sets.Keys).Select(key => key.Node))
        )
        {
            for (NodeId? at = id; at is { } each && were.Add(each); )
            {
                at = origin.TryGetValue(each, out var standing) ? standing.Parent : null;
            }

            for (NodeId? at = id; at is { } each && are.Add(each); )
            {
                at = PlaceOf(each)?.Parent;
            }
        }

        return Build(from.Root.Id);

        Node Build(NodeId id)
        {
            if (!were.Contains(id) && !are.Contains(id) && origin.TryGetValue(id, out var untouched))
            {
                return untouched.Node;
            }

            var children = Ordered(id, arriving.GetValueOrDefault(id) ?? None).Select(Build);
            var node = NodeOf(id);
            // The parts of a layout have one order; within a kind that of the merge stands.
            return node with { Children = [.. node.Kind is NodeKind.Layout ? children.OrderBy(child => child.Kind) : children] };
        }
    }

    private readonly Dictionary<NodeId, Node> settled = [];

    private Node WithSets(Node node)
    {
        if (!mine.Touched(node.Id) && !theirs.Touched(node.Id))
        {
            return node;
        }

        return settled.TryGetValue(node.Id, out var known) ? known : settled[node.Id] = Settle(node);
    }

    /// <summary>
    /// A node of the original with what both sides set on it. What each side has right can be wrong together: then one side's properties
    /// stand.
    /// </summary>
    private Node Settle(Node node)
    {
        var combined = Combine(node);
        return ChangeShape.Problem(combined) is null
            ? combined
            : node with
            {
                Properties = Of(
                    Decide(
                        new Conflict(
                            "change-malformed",
                            $"What both sides set on the change '{node.Id}' does not go together.",
                            node.Id,
                            [.. mine.On(node.Id)],
                            [.. theirs.On(node.Id)]
                        )
                    )
                )
                    .Places[node.Id]
                    .Node.Properties,
            };
    }
}
