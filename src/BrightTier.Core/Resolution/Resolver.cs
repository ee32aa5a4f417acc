using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Resolution;

/// <summary>Resolves an assembled layout for a viewer, mode and language. Pure: the same inputs give the same form.</summary>
public sealed partial class Resolver
{
    private readonly ComposedLayout assembled;
    private readonly Entity entity;
    private readonly Definitions definitions;
    private readonly Viewer viewer;
    private readonly string mode;
    private readonly bool showHidden;
    private readonly EvaluationContext known;

    /// <summary>
    /// What became of nodes so far: a variant shares with the base every node it does not touch, and so what that resolves to.
    /// </summary>
    private readonly Dictionary<Place, object?> done = new(256);

    private readonly record struct Place(Node Node, Presentation Around)
    {
        public bool Equals(Place other) => ReferenceEquals(Node, other.Node) && Around.Equals(other.Around);

        public override int GetHashCode() => RuntimeHelpers.GetHashCode(Node);
    }

    private Resolver(ComposedLayout assembled, Entity entity, Definitions definitions, Viewer viewer, string mode, bool showHidden)
    {
        this.assembled = assembled;
        this.entity = entity;
        this.definitions = definitions;
        this.viewer = viewer;
        this.mode = mode;
        this.showHidden = showHidden;
        known = Reducer.Viewer(viewer.Roles, mode, viewer.Language);
    }

    /// <param name="showHidden">For designing: keeps what this viewer would not see, marked with the reason, and keeps what is
    /// empty.</param>
    public static ResolvedForm Resolve(
        ComposedLayout assembled,
        Entity entity,
        Definitions definitions,
        Viewer viewer,
        string mode,
        bool showHidden = false
    ) => new Resolver(assembled, entity, definitions, viewer, mode, showHidden).Form();

    /// <summary>Assembles and resolves in one step.</summary>
    public static ResolvedForm Resolve(Layout layout, Catalogue catalogue, Viewer viewer, string mode, bool showHidden = false) =>
        Resolve(
            LayoutComposer.Assemble(layout, catalogue),
            catalogue.Definitions.Entities[layout.Entity],
            catalogue.Definitions,
            viewer,
            mode,
            showHidden
        );

    private ResolvedForm Form()
    {
        var layout = assembled.Base;
        var content = Content(layout);
        var variants = assembled.Variants.Select(variant => new ResolvedVariant(variant.Range, Content(variant.Layout))).ToImmutableArray();
        var form = new ResolvedForm(
            layout.Key,
            entity.Key,
            layout.Kind,
            mode,
            viewer.Language,
            layout.Title?.In(viewer.Language) ?? (layout.Kind == "list" ? entity.Plural : entity.Label).In(viewer.Language),
            layout.Root.Word("width") ?? "full",
            layout.Root.Word("density") ?? "roomy",
            content,
            variants,
            [],
            "none"
        );
        var named = NamedFields.In(variants.Select(variant => variant.Content).Prepend(content));
        return form with
        {
            // The fields that texts and conditions name come along as well, so that they can be drawn and decided.
            Fields = [.. entity.Fields.Where(field => named.Keys.Contains(field.Key) && field.MayRead(viewer.Roles))],
            Steps = [.. named.Steps.Select(step => (step, definitions.FieldRead(entity, step))).OfType<(string, Field)>()],
            Marks = Marks(layout.Root.Word("marks"), form),
        };
    }

    private string Marks(string? asked, ResolvedForm form)
    {
        if (mode == Modes.View || asked is "none")
        {
            return "none";
        }

        if (asked is "required" or "optional")
        {
            return asked;
        }

        // Only what is required unconditionally counts, so that marks never flip while somebody types.
        var required = 0;
        var writable = 0;
        foreach (var item in form.FieldItems)
        {
            required += item.Required is { Holds: true, When: null } ? 1 : 0;
            writable += item.ReadOnly.Holds ? 0 : 1;
        }

        return required == 0 ? "none"
            : required <= writable - required ? "required"
            : "optional";
    }

