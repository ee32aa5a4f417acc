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
        await Assertions.Expect(page.Locator(".table tbody tr")).ToHaveCountAsync(3);

        await page.GetByRole(AriaRole.Cell, new() { Name = "Mud Reach" }).ClickAsync();
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
}
