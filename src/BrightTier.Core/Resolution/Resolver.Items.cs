using System.Collections.Immutable;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

// What stands in a cell.
public sealed partial class Resolver
{
    private ResolvedItem? Item(Node item, Presentation given) => Once(item, given, (node, around) =>
        {
            var (visible, ghost) = Visibility(node);
            if (IsOmitted(ghost))
            {
                return null;
            }

            var id = node.Id.Name;
            return node.Kind switch
            {
                NodeKind.Field => Field(node, around, visible, ghost),
                NodeKind.Image => new ResolvedImage(id, visible, ghost, node.Word("image") ?? "", Text(node, "alt"), node.Number("lines")),
                NodeKind.Link => new ResolvedLink(
                    id,
                    visible,
                    ghost,
                    node.Word("link") ?? "",
                    node.Text("label")?.In(viewer.Language) ?? node.Word("link") ?? ""
                ),
                NodeKind.Action => Action(node, visible, ghost),
                NodeKind.Related => Related(node, visible, ghost),
                NodeKind.Panel => Pages(node, around) is var pages && pages.IsEmpty && !showHidden
                    ? null
                    : new ResolvedPanel(id, visible, ghost, node.Word("panel") ?? "stack", node.Flag("guarded"), pages),
                NodeKind.Piece => null,
                _ => Mark(node, visible, ghost),
            };
        });

    private ResolvedMark Mark(Node node, Decision visible, string? ghost)
    {
        var rule = Grammar.Of(node.Kind);
        return new ResolvedMark(
            node.Id.Name,
            visible,
            ghost,
            rule.Name,
            node.Text(rule.Main!)?.In(viewer.Language) ?? node.Word(rule.Main!) ?? ""
        )
        {
            Style = node.Word("style"),
        };
    }

    private ResolvedAction Action(Node node, Decision visible, string? ghost) =>
        new(
            node.Id.Name,
            visible,
            ghost,
            node.Word("action") ?? "open",
            Text(node, "label"),
            node.Word("icon"),
            node.Word("address"),
            node.Pairs("values")
                .Where(pair => MayRead(pair.Key))
                .Select(pair => (pair.Key, Condition.CompileValue(pair.Value, entity, definitions).Expression))
                .Where(pair => pair.Expression?.Reads().All(Reads) == true)
                .ToDictionary(pair => pair.Key, pair => Reducer.ReduceValue(pair.Expression!, known), StringComparer.Ordinal),
            node.Word("begins"),
            node.Word("through"),
            node.Word("side") ?? "start",
            node.Word("weight") ?? "normal"
        );

    private ResolvedRelatedRecords? Related(Node node, Decision visible, string? ghost)
    {
        if (
            definitions.Entities.GetValueOrDefault(node.Word("related") ?? "") is not { } other
            || other.Find(node.Word("through") ?? "") is not { } through
            || !through.MayRead(viewer.Roles)
        )
        {
            return null;
        }

        var readable = other
            .Current.Where(field => field.MayRead(viewer.Roles))
            .Select(field => field.Key)
            .ToHashSet(StringComparer.Ordinal);
        var shows = node.Words("shows").IsEmpty
            ? Generation.GeneratedLayout.ListColumns(other).Where(key => key != through.Key && readable.Contains(key))
            : node.Words("shows").Where(readable.Contains);
        var order = node.Word("order") is { } key && other.Find(key) is { } kept && kept.MayRead(viewer.Roles) ? kept : null;
        var sort = node.Words("sort").Where(each => readable.Contains(each.TrimStart('-')));
        var related = new ResolvedRelatedRecords(
            node.Id.Name,
            visible,
            ghost,
            other.Key,
            through.Key,
            node.Text("label")?.In(viewer.Language) ?? other.Plural.In(viewer.Language),
            [.. shows],
            [.. node.Words("totals").Where(readable.Contains)],
            order is null ? [.. sort] : [order.Key],
            order?.MayWrite(viewer.Roles) is true ? order.Key : null,
            node.Word("as") ?? "grid",
            mode == Modes.View ? Decision.Always : Decide(node, "readOnly")
        );
        return related with
        {
            Fields =
            [
                .. other.Fields.Where(field =>
                    related.Shows.Contains(field.Key) || related.Totals.Contains(field.Key) || related.Order == field.Key
                ),
            ],
        };
    }

