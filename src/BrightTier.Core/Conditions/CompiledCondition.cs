using System.Text.Json;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Conditions;

/// <summary>
/// The form in which a condition travels to the browser: nested arrays with the operation first, as docs/model.md describes.
/// Literals stand for themselves, save whole numbers, which are <c>{"int": "12"}</c> because JSON has only one kind of number.
/// </summary>
public static class CompiledCondition
{
    public static void Write(Utf8JsonWriter writer, Expression expression)
    {
        if (expression is Expression.Literal literal)
        {
            WriteLiteral(writer, literal.Value);
            return;
        }

        var (operation, parts) = Parts(expression);
        writer.WriteStartArray();
        writer.WriteStringValue(operation);
        foreach (var part in parts)
        {
            switch (part)
            {
                case Expression inner:
                    Write(writer, inner);
                    break;
                case PatternProgram program:
                    Write(writer, program);
                    break;
                default:
                    writer.WriteStringValue((string)part);
                    break;
            }
        }

        writer.WriteEndArray();
    }

    /// <summary>What stands in the array of an expression: its operation, then expressions, patterns and names.</summary>
    private static (string Operation, object[] Parts) Parts(Expression expression) =>
        expression switch
        {
            Expression.Name name => ("name", [name.Identifier]),
            Expression.Select select => ("get", [select.Target, select.Field]),
            Expression.Has has => ("has", [has.Operand.Target, has.Operand.Field]),
            Expression.Index index => ("at", [index.Target, index.Key]),
            Expression.Unary unary => (unary.Operator == "!" ? "not" : "neg", [unary.Operand]),
            Expression.Binary binary => (binary.Operator, [binary.Left, binary.Right]),
            Expression.Conditional conditional => ("?", [conditional.Test, conditional.Then, conditional.Otherwise]),
            Expression.ListOf list => ("list", [.. list.Elements]),
            Expression.MapOf map => ("map", [.. map.Entries.SelectMany(entry => new[] { entry.Key, entry.Value })]),
            Expression.Over { Only: { } only } over => ("over", [over.Macro, over.Target, over.Variable, over.Body, only]),
            Expression.Over over => ("over", [over.Macro, over.Target, over.Variable, over.Body]),
            Expression.Matches matches => ("matches", [matches.Target, matches.Pattern]),
            Expression.Call call => ("call", [call.Function, .. call.Arguments]),
            _ => throw new InvalidOperationException($"{expression.GetType().Name} has no compiled form."),
        };

    /// <summary>
    /// A list of steps: <c>{"take": [first, last, …], "categories": [], "not": true}</c>, <c>{"split": [a, b]}</c>,
    /// <c>{"jump": a}</c>,
    /// <c>{"at": place}</c> and, last, <c>{"match": true}</c>. Browsers run it as <see cref="PatternProgram"/> does.
    /// </summary>
    public static void Write(Utf8JsonWriter writer, PatternProgram program)
    {
        writer.WriteStartArray();
        foreach (var step in program.Steps)
        {
            writer.WriteStartObject();
            switch (step)
            {
                case PatternStep.Take take:
                    Numbers("take", take.Ranges);
                    if (!take.Categories.IsEmpty)
                    {
                        writer.WriteStartArray("categories");
                        foreach (var category in take.Categories)
                        {
                            writer.WriteStringValue(category);
                        }

                        writer.WriteEndArray();
                    }

                    Flag("not", take.Not);
                    break;
                case PatternStep.Split split:
                    Numbers("split", [split.First, split.Second]);
                    break;
                case PatternStep.Jump jump:
                    writer.WriteNumber("jump", jump.To);
                    break;
                case PatternStep.At place:
                    writer.WriteString("at", place.Place);
                    break;
                case PatternStep.Match:
                    Flag("match", true);
                    break;
            }

            writer.WriteEndObject();
        }

        writer.WriteEndArray();

        void Numbers(string name, IEnumerable<int> numbers)
        {
            writer.WriteStartArray(name);
            foreach (var number in numbers)
            {
                writer.WriteNumberValue(number);
            }

            writer.WriteEndArray();
        }

        void Flag(string name, bool on)
        {
            if (on)
            {
                writer.WriteBoolean(name, true);
            }
        }
    }

    private static void WriteLiteral(Utf8JsonWriter writer, object? value)
    {
        switch (value)
        {
            case null:
                writer.WriteNullValue();
                break;
            case bool flag:
                writer.WriteBooleanValue(flag);
                break;
            case long whole:
                writer.WriteStartObject();
                writer.WriteString("int", whole.ToString(System.Globalization.CultureInfo.InvariantCulture));
                writer.WriteEndObject();
                break;
            case double number when double.IsFinite(number):
                writer.WriteNumberValue(number);
                break;
            case double number:
                writer.WriteStartObject();
                writer.WriteString(
                    "double",
                    double.IsNaN(number) ? "NaN"
                        : number > 0 ? "Infinity"
                        : "-Infinity"
                );
                writer.WriteEndObject();
                break;
            case string text:
                writer.WriteStringValue(text);
                break;
        }
    }
}
