using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// Every call by every role. What is expected is written here by hand; a call of the OpenAPI document without a row fails.
/// A letter a role: <c>y</c> the rights let it through (what follows may still be 4xx for another reason), <c>n</c> 403.
/// </summary>
public sealed class RoleMatrixTests(DemoService service)
{
    /// <summary>Ada: harbour office; Bram: quay hand; Cleo: harbour master; Dirk: yard foreman; Esme: bookkeeper; Farid: auditor; Greta: administrator.</summary>
    private static readonly string[] People = ["ada", "bram", "cleo", "dirk", "esme", "farid", "greta"];

    private static readonly (string Call, string Allowed, string? Body)[] Rows =
    [
        ("get /api/session", "yyyyyyy", null),
        ("get /api/session/people", "yyyyyyy", null),
        ("post /api/session", "yyyyyyy", """{"person":"nobody"}"""),
        ("get /api/tokens", "yyyyyyy", null),
        ("post /api/tokens", "yyyyyyy", """{"name":"","days":1}"""),
        ("delete /api/tokens/{id}", "yyyyyyy", null),
        ("get /api/entities", "yyyyyyy", null),
        ("get /api/entities/{key}", "yyyyyyy", null),
        ("post /api/entities/{key}/fields", "ynnnnny", """{"label":"","type":"text"}"""),
        ("get /api/documents/application/{key}", "ynnnnny", null),
        ("put /api/documents/application/{key}", "ynnnnny", "kind: nothing"),
        ("get /api/documents/choice-list/{key}", "ynnnnny", null),
        ("put /api/documents/choice-list/{key}", "ynnnnny", "kind: nothing"),
        ("get /api/documents/entity/{key}", "ynnnnny", null),
        ("put /api/documents/entity/{key}", "ynnnnny", "kind: nothing"),
        ("get /api/documents", "ynnnnny", null),
        ("get /api/documents/pattern/{key}", "ynnnnny", null),
        ("put /api/documents/pattern/{key}", "ynnnnny", "kind: nothing"),
        ("get /api/documents/template/{key}", "ynnnnny", null),
        ("put /api/documents/template/{key}", "ynnnnny", "kind: nothing"),
        ("get /api/documents/routing/{key}", "ynnnnny", null),
        ("put /api/documents/routing/{key}", "ynnnnny", "kind: nothing"),
        ("get /api/documents/navigation/{key}", "ynnnnny", null),
        ("put /api/documents/navigation/{key}", "ynnnnny", "kind: nothing"),
        ("get /api/layouts/{key}/compare", "ynnnnny", null),
        ("get /api/layouts/{key}/explain", "ynnnnny", null),
        ("get /api/layouts/{key}/length", "ynnnnny", null),
        ("get /api/impact", "ynnnnny", null),
        ("get /api/findings", "ynnnnny", null),
        ("post /api/templates/{key}", "ynnnnny", """{"entity":"nothing"}"""),
        ("get /api/navigation", "yyyyyyy", null),
        ("get /api/layouts", "ynnnnny", null),
        ("post /api/layouts", "ynnnnny", """{"entity":"nothing"}"""),
        ("get /api/layouts/{key}", "ynnnnny", null),
        ("put /api/layouts/{key}", "ynnnnny", "kind: nothing"),
        ("post /api/layouts/{key}/edits", "ynnnnny", """{"base":-1,"edits":[]}"""),
        ("get /api/layouts/{key}/changes", "ynnnnny", null),
        ("get /api/layouts/{key}/findings", "ynnnnny", null),
        ("post /api/layouts/{key}/generate", "ynnnnny", null),
        ("get /api/layouts/{key}/preview", "ynnnnny", null),
        ("get /api/layouts/{key}/entity", "ynnnnny", null),
        ("get /api/pieces", "ynnnnny", null),
        ("post /api/layouts/{key}/pieces", "ynnnnny", """{"title":"","nodes":[]}"""),
        ("get /api/layouts/{key}/detach", "ynnnnny", null),
        ("get /api/layouts/{key}/clip", "ynnnnny", null),
        ("post /api/layouts/{key}/paste", "ynnnnny", """{"piece":"nothing"}"""),
        ("post /api/layouts/{key}/condition", "ynnnnny", """{"text":""}"""),
        ("get /api/patterns", "ynnnnny", null),
        ("get /api/choice-lists/{key}", "ynnnnny", null),
        ("put /api/choice-lists/{key}", "ynnnnny", """{"revision":-1,"choices":[]}"""),
        ("post /api/patterns/try", "ynnnnny", """{"pattern":"","samples":[]}"""),
        ("get /api/schema/layout.json", "yyyyyyy", null),
        ("get /api/entities/{entity}/examples", "ynnnnny", null),
        ("get /api/icons", "ynnnnny", null),
        ("get /api/routing", "ynnnnny", null),
        ("get /api/grammar", "yyyyyyy", null),
        ("get /api/releases", "ynnnnny", null),
        ("post /api/releases", "ynnnnny", """{"documents":[]}"""),
        ("get /api/releases/along", "ynnnnny", null),
        ("get /api/releases/{number}", "ynnnnny", null),
        ("post /api/releases/{number}/restore", "ynnnnny", "{}"),
        ("get /api/forms/{entity}", "yyyyyyy", null),
        ("get /api/search", "yyyyyyy", null),
        ("get /api/records/{entity}", "yyyyyyy", null),
        ("post /api/records/{entity}", "yyyyyny", """{"values":{}}"""),
        ("patch /api/records/{entity}", "yyyyyny", """{"records":[],"values":{}}"""),
        ("get /api/records/{entity}/look-up", "yyyyyyy", null),
        ("get /api/records/{entity}/csv", "yyyyyyy", null),
        ("post /api/records/{entity}/csv", "yyyyyny", ""),
        ("post /api/records/{entity}/csv/columns", "yyyyyny", ""),
        ("get /api/records/{entity}/{id}", "yyyyyyy", null),
        ("get /api/records/{entity}/{id}/history", "yyyyyyy", null),
        ("get /api/records/{entity}/{id}/comments", "yyyyyyy", null),
        ("post /api/records/{entity}/{id}/comments", "yyyyyyy", """{"text":""}"""),
        ("get /api/mentions", "yyyyyyy", null),
        ("get /api/people", "yyyyyyy", null),
        ("put /api/people/{id}", "nnnnnny", """{"name":"","roles":[],"language":"en"}"""),
        ("get /api/preferences/{name}", "yyyyyyy", null),
        ("put /api/preferences/{name}", "yyyyyyy", "{}"),
        ("patch /api/records/{entity}/{id}", "yyyyyny", """{"values":{}}"""),
        ("delete /api/records/{entity}/{id}", "yyyyyny", null),
        ("post /api/records/{entity}/{id}/restore", "yyyyyny", null),
        ("post /api/files", "yyyyyny", "x"),
        ("get /api/files/{hash}/{name}", "yyyyyyy", null),
        ("get /api/events", "yyyyyyy", null),
        ("get /api/backup", "nnnnnny", null),
        ("delete /api/session", "yyyyyyy", null),
    ];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_call_has_a_row_and_every_row_is_a_call()
    {
        using var http = await service.Http();
        using var document = JsonDocument.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        var calls = document.RootElement.GetProperty("paths").EnumerateObject().SelectMany(path => path.Value.EnumerateObject().Select(method => $"{method.Name} {path.Name}"));
        Rows.Select(row => row.Call).ShouldBe(calls, ignoreOrder: true);
    }

