using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A placed field, column, picture, filter or order that the entity does not have.</summary>
public sealed class FieldUnknown : IRule
{
    public string Code => "field-unknown";

    public string About => "A field is placed that the entity does not have.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var node in subject.Nodes)
        {
            foreach (var (property, key) in Named(node))
            {
                if (subject.Entity.Find(key) is null)
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        node.Id,
                        property,
                        Suggestion.Sentence(
                            $"'{subject.Entity.Label}' has no field "
                                + $"'{key}'{Suggestion.For(key, [.. subject.Entity.Current.Select(field => field.Key)])}"
                        ),
                        Correction.Of(node, property, key, subject.Entity.Current.Select(field => field.Key))
                    );
                }
            }
        }
    }

    private static IEnumerable<(string Property, string Key)> Named(Node node) =>
        node.Kind switch
        {
            NodeKind.Field => [("field", node.Word("field")!)],
            NodeKind.Column => [("column", node.Word("column")!)],
            NodeKind.Layout or NodeKind.Top or NodeKind.Bottom =>
            [
                .. node.Word("picture") is { } picture ? [("picture", picture)] : Array.Empty<(string, string)>(),
                .. node.Words("sort").Select(key => ("sort", key.TrimStart('-'))),
                .. node.Words("filters").Select(key => ("filters", key)),
            ],
            _ => [],
        };
}
