using System.Text;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Two different fields under one label, or under labels that differ in a letter's case, an ending or a mark.</summary>
public sealed class LabelTwice : IRule
{
    public string Code => "label-twice";

    public string About => "Two fields have labels that are easily confused.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from alike in subject
            .Fields.Where(node => !Label(subject, node).Contains('/', StringComparison.Ordinal))
            .GroupBy(node => Plain(Label(subject, node)), StringComparer.Ordinal)
        where alike.Skip(1).Any()
        from same in alike.GroupBy(node => Section(subject, node), StringComparer.Ordinal)
        where same.Select(node => node.Word("field")).Distinct().Count() > 1
        from node in same.Skip(1)
        select new Finding(
            Code,
            Severity.Warning,
            node.Id,
            "label",
            $"'{subject.NameOf(node)}' is easily confused with '{subject.NameOf(same.First())}'; users cannot tell the two fields apart."
        );

    /// <summary>Under titles of their own, the same labels may stand again: insurer, policy, sum of two covers.</summary>
    private static string Section(CheckContext subject, Model.Node node) =>
        subject
            .Path(node)
            .FirstOrDefault(around => around.Kind is Model.NodeKind.Section && around["title"] is not null)
            ?.Text("title")
            ?.ToString()
        ?? "";

    private static string Label(CheckContext subject, Model.Node node) => subject.LabelOf(node)?.ToString() ?? node.Word("field")!;

    private static string Plain(string label)
    {
        var letters = new StringBuilder(label.Length);
        foreach (var letter in label)
        {
            if (char.IsLetterOrDigit(letter))
            {
                letters.Append(char.ToLowerInvariant(letter));
            }
        }

        return letters.Length > 3 && letters[^1] == 's' ? letters.ToString(0, letters.Length - 1) : letters.ToString();
    }
}
