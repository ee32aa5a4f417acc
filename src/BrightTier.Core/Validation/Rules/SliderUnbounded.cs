using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A slider without ends.</summary>
public sealed class SliderUnbounded : IRule
{
    public string Code => "slider-unbounded";

    public string About => "A slider has no smallest or largest value, so that nobody knows what its ends mean.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        where node.Word("editor") is "slider" && subject.FieldOf(node) is { Type: not FieldType.Rating }
        let range = StepLarge.RangeOf(node, subject.FieldOf(node)!)
        where range.Least is null || range.Most is null
        select new Finding(
            Code,
            Severity.Advice,
            node.Id,
            "editor",
            $"'{subject.NameOf(node)}' is a slider without a smallest and a largest value; set both, or let it be typed.",
            new Fix($"Use the default editor", [new Edit.Set(node.Id, "editor", null)])
        );
}
