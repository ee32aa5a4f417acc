using System.Net;
using System.Net.Http.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>The service speaks the language of whoever calls, and knows whose dates and numbers are written for a person.</summary>
public sealed class LanguageTests(DemoService service)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private const string Dutch = "Er is geen indeling ‘vessl’; bedoelde u ‘vessel’?";
    private const string English = "There is no layout 'vessl'; did you mean 'vessel'?";

    [Theory]
    [InlineData(null, "", English)]
    [InlineData("nl", "", Dutch)]
    [InlineData("fr, nl;q=0.8, en;q=0.5", "", Dutch)]
    [InlineData("fr", "", English)]
    [InlineData("nl", "?language=en", English)]
    [InlineData("en", "?language=nl", Dutch)]
    public async Task A_program_is_answered_in_the_language_it_accepts(string? accepts, string query, string said)
    {
        using var http = await service.Http("ada");
        if (accepts is not null)
        {
            http.DefaultRequestHeaders.Add("Accept-Language", accepts);
        }

        using var answer = await http.GetAsync($"api/layouts/vessl{query}", Cancel);
        (await answer.Problem()).Detail.ShouldBe(said);
        answer.Content.Headers.ContentLanguage.ShouldBe([said == Dutch ? "nl" : "en"]);
        answer.Headers.Vary.ShouldContain("Accept-Language");
    }

    [Fact]
    public async Task Whoever_works_in_the_console_is_answered_in_their_own_language_whatever_the_browser_asks_for()
    {
        using var http = await SignedIn();
        http.DefaultRequestHeaders.Add("Accept-Language", "en");
        using var own = await http.PutAsJsonAsync(
            "api/session/localization",
            new Localization("nl", "GB"),
            WireJson.Default.Localization,
            Cancel
        );
        (await own.Content.ReadFromJsonAsync(WireJson.Default.Person, Cancel))
            .ShouldNotBeNull()
            .ShouldSatisfyAllConditions(
                person => person.Language.ShouldBe("nl"),
                person => person.Region.ShouldBe("GB"),
                person => person.Roles.ShouldNotBeEmpty("what is one's own changes no roles")
            );
        (await http.GetFromJsonAsync("api/session", WireJson.Default.SessionInfo, Cancel))!.Person!.Region.ShouldBe("GB");
        using var answer = await http.GetAsync("api/records/vessel/99999", Cancel);
        (await answer.Problem()).Detail.ShouldBe("Er is geen vaartuig ‘99999’.");
        using var refused = await http.PostAsync("api/records/vessel", RunningService.Json("""{"values":{"length":-3}}"""), Cancel);
        var problem = await refused.Problem();
        problem.Detail!.ShouldContain("waarden vragen aandacht");
        problem.Problems!.Select(part => part.Message).ShouldContain("Lengte moet minstens 1.5 m zijn.");
    }

    [Fact]
    public async Task A_language_that_is_not_the_applications_and_a_region_that_is_none_are_refused()
    {
        using var http = await SignedIn();
        foreach (var (body, at) in new[] { (new Localization("tlh"), "/language"), (new Localization("en", "Holland"), "/region") })
        {
            using var answer = await http.PutAsJsonAsync("api/session/localization", body, WireJson.Default.Localization, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
            (await answer.Problem()).Problems!.ShouldHaveSingleItem().Pointer.ShouldBe(at);
        }

        using var greta = await service.As("greta");
        (await Wire.Refused(() => greta.PutPerson("lotte", new PersonRequest("Lotte Tiller", [], "en", "nl"), Cancel)))
            .Problems!.ShouldHaveSingleItem()
            .Pointer.ShouldBe("/region");
        (await greta.PutPerson("lotte", new PersonRequest("Lotte Tiller", ["quay-hand"], "en", "NL"), Cancel)).Region.ShouldBe("NL");
    }

    /// <summary>What a body lacks or has too much is said in words of whoever wrote it.</summary>
    [Theory]
    [InlineData("""{"revision":1,"base":1,"edits":[]}""", "'revision'")]
    [InlineData("""{"edits":[]}""", "'base' is missing")]
    [InlineData("""{"base":"one","edits":[]}""", "not of the type")]
    public async Task A_body_is_refused_without_the_names_of_types(string body, string said)
    {
        using var http = await service.Http("ada");
        using var answer = await http.PostAsync("api/layouts/vessel/edits", RunningService.Json(body), Cancel);
        var problem = await answer.Problem();
        problem.Detail!.ShouldContain(said);
        problem.Detail!.ShouldNotContain("BrightTier");
        problem.Detail!.ShouldNotContain(".NET");
    }

    private async Task<HttpClient> SignedIn()
    {
        var http = await service.Http();
        using var greta = await service.As("greta");
        await greta.PutPerson("lotte", new PersonRequest("Lotte Tiller", ["quay-hand"], "en"), Cancel);
        using var answer = await http.PostAsJsonAsync("api/session", new SignIn("lotte"), WireJson.Default.SignIn, Cancel);
        var session = (await answer.Content.ReadFromJsonAsync(WireJson.Default.SessionInfo, Cancel))!;
        http.DefaultRequestHeaders.Add("X-Antiforgery", session.Antiforgery);
        return http;
    }
}
