using System.Text.RegularExpressions;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>From a service with nothing in it to an application with records, on screen and without a file of ours.</summary>
public sealed class FirstStartTests(Chromium chromium)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Whoever_starts_a_new_service_has_forms_list_and_records_of_her_own_table()
    {
        await using var service = await HostedService.Empty();
        await using var ada = await chromium.OpenForNobody(service);
        var page = ada.Page;
        await page.GetByLabel("Code").FillAsync(Regex.Match(service.Output, "bt_[A-Za-z0-9_-]+").Value);
        await page.GetByLabel("Your name").FillAsync("Ada Wader");
        await page.GetByLabel("Password").FillAsync("tide tables and rope");
        await page.GetByLabel("What it is called").FillAsync("Saltmarsh Quay");
        await page.GetByRole(AriaRole.Button, new() { Name = "Set up" }).ClickAsync();

        await page.GetByRole(AriaRole.Link, new() { Name = "New entity" }).ClickAsync();
        await page.GetByLabel("or paste the table here")
            .FillAsync("Name;Depth;State\nLong Pool;2,4 m;open\nMud Reach;1,8 m;closed\nOld Quay;3,2 m;shut tight\n");
        await page.GetByLabel("One record is called").FillAsync("Mooring");
        await page.GetByLabel("Several are called").FillAsync("Moorings");
        await page.GetByLabel("State: Type").SelectOptionAsync("choice");
        await page.GetByRole(AriaRole.Button, new() { Name = "Create Moorings with 3 records" }).ClickAsync();
        await page.WaitForURLAsync("**/records/mooring");
        await Assertions.Expect(page.Locator(".table tbody tr")).ToHaveCountAsync(3);

        await page.GetByRole(AriaRole.Cell, new() { Name = "Mud Reach", Exact = true }).ClickAsync();
        await Assertions.Expect(page.Locator("main")).ToContainTextAsync("1.8 m");
        ada.Complaints.ShouldBeEmpty();

        // A second person has it at once.
        using var client = new BrightTierClient(service.Address, null);
        await client.SignIn(new SignIn("ada-wader", Password: "tide tables and rope"), new TokenRequest("test"), Cancel);
        await client.PutPerson("bram", new PersonRequest("Bram Klaasen", ["user"], "en"), Cancel);
        await client.SetPassword("bram", "mooring lines and knots", Cancel);
        using var bram = new BrightTierClient(service.Address, null);
        await bram.SignIn(
            new SignIn("bram", Password: "mooring lines and knots", NewPassword: "bowline, clove hitch"),
            new TokenRequest("test"),
            Cancel
        );
        (await bram.Form("mooring", "edit", Cancel)).GetProperty("layout").GetString().ShouldBe("mooring");
    }

    [Fact]
    public async Task The_example_is_opened_in_an_empty_service_and_in_no_other()
    {
        await using var service = await HostedService.Empty();
        await using var ada = await chromium.OpenForNobody(service);
        var hers = await SetUp(ada, service, "Gull Point");
        await hers.Press("Open the example");
        await Assertions.Expect(ada.Page.Locator(".table tbody tr").First).ToBeVisibleAsync();
        await Assertions.Expect(ada.Page.Locator(".menu")).ToContainTextAsync("Gull Point");
        await Assertions.Expect(ada.Page.Locator(".menu")).ToContainTextAsync("Mooring agreements");
        using var client = new BrightTierClient(service.Address, null);
        await client.SignIn(new SignIn("ada-wader", Password: "tide tables and rope"), new TokenRequest("test"), Cancel);
        (await client.Layouts(Cancel)).ShouldAllBe(layout => layout.Errors == 0);
        (await Should.ThrowAsync<RefusedException>(() => client.OpenExample(Cancel))).Problem.Code.ShouldBe("example-taken");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_application_of_two_entities_with_a_role_that_may_not_see_a_field_is_used_by_another_within_sixty_actions()
    {
        await using var service = await HostedService.Empty();
        await using var ada = await chromium.OpenForNobody(service);
        var hers = await SetUp(ada, service, "Saltmarsh Quay");

        var moorings = string.Join('\n', Enumerable.Range(1, 10).Select(i => $"Pool {i};{i},4 m;{(i % 3 == 0 ? "closed" : "open")}"));
        await Bring(hers, "Name;Depth;State\n" + moorings, "Mooring", "Moorings", 10);
        await hers.Go("Data");
        var wardens = "Warden;Mooring;Pay\nJoris Tiller;Pool 1;12,50\nWim Bolder;Pool 2;14,25\nAnna Dijk;Pool 4;13,75\n";
        await Bring(hers, wardens, "Warden", "Wardens", 3);

        // Who looks at wardens and not at what they are paid.
        await hers.Go("Application");
        await hers.Go("Roles");
        await hers.Fill("Name of a new role", "Visitor");
        await hers.Press("Add a role");
        await Publish(hers);
        await hers.Go("Data");
        await hers.Go("Wardens", within: ".table");
        await hers.Click(ada.Page.Locator(".segments label", new() { HasText = "Who" }));
        await hers.Choose("Pay: Visitor", "none");
        await Publish(hers);
        await hers.Go("People");
        await hers.Press("New person…");
        await hers.Fill("User name", "bram");
        await hers.Fill("Name", "Bram Klaasen");
        await hers.Click(ada.Page.Locator(".ticks label", new() { HasText = "Visitor" }));
        await hers.Fill("First password", "mooring lines and knots");
        await hers.Press("Save");
        await Assertions.Expect(ada.Page.Locator("main")).ToContainTextAsync("Bram Klaasen is kept.");

        await using var bram = await chromium.OpenForNobody(service);
        var his = new ActionCount(bram.Page);
        await his.Fill("User name, such as ada", "bram");
        await his.Fill("Password", "mooring lines and knots");
        await his.Press("Sign in");
        await his.Fill("New password, at least 12 characters", "bowline and clove hitch");
        await his.Press("Sign in");
        await his.Go("Wardens");
        await his.Click(bram.Page.GetByRole(AriaRole.Link, new() { Name = "Wim Bolder" }));
        await Assertions.Expect(bram.Page.Locator(".bt-form")).ToContainTextAsync("Pool 2");
        await Assertions.Expect(bram.Page.Locator(".bt-form")).Not.ToContainTextAsync("Pay");
        await Assertions.Expect(bram.Page.Locator(".bt-form")).Not.ToContainTextAsync("14.25");

        TestContext.Current.TestOutputHelper?.WriteLine($"{hers.Actions} actions of hers, {his.Actions} of his");
        (hers.Actions + his.Actions).ShouldBeLessThanOrEqualTo(60);
        ada.Complaints.ShouldBeEmpty();
        bram.Complaints.ShouldBeEmpty();
    }

    private static async Task<ActionCount> SetUp(Window ada, HostedService service, string title)
    {
        var hers = new ActionCount(ada.Page);
        await hers.Fill("Code", Regex.Match(service.Output, "bt_[A-Za-z0-9_-]+").Value);
        await hers.Fill("Your name", "Ada Wader");
        await hers.Fill("Password", "tide tables and rope");
        await hers.Fill("What it is called", title);
        await hers.Press("Set up");
        return hers;
    }

    private static async Task Bring(ActionCount hands, string table, string label, string plural, int records)
    {
        await hands.Go("New entity");
        await hands.Fill("or paste the table here", table);
        await hands.Fill("One record is called", label);
        await hands.Fill("Several are called", plural);
        await hands.Press($"Create {plural} with {records} records");
        await hands.Page.WaitForURLAsync($"**/records/{label.ToLowerInvariant()}");
        await Assertions.Expect(hands.Page.Locator(".table tbody tr")).ToHaveCountAsync(records);
    }

    private static async Task Publish(ActionCount hands)
    {
        await hands.Press("Publish…");
        await hands.Press("Publish");
        await hands.Press("Done");
    }

    /// <summary>What somebody does on a page: a press, a choice, or one run of typing is an action.</summary>
    private sealed class ActionCount(IPage page)
    {
        public IPage Page => page;

        public int Actions { get; private set; }

        public Task Fill(string label, string text) => Count(page.GetByLabel(label, new() { Exact = label.Length < 20 }).FillAsync(text));

        public Task Choose(string label, string value) => Count(page.GetByLabel(label).SelectOptionAsync(value));

        public Task Press(string button) => Click(page.GetByRole(AriaRole.Button, new() { Name = button, Exact = true }));

        public Task Go(string link, string within = "body") =>
            Click(page.Locator(within).GetByRole(AriaRole.Link, new() { Name = link, Exact = true }).First);

        public Task Click(ILocator what) => Count(what.ClickAsync());

        private Task Count(Task act)
        {
            Actions++;
            return act;
        }
    }
}
