using System.Globalization;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>Something on a form as one works at it: its node, what it is called, and the tab it stands on.</summary>
public sealed record Part(string Node, string Name, string? Tab = null);

/// <summary>
/// A configurator's hands on the designer: the same acts by mouse or by keyboard alone, with real events only, which the page counts.
/// </summary>
public abstract class Hands(Window window)
{
    /// <summary>An action is a press of the mouse, a key that does something, or one run of typing.</summary>
    private const string Count = """
        window.actions = 0; window.typing = false;
        addEventListener('pointerdown', event => { if (event.isTrusted) { window.actions++; window.typing = false; } }, true);
        addEventListener('keydown', event => {
          if (!event.isTrusted || ['Control', 'Shift', 'Alt', 'Meta'].includes(event.key)) return;
          const text = event.key.length === 1 && !event.ctrlKey && !event.altKey;
          if (!text || !window.typing) window.actions++;
          window.typing = text;
        }, true);
        """;

    protected IPage Page => window.Page;

    protected Window Window => window;

    public abstract string With { get; }

    public async Task Begin(string layout)
    {
        await window.Go($"design/{layout}", ".canvas .bt-field");
        await Page.EvaluateAsync(Count);
        began = await Revision();
    }

    public Task<int> Actions() => Page.EvaluateAsync<int>("window.actions");

    public abstract Task Select(Part part);

    /// <summary>From one part to another, both included, in reading order; so many steps apart.</summary>
    public abstract Task Select(Part first, Part last, int steps);

    /// <summary>A command on what is selected, or on the form.</summary>
    public abstract Task Do(string command, bool onSelection = true);

    /// <summary>Places what the palette offers where a part is: after or below it.</summary>
    public abstract Task Place(string entry, string command, Part at, string place);

    /// <summary>Places what the palette offers behind what was placed just now.</summary>
    public abstract Task PlaceNext(string entry, string command);

    /// <summary>Moves a part into a column beside another, or above or below one.</summary>
    public abstract Task Move(Part part, Part to, double across, double down, string place);

    /// <summary>Has a tab in view.</summary>
    public abstract Task Open(Part tab);

    /// <summary>Moves a part into a tab.</summary>
    public abstract Task ToTab(Part part, Part tab);

    /// <summary>Moves several that are selected into a tab, behind a part; answers how many changes that took.</summary>
    public abstract Task<int> ToTab(Part held, Part tab, Part behind);

    /// <summary>Moves several that are selected below a part; answers how many changes that took.</summary>
    public abstract Task<int> Below(Part held, Part to);

    public abstract Task Columns(Part section, int count);

    public abstract Task Lines(Part text, int lines);

    /// <summary>Properties one after another, each leading to the next.</summary>
    public abstract Task Fill(params (string Property, string Value)[] properties);

    public virtual Task Remove() => Page.Keyboard.PressAsync("Delete");

    public abstract Task Confirm(string button);

    public abstract Task Undo();

    public async Task Type(string text) => await Page.Keyboard.TypeAsync(text);

    /// <summary>Names what was placed just now, where it stands.</summary>
    public async Task Name(string text)
    {
        await Page.Locator(".mark-rename").WaitForAsync();
        await Type(text);
        await Page.Keyboard.PressAsync("Enter");
    }

    private int began;

    private async Task<int> Revision() =>
        int.Parse((await Page.Locator(".designer").GetAttributeAsync("data-revision"))!, CultureInfo.InvariantCulture);

    /// <summary>Waits until the draft shown has had so many changes since the job was begun.</summary>
    public async Task Changes(int count) =>
        await Assertions
            .Expect(Page.Locator(".designer"))
            .ToHaveAttributeAsync("data-revision", (began + count).ToString(CultureInfo.InvariantCulture));

