using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The same job with the keyboard alone: no pointer is used after the page has opened.</summary>
public sealed class KeyboardTests(Chromium chromium)
{
    [Fact]
    public async Task A_form_is_designed_published_seen_and_restored_with_the_keyboard_alone()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await using var bram = await chromium.Open(service, "Bram Klaasen");
        await bram.Go("records/berth/1");
        var keys = ada.Page.Keyboard;

        // From the list of berths to the designer.
        await ada.Go("records/berth/1");
        await TabTo(ada, "Design this form");
        await keys.PressAsync("Enter");
        await ada.Page.Locator(".canvas .bt-field").First.WaitForAsync();

        // Round the panes to the sheet; down to the code; choose a place for it: beside the longest vessel.
        await FocusCanvas(ada);
        await Until(ada, "ArrowDown", () => Text(ada, ".properties-head h2"), "Code");
        await keys.PressAsync("m");
        await Until(ada, "ArrowDown", () => Text(ada, ".status"), "in a column before Longest vessel");
        await keys.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("1 change not published");
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("code maxLength maxDraught"));

        // Alt and an arrow move it on; Ctrl+Z takes that back.
        await keys.PressAsync("Alt+ArrowRight");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("2 changes");
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("maxLength code maxDraught"));
        await keys.PressAsync("Control+z");
        await Assertions.Expect(ada.Page.Locator(".status")).ToContainTextAsync("Undone");
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("code maxLength maxDraught"));

        // Enter leads to its properties: another label.
        await keys.PressAsync("Enter");
        await TabTo(ada, "Label", byLabel: true);
        await keys.PressAsync("Control+a");
        await keys.TypeAsync("Berth code");
        await keys.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".canvas [data-field='code'] .bt-label")).ToContainTextAsync("Berth code");

        // Publish with a note.
        await TabTo(ada, "Publish…", backwards: true);
        await keys.PressAsync("Enter");
        await TabTo(ada, "Note for your colleagues", byLabel: true);
        await keys.TypeAsync("Code beside the length");
        await TabTo(ada, "Publish");
        await keys.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".receipt")).ToContainTextAsync("Release 2 is published");
        await keys.PressAsync("Enter");

        await Assertions.Expect(bram.Page.Locator(".notice")).ToContainTextAsync("release 2");
        await Window.Eventually(async () => (await bram.Rows()).ShouldContain("code maxLength maxDraught"));

        // Restore.
        ada.Page.Dialog += (_, dialog) => _ = dialog.AcceptAsync();
        await ada.Go("releases", ".releases li");
        await TabTo(ada, "Restore");
        await keys.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".notice")).ToContainTextAsync("Release 3 is published");
        await Assertions.Expect(bram.Page.Locator(".notice")).ToContainTextAsync("release 3");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_record_is_created_with_the_keyboard_alone()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel/new");
        var keys = ada.Page.Keyboard;
        await TabTo(ada, "Name *", byLabel: true);
        await keys.TypeAsync("Dunlin");
        await keys.PressAsync("Tab");
        await keys.TypeAsync("SQ-0999");
        await keys.PressAsync("Tab");
        await keys.TypeAsync("Single");
        await keys.PressAsync("Tab");
        await keys.TypeAsync("Sail");
        await TabTo(ada, "Keeper", byLabel: true);
        await keys.TypeAsync("Fenn");
        await ada.Page.Locator("[role='option']").First.WaitForAsync();
        await keys.PressAsync("Enter");
        await TabTo(ada, "Length *", byLabel: true);
        await keys.TypeAsync("8.4");
        await keys.PressAsync("Control+s");
        await Assertions.Expect(ada.Page.Locator(".bt-band-text")).ToHaveTextAsync("Dunlin, SQ-0999");
        await Assertions.Expect(ada.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" })).ToBeVisibleAsync();
        await Assertions.Expect(ada.Field("keeper").Locator(".bt-output")).ToHaveTextAsync("Tobias Fenn");
    }

    private static async Task FocusCanvas(Window window)
    {
        for (var i = 0; i < 6 && !await window.Page.EvaluateAsync<bool>("() => document.activeElement?.className === 'canvas-layer'"); i++)
        {
            await window.Page.Keyboard.PressAsync("F6");
        }

        (await window.Page.EvaluateAsync<bool>("() => document.activeElement?.className === 'canvas-layer'")).ShouldBeTrue();
    }

    private static Task<string?> Text(Window window, string selector) => window.Page.Locator(selector).First.TextContentAsync();

    private static async Task Until(Window window, string key, Func<Task<string?>> read, string wanted)
    {
        for (var i = 0; i < 60; i++)
        {
            if ((await read())?.Contains(wanted, StringComparison.Ordinal) == true)
            {
                return;
            }

            await window.Page.Keyboard.PressAsync(key);
            await window.Page.EvaluateAsync("() => new Promise(requestAnimationFrame)");
        }

        throw new ShouldAssertException($"'{wanted}' was not reached with {key}; last: {await read()}");
    }

    private static async Task TabTo(Window window, string name, bool byLabel = false, bool backwards = false)
    {
        for (var i = 0; i < 120; i++)
        {
            var at = await window.Page.EvaluateAsync<string>(
                byLabel ? "() => document.activeElement?.labels?.[0]?.textContent ?? ''" : "() => document.activeElement?.textContent ?? ''"
            );
            if (at.Trim() == name)
            {
                return;
            }

            await window.Page.Keyboard.PressAsync(backwards ? "Shift+Tab" : "Tab");
        }

        throw new ShouldAssertException($"Tab does not lead to '{name}'.");
    }
}
