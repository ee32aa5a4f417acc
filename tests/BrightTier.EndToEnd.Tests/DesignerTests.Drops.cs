using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

// What a hand expects: what is shown is what is dropped, what is chosen stands at once and is named there.
public sealed partial class DesignerTests
{
    /// <summary>Every item of the form with its place and size on the sheet.</summary>
    private static Task<string[]> Places(Window window) =>
        window.Page.EvaluateAsync<string[]>(
            """
            () => {
              const sheet = document.querySelector('.canvas').getBoundingClientRect();
              return [...document.querySelectorAll('.canvas .bt-item')].map(item => {
                const box = item.getBoundingClientRect();
                const sizes = [box.x - sheet.x, box.y - sheet.y, box.width, box.height].map(each => Math.round(each));
                return [item.dataset.node.replace('new ', ''), ...sizes].join(' ');
              });
            }
            """
        );

    /// <summary>Holds something over a spot, looks at what is shown, and drops it.</summary>
    private static async Task<string[]> Drop(
        Window window,
        ILocator from,
        ILocator to,
        Func<LocatorBoundingBoxResult, (float X, float Y)> at
    )
    {
        var mouse = window.Page.Mouse;
        await from.ScrollIntoViewIfNeededAsync();
        var start = (await from.BoundingBoxAsync())!;
        await mouse.MoveAsync(start.X + 20, start.Y + 8);
        await mouse.DownAsync();
        await mouse.MoveAsync(start.X + 28, start.Y + 16, new() { Steps = 3 });
        var (x, y) = at((await to.BoundingBoxAsync())!);
        await mouse.MoveAsync(x, y, new() { Steps = 8 });
        await window.Page.Locator(".canvas [data-dropped]").First.WaitForAsync();
        await window.Page.WaitForTimeoutAsync(200);
        var held = await Places(window);
        await mouse.UpAsync();
        return held;
    }

    [Fact]
    public async Task What_is_shown_while_it_is_held_is_what_is_dropped_to_the_pixel()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        var drops = new (ILocator From, ILocator To, Func<LocatorBoundingBoxResult, (float, float)> At)[]
        {
            (ada.Field("homePort"), ada.Field("keeper"), box => (box.X + box.Width - 20, box.Y + 40)),
            (ada.Field("propulsion"), ada.Field("name"), box => (box.X + 20, box.Y + 40)),
            (ada.Field("registration"), ada.Field("keeper"), box => (box.X + 100, box.Y - 6)),
            // Three share the row, which a long text has no room beside: it gets a row of its own.
            (ada.Field("keeper"), ada.Field("beam"), box => (box.X + box.Width - 20, box.Y + 40)),
            (Button(ada, "Heading"), ada.Field("length"), box => (box.X + 60, box.Y - 6)),
        };
        for (var i = 0; i < drops.Length; i++)
        {
            var held = await Drop(ada, drops[i].From, drops[i].To, drops[i].At);
            await Changes(ada, i == 0 ? "1 change not published" : $"{i + 1} changes not published");
            await Window.Eventually(async () => (await Places(ada)).ShouldBe(held));
        }

        // Given up, all is as it was.
        await ada.Page.Keyboard.PressAsync("Escape");
        var before = await Places(ada);
        var from = (await ada.Field("berth").BoundingBoxAsync())!;
        var over = (await ada.Field("name").BoundingBoxAsync())!;
        await ada.Page.Mouse.MoveAsync(from.X + 20, from.Y + 8);
        await ada.Page.Mouse.DownAsync();
        await ada.Page.Mouse.MoveAsync(over.X + 20, over.Y + 40, new() { Steps = 8 });
        await ada.Page.Locator(".canvas [data-dropped]").WaitForAsync();
        (await Places(ada)).ShouldNotBe(before);
        await ada.Page.Mouse.MoveAsync(4, 4, new() { Steps = 4 });
        await Window.Eventually(async () => (await Places(ada)).ShouldBe(before));
        await ada.Page.Mouse.UpAsync();
        await Changes(ada, "5 changes not published");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_piece_is_shown_as_itself_where_it_is_held_and_bound_in_its_own_drawing()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        var mouse = ada.Page.Mouse;
        var entry = ada.Page.Locator(".palette-entry[data-subject='{\"piece\":\"cover\"}']");
        await entry.ScrollIntoViewIfNeededAsync();
        var from = (await entry.BoundingBoxAsync())!;
        var over = (await ada.Field("length").BoundingBoxAsync())!;
        await mouse.MoveAsync(from.X + 20, from.Y + 8);
        await mouse.DownAsync();
        await mouse.MoveAsync(over.X + 60, over.Y - 30, new() { Steps = 4 });
        // What it looks like is asked for when it is held, and shown wherever it goes next.
        var held = ada.Page.Locator(".canvas [data-dropped]");
        var step = 0;
        await Window.Eventually(async () =>
        {
            await mouse.MoveAsync(over.X + 60 + (step++ % 2), over.Y - 5, new() { Steps = 4 });
            (await held.CountAsync()).ShouldBeGreaterThan(0);
        });
        await Assertions.Expect(held).ToContainTextAsync("Hull cover");
        await Assertions.Expect(held.Locator("[data-field='coverInsurer']")).ToHaveCountAsync(1);
        await mouse.UpAsync();

