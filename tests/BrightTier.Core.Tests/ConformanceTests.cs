using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Conditions;

namespace BrightTier.Core.Tests;

/// <summary>
/// The official CEL conformance data, for the features conditions have. tests/vectors/cel.json says which are left out and why; `make
/// vectors` makes it anew.
/// </summary>
public sealed class ConformanceTests(ITestOutputHelper output)
{
    private static readonly string Path = System.IO.Path.Combine(Demo.Folder, "..", "tests", "vectors", "cel.json");

    private static readonly JsonDocument Vectors = JsonDocument.Parse(File.ReadAllText(Path));

    [Fact]
    public void Every_test_of_a_feature_that_is_kept_passes()
    {
        var failures = new List<string>();
        var count = 0;
        foreach (var test in Vectors.RootElement.GetProperty("tests").EnumerateArray())
        {
            count++;
            var outcome = Run(test);
            var expected = test.TryGetProperty("value", out var value) ? Read(value) : null;
            if (value.ValueKind is JsonValueKind.Undefined ? outcome is not Failure : outcome is Failure || !Same(expected, outcome))
            {
                failures.Add($"{test.GetProperty("name")}: {test.GetProperty("expression")} gave {outcome ?? "null"}");
            }
        }

        output.WriteLine(
            $"CEL conformance, C#: {count - failures.Count} passed of {count} in scope, of "
                + $"{Vectors.RootElement.GetProperty("needingNoMessage")} that need no Protobuf message"
        );
        failures.ShouldBeEmpty();
        count.ShouldBe(Vectors.RootElement.GetProperty("inScope").GetInt32());
        count.ShouldBeGreaterThan(700);
    }

    /// <summary>The trees the browser's run of the same data evaluates; BRIGHTTIER_WRITE_VECTORS=1 writes them anew.</summary>
    [Fact]
    public void The_data_carries_the_trees_that_travel_to_the_browser()
    {
        var lines = File.ReadAllLines(Path);
        for (var i = 0; i < lines.Length; i++)
        {
            if (!lines[i].StartsWith("    {\"name\"", StringComparison.Ordinal))
            {
                continue;
            }

            var test = JsonNode.Parse(lines[i].TrimEnd(','))!.AsObject();
            var compiled = Parser.Parse(test["expression"]!.GetValue<string>()).Expression is { } expression
                ? ConditionTests.Compiled(expression)
                : null;
            if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
            {
                test.Remove("compiled");
                if (compiled is not null || test["fails"] is null)
                {
                    test.Add("compiled", compiled?.DeepClone());
                }

                lines[i] =
                    "    "
                    + test.ToJsonString(new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping })
                    + (lines[i].EndsWith(',') ? "," : "");
            }

            JsonNode.DeepEquals(test["compiled"], compiled).ShouldBeTrue(lines[i]);
        }

        if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
        {
            File.WriteAllText(Path, string.Join('\n', lines) + "\n");
        }
    }

    private static object? Run(JsonElement test)
    {
        var (expression, problem) = Parser.Parse(test.GetProperty("expression").GetString()!);
        if (expression is null)
        {
            return new Failure(problem!.Message);
        }

        var names = new Dictionary<string, object?>(StringComparer.Ordinal);
        if (test.TryGetProperty("bindings", out var bindings))
        {
            foreach (var binding in bindings.EnumerateObject())
            {
                names[binding.Name] = Read(binding.Value);
            }
        }

        return Evaluator.Evaluate(expression, new EvaluationContext(names));
    }

    internal static object? Read(JsonElement value)
    {
        var (kind, content) = value.EnumerateObject().Select(each => (each.Name, each.Value)).Single();
        return kind switch
        {
            "nullValue" => null,
            "boolValue" => content.GetBoolean(),
            "int64Value" => long.Parse(content.ToString(), CultureInfo.InvariantCulture),
            "doubleValue" => double.Parse(content.ToString(), CultureInfo.InvariantCulture),
            "stringValue" => content.GetString(),
            "listValue" => content.TryGetProperty("values", out var values) ? values.EnumerateArray().Select(Read).ToArray() : [],
            "mapValue" => Map(content),
            _ => throw new NotSupportedException(kind),
        };
    }

    private static MapValue Map(JsonElement content)
    {
        var map = new MapValue();
        foreach (var entry in content.TryGetProperty("entries", out var entries) ? entries.EnumerateArray() : default)
        {
            map.TryAdd(Read(entry.GetProperty("key")), Read(entry.GetProperty("value"))).ShouldBeTrue();
        }

        return map;
    }

    /// <summary>Equal and of one type: 1 and 1.0 are equal in the language but not the same answer.</summary>
    private static bool Same(object? expected, object? actual) =>
        (expected, actual) switch
        {
            (double a, double b) => a.Equals(b),
            (IReadOnlyList<object?> a, IReadOnlyList<object?> b) => a.Count == b.Count
                && a.Zip(b).All(pair => Same(pair.First, pair.Second)),
            (MapValue a, MapValue b) => a.Count == b.Count
                && a.AllKeys.All(key => b.TryGet(key, out var there) && a.TryGet(key, out var here) && Same(here, there)),
            _ => Equals(expected, actual),
        };
}
