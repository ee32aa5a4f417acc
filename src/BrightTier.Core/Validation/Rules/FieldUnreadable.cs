using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>
/// A condition, text, copied value or filter that reads a field which some role of the application may not read: its outcome would tell
/// what the
/// value is ("Who may see what" in docs/model.md). Roles that may not read records at all do not count.
/// </summary>
public sealed class FieldUnreadable : IRule
{
    public string Code => "field-unreadable";

    public string About =>
        "A condition, text, copied value or filter reads a field which some role may not read: what is drawn would give the value away.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var readers = subject.Readers.ToArray();
        foreach (var (node, property, field) in Reads(subject))
        {
            if (field.Read is not null && readers.FirstOrDefault(role => !field.MayRead([role.Key])) is { } role)
            {
                yield return new Finding(
                    Code,
                    Severity.Error,
                    node.Id,
                    property,
                    $"This reads '{field.Label}', which a {role.Label.ToString().ToLowerInvariant()} may not read; what is "
                        + $"shown would give it away."
                );
            }
        }
    }

    private static IEnumerable<(Node Node, string Property, Field Field)> Reads(CheckContext subject)
    {
        foreach (var condition in subject.Conditions)
        {
            foreach (var read in condition.Expression?.Reads() ?? [])
            {
                foreach (var field in FieldsOf(subject, read))
                {
                    yield return (condition.Node, condition.Property, field);
                }
            }
        }

        foreach (
            var (node, value) in subject
                .Layout.Walk()
                .Where(node => node.Kind is NodeKind.Action)
                .SelectMany(node => node.Pairs("values").Values.Select(value => (node, value)))
        )
        {
            foreach (
                var field in (Condition.CompileValue(value, subject.Entity, subject.Definitions).Expression?.Reads() ?? []).SelectMany(
                    read => FieldsOf(subject, read)
                )
            )
            {
                yield return (node, "values", field);
            }
        }

        foreach (var text in subject.Texts)
        {
            foreach (var field in text.Fields.Select(subject.Entity.Find).OfType<Field>())
            {
                yield return (text.Node, text.Property, field);
            }
        }

        foreach (var node in subject.Fields.Where(node => subject.FieldOf(node) is { Type: FieldType.Reference }))
        {
            var target = Target(subject, node.Word("field")!);
            foreach (
                var (property, keys, of) in new[]
                {
                    ("copies", node.Pairs("copies").Values, target),
                    ("filterBy", node.Pairs("filterBy").Keys, target),
                    ("filterBy", node.Pairs("filterBy").Values, subject.Entity),
                    ("display", Placeholders.In(node.Text("display")?.ToString() ?? ""), target),
                }
            )
            {
                foreach (var field in keys.Select(key => of?.Find(key)).OfType<Field>())
                {
                    // Copying into a field that fewer may read than the one it comes from gives nothing away.
                    if (property != "copies" || !Narrower(subject, node, field))
                    {
                        yield return (node, property, field);
                    }
                }
            }
        }
    }

    /// <summary>What a condition reads by a name: a field, or a reference and the field it leads to.</summary>
    private static IEnumerable<Field> FieldsOf(CheckContext subject, string read)
    {
        var own = Expression.Own(read);
        return new[]
        {
            subject.Entity.Find(own),
            own == read ? null : Target(subject, own)?.Find(read[(own.Length + 1)..]),
        }.OfType<Field>();
    }

    private static bool Narrower(CheckContext subject, Node node, Field source)
    {
        var into = node.Pairs("copies")
            .Where(pair => pair.Value == source.Key)
            .Select(pair => subject.Entity.Find(pair.Key))
            .OfType<Field>();
        return into.All(field => subject.Readers.Where(role => field.MayRead([role.Key])).All(role => source.MayRead([role.Key])));
    }

    private static Entity? Target(CheckContext subject, string reference) =>
        subject.Entity.Find(reference)?.Target is { } key ? subject.Definitions.Entities.GetValueOrDefault(key) : null;
}
