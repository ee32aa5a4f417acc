using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A sample kept with a form's own pattern that does not pass or fail as it must.</summary>
public sealed class PatternSample : IRule
{
    public string Code => "pattern-sample";

    public string About => "A sample kept with a pattern of the form does not match, or does match, though it must not.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        let pattern = node.Word("pattern")
        where pattern is not null && WholePattern.Problem(pattern) is null
        from wrong in Wrong(node, pattern)
        select new Finding(Code, Severity.Error, node.Id, "pattern", wrong);

    private static IEnumerable<Message> Wrong(Node node, string pattern) =>
        node.Words("passes")
            .Where(sample => !WholePattern.Matches(pattern, sample))
            .Select(Message (sample) => $"'{sample}' must match {pattern}, but does not.")
            .Concat(
                node.Words("fails")
                    .Where(sample => WholePattern.Matches(pattern, sample))
                    .Select(Message (sample) => $"'{sample}' must not match {pattern}, but does.")
            );
}
