using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Days and times, typed and chosen as whoever works writes them.</summary>
public sealed class DateTests(Chromium chromium)
{
    [Fact]
    public async Task A_day_is_typed_in_haste_stepped_and_chosen_and_what_is_none_is_told_so()
    {
        await using var service = await HostedService.WithDemo();
        await using var dirk = await chromium.Open(service, "Dirk Hoist");
        await dirk.Go("records/liftOut/new");
        var slot = dirk.Control("craneSlot");
        await Assertions.Expect(slot).ToHaveAttributeAsync("placeholder", "dd/mm/yyyy hh:mm");
        await slot.FillAsync("3/12/2026 2pm");
        await slot.PressAsync("Tab");
        await Assertions.Expect(slot).ToHaveValueAsync("03/12/2026 14:00");
        // Up and Down are of the part the caret is in.
        await slot.FocusAsync();
        await slot.PressAsync("Home");
        await slot.PressAsync("ArrowUp");
        await Assertions.Expect(slot).ToHaveValueAsync("04/12/2026 14:00");
        await slot.PressAsync("End");
        await slot.PressAsync("ArrowDown");
        await Assertions.Expect(slot).ToHaveValueAsync("04/12/2026 13:59");

        await slot.PressAsync("Alt+ArrowDown");
        var calendar = dirk.Page.GetByRole(AriaRole.Dialog, new() { Name = "Choose a day" });
        await Assertions.Expect(calendar.Locator("td[aria-selected=true]")).ToBeFocusedAsync();
        await Assertions.Expect(calendar.Locator("th").First).ToHaveTextAsync("Mon");
        await dirk.Page.Keyboard.PressAsync("ArrowRight");
        await dirk.Page.Keyboard.PressAsync("PageDown");
        await dirk.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(calendar).ToHaveCountAsync(0);
        await Assertions.Expect(slot).ToHaveValueAsync("05/01/2027 13:59");
        await Assertions.Expect(slot).ToBeFocusedAsync();

        // Escape closes the calendar and nothing else.
        await dirk.Field("craneSlot").GetByRole(AriaRole.Button, new() { Name = "Choose a day" }).ClickAsync();
        await Assertions.Expect(calendar).ToBeVisibleAsync();
        await dirk.Page.Keyboard.PressAsync("Escape");
        await Assertions.Expect(calendar).ToHaveCountAsync(0);
        await Assertions.Expect(slot).ToHaveValueAsync("05/01/2027 13:59");

        await slot.FillAsync("soon");
        await slot.PressAsync("Tab");
        await Assertions
            .Expect(dirk.Field("craneSlot").Locator(".bt-error"))
            .ToHaveTextAsync("Crane slot must be a date and a time, such as 31/12/2026 14:30.");
        await Assertions.Expect(slot).ToHaveValueAsync("soon");
        dirk.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_filter_takes_days_as_a_form_does_and_half_a_day_filters_nothing()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel", ".table tbody tr[data-index]");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Filters" }).ClickAsync();
        var due = ada.Page.Locator(".filters").GetByLabel("Survey due from");
        var rows = ada.Page.Locator(".table tbody tr[data-index]");
        await due.FillAsync("31/12/2099");
        await Assertions.Expect(rows).ToHaveCountAsync(0);
        await due.FillAsync("some day");
        await Assertions.Expect(rows.First).ToBeVisibleAsync();
        await due.PressAsync("Tab");
        await Assertions.Expect(ada.Page.Locator(".filters .bt-error")).ToContainTextAsync("must be a date, such as 31/12/2026");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task On_a_phone_the_menu_and_the_calendar_come_from_below()
    {
        await using var service = await HostedService.WithDemo();
        await using var bram = await chromium.Touch(service, "Bram Klaasen");
        await bram.Page.SetViewportSizeAsync(390, 844);
        await bram.Go("records/vessel/1");
        var menu = bram.Page.Locator("#menu-list");
        var opener = bram.Page.GetByRole(AriaRole.Button, new() { Name = "Menu", Exact = true });
        (await opener.BoundingBoxAsync())!.Y.ShouldBeGreaterThan(780);
        await opener.TapAsync();
        await menu.GetByRole(AriaRole.Link, new() { Name = "Inspecties" }).TapAsync();
        await Assertions.Expect(menu).ToBeHiddenAsync();
        await Assertions.Expect(bram.Page).ToHaveURLAsync(new System.Text.RegularExpressions.Regex("/records/inspection$"));
        await bram.Go("records/inspection/new");
        (await bram.Page.EvaluateAsync<bool>("() => document.documentElement.scrollWidth > innerWidth")).ShouldBeFalse();
        await bram.Field("inspectedOn").GetByRole(AriaRole.Button, new() { Name = "Kies een dag" }).TapAsync();
        var calendar = (await bram.Page.Locator(".bt-calendar").BoundingBoxAsync())!;
        (calendar.Y + calendar.Height).ShouldBeInRange(843, 845);
        await bram.Page.Locator(".bt-calendar td[aria-current=date]").TapAsync();
        await Assertions
            .Expect(bram.Control("inspectedOn"))
            .ToHaveValueAsync(DateTime.Today.ToString("dd-MM-yyyy", System.Globalization.CultureInfo.InvariantCulture));
        bram.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_view_of_a_list_that_was_saved_is_a_press_away_from_home()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel", ".table tbody tr[data-index]");
        await ada.Page.GetByRole(AriaRole.Searchbox).FillAsync("kittiwake");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Save this view" }).ClickAsync();
        await ada.Page.GetByRole(AriaRole.Textbox, new() { Name = "Name of the view" }).FillAsync("The ferry");
        await ada.Page.RunAndWaitForResponseAsync(
            () => ada.Page.Keyboard.PressAsync("Enter"),
            answer => answer.Request.Method == "PUT" && answer.Url.Contains("list%3Avessel", StringComparison.Ordinal)
        );
        // Another window knows nothing of how this one looked last.
        await using var again = await chromium.Open(service, "Ada Wader");
        await again.Go("", ".home-list");
        await again.Page.GetByRole(AriaRole.Link, new() { Name = "The ferry" }).ClickAsync();
        await Assertions.Expect(again.Page.GetByRole(AriaRole.Searchbox)).ToHaveValueAsync("kittiwake");
        await Assertions.Expect(again.Page.Locator(".table tbody tr[data-index]")).ToHaveCountAsync(1);
    }
}
