using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Entities and their fields, changed where they stand and published.</summary>
public sealed class DataTests(Chromium chromium)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Fields_are_renamed_explained_retired_and_brought_back_and_everybody_has_that_when_it_is_published()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("data", ".table a");
        await page.Locator("main").GetByRole(AriaRole.Link, new() { Name = "Berths" }).ClickAsync();
        await page.GetByLabel("Pontoon: Field").FillAsync("Jetty");
        await page.GetByLabel("Pontoon: Field").PressAsync("Enter");
        await page.GetByLabel("Code: Help").FillAsync("Painted on the pile");
        await page.GetByLabel("Code: Help").PressAsync("Enter");
        var rate = page.Locator("tr", new() { Has = page.GetByLabel("Day rate: Field") });
        await rate.GetByRole(AriaRole.Button, new() { Name = "Uses" }).ClickAsync();
        await Assertions.Expect(rate.Locator(".field-uses li").First).ToBeVisibleAsync();
        await rate.GetByRole(AriaRole.Button, new() { Name = "Retire" }).ClickAsync();
        await rate.GetByRole(AriaRole.Button, new() { Name = "Bring back" }).ClickAsync();
        await Assertions.Expect(rate.GetByRole(AriaRole.Button, new() { Name = "Retire" })).ToBeVisibleAsync();

        await page.GetByRole(AriaRole.Button, new() { Name = "Publish…" }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await page.GetByText("Release 2").First.WaitForAsync();
        using var client = await service.As("ada");
        var berth = await client.Entity("berth", Cancel);
        berth.Fields.Select(field => field.Label).Take(2).ShouldBe(["Code", "Jetty"]);
        (await client.Form("berth", "edit", Cancel)).GetRawText().ShouldContain("Painted on the pile");
        berth.Fields.ShouldAllBe(field => !field.Retired);

        await ada.Go("data/entity/nowhere", ".notice");
        await Assertions.Expect(page.Locator("main")).ToContainTextAsync("There is no entity nowhere.");
        await Assertions.Expect(page.Locator(".sketch")).ToHaveCountAsync(0);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_role_is_made_and_told_what_it_sees_of_which_fields()
    {
        await using var service = await HostedService.WithDemo();
        await using var greta = await chromium.Open(service, "Greta Root");
        var page = greta.Page;
        async Task Publish(string released)
        {
            await page.GetByRole(AriaRole.Button, new() { Name = "Publish…" }).ClickAsync();
            await page.GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
            await page.GetByText(released).First.WaitForAsync();
            await page.GetByRole(AriaRole.Button, new() { Name = "Done" }).ClickAsync();
        }

        await greta.Go("application/roles", ".roles tbody tr");
        await page.GetByLabel("Name of a new role").FillAsync("Berth warden");
        await page.GetByLabel("Name of a new role").PressAsync("Enter");
        await page.GetByLabel("Berth warden: Changes records").CheckAsync();
        await Assertions.Expect(page.GetByLabel("Berth warden: Reads records")).ToBeCheckedAsync();
        await Publish("Release 2");

        using var admin = await service.As("greta");
        await admin.PutPerson("joris", new PersonRequest("Joris Tiller", ["berth-warden"], "en"), Cancel);

        // Two fields at once; another by itself.
        await greta.Go("data/entity/berth", ".field-sheet tbody tr");
        await page.GetByText("Who", new() { Exact = true }).ClickAsync();
        await page.GetByLabel("Select Longest vessel").CheckAsync();
        await page.GetByLabel("Select Deepest draught").CheckAsync();
        await Assertions.Expect(page.GetByText("2 fields selected")).ToBeVisibleAsync();
        await page.GetByLabel("Longest vessel: Berth warden").SelectOptionAsync("none");
        await Assertions.Expect(page.GetByLabel("Deepest draught: Berth warden")).ToHaveValueAsync("none");
        await page.GetByLabel("Code: Berth warden").SelectOptionAsync("read");
        await Assertions.Expect(page.GetByLabel("Code: Harbour master")).ToHaveValueAsync("write");
        await Publish("Release 3");

        using var joris = await service.As("joris");
        var seen = (await joris.Entity("berth", Cancel)).Fields;
        seen.Select(field => field.Key).ShouldNotContain("maxLength");
        seen.Select(field => field.Key).ShouldNotContain("maxDraught");
        seen.Single(field => field.Key == "code").Writable.ShouldBeFalse();
        greta.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_sheet_of_fields_is_written_in_by_keys_and_put_in_order()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        var keys = page.Keyboard;
        await ada.Go("data/entity/berth", ".field-sheet tbody tr");
        Task<string[]> Order() =>
            page.EvaluateAsync<string[]>("() => [...document.querySelectorAll('.field-sheet tbody tr')].map(line => line.dataset.field)");
        var before = await Order();
        await page.GetByLabel($"Move Pontoon").FocusAsync();
        await keys.PressAsync("ArrowUp");
        await Window.Eventually(async () => (await Order()).Take(2).ShouldBe([before[1], before[0]]));
        await Assertions.Expect(page.GetByLabel("Move Pontoon")).ToBeFocusedAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Undo" }).ClickAsync();
        await Window.Eventually(async () => (await Order()).ShouldBe(before));

        await page.GetByText("Languages", new() { Exact = true }).ClickAsync();
        await page.GetByLabel("Code: nl").FillAsync("Kenmerk");
        await keys.PressAsync("Enter");
        await Assertions.Expect(page.GetByLabel("Pontoon: nl")).ToBeFocusedAsync();
        await page.GetByText("Values", new() { Exact = true }).ClickAsync();
        await page.GetByLabel("Code: Longest").FillAsync("8");
        await keys.PressAsync("Tab");
        // What cannot be is refused with the reason, and what was written stands.
        await page.GetByLabel("Deepest draught: Least").FillAsync("40");
        await keys.PressAsync("Tab");
        await page.GetByLabel("Deepest draught: Most").FillAsync("3");
        await keys.PressAsync("Tab");
        await Assertions.Expect(page.Locator("[role=alert]").First).ToContainTextAsync("'min' is larger than 'max'");
        await page.GetByLabel("Deepest draught: Least").FillAsync("1");
        await keys.PressAsync("Tab");
        await Assertions.Expect(page.Locator("[role=alert]")).ToHaveCountAsync(0);
        using var client = await service.As("ada");
        var text = (await client.File("entity", "berth", Cancel)).Text;
        text.ShouldContain("nl: Kenmerk");
        text.ShouldContain("maxLength: 8");
        text.ShouldContain("max: 3");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Fields_are_added_several_at_once_from_lines()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("data/entity/berth", ".field-sheet tbody tr");
        await page.GetByRole(AriaRole.Button, new() { Name = "Add several" }).ClickAsync();
        var lines = page.GetByLabel("Fields, one a line");
        await lines.FillAsync("Label, type\nMooring number, wibble");
        await Assertions.Expect(page.Locator(".field-wishes")).ToContainTextAsync("there is no type wibble");
        await Assertions.Expect(page.GetByRole(AriaRole.Button, new() { Name = "Add 1 field" })).ToBeDisabledAsync();
        await lines.FillAsync("Mooring number, integer\nState, good | worn\nWarden, Keepers");
        await page.GetByRole(AriaRole.Button, new() { Name = "Add 3 fields" }).ClickAsync();
        await Assertions.Expect(page.GetByLabel("Warden: Field")).ToBeVisibleAsync();
        using var client = await service.As("ada");
        var text = (await client.File("entity", "berth", Cancel)).Text;
        text.ShouldContain("key: mooringNumber");
        text.ShouldContain("target: keeper");
        (await client.File("choice-list", "state", Cancel)).Text.ShouldContain("worn");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_pattern_is_written_with_samples_that_try_it_and_taken_by_a_field()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        ILocator Button(string name) => page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });
        await ada.Go("data/patterns", ".table tbody tr");
        await Assertions.Expect(page.Locator(".table")).ToContainTextAsync("'Code' of 'Berth' has it");
        await Button("New pattern").ClickAsync();
        await page.GetByLabel("Name", new() { Exact = true }).FillAsync("Pontoon name");
        await page.GetByLabel("Must look like").FillAsync("[A-Z");
        await Assertions.Expect(page.Locator("dialog")).ToContainTextAsync("The pattern");
        await Assertions.Expect(Button("Save")).ToBeDisabledAsync();
        await page.GetByLabel("Must look like").FillAsync("[A-Z][a-z ]+");
        await page.GetByLabel("Must match, one a line").FillAsync("Middle pontoon\nwest");
        await Assertions.Expect(page.Locator(".samples")).ToContainTextAsync("does not match");
        await page.GetByLabel("Must match, one a line").FillAsync("Middle pontoon");
        await page.GetByLabel("Must not match, one a line").FillAsync("west");
        await Assertions.Expect(page.Locator(".samples [data-good]")).ToHaveCountAsync(2);
        await Button("Save").ClickAsync();
        await Assertions.Expect(page.Locator("tr", new() { HasText = "Pontoon name" })).ToContainTextAsync("not published");

        await ada.Go("data/entity/berth", ".field-sheet tbody tr");
        await page.GetByText("Values", new() { Exact = true }).ClickAsync();
        await page.GetByLabel("Pontoon: Shared pattern").SelectOptionAsync("Pontoon name");
        using var client = await service.As("ada");
        await Window.Eventually(async () => (await client.File("entity", "berth", Cancel)).Text.ShouldContain("uses: pontoonName"));
        (await client.File("pattern", "pontoonName", Cancel)).Text.ShouldContain("fail: [west]");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Choice_lists_are_begun_changed_and_published_and_taken_by_a_field()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        ILocator Button(string name) => page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });
        await ada.Go("data", ".table a");
        await page.GetByRole(AriaRole.Link, new() { Name = "Choice lists" }).ClickAsync();
        await Button("New choice list").ClickAsync();
        await page.GetByLabel("List", new() { Exact = true }).FillAsync("Mooring lines");
        await page.GetByLabel("Choices, one per line").FillAsync("Rope\n\nChain\nRope\n");
        await Button("Create").ClickAsync();
        var line = page.Locator("tr", new() { HasText = "mooringLines" });
        await Assertions.Expect(line).ToContainTextAsync("Rope, Chain");
        await Button("Mooring lines").ClickAsync();
        await page.GetByLabel("Choice 2 in Dutch").FillAsync("Ketting");
        await Button("Save choices").ClickAsync();
        await Button("Publish…").ClickAsync();
        await Button("Publish").ClickAsync();
        await page.GetByText("Release 2").First.WaitForAsync();
        await Button("Done").ClickAsync();
        await Assertions.Expect(line).ToContainTextAsync("published");

        await ada.Go("data/entity/berth", ".field-sheet tbody tr");
        await page.GetByText("Values", new() { Exact = true }).ClickAsync();
        await page.GetByLabel("Zone: Choices").SelectOptionAsync("Mooring lines");
        using var client = await service.As("ada");
        await Window.Eventually(async () => (await client.File("entity", "berth", Cancel)).Text.ShouldContain("choices: mooringLines"));
        (await client.File("choice-list", "mooringLines", Cancel)).Text.ShouldContain("nl: Ketting");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_layout_is_archived_from_the_list_brought_back_and_refused_while_it_is_used()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("layouts", ".table a");
        await page.GetByRole(AriaRole.Button, new() { Name = "Archive Lift-out" }).ClickAsync();
        await Assertions.Expect(page.GetByRole(AriaRole.Link, new() { Name = "Lift-out", Exact = true })).ToHaveCountAsync(0);
        await page.GetByLabel("State").SelectOptionAsync("archived");
        await page.GetByRole(AriaRole.Button, new() { Name = "Bring Lift-out back" }).ClickAsync();
        await page.GetByText("Lift-out is back.").WaitForAsync();
        await page.GetByLabel("State").SelectOptionAsync("any");
        await page.GetByRole(AriaRole.Button, new() { Name = "Archive Vessel for the yard" }).ClickAsync();
        await page.GetByText("'Vessel for the yard' is in use and was not archived.").WaitForAsync();
        ada.Complaints.ShouldBeEmpty();
    }
}
