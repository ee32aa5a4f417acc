using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A sample kept with a pattern that does not pass or fail as it must.</summary>
public sealed class SampleWrong : IDocumentRule
{
    public string Code => "sample-wrong";

    public string About => "A sample kept with a pattern does not pass, or does not fail, as it must.";

    public IEnumerable<DocumentFinding> Check(Catalogue catalogue)
    {
        var definitions = catalogue.Definitions;
        foreach (var pattern in definitions.Patterns.Values)
        {
            foreach (var (message, pointer) in Wrong(pattern.Expression, pattern.Samples))
            {
                yield return new DocumentFinding(Code, Severity.Error, DocumentKind.Pattern, pattern.Key, "/samples" + pointer, message);
            }
        }

        foreach (var entity in definitions.Entities.Values)
        {
            for (var i = 0; i < entity.Fields.Length; i++)
            {
                foreach (
                    var (message, pointer) in definitions.PatternOf(entity.Fields[i]) is { } rule
                        ? Wrong(rule.Pattern, entity.Fields[i].Samples)
                        : []
                )
                {
                    yield return new DocumentFinding(
                        Code,
                        Severity.Error,
                        DocumentKind.Entity,
                        entity.Key,
                        $"/fields/{i}/samples{pointer}",
                        $"{entity.Fields[i].Label}: {message}"
                    );
                }
            }
        }
    }

    private static IEnumerable<(Message Message, string Pointer)> Wrong(string pattern, Samples samples) =>
        samples
            .Pass.Select((sample, i) => (sample, i))
            .Where(each => !WholePattern.Matches(pattern, each.sample))
            .Select(each => ((Message)$"'{each.sample}' must match {pattern}, but does not.", $"/pass/{each.i}"))
            .Concat(
                samples
                    .Fail.Select((sample, i) => (sample, i))
                    .Where(each => WholePattern.Matches(pattern, each.sample))
                    .Select(each => ((Message)$"'{each.sample}' must not match {pattern}, but does.", $"/fail/{each.i}"))
            );
}
