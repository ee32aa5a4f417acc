using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

public sealed class AccessTests(DemoService service)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Nobody_gets_anything_without_signing_in()
    {
        using var http = await service.Http();
        using var document = JsonDocument.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        var open = new[] { "/api/session", "/api/session/people", "/api/setup", "/api/grammar", "/api/schemas/document.json" };
        var stated = new HashSet<string>();
        foreach (var path in document.RootElement.GetProperty("paths").EnumerateObject())
        {
            foreach (var method in path.Value.EnumerateObject())
            {
                method.Value.GetProperty("operationId").GetString().ShouldNotBeNullOrEmpty();
                method.Value.GetProperty("responses").TryGetProperty("400", out _).ShouldBeTrue();
                if (method.Value.GetProperty("security").GetArrayLength() == 0)
                {
                    stated.Add(path.Name);
                    continue;
                }

                var address = path
                    .Name.Replace("{key}", "vessel")
                    .Replace("{kind}", "layout")
                    .Replace("{entity}", "vessel")
                    .Replace("{number}", "1")
                    .Replace("{id}", "1")
                    .Replace("{hash}", new string('a', 64))
                    .Replace("{name}", "a.png")[1..];
                using var request = new HttpRequestMessage(new HttpMethod(method.Name), address);
                if (method.Name is not ("get" or "delete"))
                {
                    request.Content = RunningService.Json(Bodies.GetValueOrDefault($"{method.Name} {path.Name}", "{}"));
                    if (path.Name is "/api/files" or "/api/bundle" or "/api/records/{entity}/csv" or "/api/records/{entity}/csv/columns")
                    {
                        request.Content.Headers.ContentType = new(
                            path.Name switch
                            {
                                "/api/files" => "application/octet-stream",
                                "/api/bundle" => "application/zip",
                                _ => "text/csv",
                            }
                        );
                    }
                }

                using var answer = await http.SendAsync(request, Cancel);
                answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized, $"{method.Name} {path.Name}");
                (await answer.Problem()).Code.ShouldBe("not-signed-in");
            }
        }

        stated.ShouldBe(open, ignoreOrder: true);
    }

    private static readonly Dictionary<string, string> Bodies = new()
    {
        ["post /api/layouts/{key}/conditions/check"] = """{"text":"true"}""",
        ["put /api/choice-lists/{key}"] = """{"revision":1,"choices":[]}""",
        ["post /api/patterns/test"] = """{"pattern":"a","samples":[]}""",
        ["post /api/layouts/{key}/pieces"] = """{"title":"A","nodes":[]}""",
        ["post /api/records/{entity}/{id}/comments"] = """{"text":"x"}""",
        ["put /api/people/{id}"] = """{"name":"x","roles":[],"language":"en"}""",
        ["post /api/entities/{key}/fields"] = """{"label":"x","type":"text"}""",
        ["put /api/session/password"] = """{"current":"x","new":"y"}""",
        ["put /api/people/{id}/password"] = """{"password":"x"}""",
        ["put /api/comments/{id}/resolved"] = """{"resolved":true}""",
        ["post /api/drafts/{kind}/{key}/comments"] = """{"text":"x"}""",
        ["post /api/documents"] = """{"documents":[]}""",
        ["post /api/events/acknowledge"] = """{"stream":"x","release":1}""",
        ["post /api/scheduled-releases"] = """{"documents":[],"at":"2020-01-01T00:00:00Z"}""",
        ["post /api/approvals"] = """{"kind":"layout","key":"vessel","revision":1}""",
        ["post /api/tokens"] = """{"name":"x"}""",
        ["post /api/layouts"] = """{"entity":"vessel"}""",
        ["post /api/templates/{key}/layouts"] = """{"entity":"vessel"}""",
        ["post /api/layouts/{key}/edits"] = """{"base":1,"edits":[]}""",
        ["post /api/releases"] = """{"documents":[]}""",
        ["post /api/releases/{number}/restore"] = "{}",
        ["post /api/records/{entity}"] = """{"values":{}}""",
        ["patch /api/records/{entity}"] = """{"records":[],"values":{}}""",
        ["patch /api/records/{entity}/{id}"] = """{"values":{}}""",
    };

    [Theory]
    [InlineData("bram", "get", "api/layouts")]
    [InlineData("bram", "get", "api/layouts/vessel")]
    [InlineData("bram", "get", "api/releases")]
    [InlineData("bram", "get", "api/layouts/vessel/preview")]
    [InlineData("bram", "get", "api/entities/vessel?draft=true")]
    [InlineData("bram", "post", "api/releases")]
    [InlineData("bram", "post", "api/layouts")]
    [InlineData("farid", "post", "api/records/vessel")]
    [InlineData("farid", "delete", "api/records/vessel/1")]
    [InlineData("cleo", "post", "api/releases/1/restore")]
    public async Task Who_may_not_is_told_so(string person, string method, string path)
    {
        using var http = await service.Http(person);
        using var request = new HttpRequestMessage(new HttpMethod(method), path);
        var template =
            $"{method} /{path.Split('?')[0].Replace("records/vessel", "records/{entity}").Replace("releases/1", "releases/{number}")}";
        request.Content = method is "get" or "delete" ? null : RunningService.Json(Bodies.GetValueOrDefault(template, "{}"));

        using var answer = await http.SendAsync(request, Cancel);

        answer.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await answer.Problem()).Code.ShouldBe("forbidden");
    }

    [Theory]
    [InlineData("X-Forwarded-For", "203.0.113.7")]
    [InlineData("Forwarded", "for=203.0.113.7")]
    [InlineData("Via", "1.1 proxy")]
    public async Task People_cannot_be_picked_through_a_proxy(string header, string value)
    {
        using var http = await service.Http();
        http.DefaultRequestHeaders.Add(header, value);

        using var answer = await http.PostAsJsonAsync("api/session", new { person = "ada" }, Cancel);

        answer.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await answer.Problem()).Code.ShouldBe("picking-forwarded");
        (await http.GetFromJsonAsync("api/session", WireJson.Default.SessionInfo, Cancel))!.PeopleCanBePicked.ShouldBeFalse();
    }

    [Fact]
    public async Task A_service_without_the_flag_lets_nobody_be_picked_and_begins_with_a_token_for_its_administrator()
    {
        await using var plain = await HostedService.Empty();
        using var http = await plain.Http();
        using var answer = await http.PostAsJsonAsync("api/session", new { person = "administrator" }, Cancel);
        (await answer.Problem()).Code.ShouldBe("picking-off");

        var token = System.Text.RegularExpressions.Regex.Match(plain.Output, "bt_[A-Za-z0-9_-]+").Value;
        using var client = new BrightTierClient(plain.Address, token);
        (await client.Session(Cancel)).Permissions.ShouldContain("publish");
    }

    [Fact]
    public async Task A_change_under_a_cookie_needs_the_antiforgery_value()
    {
        using var http = await service.Http();
        using var signedIn = await http.PostAsJsonAsync("api/session", new { person = "ada" }, Cancel);
        var session = (await signedIn.Content.ReadFromJsonAsync(WireJson.Default.SessionInfo, Cancel))!;

        using var without = await http.PostAsJsonAsync("api/tokens", new { name = "t" }, Cancel);
        (await without.Problem()).Code.ShouldBe("antiforgery");

        http.DefaultRequestHeaders.Add("X-Antiforgery", session.Antiforgery);
        using var with = await http.PostAsJsonAsync("api/tokens", new { name = "t" }, Cancel);
        with.StatusCode.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task A_token_that_is_ended_is_good_for_nothing()
    {
        using var bram = await service.As("bram");
        using var http = await service.Http("bram");
        var token = (await http.GetFromJsonAsync("api/tokens", WireJson.Default.IReadOnlyListTokenInfo, Cancel))!;
        var own = token.First(each => http.DefaultRequestHeaders.Authorization!.Parameter is not null && each.Secret is null);
        foreach (var each in token)
        {
            using var _ = await http.DeleteAsync($"api/tokens/{each.Id}", Cancel);
        }

        own.ShouldNotBeNull();
        using var after = await http.GetAsync("api/entities", Cancel);
        after.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_token_that_is_not_known_is_said_to_be_unknown()
    {
        using var http = await service.Http();
        using var signIn = await http.PostAsJsonAsync("api/session", new { token = "bt_nonsense" }, Cancel);
        ((int)signIn.StatusCode, (await signIn.Problem()).Code).ShouldBe((401, "token-unknown"));
        http.DefaultRequestHeaders.Authorization = new("Bearer", "bt_nonsense");
        using var call = await http.GetAsync("api/entities", Cancel);
        ((int)call.StatusCode, (await call.Problem()).Code).ShouldBe((401, "token-unknown"));
    }

    [Fact]
    public async Task A_signed_out_session_is_over()
    {
        using var http = await service.Http();
        using var signedIn = await http.PostAsJsonAsync("api/session", new { person = "cleo" }, Cancel);
        var session = (await signedIn.Content.ReadFromJsonAsync(WireJson.Default.SessionInfo, Cancel))!;
        (await http.GetAsync("api/entities", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        using var request = new HttpRequestMessage(HttpMethod.Delete, "api/session")
        {
            Headers = { { "X-Antiforgery", session.Antiforgery } },
        };
        (await http.SendAsync(request, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await http.GetAsync("api/entities", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Roles_given_and_taken_hold_from_the_next_call_on_and_her_stream_begins_anew()
    {
        await using var own = await HostedService.WithDemo();
        using var greta = await own.Http("greta");
        using var bram = await own.Http("bram");
        (await bram.GetAsync("api/layouts", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        using var stream = await bram.GetAsync("api/events", HttpCompletionOption.ResponseHeadersRead, Cancel);

        using var put = await greta.PutAsJsonAsync(
            "api/people/bram",
            new
            {
                name = "Bram Klaasen",
                roles = new[] { "quay-hand", "harbour-office" },
                language = "nl",
            },
            Cancel
        );

        put.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await bram.GetAsync("api/layouts", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        using var fresh = new HttpRequestMessage(HttpMethod.Put, "api/people/bram")
        {
            Content = RunningService.Json("""{"name":"Brenda Kay","roles":[],"language":"en"}"""),
            Headers = { { "If-None-Match", "*" } },
        };
        using var taken = await greta.SendAsync(fresh, Cancel);
        (await taken.Problem()).ShouldSatisfyAllConditions(
            problem => problem.Code.ShouldBe("person-there"),
            problem => problem.Detail!.ShouldStartWith("Bram Klaasen signs in as 'bram' already")
        );
        // The stream tells why and ends; the browser opens it again with the new rights.
        (await stream.Content.ReadAsStringAsync(Cancel)).ShouldContain("event: person\ndata: {\"person\":\"bram\"}");
        (await bram.GetFromJsonAsync("api/people", WireJson.Default.IReadOnlyListPerson, Cancel))!.ShouldAllBe(person =>
            person.Roles.Count == 0
        );
        (await greta.GetFromJsonAsync("api/people", WireJson.Default.IReadOnlyListPerson, Cancel))!
            .Single(person => person.Id == "bram")
            .Roles.ShouldBe(["quay-hand", "harbour-office"]);
    }

    [Theory]
    [InlineData("bram", """{"name":"Bram","roles":["quay-hand","diver"],"language":"nl"}""", "/roles/1")]
    [InlineData("bram", """{"name":" ","roles":[],"language":"nl"}""", "/name")]
    [InlineData("bram", """{"name":"Bram","roles":[],"language":"xx"}""", "/language")]
    [InlineData("Bram!", """{"name":"Bram","roles":[],"language":"nl"}""", "id")]
    [InlineData("greta", """{"name":"Greta Root","roles":["auditor"],"language":"en"}""", "/roles")]
    public async Task A_person_that_would_be_wrong_is_refused_with_the_place(string id, string body, string pointer)
    {
        using var greta = await service.Http("greta");
        using var answer = await greta.PutAsync($"api/people/{id}", RunningService.Json(body), Cancel);
        answer.IsSuccessStatusCode.ShouldBeFalse();
        (await answer.Problem()).Problems!.Single().Pointer.ShouldBe(pointer);
    }

    [Theory]
    [InlineData("api/nothing", 404)]
    [InlineData("api/entities/vesel", 404)]
    [InlineData("api/layouts/vesel", 404)]
    [InlineData("api/forms/vesel", 404)]
    [InlineData("api/forms/vessel?mode=edti", 400)]
    [InlineData("api/records/vessel/99999", 404)]
    [InlineData("api/records/vessel?sort=lenght", 404)]
    [InlineData("api/records/vessel?limit=0", 400)]
    [InlineData("api/records/vessel?limit=x", 400)]
    [InlineData("api/records/vessel?after=rubbish", 400)]
    [InlineData("api/releases/99", 404)]
    [InlineData("api/layouts/vessel/preview?role=quayhand", 404)]
    [InlineData("api/files/zz/a", 404)]
    public async Task A_wrong_address_is_answered_with_what_is_wrong(string path, int status)
    {
        using var http = await service.Http("ada");

        using var answer = await http.GetAsync(path, Cancel);

        ((int)answer.StatusCode).ShouldBe(status);
        (await answer.Problem()).Detail.ShouldNotBeNullOrEmpty();
    }

    [Fact]
    public async Task Pages_cannot_be_framed_nor_run_what_is_not_ours()
    {
        using var http = await service.Http();
        using var answer = await http.GetAsync("api/session", Cancel);
        answer.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("frame-ancestors 'none'");
        answer.Headers.Contains("Server").ShouldBeFalse();
    }

    [Fact]
    public async Task The_document_in_docs_is_the_one_the_service_serves()
    {
        using var http = await service.Http();
        var served = System.Text.Json.Nodes.JsonNode.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        var kept = System.Text.Json.Nodes.JsonNode.Parse(
            await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "docs", "openapi.json"), Cancel)
        );
        System.Text.Json.Nodes.JsonNode.DeepEquals(served, kept).ShouldBeTrue("make openapi");
    }
}
