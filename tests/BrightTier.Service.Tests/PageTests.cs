using System.IO.Compression;
using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// The console's page: the same one at every place, and with what its place asks for first in it, for whoever may have it.
/// </summary>
public sealed partial class PageTests(DemoService service)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [GeneratedRegex(
        "<script type=\"application/json\" data-answers=\"(?<address>[^\"]*)\" data-release=\"[^\"]*\">(?<json>.*?)</script>",
        RegexOptions.Singleline | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Carried();

    /// <summary>Somebody's browser: it has the session's cookie.</summary>
    private static async Task<HttpClient> Browser(RunningService running, string person)
    {
        var http = new HttpClient { BaseAddress = running.Address };
        using var answer = await http.PostAsync("api/session", RunningService.Json($$"""{"person":"{{person}}"}"""), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        return http;
    }

    private static Dictionary<string, string> In(string html) =>
        Carried()
            .Matches(html)
            .ToDictionary(found => WebUtility.HtmlDecode(found.Groups["address"].Value), found => found.Groups["json"].Value);

    [Theory]
    [InlineData("")]
    [InlineData("records/vessel")]
    [InlineData("records/vessel/1")]
    [InlineData("records/no such/<script>")]
    [InlineData("design/vessel")]
    [InlineData("releases")]
    public async Task Stands_at_every_place_and_carries_nothing_for_strangers(string place)
    {
        using var http = await service.Http();
        using var answer = await http.GetAsync(Uri.EscapeDataString(place).Replace("%2F", "/", StringComparison.Ordinal), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        var html = await answer.Content.ReadAsStringAsync(Cancel);
        html.ShouldContain("<div id=\"root\">");
        In(html).ShouldBeEmpty();
        answer.Headers.Contains("Link").ShouldBeFalse();
        answer.Headers.GetValues("Content-Security-Policy").Single().ShouldStartWith("default-src 'self'");
    }

    [Fact]
    public async Task Carries_who_works_here_and_the_form_as_the_calls_would_answer_them()
    {
        using var http = await Browser(service.Running, "cleo");
        using var answer = await http.GetAsync("records/vessel/new", Cancel);
        var carried = In(await answer.Content.ReadAsStringAsync(Cancel));
        carried.Keys.ShouldBe(["/api/session", "/api/forms/vessel?kind=full&mode=create"]);
        var session = JsonSerializer.Deserialize(carried["/api/session"], WireJson.Default.SessionInfo)!;
        session.Person!.Id.ShouldBe("cleo");
        session.Antiforgery.ShouldNotBeEmpty();
        JsonElement
            .DeepEquals(
                Wire.Json(carried["/api/forms/vessel?kind=full&mode=create"]),
                Wire.Json(await http.GetStringAsync("api/forms/vessel?kind=full&mode=create", Cancel))
            )
            .ShouldBeTrue();
        answer.Headers.CacheControl!.NoStore.ShouldBeTrue();
        answer.Headers.GetValues("Link").Single().ShouldContain("</api/navigation>; rel=preload; as=fetch");

        // A record that is there is fetched beside its form.
        using var viewed = await http.GetAsync("records/vessel/1", Cancel);
        viewed.Headers.GetValues("Link").Single().ShouldContain("</api/records/vessel/1>; rel=preload");
        In(await viewed.Content.ReadAsStringAsync(Cancel)).Keys.ShouldContain("/api/forms/vessel?kind=full&mode=view&record=1");
    }

    [Fact]
    public async Task Carries_no_more_than_a_role_may_see_and_no_form_of_what_is_not_there()
    {
        using var bram = await Browser(service.Running, "bram");
        var berth = await bram.GetStringAsync("records/berth/1", Cancel);
        In(berth).Count.ShouldBe(2);
        berth.ShouldNotContain("dayRate");
        In(await bram.GetStringAsync("records/nothing/new", Cancel)).Keys.ShouldBe(["/api/session"]);
        In(await bram.GetStringAsync("layouts", Cancel)).Keys.ShouldBe(["/api/session"]);

        // Whoever comes with a token is a program: it gets the page as strangers do.
        using var program = await service.Http("bram");
        In(await program.GetStringAsync("records/berth/1", Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Cannot_be_ended_by_what_its_data_says()
    {
        await using var running = await HostedService.WithDemo();
        using var ada = await running.As("ada");
        const string Hostile = "</script><script>alert(1)</script><!--";
        var draft = await ada.Layout("berth", Cancel);
        var edited = await ada.Edit(
            "berth",
            new EditRequest(
                draft.Revision,
                Wire.Json($$"""[{"op":"set","node":"place","property":"title","value":"{{Hostile}}"}]"""),
                "Hostile"
            ),
            Cancel
        );
        await ada.Publish(new PublishRequest([new("layout", "berth", edited.Revision)]), Cancel);
        using var http = await Browser(running, "ada");
        var html = await http.GetStringAsync("records/berth/1", Cancel);
        html.ShouldNotContain("<script>alert");
        html.ShouldNotContain("<!--");
        Wire.Json(In(html)["/api/forms/berth?kind=full&mode=view&record=1"])
            .GetProperty("pages")[0]
            .GetProperty("sections")[0]
            .GetProperty("title")
            .GetString()
            .ShouldBe(Hostile);
    }

    [Fact]
    public async Task Comes_compressed_where_that_is_understood_and_without_a_body_where_only_its_head_is_asked_for()
    {
        using var http = await Browser(service.Running, "cleo");
        var plain = await http.GetStringAsync("records/vessel/new", Cancel);
        using var asking = new HttpRequestMessage(HttpMethod.Get, "records/vessel/new") { Headers = { { "Accept-Encoding", "gzip" } } };
        using var zipped = await http.SendAsync(asking, Cancel);
        zipped.Content.Headers.ContentEncoding.ShouldBe(["gzip"]);
        using var reader = new StreamReader(new GZipStream(await zipped.Content.ReadAsStreamAsync(Cancel), CompressionMode.Decompress));
        In(await reader.ReadToEndAsync(Cancel)).Keys.ShouldBe(In(plain).Keys);
        using var head = await http.SendAsync(new HttpRequestMessage(HttpMethod.Head, "records/vessel/new"), Cancel);
        head.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await head.Content.ReadAsByteArrayAsync(Cancel)).ShouldBeEmpty();
        using var posted = await http.PostAsync("records/vessel/new", RunningService.Json("{}"), Cancel);
        ((int)posted.StatusCode).ShouldBeInRange(400, 499);
    }

    [Theory]
    [InlineData("api/layouts/vessel", true)]
    [InlineData("api/entities", true)]
    [InlineData("api/session", false)]
    public async Task What_designing_reads_comes_compressed_and_what_holds_a_secret_does_not(string path, bool compressed)
    {
        using var http = await Browser(service.Running, "ada");
        var plain = await http.GetStringAsync(path, Cancel);
        using var asking = new HttpRequestMessage(HttpMethod.Get, path) { Headers = { { "Accept-Encoding", "gzip" } } };
        using var answer = await http.SendAsync(asking, Cancel);
        answer.Content.Headers.ContentEncoding.ShouldBe(compressed ? ["gzip"] : []);
        if (compressed)
        {
            using var reader = new StreamReader(new GZipStream(await answer.Content.ReadAsStreamAsync(Cancel), CompressionMode.Decompress));
            (await reader.ReadToEndAsync(Cancel)).ShouldBe(plain);
        }
    }
}
