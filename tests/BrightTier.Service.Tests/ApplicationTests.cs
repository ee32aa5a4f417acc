using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>What belongs to no single layout: documents as JSON, and who gets which layout.</summary>
public sealed class ApplicationTests(DemoService service)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<(JsonNode Body, EntityTagHeaderValue Tag)> Json(HttpClient http, string path)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, path) { Headers = { Accept = { new("application/json") } } };
        using var answer = await http.SendAsync(request, Cancel);
        return (JsonNode.Parse(await answer.Content.ReadAsStringAsync(Cancel))!, answer.Headers.ETag!);
    }

    private static async Task<HttpResponseMessage> Put(HttpClient http, string path, JsonNode body, EntityTagHeaderValue tag)
    {
        using var request = new HttpRequestMessage(HttpMethod.Put, path)
        {
            Content = new StringContent(body.ToJsonString(), Encoding.UTF8, "application/json"),
            Headers = { IfMatch = { tag } },
        };
        return await http.SendAsync(request, Cancel);
    }

    [Fact]
    public async Task A_document_is_read_and_written_as_json_against_the_revision_it_was_read_at()
    {
        await using var own = await HostedService.WithDemo();
        using var ada = await own.Http("ada");
        var (menu, tag) = await Json(ada, "api/documents/navigation/navigation");
        menu["entries"]!.AsArray().Count.ShouldBe(3);
        menu["entries"]!
            .AsArray()
            .Add(
                new JsonObject
                {
                    ["key"] = "help",
                    ["title"] = "Help: \"all\" of it",
                    ["address"] = "https://example.org",
                }
            );
        using var put = await Put(ada, "api/documents/navigation/navigation", menu, tag);
        put.StatusCode.ShouldBe(HttpStatusCode.OK, await put.Content.ReadAsStringAsync(Cancel));
        (await Json(ada, "api/documents/navigation/navigation")).Body["entries"]![3]!["title"]!
            .GetValue<string>()
            .ShouldBe("Help: \"all\" of it");
        using var late = await Put(ada, "api/documents/navigation/navigation", menu, tag);
        late.StatusCode.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await ada.GetStringAsync("api/documents/navigation/navigation", Cancel)).ShouldStartWith("kind: navigation");
    }

    [Fact]
    public async Task Who_gets_which_is_tried_with_people_roles_and_records_before_it_is_published()
    {
        await using var own = await HostedService.WithDemo();
        using var ada = await own.Http("ada");
        using var client = await own.As("ada");
        var (routing, tag) = await Json(ada, "api/documents/routing/routing");
        var long13 = (await client.Records("vessel", null, "-length", null, null, 1, Cancel)).Records.Single();
        var short5 = (await client.Records("vessel", null, "length", null, null, 1, Cancel)).Records.Single();
        routing["rules"]!
            .AsArray()
            .Add(
                new JsonObject
                {
                    ["entity"] = "vessel",
                    ["layout"] = "vessel-foreman",
                    ["when"] = $"has(record.length) && record.length >= {long13.Values.GetProperty("length").GetDecimal()}",
                }
            );
        routing["rules"]!.AsArray().Add(new JsonObject { ["entity"] = "vessel", ["layout"] = "vessel-foreman" });
        using var put = await Put(ada, "api/documents/routing/routing", routing, tag);
        put.StatusCode.ShouldBe(HttpStatusCode.OK, await put.Content.ReadAsStringAsync(Cancel));

        async Task<string> Try(string query) =>
            (await ada.GetFromJsonAsync($"api/routing?entity=vessel&{query}", WireJson.Default.RoutedInfo, Cancel))! is var routed
                ? $"{routed.Layout}: {string.Join(' ', routed.Rules.Select(rule => rule.Verdict))}"
                : "";
        (await Try("person=dirk")).ShouldBe("vessel-foreman: decides condition-fails too-late");
        (await Try($"person=cleo&record={long13.Id}")).ShouldBe("vessel-foreman: other-roles decides too-late");
        (await Try($"roles=quay-hand&record={short5.Id}")).ShouldBe("vessel-foreman: other-roles condition-fails decides");
        (await Try("person=dirk&kind=list")).ShouldBe("vessel-list: ");
    }

    [Theory]
    [InlineData("entity=vesel", "did you mean 'vessel'?")]
    [InlineData("entity=vessel&person=nobody", "no person 'nobody'")]
    [InlineData("entity=vessel&roles=quayhand", "did you mean 'quay-hand'?")]
    [InlineData("entity=vessel&record=987654", "no record '987654'")]
    public async Task What_is_not_there_is_said(string query, string says)
    {
        using var ada = await service.Http("ada");
        using var answer = await ada.GetAsync($"api/routing?{query}", Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await answer.Problem()).Detail!.ShouldContain(says);
    }

    [Fact]
    public async Task The_grammar_tells_the_kinds_of_layouts_apart()
    {
        using var ada = await service.Http("ada");
        var rules = JsonNode.Parse(await ada.GetStringAsync("api/grammar", Cancel))!.AsArray();
        rules
            .Where(rule => rule!["name"]!.GetValue<string>() == "layout")
            .Select(rule => rule!["root"]!.GetValue<string>())
            .ShouldBe(["full", "short", "card", "list", "print", "piece"]);
        rules.Single(rule => rule!["root"]?.GetValue<string>() == "list")!["properties"]!
            .AsArray()
            .Single(property => property!["name"]!.GetValue<string>() == "sort")!["ofFields"]!
            .GetValue<bool>()
            .ShouldBeTrue();
    }
}
