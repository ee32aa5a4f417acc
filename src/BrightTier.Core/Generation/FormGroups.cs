using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Generation;

/// <summary>Fields that make a section of a generated form.</summary>
/// <param name="Names">What its parts are called.</param>
/// <param name="Parts">Fields that begin a row of their own.</param>
/// <param name="Stays">Whether a field and the next are about the same and should share a row.</param>
public sealed record FormGroup(
    string Id,
    ImmutableArray<Texts> Names,
    ImmutableArray<ImmutableArray<Field>> Parts,
    Func<Field, Field, bool> Stays
)
{
    public IEnumerable<Field> Fields => Parts.SelectMany(part => part);

    public Field First => Parts[0][0];

    public Texts Title => Together(Names);

    /// <summary>Several names in one: Panel, Inverter.</summary>
    public static Texts Together(IReadOnlyList<Texts> names) =>
        Texts.Of(
            names
                .SelectMany(name => name.ByLanguage.Keys)
                .Distinct()
                .Select(language => KeyValuePair.Create(language, string.Join(", ", names.Select(name => name.In(language)))))
        );
}

/// <summary>
/// Which fields of an entity belong together: first what tells a record apart and how it stands, then what is about one thing, then what is
/// of one type, then the rest; each in the entity's order, long texts last.
/// </summary>
public static class FormGroups
{
    private sealed record ByType(string Id, Texts Title, Func<Field, bool> Takes, int Least);

    private static readonly ImmutableArray<ByType> Types =
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
        new("dates", Name("Dates", "Data", "التواريخ"), field => field.Type is FieldType.Date or FieldType.Time or FieldType.DateTime, 3),
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

    /// <summary>A group of fewer stands with what tells the record apart.</summary>
    private const int Few = 3;

    /// <summary>Fields that stand with what tells the record apart, at most.</summary>
    private const int MostAtHead = 12;

    /// <summary>Groups of one row each that make a section together, at most.</summary>
    private const int Neighbours = 3;

    private const int OneRow = 4;

    internal static Texts Name(string en, string nl, string ar) => Texts.Of([new("en", en), new("nl", nl), new("ar", ar)]);

    /// <summary>Words of keys that say how a record stands.</summary>
    private static readonly string[] States = ["status", "state", "stage", "phase", "progress", "situation", "toestand", "fase"];

    /// <summary>The choice that says how a record stands, where there is one.</summary>
    public static Field? StateOf(Entity entity) =>
        entity
            .Current.Where(field =>
                field.Type is FieldType.Choice && States.Any(state => field.Key.EndsWith(state, StringComparison.OrdinalIgnoreCase))
            )
            .OrderBy(field => States.Contains(field.Key) ? 0 : 1)
            .FirstOrDefault();

    public static ImmutableArray<FormGroup> Of(Entity entity)
    {
        var fields = entity.Current.ToArray();
        var head = entity.DisplayFields.Append(StateOf(entity)).OfType<Field>().Where(field => !field.Retired).Distinct().ToList();
        var topics = Topic.Of([.. fields.Except(head)], entity);
        var large = topics.Where(topic => topic.Fields.Length >= Topic.Several).ToArray();
        var pairs = topics.Except(large).ToArray();
        var rest = InPairs([.. fields.Except(head).Except(large.SelectMany(topic => topic.Fields))], pairs);
        var groups = large.Select(topic => Group(topic.Word, topic.Title, topic.Fields)).ToList();

        // What the entity names before its first subject is part of what tells its records apart.
        var first = large.Select(topic => Array.IndexOf(fields, topic.Fields[0])).DefaultIfEmpty(0).Min();
        Move(rest.Where(field => Array.IndexOf(fields, field) < first && !Types.Any(type => IsLate(type.Id) && type.Takes(field))));
        groups.AddRange(OfTypes(rest, Partner, Group));
        Move(rest.Where(field => field.Required && Partner(field) is null));
        if (rest.Count < Few)
        {
            head.AddRange(rest);
        }
        else
        {
            groups.Add(Group("details", Details, rest));
        }

        return
        [
            .. head.Count > 0 ? [Group("identity", entity.Label, head)] : Array.Empty<FormGroup>(),
            .. Distinct(Joined([.. groups.OrderBy(group => IsLate(group.Id) ? 1 : 0).ThenBy(group => Array.IndexOf(fields, group.First))])),
        ];

        Field? Partner(Field field) =>
            pairs.FirstOrDefault(topic => topic.Fields.Contains(field))?.Fields.FirstOrDefault(other => other != field);

        FormGroup Group(string id, Texts title, IEnumerable<Field> members) =>
            new(
                id,
                [title],
                [
                    [.. members.OrderBy(field => field.Type is FieldType.LongText ? 1 : 0)],
                ],
                (one, next) => Partner(one) == next
            );

        void Move(IEnumerable<Field> some)
        {
            Field[] moved = [.. some.Take(Math.Max(0, MostAtHead - head.Count))];
            head.AddRange(moved);
            rest.RemoveAll(moved.Contains);
        }
    }