    /// <summary>Undoes everything, one step at a time.</summary>
    public async Task UndoAll()
    {
        var undo = Page.GetByRole(AriaRole.Button, new() { Name = "Undo", Exact = true });
        await Page.Locator(".canvas-layer").FocusAsync();
        // What was typed last may still be on its way.
        await Page.WaitForTimeoutAsync(500);
        for (var done = await Revision() - began; await undo.IsEnabledAsync(); )
        {
            await Undo();
            await Changes(++done);
            await Page.WaitForTimeoutAsync(50);
        }
    }

    private static bool Same(LocatorBoundingBoxResult one, LocatorBoundingBoxResult other) =>
        (one.X, one.Y, one.Width, one.Height) == (other.X, other.Y, other.Width, other.Height);

    protected async Task<(float X, float Y)> Spot(ILocator at, double across, double down)
    {
        await at.ScrollIntoViewIfNeededAsync();
        // A hand waits until what it reaches for stands still.
        var box = (await at.BoundingBoxAsync())!;
        for (LocatorBoundingBoxResult? last = null; last is null || !Same(last, box); )
        {
            await Page.WaitForTimeoutAsync(50);
            (last, box) = (box, (await at.BoundingBoxAsync())!);
        }

        return (box.X + (float)(across <= 1 ? box.Width * across : across), box.Y + (float)(down <= 1 ? box.Height * down : down));
    }
}

public sealed class MouseHands(Window window) : Hands(window)
{
    public override string With => "mouse";

    private ILocator At(Part part) => Page.Locator($".canvas [data-node='{part.Node}'], .canvas [data-tab='{part.Node}']").First;

    private async Task Click(ILocator at, double across = 14, double down = 8, MouseButton button = MouseButton.Left)
    {
        var (x, y) = await Spot(at, across, down);
        await Page.Mouse.ClickAsync(x, y, new() { Button = button });
    }

    private async Task Show(Part part)
    {
        if (part.Tab is { } tab && !await At(part).IsVisibleAsync())
        {
            await Click(Page.Locator($".canvas [data-tab='{tab}']"));
        }

        await At(part).WaitForAsync();
    }

    public override async Task Select(Part part)
    {
        await Show(part);
        await Click(At(part));
        await Assertions.Expect(Page.Locator(".mark-selected")).ToHaveCountAsync(1);
    }

    public override async Task Select(Part first, Part last, int steps)
    {
        await Select(first);
        await Page.Keyboard.DownAsync("Shift");
        await Click(At(last));
        await Page.Keyboard.UpAsync("Shift");
        await Assertions.Expect(Page.Locator(".mark-selected")).ToHaveCountAsync(steps + 1);
    }

    public override async Task Do(string command, bool onSelection = true)
    {
        if (onSelection)
        {
            await Click(Page.Locator(".mark-selected").Last, 14, 8, MouseButton.Right);
        }
        else
        {
            await Click(Page.GetByRole(AriaRole.Button, new() { Name = "Commands", Exact = true }), 0.5, 0.5);
        }

        await Click(Page.GetByRole(AriaRole.Option).Filter(new() { Has = Page.GetByText(command, new() { Exact = true }) }).First, 20, 0.5);
    }

    public override async Task Place(string entry, string command, Part at, string place)
    {
        await Show(at);
        var target = At(at);
        await target.ScrollIntoViewIfNeededAsync();
        await Drag(
            Page.Locator(".palette-entry", new() { HasText = entry }).First,
            20,
            0.5,
            target,
            place == "after" ? 0.9 : 0.5,
            place == "after" ? 0.5 : 0.9
        );
    }

    public override Task PlaceNext(string entry, string command) =>
        Click(Page.Locator(".palette-entry", new() { HasText = entry }).First, 20, 0.5);

    public override async Task Move(Part part, Part to, double across, double down, string place) =>
        await Drag(At(part), 30, 8, At(to), across, down);

