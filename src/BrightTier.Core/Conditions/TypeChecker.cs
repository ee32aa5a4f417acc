using System.Text.RegularExpressions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

/// <summary>Types a condition against an entity and says, with positions and suggestions, what cannot be right.</summary>
public sealed partial class TypeChecker(string text, Entity entity, Definitions definitions)
{
    private static readonly Dictionary<string, ConditionType> Names = new()
    {
        ["record"] = ConditionType.Record,
        ["user"] = ConditionType.User,
        ["mode"] = ConditionType.String,
        ["locale"] = ConditionType.String,
        ["today"] = ConditionType.Timestamp,
        ["now"] = ConditionType.Timestamp,
    };

    private readonly List<ConditionProblem> problems = [];

    /// <summary>Names bound by the macros around the part being typed, innermost last.</summary>
    private readonly List<(string Name, ConditionType Type)> locals = [];

    /// <summary>All problems of a condition that must be of type bool; none means it is right.</summary>
    /// <param name="text">The text of the condition, to say what of it would be right.</param>
    public static IReadOnlyList<ConditionProblem> Check(
        string text,
        Expression expression,
        Entity entity,
        Definitions definitions,
        bool anyType,
        out ConditionType type
    )
    {
        var checker = new TypeChecker(text, entity, definitions);
        type = checker.TypeOf(expression);
        if (!anyType && checker.problems.Count == 0 && type != ConditionType.Bool)
        {
            checker.problems.Add(new ConditionProblem(expression.At, $"a condition must be true or false; this is of type {type}"));
        }

        return checker.problems;
    }

    private ConditionType TypeOf(Expression expression) =>
        expression switch
        {
            Expression.Literal literal => literal.Value switch
            {
                null => ConditionType.Null,
                bool => ConditionType.Bool,
                long => ConditionType.Int,
                double => ConditionType.Double,
                _ => ConditionType.String,
            },
            Expression.Name name => locals.FindLast(local => local.Name == name.Identifier).Type
                ?? (Names.TryGetValue(name.Identifier, out var type) ? type : UnknownName(name)),
            Expression.Select select => Selected(select),
            Expression.Has has => Then(Selected(has.Operand), ConditionType.Bool),
            Expression.Index index => Indexed(index),
            Expression.Call call => Called(call),
            Expression.Unary unary => Negated(unary),
            Expression.Binary binary => Combined(binary),
            Expression.Conditional conditional => Chosen(conditional),
            Expression.ListOf list => Listed(list),
            Expression.MapOf map => Mapped(map),
            Expression.Over over => Went(over),
            Expression.Matches matches => TypeOf(matches.Target) is var matched
            && (matched == ConditionType.String || matched == ConditionType.Unknown)
                ? Then(matched, ConditionType.Bool)
                : Problem(matches.Target.At, $"matches() tests a text; this is of type {matched}"),
            _ => throw new ArgumentOutOfRangeException(nameof(expression)),
        };

    private static ConditionType Then(ConditionType first, ConditionType result) => first == ConditionType.Unknown ? first : result;

    private ConditionType Problem(Span at, Message message, string? right = null)
    {
        problems.Add(new ConditionProblem(at, message, right));
        return ConditionType.Unknown;
    }

    private ConditionType Called(Expression.Call call)
    {
        var types = call.Arguments.Select(TypeOf).ToArray();
        if (types.Contains(ConditionType.Unknown))
        {
            return ConditionType.Unknown;
        }

        if (Library.Find(call.Function, call.Member, types) is { } gives)
        {
            var given = Literal(call.Arguments[0]) as string;
            switch (call.Function)
            {
                case "contains" or "startsWith" or "endsWith":
                    NeverMatches(call);
                    break;
                case "matches":
                    return Problem(call.Arguments[1].At, $"a pattern must be written out, so that it is known to be one and to be quick");
                case "timestamp" when given is not null && !Moment.TryParse(given, out _):
                    return Problem(call.Arguments[0].At, $"'{given}' is no point in time; write timestamp('2026-05-31T00:00:00Z')");
                case var _
                    when call.Arguments.Length == 2
                        && types[0] == ConditionType.Timestamp
                        && Literal(call.Arguments[1]) is string zone
                        && !Operations.IsZone(zone):
                    return Problem(call.Arguments[1].At, $"no time zone '{zone}'; write 'Europe/Amsterdam' or '+02:00'");
                case "duration" when given is not null && !Duration.TryParse(given, out _):
                    return Problem(call.Arguments[0].At, $"'{given}' is no length of time; write duration('36h') or duration('90m')");
            }

            return gives;
        }

        var taken = types.Length == 0 ? "nothing" : string.Join(", ", types.Select(type => type.ToString()));
        return Library.Names.Contains(call.Function)
            ? Problem(call.At, $"{call.Function}() does not take {taken}{Library.Usage(call.Function)}")
            : Problem(
                call.NameAt,
                Habits.Function(call.Function) is { } code
                    ? (Message)$"no function '{call.Function}'{Habits.Instead(WithTarget(code, call))}"
                    : $"no function '{call.Function}'{Suggestion.For(call.Function, Library.Names)}",
                Habits.Function(call.Function) is null ? Suggestion.Nearest(call.Function, Library.Names) : null
            );
    }

    /// <summary>What stands instead of a call, of what the call is made on.</summary>
    private static string WithTarget(string code, Expression.Call call) =>
        call.Arguments is [Expression.Select { Target: Expression.Name { Identifier: "record" }, Field: var field }, ..]
            ? Regex.Replace(code, @"\ba\b", $"record.{field}")
            : code;

    private static object? Literal(Expression expression) => (expression as Expression.Literal)?.Value;

