using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Several records at once: chosen in a list, or as rows of the record they hang on.</summary>
public sealed class TogetherTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    [Fact]
    public async Task Records_chosen_in_a_list_are_changed_together_with_the_short_form()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel", ".table tbody tr");
        var boxes = ada.Page.Locator(".table tbody .table-choice input");
        await boxes.Nth(0).CheckAsync();
        await boxes.Nth(1).CheckAsync();
        await Button(ada, "Change 2 records").ClickAsync();
        await Button(ada, "Change all").ClickAsync();
        await Assertions.Expect(ada.Page.GetByRole(AriaRole.Alert)).ToContainTextAsync("Enter a value");
        await ada.Page.Locator("dialog [data-field=length] input").FillAsync("400");
        await Button(ada, "Change all").ClickAsync();
        await Assertions.Expect(ada.Page.GetByRole(AriaRole.Alert)).ToContainTextAsync("Nothing was changed");
        await ada.Page.Locator("dialog [data-field=length] input").FillAsync("9.9");
        await Button(ada, "Change all").ClickAsync();
        await Assertions.Expect(ada.Page.Locator("dialog")).ToHaveCountAsync(0);
        await Assertions.Expect(ada.Page.Locator(".table tbody tr", new() { HasText = "9.9 m" })).ToHaveCountAsync(2);
        await Assertions.Expect(ada.Page.Locator(".selection")).ToHaveCountAsync(0);

        await using var farid = await chromium.Open(service, "Farid Naseem");
        await farid.Go("records/vessel", ".table tbody tr");
        await Assertions.Expect(farid.Page.Locator(".table-choice")).ToHaveCountAsync(0);
        ada.Complaints.Concat(farid.Complaints).ShouldBeEmpty();
    }

    [Fact]
    public async Task Rows_are_moved_by_keyboard_and_mouse_and_stay_where_they_were_put()
    {
        await using var service = await HostedService.WithDemo();
        await using var dirk = await chromium.Open(service, "Dirk Hoist");
        await dirk.Go("records/liftOut/1");
        await Button(dirk, "Edit").ClickAsync();
        var tasks = dirk.Page.Locator(".bt-grid tbody [data-field=task] input");
        await Assertions.Expect(tasks).ToHaveCountAsync(2);
        var (first, second) = (await tasks.Nth(0).InputValueAsync(), await tasks.Nth(1).InputValueAsync());
        await tasks.Nth(0).FocusAsync();
        await dirk.Page.Keyboard.PressAsync("Alt+ArrowDown");
        await Assertions.Expect(tasks.Nth(1)).ToHaveValueAsync(first);
        await Assertions.Expect(tasks.Nth(1)).ToBeFocusedAsync();
        await Button(dirk, "Move row 2 up").ClickAsync();
        await Assertions.Expect(tasks.Nth(0)).ToHaveValueAsync(first);
        await Button(dirk, "Move row 1 down").ClickAsync();
        await Button(dirk, "Save").ClickAsync();
        await Assertions.Expect(dirk.Page.Locator(".notice")).ToContainTextAsync("Saved.");
        await dirk.Page.ReloadAsync();
        await Assertions.Expect(dirk.Page.Locator(".bt-grid tbody [data-field=task] .bt-output")).ToHaveTextAsync([second, first]);
        dirk.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Rows_typed_and_never_saved_are_offered_again_with_the_record()
    {
        await using var service = await HostedService.WithDemo();
        await using var dirk = await chromium.Open(service, "Dirk Hoist");
        await dirk.Go("records/liftOut/1");
        await Button(dirk, "Edit").ClickAsync();
        var lines = dirk.Page.Locator(".bt-grid tbody tr");
        await Assertions.Expect(lines).ToHaveCountAsync(2);
        await Button(dirk, "Remove row 1").ClickAsync();
        await Button(dirk, "Add to Work lines").ClickAsync();
        await lines.Nth(1).GetByRole(AriaRole.Textbox, new() { Name = "Task" }).FillAsync("Antifouling");
        await dirk.Page.WaitForTimeoutAsync(900);
        dirk.Page.Dialog += (_, dialog) => _ = dialog.AcceptAsync();
        await dirk.Page.ReloadAsync();
        await Button(dirk, "Restore changes").ClickAsync();
        await Assertions.Expect(lines).ToHaveCountAsync(2);
        await Assertions.Expect(lines.Nth(1).GetByRole(AriaRole.Textbox, new() { Name = "Task" })).ToHaveValueAsync("Antifouling");
        await Button(dirk, "Save").ClickAsync();
        await Assertions.Expect(dirk.Page.Locator(".notice")).ToContainTextAsync("Saved.");
        using var client = await service.As("dirk");
        (await client.Records("workLine", null, null, "record.liftOut == 1", null, 50, CancellationToken.None)).Records.Count.ShouldBe(2);
        dirk.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Of_a_long_list_only_the_rows_in_sight_are_drawn()
    {
        await using var service = await HostedService.WithDemo();
        using var http = await service.Http("ada");
        var table =
            "name,registration,hullType,propulsion,length\n"
            + string.Concat(Enumerable.Range(0, 400).Select(i => $"Tern {i:000},TN-{i:0000},mono,sail,8\n"));
        using var taken = await http.PostAsync("api/records/vessel/csv", new StringContent(table, System.Text.Encoding.UTF8, "text/csv"));
        taken.IsSuccessStatusCode.ShouldBeTrue(await taken.Content.ReadAsStringAsync());
        await using var ada = await chromium.Open(service, "Ada Wader");
        // A page of it that does not arrive is not the end of the list.
        var lost = 0;
        await ada.Page.RouteAsync("**/api/records/vessel?*after=*", route =>
            Interlocked.Increment(ref lost) == 2 ? route.FulfillAsync(new() { Status = 503 }) : route.ContinueAsync()
        );
        // The records are here before the list that draws them.
        await ada.Page.RouteAsync("**/api/forms/vessel?kind=list*", async route =>
        {
            await Task.Delay(700);
            await route.ContinueAsync();
        });
        await ada.Go("records/vessel", ".table tbody tr");
        var rows = ada.Page.Locator(".table tbody tr[data-index]");
        for (var i = 0; i < 400 && await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Tern 399" }).CountAsync() == 0; i++)
        {
            await ada.Page.EvaluateAsync("window.scrollTo(0, document.body.scrollHeight)");
            await ada.Page.WaitForTimeoutAsync(100);
        }

        await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Tern 399" }).ScrollIntoViewIfNeededAsync();
        (await rows.CountAsync()).ShouldBeLessThan(100);
        await ada.Page.EvaluateAsync("window.scrollTo(0, 0)");
        await Assertions.Expect(rows.First).ToHaveAttributeAsync("data-index", "0");
        ada.Complaints.ShouldHaveSingleItem().ShouldContain("503");
    }
}
