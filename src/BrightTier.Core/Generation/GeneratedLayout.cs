using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Generation;

/// <summary>
/// A sensible layout made from an entity alone: what tells records apart first, then groups by meaning and type, short beside short,
/// long texts full width. The same entity always gives the same layout.
/// </summary>
public static class GeneratedLayout
{
    private sealed record Group(string Id, Texts Title, Func<Field, bool> Takes, int Least);

    private static readonly ImmutableArray<Group> Groups =
    [
        new(
            "contact",
            Name("Contact", "Contact", "التواصل"),
            field => field.Type is FieldType.Email or FieldType.Phone or FieldType.Url,
            2
        ),
        new(
            "figures",
            Name("Figures", "Maten en getallen", "القياسات"),
            field => field.Type is FieldType.Integer or FieldType.Decimal or FieldType.Rating,
            3
        ),
        new("dates", Name("Dates", "Data", "التواريخ"), field => field.Type is FieldType.Date or FieldType.Time or FieldType.DateTime, 2),
        new("money", Name("Money", "Geld", "المال"), field => field.Type is FieldType.Money, 2),
        new(
            "attachments",
            Name("Pictures and files", "Afbeeldingen en bestanden", "الصور والملفات"),
            field => field.Type is FieldType.Image or FieldType.File,
            1
        ),
        new("notes", Name("Notes", "Aantekeningen", "ملاحظات"), field => field.Type is FieldType.LongText, 1),
    ];

    private static readonly Texts Details = Name("Details", "Bijzonderheden", "التفاصيل");

    private static Texts Name(string en, string nl, string ar) => Texts.Of([new("en", en), new("nl", nl), new("ar", ar)]);

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
    /// The generated full form. Its key is the entity's. Entities of the definitions that point at it come on a page of their own.
    /// </summary>
    public static Layout Full(Entity entity, Definitions? definitions = null)
    {
        var left = entity.Current.ToList();
        var sections = new List<Node>();
        var identifying = entity
            .DisplayFields.Concat(left.Where(field => field.Required && field.Type is not FieldType.LongText))
            .Distinct()
            .ToArray();
        AddGroup(NodeKind.Section, entity.Label, identifying, "identity");
        var late = new List<Action>();
        foreach (var group in Groups)
        {
            var members = left.Where(group.Takes).ToArray();
            if (members.Length < group.Least)
            {
                continue;
            }

            left.RemoveAll(members.Contains);
            if (group.Id is "attachments" or "notes")
            {
                late.Add(() => AddGroup(NodeKind.Section, group.Title, members, group.Id));
            }
            else
            {
                AddGroup(NodeKind.Section, group.Title, members, group.Id);
            }
        }

        AddGroup(NodeKind.Section, Details, [.. left], "details");
        late.ForEach(add => add());
        var pages = new List<Node> { Node.Of(NodeKind.Page, new NodeId("page"), sections).With("title", new Value.Text(entity.Label)) };
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

        void AddGroup(NodeKind kind, Texts title, IReadOnlyList<Field> fields, string id)
        {
            left.RemoveAll(fields.Contains);
            if (fields.Count > 0)
            {
                sections.Add(NewNodes.Titled(kind, title, Rows(fields)) with { Id = new NodeId(id) });
            }
        }
    }

    private static readonly Texts Connected = Name("Connected", "Verbonden", "مرتبط");

    private static IEnumerable<Node> Related(Entity entity, Definitions? definitions) =>
        from other in definitions?.PointingAt(entity.Key) ?? []
        select Node.Of(NodeKind.Related, new NodeId($"{other.Entity.Key}-{other.Through.Key}"))
            .With("related", new Value.Word(other.Entity.Key))
            .With("through", new Value.Word(other.Through.Key))
            .With("label", new Value.Text(other.Entity.Plural));

    /// <summary>
    /// Packs fields into rows of 12 units in their order. Spans are quarters, halves and wholes, so that edges line up down the form.
    /// </summary>
    private static IEnumerable<Node> Rows(IReadOnlyList<Field> fields)
    {
        var row = new List<(Field Field, int Span)>();
        foreach (var field in fields)
        {
            var span = Span(field);
            if (row.Count > 0 && row.Sum(each => each.Span) + span > Limits.Units)
            {
                yield return Row(row);
                row.Clear();
            }

            row.Add((field, span));
        }

        if (row.Count > 0)
        {
            yield return Row(row);
        }
    }

    private static Node Row(List<(Field Field, int Span)> row) =>
        Node.Of(
            NodeKind.Row,
            default,
            row.Select(each =>
                NewNodes.CellOf(NewNodes.Field(each.Field.Key), row.Count == 1 && each.Span == Limits.Units ? null : each.Span)
            )
        );

    private static int Span(Field field)
    {
        var room = Rooms.Of(NewNodes.Field(field.Key), _ => field);
        return Quarters.First(span => span >= room.Needed && span >= room.Natural - 1);
    }

    private static readonly int[] Quarters = [Limits.Units / 4, Limits.Units / 2, Limits.Units];

    /// <summary>
    /// The few fields a list shows to tell records apart: those of the display text, then choices, references, dates and figures, at most
    /// six.
    /// </summary>
    public static ImmutableArray<string> ListColumns(Entity entity) =>
        [
            .. entity
                .DisplayFields.Concat(
                    entity.Current.Where(field => field.Type is FieldType.Choice or FieldType.Reference or FieldType.Date)
                )
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
