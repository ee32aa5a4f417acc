using System.Text.RegularExpressions;
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
        await using var service = await HostedService.WithDemo();
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
        // Not half under the bar.
        var covered = """
            () => { const [bar, all] = ['.record-bar', '.bt-summary'].map(name => document.querySelector(name).getBoundingClientRect());
              return all.top < bar.bottom && all.bottom > bar.bottom; }
            """;
        await Window.Eventually(async () => (await ada.Page.EvaluateAsync<bool>(covered)).ShouldBeFalse());
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
    public async Task A_row_of_a_list_opens_its_record_wherever_it_is_pressed()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel", ".table tbody tr[data-index]");
        var row = ada.Page.Locator("tr[data-index]").Nth(1);
        var title = await row.Locator(".row-link").TextContentAsync();
        var last = row.Locator("td").Last;
        // Text in it can be selected, which opens nothing.
        var box = (await row.Locator("td").Nth(2).BoundingBoxAsync())!;
        await ada.Page.Mouse.MoveAsync(box.X + 14, box.Y + box.Height / 2);
        await ada.Page.Mouse.DownAsync();
        await ada.Page.Mouse.MoveAsync(box.X + 60, box.Y + box.Height / 2, new() { Steps = 6 });
        await ada.Page.Mouse.UpAsync();
        (await ada.Page.EvaluateAsync<string>("() => getSelection().toString()")).ShouldNotBeEmpty();
        await Assertions.Expect(ada.Page).ToHaveURLAsync(new Regex("/records/vessel$"));
        await ada.Page.Mouse.ClickAsync(5, 790);
        var beside = await ada.Page.Context.RunAndWaitForPageAsync(() => last.ClickAsync(new() { Modifiers = [KeyboardModifier.Control] }));
        await Assertions.Expect(beside).ToHaveURLAsync(new Regex("/records/vessel/[0-9]+$"));
        await beside.CloseAsync();
        await last.ClickAsync();
        await Assertions.Expect(ada.Page).ToHaveURLAsync(new Regex("/records/vessel/[0-9]+$"));
        await Assertions.Expect(ada.Page.Locator(".bt-form h1")).ToContainTextAsync(title!);
    }

    [Fact]
    public async Task The_second_to_save_is_shown_both_and_chooses_and_nothing_is_lost()
    {
        await using var service = await HostedService.WithDemo();
        await using var cleo = await chromium.Open(service, "Cleo Marsh");
        await cleo.Go("records/berth/4");
        await cleo.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await cleo.Control("pontoon").FillAsync("Middle pontoon, north side");
        await cleo.Control("maxDraught").FillAsync("2.2");
        using var ada = await service.As("ada");
        await ada.ChangeRecord(
            "berth",
            4,
            1,
            new RecordSave(System.Text.Json.JsonDocument.Parse("""{"maxLength":10,"pontoon":"Middle"}""").RootElement),
            CancellationToken.None
        );

        await cleo.Page.GetByRole(AriaRole.Button, new() { Name = "Save", Exact = true }).ClickAsync();

        var conflict = cleo.Page.GetByRole(AriaRole.Alertdialog, new() { Name = "Ada Wader changed this record at the same time" });
        await Assertions.Expect(conflict.Locator("tbody tr")).ToHaveCountAsync(1);
        await conflict.GetByRole(AriaRole.Radio, new() { Name = "Middle", Exact = true }).CheckAsync();
        await conflict.GetByRole(AriaRole.Button, new() { Name = "Save these values" }).ClickAsync();
        await Assertions.Expect(cleo.Page.Locator(".notice")).ToContainTextAsync("Saved.");
        var values = (await ada.Record("berth", 4, CancellationToken.None)).Values;
        (
            values.GetProperty("pontoon").GetString(),
            values.GetProperty("maxLength").GetDecimal(),
            values.GetProperty("maxDraught").GetDecimal()
        ).ShouldBe(("Middle", 10m, 2.2m));
    }

    [Fact]
    public async Task Each_person_sees_what_their_roles_allow_in_their_language()
    {
        await using var service = await HostedService.WithDemo();
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
        await using var service = await HostedService.WithDemo();
        await using var bram = await chromium.Open(service, "Bram Klaasen", width: 390);
        await bram.Go("records/vessel", ".card");
        await bram.Page.GetByRole(AriaRole.Searchbox).FillAsync("godwit tailed");
        await Assertions.Expect(bram.Page.Locator(".card")).ToHaveCountAsync(1);
        (await bram.Page.EvaluateAsync<bool>("() => document.documentElement.scrollWidth <= innerWidth")).ShouldBeTrue();
        await bram.Page.GetByRole(AriaRole.Link, new() { Name = "Bar-tailed Godwit" }).ClickAsync();
        await bram.Page.Locator(".bt-form .bt-field").First.WaitForAsync();
        (await bram.Page.EvaluateAsync<bool>("() => document.documentElement.scrollWidth <= innerWidth")).ShouldBeTrue();
    }

    [Fact]
    public async Task Leaving_with_something_unsaved_asks_first()
    {
        await using var service = await HostedService.WithDemo();
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

    [Fact]
    public async Task A_list_is_filtered_and_the_view_kept_by_name()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel", ".table tbody tr");
        var all = await ada.Page.Locator(".table tbody tr").CountAsync();
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Filters" }).ClickAsync();
        await ada.Control("propulsion").SelectOptionAsync("sail");
        await Assertions.Expect(ada.Page.Locator(".table tbody tr")).Not.ToHaveCountAsync(all);
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Length" }).ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".table tbody tr").First).ToContainTextAsync("Whimbrel");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Save this view" }).ClickAsync();
        await ada.Page.GetByRole(AriaRole.Textbox, new() { Name = "Name of the view" }).FillAsync("Under sail");
        await ada.Page.RunAndWaitForResponseAsync(
            () => ada.Page.Keyboard.PressAsync("Enter"),
            response => response.Request.Method == "PUT" && response.Url.Contains("/api/preferences/")
        );
        var sails = await ada.Page.Locator(".table tbody tr").CountAsync();

        // Another browser of hers has it; another person has not.
        await using var again = await chromium.Open(service, "Ada Wader");
        await again.Go("records/vessel", ".table tbody tr");
        await Assertions.Expect(again.Page.Locator(".table tbody tr")).ToHaveCountAsync(all);
        await again.Page.GetByRole(AriaRole.Button, new() { Name = "Under sail", Exact = true }).ClickAsync();
        await Assertions.Expect(again.Page.Locator(".table tbody tr")).ToHaveCountAsync(sails);
        await using var cleo = await chromium.Open(service, "Cleo Marsh");
        await cleo.Go("records/vessel", ".table tbody tr");
        await Assertions.Expect(cleo.Page.GetByText("Under sail")).ToHaveCountAsync(0);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_typed_outlives_the_browser_being_killed_and_is_gone_after_signing_out()
    {
        await using var service = await HostedService.WithDemo();
        var folder = RunningService.NewFolder();
        var first = await chromium.Kept(service, folder, "Cleo Marsh");
        await first.Go("records/keeper/1");
        await first.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        await first.Control("givenName").FillAsync("Marijke");
        await first.Page.WaitForFunctionAsync("async () => (await indexedDB.databases()).length > 0");
        await first.Page.WaitForTimeoutAsync(1_500);
        Chromium.Kill(folder);

        await using var second = await chromium.Kept(service, folder, "Cleo Marsh");
        await second.Go("records/keeper/1");
        await second.Page.GetByRole(AriaRole.Button, new() { Name = "Restore changes" }).ClickAsync();
        await Assertions.Expect(second.Control("givenName")).ToHaveValueAsync("Marijke");
        await second.Page.WaitForTimeoutAsync(800);

        // Whoever comes after her finds nothing.
        second.Page.Dialog += (_, dialog) => _ = dialog.AcceptAsync();
        await second.Page.GetByRole(AriaRole.Button, new() { Name = "Sign out" }).ClickAsync();
        await second.Page.GetByRole(AriaRole.Button, new() { Name = "Cleo Marsh" }).ClickAsync();
        await second.Page.Locator(".menu").WaitForAsync();
        await second.Go("records/keeper/1");
        await Assertions.Expect(second.Page.GetByText("unsaved changes")).ToHaveCountAsync(0);
    }

    [Fact]
    public async Task A_record_is_deleted_and_brought_back()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/visitorCall/1");
        ada.Page.Dialog += (_, dialog) => _ = dialog.AcceptAsync();
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Delete" }).ClickAsync();
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Restore" }).ClickAsync();
        await Assertions.Expect(ada.Page.GetByRole(AriaRole.Button, new() { Name = "Edit" })).ToBeVisibleAsync();
    }

    [Fact]
    public async Task A_record_is_put_on_paper_without_the_frame()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/vessel/1");
        await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Print" }).ClickAsync();
        await ada.Page.Locator(".paper .bt-field").First.WaitForAsync();
        await ada.Page.EmulateMediaAsync(new() { Media = Media.Print });
        await Assertions.Expect(ada.Page.GetByRole(AriaRole.Button, new() { Name = "Print" })).ToBeHiddenAsync();
        await Assertions.Expect(ada.Page.Locator(".menu")).ToHaveCountAsync(0);
        await Assertions.Expect(ada.Page.Locator(".paper")).ToContainTextAsync("Kittiwake, SQ-0417");
        var paper = System.Text.Encoding.Latin1.GetString(await ada.Page.PdfAsync(new() { PreferCSSPageSize = true }));
        paper.ShouldStartWith("%PDF-");
        // One vessel fits one sheet of A4, which is 595 by 842 points.
        System.Text.RegularExpressions.Regex.Count(paper, @"/Type /Page\b").ShouldBe(1);
        paper.ShouldMatch(@"/MediaBox \[0 0 59[45]");
    }

    [Fact]
    public async Task A_table_is_taken_in_whole_or_not_at_all()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/visitorCall", ".table tbody tr");
        var before = await ada.Page.Locator(".table tbody tr").CountAsync();
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Import CSV" }).ClickAsync();
        var all = ada.Page.GetByRole(AriaRole.Button, new() { Name = "Import all" });
        Task Choose(string text) =>
            ada
                .Page.GetByLabel("CSV file")
                .SetInputFilesAsync(
                    new FilePayload
                    {
                        Name = "calls.csv",
                        MimeType = "text/csv",
                        Buffer = System.Text.Encoding.UTF8.GetBytes(text),
                    }
                );
        var day = DateTime.UtcNow.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        await Choose($"boatName,length,nights,arrivedOn\nPhalarope,8,1,{day}\nSanderling,long,1,{day}\n");
        await Assertions.Expect(ada.Page.Locator(".import-problems")).ToContainTextAsync("Line 3: Length must be a number");
        await Assertions.Expect(all).ToBeDisabledAsync();
        await Choose($"boatName,length,nights,arrivedOn\nPhalarope,8,1,{day}\nSanderling,7,1,{day}\n");
        await Assertions.Expect(ada.Page.GetByText("2 to create, 0 to change")).ToBeVisibleAsync();
        await all.ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".table tbody tr")).ToHaveCountAsync(before + 2);
    }

    /// <summary>
    /// A table as a Dutch spreadsheet saves it: semicolons, commas before fractions, days first, names of its own, another encoding.
    /// </summary>
    [Fact]
    public async Task A_table_from_elsewhere_is_told_what_its_columns_are()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("records/visitorCall", ".table tbody tr");
        await ada.Page.GetByRole(AriaRole.Button, new() { Name = "Import CSV" }).ClickAsync();
        var dialog = ada.Page.GetByRole(AriaRole.Dialog, new() { Name = "Import CSV" });
        var all = dialog.GetByRole(AriaRole.Button, new() { Name = "Import all" });
        ILocator Goes(string column) => dialog.GetByLabel($"Field for {column}", new() { Exact = true });
        var table = $"Boot;Lengte;Aankomst;Schipper\r\nGo\u00ebland;8,5;{DateTime.UtcNow:dd-MM-yyyy};Jansen\r\n";
        await dialog
            .GetByLabel("CSV file")
            .SetInputFilesAsync(
                new FilePayload
                {
                    Name = "calls.csv",
                    MimeType = "text/csv",
                    Buffer = System.Text.Encoding.Latin1.GetBytes(table),
                }
            );
        await Assertions.Expect(dialog.GetByText("It was read as Windows-1252")).ToBeVisibleAsync();
        await Assertions.Expect(Goes("Boot")).ToHaveValueAsync("boatName");
        await Assertions.Expect(Goes("Lengte")).ToHaveValueAsync("length");
        await Assertions.Expect(Goes("Schipper")).ToHaveValueAsync("");
        await Assertions.Expect(dialog.GetByLabel("Number format")).ToHaveValueAsync(",");
        await Assertions.Expect(dialog.GetByText("No column is matched to the required field Arrived on")).ToBeVisibleAsync();
        await Assertions.Expect(dialog.Locator(".import-problems")).ToContainTextAsync("Line 2: Arrived on is required");
        await Assertions.Expect(all).ToBeDisabledAsync();
        await Goes("Aankomst").SelectOptionAsync("arrivedOn");
        await Assertions.Expect(dialog.GetByLabel("Date format")).ToHaveValueAsync("dmy");
        await Assertions.Expect(dialog.GetByText("1 to create, 0 to change")).ToBeVisibleAsync();
        await all.ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".table")).ToContainTextAsync("Go\u00ebland");
        ada.Complaints.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("nl-NL,nl;q=0.9", "nl", "ltr", "Dit is een demo: meld u aan als wie u wilt.", "Havenkantoor")]
    [InlineData("ar", "ar", "rtl", "هذا عرض تجريبي: سجّل الدخول باسم من تشاء.", "مكتب الميناء")]
    [InlineData("fr-FR", "en", "ltr", "This is a demo: sign in as anyone.", "Harbour office")]
    public async Task Whoever_is_not_signed_in_is_spoken_to_in_the_browsers_language(
        string asks,
        string language,
        string dir,
        string says,
        string role
    )
    {
        await using var service = await HostedService.WithDemo();
        await using var context = await chromium.Browser.NewContextAsync(
            new()
            {
                BaseURL = service.Address.ToString(),
                ExtraHTTPHeaders = new Dictionary<string, string> { ["Accept-Language"] = asks },
            }
        );
        var page = await context.NewPageAsync();
        await page.GotoAsync("/");
        await Assertions.Expect(page.GetByText(says)).ToBeVisibleAsync();
        await Assertions.Expect(page.GetByRole(AriaRole.Button, new() { Name = role }).First).ToBeVisibleAsync();
        await Assertions.Expect(page.Locator("html")).ToHaveAttributeAsync("lang", language);
        await Assertions.Expect(page.Locator("html")).ToHaveAttributeAsync("dir", dir);
    }
}
