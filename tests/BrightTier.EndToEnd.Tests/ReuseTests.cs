using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Parts of a form used elsewhere, conditions while they are written, and what changed, seen on the form itself.</summary>
public sealed class ReuseTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    /// <summary>The fields in the order they are drawn, whatever they stand in.</summary>
    private static async Task<string[]> Fields(Window window) =>
        await window.Page.EvaluateAsync<string[]>(
            "() => [...document.querySelectorAll('.canvas [data-field]')].map(field => field.dataset.field)"
        );

    private static async Task Do(Window window, string command)
    {
        await window.Page.Keyboard.PressAsync("Control+k");
        await window.Page.Locator(".commands input").WaitForAsync();
        await window.Page.Keyboard.TypeAsync(command);
        await window.Page.Keyboard.PressAsync("Enter");
        await window.Page.Locator(".commands").WaitForAsync(new() { State = WaitForSelectorState.Detached });
    }

    [Fact]
    public async Task A_selection_becomes_a_piece_that_another_form_uses_and_a_copy_again()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas .bt-field");
        var before = await Fields(ada);
        await Do(ada, "Go to Measures");
        await Do(ada, "Create a piece");
        await ada.Page.Locator("#part-name").FillAsync("Measures of a hull");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".piece-use")).ToContainTextAsync("It is used here only.");
        (await Fields(ada)).ShouldBe(before);
        await Assertions.Expect(ada.Page.GetByLabel("Beam", new() { Exact = true }).Last).ToHaveValueAsync("beam");

        // The same piece a second time, in a form derived by copying: its uses are told on the piece.
        await Button(ada, "Detach the piece").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".piece-use")).ToHaveCountAsync(0);
        (await Fields(ada)).ShouldBe(before);
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Assertions.Expect(ada.Page.Locator(".piece-use")).ToHaveCountAsync(1);
        // It shows before the service has it; whoever leaves at once leaves it waiting in the browser.
        await Assertions.Expect(ada.Page.Locator(".designer")).ToHaveAttributeAsync("data-revision", "4");
        await ada.Go("design/measuresOfAHull", ".canvas .bt-field");
        await Assertions.Expect(ada.Page.Locator(".changing")).ToContainTextAsync("You are changing the piece Measures of a hull");
        await Assertions.Expect(ada.Page.Locator(".properties")).ToContainTextAsync("shows in this place");
        await Do(ada, "Go to Draught");
        await ada.Page.Keyboard.PressAsync("F2");
        await ada.Page.Keyboard.TypeAsync("Depth below the water");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Field("draught").Locator(".bt-label")).ToContainTextAsync("Depth below the water");
        await Assertions.Expect(ada.Page.Locator(".designer")).ToHaveAttributeAsync("data-revision", "2");
        await ada.Go("design/vessel", ".canvas .bt-field");
        await Assertions.Expect(ada.Field("draught").Locator(".bt-label")).ToContainTextAsync("Depth below the water");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_a_form_rests_on_shows_as_soon_as_it_is_changed_elsewhere()
    {
        await using var service = await HostedService.WithDemo();
        using var client = await service.As("ada");
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas .bt-field");
        await Do(ada, "Go to Measures");
        await Do(ada, "Create a piece");
        await ada.Page.Locator("#part-name").FillAsync("Measures of a hull");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator(".piece-use")).ToContainTextAsync("It is used here only.");
        await Assertions.Expect(ada.Page.Locator(".designer")).ToHaveAttributeAsync("data-revision", "2");

        // The piece by somebody else; on the form that uses it nothing is touched.
        await client.Edit(
            "measuresOfAHull",
            new(
                1,
                System
                    .Text.Json.JsonDocument.Parse("""[{"op":"set","node":"measures","property":"title","value":"Taken at the hull"}]""")
                    .RootElement
            ),
            CancellationToken.None
        );
        await Assertions.Expect(ada.Page.Locator(".canvas")).ToContainTextAsync("Taken at the hull");

        // And the other way round: the form that uses it, while the piece is looked at.
        await ada.Go("design/measuresOfAHull", ".canvas .bt-field");
        await Assertions.Expect(ada.Page.Locator(".properties")).ToContainTextAsync("shows in this place");
        var use = (await client.Pieces(CancellationToken.None)).Single(piece => piece.Key == "measuresOfAHull").Uses.Single().Node;
        await client.Edit(
            "vessel",
            new(2, System.Text.Json.JsonDocument.Parse($$"""[{"op":"remove","node":"{{use}}"}]""").RootElement),
            CancellationToken.None
        );
        await Assertions.Expect(ada.Page.Locator(".properties")).ToContainTextAsync("Not used yet.");
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task Parts_are_copied_from_one_form_and_pasted_into_another_which_says_what_it_has_not()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Page.Context.GrantPermissionsAsync(["clipboard-read", "clipboard-write"]);
        await ada.Go("design/berth", ".canvas .bt-field");
        await Do(ada, "Go to Supply and rate");
        await ada.Page.Keyboard.PressAsync("Control+c");
        await Assertions.Expect(ada.Page.Locator(".status")).ToHaveTextAsync("Copied Supply and rate.");
        (await ada.Page.EvaluateAsync<string>("navigator.clipboard.readText()")).ShouldStartWith("kind: piece");
        await ada.Go("design/agreement", ".canvas .bt-field");
        await ada.Page.Locator(".canvas-layer").FocusAsync();
        await ada.Page.Keyboard.PressAsync("Control+v");
        await Assertions.Expect(ada.Page.Locator(".status")).ToContainTextAsync("Pasted without shorePower, water");
        await Do(ada, "Show changes and history");
        await Button(ada, "Show it on the form").ClickAsync();
        await Assertions.Expect(ada.Page.Locator(".mark-change[data-change='added']")).Not.ToHaveCountAsync(0);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_condition_is_completed_judged_and_put_together_by_clicking()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/vessel", ".canvas .bt-field");
        await ada
            .Page.GetByLabel("Record", new() { Exact = true })
            .SelectOptionAsync(new SelectOptionValue { Label = "Kittiwake, SQ-0417" });
        await Do(ada, "Go to Engine");
        await Do(ada, "Change Visible when");
        await ada.Page.Keyboard.PressAsync("Control+a");
        await ada.Page.Keyboard.TypeAsync("rec");
        await ada.Page.Keyboard.PressAsync("Enter");
        await ada.Page.Keyboard.TypeAsync("prop");
        await ada.Page.Keyboard.PressAsync("Enter");
        await ada.Page.Keyboard.TypeAsync(" == 'sa");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Page.Locator("[data-property='visible'] textarea")).ToHaveValueAsync("record.propulsion == 'sail'");
        await Assertions.Expect(ada.Page.Locator("[data-property='visible'] .condition-said")).ToContainTextAsync("Holds for Kittiwake");
        await ada.Page.Keyboard.PressAsync("Control+Enter");
        await Assertions.Expect(ada.Page.Locator(".designer")).ToHaveAttributeAsync("data-revision", "2");

        await Button(ada, "Build it by clicking").First.ClickAsync();
        var clause = ada.Page.Locator(".clause");
        await clause.GetByLabel("Value").SelectOptionAsync("oars");
        await Assertions
            .Expect(ada.Page.Locator("[data-property='visible'] .condition-said"))
            .ToContainTextAsync("Does not hold for Kittiwake");
        await Button(ada, "And also…").ClickAsync();
        await clause.Nth(1).GetByLabel("Field").SelectOptionAsync("propulsion");
        await clause.Nth(1).GetByLabel("Value").SelectOptionAsync("diesel");
        await Assertions
            .Expect(ada.Page.Locator("[data-property='visible'] .condition-said"))
            .ToContainTextAsync("No record can make it hold.");
        await clause.Nth(1).GetByLabel("All or any").SelectOptionAsync("||");
        await Assertions.Expect(ada.Page.Locator("[data-property='visible'] .condition-said")).Not.ToContainTextAsync("No record");
        using var client = await service.As("ada");
        await Window.Eventually(async () =>
            (await client.File("layout", "vessel", CancellationToken.None)).Text.ShouldContain("== 'oars' || record.propulsion == 'diesel'")
        );
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_outline_takes_what_is_dragged_and_names_are_written_in_it()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        await ada.Go("design/berth", ".canvas .bt-field");
        await ada.Page.GetByRole(AriaRole.Tab, new() { Name = "Outline", Exact = true }).ClickAsync();
        ILocator Line(string name) =>
            ada.Page.Locator(".outline-line").Filter(new() { Has = ada.Page.GetByText(name, new() { Exact = true }) });
        await Line("Zone").WaitForAsync();
        var (from, to) = ((await Line("Zone").BoundingBoxAsync())!, (await Line("Day rate").BoundingBoxAsync())!);
        await ada.Page.Mouse.MoveAsync(from.X + 70, from.Y + 14);
        await ada.Page.Mouse.DownAsync();
        await ada.Page.Mouse.MoveAsync(from.X + 76, from.Y + 18, new() { Steps = 3 });
        await ada.Page.Mouse.MoveAsync(to.X + 70, to.Y + (to.Height * 0.2f), new() { Steps = 10 });
        await Assertions.Expect(Line("Day rate")).ToHaveAttributeAsync("data-edge", "above");
        await ada.Page.Mouse.UpAsync();
        await Window.Eventually(async () => (await ada.Rows()).ShouldContain("shorePower zone dayRate"));
        await Line("Zone").DblClickAsync();
        await ada.Page.Keyboard.TypeAsync("Part of the harbour");
        await ada.Page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(ada.Field("zone").Locator(".bt-label")).ToContainTextAsync("Part of the harbour");
        await ada.Page.Keyboard.PressAsync("Delete");
        await Assertions.Expect(ada.Field("zone")).ToHaveCountAsync(0);
        await ada.Page.Keyboard.PressAsync("Control+z");
        await Assertions.Expect(ada.Field("zone")).ToHaveCountAsync(1);
        ada.Complaints.ShouldBeEmpty();
    }
}
