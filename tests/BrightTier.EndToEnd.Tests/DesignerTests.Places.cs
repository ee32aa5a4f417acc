using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

// Where things are put, and how large: by mouse, by finger, by keyboard.
public sealed partial class DesignerTests
{
    [Fact]
    public async Task What_is_to_be_moved_is_placed_by_a_click_where_the_line_shows_on_a_phone_by_a_tap()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        await Button(ada, "Divider").ClickAsync();
        await Changes(ada, "1 change not published");
        await Assertions.Expect(ada.Page.Locator(".mark-selected")).ToHaveCountAsync(1);
        await ada.Page.Locator(".canvas-layer").FocusAsync();
        await ada.Page.Keyboard.PressAsync("m");
        var box = (await ada.Page.Locator("[data-node='hullType']").BoundingBoxAsync())!;
        await ada.Page.Mouse.MoveAsync(box.X + 30, box.Y + box.Height - 3);
        await Assertions.Expect(ada.Page.Locator(".mark-drop[data-shown]")).ToBeVisibleAsync();
        var line = (await ada.Page.Locator(".mark-drop[data-shown]").BoundingBoxAsync())!;
        line.Y.ShouldBeInRange(box.Y + box.Height - 4, box.Y + box.Height + 16, "the line stands under the row that is pointed at");
        await ada.Page.Mouse.ClickAsync(box.X + 30, box.Y + box.Height - 3);
        await Changes(ada, "2 changes not published");
        // What the service answers takes the place of what was drawn at once.
        await Window.Eventually(async () =>
        {
            var divider = await ada.Page.Locator(".canvas hr").First.BoundingBoxAsync();
            divider.ShouldNotBeNull();
            divider.Y.ShouldBeInRange(box.Y + box.Height, box.Y + box.Height + 40);
        });

