using System.Globalization;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Places;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The length meter held against what Chromium draws: every full form of the demo, at three widths, within a tenth.</summary>
public sealed class LengthTests(Chromium chromium)
{
    /// <summary>
    /// Forms whose conditions all hold at once cannot be: the meter counts what the drawing has not. They are measured with their
    /// conditions taken off.
    /// </summary>
    private static Layout Unconditional(Layout layout)
    {
        return Layout.Of(Without(layout.Root));

        static Node Without(Node node) =>
            node with
            {
                Properties = node.Properties.Remove("visible").Remove("modes").Remove("collapsed").Remove("guarded"),
                Children = [.. node.Children.Select(Without)],
            };
    }

    [Fact]
    public async Task The_meter_is_within_a_tenth_of_what_is_drawn()
    {
        var folder = RunningService.NewFolder();
        var layouts = new List<Layout>();
        foreach (var file in Directory.EnumerateFiles(Path.Combine(RunningService.Checkout, "demo"), "*", SearchOption.AllDirectories))
        {
            var target = Path.Combine(folder, Path.GetRelativePath(Path.Combine(RunningService.Checkout, "demo"), file));
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            var text = await File.ReadAllTextAsync(file);
            if (
                file.Contains("/layouts/", StringComparison.Ordinal)
                && DocumentFile.Read(text).Document is Document.OfLayout { Layout: var layout }
            )
            {
                layout = Unconditional(layout);
                layouts.Add(layout);
                text = DocumentFile.Write(new Document.OfLayout(layout));
            }

            await File.WriteAllTextAsync(target, text);
        }

        var catalogue = DocumentFile.Of(
            Directory
                .EnumerateFiles(folder, "*.yaml", SearchOption.AllDirectories)
                .Where(file => !file.EndsWith("people.yaml", StringComparison.Ordinal))
                .Select(file => DocumentFile.Read(File.ReadAllText(file)).Document!)
        );
        await using var service = await HostedService.Of(folder);
        var off = new List<string>();
        foreach (var width in new[] { 400, 820, 1200 })
        {
            await using var cleo = await chromium.Open(service, "Cleo Marsh", width);
            foreach (var layout in layouts.Where(each => each.Kind == "full" && each.Key == each.Entity))
            {
                await cleo.Page.GotoAsync("about:blank");
                await cleo.Go($"records/{layout.Entity}/new");
                await cleo.Page.WaitForTimeoutAsync(300);
                var drawn = await Drawn(cleo);
                var rem = await cleo.Page.EvaluateAsync<double>("() => document.querySelector('.bt-form').clientWidth / 16");
                var assembled = LayoutComposer.Assemble(layout, catalogue);
                var at = assembled
                    .Variants.FirstOrDefault(variant => rem >= variant.Range.From && (variant.Range.Below is not { } below || rem < below))
                    ?.Layout
                    ?? assembled.Base;
                var measured = Length
                    .Measure(at, catalogue.Definitions.Entities[layout.Entity], catalogue.Definitions, (int)Math.Round(rem))
                    .Rem;
                if (Math.Abs(measured - drawn) > drawn / 10)
                {
                    off.Add(
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{layout.Key} at {rem:0.#} rem: {measured:0.#} measured, {drawn:0.#} drawn ({(measured / drawn) - 1:+0%;-0%})"
                        )
                    );
                }
            }
        }

        off.ShouldBeEmpty();
    }

    /// <summary>The height in rem with the longest page of tabs, steps or folds open.</summary>
    private static async Task<double> Drawn(Window window)
    {
        async Task<double> Height() =>
            await window.Page.EvaluateAsync<double>("() => document.querySelector('.bt-measure').offsetHeight / 16");
        var longest = await Height();
        var tabs = window.Page.Locator(".bt-form [role=tab], .bt-form .bt-fold-title, .bt-form .bt-step");
        for (var i = 0; i < await tabs.CountAsync(); i++)
        {
            await tabs.Nth(i).ClickAsync();
            longest = Math.Max(longest, await Height());
        }

        return longest;
    }
}
