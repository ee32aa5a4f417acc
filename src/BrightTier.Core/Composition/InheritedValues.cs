using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>Values a node takes from what is around it.</summary>
public static class InheritedValues
{
    /// <summary>The value in force, and the node it is from: the node itself, one around it, or none where it is the default.</summary>
    public static (Value? Value, NodeId? Origin) Find(Layout layout, NodeId id, string property)
    {
        if (layout.Find(id) is not { } node || Grammar.Of(node).Find(property) is not { } rule)
        {
            return (null, null);
        }

        if (node[property] is { } own)
        {
            return (own, id);
        }

        var holder = rule.Inherits ? layout.Ancestors(id).FirstOrDefault(ancestor => ancestor[property] is not null) : null;
        return holder is null
            ? (rule.Default ?? (rule.Inherits ? Grammar.Of(layout.Root).Find(property)?.Default : null), null)
            : (holder[property], holder.Id);
    }
}

/// <summary>How labels and fields stand where nothing nearer says otherwise.</summary>
internal sealed record Presentation(
    string Labels,
    string LabelAlign,
    int? LabelWidth,
    string Punctuation,
    string FieldWidth,
    string TabOrder
)
{
    public static Presentation Standard { get; } = new("above", "start", null, "none", "fit", "rows");

    public Presentation At(Node node) =>
        node.Properties.IsEmpty
            ? this
            : this with
            {
                Labels = node.Word("labels") ?? Labels,
                LabelAlign = node.Word("labelAlign") ?? LabelAlign,
                LabelWidth = node.Number("labelWidth") ?? LabelWidth,
                Punctuation = node.Word("punctuation") ?? Punctuation,
                FieldWidth = node.Word("fieldWidth") ?? FieldWidth,
                TabOrder = node.Word("tabOrder") ?? TabOrder,
            };
}
