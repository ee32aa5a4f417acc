using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>Applies edits. Failure is a value that says why; the layout given is never altered.</summary>
public static class EditApplier
{
    /// <summary>Applies all edits, in order, or none.</summary>
    /// <returns>The inverse undoes the whole: its edits are in the order in which they must be applied.</returns>
    public static EditOutcome Apply(this Layout layout, IReadOnlyList<Edit> edits)
    {
        if (edits.Count > Limits.Edits)
        {
            return Refuse("change-too-long", $"A change has at most {Limits.Edits} edits; this one has {edits.Count}.", Limits.Edits);
        }

        var done = new List<Edit>(edits.Count);
        var inverse = new List<Edit>(edits.Count);
        for (var i = 0; i < edits.Count; i++)
        {
            var result = Apply(layout, edits[i]);
            if (result.Refusal is { } refusal)
            {
                return new EditOutcome(null, [], [], refusal with { Index = i });
            }

            layout = result.Layout!;
            done.AddRange(result.Edits);
            inverse.AddRange(result.Inverse);
        }

        inverse.Reverse();
        return new EditOutcome(layout, done, inverse, null);
    }

    public static EditOutcome Apply(this Layout layout, Edit edit) =>
        edit switch
        {
            Edit.Insert insert => Insert(layout, insert),
            Edit.Remove remove => Remove(layout, remove),
            Edit.Move move => Move(layout, move),
            Edit.Set set => Set(layout, set),
            _ => throw new ArgumentOutOfRangeException(nameof(edit)),
        };

    private static EditOutcome Insert(Layout layout, Edit.Insert insert)
    {
        if (layout.Find(insert.Parent) is not { } parent)
        {
            return Missing(insert.Parent);
        }

        if (NodeShape.Problem(parent, insert.Node) is { } refused)
        {
            return Refuse(refused.Code, refused.Message);
        }

        var taken = insert.Node.Walk().Select(node => node.Id).Where(id => id.Name is { Length: > 0 }).ToArray();
        if (taken.FirstOrDefault(layout.Contains) is { Name: not null } clash)
        {
            return Refuse("id-taken", $"There is a node '{clash}' already; ids are unique in a layout.");
        }

        if (taken.Distinct().Count() != taken.Length)
        {
            return Refuse("id-taken", $"The inserted nodes share an id; ids are unique in a layout.");
        }

        if (taken.FirstOrDefault(id => !NodeId.IsWellFormed(id.Name)) is { Name: not null } malformed)
        {
            return Refuse(
                "id-malformed",
                $"'{malformed}' is no id: it must begin with a letter and have only letters, digits, '-' and '_', at most "
                    + $"{Limits.IdLength}."
            );
        }

        if (WellFormed(insert.Node) is { } problem)
        {
            return Refuse("node-malformed", problem);
        }

        var count = insert.Node.Walk().Count();
        if (layout.Count + count > Limits.Nodes)
        {
            return Refuse(
                "layout-too-large",
                $"A layout has at most {Limits.Nodes} nodes; with these it would have {layout.Count + count}."
            );
        }

        if (layout.Ancestors(parent.Id).Count() + 1 + DepthOf(insert.Node) > Limits.Depth)
        {
            return Refuse("too-deep", $"A layout nests at most {Limits.Depth} levels of nodes.");
        }

        if (Place(parent, insert.At, out var place) is { } nowhere)
        {
            return nowhere;
        }

        place = InOrder(parent, insert.Node.Kind, place);
        var filled = taken.Length == count ? insert.Node : DerivedIds.FillFor(layout, insert.Node);
        var after = layout.Replace(parent.Id, node => node with { Children = node.Children.Insert(place, filled) }, added: [filled]);
        return new EditOutcome(after, [insert with { Node = filled }], [new Edit.Remove(filled.Id)], null);
    }

    internal static Refusal CannotRemove(Node node) =>
        new("cannot-remove", $"'{node.Id}' is the {Grammar.Of(node.Kind).Noun} of the layout and cannot be removed.");

