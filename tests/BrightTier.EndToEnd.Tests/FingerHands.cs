using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>A configurator at a tablet: taps, and one finger that holds and moves. Nothing hovers, and there is no key.</summary>
public sealed class FingerHands(Window window) : Hands(window)
{
    public override string With => "finger";

    private ILocator At(string node) => Page.Locator($".canvas [data-node='{node}'], .canvas [data-tab='{node}']").First;

    private ILocator Bar(string button) => Page.Locator(".finger-bar").GetByRole(AriaRole.Button, new() { Name = button });

    private async Task Tap(ILocator at, double across = 14, double down = 8)
    {
        var (x, y) = await Spot(at, across, down);
        await Page.Touchscreen.TapAsync(x, y);
    }

    public override async Task Select(Part part)
    {
        if (part.Tab is { } tab && !await At(part.Node).IsVisibleAsync())
        {
            await Tap(At(tab));
        }

        await Tap(At(part.Node));
        await Assertions.Expect(Page.Locator(".mark-selected")).ToHaveCountAsync(1);
    }

    public override async Task Select(Part first, Part last, int steps)
    {
        await Select(first);
        await Tap(Bar("Select several"), 0.5, 0.5);
        string[] all = await Page.EvaluateAsync<string[]>(
            "() => [...document.querySelectorAll('.canvas .bt-item[data-node]')].map(e => e.dataset.node)"
        );
        foreach (var node in all.SkipWhile(node => node != first.Node).Skip(1).Take(steps))
        {
            await Tap(At(node));
        }

        await Assertions.Expect(Page.Locator(".mark-selected")).ToHaveCountAsync(steps + 1);
        await Assertions.Expect(Page.Locator($".mark-selected[data-for='{last.Node}']")).ToHaveCountAsync(1);
    }

    public override async Task Do(string command, bool onSelection = true)
    {
        await Tap(onSelection ? Bar("More…") : Page.GetByRole(AriaRole.Button, new() { Name = "Commands", Exact = true }), 0.5, 0.5);
        await Tap(Page.GetByRole(AriaRole.Option).Filter(new() { Has = Page.GetByText(command, new() { Exact = true }) }).First, 20, 0.5);
    }

    public override async Task Move(Part part, Part to, double across, double down, string place)
    {
        await Select(part);
        await Tap(Bar("Move…"), 0.5, 0.5);
        await Tap(At(to.Node), across, down);
    }

    /// <summary>The lower edge is held and taken down until it says how many lines there are.</summary>
    public override async Task Lines(Part text, int lines)
    {
        await Select(text);
        var edge = Page.Locator(".mark-handle[data-edge='lines']");
        var (x, y) = await Spot(edge, 0.5, 0.5);
        await using var finger = new Finger(await Page.Context.NewCDPSessionAsync(Page));
        await finger.Send("touchStart", x, y);
        var said = edge.Locator("b");
        for (var step = 0; await said.CountAsync() == 0 || await said.TextContentAsync() != $"{lines} lines"; step++)
        {
            step.ShouldBeLessThan(200);
            await finger.Send("touchMove", x, y += 6);
        }

        await finger.Send("touchEnd", x, y);
    }

    public override Task Remove() => Tap(Bar("Hide").Or(Bar("Remove")), 0.5, 0.5);

    public override Task Undo() => Tap(Page.GetByRole(AriaRole.Button, new() { Name = "Undo", Exact = true }), 0.5, 0.5);

    public override Task Place(string entry, string command, Part at, string place) => throw new NotSupportedException();

    public override Task PlaceNext(string entry, string command) => throw new NotSupportedException();

    public override Task Open(Part tab) => throw new NotSupportedException();

    public override Task ToTab(Part part, Part tab) => throw new NotSupportedException();

    public override Task<int> ToTab(Part held, Part tab, Part behind) => throw new NotSupportedException();

    public override Task<int> Below(Part held, Part to) => throw new NotSupportedException();

    public override Task Columns(Part section, int count) => throw new NotSupportedException();

    public override Task Fill(params (string Property, string Value)[] properties) => throw new NotSupportedException();

    public override Task Confirm(string button) => throw new NotSupportedException();

    /// <summary>One finger on the screen, by the browser's own protocol.</summary>
    private sealed class Finger(ICDPSession session) : IAsyncDisposable
    {
        public Task Send(string type, float x, float y) =>
            session.SendAsync(
                "Input.dispatchTouchEvent",
                new() { ["type"] = type, ["touchPoints"] = type == "touchEnd" ? Array.Empty<object>() : new object[] { new { x, y } } }
            );

        public async ValueTask DisposeAsync() => await session.DetachAsync();
    }
}
