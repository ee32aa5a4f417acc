using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>
/// Related records of an entity that is not there, through a field that does not point here, or showing fields they do not have.
/// </summary>
public sealed class RelatedUnknown : IRule
{
    public string Code => "related-unknown";

    public string About =>
        "Related records are of an entity that is not there, through a field that does not point here, or show fields they do not have.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var node in subject.Nodes.Where(node => node.Kind is NodeKind.Related))
        {
            var (key, through) = (node.Word("related")!, node.Word("through")!);
            if (subject.Definitions.Entities.GetValueOrDefault(key) is not { } other)
            {
                yield return new Finding(
                    Code,
                    Severity.Error,
                    node.Id,
                    "related",
                    Suggestion.Sentence($"There is no entity '{key}'{Suggestion.For(key, [.. subject.Definitions.Entities.Keys])}"),
                    Correction.Of(node, "related", key, subject.Definitions.Entities.Keys)
                );
                continue;
            }

            var pointing = other.Current.Where(field => field.Target == subject.Entity.Key).Select(field => field.Key).ToArray();
            if (!pointing.Contains(through))
            {
                yield return new Finding(
                    Code,
                    Severity.Error,
                    node.Id,
                    "through",
                    Suggestion.Sentence(
                        $"'{through}' of '{other.Label}' is not a reference to '{subject.Entity.Label}'{Suggestion.For(through, pointing)}"
                    ),
                    Correction.Of(node, "through", through, pointing)
                );
            }

            foreach (
                var (property, field) in new[] { "shows", "totals", "sort" }
                    .SelectMany(property => node.Words(property).Select(field => (property, field.TrimStart('-'))))
                    .Concat(node.Word("order") is { } order ? [("order", order)] : [])
            )
            {
                if (other.Find(field) is null)
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        node.Id,
                        property,
                        Suggestion.Sentence(
                            $"'{other.Label}' has no field '{field}'{Suggestion.For(field, [.. other.Current.Select(each => each.Key)])}"
                        ),
                        Correction.Of(node, property, field, other.Current.Select(each => each.Key))
                    );
                }
                else if (property == "order" && other.Find(field)!.Type is not FieldType.Integer)
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        node.Id,
                        property,
                        $"'{field}' of '{other.Label}' cannot keep an order; a whole number can."
                    );
                }
            }
        }
    }
}
