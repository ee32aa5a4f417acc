using System.Net;
using System.Net.Http.Json;
using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Rule for hard cases: a role taken away while a form is open. And places where nothing is for whoever asks.</summary>
public sealed class RightsTests(Chromium chromium)
{
    private const string Kept = """
        () => new Promise(done => {
          const opening = indexedDB.open('bright-tier');
          opening.onsuccess = () => {
            const reading = opening.result.transaction('unsaved').objectStore('unsaved').getAll();
            reading.onsuccess = () => { opening.result.close(); done(JSON.stringify(reading.result)); };
          };
        })
        """;

    private static async Task Becomes(RunningService service, string person, string name, string role)
    {
        using var greta = await service.Http("greta");
        using var answer = await greta.PutAsJsonAsync(
            $"api/people/{person}",
            new PersonRequest(name, [role], "en"),
            WireJson.Default.PersonRequest
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_role_taken_away_while_a_form_is_open_takes_what_may_no_longer_be_read_and_leaves_the_rest_as_typed()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel/2");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await ada.Control("name").FillAsync("Bar-tailed Godwit II");
        await ada.Page.GetByRole(AriaRole.Tab, new() { Name = "Condition and papers" }).ClickAsync();
        await ada.Control("thirdSum").FillAsync("41234");
        await Window.Eventually(async () => (await ada.Page.EvaluateAsync<string>(Kept)).ShouldContain("41234"));

        await Becomes(service, "ada", "Ada Wader", "quay-hand");

        await Assertions.Expect(ada.Page.Locator(".notice")).ToContainTextAsync("Your permissions for this form have changed");
        await Assertions.Expect(ada.Field("thirdSum")).ToHaveCountAsync(0);
        await Assertions.Expect(ada.Page.GetByRole(AriaRole.Link, new() { Name = "Layouts" })).ToHaveCountAsync(0);
        await Window.Eventually(async () => (await ada.Page.EvaluateAsync<string>(Kept)).ShouldNotContain("41234"));
        (await ada.Page.EvaluateAsync<string>(Kept)).ShouldContain("Godwit II");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Save", Exact = true }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".notice")).ToContainTextAsync("Saved.");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_typed_where_nothing_may_be_changed_any_more_stays_in_sight_and_is_said_to_be_unsaved()
    {
        await using var service = await HostedService.WithDemo();
        await using var dirk = await chromium.Open(service, "Dirk Hoist");
        await dirk.Go("records/liftOut/1");
        await dirk.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await dirk.Control("hazards").FillAsync("Keel cooler");
        await dirk.Control("releasedBy").FillAsync("Dirk");
        await dirk.Control("releasedAt").FillAsync("2026-11-23T10:00");

        await Becomes(service, "dirk", "Dirk Hoist", "quay-hand");

        await Assertions.Expect(dirk.Page.Locator(".notice")).ToContainTextAsync("You can no longer change Released by");
        await dirk.Page.GetByRole(AriaRole.Button, new() { Name = "Save", Exact = true }).ClickAsync();
        await Assertions.Expect(dirk.Page.Locator(".notice")).ToContainTextAsync("Saved.");
        await Assertions.Expect(dirk.Field("releasedBy")).ToContainTextAsync("Dirk");
        await Assertions.Expect(dirk.Page.Locator(".unsaved")).ToBeVisibleAsync();
        using var cleo = await service.As("cleo");
        var values = (await cleo.Record("liftOut", 1, CancellationToken.None)).Values;
        (
            values.GetProperty("hazards").GetString(),
            values.TryGetProperty("releasedBy", out var released) ? released.ToString() : ""
        ).ShouldBe(("Keel cooler", ""));
        dirk.Complaints.ShouldBeEmpty();
    }

    /// <summary>That something is there which she may not see is told no more than that there is nothing.</summary>
    [Fact]
    public async Task Where_nothing_is_or_nothing_she_may_see_the_page_says_so_and_leads_back()
    {
        await using var service = await HostedService.WithDemo();
        await using var bram = await chromium.Open(service, "Bram Klaasen");
        foreach (
            var (place, status) in new[]
            {
                ("vessel", 404),
                ("vessel/7%zz", 404),
                ("records/nothing", 200),
                ("records/vessel/seven", 200),
                ("people", 200),
                ("releases", 200),
                ("application", 200),
                ("design/vessel", 200),
                ("print/vessel", 200),
            }
        )
        {
            var answer = await bram.Page.GotoAsync($"/{place}");
            answer!.Status.ShouldBe(status, place);
            await Assertions.Expect(bram.Page.Locator("h1")).ToHaveTextAsync("Pagina niet gevonden");
            await Assertions
                .Expect(bram.Page.Locator("#content"))
                .ToContainTextAsync($"Er is geen pagina op “/{place}”, of u mag die niet zien.");
        }

        await bram.Page.GotoAsync("/records/vessel/999");
        await Assertions.Expect(bram.Page.Locator(".notice")).ToContainTextAsync("Er is geen pagina op “/records/vessel/999”");
        await bram.Page.GotoAsync("/vessel");
        await bram.Page.GetByRole(AriaRole.Link, new() { Name = "Naar de startpagina" }).ClickAsync();
        await Assertions.Expect(bram.Page.Locator("h1")).ToHaveTextAsync("Saltmarsh Quay");
        (
            await (await service.Http("bram")).GetAsync("api/vessel", TestContext.Current.CancellationToken)
        ).Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json", "whoever calls the service is answered as a caller");
    }
}
