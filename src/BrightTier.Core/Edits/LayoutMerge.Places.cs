using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

// Where nodes stand: places both sides gave, and circles these would make.
public sealed partial class LayoutMerge
{
    /// <summary>Finds under which parent each node stands that a side moved or brought, and whose word that is.</summary>
    private void Place()
    {
        foreach (var (id, bringer) in brought)
        {
            if (mine.Places.TryGetValue(id, out var here) && theirs.Places.TryGetValue(id, out var there) && here.Parent == there.Parent)
            {
                agreed.Add(id);
            }

            places[id] = (Of(bringer).Places[id].Parent!.Value, bringer);
        }

        // In the order of the original, so that conflicts come in one order.
        foreach (
            var id in mine
                .Moves.Keys.Concat(theirs.Moves.Keys)
                .Distinct()
                .Where(id => Exists(id) && !brought.ContainsKey(id))
                .OrderBy(id => id.Name, StringComparer.Ordinal)
        )
        {
            var (mover, other) = (mine.Moves.GetValueOrDefault(id), theirs.Moves.GetValueOrDefault(id));
            if (mover is not null && other is not null && !SamePlace(id))
            {
                var side = Decide(new Conflict("moved-twice", $"'{id}' was moved to two places.", id, [mover], [other]));
                places[id] = (Of(side).Places[id].Parent!.Value, side);
                continue;
            }

            if (mover is not null && other is not null)
            {
                agreed.Add(id);
            }

            places[id] = mover is not null ? (mover.Parent, Side.Mine) : (other!.Parent, Side.Theirs);
        }

        // What was moved into something that is gone stays where it was, with all in it.
        foreach (
            var id in places.Where(pair => !brought.ContainsKey(pair.Key) && !Exists(pair.Value.Parent)).Select(pair => pair.Key).ToArray()
        )
        {
            places.Remove(id);
        }
    }

    private SideOf Of(Side side) => side is Side.Mine ? mine : theirs;

    /// <summary>One parent, and behind the same sibling of those that neither side moved or brought.</summary>
    private bool SamePlace(NodeId id) => mine.Moves[id].Parent == theirs.Moves[id].Parent && Before(mine, id) == Before(theirs, id);

    private NodeId? Before(SideOf side, NodeId id)
    {
        var place = side.Places[id];
        var siblings = side.Places[place.Parent!.Value].Node.Children;
        for (var i = place.Index - 1; i >= 0; i--)
        {
            if (IsFixed(siblings[i].Id))
            {
                return siblings[i].Id;
            }
        }

        return null;
    }

    private bool IsFixed(NodeId id) =>
        Exists(id) && !brought.ContainsKey(id) && !mine.Moves.ContainsKey(id) && !theirs.Moves.ContainsKey(id);

    private (NodeId Parent, Side? By)? PlaceOf(NodeId id) =>
        places.TryGetValue(id, out var place) ? place
        : origin.TryGetValue(id, out var standing) && standing.Parent is { } parent ? (parent, null)
        : null;

    /// <summary>Two moves, one from each side, can put two nodes into one another: one of them has to give way.</summary>
    private void BreakCircles()
    {
        foreach (var start in mine.Moves.Keys.Concat(theirs.Moves.Keys).Where(places.ContainsKey).Order(ById).ToArray())
        {
            var circle = new List<NodeId>();
            var seen = new HashSet<NodeId>();
            for (var at = start; PlaceOf(at) is { } place && seen.Add(at); at = place.Parent)
            {
                circle.Add(at);
                if (place.Parent != start)
                {
                    continue;
                }

                var (byMine, byTheirs) = (Movers(Side.Mine), Movers(Side.Theirs));
                if (byMine.Length > 0 && byTheirs.Length > 0)
                {
                    var side = Decide(
                        new Conflict(
                            "circle",
                            $"Each side moved one of '{byMine[0]}' and '{byTheirs[0]}' into the other.",
                            byMine[0],
                            [.. byMine.Select(id => mine.Moves[id])],
                            [.. byTheirs.Select(id => theirs.Moves[id])]
                        )
                    );
                    foreach (var id in side is Side.Mine ? byTheirs : byMine)
                    {
                        places[id] = (origin[id].Parent!.Value, null);
                    }
                }

                break;

                NodeId[] Movers(Side side) => [.. circle.Where(id => PlaceOf(id)!.Value.By == side && Of(side).Moves.ContainsKey(id))];
            }
        }
    }
}
