using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field placed in two spots that can both be seen at once; two that exclude one another may be meant.</summary>
public sealed class FieldTwice : IRule
{
    public string Code => "field-twice";

    public string About => "A field stands in two places that can both be seen at once; a change in one shows in the other.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var same in subject.Fields.GroupBy(node => node.Word("field")).Where(same => same.Skip(1).Any()))
        {
            var places = same.Select(node => (Node: node, Seen: subject.WhenSeen(node))).ToArray();
            for (var i = 1; i < places.Length; i++)
            {
                var (node, seen) = places[i];
                if (places[..i].FirstOrDefault(each => Both(subject, each, (node, seen))) is not { Node: { } first } other)
                {
                    continue;
                }

                yield return new Finding(
                    Code,
                    Severity.Warning,
                    node.Id,
                    "field",
                    $"'{subject.NameOf(node)}' stands in {places.Length} places, and can be seen "
                        + $"in two of them at once; a change in one shows in the other.",
                    // Where the other is not always seen, this one may be all there is of the field.
                    other.Seen
                        is Expression.Literal { Value: true }
                    && first.Id != node.Id
                        ? new Fix($"Remove this one, keep the first", [new Edit.Remove(node.Id)])
                        : null
                );
            }
        }
    }

    private static bool Both(CheckContext subject, (Node Node, Expression? Seen) one, (Node Node, Expression? Seen) other) =>
        one.Seen is not null
        && other.Seen is not null
        && !OnOtherPages(subject, one.Node, other.Node)
        && Analysis.Together(one.Seen, other.Seen, subject.Entity, subject.Definitions).Verdict is Verdict.Yes;

    /// <summary>Of tabs, steps and folds one is open.</summary>
    private static bool OnOtherPages(CheckContext subject, Node one, Node other)
    {
        var around = subject.Path(other).ToArray();
        foreach (var page in subject.Path(one).Where(node => node.Kind is NodeKind.Page && !around.Contains(node)))
        {
            if (
                around.FirstOrDefault(node => node.Kind is NodeKind.Page && subject.Holder(node) == subject.Holder(page)) is not null
                && CheckContext.ArrangementOf(subject.Holder(page)) is "tabs" or "steps" or "accordion"
            )
            {
                return true;
            }
        }

        return false;
    }
}
