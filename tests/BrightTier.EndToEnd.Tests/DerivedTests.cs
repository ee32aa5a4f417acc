using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Layouts that rest on others, what one gives another, and being shown round.</summary>
public sealed class DerivedTests(Chromium chromium)
{
    private static async Task Select(Window window, string node)
    {
        var at = window.Page.Locator($".canvas [data-node='{node}']");
        await at.ScrollIntoViewIfNeededAsync();
        var box = (await at.BoundingBoxAsync())!;
        await window.Page.Mouse.ClickAsync(box.X + 14, box.Y + 8);
    }

    [Fact]
    public async Task A_derived_layout_is_laid_out_as_what_it_has_differently()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        using var client = await service.Http("ada");
        var cancel = TestContext.Current.CancellationToken;
        async Task<string> File()
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "api/layouts/vessel-foreman")
            {
                Headers = { Accept = { new("application/yaml") } },
            };
            using var answer = await client.SendAsync(request, cancel);
            return await answer.Content.ReadAsStringAsync(cancel);
        }

        await ada.Go("design/vessel-foreman", ".canvas .bt-field");
        await Assertions.Expect(ada.Page.Locator(".derived h3")).ToContainTextAsync("Different from Vessel 4");

        // A label, and a place: both become changes over the layout below, which stays as it is.
        await Select(ada, "homePort");
        await Assertions.Expect(ada.Page.Locator(".properties-head h2")).ToHaveTextAsync("Home port");
        await ada.Page.GetByLabel("Label", new() { Exact = true }).FillAsync("Comes from");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".canvas [data-field=homePort] .bt-label")).ToHaveTextAsync("Comes from");
        await ada.Page.Locator(".canvas-layer").FocusAsync();
        await ada.Page.Keyboard.PressAsync("Alt+ArrowLeft");
        await Window.Eventually(async () =>
            (await ada.Rows()).ShouldContain(row => row.Contains("homePort propulsion", StringComparison.Ordinal))
        );
        var file = "";
        await Window.Eventually(async () => (file = await File()).ShouldContain("homePort: { label: Comes from }"));
        file.ShouldContain("extends: vessel");
        file.ShouldNotContain("sections:\n", Case.Sensitive, "it holds no form of its own");
        (await client.GetStringAsync("api/layouts/vessel", cancel)).ShouldNotContain("Comes from");

        // What is different is told and taken back.
        await ada.Page.Keyboard.PressAsync("Escape");
        await ada.Page.Keyboard.PressAsync("Escape");
        await ada.Page.Keyboard.PressAsync("Escape");
        await Assertions.Expect(ada.Page.Locator(".derived li")).ToHaveCountAsync(6);
        await ada.Page.Locator(".derived li").Filter(new() { HasText = "label of Comes from" }).GetByRole(AriaRole.Button).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".canvas [data-field=homePort] .bt-label")).ToHaveTextAsync("Home port");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_a_width_has_differently_is_taken_over_into_another_layout_by_field()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas .bt-field");
        await ada.Page.GetByLabel("Which form").SelectOptionAsync("narrow");
        await ada.Page.Locator(".variant-pane").WaitForAsync();
        await ada.Page.GetByLabel("Copy changes to another layout").SelectOptionAsync("agreement");
        await Assertions
            .Expect(ada.Page.Locator(".take-over"))
            .ToContainTextAsync("differences are in the draft of Mooring agreement now.");
        await Assertions.Expect(ada.Page.Locator(".take-over")).ToContainTextAsync("Not there:");
    }
}
