using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Conditions;

/// <summary>
/// An evaluation that came to no value; conditions that end so are closed: visible and required do not hold, read-only does.
/// </summary>
public sealed record Failure(Message Message);

/// <summary>What a part comes to whose names are not all known yet.</summary>
internal sealed class Unknown
{
    public static readonly Unknown Value = new();
}

/// <summary>What a condition is evaluated against. Names that are absent from <see cref="Names"/> are not known yet.</summary>
public sealed record EvaluationContext(IReadOnlyDictionary<string, object?> Names)
{
    /// <summary>A record's fields as conditions see them, and the rest.</summary>
    public static EvaluationContext Of(
        IReadOnlyDictionary<string, object?> record,
        string userId,
        IReadOnlyCollection<string> roles,
        string mode,
        string locale,
        DateTimeOffset today,
        DateTimeOffset now
    ) =>
        new(
            new Dictionary<string, object?>(StringComparer.Ordinal)
            {
                ["record"] = record,
                ["user"] = new Dictionary<string, object?>(StringComparer.Ordinal)
                {
                    ["id"] = userId,
                    ["roles"] = roles.Cast<object?>().ToArray(),
                },
                ["mode"] = mode,
                ["locale"] = locale,
                ["today"] = Moment.Of(today),
                ["now"] = Moment.Of(now),
            }
        );
}

/// <summary>
/// Evaluates conditions with the standard's semantics: <c>&amp;&amp;</c> and <c>||</c> absorb a failure when the other side decides,
/// numbers
/// compare across types, values of different types are unequal, overflow and division by zero fail. Work is counted and bounded by
/// <see cref="Limits.ConditionCost"/>.
/// Values: null, bool, long, double, string, <see cref="Moment"/>, <see cref="Duration"/>, lists as <see cref="IReadOnlyList{T}"/>,
/// <see cref="MapValue"/>; records as <see cref="IReadOnlyDictionary{TKey, TValue}"/>, in which null is absence.
/// </summary>
public sealed class Evaluator
{
    private readonly EvaluationContext surroundings;
    private readonly bool partial;
    private int cost;

    private Evaluator(EvaluationContext surroundings, bool partial)
    {
        this.surroundings = surroundings;
        this.partial = partial;
    }

    /// <summary>A name bound by a macro.</summary>
    private sealed record Local(string Name, object? Value, Local? Outer);

    /// <summary>Whether a condition holds; null when it fails.</summary>
    public static bool? Holds(Expression expression, EvaluationContext surroundings) => Evaluate(expression, surroundings) as bool?;

    /// <summary>The value, or a <see cref="Failure"/>.</summary>
    public static object? Evaluate(Expression expression, EvaluationContext surroundings) =>
        new Evaluator(surroundings, partial: false).Value(expression, null);

    /// <summary>
    /// The value where what is known decides it, a <see cref="Failure"/> where it must fail, otherwise <see cref="Unknown"/>.
    /// </summary>
    internal static object? Decide(Expression expression, EvaluationContext known) =>
        new Evaluator(known, partial: true).Value(expression, null);

    private object? Value(Expression expression, Local? locals)
    {
        if (++cost > Limits.ConditionCost)
        {
            return new Failure($"too much work");
        }

        switch (expression)
        {
            case Expression.Literal literal:
                return literal.Value;
            case Expression.Name name:
                return Named(name.Identifier, locals);
            case Expression.Select select:
                return Selected(Value(select.Target, locals), select.Field);
            case Expression.Has has:
                return Held(Value(has.Operand.Target, locals), has.Operand.Field);
            case Expression.Index index:
                return Indexed(Value(index.Target, locals), Value(index.Key, locals));
            case Expression.Unary unary:
                return Operations.Negate(unary.Operator, Value(unary.Operand, locals));
            case Expression.Binary { Operator: "&&" or "||" } logic:
                var deciding = logic.Operator == "||";
                var left = Value(logic.Left, locals);
                return left is bool first && first == deciding ? left : Logic(deciding, left, Value(logic.Right, locals));
            case Expression.Binary binary:
                return Spent(Operations.Combine(binary.Operator, Value(binary.Left, locals), Value(binary.Right, locals)));
            case Expression.Conditional conditional:
                return Value(conditional.Test, locals) switch
                {
                    true => Value(conditional.Then, locals),
                    false => Value(conditional.Otherwise, locals),
                    Failure failure => failure,
                    Unknown unknown => unknown,
                    _ => new Failure($"what stands before '?' is neither true nor false"),
                };
            case Expression.ListOf list:
                var elements = list.Elements.Select(element => Value(element, locals)).ToArray();
                return Stopped(elements) ?? elements;
            case Expression.MapOf map:
                return Mapped(map, locals);
            case Expression.Over over:
                return Went(over, locals);
            case Expression.Matches matches:
                return Value(matches.Target, locals) switch
                {
                    string text => Matched(matches.Pattern, text),
                    Failure failure => failure,
                    Unknown unknown => unknown,
                    _ => new Failure($"matches() of something that is no text"),
                };
            case Expression.Call call:
                var arguments = call.Arguments.Select(argument => Value(argument, locals)).ToArray();
                return Stopped(arguments) ?? Operations.Call(call.Function, arguments);
            default:
                throw new ArgumentOutOfRangeException(nameof(expression));
        }
    }

    private object? Named(string name, Local? locals)
    {
        for (var local = locals; local is not null; local = local.Outer)
        {
            if (local.Name == name)
            {
                return local.Value;
            }
        }

