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
        switch (expression)
        {
            case Expression.Literal literal:
                WriteLiteral(writer, literal.Value);
                return;
            case Expression.Name name:
                Open("name");
                writer.WriteStringValue(name.Identifier);
                break;
            case Expression.Select select:
                Open("get");
                Write(writer, select.Target);
                writer.WriteStringValue(select.Field);
                break;
            case Expression.Has has:
                Open("has");
                Write(writer, has.Operand.Target);
                writer.WriteStringValue(has.Operand.Field);
                break;
            case Expression.Index index:
                Open("at");
                Write(writer, index.Target);
                Write(writer, index.Key);
                break;
            case Expression.Unary unary:
                Open(unary.Operator == "!" ? "not" : "neg");
                Write(writer, unary.Operand);
                break;
            case Expression.Binary binary:
                Open(binary.Operator);
                Write(writer, binary.Left);
                Write(writer, binary.Right);
                break;
            case Expression.Conditional conditional:
                Open("?");
                Write(writer, conditional.Test);
                Write(writer, conditional.Then);
                Write(writer, conditional.Otherwise);
                break;
            case Expression.ListOf list:
                Open("list");
                foreach (var element in list.Elements)
                {
                    Write(writer, element);
                }

                break;
            case Expression.MapOf map:
                Open("map");
                foreach (var (key, value) in map.Entries)
                {
                    Write(writer, key);
                    Write(writer, value);
                }

                break;
            case Expression.Over over:
                Open("over");
                writer.WriteStringValue(over.Macro);
                Write(writer, over.Target);
                writer.WriteStringValue(over.Variable);
                Write(writer, over.Body);
                if (over.Only is { } only)
                {
                    Write(writer, only);
                }

                break;
            case Expression.Matches matches:
                Open("matches");
                Write(writer, matches.Target);
                Write(writer, matches.Pattern);
                break;
            case Expression.Call call:
                Open("call");
                writer.WriteStringValue(call.Function);
                foreach (var argument in call.Arguments)
                {
                    Write(writer, argument);
                }

                break;
        }

        writer.WriteEndArray();

        void Open(string operation)
        {
            writer.WriteStartArray();
            writer.WriteStringValue(operation);
        }
    }

    /// <summary>
    /// A list of steps: <c>{"take": [first, last, …], "categories": [], "not": true, "fold": true}</c>, <c>{"split": [a, b]}</c>,
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
                    Flag("fold", take.Fold);
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
