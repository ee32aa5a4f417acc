using BrightTier.Core.Entities;

namespace BrightTier.Core.Conditions;

/// <summary>Types a condition against an entity and says, with positions and suggestions, what cannot be right.</summary>
public sealed class TypeChecker(Entity entity, Definitions definitions)
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

    private static readonly string[] Functions = ["size", "contains", "startsWith", "endsWith", "timestamp", "has", "int", "double", "string"];

    private readonly List<ConditionProblem> problems = [];

    /// <summary>All problems of a condition that must be of type bool; none means it is right.</summary>
    public static IReadOnlyList<ConditionProblem> Check(Expression expression, Entity entity, Definitions definitions)
    {
        var checker = new TypeChecker(entity, definitions);
        var type = checker.TypeOf(expression);
        if (checker.problems.Count == 0 && type != ConditionType.Bool)
        {
            checker.problems.Add(new ConditionProblem(expression.At, $"a condition must be true or false; this is of type {type}"));
        }

        return checker.problems;
    }

    private ConditionType TypeOf(Expression expression) => expression switch
    {
        Expression.Literal literal => literal.Value switch
        {
            null => ConditionType.Null,
            bool => ConditionType.Bool,
            long => ConditionType.Int,
            double => ConditionType.Double,
            _ => ConditionType.String,
        },
        Expression.Name name => Names.TryGetValue(name.Identifier, out var type) ? type : UnknownName(name),
        Expression.Select select => Selected(select),
        Expression.Has has => Then(Selected(has.Operand), ConditionType.Bool),
        Expression.Index index => Indexed(index),
        Expression.Call call => Called(call),
        Expression.Unary unary => Negated(unary),
        Expression.Binary binary => Combined(binary),
        Expression.Conditional conditional => Chosen(conditional),
        Expression.ListOf list => Listed(list),
        _ => throw new ArgumentOutOfRangeException(nameof(expression)),
    };

    private static ConditionType Then(ConditionType first, ConditionType result) => first == ConditionType.Unknown ? first : result;

    private ConditionType Problem(Span at, string message)
    {
        problems.Add(new ConditionProblem(at, message));
        return ConditionType.Unknown;
    }

    private ConditionType UnknownName(Expression.Name name) => Problem(
        name.At,
        entity.Find(name.Identifier) is not null
            ? $"no name '{name.Identifier}'; for the field write 'record.{name.Identifier}'"
            : $"no name '{name.Identifier}'{Suggestion.For(name.Identifier, Names.Keys)}");

    private ConditionType Selected(Expression.Select select)
    {
        var target = TypeOf(select.Target);
        if (target == ConditionType.Record)
        {
            return entity.Find(select.Field) is { } field
                ? ConditionType.Of(field.Type)
                : Problem(select.FieldAt, $"no field '{select.Field}'{Suggestion.For(select.Field, [.. entity.Current.Select(each => each.Key)])}");
        }

        if (target == ConditionType.User)
        {
            return select.Field switch
            {
                "roles" => ConditionType.ListOf(ConditionType.String),
                "id" => ConditionType.String,
                _ => Problem(select.FieldAt, $"a user has no '{select.Field}'; there are: roles, id"),
            };
        }

        if (target == ConditionType.Unknown)
        {
            return target;
        }

        return select.Target is Expression.Select { Target: Expression.Name { Identifier: "record" } } step && entity.Find(step.Field)?.Type is FieldType.Reference
            ? Problem(select.FieldAt, $"'{step.Field}' is a reference; conditions read only this record's own fields")
            : Problem(select.FieldAt, $"a {target} has no '{select.Field}'");
    }

    private ConditionType Indexed(Expression.Index index)
    {
        var target = TypeOf(index.Target);
        var key = TypeOf(index.Key);
        if (target == ConditionType.Unknown || key == ConditionType.Unknown)
        {
            return ConditionType.Unknown;
        }

        if (target.Name != "list")
        {
            return Problem(index.At, $"only lists have elements; this is of type {target}");
        }

        return key == ConditionType.Int ? target.Element! : Problem(index.Key.At, $"an element is named by a whole number, not by a {key}");
    }

    private ConditionType Called(Expression.Call call)
    {
        var types = call.Arguments.Select(TypeOf).ToArray();
        if (types.Contains(ConditionType.Unknown))
        {
            return ConditionType.Unknown;
        }

        switch (call.Function)
        {
            case "size" when types is [{ Name: "string" or "list" }]:
                return ConditionType.Int;
            case "contains" or "startsWith" or "endsWith" when call.Member && types is [{ Name: "string" }, { Name: "string" }]:
                NeverMatches(call);
                return ConditionType.Bool;
            case "timestamp" when !call.Member && types is [{ Name: "string" }]:
                return Literal(call.Arguments[0]) is string text && !Evaluator.TryTimestamp(text, out _)
                    ? Problem(call.Arguments[0].At, $"'{text}' is no point in time; write timestamp('2026-05-31T00:00:00Z')")
                    : ConditionType.Timestamp;
            case "timestamp" when !call.Member && types is [{ Name: "timestamp" }]:
                return ConditionType.Timestamp;
            case "int" when !call.Member && types is [{ Name: "int" or "double" or "string" }]:
                return ConditionType.Int;
            case "double" when !call.Member && types is [{ Name: "int" or "double" or "string" }]:
                return ConditionType.Double;
            case "string" when !call.Member && types is [{ Name: "int" or "string" or "bool" }]:
                return ConditionType.String;
            default:
                return Functions.Contains(call.Function)
                    ? Problem(call.At, $"{call.Function}() does not take {string.Join(", ", types.Select(type => type.ToString()))}{Usage(call.Function)}")
                    : Problem(call.NameAt, $"no function '{call.Function}'{Suggestion.For(call.Function, Functions)}");
        }
    }

    private static string Usage(string function) => function switch
    {
        "size" => "; it takes a text or a list",
        "contains" or "startsWith" or "endsWith" => $"; write record.name.{function}('text')",
        "timestamp" => "; write timestamp('2026-05-31T00:00:00Z')",
        _ => "",
    };

    private static object? Literal(Expression expression) => (expression as Expression.Literal)?.Value;

    private void NeverMatches(Expression.Call call)
    {
        if (call.Arguments[0] is Expression.Select select && ChoicesOf(select) is { } choices && Literal(call.Arguments[1]) is string part
            && !choices.Choices.Any(choice => choice.Key.Contains(part, StringComparison.Ordinal)))
        {
            Problem(call.Arguments[1].At, $"no choice of '{select.Field}' has '{part}' in it");
        }
    }

    private ConditionType Negated(Expression.Unary unary)
    {
        var operand = TypeOf(unary.Operand);
        return operand == ConditionType.Unknown ? operand
            : unary.Operator == "!" ? operand == ConditionType.Bool ? operand : Problem(unary.At, $"'!' takes true or false, not a {operand}")
            : operand.IsNumber ? operand : Problem(unary.At, $"'-' takes a number, not a {operand}");
    }

    private ConditionType Combined(Expression.Binary binary)
    {
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
                    return Problem(binary.At, $"a {left} is never equal to a {right}{TimeHint(left, right)}");
                }

                KnownValue(binary.Left, binary.Right);
                KnownValue(binary.Right, binary.Left);
                return ConditionType.Bool;
            case "<" or "<=" or ">" or ">=":
                return Comparable(left, right) && left.Name is "int" or "double" or "string" or "timestamp" or "bool"
                    ? ConditionType.Bool
                    : Problem(binary.At, $"'{binary.Operator}' cannot compare a {left} with a {right}{TimeHint(left, right)}");
            case "in":
                if (right.Name != "list")
                {
                    return Problem(binary.Right.At, $"'in' looks in a list; this is of type {right}");
                }

                if (right.Element is { } element && element != ConditionType.Unknown && !Comparable(left, element) && left != ConditionType.Null)
                {
                    return Problem(binary.At, $"a {left} is never in a list of {element}");
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

        if (binary.Operator == "+" && left == right && left.Name is "string" or "list")
        {
            return left;
        }

        var hint = left.IsNumber && right.IsNumber
            ? binary.Operator == "%" ? "; a remainder is of whole numbers" : "; whole and decimal numbers do not mix: write 2.0 for 2, or double(…)"
            : "";
        return Problem(binary.At, $"'{binary.Operator}' cannot join a {left} and a {right}{hint}");
    }

    private static bool Comparable(ConditionType left, ConditionType right) => left == right || (left.IsNumber && right.IsNumber)
        || (left.Name == "list" && right.Name == "list" && (left.Element == ConditionType.Unknown || right.Element == ConditionType.Unknown));

    private static string TimeHint(ConditionType left, ConditionType right) =>
        (left.Name, right.Name) is ("timestamp", "string") or ("string", "timestamp") ? "; write timestamp('2026-05-31T00:00:00Z')" : "";

    private ConditionType Chosen(Expression.Conditional conditional)
    {
        var test = TypeOf(conditional.Test);
        var then = TypeOf(conditional.Then);
        var otherwise = TypeOf(conditional.Otherwise);
        if (test != ConditionType.Bool && test != ConditionType.Unknown)
        {
            Problem(conditional.Test.At, $"what stands before '?' must be true or false; this is of type {test}");
        }

        return then == ConditionType.Unknown || then == otherwise ? otherwise
            : otherwise == ConditionType.Unknown || otherwise == ConditionType.Null ? then
            : then == ConditionType.Null ? otherwise
            : Problem(conditional.At, $"both outcomes must be of one type; they are {then} and {otherwise}");
    }

    private ConditionType Listed(Expression.ListOf list)
    {
        var types = list.Elements.Select(TypeOf).Where(type => type != ConditionType.Unknown && type != ConditionType.Null).Distinct().ToArray();
        return types.Length > 1 && !types.All(type => type.IsNumber)
            ? Problem(list.At, $"a list's elements are of one type; these are {string.Join(" and ", types.Select(type => type.ToString()))}")
            : ConditionType.ListOf(types.FirstOrDefault() ?? ConditionType.Unknown);
    }

    /// <summary>A choice or mode compared with a word that is none of its values is a slip of the keyboard.</summary>
    private void KnownValue(Expression subject, Expression value)
    {
        if (Literal(value) is not string word)
        {
            return;
        }

        var (what, words) = subject switch
        {
            Expression.Name { Identifier: "mode" } => ("mode", ["create", "edit", "view"]),
            Expression.Select select when ChoicesOf(select) is { } choices => ($"choice of '{select.Field}'", [.. choices.Choices.Select(choice => choice.Key)]),
            _ => ("", Array.Empty<string>()),
        };
        if (words.Length > 0 && !words.Contains(word))
        {
            Problem(value.At, $"'{word}' is no {what}{Suggestion.For(word, words)}");
        }
    }

    private void KnownMember(Expression value, Expression list)
    {
        if (Literal(value) is not string word || list is not Expression.Select select)
        {
            return;
        }

        if (select is { Field: "roles", Target: Expression.Name { Identifier: "user" } })
        {
            var roles = definitions.Application.Roles.Select(role => role.Key).ToArray();
            if (roles.Length > 0 && !roles.Contains(word))
            {
                Problem(value.At, $"there is no role '{word}'{Suggestion.For(word, roles)}");
            }
        }
        else if (ChoicesOf(select) is { } choices && choices.Find(word) is null)
        {
            Problem(value.At, $"'{word}' is no choice of '{select.Field}'{Suggestion.For(word, [.. choices.Choices.Select(choice => choice.Key)])}");
        }
    }

    private ChoiceList? ChoicesOf(Expression.Select select) =>
        select.Target is Expression.Name { Identifier: "record" } && entity.Find(select.Field)?.ChoiceList is { } list
            ? definitions.ChoiceLists.GetValueOrDefault(list)
            : null;
}