    private static EditOutcome Remove(Layout layout, Edit.Remove remove)
    {
        if (layout.Find(remove.Node) is not { } node)
        {
            return Missing(remove.Node);
        }

        if (layout.ParentOf(node.Id) is not { } parentId || (node.Kind is NodeKind.Body && layout.Extends is null))
        {
            return new EditOutcome(null, [], [], CannotRemove(node));
        }

        if (layout.Find(parentId) is { Kind: NodeKind.Change })
        {
            return Refuse("cannot-remove", $"'{node.Id}' is what the change '{parentId}' inserts; take the change away instead.");
        }

        var anchor = AnchorOf(layout.Find(parentId)!, node.Id);
        var after = layout.Replace(
            parentId,
            parent => parent with { Children = parent.Children.RemoveAt(Layout.IndexIn(parent, node.Id)) },
            removed: [node]
        );
        return new EditOutcome(after, [remove], [new Edit.Insert(node, parentId, anchor)], null);
    }

    private static EditOutcome Move(Layout layout, Edit.Move move)
    {
        if (layout.Find(move.Node) is not { } node)
        {
            return Missing(move.Node);
        }

        if (layout.Find(move.Parent) is not { } parent)
        {
            return Missing(move.Parent);
        }

        if (layout.ParentOf(node.Id) is not { } from)
        {
            return Refuse("cannot-move", $"The layout itself cannot be moved.");
        }

        if (layout.Find(from) is { Kind: NodeKind.Change } && from != parent.Id)
        {
            return Refuse("cannot-move", $"'{node.Id}' is what the change '{from}' inserts; take the change away instead.");
        }

        if (parent.Id == node.Id || layout.Ancestors(parent.Id).Any(ancestor => ancestor.Id == node.Id))
        {
            return Refuse("cycle", $"'{node.Id}' cannot be moved into itself.");
        }

        if (from != parent.Id && NodeShape.Problem(parent, node) is { } refused)
        {
            return Refuse(refused.Code, refused.Message);
        }

        if (
            move.At is Anchor.Before { Sibling: var before } && before == node.Id
            || move.At is Anchor.After { Sibling: var behind } && behind == node.Id
        )
        {
            return Refuse("anchor-itself", $"'{node.Id}' cannot be placed beside itself.");
        }

        if (from != parent.Id && layout.Ancestors(parent.Id).Count() + 1 + DepthOf(node) > Limits.Depth)
        {
            return Refuse("too-deep", $"A layout nests at most {Limits.Depth} levels of nodes.");
        }

        var back = AnchorOf(layout.Find(from)!, node.Id);
        var remaining = from == parent.Id ? parent with { Children = parent.Children.RemoveAt(Layout.IndexIn(parent, node.Id)) } : parent;
        if (Place(remaining, move.At, out var place) is { } nowhere)
        {
            return nowhere;
        }

        return new EditOutcome(
            layout.Rehang(node, from, parent.Id, InOrder(remaining, node.Kind, place)),
            [move],
            [new Edit.Move(node.Id, from, back)],
            null
        );
    }