    private async Task Drag(ILocator from, double atX, double atY, ILocator to, double across, double down)
    {
        var (x, y) = await Spot(from, atX, atY);
        await Page.Mouse.MoveAsync(x, y);
        await Page.Mouse.DownAsync();
        await Page.Mouse.MoveAsync(x + 8, y + 6, new() { Steps = 3 });
        var box = await Reach(to, x + 8);
        (x, y) = (box.X + (float)(box.Width * across), box.Y + (float)(box.Height * down));
        await Page.Mouse.MoveAsync(x, y, new() { Steps = 12 });
        // What is under the hand may have moved away meanwhile: then nothing shows until the hand moves again.
        for (var step = 1; step < 100 && !await Page.Locator(".canvas-layer[data-showing]").IsVisibleAsync(); step++)
        {
            await Page.WaitForTimeoutAsync(100);
            await Page.Mouse.MoveAsync(x + (step % 2), y);
        }

        await Page.Locator(".canvas-layer[data-showing]").WaitForAsync();
        await Page.Mouse.UpAsync();
    }

    public override async Task Open(Part tab)
    {
        if (await Page.Locator($".canvas [data-tab='{tab.Node}'][aria-selected='true']").CountAsync() == 0)
        {
            await Click(At(tab));
        }
    }

    /// <summary>Holds what is dragged at the sheet's edge until it has scrolled to where that goes; answers where it is.</summary>
    private async Task<LocatorBoundingBoxResult> Reach(ILocator to, float x)
    {
        var frame = (await Page.Locator(".sheet-frame").BoundingBoxAsync())!;
        for (var step = 0; ; step++)
        {
            step.ShouldBeLessThan(200, "never in view");
            var box = (await to.BoundingBoxAsync())!;
            var above = box.Y < frame.Y + 16;
            if (!above && box.Y + box.Height <= frame.Y + frame.Height - 16)
            {
                return box;
            }

            // Inside the form, whatever it was dragged from.
            var within = Math.Max(x, frame.X + 80);
            await Page.Mouse.MoveAsync(within + (step % 2), above ? frame.Y + 10 : frame.Y + frame.Height - 10);
            await Page.WaitForTimeoutAsync(60);
        }
    }

    public override async Task ToTab(Part part, Part tab)
    {
        // Held over a tab for long, as on a slow machine, what is dragged opens it.
        await Show(part);
        await Drag(At(part), 14, 8, Tab(tab), 0.5, 0.5);
    }

    public override async Task<int> ToTab(Part held, Part tab, Part behind)
    {
        await ToTab(held, tab);
        return 1;
    }

    public override async Task<int> Below(Part held, Part to)
    {
        await Drag(At(held), 30, 8, At(to), 0.5, 0.9);
        return 1;
    }

    private ILocator Tab(Part tab) => Page.Locator($".canvas [data-tab='{tab.Node}']");

    public override async Task Columns(Part section, int count)
    {
        // What was moved just now is selected.
        if (await Page.Locator(".properties-head h2").TextContentAsync() != section.Name)
        {
            await Select(section);
        }

        await Click(Page.GetByRole(AriaRole.Radiogroup, new() { Name = "Columns" }).Locator("label").Nth(count - 1), 0.5, 0.5);
    }

    public override async Task Lines(Part text, int lines)
    {
        await Select(text);
        var edge = Page.Locator(".mark-handle[data-edge='lines']");
        await edge.ScrollIntoViewIfNeededAsync();
        var box = (await edge.BoundingBoxAsync())!;
        var area = (await At(text).Locator("textarea").BoundingBoxAsync())!;
        var x = box.X + box.Width / 2;
        await Page.Mouse.MoveAsync(x, box.Y + box.Height / 2);
        await Page.Mouse.DownAsync();
        // Dragged on until it says how many lines there are.
        var said = edge.Locator("b");
        for (var y = box.Y + box.Height; await said.CountAsync() == 0 || await said.TextContentAsync() != $"{lines} lines"; y += 6)
        {
            y.ShouldBeLessThan(area.Y + 40 * 30);
            await Page.Mouse.MoveAsync(x, y);
        }

        await Page.Mouse.UpAsync();
    }

