using System.Collections.Immutable;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Generate;

/// <summary>
/// A sensible layout made from an entity alone: what tells records apart first, then groups by meaning and type, short beside short,
/// long texts full width. The same entity always gives the same layout.
/// </summary>
public static class GeneratedLayout
{
    private sealed record Group(string Id, Texts Title, Func<Field, bool> Takes, int Least);

    private static readonly ImmutableArray<Group> Groups =
    [
        new("contact", Name("Contact", "Contact", "التواصل"), field => field.Type is FieldType.Email or FieldType.Phone or FieldType.Url, 2),
        new("figures", Name("Figures", "Maten en getallen", "القياسات"), field => field.Type is FieldType.Integer or FieldType.Decimal or FieldType.Rating, 3),
        new("dates", Name("Dates", "Data", "التواريخ"), field => field.Type is FieldType.Date or FieldType.Time or FieldType.DateTime, 2),
        new("money", Name("Money", "Geld", "المال"), field => field.Type is FieldType.Money, 2),
        new("attachments", Name("Pictures and files", "Afbeeldingen en bestanden", "الصور والملفات"), field => field.Type is FieldType.Image or FieldType.File, 1),
        new("notes", Name("Notes", "Aantekeningen", "ملاحظات"), field => field.Type is FieldType.LongText, 1),
    ];

    private static readonly Texts Details = Name("Details", "Bijzonderheden", "التفاصيل");

    private static Texts Name(string en, string nl, string ar) => Texts.Of([new("en", en), new("nl", nl), new("ar", ar)]);

    /// <summary>The generated full form. Its key is the entity's.</summary>
    public static Layout Full(Entity entity)
    {
        var left = entity.Current.ToList();
        var sections = new List<Node>();
        var identifying = entity.DisplayFields.Concat(left.Where(field => field.Required && field.Type is not FieldType.LongText)).Distinct().ToArray();
        Take(NodeKind.Section, entity.Label, identifying, "identity");
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
                late.Add(() => Take(NodeKind.Section, group.Title, members, group.Id));
            }
            else
            {
                Take(NodeKind.Section, group.Title, members, group.Id);
            }
        }

        Take(NodeKind.Section, Details, [.. left], "details");
        late.ForEach(add => add());
        var page = Node.Of(NodeKind.Page, new NodeId("page"), sections).With("title", new Value.Text(entity.Label));
        var top = Node.Of(NodeKind.Top, new NodeId("top")).With("text", new Value.Text(Texts.Of(entity.Display)));
        var root = Node.Of(NodeKind.Layout, new NodeId("layout"), top, Node.Of(NodeKind.Body, new NodeId("body"), page))
            .With("kind", new Value.Word("full"))
            .With("key", new Value.Word(entity.Key))
            .With("entity", new Value.Word(entity.Key))
            .With("title", new Value.Text(entity.Label));
        return Layout.Of(DerivedIds.Fill(root, []));

        void Take(NodeKind kind, Texts title, IReadOnlyList<Field> fields, string id)
        {
            left.RemoveAll(fields.Contains);
            if (fields.Count > 0)
            {
                sections.Add(NewNodes.Titled(kind, title, Rows(fields)) with { Id = new NodeId(id) });
            }
        }
    }

    /// <summary>Packs fields into rows of 12 units in their order. Spans are quarters, halves and wholes, so that edges line up down the form.</summary>
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
        Node.Of(NodeKind.Row, default, row.Select(each => NewNodes.CellOf(NewNodes.Field(each.Field.Key), row.Count == 1 && each.Span == Limits.Units ? null : each.Span)));

    private static int Span(Field field) => field.Type switch
    {
        FieldType.LongText or FieldType.Choices => Limits.Units,
        FieldType.Text => field.MaxLength is <= 24 ? 3 : 6,
        FieldType.Reference or FieldType.Email or FieldType.Url or FieldType.Image or FieldType.File => 6,
        _ => 3,
    };

    /// <summary>The few fields a list shows to tell records apart: those of the display text, then choices, references, dates and figures, at most six.</summary>
    public static ImmutableArray<string> ListColumns(Entity entity) =>
    [
        .. entity.DisplayFields
            .Concat(entity.Current.Where(field => field.Type is FieldType.Choice or FieldType.Reference or FieldType.Date))
            .Concat(entity.Current.Where(field => field.Required || field.Type is FieldType.Decimal or FieldType.Money or FieldType.Boolean or FieldType.Phone))
            .Where(field => !field.Retired && field.Type is not (FieldType.LongText or FieldType.Image or FieldType.File))
            .Select(field => field.Key)
            .Distinct()
            .Take(6),
    ];
}
