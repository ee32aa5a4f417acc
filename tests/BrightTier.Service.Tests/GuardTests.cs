using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// R15: every endpoint in odd spellings of its path meets the same guards, and what is refused is refused before a body is read.
/// </summary>
public sealed class GuardTests(DemoService service)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Calls that anybody may make. All others ask who calls.</summary>
    private static readonly string[] Open =
    [
        "get /api/session",
        "get /api/session/people",
        "post /api/setup",
        "post /api/session",
        "get /api/schemas/document.json",
        "get /api/grammar",
    ];

    /// <summary>The path itself, and ways to spell it that routing may or may not take for the same.</summary>
    private static IEnumerable<string> Spellings(string path)
    {
        yield return path;
        yield return path.ToUpperInvariant();
        yield return "/Api" + path[4..];
        yield return path + "/";
        yield return path + "//";
        yield return "/" + path;
        yield return path.Replace("/api/", "/api//", StringComparison.Ordinal);
        yield return path.Replace("/api/", "/%61pi/", StringComparison.Ordinal);
        yield return path.Replace("/api/", "/api%2f", StringComparison.Ordinal);
        yield return path.Replace("/api/", "/./api/", StringComparison.Ordinal);
        yield return path.Replace("/api/", "/records/../api/", StringComparison.Ordinal);
        yield return path.Replace("/api/", "/api;a=b/", StringComparison.Ordinal);
        yield return path + "?x=1";
        yield return path + "%20";
    }

    private async Task<List<(string Method, string Path)>> Calls()
    {
        using var http = await service.Http();
        using var document = JsonDocument.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        return
        [
            .. document
                .RootElement.GetProperty("paths")
                .EnumerateObject()
                .SelectMany(path =>
                    path.Value.EnumerateObject()
                        .Select(method =>
                            (
                                method.Name,
                                path.Name.Replace("{entity}", "vessel")
                                    .Replace("{kind}", "layout")
                                    .Replace("{number}", "987654")
                                    .Replace("{hash}", new string('0', 64))
                                    .Replace("{name}", "none")
                                    .Replace("{id}", "987654")
                                    .Replace("{key}", "none")
                            )
                        )
                ),
        ];
    }

    /// <summary>A request line to the letter: the client would otherwise tidy it.</summary>
    private HttpRequestMessage Request(string method, string path, string? body = null)
    {
        var request = new HttpRequestMessage(
            new HttpMethod(method),
            new Uri(
                service.Running.Address.ToString().TrimEnd('/') + path,
                new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true }
            )
        );
        if (body is not null || method is "post" or "put" or "patch")
        {
            request.Content = RunningService.Json(body ?? "{}");
            request.Content.Headers.ContentType = new MediaTypeHeaderValue(TypeOf(path));
        }

        return request;
    }

    /// <summary>The type of body a call takes; with another one routing answers before anything else does, and nothing is read.</summary>
    private static string TypeOf(string path) =>
        path.Contains("/csv", StringComparison.OrdinalIgnoreCase) ? "text/csv"
        : path.Contains("bundle", StringComparison.OrdinalIgnoreCase) ? "application/zip"
        : path.Contains("files", StringComparison.OrdinalIgnoreCase) ? "application/octet-stream"
        : "application/json";

    [Fact]
    public async Task Nobody_gets_past_being_asked_who_she_is_however_a_path_is_spelt()
    {
        using var http = new HttpClient();
        foreach (var (method, path) in await Calls())
        {
            if (Open.Contains($"{method} {path}"))
            {
                continue;
            }

            foreach (var spelt in Spellings(path))
            {
                using var answer = await http.SendAsync(Request(method, spelt), HttpCompletionOption.ResponseHeadersRead, Cancel);
                // The page is served at the console's own places, to anybody; it holds nothing.
                var page = answer.Content.Headers.ContentType?.MediaType == "text/html";
                ((int)answer.StatusCode is 401 or 404 or 400 or 405 || page).ShouldBeTrue($"{method} {spelt}: {answer.StatusCode}");
                if (spelt == path)
                {
                    answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized, $"{method} {path}");
                }
            }
        }
    }

    [Fact]
    public async Task No_spelling_lets_another_page_change_something_with_somebodys_cookie()
    {
        var cookies = new CookieContainer();
        using var http = new HttpClient(new SocketsHttpHandler { CookieContainer = cookies });
        using (var session = await http.SendAsync(Request("post", "/api/session", """{"person":"greta"}"""), Cancel))
        {
            session.StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        foreach (var (method, path) in (await Calls()).Where(call => call.Method is not "get"))
        {
            foreach (var spelt in Spellings(path))
            {
                using var answer = await http.SendAsync(Request(method, spelt), HttpCompletionOption.ResponseHeadersRead, Cancel);
                ((int)answer.StatusCode).ShouldBeOneOf([400, 403, 404, 405], $"{method} {spelt}");
                if (answer.StatusCode == HttpStatusCode.BadRequest || spelt == path)
                {
                    (await answer.Problem()).Code.ShouldBe("antiforgery", $"{method} {spelt}");
                }
            }
        }
    }

    [Theory]
    [InlineData("delete", "/api/layouts", 405)]
    [InlineData("post", "/api/audit/entries", 405)]
    [InlineData("get", "/api/nothing", 404)]
    [InlineData("post", "/api/tokens", 415)]
    public async Task What_is_not_there_is_said_to_whoever_asks(string method, string path, int status)
    {
        using var http = await service.Http("bram");
        using var request = Request(method, path);
        if (status == 415)
        {
            request.Content = new StringContent("name=a", System.Text.Encoding.UTF8, "application/x-www-form-urlencoded");
        }

        using var answer = await http.SendAsync(request, Cancel);
        ((int)answer.StatusCode).ShouldBe(status);
        (await answer.Problem()).Detail.ShouldNotBeNullOrWhiteSpace();
    }

    [Fact]
    public async Task Tries_at_signing_in_are_counted_together_however_their_path_is_spelt()
    {
        await using var own = await HostedService.WithDemo(null, "--SignInsPerMinute", "6");
        using var http = new HttpClient();
        var answers = new List<HttpStatusCode>();
        foreach (
            var spelt in new[]
            {
                "/api/session",
                "/API/session",
                "/api/session/",
                "/api/SESSION",
                "/%61pi/session",
                "/api/session?x=1",
                "/Api/Session/",
                "/api/session",
            }
        )
        {
            using var request = new HttpRequestMessage(
                HttpMethod.Post,
                new Uri(
                    own.Address.ToString().TrimEnd('/') + spelt,
                    new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true }
                )
            )
            {
                Content = RunningService.Json("""{"person":"ada","password":"x"}"""),
            };
            using var answer = await http.SendAsync(request, Cancel);
            answers.Add(answer.StatusCode);
        }

        // Five misses close the name; the limit of tries closes the door whatever the name.
        answers[^1].ShouldBe(HttpStatusCode.TooManyRequests);
        answers.ShouldAllBe(status => status == HttpStatusCode.Unauthorized || status == HttpStatusCode.TooManyRequests);
    }

    [Fact]
    public async Task A_body_is_not_read_before_it_is_known_who_sends_it_and_what_is_too_long_not_at_all()
    {
        foreach (
            var (path, token, expected) in new[]
            {
                ("/api/bundle", null, 401),
                ("/API/documents", null, 401),
                ("/api/files/?name=a", null, 401),
                ("/api/bundle", "bram", 403),
                ("/api/session", null, 413),
                ("/api/releases", "greta", 413),
            }
        )
        {
            using var http = token is null ? await service.Http() : await service.Http(token);
            using var socket = new System.Net.Sockets.TcpClient();
            await socket.ConnectAsync(IPAddress.Loopback, service.Running.Address.Port, Cancel);
            var authorization = token is null ? "" : $"Authorization: {http.DefaultRequestHeaders.Authorization}\r\n";
            // 23 MB are announced and none of them sent: an answer comes all the same.
            await socket
                .GetStream()
                .WriteAsync(
                    System.Text.Encoding.ASCII.GetBytes(
                        $"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\n{authorization}Content-Type: "
                            + $"{TypeOf(path)}\r\nContent-Length: 23000000\r\n\r\n"
                    ),
                    Cancel
                );
            using var patience = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
            patience.CancelAfter(TimeSpan.FromSeconds(10));
            using var reader = new StreamReader(socket.GetStream());
            (await reader.ReadLineAsync(patience.Token)).ShouldStartWith($"HTTP/1.1 {expected}", customMessage: path);
        }
    }

    [Fact]
    public async Task Secrets_nobody_is_known_by_are_asked_about_so_often_and_no_more()
    {
        await using var own = await HostedService.WithDemo();
        using var ada = await own.Http("ada");
        using var http = new HttpClient { BaseAddress = own.Address };
        (await ada.GetAsync("api/entities", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var seen = new List<HttpStatusCode>();
        for (var i = 0; i < 260; i++)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "api/entities")
            {
                Headers = { Authorization = new AuthenticationHeaderValue("Bearer", $"bt_{i:D43}") },
            };
            seen.Add((await http.SendAsync(request, Cancel)).StatusCode);
        }

        seen[0].ShouldBe(HttpStatusCode.Unauthorized);
        seen[^1].ShouldBe(HttpStatusCode.TooManyRequests);
        (await ada.GetAsync("api/entities", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK, "who is known stays known");
    }

    [Theory]
    [InlineData("get", "/api/records/vessel?q=%00", null, null)]
    [InlineData("get", "/api/people?x=a%00b", null, null)]
    [InlineData("post", "/api/tokens", """{"name":"a\u0000b","days":1}""", null)]
    [InlineData("post", "/api/records/keeper", """{"values":{"givenName":"a\u0000b"}}""", null)]
    [InlineData("post", "/api/records/agreement", """{"values":{"deposit":99999999999999999999}}""", null)]
    [InlineData("post", "/api/records/vessel", """{"values":{"length":1e20}}""", null)]
    [InlineData("post", "/api/tokens", """{"name":"a","days":1}""", "application/json; charset=klingon")]
    [InlineData("post", "/api/tokens", """{"name":"a","days":1}""", "application/json; charset=utf-7")]
    [InlineData("put", "/api/layouts/vessel", "kind: full", "application/yaml; charset=\"ebcdic\"")]
    [InlineData("post", "/api/records/vessel/csv", "name\r\na\0b", "text/csv")]
    public async Task What_cannot_be_kept_is_refused_with_its_place(string method, string path, string? body, string? type)
    {
        using var http = await service.Http("greta");
        using var request = Request(method, path, body);
        if (type is not null)
        {
            request.Content!.Headers.Remove("Content-Type");
            request.Content.Headers.TryAddWithoutValidation("Content-Type", type);
        }

        request.Headers.TryAddWithoutValidation("If-Match", "\"1\"");
        using var answer = await http.SendAsync(request, Cancel);
        ((int)answer.StatusCode).ShouldBeInRange(400, 499, await answer.Content.ReadAsStringAsync(Cancel));
        (await answer.Problem()).Detail.ShouldNotBeNullOrWhiteSpace();
    }

    [Fact]
    public async Task People_are_picked_by_this_machines_own_name_alone()
    {
        using var http = new HttpClient(new SocketsHttpHandler { UseCookies = false });
        foreach (
            var (host, may) in new[]
            {
                ("127.0.0.1", true),
                ("localhost", true),
                ("[::1]", true),
                ("quay.example.org", false),
                ("127.0.0.1.example.org", false),
                ("localhost.example.org", false),
            }
        )
        {
            using var request = Request("post", "/api/session", """{"person":"ada"}""");
            request.Headers.Host = host;
            using var answer = await http.SendAsync(request, Cancel);
            answer.StatusCode.ShouldBe(may ? HttpStatusCode.OK : HttpStatusCode.Forbidden, host);
        }
    }
}
