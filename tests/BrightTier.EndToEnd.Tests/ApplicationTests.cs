using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// What belongs to no single form, changed in Chromium: lists, the menu, who gets which, widths and styles; and that it reaches its users.
/// </summary>
public sealed class ApplicationTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    private static async Task Publish(Window window)
    {
        await Button(window, "Publish…").ClickAsync();
        await Button(window, "Publish").ClickAsync();
        await window.Page.Locator(".receipt").WaitForAsync();
        await Button(window, "Done").ClickAsync();
    }

    private static async Task<IReadOnlyList<string>> Columns(Window window, string of = ".list-column") =>
        await window.Page.Locator(of).AllInnerTextsAsync();

    [Fact]
    public async Task A_list_is_laid_out_over_its_rows_by_mouse_and_by_keyboard()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await ada.Go("design/vessel-list", ".list-column");
        await Assertions.Expect(page.Locator(".changing")).ToContainTextAsync("Vessels list");
        await page.Locator(".list-sheet tbody tr").First.WaitForAsync();
        (await Columns(ada)).ShouldBe(["Name ↑", "Registration", "Propulsion", "Length", "Keeper", "Survey due"]);

        // By mouse: a field dragged between two columns.
        var beam = (await page.Locator(".palette-entry[data-subject='{\"field\":\"beam\"}']").BoundingBoxAsync())!;
        var keeper = (await page.Locator(".list-column[data-column=keeper]").BoundingBoxAsync())!;
        await page.Mouse.MoveAsync(beam.X + 20, beam.Y + 8);
        await page.Mouse.DownAsync();
        await page.Mouse.MoveAsync(beam.X + 60, beam.Y + 20, new() { Steps = 3 });
        await page.Mouse.MoveAsync(keeper.X + 8, keeper.Y + 60, new() { Steps = 6 });
        await page.Mouse.UpAsync();
        await Window.Eventually(async () =>
            (await Columns(ada)).ShouldBe(["Name ↑", "Registration", "Propulsion", "Length", "Beam", "Keeper", "Survey due"])
        );
        await Assertions
            .Expect(page.Locator(".list-sheet tbody tr").First.Locator("[data-column=beam]"))
            .ToHaveTextAsync(new System.Text.RegularExpressions.Regex(@"[\d.]+.m"));

        // By keyboard: moved on, widened, taken out.
        await page.Keyboard.PressAsync("Alt+ArrowRight");
        await Window.Eventually(async () => (await Columns(ada)).TakeLast(3).ShouldBe(["Keeper", "Beam", "Survey due"]));
        await page.Keyboard.PressAsync("Alt+Shift+ArrowRight");
        await Assertions.Expect(page.GetByLabel("Width", new() { Exact = true })).ToHaveValueAsync("3");
        await page.Locator(".canvas-layer").FocusAsync();
        await page.Keyboard.PressAsync("Delete");
        await Window.Eventually(async () => (await Columns(ada)).ShouldNotContain("Beam"));

        // Order and filters are fields, chosen and turned round.
        await page.Keyboard.PressAsync("Escape");
        await Button(ada, "Remove Name").ClickAsync();
        await page.Locator("[data-property=sort] select").SelectOptionAsync("length");
        await Button(ada, "Reverse Length").ClickAsync();
        await Window.Eventually(async () => (await Columns(ada)).ShouldContain("Length ↓"));
        await Window.Eventually(async () =>
        {
            var lengths = (await page.Locator(".list-sheet [data-column=length]:is(td)").AllInnerTextsAsync())
                .Select(each => decimal.Parse(each.Split('\u00a0', ' ')[0], System.Globalization.CultureInfo.InvariantCulture))
                .ToArray();
            lengths.ShouldBe(lengths.OrderDescending());
        });
        ada.Complaints.ShouldBeEmpty();

        await Publish(ada);
        await ada.Go("records/vessel", ".table tbody tr");
        (await Columns(ada, ".table th button")).ShouldBe(["Name", "Registration", "Propulsion", "Length ↓", "Keeper", "Survey due"]);
    }

    [Fact]
    public async Task The_menu_is_changed_and_everyone_has_it_once_it_is_published()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await using var bram = await chromium.Open(service, "Bram Klaasen");
        await bram.Go("", ".menu");
        await ada.Go("application/menu", ".menu-line");
        ILocator Line(string name) => ada.Page.Locator(".menu-line", new() { HasText = name });
        await Line("Berths").ClickAsync();
        await ada.Page.Keyboard.PressAsync("Alt+ArrowUp");
        await Assertions
            .Expect(ada.Page.Locator(".menu-tree > li").First.Locator("ol .menu-line span:not(:has(svg))"))
            .ToHaveTextAsync(["Berths", "Vessels", "Visitors"]);
        await Line("Inspections").ClickAsync();
        await ada.Page.GetByLabel("Title", new() { Exact = true }).FillAsync("Rounds");
        await ada.Page.GetByRole(AriaRole.Checkbox, new() { Name = "Auditor" }).CheckAsync();
        await ada.Page.GetByLabel("Preview as").SelectOptionAsync("quay-hand");
        await Assertions.Expect(ada.Page.Locator(".application-seen .menu")).Not.ToContainTextAsync("Rounds");
        await Button(ada, "Undo").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".application-seen .menu")).ToContainTextAsync("Rounds");
        await Assertions.Expect(ada.Page.Locator(".application-state")).ToHaveTextAsync("not published: menu");
        await Publish(ada);
        await Assertions
            .Expect(bram.Page.Locator(".menu .menu-part").First.Locator(".menu-entry"))
            .ToHaveTextAsync(["Ligplaatsen", "Vaartuigen", "Passanten"]);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Who_gets_which_is_tried_published_and_holds()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("application/routing", ".rules li");
        await ada.Page.GetByLabel("Person", new() { Exact = true }).SelectOptionAsync(new SelectOptionValue { Label = "Dirk Hoist" });
        await ada.Page.GetByLabel("Entity", new() { Exact = true }).SelectOptionAsync("vessel");
        await Assertions.Expect(ada.Page.Locator(".trial p")).ToHaveTextAsync("Dirk Hoist gets Vessel for the yard, by rule 1.");
        await Assertions.Expect(ada.Page.Locator(".rules li[data-verdict=decides]")).ToHaveCountAsync(1);
        await ada.Page.GetByLabel("Person", new() { Exact = true }).SelectOptionAsync(new SelectOptionValue { Label = "Cleo Marsh" });
        await Assertions.Expect(ada.Page.Locator(".trial p")).ToHaveTextAsync("Cleo Marsh gets Vessel, since no rule says otherwise.");
        await ada.Page.GetByRole(AriaRole.Group, new() { Name = "Roles of rule 1" }).GetByLabel("Harbour master").CheckAsync();
        await ada.Page.GetByLabel("Condition of rule 1").FillAsync("record.length >");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".notice > ul")).ToContainTextAsync("condition");
        await ada.Page.GetByLabel("Condition of rule 1").FillAsync("");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".trial p")).ToHaveTextAsync("Cleo Marsh gets Vessel for the yard, by rule 1.");
        await Publish(ada);
        using var cleo = await service.Http("cleo");
        (await cleo.GetStringAsync("api/forms/vessel", TestContext.Current.CancellationToken)).ShouldContain(
            "\"layout\":\"vessel-foreman\""
        );
    }

    [Fact]
    public async Task Widths_are_cut_and_styles_coloured_for_all_layouts_at_once()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("application/widths", ".application-table tbody tr");
        await ada.Page.GetByLabel("medium up to, in rem").FillAsync("70");
        await ada.Page.GetByLabel("Name of a new width").FillAsync("Two screens");
        await Button(ada, "Add a width").ClickAsync();
        await Assertions
            .Expect(ada.Page.Locator(".application-table tbody th"))
            .ToHaveTextAsync(["narrow", "medium", "twoScreens", "wide"]);
        await ada.Page.GetByRole(AriaRole.Link, new() { Name = "Styles" }).ClickAsync();
        await ada.Page.GetByLabel("Paper of Caution").FillAsync("#7a4a00");
        await Assertions.Expect(ada.Page.Locator(".styles li").First).ToContainTextAsync("too faint");
        await Button(ada, "Undo").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".styles li").First).ToContainTextAsync("8.3 to 1");
        await ada.Page.GetByLabel("Ink of Caution").FillAsync("#123456");
        await Publish(ada);
        using var client = await service.Http("ada");
        var form = await client.GetStringAsync("api/forms/vessel", TestContext.Current.CancellationToken);
        form.ShouldContain("#123456");
        (await client.GetStringAsync("api/session", TestContext.Current.CancellationToken)).ShouldContain("twoScreens");
    }

    /// <summary>
    /// One choice reaches every form and the frame around it, those that are open and those on other sites' pages too; by day and by night
    /// it can be read.
    /// </summary>
    [Theory]
    [InlineData(ColorScheme.Light)]
    [InlineData(ColorScheme.Dark)]
    public async Task A_theme_is_chosen_once_and_is_everywhere(ColorScheme scheme)
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader", theme: scheme);
        await using var bram = await chromium.Open(service, "Bram Klaasen", theme: scheme);
        await bram.Go("records/vessel/1");
        const string Colours =
            "() => [getComputedStyle(document.querySelector('.record-bar .primary')).backgroundColor, "
            + "getComputedStyle(document.querySelector('.bt-tab[aria-selected=true]')).borderBottomColor, "
            + "getComputedStyle(document.body).fontFamily, getComputedStyle(document.body).backgroundColor]";
        var before = await bram.Page.EvaluateAsync<string[]>(Colours);
        await ada.Go("application/styles", ".theme");
        // A colour on which white cannot be read is refused, and says what would do.
        await ada.Page.GetByLabel("What can be clicked", new() { Exact = true }).FillAsync("#ffd400");
        await Assertions.Expect(ada.Page.Locator(".notice[data-tone=bad]")).ToContainTextAsync("must stand out 4.5 to 1 from white");
        await ada.Page.GetByLabel("Heather").CheckAsync();
        await ada.Page.GetByLabel("What can be clicked", new() { Exact = true }).FillAsync("#6b1f5c");
        await ada.Page.GetByLabel("What is current or chosen", new() { Exact = true }).FillAsync("#0b6e4f");
        await ada.Page.GetByLabel("Typeface").SelectOptionAsync("serif");
        await Assertions.Expect(ada.Page.Locator(".notice[data-tone=bad]")).ToHaveCountAsync(0);
        await Assertions.Expect(ada.Page.Locator(".application-state")).ToContainTextAsync("theme");
        await Publish(ada);
        await Window.Eventually(async () =>
        {
            var now = await bram.Page.EvaluateAsync<string[]>(Colours);
            now[0].ShouldNotBe(before[0]);
            now[1].ShouldNotBe(before[1]);
            now[2].ShouldStartWith("Georgia");
            now[3].ShouldNotBe(before[3]);
            if (scheme is ColorScheme.Light)
            {
                now[0].ShouldBe("rgb(107, 31, 92)");
            }
        });
        await bram.Page.EvaluateAsync(
            await File.ReadAllTextAsync(
                Path.Combine(RunningService.Checkout, "web", "node_modules", "axe-core", "axe.min.js"),
                TestContext.Current.CancellationToken
            )
        );
        (
            await bram.Page.EvaluateAsync<string[]>(
                "async () => (await axe.run(document, { runOnly: ['color-contrast'] })).violations.flatMap(each => "
                    + "each.nodes.map(node => node.target.join(' ')))"
            )
        ).ShouldBeEmpty();
        using var client = await service.Http("bram");
        (await client.GetStringAsync("api/forms/vessel", TestContext.Current.CancellationToken)).ShouldContain(
            "\"theme\":{\"ground\":\"heather\",\"primary\":\"#6b1f5c\",\"accent\":\"#0b6e4f\",\"typeface\":\"serif\"}"
        );
        ada.Complaints.ShouldBeEmpty();
    }
}
