using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// Whole journeys by keyboard alone: where the focus is after each step, and what is said to whoever does not see the page.
/// </summary>
public sealed class JourneyTests(Chromium chromium)
{
    /// <summary>Notes everything that live regions say, from the moment the page begins.</summary>
    private const string Listening = """
        window.heard = [];
        const live = element => element?.closest?.('[role=status], [role=alert], [aria-live]');
        new MutationObserver(changes => {
          for (const { target, addedNodes } of changes) {
            const found = new Set([live(target.nodeType === 1 ? target : target.parentElement)]);
            const elements = [...addedNodes].filter(node => node.nodeType === 1);
            for (const each of elements.flatMap(node => [node, ...node.querySelectorAll('*')])) if (each === live(each)) found.add(each);
            for (const each of found) if (each?.textContent.trim()) window.heard.push(each.textContent.trim().replace(/\s+/g, ' '));
          }
        }).observe(document, { childList: true, characterData: true, subtree: true });
        """;

    private static async Task<Window> Listen(Window window)
    {
        await window.Page.AddInitScriptAsync(Listening);
        return window;
    }

    private static async Task Hears(Window window, string what)
    {
        await window.Page.WaitForFunctionAsync("what => window.heard.some(said => said.includes(what))", what);
        await window.Page.EvaluateAsync("() => { window.heard.length = 0; }");
    }

    private static Task Press(Window window, params string[] keys) =>
        Keys(window, keys.Select(key => (Func<IKeyboard, Task>)(keyboard => keyboard.PressAsync(key))));

    private static async Task Keys(Window window, IEnumerable<Func<IKeyboard, Task>> all)
    {
        foreach (var each in all)
        {
            await each(window.Page.Keyboard);
        }
    }

