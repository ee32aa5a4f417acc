using BrightTier.Core.Layouts;
using static BrightTier.Core.Edits.Comparing;

namespace BrightTier.Core.Edits;

/// <summary>One of the two sides of a merge.</summary>
public enum Side
{
    Mine,
    Theirs,
}

/// <summary>
/// Where two sides cannot both have their way: a stable code, a sentence, the node, and what each side did there (none where it did away with
/// the node by removing something around it). Codes: set-twice, moved-twice, inserted-twice, removed-and-changed, circle.
/// </summary>
public sealed record Conflict(string Code, string Message, NodeId Node, IReadOnlyList<Edit> Mine, IReadOnlyList<Edit> Theirs)
{
    /// <summary>For set-twice: which property.</summary>
    public string? Property { get; init; }
}

/// <summary>The outcome of a merge, with every conflict resolved to the side chosen for it.</summary>
public sealed record Merged(Layout Layout, IReadOnlyList<Conflict> Conflicts);

/// <summary>
/// Merges what two sides did to one layout. Edits to different places or properties combine; the same edit on both sides is no conflict; what
/// comes to one place from both sides is ordered by id. Swapping the sides, and the choices with them, gives the same layout.
/// </summary>
public sealed class Merging
{
    private readonly Dictionary<NodeId, Standing> origin;
    private readonly SideOf mine;
    private readonly SideOf theirs;
    private readonly Layout from;
    private readonly Func<Conflict, Side> choose;
    private readonly List<Conflict> conflicts = [];

    /// <summary>Nodes that both sides put in one place.</summary>
    private readonly HashSet<NodeId> agreed = [];

    private Merging(Layout from, Layout mine, Layout theirs, Func<Conflict, Side> choose)
    {
        this.from = from;
        this.choose = choose;
        origin = Standing.Of(from.Root);
        this.mine = new SideOf(from, mine);
        this.theirs = new SideOf(from, theirs);
    }

    /// <param name="choose">Which side has its way in a conflict; mine where none is given.</param>
    public static Merged Merge(Layout from, Layout mine, Layout theirs, Func<Conflict, Side>? choose = null)
    {
        var merging = new Merging(from, mine, theirs, choose ?? (_ => Side.Mine));
        var layout = merging.Run();
        return new Merged(layout, merging.conflicts);
    }

    /// <summary>One side: how its nodes stand, and what it did, by node.</summary>
    private sealed class SideOf
    {
        public SideOf(Layout from, Layout to)
        {
            Places = Standing.Of(to.Root);
            foreach (var edit in Comparing.Edits(from, to))
            {
                switch (edit)
                {
                    case Edit.Move move:
                        Moves[move.Node] = move;
                        break;
                    case Edit.Insert insert:
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
                        break;
                }
            }
        }

        public Dictionary<NodeId, Standing> Places { get; }

        public Dictionary<NodeId, Edit.Move> Moves { get; } = [];

        public Dictionary<NodeId, Edit.Insert> Inserts { get; } = [];

        public Dictionary<NodeId, Edit.Remove> Removes { get; } = [];

        public Dictionary<(NodeId Node, string Property), Edit.Set> Sets { get; } = [];

        /// <summary>Everything this side did to a node of the original, its own place and the places it gave to others in it.</summary>
        public IEnumerable<Edit> On(NodeId node) => Sets.Where(pair => pair.Key.Node == node).Select(pair => (Edit)pair.Value)
            .Concat(Moves.Values.Where(move => move.Node == node || move.Parent == node))
            .Concat(Inserts.Values.Distinct().Where(insert => insert.Parent == node));

        public HashSet<NodeId> Touched { get; private set; } = [];

        public void Index()
        {
            Touched = [.. Sets.Keys.Select(key => key.Node), .. Moves.Values.SelectMany(move => new[] { move.Node, move.Parent }), .. Inserts.Values.Select(insert => insert.Parent)];
        }
    }