    private static EditOutcome Set(Layout layout, Edit.Set set)
    {
        if (layout.Find(set.Node) is not { } node)
        {
            return Missing(set.Node);
        }

        var rule = Grammar.Of(node);
        if (rule.Find(set.Property) is not { } property)
        {
            return Refuse(
                "property-unknown",
                Suggestion.Sentence(
                    $"A {rule.Noun} has no property "
                        + $"'{set.Property}'{Suggestion.For(set.Property, [.. rule.Properties.Select(each => each.Name)])}"
                )
            );
        }

        if (set.Value is null && property.Required)
        {
            return Refuse("property-required", $"The {property.Name} of a {rule.Noun} cannot be cleared.");
        }

        if (set.Value is not null && Grammar.Problem(property, set.Value) is { } problem)
        {
            return Refuse("value-invalid", $"'{property.Name}' of '{node.Id}' {problem}.");
        }

        if (node.Kind is NodeKind.Layout && property.Name == "kind" && set.Value != node["kind"])
        {
            return Refuse("kind-fixed", $"A layout's kind stays what it is; make another layout instead.");
        }

        if (
            node.Kind is NodeKind.Layout
            && property.Name == "extends"
            && set.Value is null
            && rule.HolderOf(NodeKind.Body) is not null
            && layout.Body is null
        )
        {
            return Refuse("body-needed", $"The layout has no body of its own; it needs one, or what it extends.");
        }

        // A default is kept as absence, so that one layout has one form.
        var value = set.Value == property.Default ? null : set.Value;
        if (ChangeShape.Problem(node.With(property.Name, value)) is { } misshapen)
        {
            return Refuse("change-malformed", misshapen);
        }

        if (
            node.Kind is NodeKind.Variant
            && property.Name == "variant"
            && layout.Variants.Any(other => other.Id != node.Id && other.Word("variant") == (value as Value.Word)?.Content)
        )
        {
            return Refuse("only-one", $"There is a variant for that width already.");
        }

        var after = layout.Replace(node.Id, each => each.With(property.Name, value));
        return new EditOutcome(after, [set], [set with { Value = node[property.Name] }], null);
    }

    private static int DepthOf(Node node) => 1 + (node.Children.IsEmpty ? 0 : node.Children.Max(DepthOf));

    private static Message? WellFormed(Node root)
    {
        foreach (var node in root.Walk())
        {
            var rule = Grammar.Of(node);
            foreach (var (name, value) in node.Properties)
            {
                if (rule.Find(name) is not { } property)
                {
                    return Suggestion.Sentence(
                        $"A {rule.Noun} has no property '{name}'{Suggestion.For(name, [.. rule.Properties.Select(each => each.Name)])}"
                    );
                }

                if (Grammar.Problem(property, value) is { } problem)
                {
                    return $"'{name}' of a {rule.Noun} {problem}.";
                }
            }

            if (rule.Properties.FirstOrDefault(property => property.Required && node[property.Name] is null) is { } absent)
            {
                return $"A {rule.Noun} needs '{absent.Name}'.";
            }

            if (NodeShape.Problem(node) is { } misshapen)
            {
                return misshapen;
            }
        }

        return null;
    }

    private static EditOutcome? Place(Node parent, Anchor at, out int place)
    {
        place = at switch
        {
            Anchor.First => 0,
            Anchor.Last => parent.Children.Length,
            Anchor.Before before => IndexOf(parent, before.Sibling),
            Anchor.After after => IndexOf(parent, after.Sibling) is var index and >= 0 ? index + 1 : -1,
            _ => throw new ArgumentOutOfRangeException(nameof(at)),
        };
        return place >= 0
            ? null
            : Refuse("anchor-missing", $"'{(at as Anchor.Before)?.Sibling ?? ((Anchor.After)at).Sibling}' is not in '{parent.Id}'.");
    }

    /// <summary>
    /// The parts of a layout have one order, whatever is asked: top, body, bottom, and so on; within a kind the place stands.
    /// </summary>
    private static int InOrder(Node parent, NodeKind kind, int place) =>
        parent.Kind is not NodeKind.Layout
            ? place
            : Math.Clamp(place, parent.Children.Count(child => child.Kind < kind), parent.Children.Count(child => child.Kind <= kind));

    private static int IndexOf(Node parent, NodeId child)
    {
        for (var i = 0; i < parent.Children.Length; i++)
        {
            if (parent.Children[i].Id == child)
            {
                return i;
            }
        }

        return -1;
    }

    private static Anchor AnchorOf(Node parent, NodeId child)
    {
        var index = Layout.IndexIn(parent, child);
        return index == 0 ? new Anchor.First() : new Anchor.After(parent.Children[index - 1].Id);
    }

    private static EditOutcome Missing(NodeId id) =>
        Refuse("node-missing", $"There is no node '{id}' in the layout; it may have been removed.");

    private static EditOutcome Refuse(string code, Message message, int index = 0) => new(null, [], [], new Refusal(code, message, index));
}
