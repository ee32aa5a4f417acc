using System.Globalization;

namespace BrightTier.Core.Conditions;

/// <summary>An evaluation that came to no value; conditions that end so are closed: visible and required do not hold, read-only does.</summary>
public sealed record Failure(string Message);

/// <summary>What a condition is evaluated against. Names that are absent from <see cref="Names"/> are not known yet.</summary>
public sealed record Surroundings(IReadOnlyDictionary<string, object?> Names)
{
    /// <summary>A record's fields as conditions see them, and the rest.</summary>
    public static Surroundings Of(
        IReadOnlyDictionary<string, object?> record, string userId, IReadOnlyCollection<string> roles, string mode, string locale, DateTimeOffset today, DateTimeOffset now) =>
        new(new Dictionary<string, object?>(StringComparer.Ordinal)
        {
            ["record"] = record,
            ["user"] = new Dictionary<string, object?>(StringComparer.Ordinal) { ["id"] = userId, ["roles"] = roles.Cast<object?>().ToArray() },
            ["mode"] = mode,
            ["locale"] = locale,
            ["today"] = today,
            ["now"] = now,
        });
}

/// <summary>
/// Evaluates conditions with the standard's semantics: <c>&amp;&amp;</c> and <c>||</c> absorb a failure when the other side decides, numbers
/// compare across types, values of different types are unequal, overflow and division by zero fail.
/// Values: null, bool, long, double, string, <see cref="DateTimeOffset"/>, lists as <see cref="IReadOnlyList{T}"/>, maps as <see cref="IReadOnlyDictionary{TKey, TValue}"/>.
/// </summary>
public static class Evaluator
{
    /// <summary>Whether a condition holds; null when it fails.</summary>
    public static bool? Holds(Expression expression, Surroundings surroundings) => Evaluate(expression, surroundings) as bool?;

    public static object? Evaluate(Expression expression, Surroundings surroundings)
    {
        switch (expression)
        {
            case Expression.Literal literal:
                return literal.Value;
            case Expression.Name name:
                return surroundings.Names.TryGetValue(name.Identifier, out var value) ? value : new Failure($"no name '{name.Identifier}'");
            case Expression.Select select:
                return Selected(Evaluate(select.Target, surroundings), select.Field);
            case Expression.Has has:
                return Evaluate(has.Operand.Target, surroundings) switch
                {
                    Failure failure => failure,
                    IReadOnlyDictionary<string, object?> map => map.TryGetValue(has.Operand.Field, out var held) && held is not null,
                    _ => new Failure("has() of something without fields"),
                };
            case Expression.Index index:
                return Indexed(Evaluate(index.Target, surroundings), Evaluate(index.Key, surroundings));
            case Expression.Unary unary:
                return Operations.Negate(unary.Operator, Evaluate(unary.Operand, surroundings));
            case Expression.Binary { Operator: "&&" or "||" } logic:
                return Logic(logic.Operator == "||", Evaluate(logic.Left, surroundings), () => Evaluate(logic.Right, surroundings));
            case Expression.Binary binary:
                return Operations.Combine(binary.Operator, Evaluate(binary.Left, surroundings), Evaluate(binary.Right, surroundings));
            case Expression.Conditional conditional:
                return Evaluate(conditional.Test, surroundings) switch
                {
                    true => Evaluate(conditional.Then, surroundings),
                    false => Evaluate(conditional.Otherwise, surroundings),
                    Failure failure => failure,
                    _ => new Failure("what stands before '?' is neither true nor false"),
                };
            case Expression.ListOf list:
                var elements = list.Elements.Select(element => Evaluate(element, surroundings)).ToArray();
                return elements.FirstOrDefault(element => element is Failure) ?? elements;
            case Expression.Call call:
                var arguments = call.Arguments.Select(argument => Evaluate(argument, surroundings)).ToArray();
                return arguments.FirstOrDefault(argument => argument is Failure) ?? Operations.Call(call.Function, arguments);
            default:
                throw new ArgumentOutOfRangeException(nameof(expression));
        }
    }

    internal static object? Logic(bool deciding, object? left, Func<object?> other)
    {
        if (left is bool first && first == deciding)
        {
            return deciding;
        }

        var right = other();
        if (right is bool second && second == deciding)
        {
            return deciding;
        }

        return left is bool && right is bool ? !deciding
            : left as Failure ?? right as Failure ?? new Failure("a part is neither true nor false");
    }

    private static object? Selected(object? target, string field) => target switch
    {
        Failure => target,
        IReadOnlyDictionary<string, object?> map => map.TryGetValue(field, out var value) ? value : new Failure($"no such key: {field}"),
        _ => new Failure($"no field '{field}' in what has no fields"),
    };

    private static object? Indexed(object? target, object? key) => (target, key) switch
    {
        (Failure, _) => target,
        (_, Failure) => key,
        (IReadOnlyList<object?> list, long index) => index >= 0 && index < list.Count ? list[(int)index] : new Failure($"no element {index}"),
        _ => new Failure("only lists have elements"),
    };

    /// <summary>RFC 3339.</summary>
    internal static bool TryTimestamp(string text, out DateTimeOffset moment) => DateTimeOffset.TryParseExact(
        text,
        ["yyyy-MM-dd'T'HH:mm:ssK", "yyyy-MM-dd'T'HH:mm:ss.FFFFFFFK"],
        CultureInfo.InvariantCulture,
        DateTimeStyles.AdjustToUniversal,
        out moment) && text.Length > 19 && (text[^1] is 'Z' || text[^6] is '+' or '-');
}
