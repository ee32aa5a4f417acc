using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Generation;

/// <summary>
/// A sensible layout made from an entity alone: what tells records apart first, then groups by subject, then by type, in the entity's
/// order; short beside short, long texts last. The same entity always gives the same layout.
/// </summary>
public static class GeneratedLayout
{
    /// <summary>The generated layout of a kind. The full one's key is the entity's, the others' has the kind behind it.</summary>
    public static Layout Of(Entity entity, string kind, Definitions definitions) =>
        kind switch
        {
            "short" => Short(entity),
            "card" => Card(entity),
            "list" => List(entity),
            "print" => Full(entity, definitions) is var full
                ? Layout.Of(full.Root.With("kind", new Value.Word("print")).With("key", new Value.Word(KeyOf(entity, "print"))))
                : full,
            _ => Full(entity, definitions),
        };

    private static string KeyOf(Entity entity, string kind) => $"{entity.Key}-{kind}";

    private static Node Root(Entity entity, string kind, params IEnumerable<Node> children) =>
        Node.Of(NodeKind.Layout, new NodeId("layout"), children)
            .With("kind", new Value.Word(kind))
            .With("key", new Value.Word(kind == "full" ? entity.Key : KeyOf(entity, kind)))
            .With("entity", new Value.Word(entity.Key))
            .With("title", new Value.Text(kind == "list" ? entity.Plural : entity.Label));

    /// <summary>A layout of a kind with nothing on it but the place where things go.</summary>
    public static Layout Blank(Entity entity, string kind) =>
        Layout.Of(
            DerivedIds.Fill(
                kind is "card" or "list"
                    ? Root(entity, kind)
                    : Root(
                        entity,
                        kind,
                        Node.Of(
                            NodeKind.Body,
                            new NodeId("body"),
                            Node.Of(
                                    NodeKind.Page,
                                    new NodeId("page"),
                                    NewNodes.Titled(NodeKind.Section, entity.Label) with
                                    {
                                        Id = new NodeId("section"),
                                    }
                                )
                                .With("title", new Value.Text(entity.Label))
                        )
                    ),
                []
            )
        );

    /// <summary>What a new record cannot do without, and what tells it apart.</summary>
    private static Layout Short(Entity entity)
    {
        var fields = entity
            .DisplayFields.Concat(entity.Current.Where(field => field.Required && field.Default is null))
            .Distinct()
            .Where(field => !field.Retired)
            .ToArray();
        var section = Node.Of(NodeKind.Section, new NodeId("section"), Rows(fields));
        return Layout.Of(
            DerivedIds.Fill(
                Root(entity, "short", Node.Of(NodeKind.Body, new NodeId("body"), Node.Of(NodeKind.Page, new NodeId("page"), section))),
                []
            )
        );
    }

    private static Layout Card(Entity entity)
    {
        var picture = entity.Current.FirstOrDefault(field => field.Type is FieldType.Image);
        var lines = ListColumns(entity).Take(4).Select(key => NewNodes.RowOf(key)).ToArray();
        var root = Root(entity, "card", lines);
        return Layout.Of(DerivedIds.Fill(picture is null ? root : root.With("picture", new Value.Word(picture.Key)), []));
    }

    private static Layout List(Entity entity)
    {
        var columns = ListColumns(entity);
        var root = Root(entity, "list", columns.Select(key => Node.Of(NodeKind.Column, default).With("column", new Value.Word(key))));
        var filters = columns
            .Where(key => entity.Find(key)!.Type is FieldType.Choice or FieldType.Reference or FieldType.Boolean or FieldType.Date)
            .ToArray();
        if (columns.Length > 0)
        {
            root = root.With("sort", new Value.Words([columns[0]]));
        }

        return Layout.Of(DerivedIds.Fill(filters.Length > 0 ? root.With("filters", new Value.Words([.. filters])) : root, []));
    }

