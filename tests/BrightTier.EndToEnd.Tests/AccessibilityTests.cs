using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// What a rule checker finds on the pages of the business application, in both themes; and that they fit a small window at twice the size.
/// </summary>
public sealed class AccessibilityTests(Chromium chromium)
{
    private static readonly string Rules = File.ReadAllText(
        Path.Combine(RunningService.Checkout, "web", "node_modules", "axe-core", "axe.min.js")
    );

    /// <summary>What scrolls by less than a scrollbar is wide was not meant to scroll.</summary>
    private const string StrayScrollbars = """
        () => [...document.querySelectorAll('body, body *')].filter(each => {
          const { overflowX, overflowY } = getComputedStyle(each);
          const stray = (overflow, by) => /auto|scroll/.test(overflow) && by > 0 && by < 16;
          return stray(overflowY, each.scrollHeight - each.clientHeight) || stray(overflowX, each.scrollWidth - each.clientWidth);
        }).map(each => `${each.localName}.${each.className}`)
        """;

    [Theory]
    [InlineData(1280)]
    [InlineData(390)]
    public async Task Nothing_is_found_on_any_running_page(int width)
    {
        await using var service = await HostedService.WithDemo();
        await using var cleo = await chromium.Open(service, "Cleo Marsh", width);
        await cleo.Go("", ".home-group");
        await Find("home", cleo);
        foreach (var entity in new[] { "vessel", "liftOut", "agreement", "inspection" })
        {
            await cleo.Go($"records/{entity}", ".table a, .card a");
            await Find($"list of {entity}", cleo);
            await cleo.Go($"records/{entity}/1");
            await cleo.Page.Locator(".talk").WaitForAsync();
            await Find($"{entity} viewed", cleo);
            await cleo.Page.GetByRole(AriaRole.Button, new() { Name = "Edit", Exact = true }).ClickAsync();
            await cleo.Page.Locator(".bt-form[data-mode=edit]").WaitForAsync();
            await Find($"{entity} edited", cleo);
            await cleo.Page.GetByRole(AriaRole.Button, new() { Name = "Cancel", Exact = true }).ClickAsync();
        }
    }

    [Fact]
    public async Task Nothing_is_found_in_the_designer_and_beside_it()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        foreach (
            var (place, there) in new[]
            {
                ("layouts", "table, .empty"),
                ("releases", ".releases li"),
                ("application/menu", ".menu-line"),
                ("application/routing", ".rules li"),
                ("application/widths", ".application-table tbody tr"),
                ("application/styles", ".styles li"),
                ("design/vessel-list", ".list-column"),
            }
        )
        {
            await ada.Go(place, there);
            await Find(place, ada);
        }

        await ada.Go("design/vessel", ".canvas .bt-field");
        await Find("the designer", ada);
        foreach (var tab in new[] { "Outline", "Changes", "Source" })
        {
            await page.GetByRole(tab == "Outline" ? AriaRole.Tab : AriaRole.Button, new() { Name = tab, Exact = true }).ClickAsync();
            await page.Locator(
                    tab switch
                    {
                        "Outline" => ".outline",
                        "Changes" => ".changes ol li",
                        _ => ".cm-content",
                    }
                )
                .First.WaitForAsync();
            await Find($"the designer with {tab}", ada);
        }

        // What a drawer lies over is not there meanwhile.
        await page.Locator(".drawer-head button").ClickAsync();

