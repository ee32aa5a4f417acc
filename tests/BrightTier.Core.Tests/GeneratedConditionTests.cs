using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Conditions;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>
/// Conditions nobody thought of: what holds for all of them, and that browser and service agree on them (tests/vectors/generated.json).
/// </summary>
public sealed class GeneratedConditionTests
{
    private static readonly string Path = System.IO.Path.Combine(Demo.Folder, "..", "tests", "vectors", "generated.json");

    private static Gen<T> One<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    private static readonly Gen<string> Number = One(
        "record.length",
        "record.beam",
        "3.5",
        "0.0",
        "-1.25",
        "double(record.engineHours)",
        "1e21"
    );

    private static readonly Gen<string> Whole = One(
        "record.engineHours",
        "size(record.name)",
        "size(record.equipment)",
        "7",
        "0",
        "-3",
        "9223372036854775807",
        "int(record.length)"
    );

    private static readonly Gen<string> Word = One(
        "record.name",
        "record.propulsion",
        "'sail'",
        "'Kittiwake'",
        "mode",
        "string(record.engineHours)",
        "string(record.length)",
        "''",
        "'🐱'"
    );

    private static readonly Gen<string> List = One(
        "record.equipment",
        "['vhf', 'sail', 'Kittiwake']",
        "record.equipment + ['edit']",
        "record.equipment.filter(e, e != 'vhf')",
        "user.roles",
        "record.equipment.map(e, e + '!')"
    );

    private static Gen<string> Truth(int depth) =>
        depth == 0
            ? Gen.OneOf(
                One("record.livesAboard", "has(record.name)", "has(record.propulsion)", "record.propulsion == null", "true"),
                Gen.Select(Number, One("<", "<=", ">", ">=", "==", "!="), Number, (a, op, b) => $"{a} {op} {b}"),
                Gen.Select(Whole, One("+", "-", "*", "/", "%"), Whole, One("<", "=="), Whole, (a, op, b, than, c) =>
                    $"{a} {op} {b} {than} {c}"
                ),
                Gen.Select(Word, One("==", "!=", "<", ">="), Word, (a, op, b) => $"dyn({a}) {op} {b}"),
                Gen.Select(Word, One("contains", "startsWith", "endsWith"), Word, (a, call, b) => $"{a}.{call}({b})"),
                Gen.Select(Word, One("^[a-z]+$", "(?i)KITTI", "w{1,2}", "[^s]a|\\\\d", "\\\\pL{4}", "a*?i?l$"), (a, pattern) =>
                    $"{a}.matches('{pattern}')"
                ),
                Gen.Select(Word, List, (a, b) => $"{a} in {b}"),
                Gen.Select(List, One("all", "exists", "exists_one"), Word, (a, macro, b) => $"{a}.{macro}(each, each == {b})")
            )
            : Gen.OneOf(
                Gen.Select(Truth(depth - 1), One("&&", "||"), Truth(depth - 1), (a, op, b) => $"({a}) {op} ({b})"),
                Gen.Select(Truth(depth - 1), a => $"!({a})"),
                Gen.Select(Truth(depth - 1), Truth(0), Truth(0), (a, b, c) => $"({a}) ? ({b}) : ({c})")
            );

    private static readonly Gen<Dictionary<string, object?>> Record = Gen.Select(
        One<object?>(null, "Kittiwake", "sail", "", "Ñandú"),
        One<object?>(null, "sail", "diesel"),
        One<object?>(null, 0.0, 3.5, 9.75, -1.25),
        One<object?>(null, 0L, 7L, 120L),
        One<object?>(null, true, false),
        One<object?>(null, Array.Empty<object?>(), new object?[] { "vhf" }, new object?[] { "vhf", "lifeRaft", "sail" }),
        (name, propulsion, length, hours, aboard, equipment) =>
            new Dictionary<string, object?>
            {
                ["name"] = name,
                ["propulsion"] = propulsion,
                ["length"] = length,
                ["beam"] = 3.5,
                ["engineHours"] = hours,
                ["livesAboard"] = aboard,
                ["equipment"] = equipment,
            }
    );

    /// <summary>Something of any type at all, right or not: partial evaluation looks at trees, not at types.</summary>
    private static Gen<string> Anything(int depth) =>
        depth == 0
            ? Gen.OneOf(
                One("record.livesAboard", "record.name", "record.engineHours", "record.missing", "null", "true", "false", "1", "'edit'"),
                One("mode", "user.roles", "locale", "mode == 'edit'", "mode == 'view'", "'quay-hand' in user.roles", "1 / 0", "user.id"),
                List
            )
            : Gen.OneOf(
                Gen.Select(Anything(depth - 1), One("&&", "||", "&&", "||", "==", "!=", "<", "in", "+"), Anything(depth - 1), (a, op, b) =>
                    $"({a}) {op} ({b})"
                ),
                Gen.Select(Anything(depth - 1), a => $"!({a})"),
                Gen.Select(Anything(depth - 1), Anything(depth - 1), (a, b) => $"[{a}, {b}] == [{b}, {a}]"),
                Gen.Select(Anything(depth - 1), Anything(depth - 1), (a, b) => $"{{'edit': {a}, 'k': {b}}}[mode]"),
                Gen.Select(Anything(depth - 1), Anything(depth - 1), (a, b) => $"[{a}].exists(mode, {b})"),
                Gen.Select(Anything(depth - 1), Anything(depth - 1), (a, b) => $"[{a}].map(e, {b}) == [null]"),
                Gen.Select(Anything(depth - 1), Anything(0), Anything(depth - 1), (a, b, c) => $"({a}) ? ({b}) : ({c})")
            );

