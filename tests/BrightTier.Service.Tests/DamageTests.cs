using System.Net;
using System.Net.Http.Headers;
using System.Text;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Data.Sqlite;
using Npgsql;

namespace BrightTier.Service.Tests;

/// <summary>
/// R11: one document of any kind made unreadable in the database, by hand. It harms itself alone, is shown as damaged, and there is a way
/// back.
/// </summary>
public sealed class DamageTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>A document of every kind, and another that rests on it as little as can be.</summary>
    private static readonly (string Kind, string Key)[] Every =
    [
        ("application", "application"),
        ("choice-list", "hullType"),
        ("pattern", "berthCode"),
        ("entity", "vessel"),
        ("layout", "vessel"),
        ("template", "register"),
        ("routing", "routing"),
        ("navigation", "navigation"),
    ];

    private static readonly string[] Ruins =
    [
        "title: a\u2028b: {c",
        "",
        "kind: layout",
        "\0",
        "kind: choice-list\nkey: other\nlabel: Other\nchoices: []\n",
    ];

    /// <summary>Either database and either place once; all together where what must survive is run in full.</summary>
    public static TheoryData<string, bool> Databases =>
        Environment.GetEnvironmentVariable("BRIGHTTIER_ENDURE_TEXTS") == "1"
            ? new()
            {
                { "sqlite", true },
                { "sqlite", false },
                { "postgres", true },
                { "postgres", false },
            }
            : new() { { "sqlite", true }, { "postgres", false } };

    /// <summary>Every kind of document in one service, each with its own ruin; drafts, or what is released.</summary>
    [Theory]
    [MemberData(nameof(Databases))]
    public async Task One_document_that_cannot_be_read_stops_no_other(string database, bool drafts)
    {
        var connection = database == "postgres" ? await (await postgres.Server).NewDemoDatabase() : null;
        await using var service = connection is null ? await HostedService.WithDemo() : await HostedService.On(connection);
        foreach (var (i, (kind, key)) in Every.Index())
        {
            var ruin =
                connection is null || !Ruins[i % Ruins.Length].Contains('\0', StringComparison.Ordinal) ? Ruins[i % Ruins.Length] : "{";
            await service.Kill();
            var before = await Ruin(service, connection, drafts, kind, key, ruin);
            await service.Restart();

            await StandsAlone(service, kind, key, ruin, drafts);

            await WayBack(service, connection, kind, key, drafts, before);
        }
    }

    private static async Task StandsAlone(RunningService service, string kind, string key, string ruin, bool drafts)
    {
        using var greta = await service.As("greta");
        using var http = await service.Http("greta");

        // It is listed, as what it is, and its text is shown.
        var listed = (await Get(http, "api/documents", WireJson.Default.IReadOnlyListDocumentSummary)).Single(each =>
            each.Kind == kind && each.Key == key
        );
        var address = kind == "layout" ? $"api/layouts/{key}" : $"api/documents/{kind}/{key}";
        if (drafts)
        {
            listed.Damaged.ShouldNotBeNull($"{kind} {key}");
            using var request = new HttpRequestMessage(HttpMethod.Get, address) { Headers = { { "Accept", "application/yaml" } } };
            using var text = await http.SendAsync(request, Cancel);
            text.StatusCode.ShouldBe(HttpStatusCode.OK);
            (await text.Content.ReadAsStringAsync(Cancel)).ShouldBe(ruin);
            using var json = new HttpRequestMessage(HttpMethod.Get, address) { Headers = { { "Accept", "application/json" } } };
            using var refused = await http.SendAsync(json, Cancel);
            refused.StatusCode.ShouldBe(HttpStatusCode.Conflict);
            (await refused.Problem()).Code.ShouldBe("draft-damaged");
            if (kind == "layout")
            {
                (await Get(http, "api/layouts", WireJson.Default.IReadOnlyListLayoutSummary))
                    .Single(each => each.Key == key)
                    .Damaged.ShouldNotBeNull();
                (await http.GetAsync($"{address}/changes", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
            }

            var problem = await Wire.Refused(() => greta.Publish(new PublishRequest([new(kind, key, listed.Revision)], "cannot"), Cancel));
            problem.Code.ShouldBe("draft-damaged");
        }
        else
        {
            listed.Damaged.ShouldBeNull();
            listed.ReleaseDamaged.ShouldNotBeNull($"{kind} {key}");
            var current = (await greta.Releases(Cancel))[0].Number;
            (await http.GetStringAsync($"api/releases/{current}/documents/{kind}/{key}", Cancel)).ShouldBe(ruin);
        }

        await EverythingElse(greta, http, kind);
    }

    /// <summary>What is not damaged is read, designed, published, served and saved.</summary>
    private static async Task EverythingElse(BrightTierClient greta, HttpClient http, string kind)
    {
        foreach (
            var path in new[]
            {
                "api/layouts",
                "api/releases",
                "api/releases/diff",
                "api/findings",
                "api/bundle",
                "api/bundle?draft=true",
                "api/impact?subject=field&name=berth.code",
                "api/approvals",
                "api/navigation",
                "api/pieces",
                "api/session",
                "api/entities",
                "api/layouts/berth",
                "api/layouts/berth/preview",
                "api/forms/berth",
                "api/forms/vessel",
                "api/records/vessel",
                "api/records/berth",
                "records/vessel/1",
                "api/audit/entries",
            }
        )
        {
            using var answer = await http.GetAsync(path, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, $"{kind}: {path}: {await answer.Content.ReadAsStringAsync(Cancel)}");
        }

        var draft = await greta.Layout("berth", Cancel);
        var field = draft.Tree.ToString().Contains("Berth and pontoon", StringComparison.Ordinal) ? "Berth" : "Berth and pontoon";
        var edited = await greta.Edit(
            "berth",
            new EditRequest(
                draft.Revision,
                Wire.Json($$"""[{"op":"set","node":"layout","property":"title","value":"{{field}}"}]"""),
                "Named"
            ),
            Cancel
        );
        var receipt = await greta.Publish(
            new PublishRequest([new("layout", "berth", edited.Revision)], $"beside a damaged {kind}"),
            Cancel
        );
        (await http.GetStringAsync("api/forms/berth", Cancel)).ShouldContain(field);
        var code = $"{"ABCDEFGH"[(int)(receipt.Release.Number % 8)]}{receipt.Release.Number}";
        using var saved = await http.PostAsync(
            "api/records/berth",
            RunningService.Json($$$"""{"values":{"code":"{{{code}}}","zone":"outer","pontoon":"X"}}"""),
            Cancel
        );
        saved.StatusCode.ShouldBe(HttpStatusCode.Created, await saved.Content.ReadAsStringAsync(Cancel));
        (
            await greta.Restore(receipt.Release.Number - 1, new RestoreRequest("back", [new("layout", "berth")]), Cancel)
        ).Release.Number.ShouldBe(receipt.Release.Number + 1);
    }

    private static async Task WayBack(RunningService service, string? connection, string kind, string key, bool drafts, string before)
    {
        using var http = await service.Http("greta");
        var address = kind == "layout" ? $"api/layouts/{key}" : $"api/documents/{kind}/{key}";
        if (!drafts)
        {
            // What is released anew of the sound draft is whole again: its text is what its hash says.
            using var greta = await service.As("greta");
            var draft = (await Get(http, "api/documents", WireJson.Default.IReadOnlyListDocumentSummary)).Single(each =>
                each.Kind == kind && each.Key == key
            );
            await greta.Publish(new PublishRequest([new(kind, key, draft.Revision)], "again"), Cancel);
            (await Ruin(service, connection, drafts, kind, key, before)).ShouldBe(before);
            (await Get(http, "api/documents", WireJson.Default.IReadOnlyListDocumentSummary))
                .Single(each => each.Kind == kind && each.Key == key)
                .ReleaseDamaged.ShouldBeNull();
            return;
        }

        using var recovered = await http.PostAsync($"{address}/recover", null, Cancel);
        recovered.StatusCode.ShouldBe(HttpStatusCode.OK, await recovered.Content.ReadAsStringAsync(Cancel));
        using var request = new HttpRequestMessage(HttpMethod.Get, address) { Headers = { { "Accept", "application/yaml" } } };
        using var text = await http.SendAsync(request, Cancel);
        (await text.Content.ReadAsStringAsync(Cancel)).ShouldBe(before);
        using var again = await http.PostAsync($"{address}/recover", null, Cancel);
        (await again.Problem()).Code.ShouldBe("draft-sound");
    }

    [Fact]
    public async Task What_was_changed_since_publishing_is_recovered_from_the_history_and_a_text_put_right_by_hand_is_taken()
    {
        await using var service = await HostedService.WithDemo();
        using (var ada = await service.As("ada"))
        {
            var draft = await ada.Layout("berth", Cancel);
            await ada.Edit(
                "berth",
                new EditRequest(
                    draft.Revision,
                    Wire.Json("""[{"op":"set","node":"layout","property":"title","value":"Moorings"}]"""),
                    "Named"
                ),
                Cancel
            );
        }

        await service.Kill();
        var text = await Ruin(service, null, drafts: true, "layout", "berth", "}");
        await service.Restart();
        using var http = await service.Http("ada");
        using var recovered = await http.PostAsync("api/layouts/berth/recover", null, Cancel);
        (await recovered.Content.ReadAsStringAsync(Cancel)).ShouldContain("revision 2");
        (await Yaml(http)).ShouldBe(text);
        text.ShouldContain("Moorings");

        await service.Kill();
        await Ruin(service, null, drafts: true, "layout", "berth", "}");
        await service.Restart();
        using var there = await service.Http("ada");
        using var put = new HttpRequestMessage(HttpMethod.Put, "api/layouts/berth")
        {
            Content = new StringContent(
                text.Replace("Moorings", "Places", StringComparison.Ordinal),
                Encoding.UTF8,
                new MediaTypeHeaderValue("application/yaml")
            ),
        };
        put.Headers.TryAddWithoutValidation("If-Match", "\"3\"");
        using var answer = await there.SendAsync(put, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync(Cancel));
        (await Yaml(there)).ShouldContain("Places");

        static async Task<string> Yaml(HttpClient http)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "api/layouts/berth")
            {
                Headers = { { "Accept", "application/yaml" } },
            };
            using var answer = await http.SendAsync(request, Cancel);
            return await answer.Content.ReadAsStringAsync(Cancel);
        }
    }

    private static async Task<T> Get<T>(HttpClient http, string path, System.Text.Json.Serialization.Metadata.JsonTypeInfo<T> type) =>
        System.Text.Json.JsonSerializer.Deserialize(await http.GetStringAsync(path, Cancel), type)!;

    /// <summary>Writes another text where a document is kept; the text that was there.</summary>
    private static async Task<string> Ruin(RunningService service, string? database, bool drafts, string kind, string key, string text)
    {
        await using System.Data.Common.DbConnection connection = database is null
            ? new SqliteConnection($"Data Source={Path.Combine(service.Data, "brighttier.db")};Pooling=False")
            : new NpgsqlConnection(database);
        await connection.OpenAsync(Cancel);
        var schema = database is null ? "" : "bright_tier.";
        var (table, column, which) = drafts
            ? ("draft", "Content", "\"Kind\" = @kind AND \"Key\" = @key")
            : (
                "content",
                "Text",
                $"\"Hash\" = (SELECT d.\"Hash\" FROM {schema}release_document d JOIN {schema}active_release p ON p.\"Name\" = "
                    + $"'current' AND p.\"Release\" >= d.\"Release\" WHERE d.\"Kind\" = @kind AND d.\"Key\" = @key "
                    + "ORDER BY d.\"Release\" DESC LIMIT 1)"
            );
        var before = (string)(await Command($"SELECT \"{column}\" FROM {schema}{table} WHERE {which}").ExecuteScalarAsync(Cancel))!;
        (await Command($"UPDATE {schema}{table} SET \"{column}\" = @text WHERE {which}").ExecuteNonQueryAsync(Cancel)).ShouldBe(1);
        return before;

        System.Data.Common.DbCommand Command(string sql)
        {
            var command = connection.CreateCommand();
            command.CommandText = sql;
            foreach (var (name, value) in new[] { ("kind", kind), ("key", key), ("text", text) })
            {
                var parameter = command.CreateParameter();
                (parameter.ParameterName, parameter.Value) = (name, value);
                command.Parameters.Add(parameter);
            }

            return command;
        }
    }
}
