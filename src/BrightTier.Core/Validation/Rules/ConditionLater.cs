using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Something that appears above the answer that makes it appear.</summary>
public sealed class ConditionLater : IRule
{
    public string Code => "condition-later";

    public string About => "Something is shown by a field that stands after it; what appears behind one's back is not seen.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var first = subject
            .Nodes.Select((node, at) => (node, at))
            .Where(each => each.node.Kind is NodeKind.Field)
            .GroupBy(each => each.node.Word("field")!)
            .ToDictionary(same => same.Key, same => same.First().at, StringComparer.Ordinal);
        for (var at = 0; at < subject.Nodes.Length; at++)
        {
            var node = subject.Nodes[at];
            if (
                subject.ConditionOn(node, "visible")?.Expression is not { } visible
                // Bands and sides are in sight all the while.
                || subject.Path(node).Any(around => around.Kind is NodeKind.Top or NodeKind.Bottom or NodeKind.Start or NodeKind.End)
            )
            {
                continue;
            }

            // What stands in it is no later than it is.
            var end = at + node.Walk().Count();
            if (visible.FieldsRead().FirstOrDefault(field => first.TryGetValue(field, out var there) && there >= end) is { } later)
            {
                yield return new Finding(
                    Code,
                    Severity.Advice,
                    node.Id,
                    "visible",
                    $"'{subject.NameOf(node)}' is shown by "
                        + $"'{subject.Entity.Find(later)?.Label}', which stands after it; users may not see it appear."
                );
            }
        }
    }
}
