using System.Globalization;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using BrightTier.Contracts;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// Entities, records and conditions nobody chose, through the real service and the real form: what one shows, the other says it shows.
/// </summary>
public sealed partial class DecisionTests(Chromium chromium)
{
    /// <summary>Types with values as clients send them.</summary>
    private static readonly (string Type, string More, string[] Values)[] Types =
    [
        ("text", "", ["\"Kittiwake\"", "\"a\"", "\"Ñandú\""]),
        ("integer", "", ["0", "7", "-3"]),
        ("decimal", ", scale: 2", ["3.5", "0.1", "0.3", "-1.25"]),
        ("money", "", ["19.99", "20", "-0.01"]),
        ("boolean", "", ["true", "false"]),
        ("date", "", ["\"2026-05-31\"", "\"2026-06-01\"", "\"2100-01-01\""]),
        ("time", "", ["\"14:30\"", "\"00:00\""]),
        ("dateTime", "", ["\"2026-05-31T14:30:00Z\"", "\"2026-06-01T00:00:00Z\"", "\"2100-01-01T00:00:00Z\""]),
        ("rating", "", ["1", "5"]),
    ];

    private const int Conditions = 60;

    private const int Records = 12;

    /// <summary>A seed each: other keys, other types, other conditions, other records. BRIGHTTIER_ENDURE_DECISIONS says how many.</summary>
    public static TheoryData<int> Seeds =>
        [
            .. Enumerable.Range(
                1,
                int.TryParse(Environment.GetEnvironmentVariable("BRIGHTTIER_ENDURE_DECISIONS"), CultureInfo.InvariantCulture, out var more)
                    ? more
                    : 2
            ),
        ];

    [Theory]
    [MemberData(nameof(Seeds))]
    public async Task What_the_form_shows_is_what_the_service_says_it_shows(int seed)
    {
        var random = new Random(seed);
        var (fields, theirs) = (Some(random), Some(random));
        var seedFolder = Seed(random, fields, theirs);
        await using var service = await HostedService.Of(seedFolder);
        Directory.Delete(seedFolder, recursive: true);
        using var http = await service.Http("greta");
        await using var greta = await chromium.Open(service, "Greta Root");
        var outcomes = new Dictionary<bool, int>();
        for (var i = 0; i < Records; i++)
        {
            var berth = i % 3 == 0 ? (long?)null : await Created(http, "berth", Values(random, theirs));
            var values = Values(random, fields);
            values["berth"] = berth;
            var id = await Created(http, "trip", values);
            var expected = new List<string>();
            for (var at = 0; at < Conditions; at++)
            {
                var said = await http.GetFromJsonAsync(
                    $"api/layouts/trip/explain?node=mark{at}&role=administrator&mode=view&record={id}",
                    WireJson.Default.ExplanationInfo
                );
                outcomes[said!.Shown == true] = outcomes.GetValueOrDefault(said.Shown == true) + 1;
                if (said.Shown == true)
                {
                    expected.Add($"Mark{at}.");
                }
            }

            await greta.Go($"records/trip/{id}", ".bt-form");
            // What steps to another record appears once that is here.
            await Window.Eventually(async () =>
                Mark()
                    .Matches(await greta.Page.InnerTextAsync("body"))
                    .Select(match => match.Value)
                    .ShouldBe(expected, ignoreOrder: true, values.ToJsonString())
            );
        }

        // Neither side says yes, or no, to everything.
        outcomes.Values.ShouldAllBe(count => count > Conditions * Records / 10);
        greta.Complaints.ShouldBeEmpty();
    }

    private static List<(string Key, string Type, string More, string[] Values)> Some(Random random) =>
        [
            .. Types
                .OrderBy(_ => random.Next())
                .Take(6)
                .SelectMany((each, i) => new[] { 0, 1 }.Select(n => ($"k{random.Next(100)}x{i}{n}", each.Type, each.More, each.Values))),
        ];

    private static JsonObject Values(Random random, List<(string Key, string Type, string More, string[] Values)> fields) =>
        new(
            fields
                .Where(_ => random.Next(5) > 0)
                .Select(field => KeyValuePair.Create(field.Key, JsonNode.Parse(field.Values[random.Next(field.Values.Length)])))
        );