    private ResolvedContent Content(Layout layout)
    {
        var around = Presentation.Standard.At(layout.Root);
        var body = layout.Kind switch
        {
            "card" => new ResolvedPanel(
                "body",
                Decision.Always,
                null,
                "stack",
                false,
                [new ResolvedPage("page", "", null, Decision.Always, [Lines(layout, around)], null)]
            ),
            _ when layout.Body is { } node => new ResolvedPanel(
                node.Id.Name,
                Decision.Always,
                null,
                node.Word("arrangement") ?? "stack",
                node.Flag("guarded"),
                Pages(node, around)
            ),
            _ => new ResolvedPanel("body", Decision.Always, null, "stack", false, []),
        };
        return new ResolvedContent(
            Band(layout, NodeKind.Top),
            Band(layout, NodeKind.Bottom),
            Side(layout, NodeKind.Start, around),
            Side(layout, NodeKind.End, around),
            body,
            [.. layout.Root.Children.Where(child => child.Kind is NodeKind.Column).Select(Column).OfType<ResolvedColumn>()]
        )
        {
            Picture = layout.Root.Word("picture") is { } picture && MayRead(picture) ? picture : null,
            Sort = [.. layout.Root.Words("sort").Where(key => MayRead(key.TrimStart('-')))],
            Filters = [.. layout.Root.Words("filters").Where(MayRead)],
            Filter = layout.Root["filter"] is null ? Decision.Always : Decide(layout.Root, "filter"),
        };
    }

    private ResolvedSection Lines(Layout layout, Presentation around) =>
        new(
            "lines",
            "",
            "",
            "none",
            "none",
            "normal",
            "none",
            around.Labels,
            around.LabelWidth,
            around.LabelAlign,
            around.TabOrder,
            1,
            false,
            false,
            null,
            Decision.Always,
            [.. layout.Root.Children.Where(child => child.Kind is NodeKind.Row).Select(row => Row(row, around)).OfType<ResolvedRow>()],
            null
        );

    /// <summary>Whether the viewer may read what a condition reads.</summary>
    private bool Reads(string read) => entity.MayRead(read, definitions, viewer.Roles);

    private bool MayRead(string key) => entity.Find(key) is { } field && field.MayRead(viewer.Roles);

    private ResolvedColumn? Column(Node node) =>
        node.Flag("hidden") || entity.Find(node.Word("column")!) is not { } field || !field.MayRead(viewer.Roles)
            ? null
            : new ResolvedColumn(
                node.Id.Name,
                field.Key,
                node.Text("label")?.In(viewer.Language) ?? field.Label.In(viewer.Language),
                node.Number("units"),
                node.Word("align") ?? (field.Type.IsNumber() ? "end" : "start")
            );

    private ResolvedBand? Band(Layout layout, NodeKind kind) =>
        layout.Root.Children.FirstOrDefault(child => child.Kind == kind) is { } band
            ? new ResolvedBand(
                band.Id.Name,
                Text(band, "text"),
                Text(band, "empty"),
                band.Word("tone") ?? "plain",
                band.Word("icon"),
                band.Word("picture") is { } picture && MayRead(picture) ? picture : null,
                [.. band.Children.Select(child => Item(child, Presentation.Standard)).OfType<ResolvedItem>()]
            )
            : null;

    private ResolvedSide? Side(Layout layout, NodeKind kind, Presentation around)
    {
        if (layout.Root.Children.FirstOrDefault(child => child.Kind == kind) is not { } side)
        {
            return null;
        }

        var (visible, ghost) = Visibility(side);
        var sections = side.Children.Select(section => Section(section, around)).OfType<ResolvedSection>().ToImmutableArray();
        return IsOmitted(ghost) || (sections.IsEmpty && !showHidden)
            ? null
            : new ResolvedSide(side.Id.Name, side.Number("share") ?? 3, visible, sections);
    }

