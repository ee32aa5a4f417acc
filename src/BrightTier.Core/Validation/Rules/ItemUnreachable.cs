using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Something nobody can see because what it stands in is never shown together with it.</summary>
public sealed class ItemUnreachable : IRule
{
    public string Code => "item-unreachable";

    public string About => "Its own condition and those around it exclude one another, so no record shows it.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        foreach (var node in subject.Nodes)
        {
            // Alone it is condition-constant's; here it is the combination that matters.
            if (
                node["visible"] is null
                || subject.ConditionOn(node, "visible") is not { Expression: not null } own
                || !subject
                    .Layout.Ancestors(node.Id)
                    .Any(around => around["visible"] is not null || around.Flag("hidden") || !around.Words("modes").IsEmpty)
            )
            {
                continue;
            }

            if (
                subject.WhenSeen(node) is { } seen
                && own.Can(Outcome.Holds, subject).Verdict is Verdict.Yes
                && Analysis.Can(Outcome.Holds, seen, subject.Entity, subject.Definitions).Verdict is Verdict.No
            )
            {
                yield return new Finding(
                    Code,
                    Severity.Warning,
                    node.Id,
                    "visible",
                    $"'{subject.NameOf(node)}' can never be seen: its condition and those of what it stands in exclude one another.",
                    // What users enter is never taken off by a fix.
                    node.Kind
                        is NodeKind.Heading
                            or NodeKind.Text
                            or NodeKind.Divider
                            or NodeKind.Spacer
                            or NodeKind.Image
                            or NodeKind.Link
                        ? new Fix($"Remove from the layout", [new Edit.Remove(node.Id)])
                        : null
                );
            }
        }
    }
}
