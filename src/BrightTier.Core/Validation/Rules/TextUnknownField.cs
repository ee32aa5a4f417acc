using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A text or address that names a field the entity does not have.</summary>
public sealed class TextUnknownField : IRule
{
    public string Code => "text-unknown-field";

    public string About => "A text or address names a field that the entity does not have.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from text in subject.Texts
        from key in text.Fields
        where subject.Entity.Find(key) is null
        select new Finding(
            Code,
            Severity.Error,
            text.Node.Id,
            text.Property,
            Suggestion.Sentence(
                $"The text names '{{{key}}}', but there is no such "
                    + $"field{Suggestion.For(key, [.. subject.Entity.Current.Select(field => field.Key)])}"
            ),
            Correction.Of(text.Node, text.Property, key, subject.Entity.Current.Select(field => field.Key))
        );
}
