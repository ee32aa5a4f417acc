using System.Globalization;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

/// <summary>A part of a condition that a database cannot decide, and why.</summary>
public sealed class NotForDatabaseException(Span at, Message reason) : Exception(reason.English)
{
    public Span At { get; } = at;

    public Message Reason => reason;
}

/// <summary>
/// Turns a condition into SQL with parameters. SQL's third truth value stands for a condition that fails, so that both select the same
/// records:
/// what fails is not selected, and <c>AND</c>, <c>OR</c> and <c>NOT</c> treat it as <c>&amp;&amp;</c>, <c>||</c> and <c>!</c> do.
/// </summary>
internal sealed class SqlConditions(
    SqlDialect dialect,
    Entity entity,
    Definitions definitions,
    ISqlColumns columns,
    EvaluationContext surroundings,
    DynamicParameters parameters,
    int number
)
{
    private int count;

    /// <exception cref="NotForDatabaseException">A part of it cannot be decided by a database.</exception>
    public string Where(Expression condition) => Truth(condition);

    private string Truth(Expression part)
    {
        if (Known(part, out var known))
        {
            return known switch
            {
                true => dialect.True,
                false => dialect.False,
                _ => dialect.Unknown,
            };
        }

        return part switch
        {
            Expression.Binary { Operator: "&&" } both => $"({Truth(both.Left)} AND {Truth(both.Right)})",
            Expression.Binary { Operator: "||" } either => $"({Truth(either.Left)} OR {Truth(either.Right)})",
            Expression.Unary { Operator: "!" } not => $"(NOT {Truth(not.Operand)})",
            // The test is written once, or nested choices would double at every level; one that fails is neither true nor false, and so is
            // the whole.
            Expression.Conditional choice =>
                $"(CASE {Truth(choice.Test)} WHEN {dialect.True} THEN {Truth(choice.Then)} WHEN {dialect.False} THEN "
                    + $"{Truth(choice.Otherwise)} END)",
            Expression.Has has => Filled(Column(has.Operand)),
            Expression.Binary { Operator: "in" } among => Among(among),
            Expression.Binary { Operator: "==" or "!=" or "<" or "<=" or ">" or ">=" } compared => Compared(compared),
            Expression.Call { Function: "contains" or "startsWith" or "endsWith" } text => Text(text),
            Expression.Select when Column(part) is { Field.Type: FieldType.Boolean, Sql: var sql } => sql,
            _ => throw Cannot(part),
        };
    }

    private string Filled((string Sql, Field Field) column) => columns.Filled(column.Field, column.Sql);

    private static readonly Dictionary<string, string> Turned = new()
    {
        ["<"] = ">",
        ["<="] = ">=",
        [">"] = "<",
        [">="] = "<=",
    };

    private string Compared(Expression.Binary compared)
    {
        if (Referring(compared) is { } refers)
        {
            return refers;
        }

        if (Known(compared.Left, out var left))
        {
            var (column, field) = Column(compared.Right);
            return Compared(column, Turned.GetValueOrDefault(compared.Operator, compared.Operator), field, left, compared.Left);
        }

        var (one, of) = Column(compared.Left);
        if (Known(compared.Right, out var right))
        {
            return Compared(one, compared.Operator, of, right, compared.Right);
        }

        var (other, to) = Column(compared.Right);
        var (this_, that) = (Scaled(one, of), Scaled(other, to));
        return compared.Operator switch
        {
            "==" => dialect.Same(this_, that),
            "!=" => dialect.Differs(this_, that),
            var order => $"({this_} {order} {that})",
        };
    }

    /// <summary>A reference held against a record's number, where the column holds something else.</summary>
    private string? Referring(Expression.Binary compared)
    {
        var (read, other) = compared.Left is Expression.Select ? (compared.Left, compared.Right) : (compared.Right, compared.Left);
        if (
            compared.Operator is not ("==" or "!=")
            || read is not Expression.Select { Target: Expression.Name { Identifier: "record" }, Field: var key }
            || entity.Find(key) is not { Type: FieldType.Reference } reference
            || !Known(other, out var value)
            || value is not long id
            || columns.Refers(reference, id, Parameter) is not { } refers
        )
        {
            return null;
        }

        return compared.Operator == "==" ? refers : $"(NOT {refers})";
    }

    /// <summary>Nothing equals nothing, and differs from everything else: never the third truth value.</summary>
    private string Compared(string column, string comparison, Field field, object? value, Expression part) =>
        comparison switch
        {
            "==" => value is null ? $"(NOT {columns.Filled(field, column)})" : dialect.Is(column, Constant(field, value, part)),
            "!=" => value is null ? columns.Filled(field, column) : dialect.Differs(column, Constant(field, value, part)),
            _ => $"({column} {comparison} {Constant(field, value, part)})",
        };

    /// <summary>Money counts minor units; beside another field it must count what that does.</summary>
    private static string Scaled(string column, Field field) => field.Type is FieldType.Money ? $"({column} / 100.0)" : column;

    private string Among(Expression.Binary among)
    {
        if (Known(among.Left, out var wanted))
        {
            var (list, choices) = Column(among.Right);
            return choices.Type is FieldType.Choices
                ? $"(CASE WHEN {list} IS NOT NULL THEN {dialect.Holds(list, Parameter(wanted))} END)"
                : throw Cannot(among);
        }

        var (column, field) = Column(among.Left);
        if (!Known(among.Right, out var several) || several is not IReadOnlyList<object?> values)
        {
            throw Cannot(among);
        }

        // A list of comparisons, because what is empty is among nothing but the empty.
        return values.Count == 0
            ? dialect.False
            : $"({string.Join(" OR ", values.Select(value => Compared(column, "==", field, value, among.Right)))})";
    }

    private string Text(Expression.Call call)
    {
        var (column, field) = Column(call.Arguments[0]);
        if (
            field.Type is not (FieldType.LongText or FieldType.Choice) && !field.Type.IsShortText()
            || !Known(call.Arguments[1], out var known)
            || known is not string
        )
        {
            throw Cannot(call);
        }

        var part = Parameter(known);
        return call.Function switch
        {
            "contains" => $"({dialect.Position(column, part)} > 0)",
            "startsWith" => $"(substr({column}, 1, length({part})) = {part})",
            _ => $"(length({part}) <= length({column}) AND substr({column}, length({column}) - length({part}) + 1) = {part})",
        };
    }

    /// <summary>The column an expression reads: of the record, or one step through a reference.</summary>
    private (string Sql, Field Field) Column(Expression part)
    {
        if (part is not Expression.Select { Target: Expression.Name { Identifier: "record" }, Field: var read })
        {
            throw Cannot(part);
        }

        var own = entity.Find(Expression.Own(read)) ?? throw Cannot(part);
        if (own.Key == read)
        {
            return (columns.Own(own) ?? throw Cannot(part), own);
        }

        return
            own.Target is { } key
            && definitions.Entities.GetValueOrDefault(key) is { } target
            && target.Find(read[(own.Key.Length + 1)..]) is { } field
            && columns.Step(own, target, field) is { } step
            ? (step, field)
            : throw Cannot(part);
    }

    /// <summary>What does not look at the record is worked out beforehand; a failure is nothing.</summary>
    private bool Known(Expression part, out object? value)
    {
        value = null;
        if (part.OfRecord().Any() || part is Expression.Name { Identifier: "record" })
        {
            return false;
        }

        value = Evaluator.Evaluate(part, surroundings) is var outcome and not Failure ? outcome : null;
        return true;
    }

    private string Constant(Field field, object? value, Expression part) =>
        value switch
        {
            null => "NULL",
            // A day beside a moment is that day's beginning.
            Moment moment when field.Type is FieldType.Date => moment.ToDateTimeOffset() is { TimeOfDay.Ticks: 0 } day
                ? Parameter(field, DateOnly.FromDateTime(day.UtcDateTime))
                : Parameter(dialect.Stamp(moment.ToDateTimeOffset())),
            Moment moment when field.Type is FieldType.DateTime => Parameter(field, moment.ToDateTimeOffset()),
            long number when field.Type is FieldType.Money => Parameter(number * 100),
            double number when field.Type is FieldType.Money => Parameter(number * 100),
            // As exact as it is written: an index of exact decimals leads to no other number.
            double number when field.Type is FieldType.Decimal && Math.Abs(number) < 1e15 => Parameter(field, (decimal)number),
            long or double when field.Type.IsNumber() || field.Type is FieldType.Reference => Parameter(value),
            bool flag when field.Type is FieldType.Boolean => Parameter(field, flag),
            string text when field.Type is FieldType.Time => TimeOnly.TryParse(text, CultureInfo.InvariantCulture, out var time)
                ? Parameter(field, time)
                : throw Cannot(part),
            string when field.Type is not (FieldType.Date or FieldType.DateTime) && !field.Type.IsNumber() => Parameter(field, value),
            _ => throw Cannot(part),
        };

    private string Parameter(Field field, object value) => Parameter(columns.Value(field, value));

    private string Parameter(object? value)
    {
        var name = string.Create(CultureInfo.InvariantCulture, $"c{number}x{count++}");
        parameters.Add(name, value);
        return "@" + name;
    }

    private static NotForDatabaseException Cannot(Expression part) =>
        new(
            part.At,
            $"a database cannot decide this; a filter compares fields with values, asks 'in', 'has', 'contains', 'startsWith' "
                + $"or 'endsWith', and joins such parts with &&, || and !"
        );
}
