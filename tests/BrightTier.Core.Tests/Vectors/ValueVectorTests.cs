using System.Globalization;
using System.Numerics;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>
/// Which values a field takes, as tests/vectors/values.json says: the form in the browser (web/form) is held to the same file.
/// </summary>
public sealed class ValueVectorTests
{
    private const string Name = "values.json";

    private static Field FieldOf(JsonObject each) =>
        new()
        {
            Key = "value",
            Label = Texts.Of("Value"),
            Type = Enum.Parse<FieldType>(each["type"]!.GetValue<string>(), ignoreCase: true),
            Scale = each["scale"]?.GetValue<int>() ?? 2,
            Min = each["min"]?.GetValue<decimal>(),
            Max = each["max"]?.GetValue<decimal>(),
            MaxLength = each["maxLength"]?.GetValue<int>(),
        };

    /// <summary>What is wrong with the value; null where the field takes it.</summary>
    private static Message? Problem(JsonObject each)
    {
        using var value = JsonDocument.Parse(each["value"]!.ToJsonString());
        var field = FieldOf(each);
        return FieldValues.Read(field, value.RootElement, out var read) ?? FieldValues.Check(field, read, Demo.Definitions, "en");
    }

    [Fact]
    public void Fields_take_the_values_they_are_said_to()
    {
        if (VectorFiles.Writes)
        {
            VectorFiles.Write(
                Name,
                new JsonObject(),
                Cases()
                    .Select(made =>
                    {
                        var each = JsonNode.Parse(made.ToJsonString())!.AsObject();
                        if (Problem(each) is { } problem)
                        {
                            each["refused"] = problem.English;
                        }

                        return (JsonNode)each;
                    })
            );
        }

        var cases = VectorFiles.Read(Name)["cases"]!.AsArray().Select(each => each!.AsObject()).ToArray();
        cases.Length.ShouldBeGreaterThan(2_000);
        foreach (var each in cases)
        {
            (Problem(each)?.English).ShouldBe(each["refused"]?.GetValue<string>(), each.ToJsonString());
        }

        // Neither side says yes, or no, to everything of a kind.
        foreach (var kind in cases.GroupBy(each => each["type"]!.GetValue<string>()))
        {
            kind.Count(each => each["refused"] is null).ShouldBeInRange(kind.Count() / 20, kind.Count() * 19 / 20, kind.Key);
        }
    }

    private static readonly string[] Addresses =
    [
        "a.wader@example.org",
        "a@b",
        "@",
        "a@",
        "@b",
        "a@b@c",
        "a @b",
        "a@b ",
        "a@b\u00a0c",
        "a@b\u0085",
        "a@b\ufeff",
        "ü@é",
        "a@b\n",
        "a@[::1]",
        "x\u3000@y",
        "a,b@c;d",
        "https://example.org",
        "HTTPS://Example.org/",
        "hTTp://a",
        "http:/a",
        "http//a",
        "https:",
        "https://",
        "https://[",
        "https://[::1]/x",
        "https://[::1",
        "https://a]b",
        "https://a:80",
        "https://a:80/",
        "https://a:",
        "https://a:99999",
        "https://a:65535?q",
        "https://a:8o",
        "https://u:p@a/",
        "https://@a",
        "https://a@",
        "https://a b",
        "https://a/b c",
        "https://a/\tb",
        "ftp://a",
        "javascript:alert(1)",
        " https://a",
        "https://a ",
        "https://a\n",
        "https://a?b#c",
        "https://?b",
        "https://#",
        "https://a\\b",
        "https://münchen.example/ü",
        "https://a/\u2028",
        "data:text/plain,https://a",
        "https://a..b/",
    ];

    private static readonly double[] Numbers =
    [
        0,
        1,
        -1,
        5,
        6,
        0.1,
        0.25,
        0.3,
        0.30000000000000004,
        1.005,
        1.5,
        2.345,
        9.99,
        99.999,
        1e-6,
        1e-7,
        1e-9,
        5e-324,
        12.000001,
        1234.5,
        1e9,
        1e12,
        999999999999999,
        1e15,
        1e16,
        1e21,
        1e300,
        90071992547409.91,
        90071992547409.92,
        9007199254740991,
        9007199254740992,
        9223372036854774784,
        9223372036854775808,
        -9223372036854775808,
        0.0000001,
        123456.7891,
        4.35,
        8.005,
        1.1 * 3,
    ];

    private static readonly string[] Pieces =
    [
        "a",
        "é",
        "😀",
        " ",
        "\t",
        "\n",
        "\u0000",
        "\u001f",
        "\u007f",
        "\u0085",
        "\ufffe",
        "\uffff",
        "\u200d",
        "اللغة",
        "<b>",
        "0",
    ];

    private static IEnumerable<JsonObject> Cases()
    {
        var chance = new Random(20);
        foreach (var type in new[] { "email", "url" })
        {
            foreach (var text in Addresses)
            {
                yield return new JsonObject { ["type"] = type, ["value"] = text };
                // What is taken, with one character put in, left out or changed.
                for (var i = 0; i < 8; i++)
                {
                    yield return new JsonObject { ["type"] = type, ["value"] = Changed(text, chance) };
                }
            }
        }

        foreach (var type in new[] { "integer", "rating", "decimal", "money" })
        {
            for (var i = 0; i < 320; i++)
            {
                var number = chance.Next(3) switch
                {
                    0 => Numbers[chance.Next(Numbers.Length)],
                    1 => Math.Round((chance.NextDouble() - 0.3) * 20, chance.Next(8)),
                    _ => chance.Next(-3, 12),
                };
                var each = new JsonObject { ["type"] = type, ["value"] = Json(chance.Next(4) == 0 ? -number : number) };
                if (type == "decimal")
                {
                    each["scale"] = chance.Next(7);
                }

                if (chance.Next(3) == 0)
                {
                    each["min"] = chance.Next(-4, 4);
                }

                if (chance.Next(3) == 0)
                {
                    each["max"] = chance.Next(3, 10) / 2m;
                }

                yield return each;
            }
        }

        foreach (var type in new[] { "text", "longText" })
        {
            for (var i = 0; i < 150; i++)
            {
                yield return new JsonObject
                {
                    ["type"] = type,
                    ["maxLength"] = chance.Next(1, 8),
                    ["value"] = string.Concat(
                        Enumerable.Range(0, chance.Next(1, 6)).Select(_ => Pieces[chance.Next(chance.Next(2) == 0 ? 4 : Pieces.Length)])
                    ),
                };
            }
        }
    }

    /// <summary>As a browser writes it: whole numbers below 10^21 in digits (ECMA-262, 6.1.6.1.20).</summary>
    private static JsonNode Json(double number) =>
        number == Math.Floor(number) && Math.Abs(number) < 1e21
            ? JsonNode.Parse(new BigInteger(number).ToString(CultureInfo.InvariantCulture))!
            : JsonValue.Create(number);

    private static string Changed(string text, Random chance)
    {
        const string Others = "@:/[]#? .\u00a0\u3000ab9é\\";
        var at = chance.Next(text.Length);
        var other = Others[chance.Next(Others.Length)].ToString();
        return chance.Next(3) switch
        {
            0 => text.Insert(at, other),
            1 => text.Remove(at, 1),
            _ => text.Remove(at, 1).Insert(at, other),
        };
    }
}
