using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// Laying out a form with real mouse and key events: several parts at once, names and widths where they stand, each width's own form,
/// fields, text, history.
/// </summary>
public sealed partial class DesignerTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    private static ILocator Drawer(Window window, string name) => window.Page.Locator(".drawer-buttons button", new() { HasText = name });

    private static ILocator Tab(Window window, string name) => window.Page.GetByRole(AriaRole.Tab, new() { Name = name, Exact = true });

    private async Task<Window> Open(RunningService service, string layout)
    {
        var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go($"design/{layout}", ".canvas .bt-field");
        return ada;
    }

    private static async Task Click(Window window, ILocator at, string? holding = null, int clicks = 1)
    {
        await at.ScrollIntoViewIfNeededAsync();
        var box = (await at.BoundingBoxAsync())!;
        if (holding is not null)
        {
            await window.Page.Keyboard.DownAsync(holding);
        }

        await window.Page.Mouse.ClickAsync(box.X + 14, box.Y + 8, new() { ClickCount = clicks });
        if (holding is not null)
        {
            await window.Page.Keyboard.UpAsync(holding);
        }
    }

    private static Task Changes(Window window, string text) => Assertions.Expect(window.Page.Locator(".changing")).ToContainTextAsync(text);

    [Fact]
    public async Task A_form_is_designed_with_the_record_one_comes_from_and_left_for_it()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel/3", ".bt-field");
        var title = await ada.Page.GetByRole(AriaRole.Heading, new() { Level = 1 }).First.InnerTextAsync();
        await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Design this form" }).ClickAsync();
        var record = ada.Page.GetByLabel("Record", new() { Exact = true });
        await Assertions.Expect(record).ToHaveValueAsync("3");
        await Assertions.Expect(ada.Page.Locator(".sheet")).ToContainTextAsync(title);
        await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Leave" }).ClickAsync();
        await Assertions.Expect(ada.Page).ToHaveURLAsync($"{service.Address}records/vessel/3");

        // One that is gone is none to look at.
        await ada.Go("design/vessel/record/99999", ".canvas .bt-field");
        await Assertions.Expect(record).ToHaveValueAsync(new System.Text.RegularExpressions.Regex("^[1-9][0-9]?$"));
        await Assertions.Expect(record).Not.ToHaveValueAsync("99999");
    }

    [Fact]
    public async Task A_layout_begins_with_what_is_required_as_a_copy_or_as_a_family_under_the_name_it_is_given()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var dialog = ada.Page.Locator(".new-layout");
        async Task Make(string entity, string from, string name)
        {
            await ada.Go("layouts", ".table a");
            await Button(ada, "New layout…").ClickAsync();
            await dialog.GetByLabel("Records of").SelectOptionAsync(new SelectOptionValue { Label = entity });
            await dialog.Locator(".picture-choice").Filter(new() { HasText = from }).ClickAsync();
            await dialog.GetByLabel("Title", new() { Exact = true }).FillAsync(name);
            await Button(ada, "Create").ClickAsync();
        }

        await Make("Keeper", "What is required", "Keeper, in brief");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("Keeper, in brief form");
        await Window.Eventually(async () => (await ada.Rows()).ShouldBe(["givenName familyName"]));
        ada.Page.Url.ShouldEndWith("/design/keeperInBrief");

        await Make("Berth", "Copy of Berth", "Berth for the yard");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("Berth for the yard form");
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("code pontoon zone"));

        await Make("Visitor call", "Set from A register", "Calls");
        await Button(ada, "Open the first one").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("never published");
        await Make("Berth", "A section that appears when an answer asks for it", "Berth, to learn from");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("Berth, to learn from form");
        await Assertions
            .Expect(ada.Page.Locator("[data-property='note'] textarea").First)
            .ToHaveValueAsync(new System.Text.RegularExpressions.Regex("is shown while record"));
        using var client = await service.As("ada");
        (await client.Layouts(CancellationToken.None))
            .Where(layout => layout.Entity == "visitorCall" && layout.Published is null)
            .Select(layout => layout.Key)
            .ShouldContain("calls");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_changed_without_a_connection_shows_at_once_waits_outlives_the_page_and_can_be_undone_after_a_reload()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        using var client = await service.As("ada");
        var before = (await client.File("layout", "berth", CancellationToken.None)).Text;
        await ada.Page.Context.SetOfflineAsync(true);
        await Click(ada, ada.Field("zone"));
        await ada.Page.Keyboard.PressAsync("Delete");
        await Assertions.Expect(ada.Field("zone")).ToHaveCountAsync(0);
        await Click(ada, ada.Field("pontoon"));
        await ada.Page.Keyboard.PressAsync("F2");
        await ada.Page.Keyboard.TypeAsync("Jetty");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Field("pontoon").Locator(".bt-label")).ToContainTextAsync("Jetty");
        await Assertions.Expect(ada.Page.Locator(".status")).ToContainTextAsync("2 changes wait here");
        await Changes(ada, "as published");

        // The window is closed before the service can be reached again; another one takes up what waited.
        var context = ada.Page.Context;
        await ada.Page.CloseAsync();
        await context.SetOfflineAsync(false);
        var page = await context.NewPageAsync();
        await page.GotoAsync("/design/berth");
        await Assertions.Expect(page.Locator(".changing")).ToContainTextAsync("2 changes not published");
        await Assertions.Expect(page.Locator(".canvas [data-field='pontoon'] .bt-label")).ToContainTextAsync("Jetty");
        await Assertions.Expect(page.Locator(".canvas [data-field='zone']")).ToHaveCountAsync(0);
        (await page.EvaluateAsync<int>("() => Object.keys(localStorage).filter(each => each.startsWith('designing:')).length")).ShouldBe(0);

        // Steps outlive a reload.
        await page.ReloadAsync();
        await page.Locator(".canvas .bt-field").First.WaitForAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Undo" }).ClickAsync();
        await Assertions.Expect(page.Locator(".canvas [data-field='pontoon'] .bt-label")).ToContainTextAsync("Pontoon");
        await page.GetByRole(AriaRole.Button, new() { Name = "Undo" }).ClickAsync();
        await Assertions.Expect(page.Locator(".canvas [data-field='zone']")).ToHaveCountAsync(1);
        // What is seen at once arrives a moment later.
        await Window.Eventually(async () => (await client.File("layout", "berth", CancellationToken.None)).Text.ShouldBe(before));
    }

    [Fact]
    public async Task What_is_typed_into_a_property_shows_while_it_is_typed_at_a_width_there_alone_and_Escape_takes_it_back()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        await Click(ada, ada.Field("name"));
        var label = ada.Page.Locator("[data-property='label'] input");
        await label.FillAsync("Name on the b");
        await label.PressAsync("o");
        await Assertions.Expect(ada.Field("name").Locator(".bt-label")).ToContainTextAsync("Name on the bo");
        await label.PressAsync("Escape");
        await Assertions.Expect(ada.Field("name").Locator(".bt-label")).Not.ToContainTextAsync("Name on");
        await label.FillAsync("Her name");
        await label.PressAsync("Enter");
        await Changes(ada, "1 change not published");

        await ada.Page.GetByLabel("Which form").SelectOptionAsync("narrow");
        await Click(ada, ada.Field("name"));
        await label.FillAsync("Short");
        await Assertions.Expect(ada.Field("name").Locator(".bt-label")).ToContainTextAsync("Short");
        await label.PressAsync("Enter");
        await Changes(ada, "2 changes not published");
        await Assertions.Expect(ada.Field("name").Locator(".bt-label")).ToContainTextAsync("Short");
        await ada.Page.GetByLabel("Which form").SelectOptionAsync("");
        await ada.Page.GetByLabel("Width in pixels").FillAsync("960");
        await Assertions.Expect(ada.Field("name").Locator(".bt-label")).ToContainTextAsync("Her name");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_field_is_added_placed_published_and_filled_in()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        await Button(ada, "Add a field…").ClickAsync();
        await ada.Page.Locator("#add-label").FillAsync("Fender type");
        await ada.Page.GetByLabel("Type", new() { Exact = true }).SelectOptionAsync("choice");
        await Button(ada, "Add field").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".dialog-problem")).ToContainTextAsync("choices");
        await ada.Page.GetByLabel("Choices, one per line").FillAsync("Cylinder\nRound");
        await Button(ada, "Add field").ClickAsync();
        await Assertions.Expect(ada.Field("fenderType")).ToHaveCountAsync(1);
        await Button(ada, "Publish…").ClickAsync();
        await Assertions.Expect(ada.Page.Locator("dialog")).ToContainTextAsync("the entity berth");
        await Button(ada, "Publish").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt")).ToContainTextAsync("entity berth");

        await using var cleo = await chromium.Open(service, "Cleo Marsh");
        await cleo.Go("records/berth/1");
        await Button(cleo, "Edit").ClickAsync();
        await cleo.Control("fenderType").SelectOptionAsync("Round");
        await Button(cleo, "Save").ClickAsync();
        await Assertions.Expect(cleo.Page.Locator(".notice")).ToContainTextAsync("Saved.");
        using var client = await service.As("cleo");
        (await client.Record("berth", 1, CancellationToken.None)).Values.GetProperty("fenderType").GetString().ShouldBe("round");
        ada.Complaints.Concat(cleo.Complaints).ShouldBeEmpty();
    }

    [Fact]
    public async Task The_form_is_changed_as_text_with_errors_in_place_and_gone_back_to_in_its_history()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        var before = await ada.Rows();
        await Drawer(ada, "Source").ClickAsync();
        var text = ada.Page.GetByRole(AriaRole.Textbox, new() { Name = "Source" });
        await Assertions.Expect(text).ToContainTextAsync("entity: berth");
        await text.ClickAsync();
        await ada.Page.Keyboard.PressAsync("Control+Home");
        await ada.Page.Keyboard.TypeAsync("nonsense: 1\n");
        await ada.Page.Keyboard.PressAsync("Control+Enter");
        await Assertions.Expect(ada.Page.Locator(".source [role=alert]")).ToContainTextAsync("nonsense");
        await Assertions.Expect(ada.Page.Locator(".cm-lint-marker-error")).ToHaveCountAsync(1);
        await Button(ada, "As it was").ClickAsync();
        await Assertions.Expect(text).Not.ToContainTextAsync("nonsense");

        await Tab(ada, "Add").ClickAsync();
        await Click(ada, ada.Field("pontoon"));
        await ada.Page.Keyboard.PressAsync("Delete");
        await Changes(ada, "1 change not published");
        await Drawer(ada, "Changes").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".changes ul")).ToContainTextAsync("Pontoon");
        await Click(ada, ada.Field("code"));
        await ada.Page.Keyboard.PressAsync("Delete");
        await Changes(ada, "2 changes not published");
        await Button(ada, "Restore").Last.ClickAsync();
        await Window.Eventually(async () => (await ada.Rows()).ShouldBe(before));
        await Assertions.Expect(ada.Page.Locator(".changes")).ToContainTextAsync("It is as it is published.");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Everything_is_found_by_name_in_the_list_of_commands_with_the_keyboard_alone()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "vessel");
        var keys = ada.Page.Keyboard;
        async Task Do(string name)
        {
            await keys.PressAsync("Control+k");
            await Assertions.Expect(ada.Page.GetByRole(AriaRole.Combobox, new() { Name = "Commands" })).ToBeFocusedAsync();
            await keys.TypeAsync(name);
            await keys.PressAsync("Enter");
        }

        await Do("go to mast height");
        await Assertions.Expect(ada.Page.Locator(".properties-head h2").First).ToHaveTextAsync("Mast height");
        // Avocet goes by electricity, so the rig is not there; the reason is told.
        await Assertions.Expect(ada.Page.Locator(".why legend")).ToHaveTextAsync("Why it is not there");
        await Do("preview as a quay");
        await Assertions.Expect(ada.Page.GetByLabel("Role")).ToHaveValueAsync("quay-hand");
        await Do("move down");
        await Changes(ada, "1 change not published");
        await Do("undo");
        await Assertions.Expect(ada.Page.Locator(".status")).ToContainTextAsync("Undone");
        await keys.PressAsync("Control+k");
        await keys.TypeAsync("zzz");
        await Assertions.Expect(ada.Page.Locator(".commands")).ToContainTextAsync("No matches.");
        await keys.PressAsync("Escape");
        await Assertions.Expect(ada.Page.Locator(".commands")).ToHaveCountAsync(0);
        await Click(ada, ada.Field("name"));
        await ada.Page.Mouse.ClickAsync(500, 360, new() { Button = MouseButton.Right });
        await Assertions.Expect(ada.Page.Locator(".commands")).ToContainTextAsync("Remove");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Two_people_change_one_form_each_sees_the_others_changes_by_name_and_takes_back_only_her_own()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await Open(service, "berth");
        await using var greta = await chromium.Open(service, "Greta Root");
        await greta.Go("design/berth", ".canvas .bt-field");
        await Click(ada, ada.Field("code"));
        await ada.Page.Keyboard.PressAsync("F2");
        await ada.Page.Keyboard.TypeAsync("Berth code");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(greta.Page.Locator(".status")).ToContainTextAsync("Ada Wader: Name of");
        await Assertions.Expect(greta.Field("code").Locator(".bt-label")).ToContainTextAsync("Berth code");

        await Click(greta, greta.Field("pontoon"));
        await greta.Page.Keyboard.PressAsync("F2");
        await greta.Page.Keyboard.TypeAsync("Lies at");
        await greta.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".status")).ToContainTextAsync("Greta Root: Name of");
        await Assertions.Expect(ada.Field("pontoon").Locator(".bt-label")).ToContainTextAsync("Lies at");

        await ada.Page.Locator(".canvas-layer").FocusAsync();
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Assertions.Expect(greta.Field("code").Locator(".bt-label")).Not.ToContainTextAsync("Berth code");
        await Assertions.Expect(greta.Field("pontoon").Locator(".bt-label")).ToContainTextAsync("Lies at");

        // What somebody typed to try the form outlives what a colleague changes of it meanwhile, and goes with the trial.
        await Button(greta, "Try it").ClickAsync();
        await greta.Control("code").FillAsync("Z 99");
        await Click(ada, ada.Field("code"));
        await ada.Page.Keyboard.PressAsync("F2");
        await ada.Page.Keyboard.TypeAsync("Number of the berth");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(greta.Field("code").Locator(".bt-label")).ToContainTextAsync("Number of the berth");
        await Assertions.Expect(greta.Control("code")).ToHaveValueAsync("Z 99");
        await Button(greta, "Back to designing").ClickAsync();
        await Assertions.Expect(greta.Control("code")).Not.ToHaveValueAsync("Z 99");
        ada.Complaints.Concat(greta.Complaints).ShouldBeEmpty();
    }
}