    /// <summary>Goes on with Tab until something is reached; a journey that cannot reach it fails.</summary>
    private static async Task TabTo(Window window, ILocator target, int most = 60)
    {
        for (var pressed = 0; pressed < most; pressed++)
        {
            if (await target.EvaluateAsync<bool>("element => element === document.activeElement"))
            {
                return;
            }

            await window.Page.Keyboard.PressAsync("Tab");
        }

        throw new InvalidOperationException(
            $"Tab does not lead to {target}; it is at "
                + $"{await window.Page.EvaluateAsync<string>("document.activeElement.outerHTML.slice(0, 200)")}"
        );
    }

    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    [Fact]
    public async Task An_inspection_is_begun_refused_mended_and_saved()
    {
        await using var service = await HostedService.WithDemo();
        await using var cleo = await Listen(await chromium.Open(service, "Cleo Marsh"));
        var page = cleo.Page;
        await page.GotoAsync("/");
        await page.Locator(".home-group").First.WaitForAsync();
        // Past the menu at once.
        await Press(cleo, "Tab");
        await Assertions.Expect(page.Locator(".skip")).ToBeFocusedAsync();
        await Press(cleo, "Enter");
        await Assertions.Expect(page.Locator("#content")).ToBeFocusedAsync();

        await TabTo(cleo, page.GetByRole(AriaRole.Link, new() { Name = "Inspections", Exact = true }));
        await Press(cleo, "Enter");
        await page.Locator(".table, .empty").First.WaitForAsync();
        await TabTo(cleo, page.GetByRole(AriaRole.Link, new() { Name = "New quay inspection" }));
        await Press(cleo, "Enter");
        await cleo.Control("berth").WaitForAsync();

        await TabTo(cleo, cleo.Control("berth"));
        await page.Keyboard.TypeAsync("B1");
        await Hears(cleo, " found");
        await Press(cleo, "Enter");
        await Assertions.Expect(cleo.Control("berth")).ToHaveValueAsync("B11, Middle pontoon");
        await Hears(cleo, "Not saved yet");
        await TabTo(cleo, cleo.Field("findings").GetByRole(AriaRole.Checkbox).First);
        await Press(cleo, "Space");

        await Press(cleo, "Control+s");
        await Hears(cleo, "Values that need attention");
        // What was found makes the severity required; the first that is missing has the focus, and says why.
        var first = page.Locator("[aria-invalid]").First;
        await Assertions.Expect(first).ToBeFocusedAsync();
        var described = await first.EvaluateAsync<string>(
            "element => document.getElementById(element.getAttribute('aria-describedby').split(' ').at(-1)).textContent"
        );
        described.ShouldContain("is required");

        await TabTo(cleo, cleo.Control("inspectedOn"));
        await page.Keyboard.TypeAsync("11202026");
        await TabTo(cleo, cleo.Control("severity"));
        await Press(cleo, "ArrowRight", "ArrowRight");
        await Assertions
            .Expect(cleo.Control("severity"))
            .ToHaveAttributeAsync("aria-valuetext", new System.Text.RegularExpressions.Regex("[1-9]"));
        await Press(cleo, "Control+s");
        await Hears(cleo, "Saved.");
        await Assertions.Expect(Button(cleo, "Edit")).ToBeVisibleAsync();
        cleo.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Tabs_are_turned_by_arrows_and_rows_made_moved_and_removed()
    {
        await using var service = await HostedService.WithDemo();
        await using var dirk = await Listen(await chromium.Open(service, "Dirk Hoist"));
        var page = dirk.Page;
        await dirk.Go("records/liftOut/1");
        await TabTo(dirk, Button(dirk, "Edit"));
        await Press(dirk, "Enter");
        await Assertions.Expect(page.Locator(".record-form")).ToBeFocusedAsync();
        var rows = page.Locator(".bt-grid tbody tr");
        ILocator Task(int row) => rows.Nth(row).GetByRole(AriaRole.Textbox, new() { Name = "Task" });
        await TabTo(dirk, Task(1));
        await Press(dirk, "Enter");
        await Assertions.Expect(Task(2)).ToBeFocusedAsync();
        await Hears(dirk, "Row 3");
        await page.Keyboard.TypeAsync("Polish the topsides");
        await Press(dirk, "Alt+ArrowUp");
        await Hears(dirk, "Row 2");
        await Assertions.Expect(Task(1)).ToBeFocusedAsync();
        await Assertions.Expect(Task(1)).ToHaveValueAsync("Polish the topsides");
        await Press(dirk, "Control+Delete");
        await Hears(dirk, "Row 2 removed");
        await Assertions.Expect(rows).ToHaveCountAsync(2);
        await Assertions.Expect(Task(1)).ToBeFocusedAsync();
        await Press(dirk, "Control+s");
        await Hears(dirk, "Saved.");

        await dirk.Go("records/vessel/1");
        await TabTo(dirk, page.GetByRole(AriaRole.Tab).First);
        await Press(dirk, "ArrowRight");
        await Assertions.Expect(page.GetByRole(AriaRole.Tab).Nth(1)).ToBeFocusedAsync();
        await Assertions.Expect(page.GetByRole(AriaRole.Tab).Nth(1)).ToHaveAttributeAsync("aria-selected", "true");
        dirk.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_tab_key_goes_down_the_columns_where_the_layout_says_so()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/berth/1");
        await Button(ada, "Edit").ClickAsync();
        await ada.Page.Locator(".bt-form[data-mode=edit]").WaitForAsync();
        await ada.Control("shorePower").FocusAsync();
        var visited = new List<string>();
        for (var stop = 0; stop < 3; stop++)
        {
            visited.Add(await ada.Page.EvaluateAsync<string>("document.activeElement.closest('[data-field]')?.dataset.field ?? ''"));
            await Press(ada, "Tab");
        }

        visited.ShouldBe(["shorePower", "water", "dayRate"]);
        await ada.Control("dayRate").FocusAsync();
        await Press(ada, "Shift+Tab");
        (await ada.Page.EvaluateAsync<string>("document.activeElement.closest('[data-field]')?.dataset.field ?? ''")).ShouldBe("water");
    }

    [Fact]
    public async Task A_picture_is_pasted_dropped_or_taken_with_the_camera_and_what_is_none_is_refused()
    {
        await using var service = await HostedService.WithDemo();
        await using var cleo = await Listen(await chromium.Open(service, "Cleo Marsh"));
        await cleo.Go("records/inspection/1");
        await Button(cleo, "Edit").ClickAsync();
        await cleo.Page.Locator(".bt-form[data-mode=edit]").WaitForAsync();
        const string Give = """
            async ([how, name, bytes]) => {
              const data = new DataTransfer();
              data.items.add(new File([Uint8Array.from(atob(bytes), each => each.charCodeAt(0))], name, { type: 'image/png' }));
              const at = document.querySelector('[data-field=photo] .bt-file');
              const rising = { bubbles: true, cancelable: true };
              at.dispatchEvent(how === 'paste'
                ? new ClipboardEvent('paste', { clipboardData: data, ...rising })
                : new DragEvent('drop', { dataTransfer: data, ...rising }));
            }
            """;
        // A picture of one pixel.
        const string Pixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
        var picture = cleo.Field("photo").Locator("img");
        await cleo.Page.EvaluateAsync(Give, new[] { "paste", "from the clipboard.png", Pixel });
        await Assertions.Expect(picture).ToHaveAttributeAsync("alt", "from the clipboard.png");
        await cleo.Page.EvaluateAsync(Give, new[] { "drop", "dropped.png", Pixel });
        await Assertions.Expect(picture).ToHaveAttributeAsync("alt", "dropped.png");
        (await picture.EvaluateAsync<bool>("element => element.decode().then(() => true, () => false)")).ShouldBeTrue();
        await Press(cleo, "Control+s");
        await Hears(cleo, "Saved.");

        await using var phone = await chromium.Touch(service, "Cleo Marsh");
        await phone.Go("records/inspection/new");
        (await phone.Field("photo").Locator("input[capture]").GetAttributeAsync("capture")).ShouldBe("environment");
        (await cleo.Field("photo").Locator("input[capture]").CountAsync()).ShouldBe(0);
    }
}
