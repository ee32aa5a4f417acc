using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>Tells edits in words a reviewer reads.</summary>
public static class EditSummary
{
    /// <summary>One sentence for each edit, in order; nodes are named as they are called when the edit happens.</summary>
    /// <param name="label">What a field is called; null where that is not known.</param>
    public static IEnumerable<Message> Describe(Layout layout, IEnumerable<Edit> edits, Func<string, Texts?>? label = null)
    {
        foreach (var edit in edits)
        {
            yield return Describe(layout, edit, label ?? (_ => null));
            layout = layout.Apply(edit).Layout ?? layout;
        }
    }

    private static Message Describe(Layout layout, Edit edit, Func<string, Texts?> label) =>
        edit switch
        {
            Edit.Insert insert => $"Adds {Shown(insert.Node, label)} {Where(layout, insert.Parent, insert.At, false, label)}.",
            Edit.Remove remove => layout.Find(remove.Node) is { } gone
                ? $"Removes {Shown(gone, label)} from {Holder(layout, gone, label)}."
                : (Message)$"Removes '{remove.Node}'.",
            Edit.Move move => $"Moves {Named(layout, move.Node, label)} {Where(layout, move.Parent, move.At, true, label)}.",
            Edit.Set { Value: null } set => $"Clears the {Property(layout, set)} of {Named(layout, set.Node, label)}.",
            Edit.Set set => $"Sets the {Property(layout, set)} of {Named(layout, set.Node, label)} to {Word(set.Value!)}.",
            _ => throw new ArgumentOutOfRangeException(nameof(edit)),
        };

    private static Message Property(Layout layout, Edit.Set set) =>
        layout.Find(set.Node) is { } node && Grammar.Of(node).Find(set.Property) is { } rule
            ? Message.Term(rule.Label.ToLowerInvariant())
            : Message.Verbatim(set.Property);

    private static Message Word(Value value) =>
        value switch
        {
            Value.Text { Texts: { ByLanguage.Count: > 1 } texts } => $"'{texts}' ({string.Join(", ", texts.ByLanguage.Keys)})",
            Value.Text text => $"'{text.Texts}'",
            Value.Word word => $"'{word.Content}'",
            Value.Number number => $"{number.Amount}",
            Value.Flag flag => flag.On ? (Message)$"yes" : $"no",
            Value.Words words => $"{string.Join(", ", words.Contents)}",
            Value.Pairs pairs => $"{string.Join(", ", pairs.Entries.Select(pair => $"{pair.Key} = {pair.Value}"))}",
            _ => $"",
        };

    private static Message Named(Layout layout, NodeId id, Func<string, Texts?> label) =>
        layout.Find(id) is { } node ? Name(node, label) : $"'{id}'";

    private static Message Name(Node node, Func<string, Texts?> label) =>
        node.Kind switch
        {
            NodeKind.Layout => $"the layout",
            NodeKind.Body => $"the body",
            NodeKind.Field => $"'{Words(node.Text("label") ?? label(node.Word("field")!), node.Word("field")!)}'",
            NodeKind.Row or NodeKind.Cell => node.Walk().FirstOrDefault(each => Grammar.IsItem(each.Kind)) is { } item && item.Id != node.Id
                ? (Message)$"the {Kind(node)} with {Name(item, label)}"
                : $"the {Kind(node)} '{node.Id}'",
            _ => $"the {Kind(node)} '{Title(node)}'",
        };

    private static Message Kind(Node node) => Grammar.Of(node.Kind).Noun;

    private static Message Title(Node node) =>
        Words(
            node.Text("title") ?? node.Text("heading") ?? node.Text("label"),
            node.Word(Grammar.Of(node.Kind).Main ?? "") ?? node.Id.Name
        );

    private static Message Words(Texts? texts, string otherwise) => texts is null ? Message.Verbatim(otherwise) : $"{texts}";

    /// <summary>Whether it is a row or a cell in which nothing stands: who reads the form does not know it is there.</summary>
    private static bool IsBare(Node node) =>
        node.Kind is NodeKind.Row or NodeKind.Cell && !node.Walk().Any(each => Grammar.IsItem(each.Kind));

    private static Message Shown(Node node, Func<string, Texts?> label)
    {
        if (IsBare(node))
        {
            return $"an empty {Kind(node)}";
        }

        var fields = node.Walk()
            .Where(each => each.Kind is NodeKind.Field && each.Id != node.Id)
            .Select(each => Name(each, label))
            .ToArray();
        return fields.Length == 0 || (node.Kind is NodeKind.Row or NodeKind.Cell && fields.Length == 1) ? Name(node, label)
            : fields.Length > 4 ? (Message)$"{Name(node, label)} with {fields.Length} fields"
            : $"{Name(node, label)} with {Message.Join(", ", fields)}";
    }

    private static Message Holder(Layout layout, Node node, Func<string, Texts?> label)
    {
        for (var at = layout.ParentOf(node.Id); at is { } id; at = layout.ParentOf(id))
        {
            var parent = layout.Find(id)!;
            if (parent.Kind is not (NodeKind.Row or NodeKind.Cell))
            {
                return Name(parent, label);
            }
        }

        return $"the layout";
    }

    /// <param name="moves">Whether it is moved there, rather than comes to be there.</param>
    private static Message Where(Layout layout, NodeId parent, Anchor at, bool moves, Func<string, Texts?> label) =>
        (at, layout.Find(parent)) switch
        {
            (Anchor.Before before, _) => $"before {Named(layout, before.Sibling, label)}",
            (Anchor.After after, _) => $"behind {Named(layout, after.Sibling, label)}",
            (_, null) => moves ? $"to '{parent}'" : (Message)$"at '{parent}'",
            // In what is empty there is no beginning and no end.
            (_, { } bare) when IsBare(bare) => Within(Holder(layout, bare, label), moves),
            (_, { Children.Length: 0 } empty) => Within(Name(empty, label), moves),
            (Anchor.First, { } holder) => moves
                ? $"to the beginning of {Name(holder, label)}"
                : (Message)$"at the beginning of {Name(holder, label)}",
            (_, { } holder) => moves ? $"to the end of {Name(holder, label)}" : (Message)$"at the end of {Name(holder, label)}",
        };

    private static Message Within(Message holder, bool moves) => moves ? $"into {holder}" : (Message)$"in {holder}";
}
