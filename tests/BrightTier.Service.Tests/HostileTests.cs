using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// Input that means harm: oversized, deep, of the wrong type or encoding, with script in it, forged or sent from another site. Refused in
/// words, or kept as text; never a 5xx.
/// </summary>
public sealed class HostileTests(OwnService own) : IClassFixture<OwnService>
{
    private const string Script = "</script><script>alert('quay')</script><img src=x onerror=alert(1)>\u202e{{7*7}}${7*7}' OR 1=1 --";

    private readonly RunningService service = own.Running;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public static TheoryData<string, string, string, string> Bodies =>
        new()
        {
            { "post", "api/releases", "application/json", "{\"documents\":" + new string('[', 5_000) + new string(']', 5_000) + "}" },
            { "post", "api/releases", "application/json", "{\"documents\":\"all of them\"}" },
            { "post", "api/releases", "application/json", "{\"documents\":[{\"kind\":\"layout\",\"key\":\"vessel\",\"revision\":1e400}]}" },
            { "post", "api/releases", "application/json", "{\"documents\":[null]}" },
            { "post", "api/releases", "application/json", "{\"documents\":[],\"note\":\"\\ud800\"}" },
            { "post", "api/releases", "text/plain", "documents" },
            { "post", "api/releases", "application/xml", "<documents/>" },
            { "post", "api/releases", "application/json", "" },
            { "post", "api/scheduled-releases", "application/json", "{\"documents\":[],\"at\":\"tomorrow\"}" },
            { "post", "api/scheduled-releases", "application/json", "{\"documents\":[],\"at\":\"9999-12-31T23:59:59Z\"}" },
            {
                "post",
                "api/documents",
                "application/json",
                "{\"documents\":[{\"text\":\"" + new string('-', 4_000).Replace("-", "- ") + "\"}]}"
            },
            { "post", "api/documents", "application/json", "{\"documents\":[{\"text\":\"a: &a [*a]\"}]}" },
            { "post", "api/documents", "application/json", "{\"documents\":[{\"text\":\"\\u0000\"}]}" },
            {
                "post",
                "api/layouts/vessel/edits",
                "application/json",
                "{\"base\":1,\"edits\":[{\"op\":\"insert\",\"parent\":\"__proto__\",\"at\":\"first\",\"node\":{\"kind\":\"constructor\"}}]}"
            },
            { "put", "api/people/ada", "application/json", "{\"name\":{},\"roles\":[],\"language\":\"en\"}" },
            { "put", "api/people/..%2f..%2fetc", "application/json", "{\"name\":\"x\",\"roles\":[],\"language\":\"en\"}" },
            { "post", "api/tokens", "application/json", "{\"name\":\"x\",\"days\":99999999999}" },
            { "post", "api/session", "application/json", "{\"person\":{\"$ne\":null},\"password\":{\"$ne\":null}}" },
            { "post", "api/drafts/layout/vessel/comments", "application/json", "{\"text\":\"" + new string('x', 5_000) + "\"}" },
            { "post", "api/drafts/layout/..%2fpeople/comments", "application/json", "{\"text\":\"x\"}" },
            { "post", "api/events/acknowledge", "application/json", "{\"stream\":\"x\",\"release\":-9223372036854775808}" },
            { "get", "api/audit/entries?from=yesterday", "", "" },
            { "get", "api/audit/entries?limit=100000", "", "" },
            { "get", "api/audit/record-entries?action=burn", "", "" },
            { "get", "api/audit/record-entries?limit=0", "", "" },
            { "get", "api/audit/record-entries?after=MTIzNDU2Nzg5MDEyMzQ1Njc4OTAvdmVzc2VsLzEvMQ==", "", "" },
            { "get", "api/audit/entries?after=%27%20OR%201%3D1", "", "" },
            { "get", "api/bundle?document=layout/../../etc/passwd", "", "" },
            { "get", "api/files/" + "..%2f..%2f..%2fetc%2fpasswd" + "/x", "", "" },
            { "get", "api/forms/vessel?kind=%00&mode=%ff", "", "" },
            { "get", "api/releases/99999999999999999999", "", "" },
        };

    [Theory]
    [MemberData(nameof(Bodies))]
    public async Task What_makes_no_sense_is_refused_in_words(string method, string path, string type, string body)
    {
        using var http = await service.Http("greta");
        using var request = new HttpRequestMessage(new HttpMethod(method), path);
        if (method != "get")
        {
            request.Content = new ByteArrayContent(Encoding.UTF8.GetBytes(body))
            {
                Headers = { ContentType = new MediaTypeHeaderValue(type) },
            };
        }

        using var answer = await http.SendAsync(request, Cancel);

        ((int)answer.StatusCode).ShouldBeInRange(400, 499);
        var problem = await answer.Problem();
        problem.Detail.ShouldNotBeNullOrWhiteSpace();
        problem.Detail.ShouldNotContain("   at ");
    }

