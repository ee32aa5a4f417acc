using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>From an entity's fields to every user's screen, by mouse.</summary>
public sealed class MouseTests(Chromium chromium)
{
    [Fact]
    public async Task A_form_is_rearranged_published_and_reaches_a_half_filled_record_with_nothing_lost_and_can_be_taken_back()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await using var bram = await chromium.Open(service, "Bram Klaasen");

        // Bram, in Dutch, has a vessel half filled in.
        await bram.Go("records/vessel/3");
        await bram.Page.GetByRole(AriaRole.Button, new() { Name = "Bewerken" }).ClickAsync();
        await bram.Control("homePort").FillAsync("Eel Creek");
        await bram.Control("notes").FillAsync("Half a senten");

        // Ada moves the home port beside the keeper, puts a section above the measures and lets it show under sail only.
        await ada.Go("design/vessel", ".canvas .bt-field");
        await Drag(ada, ada.Field("homePort"), ada.Field("keeper"), right: 12);
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("1 change not published");
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("keeper homePort berth"));
        await Drag(
            ada,
            ada.Page.GetByRole(AriaRole.Button, new() { Name = "Section" }),
            ada.Page.Locator("[data-node='measures'] .bt-section-title"),
            down: -4
        );
        await ada.Page.Locator(".mark-rename").FillAsync("Under way");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".properties-head h2")).ToHaveTextAsync("Under way");
        // Dropped between two sections it goes into the nearer one, here one with nothing in it yet.
        await Drag(ada, ada.Field("draught"), ada.Page.Locator("[data-node='underWay']"), down: 8);
        await Assertions.Expect(ada.Page.Locator("[data-node='underWay'] [data-field='draught']")).ToHaveCountAsync(1);
        await ada.Page.Locator("[data-node='underWay'] .bt-section-title").ClickAsync(new() { Force = true });
        await Assertions.Expect(ada.Page.Locator(".properties-head h2")).ToHaveTextAsync("Under way");
        await ada.Page.GetByLabel("Visible when").FillAsync("record.propulsion == 'sail'");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("5 changes not published");
        await Assertions
            .Expect(ada.Page.Locator("[data-node='underWay']"))
            .ToHaveClassAsync(new System.Text.RegularExpressions.Regex("bt-ghost"));

        // She tries it: the condition follows what is typed, nothing is saved.
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Try it" }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator("[data-node='underWay']")).ToHaveCountAsync(0);
        await ada.Control("propulsion").SelectOptionAsync("sail");
        await Assertions.Expect(ada.Page.Locator("[data-node='underWay']")).ToHaveCountAsync(1);
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Back to designing" }).ClickAsync();

        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Publish…" }).ClickAsync();
        await ada.Page.GetByLabel("Note for your colleagues").FillAsync("Home port beside the keeper");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt")).ToContainTextAsync("Release 2 is published");
        await Assertions.Expect(ada.Page.Locator(".receipt")).ToContainTextAsync("2 open browsers");

        // Bram's form has followed, with everything he typed; he saves it.
        await Assertions.Expect(bram.Page.Locator(".notice")).ToContainTextAsync("release 2");
        await Window.Eventually(async () => (await bram.Rows()).ShouldContain("keeper homePort berth"));
        await Assertions.Expect(bram.Control("homePort")).ToHaveValueAsync("Eel Creek");
        await Assertions.Expect(bram.Control("notes")).ToHaveValueAsync("Half a senten");
        await Assertions.Expect(bram.Page.Locator(".unsaved")).ToBeVisibleAsync();
        await bram.Page.GetByRole(AriaRole.Button, new() { Name = "Opslaan", Exact = true }).ClickAsync();
        await Assertions.Expect(bram.Page.Locator(".notice")).ToContainTextAsync("Opgeslagen.");

        // And back.
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Done" }).ClickAsync();
        await Restore(ada, "as supplied");
        await Assertions.Expect(ada.Page.Locator(".notice")).ToContainTextAsync("Release 3 is published");
        await Assertions.Expect(bram.Page.Locator(".notice")).ToContainTextAsync("release 3");
        await Window.Eventually(async () => (await bram.Rows()).ShouldContain("hullType propulsion homePort"));

        ada.Complaints.ShouldBeEmpty();
        bram.Complaints.ShouldBeEmpty();
    }

    private static async Task Restore(Window ada, string release)
    {
        ada.Page.Dialog += (_, dialog) => _ = dialog.AcceptAsync();
        await ada.Go("releases", ".releases li");
        await ada
            .Page.Locator(".releases li")
            .Filter(new() { HasText = release })
            .GetByRole(AriaRole.Button, new() { Name = "Restore" })
            .ClickAsync();
    }

    [Fact]
    public async Task Taking_off_placing_again_columns_undo_and_fixes_work_with_the_mouse()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/berth", ".canvas .bt-field");
        var first = await ada.Rows();

        await Click(ada, ada.Field("pontoon"));
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Remove" }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".palette-note[data-note='required']")).ToHaveCountAsync(1);
        await Assertions.Expect(ada.Page.Locator(".findings")).ToContainTextAsync("'Pontoon' is required by the berth itself");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Add it at the end of 'Place'" }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".findings summary")).ToHaveTextAsync("No findings");
        // Twice in one moment, before the first is answered: two steps all the same.
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Undo" }).EvaluateAsync("button => { button.click(); button.click(); }");
        await Assertions.Expect(ada.Page.Locator(".status")).ToContainTextAsync("Undone: Remove Pontoon");
        await Window.Eventually(async () => (await ada.Rows()).ShouldBe(first));

        // The menu is of what was pressed, whatever was selected before; and it is where the pointer is.
        var zone = (await ada.Page.Locator(".canvas [data-node='zone']").BoundingBoxAsync())!;
        await ada.Page.Mouse.ClickAsync(zone.X + 20, zone.Y + 8, new() { Button = MouseButton.Right });
        await Assertions.Expect(ada.Page.Locator(".commands li").First).ToContainTextAsync("Rename");
        await Assertions.Expect(ada.Page.Locator(".commands li", new() { HasText = "Change Pattern" })).ToHaveCountAsync(0);
        var menu = (await ada.Page.Locator(".commands").BoundingBoxAsync())!;
        (Math.Abs(menu.X - zone.X - 20) + Math.Abs(menu.Y - zone.Y - 8)).ShouldBeLessThan(3);
        await ada.Page.Keyboard.PressAsync("Escape");

        await Click(ada, ada.Page.Locator("[data-node='place'] .bt-section-title"));
        await ada.Page.GetByRole(AriaRole.Radio, new() { Name = "2" }).ClickAsync();
        await Window.Eventually(async () => (await ada.Rows()).Take(2).ShouldBe(["code pontoon", "zone"]));
        await Assertions.Expect(ada.Page.Locator(".mark-empty")).ToHaveCountAsync(1);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_canvas_without_its_marks_is_the_published_form_to_the_letter()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel/1");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await Assertions.Expect(ada.Control("name")).ToHaveValueAsync("Kittiwake");
        var published = await Drawn(ada);

        await ada.Go("design/vessel", ".canvas .bt-field");
        await ada.Page.GetByLabel("Role").SelectOptionAsync("harbour-office");
        await ada.Page.GetByLabel("Record").SelectOptionAsync(new SelectOptionValue { Label = "Kittiwake, SQ-0417" });
        await ada.Page.GetByLabel("Width in pixels").FillAsync("920");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Try it" }).ClickAsync();
        await Assertions.Expect(ada.Control("name")).ToHaveValueAsync("Kittiwake");

        (await Drawn(ada)).ShouldBe(published);
    }

    /// <summary>Every element of the form with its place and size; ids that React makes up are left out.</summary>
    private static Task<string> Drawn(Window window) =>
        window.Page.EvaluateAsync<string>(
            """
            () => {
              const form = document.querySelector('.bt-form');
              const origin = form.getBoundingClientRect();
              return [...form.querySelectorAll('*:not(option)')].map(element => {
                const box = element.getBoundingClientRect();
                const own = [...element.attributes].filter(each => !/^(id|for|name|aria-)/.test(each.name));
                const names = own.map(each => `${each.name}=${each.value}`).sort().join(' ');
                const sizes = [box.left - origin.left, box.top - origin.top, box.width, box.height].map(each => Math.round(each));
                return `${element.tagName} ${names} ${sizes.join(' ')}`;
              }).join('\n');
            }
            """
        );

    private static async Task Click(Window window, ILocator target)
    {
        var box = (await target.BoundingBoxAsync())!;
        await window.Page.Mouse.ClickAsync(box.X + (box.Width / 2), box.Y + (box.Height / 2));
    }

    private static async Task Drag(Window window, ILocator from, ILocator to, float right = 0, float down = 0)
    {
        await from.ScrollIntoViewIfNeededAsync();
        var start = (await from.BoundingBoxAsync())!;
        var end = (await to.BoundingBoxAsync())!;
        var mouse = window.Page.Mouse;
        await mouse.MoveAsync(start.X + (start.Width / 2), start.Y + (start.Height / 2));
        await mouse.DownAsync();
        await mouse.MoveAsync(start.X + (start.Width / 2) + 8, start.Y + (start.Height / 2) + 8, new() { Steps = 4 });
        // A distance from the right or upper edge, below 0, or beyond the lower one, above it, aims there; none aims at the middle.
        var x = right > 0 ? end.X + end.Width - right : end.X + (end.Width / 2);
        var y =
            down < 0 ? end.Y - down
            : down > 0 ? end.Y + end.Height + down
            : end.Y + (end.Height / 2);
        await mouse.MoveAsync(x, y, new() { Steps = 12 });
        await Assertions.Expect(window.Page.Locator(".canvas-layer[data-showing]")).ToBeVisibleAsync();
        await mouse.UpAsync();
        await Assertions.Expect(window.Page.Locator(".canvas-layer[data-showing]")).ToHaveCountAsync(0);
    }
}