    private ConditionType Negated(Expression.Unary unary)
    {
        var operand = TypeOf(unary.Operand);
        return operand == ConditionType.Unknown ? operand
            : unary.Operator == "!"
                ? operand == ConditionType.Bool ? operand
                    : Problem(unary.At, $"'!' takes true or false, not {operand.One}")
            : operand.IsNumber ? operand
            : Problem(unary.At, $"'-' takes a number, not {operand.One}");
    }

    private ConditionType Combined(Expression.Binary binary)
    {
        if (Instead(binary) is { } problem)
        {
            problems.Add(problem);
            return ConditionType.Unknown;
        }

        var left = TypeOf(binary.Left);
        var right = TypeOf(binary.Right);
        if (left == ConditionType.Unknown || right == ConditionType.Unknown)
        {
            return binary.Operator is "+" or "-" or "*" or "/" or "%" ? ConditionType.Unknown : ConditionType.Bool;
        }

        switch (binary.Operator)
        {
            case "&&" or "||":
                foreach (var (part, type) in new[] { (binary.Left, left), (binary.Right, right) })
                {
                    if (type != ConditionType.Bool)
                    {
                        Problem(part.At, $"'{binary.Operator}' combines conditions; this is of type {type}");
                    }
                }

                return ConditionType.Bool;
            case "==" or "!=":
                if (!Comparable(left, right) && left != ConditionType.Null && right != ConditionType.Null)
                {
                    var instead = InList(binary, left, right);
                    var hint = instead is null ? TimeHint(left, right) : Habits.Instead(instead);
                    return Problem(binary.At, $"{left.One} is never equal to {right.One}{hint}", instead);
                }

                KnownValue(binary.Left, binary.Right);
                KnownValue(binary.Right, binary.Left);
                return ConditionType.Bool;
            case "<" or "<=" or ">" or ">=":
                return Comparable(left, right) && left.Name is "int" or "double" or "string" or "timestamp" or "duration" or "bool"
                    ? ConditionType.Bool
                    : Problem(binary.At, $"'{binary.Operator}' cannot compare {left.One} with {right.One}{TimeHint(left, right)}");
            case "in":
                if (right.Name is not ("list" or "map"))
                {
                    return Problem(binary.Right.At, $"'in' looks in a list or a map; this is of type {right}");
                }

                if (
                    (right.Key ?? right.Element) is { } element
                    && element != ConditionType.Unknown
                    && !Comparable(left, element)
                    && left != ConditionType.Null
                )
                {
                    return Problem(binary.At, $"{left.One} is never in a list of {element}");
                }

                foreach (var each in (binary.Right as Expression.ListOf)?.Elements ?? [])
                {
                    KnownValue(binary.Left, each);
                }

                KnownMember(binary.Left, binary.Right);
                return ConditionType.Bool;
            default:
                return Arithmetic(binary, left, right);
        }
    }

    private ConditionType Arithmetic(Expression.Binary binary, ConditionType left, ConditionType right)
    {
        if (left == right && left.IsNumber && !(binary.Operator == "%" && left == ConditionType.Double))
        {
            return left;
        }

        if (binary.Operator == "+" && left.Name is "string" or "list" && Comparable(left, right))
        {
            return left.Element == ConditionType.Unknown ? right : left;
        }

        if ((left.Name, binary.Operator, right.Name) is ("timestamp", "+" or "-", "duration") or ("duration", "+", "timestamp"))
        {
            return ConditionType.Timestamp;
        }

        if ((left.Name, binary.Operator, right.Name) is ("timestamp", "-", "timestamp") or ("duration", "+" or "-", "duration"))
        {
            return ConditionType.Duration;
        }

        var hint =
            left.IsNumber && right.IsNumber && binary.Operator == "%" ? (Message)$"; a remainder is of whole numbers"
            : left.IsNumber && right.IsNumber ? (Message)$"; whole and decimal numbers do not mix: write 2.0 for 2, or double(…)"
            : left == ConditionType.Timestamp && right.IsNumber ? (Message)$"; a length of time is written duration('48h')"
            : $"";
        return Problem(binary.At, $"'{binary.Operator}' cannot join {left.One} and {right.One}{hint}");
    }

    private static bool Comparable(ConditionType left, ConditionType right) =>
        left == right
        || (left.IsNumber && right.IsNumber)
        || left == ConditionType.Unknown
        || right == ConditionType.Unknown
        || (
            left.Name == right.Name
            && left is { Element: { } inLeft }
            && right is { Element: { } inRight }
            && Comparable(inLeft, inRight)
            && (left.Key is null || Comparable(left.Key, right.Key!))
        );

    private static Message TimeHint(ConditionType left, ConditionType right) =>
        (left.Name, right.Name) is ("timestamp", "string") or ("string", "timestamp")
            ? (Message)$"; write timestamp('2026-05-31T00:00:00Z')"
            : $"";

    private ConditionType Chosen(Expression.Conditional conditional)
    {
        var test = TypeOf(conditional.Test);
        var then = TypeOf(conditional.Then);
        var otherwise = TypeOf(conditional.Otherwise);
        if (test != ConditionType.Bool && test != ConditionType.Unknown)
        {
            Problem(conditional.Test.At, $"what stands before '?' must be true or false; this is of type {test}");
        }

        return then == ConditionType.Unknown || then == otherwise || (then.Element == ConditionType.Unknown && then.Name == otherwise.Name)
                ? otherwise
            : otherwise.Element == ConditionType.Unknown && then.Name == otherwise.Name ? then
            : otherwise == ConditionType.Unknown || otherwise == ConditionType.Null ? then
            : then == ConditionType.Null ? otherwise
            : Problem(conditional.At, $"both outcomes must be of one type; they are {then} and {otherwise}");
    }
}
