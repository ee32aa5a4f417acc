using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A reference whose text, filter or copies name fields that are not there, or which is none.</summary>
public sealed class ReferenceUnknown : IRule
{
    public string Code => "reference-unknown";

    public string About => "A reference's text, filter or copied values name fields that its target or this entity does not have.";

    /// <summary>The properties that name fields of a target.</summary>
    private static readonly string[] Naming = ["display", "filterBy", "copies"];

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var node in subject.Fields.Where(node => Naming.Any(property => node[property] is not null)))
        {
            var target = subject.FieldOf(node)?.Target is { } key ? subject.Definitions.Entities.GetValueOrDefault(key) : null;
            foreach (
                var (property, field, of) in new[]
                {
                    ("display", node.Text("display")?.ByLanguage.Values.SelectMany(Placeholders.In) ?? [], target),
                    ("filterBy", node.Pairs("filterBy").Keys, target),
                    ("filterBy", node.Pairs("filterBy").Values, subject.Entity),
                    ("copies", node.Pairs("copies").Values, target),
                    ("copies", node.Pairs("copies").Keys, subject.Entity),
                }.SelectMany(each => each.Item2.Select(name => (each.Item1, name, each.Item3)))
            )
            {
                if (of is null)
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        node.Id,
                        property,
                        $"'{subject.NameOf(node)}' is no reference; only references have '{property}'."
                    );
                }
                else if (of.Find(field) is null)
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        node.Id,
                        property,
                        Suggestion.Sentence(
                            $"'{of.Label}' has no field '{field}'{Suggestion.For(field, [.. of.Current.Select(each => each.Key)])}"
                        ),
                        Correction.Of(node, property, field, of.Current.Select(each => each.Key))
                    );
                }
            }
        }
    }
}
