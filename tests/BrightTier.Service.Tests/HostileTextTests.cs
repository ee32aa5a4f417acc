using System.Globalization;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// R12 through the service: hostile texts, and every character there is, by every way a text comes in. Each is stored and read back the
/// same, or
/// refused with its place; and never does one stop what comes after it, a restart included.
/// </summary>
public sealed class HostileTextTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>A JSON string of nothing but escapes: also of what is no text.</summary>
    private static string Escaped(string text) =>
        $"\"{string.Concat(text.Select(unit => string.Create(CultureInfo.InvariantCulture, $"\\u{(int)unit:X4}")))}\"";

    private static bool Endures => Environment.GetEnvironmentVariable("BRIGHTTIER_ENDURE_TEXTS") == "1";

    private sealed class Ways(HttpClient http)
    {
        private int made;

        private async Task<(int Status, JsonElement Body)> Send(
            HttpMethod method,
            string path,
            string body,
            string type = "application/json",
            string? match = null
        )
        {
            using var request = new HttpRequestMessage(method, path)
            {
                Content = new StringContent(body, Encoding.UTF8) { Headers = { ContentType = new MediaTypeHeaderValue(type) } },
            };
            if (match is not null)
            {
                request.Headers.TryAddWithoutValidation(match == "*" ? "If-None-Match" : "If-Match", match);
            }

            using var answer = await http.SendAsync(request, Cancel);
            var said = await answer.Content.ReadAsStringAsync(Cancel);
            return ((int)answer.StatusCode, said.Length == 0 ? default : JsonDocument.Parse(said).RootElement.Clone());
        }

        private async Task<JsonElement> Get(string path)
        {
            using var answer = await http.GetAsync(path, Cancel);
            answer.IsSuccessStatusCode.ShouldBeTrue(path);
            return JsonDocument.Parse(await answer.Content.ReadAsStringAsync(Cancel)).RootElement.Clone();
        }

        private async Task<JsonElement> Layout(string key) => await Get($"api/layouts/{key}");

        private static string? Title(JsonElement draft) =>
            draft.GetProperty("tree").GetProperty("properties").GetProperty("title").GetString();

        public async Task<string?> ByEdit(string text)
        {
            var (status, body) = await Send(
                HttpMethod.Post,
                "api/layouts/berth/edits",
                $$"""
                {"base":{{(await Layout("berth")).GetProperty("revision")}},"edits":[{"op":"set","node":"layout","property":"title",
                "value":{{Escaped(text)}}}]}
                """
            );
            return Refused(status, body).Item2 is null ? null : Title(await Layout("berth"));
        }

        public async Task<string?> ByFile(string text)
        {
            var (status, body) = await Send(
                HttpMethod.Put,
                "api/documents/choice-list/zone",
                Zone(text),
                match: Revision(await Get("api/choice-lists/zone"))
            );
            return Refused(status, body).Item2 is null
                ? null
                : (await Get("api/choice-lists/zone")).GetProperty("choices")[0].GetProperty("labels").GetProperty("en").GetString();
        }

        public async Task<string?> ByImport(string text)
        {
            var (status, body) = await Send(
                HttpMethod.Post,
                "api/documents",
                $$"""{"documents":[{"text":{{JsonSerializer.Serialize(Zone(text))}},"replaces":true}]}"""
            );
            return Refused(status, body).Item2 is null
                ? null
                : (await Get("api/choice-lists/zone")).GetProperty("choices")[0].GetProperty("labels").GetProperty("en").GetString();
        }

        public async Task<string?> ByChoices(string text)
        {
            var list = await Get("api/choice-lists/hullType");
            var choices = string.Join(
                ',',
                list.GetProperty("choices")
                    .EnumerateArray()
                    .Select(
                        (choice, i) =>
                            "{\"key\":\""
                            + choice.GetProperty("key").GetString()
                            + "\",\"retired\":false,\"labels\":{\"en\":"
                            + (i == 0 ? Escaped(text) : "\"x\"")
                            + "}}"
                    )
            );
            var (status, body) = await Send(
                HttpMethod.Put,
                "api/choice-lists/hullType",
                $$"""{"revision":{{list.GetProperty("revision")}},"choices":[{{choices}}]}"""
            );
            return Refused(status, body).Item2 is null
                ? null
                : (await Get("api/choice-lists/hullType")).GetProperty("choices")[0].GetProperty("labels").GetProperty("en").GetString();
        }

        public async Task<string?> ByRecord(string text)
        {
            var version = (await Get("api/records/vessel/1")).GetProperty("version");
            var (status, body) = await Send(
                HttpMethod.Patch,
                "api/records/vessel/1",
                "{\"values\":{\"notes\":" + Escaped(text) + "}}",
                match: $"\"{version}\""
            );
            return Refused(status, body).Item2 is null ? null
                : (await Get("api/records/vessel/1")).GetProperty("values").TryGetProperty("notes", out var kept) ? kept.GetString()
                : "";
        }

        public async Task<string?> ByComment(string text)
        {
            var (status, body) = await Send(HttpMethod.Post, "api/drafts/layout/vessel/comments", $$"""{"text":{{Escaped(text)}}}""");
            return Refused(status, body).Item2 is null
                ? null
                : (await Get("api/drafts/layout/vessel/comments")).EnumerateArray().Last().GetProperty("text").GetString();
        }

        public async Task<string?> ByPreference(string text)
        {
            var (status, body) = await Send(HttpMethod.Put, "api/preferences/test", $$"""{"text":{{Escaped(text)}}}""");
            return Refused(status, body).Item2 is null ? null : (await Get("api/preferences/test")).GetProperty("text").GetString();
        }

        public async Task<string?> ByLabel(string text)
        {
            var (status, body) = await Send(
                HttpMethod.Post,
                "api/layouts/vessel/edits",
                $$"""
                {"base":{{(await Layout("vessel")).GetProperty("revision")}},"label":{{Escaped(text[..Math.Min(text.Length, 190)])}},
                "name":"n{{made++}}","edits":[{"op":"set","node":"layout","property":"note","value":"{{made}}"}]}
                """
            );
            return Refused(status, body).Item2 is null
                ? null
                : (await Get("api/layouts/vessel/changes")).EnumerateArray().Last().GetProperty("label").GetString()
                    + text[Math.Min(text.Length, 190)..];
        }

        private static string Revision(JsonElement list) => $"\"{list.GetProperty("revision")}\"";

        private static string Zone(string text) =>
            "{\"kind\":\"choice-list\",\"key\":\"zone\",\"label\":{\"en\":\"Zone\"},\"choices\":[{\"key\":\"inner\",\"label\":{\"en\":"
            + Escaped(text)
            + "}},"
            + "{\"key\":\"outer\",\"label\":\"Outer\"},{\"key\":\"creek\",\"label\":\"Creek\"},{\"key\":\"yard\",\"label\":\"Yard\"}]}";

        /// <summary>Whether it was taken; what was not has a place or says what is wrong.</summary>
        private static (int, string?) Refused(int status, JsonElement body)
        {
            status.ShouldBeLessThan(500);
            if (status is >= 200 and < 300)
            {
                return (status, "taken");
            }

            status.ShouldBeInRange(400, 422);
            body.GetProperty("detail").GetString().ShouldNotBeNullOrWhiteSpace();
            return (status, null);
        }
    }

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgres")]
    public async Task Whatever_a_text_holds_it_is_kept_or_refused_and_nothing_fails_later(string database)
    {
        await using var server = database == "postgres" ? await PostgresServer.Begin() : null;
        await using var service = server is null
            ? await HostedService.WithDemo(null, "--CallsPerSecond", "0")
            : await HostedService.On(await server.NewDatabase(), "--CallsPerSecond", "0");
        var taken = 0;
        // What the ways do is the same on either database; what these keep is not.
        var wholly = Endures || server is null;
        using (var http = await service.Http("greta"))
        {
            var ways = new Ways(http);
            var every = new (string Name, Func<string, Task<string?>> Way)[]
            {
                ("edit", ways.ByEdit),
                ("file", ways.ByFile),
                ("import", ways.ByImport),
                ("choices", ways.ByChoices),
                ("record", ways.ByRecord),
                ("comment", ways.ByComment),
                ("preference", ways.ByPreference),
                ("label", ways.ByLabel),
            };
            // Every character by some way, and by every way every text that ever meant something else.
            foreach (
                var (text, i) in HostileTexts
                    .EveryCharacter()
                    .Select((text, i) => (text, i))
                    .Where(each =>
                        each.i
                            % (
                                Endures ? 1
                                : server is null ? 8
                                : 16
                            )
                        == 0
                    )
            )
            {
                foreach (var (name, way) in new[] { every[0], every[i % 4], every[4] })
                {
                    (await way(text)).ShouldBe(
                        name == "choices" ? text.Trim() : text,
                        $"characters from U+{char.ConvertToUtf32(text, 0):X} by {name}"
                    );
                }
            }

            foreach (var (text, i) in HostileTexts.All.Select((text, i) => (text, i)))
            {
                foreach (var (name, way) in wholly ? every : [every[4], every[i % every.Length]])
                {
                    if (await way(text) is { } kept)
                    {
                        taken++;
                        (name is "choices" or "comment" ? kept.Trim() : kept).ShouldBe(
                            name is "choices" or "comment" ? text.Trim() : text,
                            $"{name} of {Escaped(text)}"
                        );
                    }
                }
            }
        }

        taken.ShouldBeGreaterThan(wholly ? 300 : 80);
        await service.Kill();
        await service.Restart();
        await NothingFailsLater(service);
    }

    private static async Task NothingFailsLater(RunningService service)
    {
        using var again = await service.Http("greta");
        foreach (
            var path in new[]
            {
                "api/layouts",
                "api/documents",
                "api/layouts/vessel",
                "api/layouts/berth",
                "api/choice-lists/zone",
                "api/choice-lists/hullType",
                "api/releases/diff",
                "api/findings",
                "api/drafts/layout/vessel/comments",
                "api/audit/entries",
                "api/audit/entries/export?format=jsonl",
                "api/records/vessel",
                "api/records/vessel/csv",
                "api/bundle?draft=true",
            }
        )
        {
            using var answer = await again.GetAsync(path, Cancel);
            answer.IsSuccessStatusCode.ShouldBeTrue($"{path}: {await answer.Content.ReadAsStringAsync(Cancel)}");
        }

        (await again.GetStringAsync("api/documents", Cancel)).ShouldNotContain("cannot");
        using var greta = await service.As("greta");
        (await greta.AuditProof(Cancel)).Intact.ShouldBeTrue();
        var drafts = (await greta.Documents(Cancel)).Where(each =>
            each.Key is "berth" or "zone" or "hullType" && each.Kind is "layout" or "choice-list" && each.Revision != each.Published
        );
        await greta.Publish(
            new Contracts.PublishRequest(
                [.. drafts.Select(each => new Contracts.DraftReference(each.Kind, each.Key, each.Revision))],
                "whatever they hold",
                OverrideReason: "a test of texts"
            ),
            Cancel
        );
        (await again.GetAsync("api/forms/berth", Cancel)).IsSuccessStatusCode.ShouldBeTrue();
    }
}
