using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The place of data beyond the sheet: relations, histories, units, templates; and what is seen as somebody else.</summary>
public sealed class DataPlaceTests(Chromium chromium)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static ILocator Button(IPage page, string name) => page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    [Fact]
    public async Task Entities_are_related_on_their_diagram_and_it_goes_to_paper_alone()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await page.SetViewportSizeAsync(1280, 800);
        await ada.Go("data/relations", ".relation-box");
        var lines = page.Locator(".relation-line");
        var before = await lines.CountAsync();

        // Pulled from a visitor's dot to the berths; by keyboard through the dialog is the same.
        var grip = (await page.Locator("[data-entity=visitorCall] .relation-grip").BoundingBoxAsync())!;
        var berths = (await page.Locator("[data-entity=berth]").BoundingBoxAsync())!;
        await page.Mouse.MoveAsync(grip.X + 5, grip.Y + 5);
        await page.Mouse.DownAsync();
        await page.Mouse.MoveAsync(berths.X + 20, berths.Y + 20, new() { Steps = 5 });
        await page.Mouse.UpAsync();
        await Assertions.Expect(page.GetByLabel("What it is called")).ToHaveValueAsync("Berth");
        await page.GetByLabel("What it is called").FillAsync("Lies at");
        await Button(page, "Create").ClickAsync();
        await Assertions.Expect(lines).ToHaveCountAsync(before + 1);

        // Renamed and retired by keyboard.
        await page.GetByRole(AriaRole.Button, new() { Name = "Lies at of" }).FocusAsync();
        await page.Keyboard.PressAsync("Enter");
        await page.GetByLabel("What it is called").FillAsync("Moored at");
        await Button(page, "Save").ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Moored at of" }).ClickAsync();
        await page.GetByLabel("Retire").CheckAsync();
        await Button(page, "Save").ClickAsync();
        await Assertions.Expect(lines).ToHaveCountAsync(before);

        await page.GetByLabel("Around").SelectOptionAsync("keeper");
        await Assertions.Expect(page.Locator(".relation-box")).ToHaveCountAsync(2);
        await page.EmulateMediaAsync(new() { Media = Media.Print });
        await Assertions.Expect(page.Locator(".relations")).ToBeVisibleAsync();
        await Assertions.Expect(page.Locator(".menu")).ToBeHiddenAsync();
        await page.EmulateMediaAsync(new() { Media = Media.Screen });
        await page.Locator("[data-entity=keeper] a").ClickAsync();
        await page.Locator(".field-sheet").WaitForAsync();
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_changed_in_an_entity_is_read_talked_about_and_gone_back_from()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("data/entity/keeper", ".field-sheet");
        await page.GetByLabel("One record is called").FillAsync("Owner");
        await page.Keyboard.PressAsync("Tab");
        await Button(page, "History").ClickAsync();
        await Assertions.Expect(page.Locator(".document-history ol li").First).ToContainTextAsync("from ‘Keeper’ to ‘Owner’");
        await page.GetByRole(AriaRole.Button, new() { Name = "Back to how it was after this" }).First.ClickAsync();
        await Assertions.Expect(page.Locator(".document-history")).ToContainTextAsync("Everything here is published.");
        await page.Keyboard.PressAsync("Escape");
        await Assertions.Expect(page.GetByLabel("One record is called")).ToHaveValueAsync("Keeper");
        await Button(page, "Comments").ClickAsync();
        await page.Locator(".comments-pane textarea").FillAsync("Owner or keeper, @cleo?");
        await page.GetByRole(AriaRole.Button, new() { Name = "Add comment" }).ClickAsync();
        await Assertions.Expect(page.Locator(".talk-list")).ToContainTextAsync("Owner or keeper");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_field_nobody_has_yet_changes_its_type_and_a_unit_its_spelling()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await page.SetViewportSizeAsync(1440, 900);
        await ada.Go("data/entity/berth", ".field-sheet");
        await Button(page, "Add a field").ClickAsync();
        await page.GetByLabel("Label", new() { Exact = true }).FillAsync("Post height");
        await Button(page, "Add field").ClickAsync();
        var type = page.GetByLabel("Post height: Type");
        await type.SelectOptionAsync("decimal");
        await Assertions.Expect(type).ToHaveValueAsync("decimal");
        await Assertions.Expect(page.GetByLabel("Code: Type")).ToHaveCountAsync(0);
        await page.GetByText("Values", new() { Exact = true }).ClickAsync();
        await page.GetByLabel("Post height: Unit").FillAsync("M");
        await page.Keyboard.PressAsync("Tab");
        await Window.Eventually(async () =>
        {
            using var client = await service.As("ada");
            (await client.File("entity", "berth", Cancel)).Text.ShouldContain("unit: M");
        });

        await ada.Go("data/units", "tbody tr");
        await Assertions.Expect(page.GetByText("Written much like m", new() { Exact = true })).ToBeVisibleAsync();
        await Button(page, "M").ClickAsync();
        await page.GetByLabel("Written as").FillAsync("m");
        await Assertions.Expect(page.GetByText("There is a unit m already")).ToBeVisibleAsync();
        await Button(page, "Save").ClickAsync();
        await Assertions.Expect(Button(page, "M")).ToHaveCountAsync(0);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_template_is_made_of_layouts_and_begun_with()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("data/templates", ".template");
        await Button(page, "New template").ClickAsync();
        await page.GetByLabel("Name", new() { Exact = true }).FillAsync("Papers");
        await page.GetByLabel("What it is for").FillAsync("Things one signs.");
        await page.Locator(".dialog-choices label", new() { HasText = "vessel-short" }).GetByRole(AriaRole.Checkbox).CheckAsync();
        await Button(page, "Save").ClickAsync();
        await Assertions.Expect(page.Locator(".template", new() { HasText = "Papers" }).Locator("img")).ToHaveCountAsync(1);
        await ada.Go("layouts", "table, .layout-cards, .empty");
        await page.GetByRole(AriaRole.Button, new() { Name = "New layout" }).ClickAsync();
        await Assertions.Expect(page.GetByText("Set from Papers")).ToBeVisibleAsync();
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_application_is_seen_as_a_person_has_it_and_one_comes_back()
    {
        await using var service = await HostedService.WithDemo();
        await using var greta = await chromium.Open(service, "Greta Root");
        var page = greta.Page;
        await greta.Go("people", "tbody tr");
        await Button(page, "See as Bram Klaasen").ClickAsync();
        await Assertions.Expect(page.Locator(".viewing")).ToContainTextAsync("Bram Klaasen");
        await Assertions.Expect(page.Locator(".menu")).Not.ToContainTextAsync("Layouts");
        await greta.Go("records/vessel/1", ".bt-form");
        await Assertions.Expect(page.Locator(".viewing")).ToBeVisibleAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Back to yourself" }).Or(page.Locator(".viewing button")).First.ClickAsync();
        await Assertions.Expect(page.Locator(".menu-who")).ToContainTextAsync("Greta Root");
        await Assertions.Expect(page.Locator(".viewing")).ToHaveCountAsync(0);
    }

    [Fact]
    public async Task A_second_form_is_given_to_a_role_where_it_is_published_and_a_rule_can_be_of_any_kind()
    {
        await using var service = await HostedService.WithDemo();
        using var client = await service.As("ada");
        var layout = await client.CreateLayout(new Contracts.LayoutRequest("berth", "berth-two"), Cancel);
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go($"design/{layout.Key}", ".canvas");
        await page.GetByRole(AriaRole.Button, new() { Name = "Publish" }).First.ClickAsync();
        await page.Locator("dialog[open]").GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        var nobody = page.Locator(".receipt-unrouted");
        await nobody.GetByLabel("Quay hand").CheckAsync();
        await Button(page, "Give it to them").ClickAsync();
        await page.Locator("dialog[open]").GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await page.Locator(".receipt").WaitForAsync();
        await Assertions.Expect(page.Locator(".receipt-unrouted")).ToHaveCountAsync(0);
        (await client.File("routing", "routing", Cancel)).Text.ShouldContain("layout: berth-two");

        await ada.Go("application/routing", ".rule-line");
        await page.GetByLabel("Kind of rule 1").SelectOptionAsync("list");
        await Window.Eventually(async () => (await client.File("routing", "routing", Cancel)).Text.ShouldContain("form: list"));
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_table_is_taken_back_in_one_act_and_an_entity_archived_and_brought_back()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await page.SetViewportSizeAsync(1280, 800);
        await ada.Go("data/table", ".table-source");
        await page.Locator(".table-source textarea").First.FillAsync("Buoy,Depth\nNorth,12\nSouth,14\n");
        await page.GetByLabel("Several are called").Or(page.Locator(".sketch-names input").Nth(1)).First.FillAsync("Buoys");
        await page.Locator(".sketch-acts .primary").ClickAsync();
        await Assertions.Expect(page.Locator(".made-bar")).ToContainTextAsync("Buoys made: 2 records");
        await Button(page, "Undo all of it").ClickAsync();
        await Assertions.Expect(page.Locator(".made-bar")).ToContainTextAsync("archived again");
        await Button(page, "Close").ClickAsync();
        await Assertions.Expect(page.Locator(".menu")).Not.ToContainTextAsync("Buoys");

        // Back by hand, with its list and its records.
        await page.Locator("tr", new() { HasText = "archived" }).GetByRole(AriaRole.Link).First.ClickAsync();
        await Button(page, "Bring back").ClickAsync();
        await page.Locator("dialog[open]").GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await page.Locator(".receipt").WaitForAsync();
        await Button(page, "Done").ClickAsync();
        await ada.Go("data", "tbody tr");
        await page.Locator("tr", new() { HasText = "Buoys" }).GetByRole(AriaRole.Link, new() { Name = "Records" }).ClickAsync();
        await Assertions.Expect(page.Locator("main tbody tr")).ToHaveCountAsync(2);

        // What others point at stays, and it is said what does.
        await ada.Go("data/entity/berth", ".field-sheet");
        await Button(page, "Archive…").ClickAsync();
        await Button(page, "Archive").ClickAsync();
        await Assertions.Expect(page.Locator(".dialog-problem")).ToContainTextAsync("is in use and was not archived");
        ada.Complaints.Where(each => !each.Contains("409")).ShouldBeEmpty();
    }
}
