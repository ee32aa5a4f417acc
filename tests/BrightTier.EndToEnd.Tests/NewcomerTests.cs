using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The first two minutes: from a record to its form, a first job there, and back to the record in its new form.</summary>
public sealed class NewcomerTests(Chromium chromium)
{
    private static ILocator Button(Window window, string name) =>
        window.Page.GetByRole(AriaRole.Button, new() { Name = name, Exact = true });

    private static ILocator Item(Window window, string node) => window.Page.Locator($".canvas [data-node='{node}']").First;

    [Fact]
    public async Task A_first_job_leads_from_a_record_to_its_form_and_back()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await page.SetViewportSizeAsync(1280, 800);
        await ada.Go("records/vessel/1", ".bt-form [data-tab]");
        await page.Locator(".bt-form [data-tab]", new() { HasText = "Condition and papers" }).ClickAsync();
        var title = await page.Locator(".bt-form h1").TextContentAsync();
        await page.GetByRole(AriaRole.Link, new() { Name = "Design this form" }).ClickAsync();

        // On that record, that tab.
        await page.Locator(".canvas .bt-field").First.WaitForAsync();
        await Assertions.Expect(page.Locator(".canvas h1")).ToHaveTextAsync(title!);
        await Assertions.Expect(page.Locator(".canvas [data-tab][aria-selected='true']")).ToHaveTextAsync("Condition and papers");

        await Button(ada, "Lay out this form in two minutes").ClickAsync();
        var job = page.Locator(".first-job");
        await Assertions.Expect(job.Locator("[aria-current]")).ToContainTextAsync("Place a field");
        var (lived, photo) = ((await Item(ada, "livesAboard").BoundingBoxAsync())!, (await Item(ada, "photo").BoundingBoxAsync())!);
        await page.Mouse.MoveAsync(lived.X + 30, lived.Y + 30);
        await page.Mouse.DownAsync();
        await page.Mouse.MoveAsync(lived.X + 36, lived.Y + 36, new() { Steps = 3 });
        await page.Mouse.MoveAsync(photo.X + photo.Width - 12, photo.Y + photo.Height / 2, new() { Steps = 12 });
        await page.Locator(".canvas-layer[data-showing='form']").WaitForAsync();
        await page.Mouse.UpAsync();
        await Assertions.Expect(job.Locator("[aria-current]")).ToContainTextAsync("Change a width");
        var edge = (await page.Locator(".mark-handle[data-edge='end']").BoundingBoxAsync())!;
        await page.Mouse.MoveAsync(edge.X + 6, edge.Y + edge.Height / 2);
        await page.Mouse.DownAsync();
        await page.Mouse.MoveAsync(edge.X - 60, edge.Y + edge.Height / 2, new() { Steps = 6 });
        await page.Mouse.UpAsync();
        await Assertions.Expect(job.Locator("[aria-current]")).ToContainTextAsync("Try it");
        await Button(ada, "Try it").ClickAsync();
        await Button(ada, "Back to designing").ClickAsync();

        // What changes is on the form, and in words that lead there.
        await Button(ada, "Publish…").ClickAsync();
        await page.Locator(".mark-change[data-for='livesAboard']").WaitForAsync();
        var words = page.Locator(".publish-changes li");
        await Assertions.Expect(words.Filter(new() { HasText = "Lived aboard" }).First).ToBeVisibleAsync();
        await words.GetByRole(AriaRole.Button).First.ClickAsync();
        await page.Locator(".mark-selected").WaitForAsync();
        await Button(ada, "Publish").ClickAsync();
        await page.GetByRole(AriaRole.Link, new() { Name = $"See {title} in the new form" }).ClickAsync();
        await page.WaitForURLAsync("**/records/vessel/1");
        await page.Locator(".bt-form [data-tab]", new() { HasText = "Condition and papers" }).ClickAsync();
        var row = page.Locator(".bt-row").Filter(new() { Has = page.Locator("[data-field='photo']") });
        await Assertions.Expect(row.Locator("[data-field='livesAboard']")).ToHaveCountAsync(1);
        ada.Complaints.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_first_job_is_offered_once_and_the_panes_stay_as_they_were_left()
    {
        await using var service = await HostedService.WithDemo();
        await using var ada = await chromium.Open(service, "Ada Wader");
        var page = ada.Page;
        await page.SetViewportSizeAsync(1280, 800);
        await ada.Go("design/vessel", ".canvas .bt-field");
        await Button(ada, "Lay out this form in two minutes").ClickAsync();
        await Button(ada, "Stop").ClickAsync();
        await Button(ada, "Fold the left pane").FocusAsync();
        await page.Keyboard.PressAsync("Enter");
        await page.GetByRole(AriaRole.Separator, new() { Name = "Width of the right pane" }).FocusAsync();
        await page.Keyboard.PressAsync("ArrowLeft");
        await Assertions.Expect(page.Locator(".pane[data-side='start']")).ToBeHiddenAsync();

        await ada.Go("design/berth", ".canvas .bt-field");
        await Assertions.Expect(Button(ada, "Lay out this form in two minutes")).ToHaveCountAsync(0);
        await Assertions.Expect(page.Locator(".pane[data-side='start']")).ToBeHiddenAsync();
        (await page.Locator(".pane[data-side='end']").EvaluateAsync<int>("pane => pane.offsetWidth")).ShouldBe(280);

        // What lies over the properties is put away by Escape, and the form has the focus again.
        await Button(ada, "Source").ClickAsync();
        await page.Locator(".drawer .cm-content").WaitForAsync();
        await Button(ada, "Comments").ClickAsync();
        await page.Locator(".drawer .comments-pane").WaitForAsync();
        await page.Locator(".drawer").FocusAsync();
        await page.Keyboard.PressAsync("Escape");
        await Assertions.Expect(page.Locator(".drawer")).ToHaveCountAsync(0);
        await Assertions.Expect(page.Locator(".canvas-layer")).ToBeFocusedAsync();
        ada.Complaints.ShouldBeEmpty();
    }
}