    private ResolvedItem? Field(Node node, Presentation outer, Decision visible, string? ghost)
    {
        if (entity.Find(node.Word("field")!) is not { } field)
        {
            return showHidden
                ? new ResolvedMark(node.Id.Name, Decision.Always, In($"There is no such field"), "text", node.Word("field")!)
                : null;
        }

        if (!field.MayRead(viewer.Roles))
        {
            // Ghosts of fields this viewer may not read are drawn as a mark, so that not even their rules travel.
            return showHidden
                ? new ResolvedMark(node.Id.Name, Decision.Always, In($"Not readable in this role"), "text", field.Label.In(viewer.Language))
                : null;
        }

        var around = outer.At(node);
        var stays = mode == Modes.View || !field.MayWrite(viewer.Roles) || (field.IsFixed && mode != Modes.Create);
        var readOnly = stays ? Decision.Always : Decide(node, "readOnly");
        return new ResolvedField(
            node.Id.Name,
            visible,
            ghost,
            field.Key,
            node.Text("label")?.In(viewer.Language) ?? field.Label.In(viewer.Language),
            node.Text("help")?.In(viewer.Language) ?? field.Help?.In(viewer.Language) ?? "",
            Text(node, "hint"),
            node.Word("editor") ?? (node.Number("lines") > 1 && field.Type is FieldType.Text ? "lines" : Editors.Default(field.Type)),
            node.Number("lines") ?? (field.Type is FieldType.LongText ? 4 : 1),
            field.Required ? Decision.Always : Decide(node, "required"),
            readOnly,
            node.Flag("emphasis")
        )
        {
            Labels = around.Labels == outer.Labels ? null : around.Labels,
            Punctuation = around.Punctuation == "none" ? null : around.Punctuation,
            Stretches = around.FieldWidth == "stretch",
            SpellCheck = node["spellCheck"] is Value.Flag spelling ? spelling.On : null,
            Style = node.Word("style"),
            Prefix = Text(node, "prefix"),
            Constraints = ConstraintsOf(node),
            Default = node.Text("default")?.In(viewer.Language),
            Reference =
                field.Type is FieldType.Reference && (node["display"] ?? node["filterBy"] ?? node["copies"] ?? node["creates"]) is not null
                    ? ReferenceTo(field, node)
                    : null,
        };
    }

    /// <summary>How a reference is looked up and what it copies, of what the viewer may read on either side.</summary>
    private ReferenceSettings ReferenceTo(Field field, Node node)
    {
        return new ReferenceSettings(
            Text(node, "display"),
            Kept("filterBy", OfTarget, MayRead),
            Kept("copies", MayRead, OfTarget),
            node.Flag("creates")
        );

        bool OfTarget(string key) => Reads($"{field.Key}.{key}");

        IReadOnlyDictionary<string, string> Kept(string property, Func<string, bool> key, Func<string, bool> value) =>
            node.Pairs(property).Where(pair => key(pair.Key) && value(pair.Value)).ToDictionary(StringComparer.Ordinal);
    }

    private Constraints ConstraintsOf(Node node) =>
        node["min"] is null && node["max"] is null && node["step"] is null && node["maxLength"] is null && node["pattern"] is null
            ? Constraints.None
            : new Constraints(
                node.Amount("min"),
                node.Amount("max"),
                node.Amount("step"),
                node.Number("maxLength"),
                node.Word("pattern"),
                Text(node, "patternMessage")
            );
}
