using System.Net;
using System.Net.Http.Json;
using BrightTier.Client;
using BrightTier.Contracts;

namespace BrightTier.Service.Tests;

/// <summary>Passwords and tokens.</summary>
public sealed class AccountTests(DemoService service)
{
    private const string First = "eleven herons over the quay";
    private const string Own = "twelve terns upon the jetty";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_password_somebody_else_set_is_changed_before_it_lets_one_in()
    {
        var id = await NewPerson();
        using var http = await service.Http();

        (await Try(http, id, First)).Code.ShouldBe("password-to-change");
        (await Try(http, id, First, "short")).Problems!.Single().Pointer.ShouldBe("/newPassword");
        (await Try(http, id, First, First)).Problems!.Single().Message.ShouldContain("another");
        using var entered = await http.PostAsJsonAsync(
            "api/session",
            new SignIn(id, Password: First, NewPassword: Own),
            WireJson.Default.SignIn,
            Cancel
        );
        (await entered.Content.ReadFromJsonAsync(WireJson.Default.SessionInfo, Cancel))!.Person!.Id.ShouldBe(id);

        using var fresh = await service.Http();
        (await Try(fresh, id, First)).Code.ShouldBe("not-signed-in");
        using var again = await fresh.PostAsJsonAsync("api/session", new SignIn(id, Password: Own), WireJson.Default.SignIn, Cancel);
        again.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("password1234")]
    [InlineData("P@ssw0rd!2026")]
    [InlineData("Welcome12345!")]
    [InlineData("qwertyuiop123")]
    [InlineData("Summer2026!!!")]
    [InlineData("abcdefghijkl1")]
    [InlineData("harbour-haven-12")]
    public async Task A_password_that_many_would_try_first_is_none(string password)
    {
        var id = await NewPerson();
        using var http = await service.Http();

        (await Try(http, id, First, password)).Problems!.Single().Message.ShouldStartWith("is easily guessed");
    }

    [Fact]
    public async Task The_audit_log_names_the_token_by_which_something_was_done()
    {
        using var ada = await service.As("ada");
        var token = await ada.CreateToken(new TokenRequest("nightly pipeline", 1, ["configure"]), Cancel);
        using var program = new BrightTier.Client.BrightTierClient(service.Running.Address, token.Secret);
        var draft = await program.Layout("berth", Cancel);
        var edits = Wire.Json("""[{"op":"set","node":"layout","property":"title","value":"Moorings"}]""");
        await program.Edit("berth", new EditRequest(draft.Revision, edits), Cancel);
        await ada.Edit(
            "berth",
            new EditRequest(draft.Revision + 1, Wire.Json("""[{"op":"set","node":"layout","property":"title","value":"Berths"}]""")),
            Cancel
        );

        using var greta = await service.As("greta");
        var entries = (await greta.Audit("ada", "draft.changed", null, null, null, null, 2, null, Cancel)).Entries;
        entries[1].Detail.GetRawText().ShouldContain("\"token\": \"nightly pipeline\"".Replace(": ", ":", StringComparison.Ordinal));
        entries[0].Detail.GetRawText().ShouldNotContain("nightly");
        (await greta.Audit("ada", null, null, "nightly pipeline", null, null, 9, null, Cancel)).Entries.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task After_some_misses_nobody_gets_in_for_a_while_however_right_the_password_and_many_tries_at_once_get_no_more()
    {
        var id = await NewPerson();
        using var http = await service.Http();

        var tries = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => Try(http, id, $"wrong password number {i}")));

        tries.ShouldAllBe(problem => problem.Code == "not-signed-in" || problem.Code == "locked");
        (await Try(http, id, First, Own)).ShouldSatisfyAllConditions(
            problem => problem.Status.ShouldBe(429),
            problem => problem.Code.ShouldBe("locked")
        );