    private Layout Run()
    {
        mine.Index();
        theirs.Index();
        var kept = Existing();
        var places = Placed(kept);
        BreakCircles(places);
        return Built(kept, places);
    }

    private Side Decide(Conflict conflict)
    {
        conflicts.Add(conflict);
        return choose(conflict);
    }

    /// <summary>Which nodes the merged layout has, and for those that both sides brought with different content, whose.</summary>
    private Dictionary<NodeId, Side?> Existing()
    {
        var kept = new Dictionary<NodeId, Side?>();
        var dropped = new HashSet<NodeId>();
        var saved = new HashSet<NodeId>();
        Removed(mine, theirs, Side.Mine, dropped, saved);
        Removed(theirs, mine, Side.Theirs, dropped, saved);
        foreach (var node in from.Walk())
        {
            var inMine = mine.Places.ContainsKey(node.Id);
            var inTheirs = theirs.Places.ContainsKey(node.Id);
            if (!dropped.Contains(node.Id) && ((inMine && inTheirs) || saved.Contains(node.Id)))
            {
                kept[node.Id] = null;
            }
        }

        foreach (var (side, other, name) in new[] { (mine, theirs, Side.Mine), (theirs, mine, Side.Theirs) })
        {
            foreach (var id in side.Places.Keys.Where(id => !origin.ContainsKey(id) || side.Inserts.ContainsKey(id)))
            {
                if (dropped.Contains(id) && origin.ContainsKey(id))
                {
                    continue;
                }

                if (!other.Places.TryGetValue(id, out var there) || (origin.ContainsKey(id) && !other.Inserts.ContainsKey(id)))
                {
                    kept[id] = name;
                }
                else if (name is Side.Mine)
                {
                    var here = side.Places[id];
                    kept[id] = here.Node.Kind == there.Node.Kind && here.Parent == there.Parent && Same(here.Node, there.Node)
                        ? Side.Mine
                        : Decide(new Conflict("inserted-twice", $"Both sides brought a node '{id}', each with something else in it.", id, [mine.Inserts[id]], [theirs.Inserts[id]]));
                }
            }
        }

        return kept;
    }

    private static bool Same(Node a, Node b) => a.Properties.Count == b.Properties.Count && a.Properties.SequenceEqual(b.Properties);

    private void Removed(SideOf side, SideOf other, Side name, HashSet<NodeId> dropped, HashSet<NodeId> saved)
    {
        foreach (var remove in side.Removes.Values)
        {
            var goes = origin[remove.Node].Node.Walk().Where(node => !side.Places.ContainsKey(node.Id)).Select(node => node.Id).ToArray();
            var touched = goes.Where(id => other.Touched.Contains(id) && other.Places.ContainsKey(id)).ToArray();
            if (touched.Length > 0)
            {
                var changes = touched.SelectMany(other.On).Distinct().ToArray();
                var conflict = new Conflict(
                    "removed-and-changed", $"'{remove.Node}' was removed on one side, and on the other '{touched[0]}' {(touched[0] == remove.Node ? "was changed" : "in it was changed")}.",
                    remove.Node, name is Side.Mine ? [remove] : changes, name is Side.Mine ? changes : [remove]);
                if (Decide(conflict) != name)
                {
                    saved.UnionWith(goes.Where(other.Places.ContainsKey));
                    continue;
                }
            }

            dropped.UnionWith(goes);
        }
    }