        // Escape, Cancel and another choice end it; a tab is opened and the choice stands.
        await ada.Page.Keyboard.PressAsync("m");
        await Button(ada, "Cancel").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".status")).Not.ToContainTextAsync("Place ");
        await ada.Page.Locator(".canvas-layer").FocusAsync();
        await ada.Page.Keyboard.PressAsync("m");
        await Click(ada, ada.Page.Locator(".canvas [data-tab]").Nth(1));
        await Assertions.Expect(ada.Page.Locator(".canvas [data-tab][aria-selected=true]")).ToContainTextAsync("Condition");
        await Assertions.Expect(ada.Page.Locator(".status")).ToContainTextAsync("Place ");
        await ada.Page.Keyboard.PressAsync("Escape");

        await using var phone = await chromium.Touch(service, "Greta Root");
        await phone.Go("design/vessel", ".canvas .bt-field");
        async Task Region(string name)
        {
            await phone.Page.Locator(".region-switch").GetByRole(AriaRole.Button, new() { Name = name, Exact = true }).TapAsync();
            foreach (
                var (region, at) in new[]
                {
                    ("Fields", ".palette"),
                    ("Form", ".sheet"),
                    ("View", ".preview-bar"),
                    ("Properties", ".pane[aria-label='Properties']"),
                }
            )
            {
                await Assertions.Expect(phone.Page.Locator(at)).ToBeVisibleAsync(new() { Visible = region == name });
            }
        }

        foreach (var name in (string[])["View", "Properties", "Form", "Fields"])
        {
            await Region(name);
        }

        await Button(phone, "Spacer").TapAsync();
        await Assertions.Expect(phone.Page.Locator(".sheet")).ToBeVisibleAsync();
        await Changes(phone, "3 changes not published");
        await Button(phone, "Commands").TapAsync();
        await phone.Page.GetByRole(AriaRole.Option, new() { Name = "Move…" }).First.TapAsync();
        var at = (await phone.Page.Locator("[data-node='registration']").BoundingBoxAsync())!;
        await phone.Page.Touchscreen.TapAsync(at.X + 60, at.Y + at.Height - 3);
        await Changes(phone, "4 changes not published");
        (await phone.Page.EvaluateAsync<int>("document.documentElement.scrollWidth - innerWidth")).ShouldBeLessThanOrEqualTo(0);
    }

    [Fact]
    public async Task The_scale_of_widths_shows_each_range_changes_the_sheet_and_takes_a_cut_of_the_layouts_own()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        var mark = ada.Page.GetByRole(AriaRole.Slider, new() { Name = "Width of the sheet" });
        await Button(ada, "narrow").ClickAsync();
        await Assertions.Expect(Button(ada, "narrow")).ToHaveAttributeAsync("aria-pressed", "true");
        await Assertions.Expect(ada.Page.Locator(".changing select")).ToHaveValueAsync("narrow");
        await ada.Page.GetByLabel("Which form").SelectOptionAsync("");

        // By mouse on the scale and on the sheet's own edge, and by keys.
        var at = (await mark.BoundingBoxAsync())!;
        await ada.Page.Mouse.MoveAsync(at.X + 12, at.Y + 12);
        await ada.Page.Mouse.DownAsync();
        await ada.Page.Mouse.MoveAsync(at.X + 112, at.Y + 12, new() { Steps = 4 });
        await ada.Page.Mouse.UpAsync();
        var wide = int.Parse((await mark.GetAttributeAsync("aria-valuenow"))!, System.Globalization.CultureInfo.InvariantCulture);
        wide.ShouldBeGreaterThan(500);
        await mark.FocusAsync();
        await ada.Page.Keyboard.PressAsync("ArrowLeft");
        await Assertions
            .Expect(mark)
            .ToHaveAttributeAsync("aria-valuenow", (wide - 10).ToString(System.Globalization.CultureInfo.InvariantCulture));
        await ada.Page.GetByLabel("Width in pixels").FillAsync("480");
        var edge = (await ada.Page.Locator(".sheet-edge").BoundingBoxAsync())!;
        await ada.Page.Mouse.MoveAsync(edge.X + 7, edge.Y + 60);
        await ada.Page.Mouse.DownAsync();
        await ada.Page.Mouse.MoveAsync(edge.X + 27, edge.Y + 60, new() { Steps = 4 });
        await ada.Page.Mouse.UpAsync();
        await Assertions.Expect(mark).ToHaveAttributeAsync("aria-valuenow", "520");

        await ada.Page.GetByLabel("Width in pixels").FillAsync("480");
        await Button(ada, "Cut at 480 px").ClickAsync();
        await ada.Page.GetByRole(AriaRole.Textbox, new() { Name = "What is this width called?" }).FillAsync("Watch");
        await Button(ada, "Create").ClickAsync();
        await Assertions.Expect(Button(ada, "watch")).ToHaveAttributeAsync("aria-pressed", "true");
        await Changes(ada, "1 change not published");
        await Click(ada, ada.Field("zone"));
        await ada.Page.Keyboard.PressAsync("Delete");
        await Changes(ada, "2 changes not published");
        using var client = await service.As("ada");
        (await client.File("layout", "berth", CancellationToken.None)).Text.ShouldContain("watch:");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Several_parts_are_changed_wrapped_and_taken_off_together_and_come_back_with_one_undo()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        var before = await ada.Rows();
        await Click(ada, ada.Field("hullType"));
        await Click(ada, ada.Field("propulsion"), "Control");
        await Click(ada, ada.Field("homePort"), "Control");
        await Assertions.Expect(ada.Page.Locator(".properties-head h2")).ToHaveTextAsync("3 selected");
        // What is typed counts when one is done with it; what cannot be is told, and nothing is changed meanwhile.
        var span = ada.Page.Locator("[data-property='span'] input");
        await span.FillAsync("99");
        await span.PressAsync("Enter");
        await Assertions.Expect(ada.Page.GetByText("from 1 to 12").First).ToBeVisibleAsync();
        await Assertions.Expect(ada.Page.GetByText("/edits/")).ToHaveCountAsync(0);
        (await ada.Rows()).ShouldBe(before);
        await span.FillAsync("3");
        await span.PressAsync("Enter");
        await Changes(ada, "1 change not published");
        using (var client = await service.As("ada"))
        {
            (await client.File("layout", "vessel", CancellationToken.None)).Text.ShouldContain("[hullType/3, propulsion/3, homePort/3]");
        }

        // The keyboard goes on from the sheet: a section of their own, then off with them, then back.
        await Click(ada, ada.Field("hullType"));
        await Click(ada, ada.Field("homePort"), "Shift");
        await ada.Page.Keyboard.PressAsync("g");
        await ada.Page.GetByRole(AriaRole.Textbox, new() { Name = "What is the section called?" }).FillAsync("Build");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator("[data-node='build'] [data-field]")).ToHaveCountAsync(3);
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Assertions.Expect(ada.Page.Locator("[data-node='build']")).ToHaveCountAsync(0);
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Window.Eventually(async () => (await ada.Rows()).ShouldBe(before));
        await Click(ada, ada.Field("hullType"));
        await Click(ada, ada.Field("propulsion"), "Control");
        await ada.Page.Keyboard.PressAsync("Delete");
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("homePort"));
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Window.Eventually(async () => (await ada.Rows()).ShouldBe(before));
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Names_are_typed_and_widths_and_lines_dragged_where_they_stand()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        await Click(ada, ada.Field("name"), clicks: 2);
        await ada.Page.Keyboard.TypeAsync("Name on the bow");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Field("name").Locator(".bt-label")).ToContainTextAsync("Name on the bow");
        await Changes(ada, "1 change not published");

        var mouse = ada.Page.Mouse;
        var handle = (await ada.Page.Locator(".mark-handle[data-edge='end']").BoundingBoxAsync())!;
        var row = (await ada.Page.Locator(".bt-row:has([data-field='name'])").BoundingBoxAsync())!;
        await mouse.MoveAsync(handle.X + 4, handle.Y + (handle.Height / 2));
        await mouse.DownAsync();
        await mouse.MoveAsync(row.X + (row.Width / 2), handle.Y + (handle.Height / 2), new() { Steps = 6 });
        await Assertions.Expect(ada.Page.Locator(".mark-units b")).ToHaveTextAsync("6 of 12");
        await mouse.UpAsync();
        await Assertions.Expect(ada.Page.Locator("[data-property='span'] input")).ToHaveValueAsync("6");

        // With the keyboard by one unit, and the name with F2; Escape leaves it as it was.
        await Click(ada, ada.Field("name"));
        await ada.Page.Keyboard.PressAsync("Alt+Shift+ArrowRight");
        await Assertions.Expect(ada.Page.Locator("[data-property='span'] input")).ToHaveValueAsync("7");
        await ada.Page.Keyboard.PressAsync("F2");
        await ada.Page.Keyboard.TypeAsync("Nothing");
        await ada.Page.Keyboard.PressAsync("Escape");
        await Changes(ada, "3 changes not published");

        await Click(ada, ada.Field("notes"));
        var lower = (await ada.Page.Locator(".mark-handle[data-edge='lines']").BoundingBoxAsync())!;
        await mouse.MoveAsync(lower.X + (lower.Width / 2), lower.Y + 5);
        await mouse.DownAsync();
        await mouse.MoveAsync(lower.X + (lower.Width / 2), lower.Y + 130, new() { Steps = 6 });
        await mouse.UpAsync();
        await Changes(ada, "4 changes not published");
        int.Parse(
                await ada.Page.Locator("[data-property='lines'] input").InputValueAsync(),
                System.Globalization.CultureInfo.InvariantCulture
            )
            .ShouldBeGreaterThan(4);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_band_a_button_in_it_connected_records_and_a_panel_are_placed_by_mouse_and_keyboard()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        var keys = ada.Page.Keyboard;
        async Task Name(string name)
        {
            await ada.Page.Locator(".mark-rename").FillAsync(name);
            await keys.PressAsync("Enter");
        }

        // It stands at once, and is named there.
        await ada.Page.Locator(".palette-entry", new() { HasText = "Bottom band" }).ClickAsync();
        await Name("Paid by {dayRate}");
        await Assertions.Expect(ada.Page.Locator(".canvas .bt-band[data-place='bottom']")).ToContainTextAsync("Paid by");
        await Assertions.Expect(ada.Page.Locator(".palette-entry", new() { HasText = "Bottom band" })).ToHaveCountAsync(0);

        await ada
            .Page.Locator(".palette-entry", new() { HasText = "Button" })
            .DragToAsync(ada.Page.Locator(".canvas .bt-band[data-place='top']"), new() { Force = true });
        await Name("The quay's map");
        await Assertions.Expect(ada.Page.Locator(".canvas .bt-band[data-place='top'] .bt-item")).ToContainTextAsync("The quay's map");
        await Assertions.Expect(ada.Page.Locator("[data-property='address'] input")).ToHaveValueAsync("/");

        await ada.Page.Locator(".canvas [data-node='limits'] .bt-section-title").ClickAsync(new() { Force = true });
        await ada.Page.Locator(".palette-entry", new() { HasText = "Vessels" }).FocusAsync();
        await keys.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".canvas [data-node='limits'] .bt-related")).ToHaveCountAsync(1);

        await ada.Page.Locator(".palette-entry", new() { HasText = "Panel of tabs" }).FocusAsync();
        await keys.PressAsync("Enter");
        await Changes(ada, "6 changes not published");
        using var http = await service.Http("ada");
        http.DefaultRequestHeaders.Accept.ParseAdd("application/yaml");
        var text = await http.GetStringAsync("api/layouts/berth");
        text.ShouldContain("- panel: tabs");
        text.ShouldContain("related: vessel");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_width_has_a_form_of_its_own_whose_differences_are_listed_and_the_base_stays()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        await ada.Page.GetByLabel("Which form").SelectOptionAsync("narrow");
        await Click(ada, ada.Field("homePort"));
        await ada.Page.Keyboard.PressAsync("Delete");
        await Assertions.Expect(ada.Page.Locator(".variant-pane")).ToContainTextAsync("Home port is hidden");
        await ada.Page.GetByLabel("Which form").SelectOptionAsync("wide");
        await Button(ada, "Start with required fields only").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".variant-pane")).ToContainTextAsync("Keeper is hidden");
        await Button(ada, "As the base: Keeper is hidden").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".variant-pane")).Not.ToContainTextAsync("Keeper is hidden");
        await Button(ada, "Publish…").ClickAsync();
        await Button(ada, "Publish").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt")).ToContainTextAsync("Release 2 is published");

        // On a phone and on a desk, the same record.
        await using var phone = await chromium.Open(service, "Cleo Marsh", width: 390);
        await phone.Go("records/vessel/2");
        await Assertions.Expect(phone.Field("name")).ToHaveCountAsync(1);
        await Assertions.Expect(phone.Field("homePort")).ToHaveCountAsync(0);
        await using var desk = await chromium.Open(service, "Cleo Marsh", width: 1600);
        await desk.Go("records/vessel/2");
        await Assertions.Expect(desk.Field("homePort")).ToHaveCountAsync(1);
        ada.Complaints.ShouldBeEmpty();
    }
}
