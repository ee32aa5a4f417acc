using System.Collections.Immutable;

namespace BrightTier.Core.Conditions;

/// <summary>
/// Partial evaluation: decides what can be decided from the names that are known and leaves the rest as a smaller condition.
/// What is left behaves as the whole would, failures included.
/// </summary>
public static class Reducer
{
    /// <summary>The condition with everything known worked out. A literal result means that it is decided.</summary>
    public static Expression Reduce(Expression expression, EvaluationContext known)
    {
        switch (expression)
        {
            case Expression.Binary { Operator: "&&" or "||" } logic:
                var deciding = logic.Operator == "||";
                var left = Reduce(logic.Left, known);
                var right = Reduce(logic.Right, known);
                if (IsLiteral(left, deciding) || IsLiteral(right, deciding))
                {
                    return new Expression.Literal(deciding, logic.At);
                }

                return IsLiteral(left, !deciding) ? right
                    : IsLiteral(right, !deciding) ? left
                    : logic with { Left = left, Right = right };
            case Expression.Conditional conditional:
                return Reduce(conditional.Test, known) switch
                {
                    Expression.Literal { Value: true } => Reduce(conditional.Then, known),
                    Expression.Literal { Value: false } => Reduce(conditional.Otherwise, known),
                    var test => conditional with
                    {
                        Test = test,
                        Then = Reduce(conditional.Then, known),
                        Otherwise = Reduce(conditional.Otherwise, known),
                    },
                };
        }

        if (expression is Expression.Literal)
        {
            return expression;
        }

        if (Evaluator.Decide(expression, known) is var decided and (null or bool or long or double or string))
        {
            return new Expression.Literal(decided, expression.At);
        }

        return expression switch
        {
            Expression.Unary unary => unary with { Operand = Reduce(unary.Operand, known) },
            Expression.Binary binary => binary with { Left = Reduce(binary.Left, known), Right = Reduce(binary.Right, known) },
            Expression.Call call => call with { Arguments = [.. call.Arguments.Select(argument => Reduce(argument, known))] },
            Expression.ListOf list => list with { Elements = [.. list.Elements.Select(element => Reduce(element, known))] },
            Expression.MapOf map => map with
            {
                Entries = [.. map.Entries.Select(entry => (Reduce(entry.Key, known), Reduce(entry.Value, known)))],
            },
            Expression.Index index => index with { Target = Reduce(index.Target, known), Key = Reduce(index.Key, known) },
            Expression.Matches matches => matches with { Target = Reduce(matches.Target, known) },
            // Inside a macro its own name hides one that is known.
            Expression.Over over => over with
            {
                Target = Reduce(over.Target, known),
                Only = over.Only is { } only ? Reduce(only, Without(known, over.Variable)) : null,
                Body = Reduce(over.Body, Without(known, over.Variable)),
            },
            _ => expression,
        };
    }

    private static EvaluationContext Without(EvaluationContext known, string name) =>
        known.Names.ContainsKey(name)
            ? new EvaluationContext(known.Names.Where(pair => pair.Key != name).ToDictionary(StringComparer.Ordinal))
            : known;

    private static bool IsLiteral(Expression expression, bool value) =>
        expression is Expression.Literal { Value: bool held } && held == value;

    /// <summary>What is known of a viewer before any record is: roles, mode and language.</summary>
    public static EvaluationContext Viewer(IEnumerable<string> roles, string mode, string locale) =>
        new(
            new Dictionary<string, object?>(StringComparer.Ordinal)
            {
                ["user"] = new Dictionary<string, object?>(StringComparer.Ordinal) { ["roles"] = roles.Cast<object?>().ToArray() },
                ["mode"] = mode,
                ["locale"] = locale,
            }
        );

    /// <summary>Nothing known at all: folds constants.</summary>
    public static EvaluationContext Nothing { get; } = new(ImmutableDictionary<string, object?>.Empty);
}