    private static async Task<long> Created(HttpClient http, string entity, JsonObject values)
    {
        using var answer = await http.PostAsync(
            $"api/records/{entity}",
            RunningService.Json(new JsonObject { ["values"] = values }.ToJsonString())
        );
        var text = await answer.Content.ReadAsStringAsync();
        answer.IsSuccessStatusCode.ShouldBeTrue(text);
        using var made = JsonDocument.Parse(text);
        return made.RootElement.GetProperty("id").GetInt64();
    }

    /// <summary>A folder of documents: two entities, one pointing at the other, and a form of marks that conditions show.</summary>
    private static string Seed(
        Random random,
        List<(string Key, string Type, string More, string[] Values)> fields,
        List<(string Key, string Type, string More, string[] Values)> theirs
    )
    {
        var folder = RunningService.NewFolder();
        foreach (var name in new[] { "application.yaml", "people.yaml" })
        {
            File.Copy(Path.Combine(RunningService.Checkout, "demo", name), Path.Combine(folder, name));
        }

        var berth = EntityText("berth", theirs, "");
        var trip = EntityText("trip", fields, "  - { key: berth, label: Berth, type: reference, target: berth }\n");
        Write(Path.Combine("entities", "berth.yaml"), berth);
        Write(Path.Combine("entities", "trip.yaml"), trip);
        var definitions = Definitions.Empty.With(Read(berth)).With(Read(trip));
        var reads = fields
            .Select(field => $"record.{field.Key}")
            .Concat(theirs.Select(field => $"record.berth.{field.Key}"))
            .Concat(["today", "record.berth", "null", "3", "0.3", "'Kittiwake'", "timestamp('2026-06-01T00:00:00Z')"])
            .ToArray();
        var marks = new StringBuilder();
        for (var at = 0; at < Conditions; )
        {
            var text = $"{Value()} {Operator()} {Value()}";
            text = random.Next(3) == 0 ? $"({text}) {(random.Next(2) == 0 ? "&&" : "||")} ({Value()} {Operator()} {Value()})" : text;
            text = random.Next(4) == 0 ? $"(mode == 'view' && ({text})) != true" : text;
            if (
                Condition.CompileAnew(text, definitions.Entities["trip"], definitions).Expression is not null
                && text.Contains("record.", StringComparison.Ordinal)
            )
            {
                marks.Append(CultureInfo.InvariantCulture, $"            - [{{ id: mark{at}, text: Mark{at}., visible: \"{text}\" }}]\n");
                at++;
            }
        }

        Write(
            Path.Combine("layouts", "trip.yaml"),
            "kind: full\nkey: trip\nentity: trip\ntitle: Trip\nbody:\n  pages:\n    - id: page\n      sections:\n"
                + "        - id: main\n          rows:\n"
                + marks
                + "            - [{ text: The end of it }]\n"
        );
        return folder;

        string Value() => random.Next(6) == 0 ? $"({One()} {(random.Next(2) == 0 ? "+" : "-")} {One()})" : One();

        string One() => reads[random.Next(reads.Length)];

        string Operator() => new[] { "<", "<=", ">", ">=", "==", "!=" }[random.Next(6)];

        void Write(string path, string text)
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(folder, path))!);
            File.WriteAllText(Path.Combine(folder, path), text);
        }

        static Entity Read(string text) => ((Document.OfEntity)DocumentFile.Read(text).Document!).Entity;
    }

    private static string EntityText(string key, List<(string Key, string Type, string More, string[] Values)> fields, string more) =>
        $"kind: entity\nkey: {key}\nlabel: {key}\nplural: {key}s\ndisplay: \"{{{fields[0].Key}}}\"\nfields:\n"
        + string.Concat(fields.Select(field => $"  - {{ key: {field.Key}, label: {field.Key}, type: {field.Type}{field.More} }}\n"))
        + more;

    [GeneratedRegex(@"Mark\d+\.")]
    private static partial Regex Mark();
}
