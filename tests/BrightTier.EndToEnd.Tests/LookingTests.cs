using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Seeing the truth while designing: records made up to look at, longer texts, narrow places, and what is out of sight.</summary>
public sealed class LookingTests(Chromium chromium)
{
    private const string Overflow =
        "() => [...document.querySelectorAll('.canvas .bt-form :is(.bt-row, .bt-cell, .bt-section, .bt-label)')].filter(each "
        + "=> each.scrollWidth > each.clientWidth + 1 && getComputedStyle(each).display !== 'inline').map(each => "
        + "each.className + ' ' + (each.dataset.node ?? each.textContent))";

    [Fact]
    public async Task A_made_up_record_is_seen_and_never_stored_and_longer_texts_break_nothing()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        using var client = await service.As("ada");
        var cancel = TestContext.Current.CancellationToken;
        var before = (await client.Records("vessel", null, null, null, null, 200, cancel)).Total;
        await ada.Go("design/vessel", ".canvas .bt-field");
        var record = ada.Page.GetByLabel("Record", new() { Exact = true });
        await record.SelectOptionAsync(new SelectOptionValue { Label = "a made-up record" });
        await Assertions.Expect(ada.Page.Locator(".canvas [data-field=name] input")).ToHaveValueAsync("Name of a sample");
        await record.SelectOptionAsync(new SelectOptionValue { Label = "a made-up record, everything long" });
        await Assertions
            .Expect(ada.Page.Locator(".canvas [data-field=name] input"))
            .ToHaveValueAsync(new System.Text.RegularExpressions.Regex("^mooring tide"));
        await ada.Page.GetByLabel("Language").SelectOptionAsync(new SelectOptionValue { Label = "longer texts, for testing" });
        await Assertions.Expect(ada.Page.Locator(".canvas [data-node=identity] .bt-section-title")).ToContainTextAsync("[Í");
        foreach (var width in new[] { "360", "500", "700", "1100" })
        {
            await ada.Page.GetByLabel("Width in pixels").FillAsync(width);
            await Window.Eventually(async () =>
                (
                    await ada.Page.EvaluateAsync<double>("() => document.querySelector('.sheet').getBoundingClientRect().width")
                ).ShouldBeInRange(
                    double.Parse(width, System.Globalization.CultureInfo.InvariantCulture),
                    double.Parse(width, System.Globalization.CultureInfo.InvariantCulture) + 70
                )
            );
            (await ada.Page.EvaluateAsync<string[]>(Overflow)).ShouldBeEmpty($"at {width} px");
        }

        (await client.Records("vessel", null, null, null, null, 200, cancel)).Total.ShouldBe(before);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Twelve_units_fit_however_narrow_the_place_is()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas .bt-field");
        await ada.Page.EvaluateAsync("() => { for (const row of document.querySelectorAll('.canvas .bt-row')) row.style.width = '90px'; }");
        (
            await ada.Page.EvaluateAsync<string[]>(
                "() => [...document.querySelectorAll('.canvas .bt-row')].filter(row => [...row.children].some(cell => "
                    + "cell.getBoundingClientRect().right > row.getBoundingClientRect().right + 1)).map(row => row.dataset.node)"
            )
        ).ShouldBeEmpty();
    }

    /// <summary>
    /// What is dragged to the lower edge finds its place below it; nothing out of sight is left unpainted afterwards, and nothing has
    /// moved.
    /// </summary>
    [Fact]
    public async Task The_form_scrolls_under_what_is_dragged_to_its_edge()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("design/vessel", ".canvas .bt-field");
        const string Places =
            "() => [...document.querySelectorAll('.canvas [data-field]')].map(each => `${each.dataset.field} "
            + "${Math.round(each.getBoundingClientRect().top + document.querySelector('.sheet-frame').scrollTop)}`)";
        var places = await page.EvaluateAsync<string[]>(Places);
        var from = (await page.Locator(".canvas [data-field=name]").BoundingBoxAsync())!;
        var pane = (await page.Locator(".sheet-frame").BoundingBoxAsync())!;
        await page.Mouse.MoveAsync(from.X + 20, from.Y + 8);
        await page.Mouse.DownAsync();
        await page.Mouse.MoveAsync(from.X + 40, from.Y + 30, new() { Steps = 4 });
        (await page.EvaluateAsync<string[]>(Places)).ShouldBe(places);
        for (var i = 0; i < 30; i++)
        {
            await page.Mouse.MoveAsync(pane.X + 200 + i, pane.Y + pane.Height - 8);
            await page.WaitForTimeoutAsync(30);
        }

        (await page.EvaluateAsync<double>("() => document.querySelector('.sheet-frame').scrollTop")).ShouldBeGreaterThan(150);
        await page.Mouse.MoveAsync(pane.X + 200, pane.Y + (pane.Height / 2), new() { Steps = 3 });
        await Assertions.Expect(page.Locator(".canvas-layer[data-showing]")).ToHaveCountAsync(1);
        await page.Mouse.UpAsync();
        await Assertions.Expect(page.Locator(".changing")).ToContainTextAsync("1 change not published");
        await Window.Eventually(async () =>
            (
                await page.EvaluateAsync<int>(
                    "() => [...document.querySelectorAll('.canvas .bt-row')].filter(row => row.style.contentVisibility).length"
                )
            ).ShouldBe(0)
        );
    }

    [Fact]
    public async Task What_is_different_between_releases_is_told_in_words()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas .bt-field");
        await ada.Page.GetByLabel("Title", new() { Exact = true }).FillAsync("Boat");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("1 change not published");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Publish…" }).ClickAsync();
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await ada.Page.Locator(".receipt").WaitForAsync();
        await ada.Go("releases", ".releases li");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Show changes" }).First.ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".release-changes dt")).ToHaveTextAsync(["layout vessel was changed"]);
        await Assertions.Expect(ada.Page.Locator(".release-changes dd")).ToHaveCountAsync(1);
        await Assertions.Expect(ada.Page.Locator(".release-changes dd")).ToContainTextAsync("Boat");
        ada.Complaints.ShouldBeEmpty();
    }
}
