using BrightTier.Core.Entities;

namespace BrightTier.Core.Checks.Rules;

/// <summary>A band's text that names a field the entity does not have.</summary>
public sealed class TextUnknownField : IRule
{
    public string Code => "text-unknown-field";

    public IEnumerable<Finding> Check(Subject subject) =>
        from band in subject.Layout.Root.Children
        from key in band.Text("text")?.ByLanguage.Values.SelectMany(Placeholders.In).Distinct() ?? []
        where subject.Entity.Find(key) is null
        select new Finding(Code, Severity.Error, band.Id, "text",
            Suggestion.Sentence($"The text names '{{{key}}}', but there is no such field{Suggestion.For(key, [.. subject.Entity.Current.Select(field => field.Key)])}"));
}
