namespace BrightTier.Core.Checks.Rules;

/// <summary>Two different fields under one label.</summary>
public sealed class LabelTwice : IRule
{
    public string Code => "label-twice";

    public IEnumerable<Finding> Check(Subject subject) =>
        from same in subject.Fields.GroupBy(node => subject.NameOf(node).Trim().ToLowerInvariant())
        where same.Select(node => node.Word("field")).Distinct().Count() > 1
        from node in same.Skip(1)
        select new Finding(Code, Severity.Warning, node.Id, "label", $"Two fields are called '{subject.NameOf(node)}'; users cannot tell them apart.");
}