    /// <summary>For each node that stays or comes, under which parent, and whose word that is where a side moved or brought it.</summary>
    private Dictionary<NodeId, (NodeId Parent, Side? By)> Placed(Dictionary<NodeId, Side?> kept)
    {
        var places = new Dictionary<NodeId, (NodeId, Side?)>();
        foreach (var (id, by) in kept)
        {
            if (id == from.Root.Id)
            {
                continue;
            }

            if (by is { } bringer)
            {
                if (mine.Places.TryGetValue(id, out var here) && theirs.Places.TryGetValue(id, out var there) && here.Parent == there.Parent)
                {
                    agreed.Add(id);
                }

                places[id] = (Of(bringer).Places[id].Parent!.Value, bringer);
                continue;
            }

            var (mover, other) = (mine.Moves.GetValueOrDefault(id), theirs.Moves.GetValueOrDefault(id));
            if (mover is not null && other is not null && !SamePlace(id, kept))
            {
                var side = Decide(new Conflict("moved-twice", $"'{id}' was moved to two places.", id, [mover], [other]));
                places[id] = (Of(side).Places[id].Parent!.Value, side);
            }
            else
            {
                if (mover is not null && other is not null)
                {
                    agreed.Add(id);
                }

                places[id] = mover is not null ? (mover.Parent, Side.Mine) : other is not null ? (other.Parent, Side.Theirs) : (origin[id].Parent!.Value, null);
            }
        }

        return places;
    }

    private SideOf Of(Side side) => side is Side.Mine ? mine : theirs;

    /// <summary>One parent, and behind the same sibling of those that neither side moved or brought.</summary>
    private bool SamePlace(NodeId id, Dictionary<NodeId, Side?> kept) =>
        mine.Moves[id].Parent == theirs.Moves[id].Parent && Before(mine, id, kept) == Before(theirs, id, kept);

    private NodeId? Before(SideOf side, NodeId id, Dictionary<NodeId, Side?> kept)
    {
        var place = side.Places[id];
        var siblings = side.Places[place.Parent!.Value].Node.Children;
        for (var i = place.Index - 1; i >= 0; i--)
        {
            if (IsFixed(siblings[i].Id, kept))
            {
                return siblings[i].Id;
            }
        }

        return null;
    }

    private bool IsFixed(NodeId id, Dictionary<NodeId, Side?> kept) =>
        kept.TryGetValue(id, out var by) && by is null && !mine.Moves.ContainsKey(id) && !theirs.Moves.ContainsKey(id);

    /// <summary>Two moves, one from each side, can put two nodes into one another: one of them has to give way.</summary>
    private void BreakCircles(Dictionary<NodeId, (NodeId Parent, Side? By)> places)
    {
        foreach (var start in mine.Moves.Keys.Concat(theirs.Moves.Keys).Where(places.ContainsKey).Order(Comparer<NodeId>.Create((a, b) => string.CompareOrdinal(a.Name, b.Name))).ToArray())
        {
            var circle = new List<NodeId>();
            var seen = new HashSet<NodeId>();
            for (var at = start; places.TryGetValue(at, out var place) && seen.Add(at); at = place.Parent)
            {
                circle.Add(at);
                if (place.Parent != start)
                {
                    continue;
                }

                var (byMine, byTheirs) = (Movers(Side.Mine), Movers(Side.Theirs));
                if (byMine.Length > 0 && byTheirs.Length > 0)
                {
                    var side = Decide(new Conflict(
                        "circle", $"Each side moved one of '{byMine[0]}' and '{byTheirs[0]}' into the other.", byMine[0],
                        [.. byMine.Select(id => mine.Moves[id])], [.. byTheirs.Select(id => theirs.Moves[id])]));
                    foreach (var id in side is Side.Mine ? byTheirs : byMine)
                    {
                        places[id] = (origin[id].Parent!.Value, null);
                    }
                }

                break;

                NodeId[] Movers(Side side) => [.. circle.Where(id => places[id].By == side && Of(side).Moves.ContainsKey(id))];
            }
        }
    }

    private Layout Built(Dictionary<NodeId, Side?> kept, Dictionary<NodeId, (NodeId Parent, Side? By)> places)
    {
        var children = places.GroupBy(pair => pair.Value.Parent).ToDictionary(group => group.Key, group => group.Select(pair => pair.Key).ToHashSet());
        return Layout.Of(Build(from.Root.Id));

        Node Build(NodeId id)
        {
            var node = kept.GetValueOrDefault(id) is { } by ? Of(by).Places[id].Node with { } : WithSets(origin[id].Node);
            return node with { Children = [.. Ordered(id, children.GetValueOrDefault(id) ?? [], places).Select(Build)] };
        }
    }

