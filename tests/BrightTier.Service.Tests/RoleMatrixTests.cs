using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// Every call by every role. What is expected is written here by hand; a call of the OpenAPI document without a row fails.
/// A letter a role: <c>y</c> the rights let it through (what follows may still be 4xx for another reason), <c>n</c> 403.
/// </summary>
public sealed partial class RoleMatrixTests(DemoService service)
{
    /// <summary>
    /// Ada: harbour office; Bram: quay hand; Cleo: harbour master; Dirk: yard foreman; Esme: bookkeeper; Farid: auditor; Greta:
    /// administrator; Hanna: form reviewer.
    /// </summary>
    private static readonly string[] People = ["ada", "bram", "cleo", "dirk", "esme", "farid", "greta", "hanna"];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_call_has_a_row_and_every_row_is_a_call()
    {
        using var http = await service.Http();
        using var document = JsonDocument.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        var calls = document
            .RootElement.GetProperty("paths")
            .EnumerateObject()
            .SelectMany(path => path.Value.EnumerateObject().Select(method => $"{method.Name} {path.Name}"));
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

    /// <summary>
    /// The acts of which a token must be good for one, by call; written by hand. Calls that are in none of these take a token that is good
    /// for all.
    /// </summary>
    private static readonly (string[] Permissions, string[] Calls)[] Scopes =
    [
        (
            ["configure", "review", "publish", "override", "administer", "read-records", "write-records"],
            [
                "get /api/session",
                "get /api/session/people",
                "post /api/session",
                "post /api/setup",
                "get /api/schemas/document.json",
                "get /api/grammar",
                "get /api/events",
                "post /api/events/acknowledge",
                "delete /api/session",
                "delete /api/session/view",
            ]
        ),
        (
            ["read-records"],
            [
                "get /api/entities",
                "get /api/entities/{key}",
                "get /api/navigation",
                "get /api/forms/{entity}",
                "get /api/search",
                "get /api/records/{entity}",
                "get /api/records/{entity}/lookup",
                "get /api/records/{entity}/csv",
                "get /api/records/{entity}/{id}",
                "get /api/records/{entity}/{id}/history",
                "get /api/records/{entity}/{id}/comments",
                "post /api/records/{entity}/{id}/comments",
                "get /api/mentions",
                "get /api/people",
                "get /api/preferences",
                "get /api/preferences/{name}",
                "put /api/preferences/{name}",
                "get /api/files/{hash}/{name}",
            ]
        ),
        (["read-records", "configure", "review", "publish"], ["put /api/comments/{id}/resolved"]),
        (
            ["write-records"],
            [
                "post /api/records/{entity}",
                "post /api/records/{entity}/refused",
                "patch /api/records/{entity}",
                "post /api/records/{entity}/csv",
                "post /api/records/{entity}/csv/columns",
                "patch /api/records/{entity}/{id}",
                "delete /api/records/{entity}/{id}",
                "post /api/records/{entity}/{id}/restore",
                "post /api/files",
            ]
        ),
        (
            ["configure", "review", "publish"],
            [
                "get /api/documents/application/{key}",
                "get /api/documents/choice-list/{key}",
                "get /api/documents/entity/{key}",
                "get /api/documents",
                "get /api/documents/pattern/{key}",
                "get /api/documents/template/{key}",
                "get /api/documents/routing/{key}",
                "get /api/documents/navigation/{key}",
                "get /api/choice-lists",
                "get /api/layouts/{key}/diff",
                "get /api/layouts/{key}/explain",
                "get /api/layouts/{key}/length",
                "get /api/layouts/{key}/picture",
                "get /api/entities/{entity}/picture",
                "get /api/impact",
                "get /api/findings",
                "get /api/layouts",
                "get /api/search/layouts",
                "get /api/layouts/{key}",
                "get /api/layouts/{key}/changes",
                "get /api/layouts/{key}/findings",
                "get /api/layouts/{key}/preview",
                "get /api/layouts/{key}/view",
                "get /api/layouts/{key}/entity",
                "get /api/pieces",
                "get /api/templates",
                "get /api/documents/{kind}/{key}/changes",
                "get /api/relations",
                "get /api/units",
                "get /api/layouts/{key}/clipboard",
                "post /api/layouts/{key}/conditions/check",
                "get /api/patterns",
                "get /api/choice-lists/{key}",
                "post /api/patterns/test",
                "get /api/entities/{entity}/examples",
                "get /api/icons",
                "get /api/routing",
                "get /api/releases",
                "get /api/releases/diff",
                "get /api/releases/dependencies",
                "get /api/releases/{number}",
                "get /api/releases/{number}/documents/{kind}/{key}",
                "get /api/drafts/{kind}/{key}/comments",
                "post /api/drafts/{kind}/{key}/comments",
                "get /api/bundle",
                "get /api/releases/{number}/adoption",
                "get /api/releases/{number}/rollout",
                "get /api/releases/holders",
                "get /api/scheduled-releases",
                "get /api/approvals",
            ]
        ),
        (
            ["configure"],
            [
                "post /api/entities/{key}/fields",
                "post /api/documents/{kind}/{key}/restore",
                "post /api/units/rename",
                "post /api/entities/{key}/archive",
                "post /api/entities/{key}/bring-back",
                "put /api/documents/application/{key}",
                "put /api/documents/choice-list/{key}",
                "put /api/documents/entity/{key}",
                "put /api/documents/pattern/{key}",
                "put /api/documents/template/{key}",
                "put /api/documents/routing/{key}",
                "put /api/documents/navigation/{key}",
                "post /api/documents/application/{key}/recover",
                "post /api/documents/choice-list/{key}/recover",
                "post /api/documents/pattern/{key}/recover",
                "post /api/documents/entity/{key}/recover",
                "post /api/documents/template/{key}/recover",
                "post /api/documents/routing/{key}/recover",
                "post /api/documents/navigation/{key}/recover",
                "post /api/layouts/{key}/recover",
                "post /api/templates/{key}/layouts",
                "post /api/layouts",
                "put /api/layouts/{key}",
                "post /api/layouts/{key}/edits",
                "post /api/layouts/{key}/generate",
                "post /api/layouts/{key}/archive",
                "post /api/layouts/{key}/bring-back",
                "post /api/tables/sketch",
                "post /api/tables/entity",
                "get /api/databases",
                "get /api/databases/{name}/tables",
                "post /api/databases/{name}/sketch",
                "post /api/databases/{name}/attach",
                "get /api/databases/{name}/differences",
                "post /api/databases/{name}/refresh",
                "post /api/layouts/{key}/pieces",
                "post /api/layouts/{key}/detach",
                "post /api/layouts/{key}/paste",
                "post /api/layouts/{key}/place",
                "post /api/layouts/{key}/proposals",
                "post /api/layouts/{key}/selection",
                "put /api/choice-lists/{key}",
                "post /api/documents",
                "post /api/bundle",
            ]
        ),
        (
            ["publish"],
            [
                "post /api/releases",
                "post /api/releases/plan",
                "post /api/releases/{number}/restore",
                "post /api/releases/{number}/promote",
                "post /api/releases/{number}/cancel",
                "post /api/releases/{number}/widen",
                "post /api/scheduled-releases",
                "post /api/scheduled-releases/{id}/cancel",
            ]
        ),
        (["review"], ["post /api/approvals"]),
        (
            ["administer"],
            [
                "put /api/people/{id}",
                "put /api/people/{id}/password",
                "put /api/databases/{name}",
                "delete /api/databases/{name}",
                "get /api/backup",
                "get /api/audit/entries",
                "get /api/audit/entries/export",
                "get /api/audit/record-entries",
                "get /api/audit/record-entries/export",
                "get /api/audit/proof",
                "get /api/audit/head",
                "post /api/example",
            ]
        ),
    ];

    [Fact]
    public async Task A_token_that_is_good_for_one_act_lets_through_what_takes_that_act_and_nothing_else()
    {
        var taken = Scopes
            .SelectMany(each => each.Calls.Select(call => (call, each.Permissions)))
            .ToDictionary(each => each.call, each => each.Permissions);
        taken.Keys.Except(Rows.Select(row => row.Call)).ShouldBeEmpty();
        foreach (var act in Scopes[0].Permissions)
        {
            // The call that ends the token comes last, as in the table of roles.
            using var greta = await service.As("greta");
            var token = await greta.CreateToken(new Contracts.TokenRequest($"good for {act}", 1, [act]), Cancel);
            using var http = new HttpClient
            {
                BaseAddress = service.Running.Address,
                DefaultRequestHeaders = { Authorization = new("Bearer", token.Secret) },
            };
            foreach (var (call, _, body) in Rows)
            {
                var status = await Call(http, call, body);
                (status is 403 or 401).ShouldBe(
                    !(taken.GetValueOrDefault(call)?.Contains(act) ?? false),
                    $"a token for {act}: {call} answered {status}"
                );
            }
        }
    }

    private static async Task<int> Call(HttpClient http, string call, string? body)
    {
        var (method, path) = (call.Split(' ')[0], call.Split(' ')[1]);
        // Records, releases and drafts that no test needs, so that what the rights let through changes nothing.
        var address = path.Replace("{entity}/{id}", "vessel/987654")
            .Replace("{entity}", "vessel")
            .Replace("/{kind}", "/layout")
            .Replace("scheduled-releases/{id}", "scheduled-releases/987654")
            .Replace("comments/{id}", "comments/987654")
            .Replace("/{id}", "/none")
            .Replace("{key}/generate", "no-such-layout/generate")
            .Replace(
                "{key}",
                path.Contains("application") ? "application"
                    : path.Contains("choice-list") ? "zone"
                    : "vessel"
            )
            .Replace("{number}/restore", "987654/restore")
            .Replace("{number}/promote", "987654/promote")
            .Replace("{number}/cancel", "987654/cancel")
            .Replace("{number}", "1")
            .Replace("{hash}", new string('0', 64))
            .Replace("{name}", "none.png");
        using var request = new HttpRequestMessage(new HttpMethod(method), address[1..]);
        if (body is not null)
        {
            request.Content = RunningService.Json(body);
            if (path.Contains("/csv", StringComparison.Ordinal))
            {
                request.Content.Headers.ContentType = new("text/csv");
            }

            if (path is "/api/files" or "/api/bundle")
            {
                request.Content.Headers.ContentType = new(path == "/api/files" ? "application/octet-stream" : "application/zip");
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