        // Both covers are on the form: which fields is asked, where the piece shows them.
        var drawing = ada.Page.Locator(".piece-drawing");
        await Assertions.Expect(drawing.GetByLabel("Insurer")).ToHaveValueAsync("coverInsurer");
        await Assertions.Expect(drawing.Locator(".bt-field select")).ToHaveCountAsync(4);
        await drawing.GetByLabel("Insurer").SelectOptionAsync("thirdInsurer");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Add", Exact = true }).ClickAsync();
        await Changes(ada, "1 change not published");
        await Assertions.Expect(ada.Page.Locator(".canvas [data-node='measures'] [data-field='thirdInsurer']")).ToHaveCountAsync(1);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_tab_moves_among_the_tabs_while_it_is_held()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        Task<string[]> Tabs() =>
            ada.Page.EvaluateAsync<string[]>("() => [...document.querySelectorAll('.canvas .bt-tab')].map(tab => tab.dataset.tab)");
        (await Tabs()).ShouldBe(["overview", "care"]);
        var mouse = ada.Page.Mouse;
        var from = (await ada.Page.Locator(".canvas [data-tab='overview']").BoundingBoxAsync())!;
        var over = (await ada.Page.Locator(".canvas [data-tab='care']").BoundingBoxAsync())!;
        await mouse.MoveAsync(from.X + 20, from.Y + 12);
        await mouse.DownAsync();
        await mouse.MoveAsync(over.X + over.Width - 8, over.Y + 12, new() { Steps = 8 });
        await Window.Eventually(async () => (await Tabs()).ShouldBe(["care", "overview"]));
        await mouse.MoveAsync(4, 4, new() { Steps = 4 });
        await Window.Eventually(async () => (await Tabs()).ShouldBe(["overview", "care"]));
        await mouse.MoveAsync(over.X + over.Width - 8, over.Y + 12, new() { Steps = 8 });
        await Window.Eventually(async () => (await Tabs()).ShouldBe(["care", "overview"]));
        await mouse.UpAsync();
        await Changes(ada, "1 change not published");
        await Window.Eventually(async () => (await Tabs()).ShouldBe(["care", "overview"]));
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Fields_picked_together_are_placed_in_their_order_and_undone_together()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        var before = await ada.Rows();
        foreach (var field in (string[])["hullType", "propulsion", "homePort"])
        {
            await Click(ada, ada.Field(field), "Control");
        }