    public override async Task Fill(params (string Property, string Value)[] properties)
    {
        foreach (var (property, value) in properties)
        {
            await Click(Page.GetByLabel(property, new() { Exact = true }).First, 0.5, 0.5);
            await Type(value);
        }

        // Clicking elsewhere in the pane is leaving it.
        await Click(Page.Locator(".properties-head"));
    }

    public override Task Confirm(string button) => Click(Page.GetByRole(AriaRole.Button, new() { Name = button, Exact = true }), 0.5, 0.5);

    public override Task Undo() => Click(Page.GetByRole(AriaRole.Button, new() { Name = "Undo", Exact = true }), 0.5, 0.5);
}

public sealed class KeyboardHands(Window window) : Hands(window)
{
    public override string With => "keyboard";

    public override async Task Select(Part part)
    {
        await Do($"Go to {part.Name}");
        await Assertions.Expect(Page.Locator($".mark-selected[data-for='{part.Node}']")).ToHaveCountAsync(1);
    }

    public override async Task Select(Part first, Part last, int steps)
    {
        await Select(first);
        if (steps > 3)
        {
            await Do($"Select up to {last.Name}");
        }
        else
        {
            for (var step = 0; step < steps; step++)
            {
                await Page.Keyboard.PressAsync("Shift+ArrowDown");
                await Assertions.Expect(Page.Locator(".mark-selected")).ToHaveCountAsync(step + 2);
            }
        }

        await Assertions.Expect(Page.Locator(".mark-selected")).ToHaveCountAsync(steps + 1);
    }

    public override async Task Do(string command, bool onSelection = true)
    {
        await Page.Keyboard.PressAsync("Control+k");
        await Page.Locator(".commands input").WaitForAsync();
        await Type(command);
        await Page.Keyboard.PressAsync("Enter");
        await Page.Locator(".commands").WaitForAsync(new() { State = WaitForSelectorState.Detached });
    }

    public override async Task Place(string entry, string command, Part at, string place)
    {
        await Select(at);
        await Do(command, onSelection: false);
    }

    public override Task PlaceNext(string entry, string command) => Do(command, onSelection: false);

    public override Task Move(Part part, Part to, double across, double down, string place) =>
        Do($"Move {part.Name} {place} {to.Name}", onSelection: false);

    public override Task ToTab(Part part, Part tab) => Do($"Move {part.Name} to the tab {tab.Name}", onSelection: false);

    public override Task Open(Part tab) => Task.CompletedTask;

    public override Task<int> ToTab(Part held, Part tab, Part behind) => Below(held, behind);

    public override async Task<int> Below(Part held, Part to)
    {
        await Page.Keyboard.PressAsync("Control+x");
        await Assertions.Expect(Page.Locator($".canvas [data-node='{held.Node}']")).ToHaveCountAsync(0);
        await Select(to);
        await Page.Keyboard.PressAsync("Control+v");
        return 2;
    }

    public override async Task Columns(Part section, int count)
    {
        if (await Page.Locator(".properties-head h2").TextContentAsync() != section.Name)
        {
            await Select(section);
        }

        await Do($"Arrange in {count} columns");
    }

    public override Task Lines(Part text, int lines) => Fill(("Lines", $"{lines}"));

    public override async Task Fill(params (string Property, string Value)[] properties)
    {
        await Do($"Change {properties[0].Property}");
        foreach (var (property, value) in properties)
        {
            await Assertions.Expect(Page.GetByLabel(property, new() { Exact = true }).First).ToBeFocusedAsync();
            await Type(value);
            await Page.Keyboard.PressAsync("Tab");
        }
    }

    public override async Task Confirm(string button)
    {
        await Page.Locator("dialog[open]").WaitForAsync();
        await Page.Keyboard.PressAsync("Enter");
    }

    public override Task Undo() => Page.Keyboard.PressAsync("Control+z");
}
