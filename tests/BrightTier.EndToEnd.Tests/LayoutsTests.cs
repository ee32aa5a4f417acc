using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Layouts as a place to work: found by what they are of, seen as they look, begun as a family, begun like another.</summary>
public sealed class LayoutsTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    [Fact]
    public async Task A_family_is_begun_in_one_act_and_found_as_pictures()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await page.SetViewportSizeAsync(1280, 800);
        await ada.Go("layouts", ".table a");
        await Button(ada, "New layout…").ClickAsync();
        var dialog = page.Locator(".new-layout");
        await dialog.GetByLabel("Records of").SelectOptionAsync(new SelectOptionValue { Label = "Visitor call" });
        await dialog.GetByRole(AriaRole.Checkbox, new() { Name = "Card" }).CheckAsync();
        await dialog.GetByRole(AriaRole.Checkbox, new() { Name = "List" }).CheckAsync();
        await dialog.GetByLabel("Title", new() { Exact = true }).FillAsync("Calls by night");
        await Button(ada, "Create").ClickAsync();
        await Assertions.Expect(page.Locator(".changing")).ToContainTextAsync("Calls by night form");

        await ada.Go("layouts", ".table a");
        await page.GetByLabel("Entity").SelectOptionAsync(new SelectOptionValue { Label = "Visitor call" });
        await page.GetByText("Pictures", new() { Exact = true }).ClickAsync();
        var cards = page.Locator(".picture-card");
        await Assertions.Expect(cards).ToHaveCountAsync(7);
        await Assertions.Expect(cards.First).ToContainTextAsync("never published");
        foreach (var picture in await page.Locator(".layout-picture").AllAsync())
        {
            await picture.ScrollIntoViewIfNeededAsync();
            await page.WaitForFunctionAsync("each => each.complete && each.naturalWidth > 0", await picture.ElementHandleAsync());
        }

        await page.GetByLabel("Kind").SelectOptionAsync("card");
        await Assertions.Expect(cards).ToHaveCountAsync(2);
        await page.GetByRole(AriaRole.Button, new() { Name = "Duplicate Visitor call" }).First.ClickAsync();
        await Assertions.Expect(dialog.GetByRole(AriaRole.Radio, new() { Name = "Card" })).ToBeCheckedAsync();
        await Assertions.Expect(dialog.Locator(".picture-choice[data-on]")).ToContainTextAsync("Copy of Visitor call");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_family_of_a_template_is_named_and_leaves_out_what_is_not_wanted()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("layouts", ".table a");
        await Button(ada, "New layout…").ClickAsync();
        var dialog = page.Locator(".new-layout");
        await dialog.GetByLabel("Title", new() { Exact = true }).FillAsync("Guests");
        await dialog.Locator(".picture-choice", new() { HasText = "A register" }).ClickAsync();
        await dialog.GetByRole(AriaRole.Checkbox, new() { Name = "Card" }).UncheckAsync();
        await dialog.GetByRole(AriaRole.Checkbox, new() { Name = "List" }).UncheckAsync();
        await Button(ada, "Create").ClickAsync();
        await page.Locator(".changing").Or(Button(ada, "Open the first one")).First.WaitForAsync();
        using var client = await service.As("ada");
        var made = (await client.Layouts(TestContext.Current.CancellationToken)).Where(each =>
            each.Key.StartsWith("guests", StringComparison.Ordinal)
        );
        made.Select(each => (each.Key, each.Kind, each.Title))
            .ShouldBe([("guests", "full", "Guests"), ("guests-short", "short", made.Last().Title)]);
        ada.Complaints.ShouldBeEmpty();
    }
}