        await ada.Page.Keyboard.PressAsync("Delete");
        await Changes(ada, "1 change not published");
        var without = await ada.Rows();
        ILocator Entry(string field) => ada.Page.Locator($".palette-entry[data-subject='{{\"field\":\"{field}\"}}']");
        await Entry("homePort").ClickAsync(new() { Modifiers = [KeyboardModifier.Control] });
        await Entry("hullType").ClickAsync(new() { Modifiers = [KeyboardModifier.Control] });
        await Assertions.Expect(ada.Page.Locator(".palette-entry[aria-pressed='true']")).ToHaveCountAsync(2);
        await Click(ada, ada.Field("name"));
        await Entry("hullType").FocusAsync();
        await ada.Page.Keyboard.PressAsync("Enter");
        await Changes(ada, "2 changes not published");
        // The list has required fields first.
        await Window.Eventually(async () => (await ada.Rows()).Take(3).ShouldBe(["name registration", "hullType", "homePort"]));
        await Assertions.Expect(ada.Page.Locator(".mark-selected")).ToHaveCountAsync(2);
        // What is left of the list has the focus: pressed again, the next follows.
        await Assertions.Expect(Entry("propulsion")).ToBeFocusedAsync();
        await ada.Page.Keyboard.PressAsync("Enter");
        await Window.Eventually(async () => (await ada.Rows()).Take(4).Last().ShouldBe("propulsion"));
        await Button(ada, "Undo").ClickAsync();
        await Button(ada, "Undo").ClickAsync();
        await Window.Eventually(async () => (await ada.Rows()).ShouldBe(without));
        await Button(ada, "Undo").ClickAsync();
        await Window.Eventually(async () => (await ada.Rows()).ShouldBe(before));
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_tab_on_a_form_without_tabs_makes_them_is_named_where_it_stands_takes_drops_and_is_undone_at_once()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        var tabs = ada.Page.Locator(".canvas [data-tab]");
        await Assertions.Expect(tabs).ToHaveCountAsync(0);
        await Button(ada, "Tab").ClickAsync();
        await ada.Page.Locator(".mark-rename").FillAsync("Money");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(tabs).ToHaveTextAsync(["Berth", "Money"]);
        await Assertions.Expect(tabs.Nth(1)).ToHaveAttributeAsync("aria-selected", "true");
        await Assertions.Expect(ada.Page.Locator(".mark-empty")).ToContainTextAsync("Drop fields here");
        await Assertions.Expect(ada.Page.Locator(".mark-selected")).ToHaveAttributeAsync("data-for", "money");
        await Drop(ada, Button(ada, "Text"), ada.Page.Locator(".mark-empty"), box => (box.X + 80, box.Y + (box.Height / 2)));
        await ada.Page.Locator(".mark-rename").FillAsync("Paid by the day");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".canvas .bt-page")).ToContainTextAsync("Paid by the day");
        await ada.Page.Locator(".canvas-layer").FocusAsync();
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Assertions.Expect(ada.Page.Locator(".canvas .bt-page")).Not.ToContainTextAsync("Paid by the day");
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Assertions.Expect(tabs).ToHaveCountAsync(0);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_frame_selects_what_it_touches_a_row_has_a_handle_and_an_empty_place_is_closed_up()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        var mouse = ada.Page.Mouse;
        var (first, last) = ((await ada.Field("code").BoundingBoxAsync())!, (await ada.Field("zone").BoundingBoxAsync())!);
        await mouse.MoveAsync(first.X - 20, first.Y - 12);
        await mouse.DownAsync();
        await mouse.MoveAsync(last.X + 20, last.Y + 30, new() { Steps = 6 });
        await Assertions.Expect(ada.Page.Locator(".mark-frame[data-shown]")).ToBeVisibleAsync();
        await mouse.UpAsync();
        await Assertions.Expect(ada.Page.Locator(".properties-head h2")).ToHaveTextAsync("3 selected");

        await mouse.MoveAsync(first.X + 40, first.Y + 40);
        var handle = (await ada.Page.Locator(".mark-row span").BoundingBoxAsync())!;
        await mouse.ClickAsync(handle.X + 4, handle.Y + 20);
        await Assertions.Expect(ada.Page.Locator(".mark-selected")).ToHaveCountAsync(1);
        await Assertions.Expect(ada.Page.Locator(".properties-head p")).ToContainTextAsync("Cells side by side");

        // Spans are written: what leaves the row leaves its place, and the others stand where they did.
        var zone = (await ada.Field("zone").BoundingBoxAsync())!.X;
        await Click(ada, ada.Field("pontoon"));
        await ada.Page.Keyboard.PressAsync("Delete");
        await Assertions.Expect(ada.Page.Locator(".mark-empty[data-kind='cell']")).ToHaveCountAsync(1);
        (await ada.Field("zone").BoundingBoxAsync())!.X.ShouldBe(zone, 1);
        await Button(ada, "Close up the empty place").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".mark-empty[data-kind='cell']")).ToHaveCountAsync(0);
        await Window.Eventually(async () => (await ada.Rows())[0].ShouldBe("code zone"));
        ada.Complaints.ShouldBeEmpty();
    }
}