    [Fact]
    public async Task Each_role_may_what_the_table_says_and_nothing_else()
    {
        // The last row ends the token it is called with, so each person's calls share one client and go in order.
        for (var person = 0; person < People.Length; person++)
        {
            using var http = await service.Http(People[person]);
            foreach (var (call, allowed, body) in Rows)
            {
                var status = await Call(http, call, body);
                var refused = status is 403 || status is 401;
                refused.ShouldBe(allowed[person] == 'n', $"{People[person]}: {call} answered {status}");
                status.ShouldBeLessThan(500, $"{People[person]}: {call}");
            }
        }
    }

    private static async Task<int> Call(HttpClient http, string call, string? body)
    {
        var (method, path) = (call.Split(' ')[0], call.Split(' ')[1]);
        // Records, releases and drafts that no test needs, so that what the rights let through changes nothing.
        var address = path
            .Replace("{entity}/{id}", "vessel/987654").Replace("{entity}", "vessel").Replace("/{id}", "/none")
            .Replace("{key}/generate", "no-such-layout/generate").Replace("{key}", path.Contains("application") ? "application" : path.Contains("choice-list") ? "zone" : "vessel")
            .Replace("{number}/restore", "987654/restore").Replace("{number}", "1").Replace("{hash}", new string('0', 64)).Replace("{name}", "none.png");
        using var request = new HttpRequestMessage(new HttpMethod(method), address[1..]);
        if (body is not null)
        {
            request.Content = RunningService.Json(body);
            if (path.Contains("/csv", StringComparison.Ordinal))
            {
                request.Content.Headers.ContentType = new("text/csv");
            }

            if (path == "/api/files")
            {
                request.Content.Headers.ContentType = new("application/octet-stream");
            }
        }
        else if (method == "post")
        {
            request.Content = RunningService.Json("");
        }

        if (method is "put" or "patch" or "delete")
        {
            request.Headers.TryAddWithoutValidation("If-Match", "\"987654\"");
        }

        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, Cancel);
        return (int)answer.StatusCode;
    }
}
