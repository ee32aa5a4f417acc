using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Two at one form: each sees what the other has selected, under her name, for as long as she is there.</summary>
public sealed class CoDesignTests(Chromium chromium)
{
    [Fact]
    public async Task What_the_other_has_selected_is_seen_under_her_name_and_goes_with_her()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await using var greta = await chromium.Open(service, "Greta Root");
        await ada.Go("design/berth", ".canvas .bt-field");
        await Select(ada, "zone");

        // Whoever comes later is told as soon as she selects something herself.
        await greta.Go("design/berth", ".canvas .bt-field");
        await Select(greta, "code");
        await Assertions.Expect(Mark(greta, "zone")).ToContainTextAsync("Ada Wader");
        await Assertions.Expect(Mark(ada, "code")).ToContainTextAsync("Greta Root");
        await Select(ada, "pontoon");
        await Assertions.Expect(Mark(greta, "pontoon")).ToContainTextAsync("Ada Wader");
        await Assertions.Expect(Mark(greta, "zone")).ToHaveCountAsync(0);

        await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Leave" }).ClickAsync();
        await Assertions.Expect(greta.Page.Locator(".mark-other")).ToHaveCountAsync(0);
        ada.Complaints.Concat(greta.Complaints).ShouldBeEmpty();
    }

    private static ILocator Mark(Window window, string node) => window.Page.Locator($".mark-other[data-for='{node}']");

    private static async Task Select(Window window, string node)
    {
        var box = (await window.Page.Locator($".canvas [data-node='{node}']").First.BoundingBoxAsync())!;
        await window.Page.Mouse.ClickAsync(box.X + 30, box.Y + 8);
        await window.Page.Locator(".mark-selected").WaitForAsync();
    }
}
