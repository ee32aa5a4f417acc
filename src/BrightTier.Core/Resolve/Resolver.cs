using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Resolve;

/// <summary>Resolves a layout for a viewer, mode and language. Pure: the same inputs give the same form.</summary>
public sealed class Resolver
{
    private readonly Layout layout;
    private readonly Entity entity;
    private readonly Definitions definitions;
    private readonly Viewer viewer;
    private readonly string mode;
    private readonly bool showHidden;
    private readonly Surroundings known;

    private Resolver(Layout layout, Entity entity, Definitions definitions, Viewer viewer, string mode, bool showHidden)
    {
        this.layout = layout;
        this.entity = entity;
        this.definitions = definitions;
        this.viewer = viewer;
        this.mode = mode;
        this.showHidden = showHidden;
        known = Reducer.Viewer(viewer.Roles, mode, viewer.Language);
    }

    /// <param name="showHidden">For designing: keeps what this viewer would not see, marked with the reason, and keeps what is empty.</param>
    public static ResolvedForm Resolve(Layout layout, Entity entity, Definitions definitions, Viewer viewer, string mode, bool showHidden = false) =>
        new Resolver(layout, entity, definitions, viewer, mode, showHidden).Form();

    private ResolvedForm Form()
    {
        var pages = (layout.Body?.Children ?? []).Select(Page).OfType<ResolvedPage>().ToImmutableArray();
        var form = new ResolvedForm(
            layout.Key,
            entity.Key,
            mode,
            viewer.Language,
            layout.Root.Text("title")?.In(viewer.Language) ?? entity.Label.In(viewer.Language),
            layout.Root.Word("width") ?? "full",
            Band(NodeKind.Top),
            Band(NodeKind.Bottom),
            layout.Body?.Word("arrangement") ?? "stack",
            pages,
            [],
            "none");
        var items = form.FieldItems.ToArray();
        var placed = items.Select(item => item.Field).ToHashSet();
        var required = items.Count(item => item.Required is { Holds: true, When: null });
        var writable = items.Count(item => !item.ReadOnly.Holds);
        return form with
        {
            // The fields that bands name come along as well, so that their texts can be drawn.
            Fields = [.. entity.Fields.Where(field => field.MayRead(viewer.Roles) && (placed.Contains(field.Key) || Named(form).Contains(field.Key)))],
            Marks = mode == Modes.View || required == 0 ? "none" : required <= writable - required ? "required" : "optional",
        };
    }

    private static HashSet<string> Named(ResolvedForm form) =>
        [.. new[] { form.Top, form.Bottom }.OfType<ResolvedBand>().SelectMany(band => Placeholders.In(band.Text))];

    private ResolvedBand? Band(NodeKind kind) => layout.Root.Children.FirstOrDefault(child => child.Kind == kind) is { } band
        ? new ResolvedBand(band.Id.Name, Text(band, "text"), Text(band, "empty"), band.Word("tone") ?? "plain")
        : null;

    private ResolvedPage? Page(Node node)
    {
        var (visible, ghost) = Visibility(node);
        var sections = node.Children.Select(Section).OfType<ResolvedSection>().ToImmutableArray();
        return Gone(ghost) || (sections.IsEmpty && !showHidden) ? null : new ResolvedPage(node.Id.Name, Text(node, "title"), visible, sections, ghost);
    }

    private ResolvedSection? Section(Node node)
    {
        var (visible, ghost) = Visibility(node);
        var rows = node.Children.Select(Row).OfType<ResolvedRow>().ToImmutableArray();
        return Gone(ghost) || (rows.IsEmpty && !showHidden)
            ? null
            : new ResolvedSection(
                node.Id.Name, Text(node, "title"), Text(node, "description"), node.Word("frame") ?? "none", node.Word("labels") ?? "above",
                node.Number("columns") ?? 1, node.Flag("collapsible"), visible, rows, ghost);
    }