    /// <summary>What is left of a condition comes to what the whole does, errors and empty values among it, for any record.</summary>
    [Fact]
    public void What_partial_evaluation_leaves_equals_the_whole() =>
        Gen.Select(Gen.OneOf(Anything(1), Anything(2), Anything(3)), Record)
            .Sample(
                (text, record) =>
                {
                    var expression = Parser.Parse(text).Expression.ShouldNotBeNull(text);
                    var known = Reducer.Viewer(["quay-hand"], "edit", "nl");
                    Evaluator
                        .Holds(Reducer.Reduce(expression, known), Around(record))
                        .ShouldBe(Evaluator.Holds(expression, Around(record)), text);
                    Spelled(Evaluator.Evaluate(Reducer.ReduceValue(expression, known), Around(record)))
                        .ShouldBe(Spelled(Evaluator.Evaluate(expression, Around(record))), text);
                },
                iter: 20_000
            );

    private static string Spelled(object? value) =>
        value switch
        {
            Failure => "fails",
            IReadOnlyList<object?> list => $"[{string.Join(", ", list.Select(Spelled))}]",
            string text => $"'{text}'",
            _ => $"{value?.GetType().Name} {value}",
        };

    private static readonly Gen<string> Any = Gen.OneOf(Truth(0), Truth(1), Truth(2));

    [Fact]
    public void Deciding_early_what_is_known_changes_no_outcome() =>
        Gen.Select(Any, Record)
            .Sample(
                (text, record) =>
                {
                    var expression = Parser.Parse(text).Expression.ShouldNotBeNull(text);
                    var early = Reducer.Reduce(expression, Reducer.Viewer(["quay-hand"], "edit", "nl"));
                    Evaluator.Holds(early, Around(record)).ShouldBe(Evaluator.Holds(expression, Around(record)), text);
                },
                iter: 5_000
            );

    /// <summary>BRIGHTTIER_WRITE_VECTORS=1 makes the vectors anew, from a fixed seed.</summary>
    [Fact]
    public void The_vectors_hold_what_the_service_finds()
    {
        if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
        {
            var made = new List<string>();
            Gen.Select(Any, Record)
                .Sample(
                    (text, record) =>
                    {
                        var expression = Parser.Parse(text).Expression!;
                        var vector = new JsonObject
                        {
                            ["expression"] = text,
                            ["record"] = new JsonObject(
                                record.Select(pair => KeyValuePair.Create<string, JsonNode?>(pair.Key, Bound(pair.Value)))
                            ),
                            ["outcome"] = Outcome(Evaluator.Holds(expression, Around(record))),
                            ["compiled"] = ConditionTests.Compiled(expression),
                        };
                        lock (made)
                        {
                            made.Add(vector.ToJsonString(new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping }));
                        }
                    },
                    seed: "0000KOIPHMp4",
                    iter: 500,
                    threads: 1
                );
            File.WriteAllText(Path, "[\n" + string.Join(",\n", made) + "\n]\n");
        }

        using var vectors = JsonDocument.Parse(File.ReadAllText(Path));
        foreach (var vector in vectors.RootElement.EnumerateArray())
        {
            var text = vector.GetProperty("expression").GetString()!;
            var record = vector
                .GetProperty("record")
                .EnumerateObject()
                .ToDictionary(each => each.Name, each => ConformanceTests.Read(each.Value));
            Outcome(Evaluator.Holds(Parser.Parse(text).Expression!, Around(record)))
                .ToJsonString()
                .ShouldBe(vector.GetProperty("outcome").GetRawText(), text);
        }
    }

    private static JsonNode Outcome(bool? holds) => holds is { } known ? JsonValue.Create(known) : JsonValue.Create("fails");

    private static JsonNode Bound(object? value) =>
        value switch
        {
            null => new JsonObject { ["nullValue"] = 0 },
            bool flag => new JsonObject { ["boolValue"] = flag },
            long whole => new JsonObject { ["int64Value"] = whole.ToString(CultureInfo.InvariantCulture) },
            double number => new JsonObject { ["doubleValue"] = number },
            string text => new JsonObject { ["stringValue"] = text },
            object?[] list => new JsonObject { ["listValue"] = new JsonObject { ["values"] = new JsonArray([.. list.Select(Bound)]) } },
            _ => throw new NotSupportedException(),
        };

    private static EvaluationContext Around(Dictionary<string, object?> record) =>
        EvaluationContext.Of(record, "bram", ["quay-hand"], "edit", "nl", default, default);
}
