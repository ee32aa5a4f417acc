using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// Several people on one application, in Chromium: to some first and then to all, comments and approval, accounts, the audit log.
/// </summary>
public sealed class CompanyTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    private static async Task Retitle(RunningService service, string title)
    {
        using var ada = await service.As("ada");
        var draft = await ada.Layout("vessel", CancellationToken.None);
        await ada.Edit(
            "vessel",
            new(
                draft.Revision,
                System
                    .Text.Json.JsonDocument.Parse(
                        $$$"""[{"op":"set","node":"identity","property":"title","value":{"en":"{{{title}}}"} }]"""
                    )
                    .RootElement
            ),
            CancellationToken.None
        );
    }

    [Fact]
    public async Task A_form_goes_to_some_first_is_counted_as_it_is_drawn_and_then_to_everyone()
    {
        await using var service = await HostedService.WithDemo();
        await Retitle(service, "Who she is");
        await using var ada = await chromium.Open(service, "Ada Wader");
        await using var cleo = await chromium.Open(service, "Cleo Marsh");
        await cleo.Go("records/vessel/1");
        await ada.Go("design/vessel", ".canvas-layer");
        await Button(ada, "Publish…").ClickAsync();
        await ada.Page.GetByText("To everyone, now").ClickAsync();
        await ada.Page.GetByLabel("To some people first").CheckAsync();
        await Assertions.Expect(Button(ada, "Publish")).ToBeDisabledAsync();
        await ada.Page.GetByLabel("Harbour office").CheckAsync();
        await Button(ada, "Publish").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt h2")).ToHaveTextAsync("Release 2 is published to Harbour office");
        await Button(ada, "Done").ClickAsync();

        await ada.Go("records/vessel/1");
        await Assertions.Expect(ada.Page.Locator(".bt-form")).ToContainTextAsync("Who she is");
        await Assertions.Expect(cleo.Page.Locator(".bt-form")).Not.ToContainTextAsync("Who she is");

        await Button(ada, "Edit").ClickAsync();
        var name = ada.Page.GetByRole(AriaRole.Textbox, new() { Name = "Name", Exact = true });
        await name.FillAsync("");
        await Button(ada, "Save").ClickAsync();
        await Assertions.Expect(name).ToBeFocusedAsync();
        await ada.Go("releases/holders", ".rollout");
        await Assertions.Expect(ada.Page.Locator(".rollout tbody tr").First).ToContainTextAsync("01100");
        await Assertions.Expect(ada.Page.GetByRole(AriaRole.Row, new() { Name = "Cleo Marsh" })).ToContainTextAsync("everyone has it");
        await ada.Go("releases", ".releases li");
        var ahead = ada.Page.Locator(".releases li[data-state=staged]");
        await Assertions.Expect(ahead).ToContainTextAsync("Harbour office only");

        await Button(ada, "Promote to everyone").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".notice")).ToContainTextAsync("Release 2 is current");
        await Assertions.Expect(cleo.Page.Locator(".bt-form")).ToContainTextAsync("Who she is");
        await Assertions.Expect(ada.Page.Locator(".releases li[data-current]")).ToContainTextAsync("In use by 2 of 2 open browsers");
        (ada.Complaints, cleo.Complaints).ShouldSatisfyAllConditions(all => all.Item1.ShouldBeEmpty(), all => all.Item2.ShouldBeEmpty());
    }

    [Fact]
    public async Task Where_no_stream_comes_through_open_forms_follow_all_the_same()
    {
        await using var service = await HostedService.WithDemo();
        await Retitle(service, "Who she is");
        await using var bram = await chromium.Open(service, "Bram Klaasen");
        await bram.Page.Context.RouteAsync("**/api/events*", route => route.AbortAsync());
        await bram.Go("records/vessel/1");
        // Asked once, it knows what there is; asked again, that there is another.
        await bram.Page.WaitForResponseAsync(
            response => response.Url.EndsWith("/api/entities", StringComparison.Ordinal) && response.Status == 304,
            new() { Timeout = 30_000 }
        );
        using var ada = await service.As("ada");
        await ada.Publish(
            new([new("layout", "vessel", (await ada.Layout("vessel", CancellationToken.None)).Revision)]),
            CancellationToken.None
        );
        await Assertions.Expect(bram.Page.Locator(".bt-form")).ToContainTextAsync("Who she is", new() { Timeout = 15_000 });
    }

    [Fact]
    public async Task Drafts_of_several_kinds_are_approved_and_published_together_and_what_the_menu_does_not_lead_to_is_put_into_it()
    {
        await using var service = await HostedService.WithDemo();
        await Retitle(service, "Who she is");
        using (var client = await service.As("ada"))
        {
            var menu = await client.File("navigation", "navigation", CancellationToken.None);
            await client.PutFile(
                "navigation",
                "navigation",
                System.Text.RegularExpressions.Regex.Replace(menu.Text, @"      - key: vessels\n(        .*\n)+", ""),
                menu.Tag,
                CancellationToken.None
            );
        }

        await using var ada = await chromium.Open(service, "Ada Wader");
        await using var hanna = await chromium.Open(service, "Hanna Slip");
        await ada.Go("releases", ".ahead-drafts > li");
        await Assertions.Expect(ada.Page.Locator(".ahead-drafts .release-note")).ToHaveTextAsync(["layout vessel", "menu"]);
        await Assertions.Expect(Button(ada, "Approve")).ToHaveCountAsync(0);
        await hanna.Go("releases", ".ahead-drafts > li");
        await hanna
            .Page.Locator(".ahead-drafts > li", new() { HasText = "menu" })
            .GetByRole(AriaRole.Button, new() { Name = "Approve" })
            .ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".ahead-drafts .approved")).ToHaveTextAsync(["approved by Hanna Slip"]);

        await ada.Page.GetByLabel("All", new() { Exact = true }).CheckAsync();
        await Button(ada, "Publish these 2 together…").ClickAsync();
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt")).ToContainTextAsync("not in the menu yet");
        await Assertions.Expect(ada.Page.Locator(".menu")).Not.ToContainTextAsync("Vessels");
        await Button(ada, "Add it to the menu").ClickAsync();
        await Assertions.Expect(ada.Page.Locator("#publish-title")).ToHaveTextAsync("Publish the menu");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt h2")).ToHaveTextAsync("Release 3 is published");
        await Button(ada, "Done").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".menu")).ToContainTextAsync("Vessels");
        await Assertions.Expect(ada.Page.Locator(".ahead-drafts")).ToHaveCountAsync(0);
        (ada.Complaints, hanna.Complaints).ShouldSatisfyAllConditions(all => all.Item1.ShouldBeEmpty(), all => all.Item2.ShouldBeEmpty());
    }

    [Fact]
    public async Task Whoever_is_named_about_the_menu_is_led_to_what_was_said_and_answers_there()
    {
        await using var service = await HostedService.WithDemo();
        using (var client = await service.As("ada"))
        {
            await client.Comment("navigation", "navigation", new("Visitors on top, @hanna?"), CancellationToken.None);
        }

        await using var hanna = await chromium.Open(service, "Hanna Slip");
        await hanna.Go("", ".menu");
        await hanna.Page.GetByRole(AriaRole.Link, new() { Name = "Ada Wader: Visitors on top, @hanna?" }).ClickAsync();
        await Assertions.Expect(hanna.Page.Locator(".document-talk h2")).ToHaveTextAsync("About the menu");
        await hanna.Page.Locator(".document-talk textarea").FillAsync("After the vessels.");
        await Button(hanna, "Add comment").ClickAsync();
        await Assertions
            .Expect(hanna.Page.Locator(".document-talk .talk-text"))
            .ToHaveTextAsync(["Visitors on top, @hanna?", "After the vessels."]);
        await Button(hanna, "It is done").First.ClickAsync();
        await Assertions.Expect(hanna.Page.Locator(".document-talk .talk-text")).ToHaveTextAsync(["After the vessels."]);
        await hanna.Page.GetByRole(AriaRole.Link, new() { Name = "Close" }).ClickAsync();
        await Assertions.Expect(hanna.Page.Locator(".document-talk")).ToHaveCountAsync(0);
        hanna.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_form_goes_back_to_what_is_generated_and_that_can_be_undone()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/berth", ".canvas-layer");
        var before = await ada.Page.Locator(".canvas .bt-section").AllInnerTextsAsync();
        await ada.Page.Keyboard.PressAsync("Control+k");
        await ada.Page.Keyboard.TypeAsync("generated");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("1 change not published");
        await Window.Eventually(async () => (await ada.Page.Locator(".canvas .bt-section").AllInnerTextsAsync()).ShouldNotBe(before));
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Window.Eventually(async () => (await ada.Page.Locator(".canvas .bt-section").AllInnerTextsAsync()).ShouldBe(before));
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_release_set_for_a_time_is_listed_and_called_off()
    {
        await using var service = await HostedService.WithDemo();
        await Retitle(service, "Who she is");
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas-layer");
        await Button(ada, "Publish…").ClickAsync();
        await ada.Page.GetByText("To everyone, now").ClickAsync();
        await ada.Page.GetByLabel("At a scheduled time").CheckAsync();
        await ada
            .Page.GetByLabel("Publication time")
            .FillAsync(DateTime.Now.AddDays(2).ToString("yyyy-MM-ddTHH:mm", System.Globalization.CultureInfo.InvariantCulture));
        await Button(ada, "Schedule").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".receipt h2")).ToContainTextAsync("Scheduled for");
        await Button(ada, "Done").ClickAsync();
        await ada.Go("releases", ".releases li[data-state=scheduled]");
        await Button(ada, "Cancel release").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".releases li[data-state=scheduled]")).ToHaveCountAsync(0);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_reviewer_says_something_about_an_item_approves_and_changes_nothing()
    {
        await using var service = await HostedService.WithDemo();
        await Retitle(service, "Who she is");
        await using var ada = await chromium.Open(service, "Ada Wader");
        await using var hanna = await chromium.Open(service, "Hanna Slip");
        await hanna.Go("design/vessel", ".canvas-layer");
        await ada.Go("design/vessel", ".canvas-layer");
        var name = (await hanna.Page.Locator(".bt-form [data-field=name]").BoundingBoxAsync())!;
        await hanna.Page.Mouse.ClickAsync(name.X + 20, name.Y + 10);
        await hanna.Page.GetByRole(AriaRole.Button, new() { Name = "Comments" }).ClickAsync();
        await Assertions.Expect(hanna.Page.Locator(".comments-pane h2")).ToHaveTextAsync("About Name");
        await Assertions.Expect(hanna.Page.Locator(".changing")).ToContainTextAsync("You are looking at");
        await Assertions.Expect(hanna.Page.GetByLabel("Label", new() { Exact = true })).ToBeDisabledAsync();
        await Assertions.Expect(Button(hanna, "Remove")).ToHaveCountAsync(0);
        await hanna.Page.Locator(".comments-pane textarea").FillAsync("Should it be longer, @a");
        await hanna.Page.Locator(".talk-people button", new() { HasText = "Ada Wader" }).ClickAsync();
        await Button(hanna, "Add comment").ClickAsync();

        await Assertions.Expect(ada.Page.Locator(".mark-said > span")).ToHaveTextAsync("1");
        await ada.Page.Locator(".mark-said > span").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".comments-pane .talk-text")).ToContainTextAsync("Should it be longer, @ada");
        await Button(ada, "It is done").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".mark-said")).ToHaveCountAsync(0);

        await hanna.Page.Locator(".canvas-layer").FocusAsync();
        await hanna.Page.Keyboard.PressAsync("Delete");
        await Assertions.Expect(hanna.Page.Locator(".status")).ToContainTextAsync("You can view, comment on and approve this form");
        await Button(hanna, "Approve").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".approved")).ToHaveTextAsync("approved by Hanna Slip");
        (ada.Complaints, hanna.Complaints).ShouldSatisfyAllConditions(all => all.Item1.ShouldBeEmpty(), all => all.Item2.ShouldBeEmpty());
    }

    [Fact]
    public async Task A_bundle_is_made_at_one_place_looked_at_at_another_chosen_from_and_taken()
    {
        await using var here = await HostedService.WithDemo();
        await using var there = await HostedService.WithDemo();
        await Retitle(here, "Who she is");
        await Retitle(there, "Her papers");
        await using var ada = await chromium.Open(here, "Ada Wader");
        await using var greta = await chromium.Open(there, "Greta Root");

        await ada.Go("releases", ".releases li");
        await Button(ada, "Export a bundle…").ClickAsync();
        await ada.Page.GetByLabel("Find a document").FillAsync("layout vessel");
        await ada.Page.GetByLabel("layout vessel", new() { Exact = true }).CheckAsync();
        await ada.Page.GetByLabel("Export drafts instead").CheckAsync();
        var bundle = await ada.Page.RunAndWaitForDownloadAsync(() => Button(ada, "Export").ClickAsync());
        bundle.SuggestedFilename.ShouldBe("vessel.zip");

        await greta.Go("releases", ".releases li");
        await Button(greta, "Import a bundle…").ClickAsync();
        await greta.Page.GetByLabel("The archive").SetInputFilesAsync(await bundle.PathAsync());
        await Assertions.Expect(greta.Page.Locator(".bundle-from")).ToContainTextAsync("From Saltmarsh Quay, its drafts");
        var vessel = greta.Page.Locator(".bundle-list li", new() { HasText = "layout vessel" });
        var take = greta.Page.Locator("dialog button[type=submit]");
        await Assertions.Expect(vessel.Locator(".bundle-change")).ToHaveTextAsync("conflict");
        await vessel.Locator("summary").ClickAsync();
        await Assertions.Expect(vessel.Locator("details")).ToContainTextAsync("'title' of 'identity' was set to two values.");
        await Assertions.Expect(take).ToBeDisabledAsync();

        // Under another key it is in nobody's way.
        await greta.Page.GetByLabel("Key here of the layout vessel").FillAsync("vesselElsewhere");
        await Assertions.Expect(vessel.Locator(".bundle-change")).ToHaveTextAsync("new");
        await greta.Page.GetByLabel("Key here of the layout vessel").FillAsync("");
        await greta.Page.GetByLabel("On conflict, use").SelectOptionAsync("mine");
        await Assertions.Expect(vessel.Locator(".bundle-change")).ToHaveTextAsync("merged");
        await vessel.Locator("input[type=checkbox]").UncheckAsync();
        await Assertions.Expect(take).ToHaveTextAsync("Nothing differs");
        await vessel.Locator("input[type=checkbox]").CheckAsync();
        await take.ClickAsync();
        await Assertions.Expect(greta.Page.Locator(".notice")).ToHaveTextAsync("Imported from Saltmarsh Quay into drafts: layout vessel.");
        await Assertions.Expect(greta.Page.Locator(".ahead-drafts li")).ToContainTextAsync("layout vessel");
        await greta.Go("design/vessel", ".canvas .bt-field");
        await Assertions.Expect(greta.Page.Locator(".canvas")).ToContainTextAsync("Who she is");

        // The way back is in the form's history.
        await greta.Page.GetByRole(AriaRole.Button, new() { Name = "Changes" }).ClickAsync();
        await Assertions.Expect(greta.Page.Locator(".changes ol")).ToContainTextAsync("Imported from a bundle of Saltmarsh Quay");
        await Button(greta, "Restore").First.ClickAsync();
        await Assertions.Expect(greta.Page.Locator(".canvas")).ToContainTextAsync("Her papers");
        (ada.Complaints, greta.Complaints).ShouldSatisfyAllConditions(all => all.Item1.ShouldBeEmpty(), all => all.Item2.ShouldBeEmpty());
    }

    [Fact]
    public async Task An_administrator_makes_a_person_who_chooses_her_own_password_and_makes_a_token()
    {
        await using var service = await HostedService.WithDemo();
        await using (var greta = await chromium.Open(service, "Greta Root"))
        {
            await greta.Go("people", ".table tbody tr");
            await Button(greta, "New person…").ClickAsync();
            await greta.Page.GetByLabel("User name").FillAsync("joris");
            await greta.Page.GetByLabel("Name", new() { Exact = true }).FillAsync("Joris Tiller");
            await greta.Page.GetByLabel("Harbour office").CheckAsync();
            await greta.Page.GetByLabel("First password").FillAsync("eleven herons over the quay");
            await Button(greta, "Save").ClickAsync();
            await Assertions.Expect(greta.Page.Locator(".notice")).ToContainTextAsync("Joris Tiller is kept");
            await greta.Go("audit", ".audit tbody tr");
            await greta.Page.GetByLabel("Containing").FillAsync("Joris");
            await Assertions.Expect(greta.Page.Locator(".audit tbody tr").First).ToContainTextAsync("person.made");
            await Button(greta, "Verify log").ClickAsync();
            await Assertions.Expect(greta.Page.Locator(".notice")).ToContainTextAsync("none was altered");
            greta.Complaints.ShouldBeEmpty();
        }

        // The same data without the list one picks from: one signs in.
        await service.Kill();
        await service.Restart("--PickPeople", "false");
        var page = await (await chromium.Browser.NewContextAsync(new() { BaseURL = service.Address.ToString() })).NewPageAsync();
        await page.GotoAsync("/");
        await page.GetByLabel("User name").FillAsync("joris");
        await page.GetByLabel("Password", new() { Exact = true }).FillAsync("eleven herons over the quay");
        await page.GetByRole(AriaRole.Button, new() { Name = "Sign in", Exact = true }).ClickAsync();
        await page.GetByLabel("New password").FillAsync("twelve terns upon the jetty");
        await page.GetByRole(AriaRole.Button, new() { Name = "Sign in", Exact = true }).ClickAsync();
        await page.Locator(".menu-who").ClickAsync();
        await page.GetByLabel("Purpose").FillAsync("pipeline");
        await page.GetByLabel("publish").CheckAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Create token" }).ClickAsync();
        await Assertions.Expect(page.Locator(".secret")).ToContainTextAsync("bt_");
        await Assertions.Expect(page.Locator("td[data-label='Permissions']")).ToHaveTextAsync("publish");
    }
}
