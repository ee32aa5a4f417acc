using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>
/// What a node holds only one of, where both sides brought one: a band, a side column, a variant of one width, the node of a change.
/// </summary>
public sealed partial class LayoutMerge
{
    /// <summary>What another node stands for, after two that could not both stand became one.</summary>
    private readonly Dictionary<NodeId, NodeId> standsFor = [];

    /// <summary>
    /// Where both sides brought what a node holds only one of (a band, a side column, a variant of one width, the node of a change), one
    /// stands:
    /// what is in the other comes into it; of what a change inserts, one side's alone.
    /// </summary>
    private void HoldOnlyOne()
    {
        foreach (var parent in Parents())
        {
            // Two nodes of one id and different kinds became one: what only the other can hold has no place any more.
            var rule = Grammar.Of(NodeOf(parent));
            foreach (var stray in ChildrenOf(parent).Where(id => !rule.Children.Contains(NodeOf(id).Kind)).ToArray())
            {
                Yield(NodeOf(stray), NodeOf(parent), whole: true);
            }
        }

        foreach (var parent in Parents())
        {
            var holder = NodeOf(parent);
            var rivals = ChildrenOf(parent)
                .Select(NodeOf)
                .Select(node => (node, place: NodeShape.OnlyOne(holder, node)))
                .Where(each => each.place is not null)
                .GroupBy(each => each.place, each => each.node)
                .Where(group => group.Count() > 1);
            foreach (var group in rivals.ToArray())
            {
                var all = group.OrderBy(node => node.Id.Name, StringComparer.Ordinal).ToArray();
                var stands =
                    holder.Kind is NodeKind.Change || all.Any(node => node.Kind != all[0].Kind || !AlikeBut(node, all[0]))
                        ? Preferred(all, group.Key!, Grammar.Of(holder).Name)
                        : all[0];
                foreach (var other in all.Where(node => node.Id != stands.Id))
                {
                    Yield(other, stands, holder.Kind is NodeKind.Change);
                }
            }
        }
    }

    /// <summary>Every node that something came to, while it is there.</summary>
    private IEnumerable<NodeId> Parents() => places.Values.Select(place => place.Parent).Distinct().Order(ById).ToArray().Where(Exists);

    private static bool AlikeBut(Node one, Node other) => one.Properties.Remove("note").Equals(other.Properties.Remove("note"));

    private Node Preferred(Node[] rivals, string what, string holder)
    {
        var my = rivals.FirstOrDefault(node => SideThatHas(node.Id) is Side.Mine) ?? rivals[0];
        var their = rivals.FirstOrDefault(node => SideThatHas(node.Id) is Side.Theirs) ?? rivals.First(node => node.Id != my.Id);
        return
            Decide(
                new Conflict(
                    "only-one",
                    $"Both sides brought a {what}; a {holder} has only one.",
                    my.Id,
                    EditsOf(mine, my.Id),
                    EditsOf(theirs, their.Id)
                )
            ) is Side.Mine
            ? my
            : their;

        static Edit[] EditsOf(SideOf side, NodeId id) => side.Inserts.TryGetValue(id, out var insert) ? [insert] : [.. side.On(id)];
    }

    /// <summary>
    /// Whose word it is that a node stands where it does: of the side that brought or moved it, kept it while the other did not, or alone
    /// changed it.
    /// </summary>
    private Side SideThatHas(NodeId id)
    {
        if (brought.TryGetValue(id, out var bringer))
        {
            return bringer;
        }

        if (places.TryGetValue(id, out var place) && place.By is { } mover)
        {
            return mover;
        }

        var (here, there) = (mine.Places.ContainsKey(id), theirs.Places.ContainsKey(id));
        return here == there
            ? theirs.Touched(id) && !mine.Touched(id)
                ? Side.Theirs
                : Side.Mine
            : here
                ? Side.Mine
                : Side.Theirs;
    }

    private void Yield(Node goes, Node stands, bool whole)
    {
        var by = SideThatHas(goes.Id);
        if (whole)
        {
            // What came from elsewhere in the layout, with all in it, stays where it was.
            foreach (var node in !brought.ContainsKey(goes.Id) && places.Remove(goes.Id) ? [] : Of(by).Places[goes.Id].Node.Walk())
            {
                if (brought.Remove(node.Id) || !places.ContainsKey(node.Id))
                {
                    dropped.Add(node.Id);
                }

                places.Remove(node.Id);
            }

            return;
        }

        foreach (var child in ChildrenOf(goes.Id).ToArray())
        {
            places[child] = (stands.Id, PlaceOf(child)!.Value.By ?? by);
        }

        standsFor[goes.Id] = stands.Id;
        brought.Remove(goes.Id);
        places.Remove(goes.Id);
        dropped.Add(goes.Id);
    }

    private Node NodeOf(NodeId id) => brought.TryGetValue(id, out var by) ? Of(by).Places[id].Node : WithSets(origin[id].Node);

    /// <summary>Everything that stands under a node, in no order.</summary>
    private IEnumerable<NodeId> ChildrenOf(NodeId parent) =>
        (
            !brought.ContainsKey(parent) && origin.TryGetValue(parent, out var was)
                ? was.Node.Children.Select(child => child.Id).Where(id => Exists(id) && !places.ContainsKey(id))
                : []
        ).Concat(places.Where(pair => pair.Value.Parent == parent).Select(pair => pair.Key));
}