    private ImmutableArray<ResolvedPage> Pages(Node panel, Presentation around) =>
        [.. panel.Children.Select(page => Page(page, around)).OfType<ResolvedPage>()];

    private T? Once<T>(Node node, Presentation around, Func<Node, Presentation, T?> resolve)
        where T : class
    {
        var place = new Place(node, around);
        if (!done.TryGetValue(place, out var known))
        {
            done[place] = known = resolve(node, around);
        }

        return (T?)known;
    }

    private ResolvedPage? Page(Node page, Presentation given) => Once(page, given, (node, around) =>
        {
            var (visible, ghost) = Visibility(node);
            if (IsOmitted(ghost))
            {
                return null;
            }

            var sections = node.Children.Select(child => Section(child, around)).OfType<ResolvedSection>().ToImmutableArray();
            return sections.IsEmpty && !showHidden
                ? null
                : new ResolvedPage(node.Id.Name, Text(node, "title"), node.Word("icon"), visible, sections, ghost);
        });

    private ResolvedSection? Section(Node section, Presentation given) => Once(section, given, (node, outer) =>
        {
            var (visible, ghost) = Visibility(node);
            if (IsOmitted(ghost))
            {
                return null;
            }

            var around = outer.At(node);
            var rows = node.Children.Select(row => Row(row, around)).OfType<ResolvedRow>().ToImmutableArray();
            return rows.IsEmpty && !showHidden
                ? null
                : new ResolvedSection(
                    node.Id.Name,
                    Text(node, "title"),
                    Text(node, "description"),
                    node.Word("frame") ?? "none",
                    node.Word("tint") ?? "none",
                    node.Word("gap") ?? "normal",
                    node.Word("above") ?? "normal",
                    around.Labels,
                    around.LabelWidth,
                    around.LabelAlign,
                    around.TabOrder,
                    node.Number("columns") ?? 1,
                    node.Flag("collapsible"),
                    node.Flag("collapsed"),
                    node.Word("style"),
                    visible,
                    rows,
                    ghost
                );
        });

    private ResolvedRow? Row(Node row, Presentation given) => Once(row, given, (node, around) =>
        {
            var kept = node
                .Children.Select(cell =>
                    (cell, items: cell.Children.Select(item => Item(item, around)).OfType<ResolvedItem>().ToImmutableArray())
                )
                .Where(pair => showHidden || pair.items.Length > 0 || pair.cell.Children.IsEmpty)
                .ToArray();
            if (!showHidden && kept.All(pair => pair.items.IsEmpty))
            {
                return null;
            }

            var spans = Spans.Share([.. kept.Select(pair => pair.cell.Number("span"))]);
            return new ResolvedRow(
                node.Id.Name,
                [
                    .. kept.Select(
                        (pair, i) =>
                            new ResolvedCell(
                                pair.cell.Id.Name,
                                spans[i],
                                pair.cell["span"] is null,
                                pair.cell.Word("align") ?? "start",
                                pair.items
                            )
                    ),
                ]
            );
        });

    private bool IsOmitted(string? ghost) => ghost is not null && !showHidden;

    private string In(Message message) => message.In(viewer.Language);

    private string Text(Node node, string property) => node.Text(property)?.In(viewer.Language) ?? "";

    private (Decision Visible, string? Ghost) Visibility(Node node)
    {
        if (node.Properties.IsEmpty)
        {
            return (Decision.Always, null);
        }

        if (node.Flag("hidden"))
        {
            return (Decision.Always, In($"Never shown"));
        }

        if (node.Words("modes") is { IsEmpty: false } modes && !modes.Contains(mode))
        {
            return (Decision.Always, $"Shown only in mode {string.Join(", ", modes)}");
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

                var reduced = Reducer.Reduce(expression.WithoutHidden(Reads), known);
                return reduced is Expression.Literal literal
                    ? literal.Value switch
                    {
                        true => Decision.Always,
                        false => Decision.Never,
                        _ => whenFailing,
                    }
                    : new Decision(false, reduced);
            default:
                return Decision.Never;
        }
    }
}
