using System.Globalization;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// R14: generated costly input, nested, repeated, long and fanned out, for every endpoint. Each call is answered in words, and holds no
/// core and no
/// memory. Counted is the time of processors, which other tests beside do not lengthen; BRIGHTTIER_ENDURE_COST gives what is allowed in
/// milliseconds, 2000 in make endure.
/// </summary>
public sealed partial class CostTests(ConfinedService confined, ITestOutputHelper output) : IClassFixture<ConfinedService>
{
    private static readonly int Longest = int.TryParse(
        Environment.GetEnvironmentVariable("BRIGHTTIER_ENDURE_COST"),
        CultureInfo.InvariantCulture,
        out var given
    )
        ? given
        : 6_000;

    private const long MostMemory = 700_000_000;

    private readonly ServiceProcess service = confined.Running;
    private readonly List<(string What, double Milliseconds)> taken = [];
    private int calls;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string Times(string part, int count) => string.Concat(Enumerable.Repeat(part, count));

    private async Task<int> Send(HttpClient http, string method, string path, HttpContent? body, string what)
    {
        using var request = new HttpRequestMessage(new HttpMethod(method), path) { Content = body };
        request.Headers.TryAddWithoutValidation("If-Match", "\"1\"");
        // What is too long is refused before it is sent.
        request.Headers.ExpectContinue = body is not null;
        var before = service.ProcessorTime;
        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, Cancel);
        var status = (int)answer.StatusCode;
        var refusal = "";
        if (status >= 500)
        {
            refusal = await answer.Content.ReadAsStringAsync(Cancel);
        }
        else if (answer.Content.Headers.ContentType?.MediaType != "text/event-stream")
        {
            await answer.Content.CopyToAsync(Stream.Null, Cancel);
        }