    private static bool IsLate(string id) => id is "attachments" or "notes";

    /// <summary>
    /// Groups of one type, taken out of what is left. Two about one thing stay beside each other, and count as of no type unless both are
    /// of
    /// it.
    /// </summary>
    private static IEnumerable<FormGroup> OfTypes(
        List<Field> rest,
        Func<Field, Field?> partner,
        Func<string, Texts, IEnumerable<Field>, FormGroup> group
    )
    {
        foreach (var type in Types)
        {
            var members = rest.Where(field => type.Takes(field) && (partner(field) is not { } other || type.Takes(other))).ToArray();
            if (members.Length >= type.Least)
            {
                rest.RemoveAll(members.Contains);
                yield return group(type.Id, type.Title, members);
            }
        }
    }

    /// <summary>
    /// Groups of a row each that follow one another are one section, named by all of them: a heading a row is more than is read.
    /// </summary>
    private static IEnumerable<FormGroup> Joined(IReadOnlyList<FormGroup> groups)
    {
        for (var at = 0; at < groups.Count; )
        {
            var some = groups
                .Skip(at)
                .Take(Neighbours)
                .TakeWhile(group => IsOneRow(group) && IsLate(group.Id) == IsLate(groups[at].Id))
                .ToArray();
            at += Math.Max(1, some.Length);
            yield return some.Length > 1 ? some.Aggregate(Both) : groups[at - 1];
        }
    }

    private static bool IsOneRow(FormGroup group) =>
        group.Fields.Count() <= OneRow && group.Fields.Sum(field => Rooms.OfEditor(null, field).Needed) <= Limits.Units;

    private static FormGroup Both(FormGroup one, FormGroup other) =>
        one with
        {
            Names = [.. one.Names, .. other.Names],
            Parts = [.. one.Parts, .. other.Parts],
        };

    /// <summary>The fields with those that are about one thing moved up to the first of them.</summary>
    private static List<Field> InPairs(IReadOnlyList<Field> fields, IReadOnlyList<Topic> pairs)
    {
        var all = new List<Field>();
        foreach (var field in fields)
        {
            if (!all.Contains(field))
            {
                all.AddRange(pairs.FirstOrDefault(topic => topic.Fields.Contains(field))?.Fields ?? [field]);
            }
        }

        return all;
    }

    /// <summary>Groups under ids that can be ids, each its own.</summary>
    private static IEnumerable<FormGroup> Distinct(IEnumerable<FormGroup> groups)
    {
        var taken = new HashSet<string> { "identity", "layout", "body", "page", "top", "related", "relatedSection" };
        foreach (var group in groups)
        {
            var id = Keys.Fresh(Keys.Of(group.Id, "section"), taken.Contains);
            taken.Add(id);
            yield return group with
            {
                Id = id,
            };
        }
    }
}