    private Node WithSets(Node node)
    {
        if (!mine.Touched.Contains(node.Id) && !theirs.Touched.Contains(node.Id))
        {
            return node;
        }

        foreach (var name in Names(mine).Union(Names(theirs), StringComparer.Ordinal).ToArray())
        {
            var (a, b) = (mine.Sets.GetValueOrDefault((node.Id, name)), theirs.Sets.GetValueOrDefault((node.Id, name)));
            var chosen = a is not null && b is not null && a.Value != b.Value
                ? Decide(new Conflict("set-twice", $"'{name}' of '{node.Id}' was set to two values.", node.Id, [a], [b]) { Property = name }) is Side.Mine ? a : b
                : a ?? b!;
            node = node.With(name, chosen.Value);
        }

        return node;

        IEnumerable<string> Names(SideOf side) => Grammar.Of(node).Properties.Select(rule => rule.Name).Where(name => side.Sets.ContainsKey((node.Id, name)));
    }

    /// <summary>
    /// The children of one parent: those that neither side moved keep their order; behind each of them, and before them all, comes what each side
    /// put there, in that side's order, the two sides' runs ordered by their ids.
    /// </summary>
    private IEnumerable<NodeId> Ordered(NodeId parent, HashSet<NodeId> here, Dictionary<NodeId, (NodeId Parent, Side? By)> places)
    {
        var spine = origin.TryGetValue(parent, out var was) ? was.Node.Children.Select(child => child.Id).Where(id => here.Contains(id) && places[id].By is null).ToList() : [];
        // A node that a circle sent home may not have stayed among its siblings of old.
        spine.AddRange(here.Where(id => places[id].By is null && !spine.Contains(id)).OrderBy(id => id.Name, StringComparer.Ordinal));
        if (spine.Count == here.Count)
        {
            return spine;
        }

        var fixedHere = spine.ToHashSet();
        var runs = (Mine: Runs(mine, parent, here, fixedHere, places, Side.Mine), Theirs: Runs(theirs, parent, here, fixedHere, places, Side.Theirs));
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
    private Dictionary<NodeId, List<NodeId>> Runs(
        SideOf side, NodeId parent, HashSet<NodeId> here, HashSet<NodeId> fixedHere, Dictionary<NodeId, (NodeId Parent, Side? By)> places, Side name)
    {
        var runs = new Dictionary<NodeId, List<NodeId>>();
        var anchor = default(NodeId);
        foreach (var child in side.Places.TryGetValue(parent, out var standing) ? standing.Node.Children : [])
        {
            if (fixedHere.Contains(child.Id))
            {
                anchor = child.Id;
            }
            else if (here.Contains(child.Id) && (places[child.Id].By == name || agreed.Contains(child.Id)))
            {
                (runs.TryGetValue(anchor, out var run) ? run : runs[anchor] = []).Add(child.Id);
            }
        }

        return runs;
    }

    /// <summary>Two runs as one: what both have stands once and holds them together; between, the run whose first id is smaller comes first.</summary>
    private static IEnumerable<NodeId> Interleaved(List<NodeId> a, List<NodeId> b)
    {
        if (a.Count == 0 || b.Count == 0)
        {
            return a.Count == 0 ? b : a;
        }

        // The smaller first id leads, so that swapping the sides changes nothing.
        var (lead, follow) = string.CompareOrdinal(Whole(a), Whole(b)) <= 0 ? (a, b) : (b, a);
        var places = follow.Select((id, i) => (id, i)).ToDictionary(pair => pair.id, pair => pair.i);
        var common = LongestRising([.. lead.Where(places.ContainsKey)], id => places[id]).Reverse().ToList();
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
            x.Count == 0 ? y : y.Count == 0 ? x : string.CompareOrdinal(x[0].Name, y[0].Name) <= 0 ? x.Concat(y) : y.Concat(x);

        static string Whole(List<NodeId> run) => string.Join('\n', run.Select(id => id.Name));
    }
}