    [Fact]
    public async Task A_body_that_is_too_large_or_not_in_its_encoding_is_refused()
    {
        using var http = await service.Http("greta");
        using var much = new HttpRequestMessage(HttpMethod.Post, "api/documents")
        {
            Content = new ByteArrayContent(new byte[25_000_000])
            {
                Headers = { ContentType = new MediaTypeHeaderValue("application/json") },
            },
        };
        much.Headers.ExpectContinue = true;
        using var large = await http.SendAsync(much, Cancel);
        large.StatusCode.ShouldBe(HttpStatusCode.RequestEntityTooLarge);

        using var latin = new HttpRequestMessage(HttpMethod.Put, "api/layouts/vessel")
        {
            Content = new ByteArrayContent(Encoding.Latin1.GetBytes("kind: full\nkey: vessel\nentity: vessel\ntitle: Schmöker")),
        };
        latin.Headers.TryAddWithoutValidation("If-Match", "\"1\"");
        using var refused = await http.SendAsync(latin, Cancel);
        ((int)refused.StatusCode).ShouldBeInRange(400, 499);
    }

    [Fact]
    public async Task Script_in_every_text_goes_in_and_out_as_text_and_never_as_a_page()
    {
        using var ada = await service.As("greta");
        using var http = await service.Http("greta");
        var draft = await ada.Layout("vessel", Cancel);
        var edited = await ada.Edit(
            "vessel",
            new EditRequest(
                draft.Revision,
                Wire.Json(
                    $$"""[{"op":"set","node":"rig","property":"title","value":{{System.Text.Json.JsonSerializer.Serialize(Script)}}}]"""
                ),
                Script[..60]
            ),
            Cancel
        );
        await ada.Comment("layout", "vessel", new CommentRequest(Script), Cancel);
        await ada.Publish(new PublishRequest([new("layout", "vessel", edited.Revision)], Script), Cancel);
        await ada.PutPerson("joris", new PersonRequest(Script[..80], [], "en"), Cancel);
        using var keeper = await http.PostAsync(
            "api/records/berth",
            RunningService.Json(
                $$$"""{"values":{"code":"F1","zone":"outer","pontoon":{{{System.Text.Json.JsonSerializer.Serialize(Script[..28])}}} } }"""
            ),
            Cancel
        );
        keeper.StatusCode.ShouldBe(HttpStatusCode.Created, await keeper.Content.ReadAsStringAsync(Cancel));

        foreach (
            var path in new[]
            {
                "api/forms/vessel",
                "api/layouts/vessel",
                "api/layouts/vessel/changes",
                "api/drafts/layout/vessel/comments",
                "api/releases",
                "api/people",
                "api/audit/entries",
                "api/records/berth",
                "api/audit/entries/export",
                "api/records/berth/csv",
            }
        )
        {
            using var answer = await http.GetAsync(path, Cancel);
            answer.IsSuccessStatusCode.ShouldBeTrue(path);
            answer.Content.Headers.ContentType!.MediaType.ShouldNotBe("text/html", path);
            answer.Headers.GetValues("X-Content-Type-Options").Single().ShouldBe("nosniff", path);
        }

        (await http.GetStringAsync("api/drafts/layout/vessel/comments", Cancel)).ShouldContain("alert");
        // The page carries what it begins with as data, which no text can end.
        using var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer() })
        {
            BaseAddress = service.Address,
        };
        (await browser.PostAsJsonAsync("api/session", new SignIn("greta"), WireJson.Default.SignIn, Cancel)).EnsureSuccessStatusCode();
        using var page = await browser.GetAsync("records/vessel/1", Cancel);
        var html = await page.Content.ReadAsStringAsync(Cancel);
        html.ShouldNotContain("<script>alert");
        html.ShouldNotContain("<img src=x");
        page.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("default-src 'self'");
    }

    [Theory]
    [InlineData("bright-tier-session", "forged")]
    [InlineData("bright-tier-session", "AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA")]
    public async Task A_forged_cookie_or_token_is_nobody(string cookie, string value)
    {
        using var http = await service.Http();
        using var request = new HttpRequestMessage(HttpMethod.Get, "api/layouts") { Headers = { { "Cookie", $"{cookie}={value}" } } };
        using var answer = await http.SendAsync(request, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);

        using var bearer = new HttpRequestMessage(HttpMethod.Get, "api/layouts")
        {
            Headers = { { "Authorization", $"Bearer bt_{value}" } },
        };
        using var refused = await http.SendAsync(bearer, Cancel);
        (await refused.Problem()).Code.ShouldBe("token-unknown");

        using var session = await http.PostAsJsonAsync("api/session", new SignIn("ada"), WireJson.Default.SignIn, Cancel);
        var secret = session
            .Headers.GetValues("Set-Cookie")
            .First(each => each.StartsWith("bright-tier-session=", StringComparison.Ordinal))
            .Split(';')[0]
            .Split('=')[1];
        using var asToken = new HttpRequestMessage(HttpMethod.Get, "api/layouts") { Headers = { { "Authorization", $"Bearer {secret}" } } };
        using var anonymous = await service.Http();
        using var crossed = await anonymous.SendAsync(asToken, Cancel);
        crossed.StatusCode.ShouldBe(HttpStatusCode.Unauthorized, "a session's secret is no token");
    }

    [Fact]
    public async Task Another_site_changes_nothing_with_somebodys_cookie()
    {
        using var http = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer() })
        {
            BaseAddress = service.Address,
        };
        using var begun = await http.PostAsJsonAsync("api/session", new SignIn("ada"), WireJson.Default.SignIn, Cancel);
        begun
            .Headers.GetValues("Set-Cookie")
            .ShouldContain(each =>
                each.Contains("bright-tier-session")
                && each.Contains("samesite=strict", StringComparison.OrdinalIgnoreCase)
                && each.Contains("httponly", StringComparison.OrdinalIgnoreCase)
            );

        foreach (var forged in new string?[] { null, "", "CfDJ8forged", new('A', 5_000) })
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, "api/tokens")
            {
                Content = RunningService.Json("""{"name":"x"}"""),
                Headers = { { "Origin", "https://elsewhere.example" } },
            };
            if (forged is not null)
            {
                request.Headers.TryAddWithoutValidation("X-Antiforgery", forged);
            }

            using var answer = await http.SendAsync(request, Cancel);
            (await answer.Problem()).Code.ShouldBe("antiforgery");
            answer.Headers.Contains("Access-Control-Allow-Origin").ShouldBeFalse();
        }

        // The value of one person's session is not good for another's.
        using var other = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer() })
        {
            BaseAddress = service.Address,
        };
        using var hers = await other.PostAsJsonAsync("api/session", new SignIn("greta"), WireJson.Default.SignIn, Cancel);
        var value = (await hers.Content.ReadFromJsonAsync(WireJson.Default.SessionInfo, Cancel))!.Antiforgery;
        using var crossed = new HttpRequestMessage(HttpMethod.Post, "api/tokens")
        {
            Content = RunningService.Json("""{"name":"x"}"""),
            Headers = { { "X-Antiforgery", value } },
        };
        using var refused = await http.SendAsync(crossed, Cancel);
        (await refused.Problem()).Code.ShouldBe("antiforgery");
    }

    [Fact]
    public async Task More_calls_than_one_may_make_are_told_to_wait()
    {
        await using var busy = await HostedService.WithDemo(null, "--CallsPerSecond", "5", "--SignInsPerMinute", "10");
        using var http = await busy.Http("ada");
        var answers = await Task.WhenAll(Enumerable.Range(0, 120).Select(_ => http.GetAsync("api/layouts", Cancel)));
        answers.Count(answer => answer.StatusCode == HttpStatusCode.TooManyRequests).ShouldBeGreaterThan(20);
        var refused = answers.First(answer => answer.StatusCode == HttpStatusCode.TooManyRequests);
        refused.Headers.RetryAfter.ShouldNotBeNull();
        (await refused.Problem()).Code.ShouldBe("too-many");
        (await http.GetAsync("api/forms/vessel", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK, "forms go on being served");

        using var anonymous = await busy.Http();
        var tries = new List<HttpStatusCode>();
        for (var i = 0; i < 12; i++)
        {
            tries.Add(
                (
                    await anonymous.PostAsJsonAsync(
                        "api/session",
                        new SignIn("ada", Password: $"guess number {i}"),
                        WireJson.Default.SignIn,
                        Cancel
                    )
                ).StatusCode
            );
        }

        tries[^1].ShouldBe(HttpStatusCode.TooManyRequests);
    }
}