    /// <summary>
    /// The generated full form. Its key is the entity's. Where it is over two screens it has tabs; entities of the definitions that point
    /// at it come on a page of their own.
    /// </summary>
    public static Layout Full(Entity entity, Definitions? definitions = null)
    {
        var groups = FormGroups.Of(entity);
        var sections = groups
            .Select(group =>
                NewNodes.Titled(NodeKind.Section, group.Title, group.Parts.SelectMany(part => Rows(part, group.Stays))) with
                {
                    Id = new NodeId(group.Id),
                }
            )
            .ToImmutableArray();
        var pages = FormPages.Of(sections, groups, entity, definitions ?? Definitions.Empty).ToList();
        var related = Related(entity, definitions).ToArray();
        if (related.Length > 0)
        {
            var section = Node.Of(
                NodeKind.Section,
                new NodeId("relatedSection"),
                related.Select(node => Node.Of(NodeKind.Row, default, Node.Of(NodeKind.Cell, default, node)))
            );
            pages.Add(Node.Of(NodeKind.Page, new NodeId("related"), section).With("title", new Value.Text(Connected)));
        }

        var body = Node.Of(NodeKind.Body, new NodeId("body"), pages).With("arrangement", pages.Count > 1 ? new Value.Word("tabs") : null);
        var top = Node.Of(NodeKind.Top, new NodeId("top")).With("text", new Value.Text(Texts.Of(entity.Display)));
        return Layout.Of(DerivedIds.Fill(Root(entity, "full", top, body), []));
    }

    private static readonly Texts Connected = FormGroups.Name("Connected", "Verbonden", "مرتبط");

    private static IEnumerable<Node> Related(Entity entity, Definitions? definitions) =>
        from other in definitions?.PointingAt(entity.Key) ?? []
        select Node.Of(NodeKind.Related, new NodeId($"{other.Entity.Key}-{other.Through.Key}"))
            .With("related", new Value.Word(other.Entity.Key))
            .With("through", new Value.Word(other.Through.Key))
            .With("label", new Value.Text(other.Entity.Plural));

    /// <summary>Breaks fields into rows in their order.</summary>
    /// <param name="stays">Whether a field and the next are about the same.</param>
    private static IEnumerable<Node> Rows(IReadOnlyList<Field> fields, Func<Field, Field, bool>? stays = null)
    {
        var items = fields.Select(
            (field, i) =>
                new RowItem(
                    Rooms.Of(NewNodes.Field(field.Key), _ => field),
                    field.Type is FieldType.LongText,
                    i + 1 < fields.Count && stays?.Invoke(field, fields[i + 1]) == true
                )
        );
        var at = 0;
        foreach (var row in RowBreaks.Of([.. items]))
        {
            yield return Node.Of(
                NodeKind.Row,
                default,
                fields
                    .Skip(at)
                    .Take(row.Count)
                    .Zip(row.Spans)
                    .Select(cell =>
                        NewNodes.CellOf(NewNodes.Field(cell.First.Key), row.Count == 1 && cell.Second == Limits.Units ? null : cell.Second)
                    )
            );
            at += row.Count;
        }
    }

    /// <summary>
    /// The few fields a list shows: those that tell records apart, how a record stands, then what it is of, points at and when, then
    /// figures; at most six.
    /// </summary>
    public static ImmutableArray<string> ListColumns(Entity entity) =>
        [
            .. entity
                .DisplayFields.Concat(entity.Current.Where(field => field == FormGroups.StateOf(entity)))
                .Concat(entity.Current.Where(field => field.Type is FieldType.Choice or FieldType.Reference or FieldType.Date))
                .Concat(
                    entity.Current.Where(field =>
                        field.Required || field.Type is FieldType.Decimal or FieldType.Money or FieldType.Boolean or FieldType.Phone
                    )
                )
                .Where(field => !field.Retired && field.Type is not (FieldType.LongText or FieldType.Image or FieldType.File))
                .Select(field => field.Key)
                .Distinct()
                .Take(6),
        ];
}