        return surroundings.Names.TryGetValue(name, out var value) ? value : Absent($"no name '{name}'");
    }

    /// <summary>Whether something has a value under a name.</summary>
    private object? Held(object? target, string field) =>
        target switch
        {
            Failure or Unknown => target,
            IReadOnlyDictionary<string, object?> record when record.TryGetValue(field, out var held) => held is Unknown
                ? held
                : held is not null,
            IReadOnlyDictionary<string, object?> => partial ? Unknown.Value : false,
            MapValue map => map.TryGet(field, out _),
            _ => new Failure($"has() of something without fields"),
        };

    private object Absent(Message message) => partial ? Unknown.Value : new Failure(message);

    /// <summary>The first failure, or else the unknown among values that are all needed.</summary>
    private static object? Stopped(object?[] values) =>
        values.FirstOrDefault(value => value is Failure) ?? values.FirstOrDefault(value => value is Unknown);

    /// <summary>What makes something long is paid for by its length.</summary>
    private object? Spent(object? result)
    {
        cost += result switch
        {
            string text => text.Length / 16,
            IReadOnlyList<object?> list => list.Count,
            _ => 0,
        };
        return cost > Limits.ConditionCost ? new Failure($"too much work") : result;
    }

    private object? Matched(PatternProgram pattern, string text)
    {
        cost += text.Length / 4;
        return cost > Limits.ConditionCost ? new Failure($"too much work") : pattern.IsMatch(text);
    }

    private static object? Logic(bool deciding, object? left, object? right)
    {
        if (right is bool second && second == deciding)
        {
            return deciding;
        }

        return left is bool && right is bool ? !deciding
            : left is Unknown || right is Unknown ? Unknown.Value
            : left as Failure ?? right as Failure ?? new Failure($"a part is neither true nor false");
    }

    private object? Mapped(Expression.MapOf map, Local? locals)
    {
        var made = new MapValue();
        object? stopped = null;
        foreach (var (key, value) in map.Entries)
        {
            var (k, v) = (Value(key, locals), Value(value, locals));
            stopped = Stopped([stopped, k, v]);
            if (stopped is null && !made.TryAdd(k, v))
            {
                stopped = new Failure($"a key is given twice or cannot be one");
            }
        }

        return stopped ?? made;
    }

    private object? Went(Expression.Over over, Local? locals)
    {
        var target = Value(over.Target, locals);
        if (Elements(target) is not { } elements)
        {
            return target is Failure or Unknown ? target : new Failure($"{over.Macro}() of what is neither a list nor a map");
        }

        object? result = over.Macro switch
        {
            "all" => true,
            "exists" => false,
            "exists_one" => 0L,
            _ => null,
        };
        var gathered = new List<object?>();
        foreach (var element in elements)
        {
            var scope = new Local(over.Variable, element, locals);
            switch (over.Macro)
            {
                case "all" or "exists":
                    result = Logic(over.Macro == "exists", result, Value(over.Body, scope));
                    if (result is bool decided && decided == (over.Macro == "exists"))
                    {
                        return result;
                    }

                    break;
                default:
                    var test =
                        over.Macro == "map"
                            ? over.Only is { } only
                                ? Value(only, scope)
                                : true
                            : Value(over.Body, scope);
                    if (test is not bool holds)
                    {
                        return test is Failure or Unknown ? test : new Failure($"a test is neither true nor false");
                    }

                    if (holds)
                    {
                        gathered.Add(over.Macro == "map" ? Value(over.Body, scope) : element);
                        if (gathered[^1] is Failure or Unknown)
                        {
                            return gathered[^1];
                        }
                    }

                    break;
            }
        }

        return over.Macro switch
        {
            "all" or "exists" => result,
            "exists_one" => gathered.Count == 1,
            _ => Spent(gathered.ToArray()),
        };
    }

    private static IEnumerable<object?>? Elements(object? target) =>
        target switch
        {
            IReadOnlyList<object?> list => (IEnumerable<object?>)list,
            MapValue map => map.AllKeys,
            _ => null,
        };

    private object? Selected(object? target, string field) =>
        target switch
        {
            Failure or Unknown => target,
            IReadOnlyDictionary<string, object?> record => record.TryGetValue(field, out var value)
                ? value
                : Absent($"no such key: {field}"),
            MapValue map => map.TryGet(field, out var value) ? value : new Failure($"no such key: {field}"),
            _ => new Failure($"no field '{field}' in what has no fields"),
        };

    private static object? Indexed(object? target, object? key) =>
        (target, key) switch
        {
            (Failure, _) => target,
            (_, Failure) => key,
            (Unknown, _) or (_, Unknown) => Unknown.Value,
            (IReadOnlyList<object?> list, double number) => number == Math.Truncate(number) && number >= 0 && number < list.Count
                ? list[(int)number]
                : new Failure($"no element {number}"),
            (IReadOnlyList<object?> list, long index) => index >= 0 && index < list.Count
                ? list[(int)index]
                : new Failure($"no element {index}"),
            (MapValue map, _) => map.TryGet(key, out var value) ? value : new Failure($"no such key: {key}"),
            (IReadOnlyDictionary<string, object?> record, string name) => record.TryGetValue(name, out var value)
                ? value
                : new Failure($"no such key: {name}"),
            _ => new Failure($"only lists and maps have elements"),
        };
}
