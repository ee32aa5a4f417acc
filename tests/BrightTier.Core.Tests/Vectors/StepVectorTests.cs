using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>
/// Conditions over records as they travel, and over records that their references lead to, with fields of every type: what they come to is
/// in tests/vectors/steps.json, and the form in the browser (web/form) comes to the same.
/// </summary>
public sealed class StepVectorTests
{
    private const string Name = "steps.json";

    private static readonly DateTimeOffset Now = new(2026, 5, 31, 14, 30, 0, TimeSpan.Zero);

    /// <summary>Every type with values as clients send them.</summary>
    private static readonly (FieldType Type, string[] Values)[] Types =
    [
        (FieldType.Text, ["\"\"", "\"Kittiwake\"", "\"a\"", "\"Ñandú 🐱\""]),
        (FieldType.Integer, ["0", "7", "-3", "9007199254740991"]),
        (FieldType.Decimal, ["0", "3.5", "0.1", "0.3", "-1.25", "123456789012.345"]),
        (FieldType.Money, ["0", "19.99", "20", "90071992547409.91", "-0.01"]),
        (FieldType.Boolean, ["true", "false"]),
        (FieldType.Date, ["\"2026-05-31\"", "\"2026-06-01\"", "\"0001-01-01\"", "\"9999-12-31\""]),
        (FieldType.Time, ["\"14:30\"", "\"14:30:59\"", "\"00:00\""]),
        (
            FieldType.DateTime,
            ["\"2026-05-31T00:00:00Z\"", "\"2026-05-31T14:30:00Z\"", "\"2026-05-31T14:30:00.5Z\"", "\"2026-05-31T16:30:00+02:00\""]
        ),
        (FieldType.Choices, ["[]", "[\"vhf\"]", "[\"lifeRaft\",\"vhf\"]"]),
        (FieldType.Rating, ["1", "5"]),
    ];

    private static readonly Entity Berth = Of("berth", []);

    private static readonly Entity Trip = Of(
        "trip",
        [
            new Field
            {
                Key = "berth",
                Label = Texts.Of("Berth"),
                Type = FieldType.Reference,
                Target = "berth",
            },
        ]
    );

    private static readonly Definitions Around = Definitions.Empty.With(Berth).With(Trip);

    private static Entity Of(string key, Field[] more) =>
        new()
        {
            Key = key,
            Label = Texts.Of(key),
            Plural = Texts.Of(key),
            Display = "{text}",
            Fields =
            [
                .. Types.Select(each => new Field
                {
                    Key = each.Type.Name(),
                    Label = Texts.Of(each.Type.Name()),
                    Type = each.Type,
                    Scale = 3,
                }),
                .. more,
            ],
        };

    private static Gen<T> One<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    private static readonly Gen<string> Read = Gen.Select(
        One("record.", "record.berth."),
        One([.. Types.Select(each => each.Type.Name())]),
        (of, field) => of + field
    );

    private static readonly Gen<string> Value = Gen.Frequency(
        (6, Read),
        (1, One("record.berth", "today", "now", "today + duration('24h')", "null", "3", "0.3", "'14:30'", "'Kittiwake'", "['vhf']")),
        (1, Gen.Select(Read, One("+", "-", "*"), Read, (a, op, b) => $"({a} {op} {b})")),
        (1, Gen.Select(One("size", "string", "int", "double"), Read, (call, a) => $"{call}({a})")),
        (1, Gen.Select(Read, One("getFullYear", "getHours", "getDayOfWeek"), (a, call) => $"{a}.{call}()"))
    );

    private static readonly Gen<string> Truth = Gen.Frequency(
        (8, Gen.Select(Value, One("<", "<=", ">", ">=", "==", "!="), Value, (a, op, b) => $"{a} {op} {b}")),
        (1, Gen.Select(Read, a => $"has({a})")),
        (1, Gen.Select(Value, Read, (a, b) => $"{a} in {b}")),
        (1, One("record.boolean", "record.berth.boolean", "!record.berth.boolean || record.boolean"))
    );

