using System.Collections.Concurrent;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>A day's work of the people of the demo, as they do it.</summary>
public sealed class DayTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    [Fact]
    public async Task The_yard_foreman_writes_up_a_lift_out_with_its_work_and_asks_the_harbour_master()
    {
        await using var service = await HostedService.WithDemo();
        await using var dirk = await chromium.Open(service, "Dirk Hoist");
        await dirk.Go("", ".menu");
        await dirk.Page.GetByRole(AriaRole.Link, new() { Name = "Lift-outs" }).First.ClickAsync();
        await dirk.Page.GetByRole(AriaRole.Link, new() { Name = "Grey Plover" }).ClickAsync();
        await Button(dirk, "Edit").ClickAsync();
        // The button is gone; the next Tab leads into the form, not to the beginning of the page.
        await Assertions.Expect(dirk.Page.Locator(".record-form")).ToBeFocusedAsync();

        // From the last line on with the keyboard: down makes a line.
        var lines = dirk.Page.Locator(".bt-grid tbody tr");
        await Assertions.Expect(lines).ToHaveCountAsync(2);
        await lines.Nth(1).GetByRole(AriaRole.Textbox, new() { Name = "Task" }).FocusAsync();
        await dirk.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(lines).ToHaveCountAsync(3);
        await Assertions.Expect(lines.Nth(2).GetByRole(AriaRole.Textbox, new() { Name = "Task" })).ToBeFocusedAsync();
        await dirk.Page.Keyboard.TypeAsync("Antifouling");
        await dirk.Page.Keyboard.PressAsync("Tab");
        await dirk.Page.Keyboard.TypeAsync("700");
        await Button(dirk, "Save").ClickAsync();
        await Assertions.Expect(lines.Nth(2)).ToContainTextAsync("Hours must be at most 500");
        await lines.Nth(2).GetByRole(AriaRole.Textbox, new() { Name = "Hours" }).FillAsync("6.5");
        await Assertions.Expect(dirk.Page.Locator(".bt-grid tfoot")).ToContainTextAsync("10.5");
        await lines.Nth(0).GetByRole(AriaRole.Button, new() { Name = "Remove row 1" }).ClickAsync();
        await Button(dirk, "Save").ClickAsync();
        await Assertions.Expect(dirk.Page.Locator(".notice")).ToContainTextAsync("Saved.");

        using var client = await service.As("dirk");
        (await client.Records("workLine", null, "task", "record.liftOut == 1", null, 50, CancellationToken.None))
            .Records.Select(line => line.Title)
            .ShouldBe(["Antifouling", "Wash and inspect hull"]);

        await Button(dirk, "Cancel").ClickAsync();
        await dirk.Page.GetByRole(AriaRole.Textbox, new() { Name = "Write a comment" }).FillAsync("Which sling, @cle");
        await Button(dirk, "Cleo Marsh").ClickAsync();
        await Button(dirk, "Add comment").ClickAsync();
        await Assertions.Expect(dirk.Page.Locator(".talk-list")).ToContainTextAsync("Which sling, @cleo");

        await using var cleo = await chromium.Open(service, "Cleo Marsh");
        await cleo.Go("", ".menu");
        await cleo.Page.GetByRole(AriaRole.Link, new() { Name = "Dirk Hoist: Which sling, @cleo" }).ClickAsync();
        await Assertions.Expect(cleo.Page.Locator(".talk-list")).ToContainTextAsync("Which sling");
        await Assertions.Expect(cleo.Page.Locator(".menu .count")).ToHaveCountAsync(0);
        dirk.Complaints.Concat(cleo.Complaints).ShouldBeEmpty();
    }

    [Fact]
    public async Task The_office_makes_an_agreement_step_by_step_for_a_vessel_nobody_had_entered()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/agreement/new");
        await Button(ada, "Next").ClickAsync();
        // A guarded step lets on only when it is right.
        await Assertions.Expect(ada.Field("number").Locator(".bt-error")).ToBeVisibleAsync();
        await ada.Control("number").FillAsync("M-2026-099");
        await ada.Control("status").SelectOptionAsync("draft");

        await ada.Control("vessel").FillAsync("Phalarope");
        await Button(ada, "Make a new one").ClickAsync();
        var beside = ada.Page.GetByRole(AriaRole.Dialog);
        await Assertions.Expect(beside.Locator("[data-field=name] input")).ToBeFocusedAsync();
        await beside.Locator("[data-field=name] input").FillAsync("Phalarope");
        await beside.Locator("[data-field=registration] input").FillAsync("SQ-0999");
        await beside.GetByLabel("Single hull").CheckAsync();
        await beside.Locator("[data-field=propulsion] select").SelectOptionAsync("sail");
        await beside.Locator("[data-field=length] input").FillAsync("8.4");
        await beside.GetByRole(AriaRole.Button, new() { Name = "Save" }).ClickAsync();
        await Assertions.Expect(ada.Control("vessel")).ToHaveValueAsync("Phalarope, SQ-0999");

        await ada.Control("berth").FillAsync("A1");
        await ada.Page.GetByRole(AriaRole.Option, new() { Name = "A1" }).ClickAsync();
        await Button(ada, "Next").ClickAsync();
        // The day rate came with the berth.
        await Assertions.Expect(ada.Control("dayRate")).ToHaveValueAsync("28.50");
        await ada.Control("from").FillAsync("2027-04-01");
        await ada.Control("to").FillAsync("2027-10-01");
        await Button(ada, "Save").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".bt-band-text").First).ToContainTextAsync("M-2026-099");
        await Assertions.Expect(Button(ada, "Edit")).ToBeVisibleAsync();
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_quay_hand_writes_an_inspection_on_his_phone_and_no_money_comes_near_him()
    {
        await using var service = await HostedService.WithDemo();
        await using var bram = await chromium.Open(service, "Bram Klaasen", width: 390);
        // Reading is begun at once and waited for while the page stands: a handler that waits by itself could outlive its page.
        // Everything the service answers, the pages themselves included: what a page carries is data too.
        var answers = new ConcurrentQueue<string>();
        await bram.Page.RouteAsync(
            url => !url.Contains("/api/events", StringComparison.Ordinal) && !url.Contains("/assets/", StringComparison.Ordinal),
            async route =>
            {
                try
                {
                    var answer = await route.FetchAsync();
                    answers.Enqueue(await answer.TextAsync());
                    await route.FulfillAsync(new() { Response = answer });
                }
                catch (PlaywrightException)
                {
                    // Its page has gone meanwhile, and nobody saw the answer.
                }
            }
        );
        await bram.Go("records/vessel", ".card");
        await bram.Go("records/berth/1");
        await bram.Go("records/inspection/new");
        await bram.Control("berth").FillAsync("B1");
        await bram.Page.GetByRole(AriaRole.Option).First.ClickAsync();
        await bram.Control("inspectedOn").FillAsync("2026-11-20");
        await Button(bram, "Opslaan").ClickAsync();
        await Assertions.Expect(Button(bram, "Bewerken")).ToBeVisibleAsync();
        (await bram.Page.EvaluateAsync<bool>("() => document.documentElement.scrollWidth <= innerWidth")).ShouldBeTrue();

        answers.Count(body => body.Contains("data-answers", StringComparison.Ordinal)).ShouldBeGreaterThan(2);
        answers.Count.ShouldBeGreaterThan(8);
        answers.ShouldAllBe(body => !body.Contains("dayRate") && !body.Contains("coverSum") && !body.Contains("deposit"));
        bram.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_bookkeeper_sees_the_money_and_finds_a_record_from_the_beginning()
    {
        await using var service = await HostedService.WithDemo();
        await using var esme = await chromium.Open(service, "Esme Ledger");
        await esme.Go("", ".menu");
        await esme.Page.GetByRole(AriaRole.Searchbox).FillAsync("north pontoon");
        await esme.Page.GetByRole(AriaRole.Link, new() { Name = "A1, North pontoon" }).ClickAsync();
        await Assertions.Expect(esme.Field("dayRate")).ToContainTextAsync("28.50");
        await esme.Page.GetByRole(AriaRole.Link, new() { Name = "Saltmarsh Quay" }).ClickAsync();
        await Assertions.Expect(esme.Page.Locator(".home-list").First).ToContainTextAsync("A1, North pontoon");
    }
}
