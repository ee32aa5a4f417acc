using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The configurator's own pages, in the language of whoever works in them.</summary>
public sealed class LanguageTests(Chromium chromium)
{
    private static async Task Speak(RunningService service, string person, string language)
    {
        var cancel = TestContext.Current.CancellationToken;
        using var greta = await service.As("greta");
        var known = (await greta.Everybody(cancel)).Single(each => each.Id == person);
        await greta.PutPerson(person, new(known.Name, known.Roles, language), cancel);
    }

    [Fact]
    public async Task A_form_is_designed_and_published_in_Arabic_from_right_to_left()
    {
        await using var service = await HostedService.WithDemo();
        await Speak(service, "ada", "ar");
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas .bt-field");
        (await ada.Page.EvaluateAsync<string>("document.documentElement.dir")).ShouldBe("rtl");
        // What is added stands at the right, where reading begins.
        var start = (await ada.Page.Locator(".pane[data-side='start']").BoundingBoxAsync())!;
        var end = (await ada.Page.Locator(".pane[data-side='end']").BoundingBoxAsync())!;
        start.X.ShouldBeGreaterThan(end.X);

        // Dropped at its far side, beside the keeper: the far side is the left one.
        var keeper = (await ada.Field("keeper").BoundingBoxAsync())!;
        var port = (await ada.Field("homePort").BoundingBoxAsync())!;
        await ada.Page.Mouse.MoveAsync(port.X + (port.Width / 2), port.Y + (port.Height / 2));
        await ada.Page.Mouse.DownAsync();
        await ada.Page.Mouse.MoveAsync(keeper.X + 40, keeper.Y + (keeper.Height / 2), new() { Steps = 8 });
        await ada.Page.Mouse.MoveAsync(keeper.X + 8, keeper.Y + (keeper.Height / 2), new() { Steps = 4 });
        await ada.Page.Mouse.UpAsync();
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("keeper homePort berth"));
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("تغيير واحد غير منشور");

        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "نشر…" }).ClickAsync();
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "نشر", Exact = true }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt")).ToContainTextAsync("نُشر الإصدار 2");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Somebody_else_s_language_arrives_on_pages_that_are_open()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("layouts", ".table");
        await Assertions.Expect(ada.Page.Locator("h1")).ToHaveTextAsync("Layouts");
        await Speak(service, "ada", "nl");
        await Assertions.Expect(ada.Page.Locator("h1")).ToHaveTextAsync("Indelingen");
        await Assertions.Expect(ada.Page.Locator(".menu")).ToContainTextAsync("Vaartuigen");
        await Assertions.Expect(ada.Page.Locator("[data-label='Laatst gewijzigd']").First).ToContainTextAsync("door");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task One_s_own_language_and_region_are_chosen_on_the_account_page_and_everything_follows()
    {
        await using var service = await HostedService.WithDemo();
        await using var bram = await chromium.Open(service, "Bram Klaasen");
        await bram.Go("account", "#own-region");
        await bram.Page.SelectOptionAsync("#own-language", "en");
        await bram.Page.SelectOptionAsync("#own-region", "NL");
        await Assertions.Expect(bram.Page.Locator("#own-region-sample")).ToContainTextAsync("1 Dec 2026, 14:30 · 12.345,6");
        await bram.Page.Locator("#own-region-sample ~ button").ClickAsync();
        await Assertions.Expect(bram.Page.Locator("h2").First).ToHaveTextAsync("Language and region");
        await Assertions.Expect(bram.Page.Locator(".menu")).ToContainTextAsync("Vessels");

        // In words of the one, in figures of the other.
        await bram.Go("records/vessel/1", ".bt-field");
        await Assertions.Expect(bram.Page.Locator(".bt-form")).ToContainTextAsync("9,75");
        await Assertions.Expect(bram.Page.Locator(".bt-form")).ToContainTextAsync("Length");
        bram.Complaints.ShouldBeEmpty();
    }
}