        using var greta = await service.As("greta");
        await greta.SetPassword(id, "a fresh one, from the office", Cancel);
        (await Try(http, id, "a fresh one, from the office")).Code.ShouldBe("password-to-change", "an administrator opens it at once");
        await LocksOutNobodyElse(id);
        (await greta.Audit(id, "password.locked", null, null, null, null, 5, null, Cancel)).Entries.ShouldNotBeEmpty();
    }

    /// <summary>Whoever misses closes the name to herself: to a browser that got in by it before it stays open.</summary>
    private async Task LocksOutNobodyElse(string id)
    {
        var cookies = new CookieContainer();
        using var known = new HttpClient(new SocketsHttpHandler { CookieContainer = cookies }) { BaseAddress = service.Running.Address };
        using var entered = await known.PostAsJsonAsync(
            "api/session",
            new SignIn(id, Password: "a fresh one, from the office", NewPassword: Own),
            WireJson.Default.SignIn,
            Cancel
        );
        entered.StatusCode.ShouldBe(HttpStatusCode.OK);
        using var elsewhere = await service.Http();
        for (var i = 0; i < 8; i++)
        {
            await Try(elsewhere, id, $"wrong again, number {i}");
        }

        (await Try(elsewhere, id, Own)).Code.ShouldBe("locked");
        // Signed out, with what the browser keeps.
        cookies.GetCookies(service.Running.Address).Single(cookie => cookie.Name == "bright-tier-session").Expired = true;
        using var again = await known.PostAsJsonAsync("api/session", new SignIn(id, Password: Own), WireJson.Default.SignIn, Cancel);
        again.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Who_is_there_and_who_is_not_is_answered_alike_however_often_one_tries()
    {
        using var http = await service.Http();
        var (there, nobody) = (await NewPerson(), $"nobody-{Guid.NewGuid():N}");
        for (var i = 0; i < 9; i++)
        {
            var (known, none) = (
                await Try(http, there, $"wrong password number {i}"),
                await Try(http, nobody, $"wrong password number {i}")
            );
            (none.Status, none.Code, none.Detail).ShouldBe((known.Status, known.Code, known.Detail), $"try {i}");
        }

        var (unknown, without) = (await Try(http, "nobody-of-that-name", First), await Try(http, "bram", First));
        (unknown.Status, unknown.Code, unknown.Detail).ShouldBe((without.Status, without.Code, without.Detail));
    }

    [Fact]
    public async Task Changing_ones_password_ends_ones_other_sessions_and_setting_it_for_another_ends_hers()
    {
        var id = await NewPerson();
        using var here = await Session(id, First, Own);
        using var there = await Session(id, Own, null);

        (await Put(here, "api/session/password", new { current = "not it at all", @new = "thirteen gulls" })).ShouldBe(
            HttpStatusCode.Unauthorized
        );
        (await Put(here, "api/session/password", new { current = Own, @new = "thirteen gulls behind the plough" })).ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Who(here), await Who(there)).ShouldBe((id, null));

        using var greta = await service.As("greta");
        await greta.SetPassword(id, First, Cancel);
        (await Who(here)).ShouldBeNull();
    }

    [Fact]
    public async Task A_token_is_good_for_what_it_was_made_for_makes_no_greater_one_and_begins_no_session()
    {
        using var ada = await service.As("ada");
        var token = await ada.CreateToken(new TokenRequest("reader", 1, ["read-records"]), Cancel);
        using var narrow = new BrightTierClient(service.Running.Address, token.Secret);

        (await narrow.Session(Cancel)).Permissions.ShouldBe(["read-records"]);
        (await narrow.Records("berth", null, null, null, null, 1, Cancel)).Records.Count.ShouldBe(1);
        var refused = await Wire.Refused(() => narrow.Layouts(Cancel));
        (refused.Status, refused.Detail!.Contains("good for read-records alone")).ShouldBe((403, true), refused.Detail);
        (await Wire.Refused(() => narrow.CreateToken(new TokenRequest("more", 1, ["configure"]), Cancel))).Code.ShouldBe("token-narrow");
        (await Wire.Refused(() => narrow.CreateToken(new TokenRequest("like it", 1), Cancel))).Code.ShouldBe("token-narrow");
        using var http = await service.Http();
        using var session = await http.PostAsJsonAsync("api/session", new SignIn(Token: token.Secret), WireJson.Default.SignIn, Cancel);
        (await session.Problem()).Code.ShouldBe("token-narrow");
        (await Wire.Refused(() => ada.CreateToken(new TokenRequest("x", 1, ["fly"]), Cancel))).Detail!.ShouldContain("no permission 'fly'");

        // What one token may read is not what another of the same person's may.
        using var nothing = new BrightTierClient(
            service.Running.Address,
            (await ada.CreateToken(new TokenRequest("publisher", 1, ["publish"]), Cancel)).Secret
        );
        await ada.Form("berth", "edit", Cancel);
        (await Wire.Refused(() => nothing.Form("berth", "edit", Cancel))).Status.ShouldBe(403);
    }

    private async Task<string> NewPerson()
    {
        var id = $"joris-{Guid.NewGuid():N}"[..16];
        using var greta = await service.As("greta");
        await greta.PutPerson(id, new PersonRequest("Joris Tiller", ["quay-hand"], "en"), Cancel);
        await greta.SetPassword(id, First, Cancel);
        return id;
    }

    private static async Task<Problem> Try(HttpClient http, string id, string password, string? next = null)
    {
        using var answer = await http.PostAsJsonAsync(
            "api/session",
            new SignIn(id, Password: password, NewPassword: next),
            WireJson.Default.SignIn,
            Cancel
        );
        return await answer.Problem();
    }

    private async Task<HttpClient> Session(string id, string password, string? next)
    {
        var http = await service.Http();
        using var answer = await http.PostAsJsonAsync(
            "api/session",
            new SignIn(id, Password: password, NewPassword: next),
            WireJson.Default.SignIn,
            Cancel
        );
        http.DefaultRequestHeaders.Add(
            "X-Antiforgery",
            (await answer.Content.ReadFromJsonAsync(WireJson.Default.SessionInfo, Cancel))!.Antiforgery
        );
        return http;
    }

    private static async Task<HttpStatusCode> Put(HttpClient http, string path, object body)
    {
        using var answer = await http.PutAsJsonAsync(path, body, Cancel);
        return answer.StatusCode;
    }

    private static async Task<string?> Who(HttpClient http) =>
        (await http.GetFromJsonAsync("api/session", WireJson.Default.SessionInfo, Cancel))!.Person?.Id;
}
