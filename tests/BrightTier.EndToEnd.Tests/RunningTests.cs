using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>A user's day: lists, new and changed records, errors that lead to their fields.</summary>
public sealed class RunningTests(Chromium chromium)
{
    [Fact]
    public async Task Errors_stand_beside_fields_and_in_a_summary_that_leads_to_them_across_tabs()
    {
        await using var service = await RunningService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel/2");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await ada.Page.GetByRole(AriaRole.Tab, new() { Name = "Condition and papers" }).ClickAsync();
        await ada.Control("coverInsurer").FillAsync("Tidewater Mutual");
        await ada.Page.GetByRole(AriaRole.Tab, new() { Name = "Overview" }).ClickAsync();
        await ada.Control("length").FillAsync("0.5");
        await ada.Control("registration").FillAsync("417");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Save", Exact = true }).ClickAsync();

        await Assertions.Expect(ada.Page.Locator(".bt-summary li")).ToHaveCountAsync(3);
        await Assertions.Expect(ada.Field("registration").Locator(".bt-error")).ToContainTextAsync("two capital letters");
        await ada.Page.Locator(".bt-summary").GetByText("Policy is required").ClickAsync();
        await Assertions.Expect(ada.Control("coverPolicy")).ToBeFocusedAsync();

        await ada.Control("coverPolicy").FillAsync("TM-1");
        await ada.Page.GetByRole(AriaRole.Tab, new() { Name = "Overview" }).ClickAsync();
        await ada.Control("length").FillAsync("11.5");
        await ada.Control("registration").FillAsync("SQ-0417");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Save", Exact = true }).ClickAsync();
        // Another vessel has it: only the service can know.
        await Assertions.Expect(ada.Field("registration").Locator(".bt-error")).ToContainTextAsync("is taken");
        await Assertions.Expect(ada.Control("length")).ToHaveValueAsync("11.5");
    }

    [Fact]
    public async Task The_second_to_save_is_told_and_keeps_what_was_typed()
    {
        await using var service = await RunningService.WithDemo();
        await using var cleo = await chromium.Open(service, "Cleo Marsh");
        await cleo.Go("records/berth/4");
        await cleo.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await cleo.Control("pontoon").FillAsync("Middle pontoon, north side");
        using var ada = await service.As("ada");
        await ada.ChangeRecord("berth", 4, 1, new RecordSave(System.Text.Json.JsonDocument.Parse("""{"maxLength":10}""").RootElement), CancellationToken.None);

        await cleo.Page.GetByRole(AriaRole.Button, new() { Name = "Save", Exact = true }).ClickAsync();

        await Assertions.Expect(cleo.Page.Locator(".notice")).ToContainTextAsync("changed by ada");
        await Assertions.Expect(cleo.Control("pontoon")).ToHaveValueAsync("Middle pontoon, north side");
    }

    [Fact]
    public async Task Each_person_sees_what_their_roles_allow_in_their_language()
    {
        await using var service = await RunningService.WithDemo();
        await using var bram = await chromium.Open(service, "Bram Klaasen");
        await bram.Go("records/berth/1");
        await Assertions.Expect(bram.Field("dayRate")).ToHaveCountAsync(0);
        await Assertions.Expect(bram.Page.Locator(".bt-section-title").First).ToHaveTextAsync("Plaats");
        await Assertions.Expect(bram.Page.GetByText("Layouts")).ToHaveCountAsync(0);

        await using var farid = await chromium.Open(service, "Farid Naseem");
        await farid.Go("records/berth/1");
        await Assertions.Expect(farid.Page.Locator(".bt-form")).ToHaveAttributeAsync("dir", "rtl");
        await Assertions.Expect(farid.Field("dayRate")).ToContainTextAsync("28.50");
        await Assertions.Expect(farid.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" })).ToHaveCountAsync(0);
    }

    [Fact]
    public async Task A_list_is_searched_and_sorted_and_fits_a_phone()
    {
        await using var service = await RunningService.WithDemo();
        await using var bram = await chromium.Open(service, "Bram Klaasen", width: 390);
        await bram.Go("records/vessel", ".table tbody tr");
        await bram.Page.GetByRole(AriaRole.Searchbox).FillAsync("godwit");
        await Assertions.Expect(bram.Page.Locator(".table tbody tr")).ToHaveCountAsync(1);
        (await bram.Page.EvaluateAsync<bool>("() => document.documentElement.scrollWidth <= innerWidth")).ShouldBeTrue();
        await bram.Page.Locator(".table a").First.ClickAsync();
        await bram.Page.Locator(".bt-form .bt-field").First.WaitForAsync();
        (await bram.Page.EvaluateAsync<bool>("() => document.documentElement.scrollWidth <= innerWidth")).ShouldBeTrue();
    }

    [Fact]
    public async Task Leaving_with_something_unsaved_asks_first()
    {
        await using var service = await RunningService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/keeper/1");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await ada.Control("givenName").FillAsync("Marijke");
        var asked = 0;
        ada.Page.Dialog += (_, dialog) =>
        {
            asked++;
            _ = dialog.DismissAsync();
        };
        await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Vessels" }).ClickAsync();
        asked.ShouldBe(1);
        await Assertions.Expect(ada.Control("givenName")).ToHaveValueAsync("Marijke");
    }
}
