using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>A form that is made shorter: what is proposed is seen on the form, chosen from, taken as one step, and undone as one.</summary>
public sealed class ProposalTests(Chromium chromium)
{
    [Fact]
    public async Task A_form_is_made_shorter_without_what_is_not_wanted_and_is_back_after_one_step()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await page.SetViewportSizeAsync(1280, 800);
        await ada.Go("design/keeper", ".canvas .bt-field");
        var rows = page.Locator(".canvas .bt-row");
        var before = await rows.CountAsync();

        await page.GetByRole(AriaRole.Button, new() { Name = "Proposals" }).ClickAsync();
        var drawer = page.Locator(".drawer");
        await drawer.Locator("li").First.WaitForAsync();
        var offered = await drawer.Locator("li").CountAsync();
        await Fewer(rows, before);
        await drawer.GetByText("As it is").ClickAsync();
        await Assertions.Expect(rows).ToHaveCountAsync(before);
        await drawer.GetByText("As it would be").ClickAsync();
        await Fewer(rows, before);
        var whole = await rows.CountAsync();

        await drawer.Locator("li input").First.UncheckAsync();
        await Assertions.Expect(rows).Not.ToHaveCountAsync(whole);
        await drawer.Locator("li input").First.CheckAsync();
        await Assertions.Expect(rows).ToHaveCountAsync(whole);
        await drawer.Locator(".primary").ClickAsync();
        await Assertions.Expect(drawer.Locator("li")).ToHaveCountAsync(0);
        await Assertions.Expect(rows).ToHaveCountAsync(whole);
        // Undone while the drawer is open, the form is seen as it was, however much is offered again; and it is put away from the keyboard,
        // though the button that had the focus has gone.
        await page.Keyboard.PressAsync("Control+z");
        await drawer.Locator("li").First.WaitForAsync();
        await Assertions.Expect(rows).ToHaveCountAsync(before);
        await page.Keyboard.PressAsync("Escape");
        await Assertions.Expect(drawer).ToHaveCountAsync(0);
        offered.ShouldBeGreaterThan(0);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_only_looked_at_is_gone_with_its_drawer()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("design/keeper", ".canvas .bt-field");
        var rows = page.Locator(".canvas .bt-row");
        var before = await rows.CountAsync();
        await page.Keyboard.PressAsync("Control+k");
        await page.Keyboard.TypeAsync("shorter");
        await page.Keyboard.PressAsync("Enter");
        await Fewer(rows, before);
        await page.Keyboard.PressAsync("Escape");
        await Assertions.Expect(rows).ToHaveCountAsync(before);
        using var api = await service.As("ada");
        (await api.Changes("keeper", 0, TestContext.Current.CancellationToken)).Select(change => change.Label).ShouldBe(["Made"]);
    }

    private static async Task Fewer(ILocator rows, int than)
    {
        await rows.Page.WaitForFunctionAsync("than => document.querySelectorAll('.canvas .bt-row').length < than", than);
        (await rows.CountAsync()).ShouldBeLessThan(than);
    }
}