    private ResolvedRow? Row(Node node)
    {
        var kept = node.Children
            .Select(cell => (cell, items: cell.Children.Select(Item).OfType<ResolvedItem>().ToImmutableArray()))
            .Where(pair => showHidden || pair.items.Length > 0 || pair.cell.Children.IsEmpty)
            .ToArray();
        if (!showHidden && kept.All(pair => pair.items.IsEmpty))
        {
            return null;
        }

        var spans = Spans.Share([.. kept.Select(pair => pair.cell.Number("span"))]);
        return new ResolvedRow(node.Id.Name, [.. kept.Select((pair, i) => new ResolvedCell(pair.cell.Id.Name, spans[i], pair.cell["span"] is null, pair.items))]);
    }

    private ResolvedItem? Item(Node node)
    {
        var (visible, ghost) = Visibility(node);
        if (node.Kind is not NodeKind.Field)
        {
            var main = Grammar.Of(node.Kind).Main!;
            return Gone(ghost) ? null : new ResolvedMark(node.Id.Name, visible, ghost, Grammar.Of(node.Kind).Name, node.Text(main)?.In(viewer.Language) ?? node.Word(main) ?? "");
        }

        if (entity.Find(node.Word("field")!) is not { } field)
        {
            return showHidden ? new ResolvedMark(node.Id.Name, Decision.Always, "There is no such field", "text", node.Word("field")!) : null;
        }

        if (!field.MayRead(viewer.Roles))
        {
            // Ghosts of fields this viewer may not read are drawn as a mark, so that not even their rules travel.
            return showHidden ? new ResolvedMark(node.Id.Name, Decision.Always, "Not readable in this role", "text", field.Label.In(viewer.Language)) : null;
        }

        if (Gone(ghost))
        {
            return null;
        }

        var readOnly = mode == Modes.View || !field.MayWrite(viewer.Roles) ? Decision.Always : Decide(node, "readOnly");
        return new ResolvedField(
            node.Id.Name, visible, ghost, field.Key,
            node.Text("label")?.In(viewer.Language) ?? field.Label.In(viewer.Language),
            node.Text("help")?.In(viewer.Language) ?? field.Help?.In(viewer.Language) ?? "",
            Text(node, "hint"),
            node.Word("editor") ?? (node.Number("lines") > 1 && field.Type is FieldType.Text ? "lines" : Editors.Default(field.Type)),
            node.Number("lines") ?? (field.Type is FieldType.LongText ? 4 : 1),
            field.Required ? Decision.Always : Decide(node, "required"),
            readOnly,
            node.Flag("emphasis"));
    }

    private bool Gone(string? ghost) => ghost is not null && !showHidden;

    private string Text(Node node, string property) => node.Text(property)?.In(viewer.Language) ?? "";

    private (Decision Visible, string? Ghost) Visibility(Node node)
    {
        if (node.Flag("hidden"))
        {
            return (Decision.Always, "Never shown");
        }

        if (node["visible"] is null)
        {
            return (Decision.Always, null);
        }

        var decision = Decide(node, "visible");
        return decision.IsNever ? (Decision.Always, $"Hidden: {node.Word("visible")}") : (decision, null);
    }

    /// <summary>An ill-formed condition counts as one that fails: closed.</summary>
    private Decision Decide(Node node, string property)
    {
        var whenFailing = property == "readOnly" ? Decision.Always : Decision.Never;
        switch (node[property])
        {
            case Value.Flag flag:
                return flag.On ? Decision.Always : Decision.Never;
            case Value.Word word:
                if (Condition.Compile(word.Content, entity, definitions).Expression is not { } expression)
                {
                    return whenFailing;
                }

                var reduced = Reducer.Reduce(expression, known);
                return reduced is Expression.Literal literal
                    ? literal.Value switch { true => Decision.Always, false => Decision.Never, _ => whenFailing }
                    : new Decision(false, reduced);
            default:
                return Decision.Never;
        }
    }
}

/// <summary>How a row's cells share its 12 units.</summary>
public static class Spans
{
    /// <summary>Written spans stand; cells without one share what is left evenly, the first ones taking what does not divide, each at least one unit.</summary>
    public static ImmutableArray<int> Share(IReadOnlyList<int?> written)
    {
        var sharing = written.Count(span => span is null);
        if (sharing == 0)
        {
            return [.. written.Select(span => span!.Value)];
        }

        var left = Math.Max(Limits.Units - written.Sum(span => span ?? 0), sharing);
        var seen = 0;
        return [.. written.Select(span => span ?? (left / sharing) + (seen++ < left % sharing ? 1 : 0))];
    }
}
