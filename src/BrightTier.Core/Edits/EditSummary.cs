using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>Tells edits in words a reviewer reads.</summary>
public static class EditSummary
{
    /// <summary>One sentence for each edit, in order; nodes are named as they are called when the edit happens.</summary>
    /// <param name="label">What a field is called.</param>
    public static IEnumerable<string> Describe(Layout layout, IEnumerable<Edit> edits, Func<string, string>? label = null)
    {
        foreach (var edit in edits)
        {
            yield return Describe(layout, edit, label ?? (key => key));
            layout = layout.Apply(edit).Layout ?? layout;
        }
    }

    private static string Describe(Layout layout, Edit edit, Func<string, string> label)
    {
        switch (edit)
        {
            case Edit.Insert insert:
                return $"Adds {Shown(insert.Node, label)} {Where(layout, insert.Parent, insert.At, "at", label)}.";
            case Edit.Remove remove:
                return layout.Find(remove.Node) is { } gone
                    ? $"Removes {Shown(gone, label)} from {Holder(layout, gone, label)}."
                    : $"Removes '{remove.Node}'.";
            case Edit.Move move:
                return $"Moves {Named(layout, move.Node, label)} {Where(layout, move.Parent, move.At, "to", label)}.";
            case Edit.Set set:
                var name = Named(layout, set.Node, label);
                var words =
                    layout.Find(set.Node) is { } node && Grammar.Of(node).Find(set.Property) is { } rule
                        ? rule.Label.ToLowerInvariant()
                        : set.Property;
                return set.Value is null ? $"Clears the {words} of {name}." : $"Sets the {words} of {name} to {Word(set.Value)}.";
            default:
                throw new ArgumentOutOfRangeException(nameof(edit));
        }
    }

    private static string Word(Value value) =>
        value switch
        {
            Value.Text text => $"'{text.Texts}'"
                + (text.Texts.ByLanguage.Count > 1 ? $" ({string.Join(", ", text.Texts.ByLanguage.Keys)})" : ""),
            Value.Word word => $"'{word.Content}'",
            Value.Number number => number.Amount.ToString(System.Globalization.CultureInfo.InvariantCulture),
            Value.Flag flag => flag.On ? "yes" : "no",
            Value.Words words => string.Join(", ", words.Contents),
            Value.Pairs pairs => string.Join(", ", pairs.Entries.Select(pair => $"{pair.Key} = {pair.Value}")),
            _ => "",
        };

    private static string Named(Layout layout, NodeId id, Func<string, string> label) =>
        layout.Find(id) is { } node ? Name(node, label) : $"'{id}'";

    private static string Name(Node node, Func<string, string> label) =>
        node.Kind switch
        {
            NodeKind.Layout => "the layout",
            NodeKind.Body => "the body",
            NodeKind.Field => $"'{node.Text("label")?.ToString() ?? label(node.Word("field")!)}'",
            NodeKind.Row or NodeKind.Cell => node.Walk().FirstOrDefault(each => Grammar.IsItem(each.Kind)) is { } item && item.Id != node.Id
                ? $"the {Grammar.Of(node.Kind).Name} with {Name(item, label)}"
                : $"the {Grammar.Of(node.Kind).Name} '{node.Id}'",
            _ => $"the {Grammar.Of(node.Kind).Name} "
                + $"'{node.Text("title")?.ToString() ?? node.Text("heading")?.ToString() ?? node.Text("label")?.ToString() ?? node.Word(Grammar.Of(node.Kind).Main ?? "") ?? node.Id.Name}'",
        };

    /// <summary>Whether it is a row or a cell in which nothing stands: who reads the form does not know it is there.</summary>
    private static bool IsBare(Node node) =>
        node.Kind is NodeKind.Row or NodeKind.Cell && !node.Walk().Any(each => Grammar.IsItem(each.Kind));

    private static string Shown(Node node, Func<string, string> label) =>
        IsBare(node) ? $"an empty {Grammar.Of(node.Kind).Name}" : Name(node, label) + Inside(node, label);

    private static string Inside(Node node, Func<string, string> label)
    {
        var fields = node.Walk()
            .Where(each => each.Kind is NodeKind.Field && each.Id != node.Id)
            .Select(each => Name(each, label))
            .ToArray();
        return fields.Length == 0 || node.Kind is NodeKind.Row or NodeKind.Cell && fields.Length == 1 ? ""
            : fields.Length > 4 ? $" with {fields.Length} fields"
            : $" with {string.Join(", ", fields)}";
    }

    private static string Holder(Layout layout, Node node, Func<string, string> label)
    {
        for (var at = layout.ParentOf(node.Id); at is { } id; at = layout.ParentOf(id))
        {
            var parent = layout.Find(id)!;
            if (parent.Kind is not (NodeKind.Row or NodeKind.Cell))
            {
                return Name(parent, label);
            }
        }

        return "the layout";
    }

    /// <param name="to">to for what is moved there; at for what comes to be there.</param>
    private static string Where(Layout layout, NodeId parent, Anchor at, string to, Func<string, string> label)
    {
        // In what is empty there is no beginning and no end.
        var within = to == "to" ? "into" : "in";
        return (at, layout.Find(parent)) switch
        {
            (Anchor.Before before, _) => $"before {Named(layout, before.Sibling, label)}",
            (Anchor.After after, _) => $"behind {Named(layout, after.Sibling, label)}",
            (_, null) => $"{to} '{parent}'",
            (_, { } bare) when IsBare(bare) => $"{within} {Holder(layout, bare, label)}",
            (_, { Children.Length: 0 } empty) => $"{within} {Name(empty, label)}",
            (Anchor.First, { } holder) => $"{to} the beginning of {Name(holder, label)}",
            (_, { } holder) => $"{to} the end of {Name(holder, label)}",
        };
    }
}
