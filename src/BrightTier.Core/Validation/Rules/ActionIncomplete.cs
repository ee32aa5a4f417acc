using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>An action that lacks what it needs, or sets what cannot be set.</summary>
public sealed class ActionIncomplete : IRule
{
    public string Code => "action-incomplete";

    public string About =>
        "An action does not say what to open, set or begin, or sets a field that is not there to a value that does not fit.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Nodes
        where node.Kind is NodeKind.Action
        from problem in Problems(node, subject)
        select new Finding(Code, Severity.Error, node.Id, problem.Property, $"The action '{subject.NameOf(node)}' {problem.Message}");

    private static IEnumerable<(string Property, Message Message)> Problems(Node node, CheckContext subject)
    {
        var begins = node.Word("begins") is { } key ? subject.Definitions.Entities.GetValueOrDefault(key) : null;
        switch (node.Word("action"))
        {
            case "open" when node["address"] is null:
                yield return ("address", $"opens nothing; give it an address.");
                break;
            case "set" when node.Pairs("values").Count == 0:
                yield return ("values", $"sets nothing; say which field gets what.");
                break;
            case "begin" when begins is null:
                yield return (
                    "begins",
                    node["begins"] is null
                        ? (Message)$"begins nothing; name an entity."
                        : $"begins a '{node.Word("begins")}', which is no entity."
                );
                break;
            case "begin" when node.Word("through") is { } through && begins!.Find(through)?.Target != subject.Entity.Key:
                yield return (
                    "through",
                    $"goes through '{through}', which is no reference of '{begins.Label}' to '{subject.Entity.Label}'."
                );
                break;
        }

        var target = node.Word("action") == "begin" ? begins : subject.Entity;
        foreach (var (field, value) in node.Pairs("values"))
        {
            if (target?.Find(field) is null)
            {
                yield return (
                    "values",
                    Suggestion.Sentence(
                        $"sets '{field}', which is no field{Suggestion.For(field, [.. target?.Current.Select(each => each.Key) ?? []])}"
                    )
                );
            }
            else if (
                Condition.CompileValue(value, subject.Entity, subject.Definitions) is var compiled
                && compiled.Problems is [var problem, ..]
            )
            {
                yield return ("values", $"sets '{field}' to '{value}': {problem.Message}. Texts stand in quotation marks.");
            }
            else if (Unfit(target.Find(field)!, compiled, subject.Definitions) is { } unfit)
            {
                yield return ("values", $"sets '{field}' to '{value}', which is no value of it: it {unfit}.");
            }
        }
    }

    /// <summary>Why a field does not take what an expression comes to, in words that go behind "it"; null where it does.</summary>
    private static Message? Unfit(Field field, Compilation compiled, Definitions definitions)
    {
        var (wanted, given) = (ConditionType.Of(field.Type), compiled.Type);
        if (given == ConditionType.Null || given == ConditionType.Unknown || given.Element == ConditionType.Unknown)
        {
            return null;
        }

        if (given != wanted && !(wanted == ConditionType.Double && given == ConditionType.Int))
        {
            return $"takes {wanted.One}, not {given.One}";
        }

        return compiled.Expression is Expression.Literal { Value: string text }
            ? FieldValues.ReadCell(field, text, out var read) ?? FieldValues.Check(field, read, definitions, "en")
            : null;
    }
}
