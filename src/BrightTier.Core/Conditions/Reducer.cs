using System.Collections.Immutable;

namespace BrightTier.Core.Conditions;

/// <summary>
/// Partial evaluation: decides what can be decided from the names that are known and leaves the rest as a smaller condition.
/// What is left behaves as the whole would, failures included.
/// </summary>
public static class Reducer
{
    /// <summary>The condition with everything known worked out. A literal result means that it is decided.</summary>
    public static Expression Reduce(Expression expression, EvaluationContext known) => Reduce(expression, known, tested: true);

    /// <summary>The same of an expression whose value is taken as it is, such as what an action sets a field to.</summary>
    public static Expression ReduceValue(Expression expression, EvaluationContext known) => Reduce(expression, known, tested: false);

    /// <param name="tested">Whether only truth counts where this stands, so that what is neither true nor false fails there in any
    /// case: then <c>true &amp;&amp; x</c> is x. Elsewhere x may be a null that could be compared, where the whole fails.</param>
    private static Expression Reduce(Expression expression, EvaluationContext known, bool tested)
    {
        switch (expression)
        {
            case Expression.Literal:
                return expression;
            case Expression.Binary { Operator: "&&" or "||" } logic:
                var deciding = logic.Operator == "||";
                var left = Reduce(logic.Left, known, tested: true);
                var right = Reduce(logic.Right, known, tested: true);
                if (IsLiteral(left, deciding) || IsLiteral(right, deciding))
                {
                    return new Expression.Literal(deciding, logic.At);
                }

                return IsLiteral(left, !deciding) && (tested || IsTruth(right)) ? right
                    : IsLiteral(right, !deciding) && (tested || IsTruth(left)) ? left
                    : logic with { Left = left, Right = right };
            case Expression.Conditional conditional:
                return Reduce(conditional.Test, known, tested: true) switch
                {
                    Expression.Literal { Value: true } => Reduce(conditional.Then, known, tested),
                    Expression.Literal { Value: false } => Reduce(conditional.Otherwise, known, tested),
                    var test => conditional with
                    {
                        Test = test,
                        Then = Reduce(conditional.Then, known, tested),
                        Otherwise = Reduce(conditional.Otherwise, known, tested),
                    },
                };
        }

        if (Evaluator.Decide(expression, known) is var decided and (null or bool or long or double or string))
        {
            return new Expression.Literal(decided, expression.At);
        }

        return expression switch
        {
            Expression.Unary unary => unary with { Operand = Reduce(unary.Operand, known, tested: unary.Operator == "!") },
            Expression.Binary binary => binary with { Left = Inner(binary.Left), Right = Inner(binary.Right) },
            Expression.Call call => call with { Arguments = [.. call.Arguments.Select(Inner)] },
            Expression.ListOf list => list with { Elements = [.. list.Elements.Select(Inner)] },
            Expression.MapOf map => map with { Entries = [.. map.Entries.Select(entry => (Inner(entry.Key), Inner(entry.Value)))] },
            Expression.Index index => index with { Target = Inner(index.Target), Key = Inner(index.Key) },
            Expression.Matches matches => matches with { Target = Inner(matches.Target) },
            // Inside a macro its own name hides one that is known.
            Expression.Over over when Without(known, over.Variable) is var inside => over with
            {
                Target = Inner(over.Target),
                Only = over.Only is { } only ? Reduce(only, inside, tested: true) : null,
                Body = Reduce(over.Body, inside, tested: over.Macro != "map"),
            },
            _ => expression,
        };

        Expression Inner(Expression part) => Reduce(part, known, tested: false);
    }

    /// <summary>Whether something is true or false wherever it does not fail.</summary>
    private static bool IsTruth(Expression expression) =>
        expression switch
        {
            Expression.Literal { Value: bool } or Expression.Has or Expression.Matches => true,
            Expression.Unary unary => unary.Operator == "!",
            Expression.Binary binary => binary.Operator is "&&" or "||" or "==" or "!=" or "<" or "<=" or ">" or ">=" or "in",
            Expression.Over over => over.Macro is "all" or "exists" or "exists_one",
            Expression.Conditional conditional => IsTruth(conditional.Then) && IsTruth(conditional.Otherwise),
            Expression.Call call => call.Function is "contains" or "startsWith" or "endsWith" or "matches" or "bool",
            _ => false,
        };

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
