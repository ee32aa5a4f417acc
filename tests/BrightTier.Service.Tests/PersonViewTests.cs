using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace BrightTier.Service.Tests;

/// <summary>An administrator sees the application as somebody else does: all of hers, nothing more, and nothing is changed.</summary>
public sealed class PersonViewTests(OwnService own) : IClassFixture<OwnService>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>A browser's window: its cookies, and the antiforgery value of who it shows.</summary>
    private async Task<HttpClient> Window(string person, CookieContainer? cookies = null)
    {
        var http = new HttpClient(new HttpClientHandler { CookieContainer = cookies ?? new CookieContainer() })
        {
            BaseAddress = own.Running.Address,
        };
        (await http.PostAsJsonAsync("api/session", new { person }, Cancel)).EnsureSuccessStatusCode();
        await Look(http);
        return http;
    }

    /// <summary>Reads the session, as a page does when it is opened.</summary>
    private static async Task<JsonElement> Look(HttpClient http)
    {
        var session = await http.GetFromJsonAsync<JsonElement>("api/session", Cancel);
        http.DefaultRequestHeaders.Remove("X-Antiforgery");
        http.DefaultRequestHeaders.Add("X-Antiforgery", session.GetProperty("antiforgery").GetString());
        return session;
    }

    private static string Who(JsonElement session) =>
        $"{session.GetProperty("person").GetProperty("id").GetString()} by "
        + (session.GetProperty("viewer") is { ValueKind: JsonValueKind.Object } viewer ? viewer.GetProperty("id").GetString() : "herself");

    private static async Task<string?> Code(HttpResponseMessage answer) =>
        (await answer.Content.ReadFromJsonAsync<JsonElement>(Cancel)).GetProperty("code").GetString();

    [Fact]
    public async Task She_sees_what_the_other_sees_and_changes_nothing()
    {
        using var greta = await Window("greta");
        (await greta.PutAsJsonAsync("api/session/view", new { person = "bram" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var session = await Look(greta);
        Who(session).ShouldBe("bram by greta");
        using var bram = await Window("bram");
        foreach (var path in new[] { "api/navigation", "api/records/vessel?limit=5", "api/forms/vessel", "api/entities/vessel" })
        {
            (await greta.GetStringAsync(path, Cancel)).ShouldBe(await bram.GetStringAsync(path, Cancel), path);
        }

        (await greta.GetAsync("api/audit/entries", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden, "what is hers as administrator");
        (await greta.GetStringAsync("records/vessel/1", Cancel)).ShouldContain("bram", Case.Sensitive, "the page carries who it shows");

        // Bram may change a vessel; nobody who looks as him may.
        var change = await greta.PatchAsync("api/records/vessel/1", JsonContent.Create(new { values = new { notes = "x" } }), Cancel);
        (change.StatusCode, await Code(change)).ShouldBe((HttpStatusCode.Forbidden, "only-viewing"));
        var preference = await greta.PutAsJsonAsync("api/preferences/views", new { }, Cancel);
        (await Code(preference)).ShouldBe("only-viewing");
        var again = await greta.PutAsJsonAsync("api/session/view", new { person = "ada" }, Cancel);
        again.StatusCode.ShouldBe(HttpStatusCode.Forbidden);

        (await greta.DeleteAsync("api/session/view", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        Who(await Look(greta)).ShouldBe("greta by herself");
        (await greta.GetAsync("api/audit/entries", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await greta.GetStringAsync("api/audit/entries?limit=20", Cancel)).ShouldContain("session.viewed");
    }

    [Fact]
    public async Task The_view_is_of_one_session_of_an_administrator()
    {
        var cookies = new CookieContainer();
        using var greta = await Window("greta", cookies);
        (await greta.PutAsJsonAsync("api/session/view", new { person = "esme" }, Cancel)).EnsureSuccessStatusCode();
        var seen = cookies.GetCookies(own.Running.Address)["bright-tier-viewing"]!;
        (seen.HttpOnly, seen.Value.Contains("esme")).ShouldBe((true, false));

        // Taken to somebody else's session, or to another one of hers, it is nothing.
        foreach (var thief in new[] { "bram", "greta" })
        {
            var jar = new CookieContainer();
            using var other = await Window(thief, jar);
            jar.Add(own.Running.Address, new Cookie("bright-tier-viewing", seen.Value));
            Who(await Look(other)).ShouldBe($"{thief} by herself");
        }

        var forged = new CookieContainer();
        using (var another = await Window("greta", forged))
        {
            forged.Add(own.Running.Address, new Cookie("bright-tier-viewing", "CfDJ8-nothing"));
            Who(await Look(another)).ShouldBe("greta by herself");
        }

        // Signing out ends both.
        Who(await Look(greta)).ShouldBe("esme by greta");
        (await greta.DeleteAsync("api/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await greta.GetAsync("api/records/vessel", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        using var esme = await Window("esme");
        (await esme.GetAsync("api/records/vessel?limit=1", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK, "hers is another one");
    }

    [Fact]
    public async Task Others_and_tokens_see_as_nobody_else()
    {
        using var ada = await Window("ada");
        (await ada.PutAsJsonAsync("api/session/view", new { person = "bram" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        using var token = await own.Running.Http("greta");
        (await token.PutAsJsonAsync("api/session/view", new { person = "bram" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        using var greta = await Window("greta");
        var missing = await greta.PutAsJsonAsync("api/session/view", new { person = "brm" }, Cancel);
        missing.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await missing.Content.ReadAsStringAsync(Cancel)).ShouldContain("bram");
    }

    [Fact]
    public async Task Who_administers_no_more_sees_as_herself()
    {
        using var hanna = await Window("hanna");
        using var greta = await Window("greta");
        await Roles("administrator");
        await Look(hanna);
        (await hanna.PutAsJsonAsync("api/session/view", new { person = "bram" }, Cancel)).EnsureSuccessStatusCode();
        Who(await Look(hanna)).ShouldBe("bram by hanna");
        await Roles("form-reviewer");
        Who(await Look(hanna)).ShouldBe("hanna by herself");

        async Task Roles(params string[] roles)
        {
            var put = await greta.PutAsJsonAsync(
                "api/people/hanna",
                new
                {
                    name = "Hanna Slip",
                    roles,
                    language = "en",
                },
                Cancel
            );
            put.EnsureSuccessStatusCode();
        }
    }
}