    /// <summary>Most of what is put together at random has types that do not go together.</summary>
    private static readonly Gen<string> Compiling = Truth.Where(text => Condition.CompileAnew(text, Trip, Around).Expression is not null);

    private static readonly Gen<JsonObject> Record = Gen.Select(Gen.Int[0, 5].Array[Types.Length], Gen.Int[0, 7].Array[Types.Length])
        .Select(
            (chosen, gaps) =>
                new JsonObject(
                    Types
                        .Select((each, i) => (each.Type, each.Values[chosen[i] % each.Values.Length], Gap: gaps[i] == 0))
                        .Where(each => !each.Gap)
                        .Select(each => KeyValuePair.Create(each.Type.Name(), JsonNode.Parse(each.Item2)))
                )
        );

    private static readonly Gen<JsonObject> Case = Gen.Select(Compiling, Record, Record, Gen.Int[0, 4], (text, record, berth, gap) =>
    {
        if (gap > 0)
        {
            record["berth"] = gap;
        }

        return new JsonObject
        {
            ["expression"] = text,
            ["record"] = record,
            ["berth"] = berth,
        };
    });

    private static JsonNode Outcome(JsonObject each)
    {
        var expression = Condition.CompileAnew(each["expression"]!.GetValue<string>(), Trip, Around).Expression!;
        var record = Values(Trip, each["record"]!);
        var related = ImmutableDictionary<string, IReadOnlyDictionary<string, object?>>.Empty;
        if (record["berth"] is not null)
        {
            related = related.Add("berth", Values(Berth, each["berth"]!));
        }

        var names = EvaluationContext.Of(
            Condition.Values(Trip, record, related, expression.Reads()),
            "bram",
            [],
            "edit",
            "en",
            new DateTimeOffset(Now.Date, TimeSpan.Zero),
            Now
        );
        return Evaluator.Holds(expression, names) is { } holds ? JsonValue.Create(holds) : JsonValue.Create("fails");
    }

    private static Dictionary<string, object?> Values(Entity entity, JsonNode record) =>
        entity.Fields.ToDictionary(
            field => field.Key,
            field =>
            {
                using var json = JsonDocument.Parse(record[field.Key]?.ToJsonString() ?? "null");
                FieldValues.Read(field, json.RootElement, out var value).ShouldBeNull(record.ToJsonString());
                return value;
            },
            StringComparer.Ordinal
        );

    [Fact]
    public void Conditions_that_step_through_a_reference_carry_what_they_come_to()
    {
        if (VectorFiles.Writes)
        {
            var made = new List<JsonNode>();
            Case.Sample(
                each =>
                {
                    var expression = Condition.CompileAnew(each["expression"]!.GetValue<string>(), Trip, Around).Expression!;
                    var left = Reducer.Reduce(expression, Reducer.Viewer([], "edit", "en"));
                    each["compiled"] = ConditionTests.Compiled(left);
                    each["reads"] = new JsonArray([.. left.Reads().Select(read => (JsonNode)read)]);
                    each["outcome"] = Outcome(each);
                    made.Add(each);
                },
                seed: "0000KOIPHMp4",
                iter: 1_500,
                threads: 1
            );
            VectorFiles.Write(Name, new JsonObject(), made);
        }

        var cases = VectorFiles.Read(Name)["cases"]!.AsArray().Select(each => each!.AsObject()).ToArray();
        foreach (var each in cases)
        {
            Outcome(each).ToJsonString().ShouldBe(each["outcome"]!.ToJsonString(), each.ToJsonString());
        }

        // Each outcome comes up often enough to be worth asking for.
        cases.GroupBy(each => each["outcome"]!.ToJsonString()).ShouldAllBe(group => group.Count() > 100);
    }
}