        await page.GetByLabel("Which form").SelectOptionAsync("narrow");
        await page.Locator(".variant-pane").WaitForAsync();
        await Find("the form of a width", ada);
        await page.Keyboard.PressAsync("Control+k");
        await page.Locator(".commands").WaitForAsync();
        await Find("the list of commands", ada);
        await page.Keyboard.PressAsync("Escape");
        await page.GetByRole(AriaRole.Tab, new() { Name = "Add", Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Add a field…" }).ClickAsync();
        await Find("adding a field", ada);
    }

    [Fact]
    public async Task Nothing_is_found_where_conditions_patterns_choices_and_pieces_are_worked_on()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        ILocator Button(string name) => page.GetByRole(AriaRole.Button, new() { Name = name });
        async Task Do(string command)
        {
            await page.Keyboard.PressAsync("Control+k");
            await page.Keyboard.TypeAsync(command);
            await page.Keyboard.PressAsync("Enter");
        }

        await ada.Go("design/vessel", ".canvas .bt-field");
        await Do("Go to Rig");
        await Button("Build it by clicking").First.ClickAsync();
        await page.Locator(".clause").WaitForAsync();
        await Find("a condition put together by clicking", ada);
        await Button("Write it as text").First.ClickAsync();
        await page.Locator("[data-property='visible'] textarea").FillAsync("record.nobody == 'x' && record.");
        await page.Locator(".condition-offers [role='option']").First.WaitForAsync();
        await page.Locator(".condition-said .property-wrong").First.WaitForAsync();
        await Find("a condition being written, with something wrong", ada);
        await page.Keyboard.PressAsync("Escape");
        await page.Keyboard.PressAsync("Escape");
        await Do("Go to Home port");
        await page.GetByLabel("Choose a pattern from the library").SelectOptionAsync("berthCode");
        await page.Locator(".samples li").First.WaitForAsync();
        await Find("a pattern with its samples", ada);
        await Do("Go to Propulsion");
        await Button("Edit the choices…").ClickAsync();
        await page.Locator(".choices input").First.WaitForAsync();
        await Find("the choices of a list", ada);
        await page.Keyboard.PressAsync("Escape");
        await Do("Add the piece Insurance cover");
        await page.Locator(".piece-drawing select").First.WaitForAsync();
        await Find("the fields of a piece", ada);
        await page.Keyboard.PressAsync("Enter");
        await page.Locator(".piece-use").WaitForAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Changes", Exact = true }).ClickAsync();
        await Button("Show it on the form").ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "More…" }).ClickAsync();
        await page.GetByLabel("Tab order").CheckAsync();
        await page.GetByLabel("Beside it").SelectOptionAsync("390");
        await Find("more about the preview", ada);
        await page.Keyboard.PressAsync("Escape");
        await page.Locator(".lengths summary").ClickAsync();
        await page.Locator(".mark-change").First.WaitForAsync();
        await Find("changes on the form, another width beside it and the lengths", ada);
        ada.Complaints.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(320, 1)]
    // A window of 1280 by 800 at twice the size has this many pixels of the page's own (WCAG 2.2, 1.4.4 and 1.4.10).
    [InlineData(640, 2)]
    public async Task Nothing_is_lost_in_a_window_of_320_pixels_or_at_twice_the_size(int width, int scale)
    {
        await using var service = await HostedService.WithDemo();
        await using var cleo = await chromium.Open(service, "Cleo Marsh", width, scale: scale);
        foreach (
            var (place, there) in new[]
            {
                ("", ".home-group"),
                ("records/vessel", ".card"),
                ("records/keeper", ".table, .card"),
                ("records/liftOut/1", ".bt-grid"),
                ("records/agreement/1", ".bt-steps"),
                ("records/vessel/1", ".bt-tabs"),
                ("records/inspection/new", ".bt-field"),
                ("records/berth/1", ".talk"),
            }
        )
        {
            await cleo.Go(place, there);
            var beyond = await cleo.Page.EvaluateAsync<string[]>(
                """
                () => document.documentElement.scrollWidth <= innerWidth ? [] : [...document.querySelectorAll('body *')]
                  .filter(each => each.getBoundingClientRect().right > innerWidth + 1)
                  .map(each => each.className || each.tagName)
                """
            );
            beyond.ShouldBeEmpty(place);
            // Words are never cut off in what they stand in.
            var cut = await cleo.Page.EvaluateAsync<string[]>(
                """
                () => [...document.querySelectorAll('.bt-label, .bt-output, .button, .bt-tab, .bt-step, h1, h2, h3, .menu-entry')]
                  .filter(each => each.getClientRects().length && each.scrollWidth > each.clientWidth + 1)
                  .filter(each => getComputedStyle(each).overflowX === 'hidden')
                  .map(each => each.textContent)
                """
            );
            cut.ShouldBeEmpty(place);
        }
    }

    /// <summary>All rules in the light theme, and those about colour in the dark one, which differs in nothing else.</summary>
    private static async Task Find(string where, Window window)
    {
        await window.Page.Locator("h1").First.WaitForAsync();
        await window.Page.EvaluateAsync(Rules);
        (await Violations("{}")).ShouldBeEmpty(where);
        (await window.Page.EvaluateAsync<string[]>(StrayScrollbars)).ShouldBeEmpty($"scrollbars for next to nothing: {where}");
        await window.Page.EmulateMediaAsync(new() { ColorScheme = ColorScheme.Dark });
        (await Violations("{ runOnly: ['color-contrast', 'link-in-text-block'] }")).ShouldBeEmpty($"{where}, dark");
        await window.Page.EmulateMediaAsync(new() { ColorScheme = ColorScheme.Light });

        Task<string[]> Violations(string options) =>
            window.Page.EvaluateAsync<string[]>(
                $$"""
                async () => {
                  for (const each of document.getAnimations()) if (each.effect?.getComputedTiming().endTime !== Infinity) each.finish();
                  const { violations } = await axe.run(document, { resultTypes: ['violations'], ...{{options}} });
                  return violations.map(each => `${each.id}: ${each.help} at ${each.nodes.map(node => node.target).join(', ')}`);
                }
                """
            );
    }
}
