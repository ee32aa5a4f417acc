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
