using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>
/// One reason why a node is there or not: the node it lies with, what of it, whether it speaks for showing, and a sentence.
/// </summary>
public sealed record Reason(NodeId Node, string? Property, bool Shows, Message Message);

/// <summary>
/// Why a node is, or is not, there for a viewer: whether it is, or null where that depends on a record that was not given, and every
/// reason, outermost first.
/// </summary>
public sealed record Explanation(NodeId Node, bool? Shown, ImmutableArray<Reason> Reasons);

/// <summary>Explains for any node and viewer why it is or is not there.</summary>
public static class LayoutExplainer
{
    /// <param name="record">A situation for conditions on the record; without one they are said to depend on it.</param>
    /// <returns>Null where there is no such node in the layout at that width.</returns>
    public static Explanation? Explain(
        Layout layout,
        NodeId id,
        Entity entity,
        Definitions definitions,
        Viewer viewer,
        string mode,
        EvaluationContext? record = null
    )
    {
        if (layout.Find(id) is not { } node)
        {
            return null;
        }

        var reasons = new List<Reason>();
        bool? shown = true;
        foreach (var each in layout.Ancestors(id).Reverse().Append(node))
        {
            foreach (var (reason, holds) in Of(each, entity, definitions, viewer, mode, record))
            {
                reasons.Add(reason);
                shown =
                    holds is false || shown is false ? false
                    : holds is null ? null
                    : shown;
            }
        }

        // An empty cell keeps its room as long as its row has anything.
        var whole = node is { Kind: NodeKind.Cell, Children.IsEmpty: true } && layout.ParentOf(id) is { } row ? layout.Find(row)! : node;
        if (
            shown is not false
            && ClosesUp(whole)
            && Leaves(whole).All(leaf => Explain(layout, leaf.Id, entity, definitions, viewer, mode, record)!.Shown is false)
        )
        {
            reasons.Add(new Reason(whole.Id, null, false, $"Nothing in this {Grammar.Of(whole.Kind).Noun} is shown, so it closes up."));
            shown = false;
        }

        if (shown is true)
        {
            reasons.Add(new Reason(id, null, true, $"It is shown."));
        }

        return new Explanation(id, shown, [.. reasons]);
    }

    private static bool ClosesUp(Node node) =>
        node.Kind is NodeKind.Start or NodeKind.End or NodeKind.Page or NodeKind.Section or NodeKind.Row or NodeKind.Cell or NodeKind.Panel;

    private static IEnumerable<Node> Leaves(Node node) => ClosesUp(node) ? node.Children.SelectMany(Leaves) : [node];

    private static IEnumerable<(Reason Reason, bool? Holds)> Of(
        Node node,
        Entity entity,
        Definitions definitions,
        Viewer viewer,
        string mode,
        EvaluationContext? record
    )
    {
        Message what = $"{Grammar.Of(node.Kind).Noun} '{node.Text("title")?.ToString() ?? node.Word("field") ?? node.Id.Name}'";
        if (node.Flag("hidden"))
        {
            yield return (new Reason(node.Id, "hidden", false, $"The {what} is set never to be shown."), false);
        }

        if (node.Words("modes") is { IsEmpty: false } modes)
        {
            var holds = modes.Contains(mode);
            yield return (
                new Reason(node.Id, "modes", holds, $"The {what} is shown in mode {string.Join(", ", modes)}; this is {mode}."),
                holds
            );
        }

        if (node["visible"] is Value.Word { Content: var text })
        {
            var (expression, problems) = Condition.Compile(text, entity, definitions);
            if (expression is null)
            {
                yield return (
                    new Reason(
                        node.Id,
                        "visible",
                        false,
                        $"The condition on the {what} is wrong ({problems[0].Message}), and so does not hold."
                    ),
                    false
                );
            }
            else
            {
                yield return Decided(node, what, text, expression, viewer, mode, record);
            }
        }

        if (WhyUnreadable(node, entity, definitions, viewer) is { } why)
        {
            yield return (new Reason(node.Id, "field", false, why), false);
        }
    }

    /// <summary>For what shows a field, or records through one: what keeps this viewer from reading it.</summary>
    private static Message? WhyUnreadable(Node node, Entity entity, Definitions definitions, Viewer viewer)
    {
        var (key, of) = node.Kind switch
        {
            NodeKind.Field => (node.Word("field"), entity),
            NodeKind.Column => (node.Word("column"), entity),
            NodeKind.Related => (node.Word("through"), definitions.Entities.GetValueOrDefault(node.Word("related") ?? "")),
            _ => (null, entity),
        };
        return of is null ? (Message)$"There is no entity '{node.Word("related")}'."
            : key is null ? null
            : of.Find(key) is not { } field ? $"'{of.Label}' has no field '{key}'."
            : field.MayRead(viewer.Roles) ? null
            : viewer.Roles.IsEmpty
                ? (Message)$"'{field.Label}' may be read only by {string.Join(", ", field.Read!)}; the viewer is in no role."
            : $"'{field.Label}' may be read only by {string.Join(", ", field.Read!)}; the viewer is {string.Join(", ", viewer.Roles)}.";
    }

    private static (Reason Reason, bool? Holds) Decided(
        Node node,
        Message what,
        string text,
        Expression expression,
        Viewer viewer,
        string mode,
        EvaluationContext? record
    )
    {
        var reduced = Reducer.Reduce(expression, Reducer.Viewer(viewer.Roles, mode, viewer.Language));
        if (reduced is Expression.Literal literal)
        {
            var holds = literal.Value is true;
            return (
                new Reason(
                    node.Id,
                    "visible",
                    holds,
                    holds
                        ? (Message)$"The condition on the {what}, {text}, is decided by role, mode or language: it holds."
                        : $"The condition on the {what}, {text}, is decided by role, mode or language: it does not hold."
                ),
                holds
            );
        }

        if (record is null)
        {
            return (
                new Reason(
                    node.Id,
                    "visible",
                    true,
                    $"The {what} is shown while {text}; that depends on {string.Join(", ", reduced.Reads())}."
                ),
                null
            );
        }

        var outcome = Evaluator.Evaluate(reduced, record);
        Message because = outcome switch
        {
            Failure failure => $"The condition on the {what}, {text}, comes to no answer for this record ({failure.Message}), "
                + $"and so does not hold.",
            true => $"The condition on the {what}, {text}, holds for this record.",
            _ => $"The condition on the {what}, {text}, does not hold for this record.",
        };
        return (new Reason(node.Id, "visible", outcome is true, because), outcome is true);
    }
}