        var milliseconds = (service.ProcessorTime - before).TotalMilliseconds;
        taken.Add((what, milliseconds));
        calls++;
        status.ShouldBeLessThan(500, $"{what}: {refusal}");
        // The list of layouts checks each of them: what it costs is counted by layout, of which four here are as large as any can be.
        milliseconds.ShouldBeLessThan(what == "api/layouts" ? 4 * Longest : Longest, what);
        return status;
    }

    private void Told()
    {
        foreach (var (what, milliseconds) in taken.OrderByDescending(each => each.Milliseconds).Take(8))
        {
            output.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{milliseconds, 8:0} ms  {what[..Math.Min(what.Length, 150)]}"));
        }

        output.WriteLine($"{calls} calls, {service.Memory / 1_000_000} MB held");
        service.Memory.ShouldBeLessThan(MostMemory);
    }

    /// <summary>Texts that cost: long, nested, repeated, with many ways to go wrong.</summary>
    private static readonly string[] Texts =
    [
        new string('a', 1_000_000),
        Times("(", 200_000),
        Times("[", 100_000),
        Times("{", 100_000),
        Times("a,", 100_000),
        Times("-", 100_000),
        Times("../", 50_000),
        Times("{name}", 50_000),
        Times("a?b:", 50_000),
        Times("\n", 200_000),
        Times("\uD83D\uDEA4", 100_000),
        Times("(a|", 30_000),
        "(a{1000}){1000}",
        Times("[a-z0-9]{1000}", 100),
    ];

    [Fact]
    public async Task Bodies_of_every_call_cost_no_more_than_they_are_worth()
    {
        using var http = await service.Http("greta");
        using var document = JsonDocument.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        var root = document.RootElement;
        foreach (var path in root.GetProperty("paths").EnumerateObject())
        {
            foreach (var method in path.Value.EnumerateObject().Where(each => each.Value.TryGetProperty("requestBody", out _)))
            {
                // The call by which one would put oneself out.
                var address = Address(path.Name);
                var body = method.Value.GetProperty("requestBody").GetProperty("content").EnumerateObject().First();
                if (
                    body.Name is "application/json"
                    && Resolve(root, body.Value.GetProperty("schema")) is { ValueKind: JsonValueKind.Object } schema
                    && schema.TryGetProperty("properties", out var properties)
                )
                {
                    for (var shape = 0; shape < 5; shape++)
                    {
                        var json =
                            "{"
                            + string.Join(
                                ',',
                                properties.EnumerateObject().Select(property => $"\"{property.Name}\":{Value(root, property.Value, shape)}")
                            )
                            + "}";
                        await Send(http, method.Name, address, RunningService.Json(json), $"{method.Name} {path.Name} shape {shape}");
                    }
                }

                foreach (
                    var raw in new[]
                    {
                        Times("[", 100_000),
                        "{\"a\":" + Times("{\"a\":", 50_000),
                        Times("- ", 100_000),
                        Times("a: &a [*a]\n", 10_000),
                        "kind: full\nkey: vessel\nentity: vessel\ntitle: " + new string('a', 1_000_000),
                        "kind: full\n" + Times("k", 1_000_000) + ": 1\n",
                        Times("a,b\r\n", 200_000),
                    }
                )
                {
                    await Send(
                        http,
                        method.Name,
                        address,
                        new StringContent(raw, Encoding.UTF8) { Headers = { ContentType = new MediaTypeHeaderValue(body.Name) } },
                        $"{method.Name} {path.Name} raw {raw[..12]}"
                    );
                }
            }
        }

        Told();
    }

    /// <summary>A value for a property: too long, too many, too large, too deep.</summary>
    private static string Value(JsonElement root, JsonElement given, int shape)
    {
        var schema = Resolve(root, given);
        var type = schema.TryGetProperty("type", out var named)
            ? named.ValueKind == JsonValueKind.Array
                ? named[0].GetString() == "null"
                    ? named[1].GetString()
                    : named[0].GetString()
                : named.GetString()
            : "object";
        return type switch
        {
            "string" => JsonSerializer.Serialize(
                Texts[(shape * 3) % Texts.Length][..Math.Min(100_000, Texts[(shape * 3) % Texts.Length].Length)]
            ),
            "integer" or "number" => new[] { "9223372036854775807", "-1", "0", "1", "1e308" }[shape],
            "boolean" => "true",
            "array" => "["
                + string.Join(
                    ',',
                    Enumerable.Repeat(
                        shape > 2 || !schema.TryGetProperty("items", out var items) ? "1"
                            : Value(root, items, shape).Length > 2_000 ? JsonSerializer.Serialize(new string('a', 300))
                            : Value(root, items, shape),
                        20_000 / (shape + 1)
                    )
                )
                + "]",
            _ => "{" + string.Join(',', Enumerable.Range(0, 5_000).Select(i => $"\"k{i}\":\"{i}\"")) + "}",
        };
    }

    private static JsonElement Resolve(JsonElement root, JsonElement schema)
    {
        if (schema.TryGetProperty("$ref", out var reference))
        {
            return Resolve(root, root.GetProperty("components").GetProperty("schemas").GetProperty(reference.GetString()!.Split('/')[^1]));
        }

        return schema.TryGetProperty("oneOf", out var several) ? Resolve(root, several.EnumerateArray().Last()) : schema;
    }

    private static string Address(string path) =>
        path[1..]
            .Replace("{entity}", "vessel")
            .Replace("{kind}", "layout")
            .Replace("{number}", "987654")
            .Replace("{hash}", new string('0', 64))
            .Replace("{name}", "none")
            .Replace("{id}", "987654")
            .Replace(
                "{key}",
                path.Contains("choice-list", StringComparison.Ordinal) ? "zone"
                    : path.Contains("templates", StringComparison.Ordinal) ? "register"
                    : "vessel"
            );

    [Fact]
    public async Task Parameters_of_every_call_cost_no_more_than_they_are_worth()
    {
        using var http = await service.Http("greta");
        using var document = JsonDocument.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        foreach (var path in document.RootElement.GetProperty("paths").EnumerateObject())
        {
            foreach (var method in path.Value.EnumerateObject().Where(each => each.Name == "get" && path.Name != "/api/events"))
            {
                var names = method.Value.TryGetProperty("parameters", out var parameters)
                    ? parameters
                        .EnumerateArray()
                        .Where(each => each.GetProperty("in").GetString() == "query")
                        .Select(each => each.GetProperty("name").GetString()!)
                        .ToArray()
                    : [];
                foreach (var text in Texts.Select(text => Uri.EscapeDataString(text[..Math.Min(text.Length, 900)])))
                {
                    foreach (var name in names)
                    {
                        await Send(http, "get", $"{Address(path.Name)}?{name}={text}", null, $"get {path.Name} {name}={text[..12]}");
                    }

                    await Send(
                        http,
                        "get",
                        path.Name[1..].Replace("{", "", StringComparison.Ordinal).Replace("}", "", StringComparison.Ordinal) + "/" + text,
                        null,
                        $"get {path.Name}/{text[..12]}"
                    );
                }
            }
        }

        Told();
    }

    /// <summary>Conditions that grow with what they nest, repeat and fan out.</summary>
    public static IEnumerable<string> Conditions()
    {
        string[] atoms =
        [
            "record.length > 2.0",
            "record.name == 'a'",
            "record.propulsion == 'sail'",
            "record.berth.zone == 'inner'",
            "has(record.notes)",
            "record.surveyDue < today",
            "mode == 'edit'",
            "'quay-hand' in user.roles",
        ];
        foreach (var atom in atoms)
        {
            foreach (var depth in new[] { 5, 12, 20, 30, 38 })
            {
                yield return Enumerable.Range(0, depth).Aggregate(atom, (inner, _) => $"({inner}) ? {atom} : {atom}");
                yield return Enumerable.Range(0, depth).Aggregate(atom, (inner, _) => $"{atom} ? ({inner}) : {atom}");
                yield return Enumerable.Range(0, depth).Aggregate(atom, (inner, _) => $"{atom} ? {atom} : ({inner})");
                yield return Enumerable.Range(0, depth).Aggregate(atom, (inner, _) => $"!({inner})");
                yield return Enumerable
                    .Range(0, depth)
                    .Aggregate(atom, (inner, _) => $"({inner}) && ({inner})"[..Math.Min(1_900, $"({inner}) && ({inner})".Length)]);
            }

            yield return string.Join(" || ", Enumerable.Repeat(atom, 1_900 / (atom.Length + 4)));
            yield return string.Join(
                " && ",
                Enumerable.Range(0, 1_900 / (atom.Length + 30)).Select(i => $"({atom} || record.beam > {i}.0)")
            );
            yield return string.Join(" && ", Enumerable.Range(0, 25).Select(i => $"({atom} != (record.length > {i}.5))"));
        }

        yield return string.Join(" && ", Enumerable.Range(0, 40).Select(i => $"record.beam != record.draught + {i}.0"));
        yield return string.Join(
            " || ",
            Enumerable.Range(0, 30).Select(i => $"(record.beam > {i}.0 && record.draught > {i}.0 && record.length > {i}.0)")
        );
        yield return $"record.name in [{string.Join(',', Enumerable.Range(0, 300).Select(i => $"'{i}'"))}]";
        yield return Enumerable.Range(0, 12).Aggregate("true", (inner, i) => $"[1,2,3,4,5,6,7,8,9].all(v{i}, {inner})");
        yield return Enumerable.Range(0, 9).Aggregate("true", (inner, i) => $"['a','b','c','d'].map(v{i}, {inner}).size() > 0");
        yield return $"record.name.matches('{Times("(a|b|ab)*", 100)}')";
        yield return $"record.name.matches('{Times("a?", 400)}{Times("a", 400)}')";
        yield return "record.name.matches('([a-z0-9A-Z]{1000}){4}')";
        yield return Times("-", 1_000) + "1 == 1";
        yield return Times("!", 1_900) + "true";
        yield return Times("(", 900) + "true" + Times(")", 900);
        yield return $"size('{new string('a', 1_900)}') > 1";
        yield return Enumerable
            .Range(0, 30)
            .Aggregate("'a'", (inner, _) => $"({inner} + {inner})"[..Math.Min(1_900, $"({inner} + {inner})".Length)]) + " == record.name";
    }

    [Fact]
    public async Task Conditions_asked_about_or_filtered_by_cost_no_more_than_they_are_worth()
    {
        using var http = await service.Http("greta");
        foreach (var condition in Conditions().Distinct())
        {
            await Send(
                http,
                "post",
                "api/layouts/vessel/conditions/check",
                RunningService.Json($$"""{"text":{{JsonSerializer.Serialize(condition)}},"record":1}"""),
                $"condition {condition}"
            );
            await Send(http, "get", $"api/records/vessel?filter={Uri.EscapeDataString(condition)}", null, $"filter {condition}");
        }

        foreach (
            var pattern in Texts.Concat([
                "(a{1000}){1000}",
                Times("(a|b|ab)*", 200),
                $"[{Times("a-z", 600)}]{{1000}}",
                Times("(", 1_000) + "a" + Times(")", 1_000),
                "(x+x+)+y",
                Times("a?", 900) + Times("a", 900),
            ])
        )
        {
            string[] samples = [.. Enumerable.Repeat(new string('a', 39), 200)];
            await Send(
                http,
                "post",
                "api/patterns/test",
                RunningService.Json(
                    $$"""{"pattern":{{JsonSerializer.Serialize(pattern)}},"samples":{{JsonSerializer.Serialize(samples)}}}"""
                ),
                $"pattern {pattern[..Math.Min(40, pattern.Length)]}"
            );
            await Send(
                http,
                "post",
                "api/patterns/test",
                RunningService.Json($$"""{"pattern":{{JsonSerializer.Serialize(pattern)}},"samples":["{{new string('a', 7_900)}}"]}"""),
                $"pattern {pattern[..Math.Min(40, pattern.Length)]}, one long sample"
            );
        }

        Told();
    }
}
