using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.Bench;

// P8: what a drag, a drop and a keystroke cost in the designer.
internal static partial class FormBench
{
    /// <summary>
    /// P8: a field dragged over a form of more than 1,000 nodes, and dropped, with real mouse events. Work is all the main thread does from
    /// one move to the frame after it, less what asking for it costs.
    /// </summary>
    private static async Task<IReadOnlyList<Result>> Dragging(IBrowserContext context, string address)
    {
        const int Drops = 11;
        var page = await context.NewPageAsync();
        var wire = await context.NewCDPSessionAsync(page);
        await wire.SendAsync("Performance.enable");
        await page.GotoAsync(address);
        await page.Locator(".canvas [data-field='f500']").WaitForAsync();
        await page.EvaluateAsync(Drop);
        await Task.Delay(500);
        // What asking costs by itself, a frame included, is no work of the drag.
        var asking = new List<double>();
        for (var i = 0; i < 24; i++)
        {
            var before = await Busy(wire);
            await page.EvaluateAsync("() => new Promise(requestAnimationFrame)");
            asking.Add((await Busy(wire) - before) * 1_000);
        }

        var (work, drops, seen, frames) = (new List<double>(), new List<double>(), new List<double>(), new List<double>());
        for (var drop = 0; drop < Drops; drop++)
        {
            await Idle();
            // What lies in sight, so that dragging does not also scroll.
            await page.Locator($".canvas [data-field='f{(drop * 4) + 2}']").ScrollIntoViewIfNeededAsync();
            var from = (await page.Locator($".canvas [data-field='f{(drop * 4) + 2}']").BoundingBoxAsync())!;
            await page.Mouse.MoveAsync(from.X + 20, from.Y + 8);
            await page.Mouse.DownAsync();
            await page.Mouse.MoveAsync(from.X + 28, from.Y + 12, new() { Steps = 3 });
            for (var move = 0; move < 24; move++)
            {
                var before = await Busy(wire);
                await page.Mouse.MoveAsync(400 + (move % 6 * 90), 300 + (move * 12));
                await page.EvaluateAsync("() => new Promise(requestAnimationFrame)");
                work.Add(((await Busy(wire) - before) * 1_000) - Median(asking));
            }

            await page.Mouse.UpAsync();
            var told = await page.EvaluateAsync<double[]>(
                "async () => { for (let i = 0; i < 200 && !window.redrawn; i++) await new Promise(next => setTimeout(next, 10)); "
                    + "return [window.seen?.frames ?? 99, window.seen?.after ?? 2000, window.redrawn ?? 2000]; }"
            );
            frames.Add(told[0]);
            seen.Add(told[1]);
            drops.Add(told[2]);
        }

        await page.Locator(".canvas [data-field='f3']").ScrollIntoViewIfNeededAsync();
        await page.Locator(".canvas-layer").ClickAsync(new() { Position = await Within(page, "f3") });
        var label = page.Locator(".properties input[id$='-label']");
        await label.FocusAsync();
        await page.EvaluateAsync(Typed);
        await Idle();
        var typed = new List<double>();
        for (var letter = 0; letter < 40; letter++)
        {
            await page.EvaluateAsync("window.shown = undefined");
            await label.PressAsync("x");
            typed.Add(
                await page.EvaluateAsync<double>(
                    "async () => { for (let i = 0; i < 200 && window.shown === undefined; i++) await new Promise(next => "
                        + "setTimeout(next, 5)); return window.shown ?? 1000; }"
                )
            );
        }

        await page.CloseAsync();
        return
        [
            Result.Of("P8 typing into a property until the form shows it", Median(typed), "ms", 50, 1, "lower"),
            Result.Of(
                "P8 main-thread work in 95 % of the frames of a drag over 1,000 nodes",
                work.Order().ElementAt((int)(work.Count * 0.95)),
                "ms",
                8,
                1,
                "lower"
            ),
            Result.Of("P8 a drop until the sheet shows it", Median(seen), "ms", 50, 1, "lower"),
            Result.Of("P8 behind it, until the form itself is drawn anew", Median(drops), "ms", 100, 1, "lower"),
            Result.Of("P16 from pointer-up to the result on the sheet", Median(frames), "frames", 1, 1, "lower"),
        ];
    }

    private static async Task<double> Busy(ICDPSession wire) =>
        (await wire.SendAsync("Performance.getMetrics"))!
            .Value.GetProperty("metrics")
            .EnumerateArray()
            .First(metric => metric.GetProperty("name").GetString() == "TaskDuration")
            .GetProperty("value")
            .GetDouble();

    /// <summary>Where a field is drawn on the layer one works on.</summary>
    private static async Task<Position> Within(IPage page, string field)
    {
        var (on, of) = (
            (await page.Locator($".canvas [data-field='{field}']").BoundingBoxAsync())!,
            (await page.Locator(".canvas-layer").BoundingBoxAsync())!
        );
        return new() { X = on.X - of.X + 20, Y = on.Y - of.Y + 8 };
    }
}
