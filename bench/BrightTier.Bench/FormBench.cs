using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.Bench;

/// <summary>
/// In Chromium. P6: opening a form, until its last field is painted and takes the focus, beside the same page as plain HTML. P7: a
/// keystroke in a form full of conditions, beside the same form without. P8: dragging over a large form in the designer. P13: what comes
/// over the wire.
/// </summary>
internal static partial class FormBench
{
    private const int Rounds = 11;
    private const int Keystrokes = 400;

    /// <summary>
    /// Notes when the last control is there, has been painted and takes the focus, in milliseconds since the navigation began.
    /// </summary>
    private const string Watch = """
        window.ready = new Promise(done => {
          const last = () =>
            window.lastField && document.querySelector(`.bt-form [data-field="${window.lastField}"] :is(input, select, textarea)`);
          const look = () => {
            if (!last()) return;
            watching.disconnect();
            requestAnimationFrame(() => {
              const painted = new MessageChannel();
              painted.port1.onmessage = () => {
                const control = last();
                control.focus();
                if (document.activeElement === control) done(performance.now());
              };
              painted.port2.postMessage(0);
            });
          };
          const watching = new MutationObserver(look);
          watching.observe(document, { childList: true, subtree: true });
        });
        """;

    /// <summary>
    /// Types into the first field, a letter at a time, and answers how long each took until the page had taken it in, styles and layout
    /// included.
    /// </summary>
    private const string Type = """
        async ([field, count]) => {
          const input = document.querySelector(`.bt-form [data-field="${field}"] input`);
          const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
          const times = [];
          for (let i = 0; i < count; i++) {
            const began = performance.now();
            set.call(input, 'x'.repeat(1 + i % 20));
            input.dispatchEvent(new InputEvent('input', { bubbles: true }));
            await Promise.resolve();
            document.body.offsetHeight;
            times.push(performance.now() - began);
            if (i % 20 === 0) await new Promise(next => setTimeout(next));
          }
          return times;
        }
        """;

    public static async Task<IReadOnlyList<Result>> Run(
        Func<Uri, string?, System.Diagnostics.Process> bare,
        Func<Uri> free,
        Func<Uri, Task> ready
    )
    {
        Console.WriteLine("P6, P7: forms in Chromium");
        var results = new List<Result>();
        await using var service = await ServiceProcess.Of(Seed(Directory.CreateTempSubdirectory("bright-tier-bench-").FullName));
        using var playwright = await Playwright.CreateAsync();
        await using var browser = await Browser(playwright);
        var context = await browser.NewContextAsync(
            new()
            {
                ViewportSize = new() { Width = 1280, Height = 800 },
            }
        );
        var page = await context.NewPageAsync();
        await page.GotoAsync(service.Address.ToString());
        await page.GetByRole(AriaRole.Button, new() { Name = "Greta Root" }).ClickAsync();
        await page.Locator(".menu").WaitForAsync();

        var site = Directory.CreateTempSubdirectory("bright-tier-bench-").FullName;
        foreach (var size in new[] { 200, 500 })
        {
            await page.GotoAsync("about:blank");
            await page.GotoAsync($"{service.Address}records/form{size}/new");
            await page.Locator($".bt-form [data-field='f{size}']").WaitForAsync();
            await File.WriteAllTextAsync(
                Path.Combine(site, $"form{size}.html"),
                "<!doctype html>" + Scripts().Replace(await page.EvaluateAsync<string>("document.documentElement.outerHTML"), "")
            );
        }

        var assets = Path.Combine(RunningService.Checkout, "web", "console", "dist", "assets");
        Directory.CreateDirectory(Path.Combine(site, "assets"));
        foreach (var file in Directory.EnumerateFiles(assets).Where(file => Path.GetExtension(file) is ".css" or ".woff2"))
        {
            File.Copy(file, Path.Combine(site, "assets", Path.GetFileName(file)));
        }

        var address = free();
        using var reference = bare(address, site);
        await ready(address);
        foreach (var size in new[] { 200, 500 })
        {
            results.Add(await Opening(context, size, address, service.Address));
        }

        reference.Kill();
        results.Add(await Bytes(context, "run a form", $"{service.Address}records/form200/new", ".bt-form [data-field='f200']", 80));
        results.Add(await Bytes(context, "open the designer", $"{service.Address}design/form200", ".canvas [data-field='f200']", 300));
        results.AddRange(await Dragging(context, $"{service.Address}design/form500"));
        results.Add(await Typing(page, service.Address));
        return results;
    }

    private static Task<IBrowser> Browser(IPlaywright playwright) =>
        playwright.Chromium.LaunchAsync(
            new()
            {
                ExecutablePath = "/usr/bin/chromium-headless-shell",
                Args =
                [
                    "--headless",
                    "--no-sandbox",
                    "--disable-gpu",
                    "--disable-quic",
                    "--no-first-run",
                    "--disable-background-networking",
                    "--disable-component-update",
                    "--disable-sync",
                ],
                IgnoreDefaultArgs = ["--hide-scrollbars"],
            }
        );

    private static async Task<Result> Opening(IBrowserContext context, int size, Uri bare, Uri service)
    {
        var measured = await context.NewPageAsync();
        await measured.AddInitScriptAsync($"window.lastField = 'f{size}';" + Watch);
        var (ours, plain) = (new List<double>(), new List<double>());
        for (var round = 0; round < Rounds + 3; round++)
        {
            var one = await Open(measured, $"{bare}form{size}.html");
            var other = await Open(measured, $"{service}records/form{size}/new");
            if (round >= 3)
            {
                plain.Add(one);
                ours.Add(other);
            }
        }

        Console.WriteLine($"  {size} fields: {Listed(ours)} ms; plain HTML {Listed(plain)} ms");
        await measured.CloseAsync();
        return Result.Of($"P6 open a form of {size} fields", Median(ours), "ms", Median(plain), 1.1, "lower");

        static string Listed(List<double> times) =>
            string.Join(' ', times.Select(each => each.ToString("0", CultureInfo.InvariantCulture)));
    }

    private static async Task<Result> Typing(IPage page, Uri service)
    {
        var (with, without) = (new List<double>(), new List<double>());
        for (var round = 0; round < 6; round++)
        {
            foreach (var (form, times) in new[] { ("conditions", with), ("plain", without) })
            {
                await page.GotoAsync("about:blank");
                await page.GotoAsync($"{service}records/{form}/new");
                await page.Locator(".bt-form [data-field='f201']").WaitForAsync();
                var taken = await page.EvaluateAsync<double[]>(Type, new object[] { "f1", Keystrokes });
                if (round > 0)
                {
                    times.AddRange(taken);
                }
            }
        }

        return Result.More("P7 a keystroke with 200 conditions", Median(with), Median(without), 1);
    }

    /// <summary>
    /// What comes over the wire with nothing in the cache, compressed with gzip, the typeface left out: it is there before the second page.
    /// </summary>
    private static async Task<Result> Bytes(IBrowserContext context, string what, string address, string until, double target)
    {
        var page = await context.NewPageAsync();
        var wire = await context.NewCDPSessionAsync(page);
        var (bytes, fonts) = (0d, new HashSet<string>());
        wire.Event("Network.responseReceived").OnEvent += (_, told) =>
        {
            if (told!.Value.GetProperty("type").GetString() == "Font")
            {
                fonts.Add(told.Value.GetProperty("requestId").GetString()!);
            }
        };
        wire.Event("Network.loadingFinished").OnEvent += (_, told) =>
            bytes += fonts.Contains(told!.Value.GetProperty("requestId").GetString()!)
                ? 0
                : told.Value.GetProperty("encodedDataLength").GetDouble();
        await wire.SendAsync("Network.enable");
        await wire.SendAsync("Network.setCacheDisabled", new() { ["cacheDisabled"] = true });
        await wire.SendAsync(
            "Network.setExtraHTTPHeaders",
            new() { ["headers"] = new Dictionary<string, string> { ["Accept-Encoding"] = "gzip" } }
        );
        await page.GotoAsync(address);
        await page.Locator(until).WaitForAsync();
        await Task.Delay(500);
        await page.CloseAsync();
        return Result.Of($"P13 {what}", bytes / 1_000, "kB", target, 1, "lower");
    }

    private static async Task<double> Open(IPage page, string address)
    {
        await page.GotoAsync("about:blank");
        await Idle();
        await page.GotoAsync(address, new() { WaitUntil = WaitUntilState.Commit });
        return await page.EvaluateAsync<double>("window.ready");
    }

    /// <summary>
    /// Waits until the machine has next to nothing to do for a tenth of a second, so that neither page pays for what the other left behind;
    /// three seconds at most.
    /// </summary>
    private static async Task Idle()
    {
        for (var waited = 0; waited < 30; waited++)
        {
            var before = Jiffies();
            await Task.Delay(100);
            var after = Jiffies();
            if (after.Idle - before.Idle >= 0.95 * (after.All - before.All))
            {
                return;
            }
        }

        // The first line of /proc/stat: user, nice, system, idle, waiting for disks, interrupts and so on, in hundredths of a second of all
        // processors.
        static (double Idle, double All) Jiffies()
        {
            var all = File.ReadLines("/proc/stat")
                .First()
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Skip(1)
                .Select(each => double.Parse(each, CultureInfo.InvariantCulture))
                .ToArray();
            return (all[3] + all[4], all.Sum());
        }
    }

    /// <summary>Notes how long it is from a key to the first frame with the form changed by it.</summary>
    private const string Typed = """
        () => {
          let at;
          addEventListener('keydown', () => { at = performance.now(); }, true);
          new MutationObserver(() => {
            if (at === undefined) return;
            const began = at;
            at = undefined;
            requestAnimationFrame(() => {
              const painted = new MessageChannel();
              painted.port1.onmessage = () => { window.shown = performance.now() - began; };
              painted.port2.postMessage(0);
            });
          }).observe(document.querySelector('.canvas .bt-form'), { childList: true, subtree: true, characterData: true });
        }
        """;

    /// <summary>
    /// Notes how many frames and milliseconds it is from a drop until the sheet shows what it comes to, and until the form itself is drawn
    /// anew with it and what was only shown is gone.
    /// </summary>
    private const string Drop = """
        () => {
          let at, frames;
          const count = () => { frames++; requestAnimationFrame(count); };
          requestAnimationFrame(count);
          addEventListener('drop', () => { at = performance.now(); frames = 0; window.seen = window.redrawn = undefined; }, true);
          const afterFrame = then => requestAnimationFrame(() => {
            const painted = new MessageChannel();
            painted.port1.onmessage = then;
            painted.port2.postMessage(0);
          });
          const form = document.querySelector('.canvas .bt-form');
          const layer = document.querySelector('.canvas-layer');
          new MutationObserver(() => {
            if (at === undefined) return;
            const began = at;
            if (!window.seen && form.querySelector('[data-dropped]')) {
              window.seen = {};
              const before = frames;
              afterFrame(() => { window.seen = { after: performance.now() - began, frames: before + 1 }; });
            }
            if (window.seen && !layer.hasAttribute('data-showing')) {
              at = undefined;
              afterFrame(() => { window.redrawn = performance.now() - began; });
            }
          }).observe(document.querySelector('.canvas'), { childList: true, subtree: true, attributes: true });
        }
        """;

    private static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);

    /// <summary>Forms of 200 and 500 fields, and one full of conditions; the folder given.</summary>
    public static string Seed(string folder)
    {
        Directory.CreateDirectory(Path.Combine(folder, "entities"));
        Directory.CreateDirectory(Path.Combine(folder, "layouts"));
        foreach (var file in new[] { "application.yaml", "people.yaml" })
        {
            File.Copy(Path.Combine(RunningService.Checkout, "demo", file), Path.Combine(folder, file));
        }

        foreach (var (key, count) in new[] { ("form200", 200), ("form500", 500), ("conditions", 201), ("plain", 201) })
        {
            var entity = new StringBuilder().Append(
                CultureInfo.InvariantCulture,
                $"kind: entity\nkey: {key}\nlabel: Survey {key}\ndisplay: \"{{f1}}\"\nfields:\n"
            );
            var layout = new StringBuilder().Append(
                CultureInfo.InvariantCulture,
                $"kind: full\nkey: {key}\nentity: {key}\nbody:\n  pages:\n    - id: page\n      sections:\n        - id: "
                    + $"all\n          rows:\n"
            );
            for (var i = 1; i <= count; i++)
            {
                var type = (i % 8) switch
                {
                    2 => "decimal",
                    3 => "date",
                    4 => "integer",
                    5 => "boolean",
                    6 => "email",
                    _ => "text",
                };
                entity.Append(
                    CultureInfo.InvariantCulture,
                    $"  - key: f{i}\n    label: Frame {i} measured\n    type: {(i is 1 || i == count ? "text" : type)}\n"
                );
                layout.Append(
                    CultureInfo.InvariantCulture,
                    $"            {(i % 4 == 1 ? "- -" : "  -")} field: "
                        + $"f{i}\n{(key == "conditions" && i > 1 ? $"                visible: record.f1 != 'frame {i}'\n" : "")}"
                );
            }

            File.WriteAllText(Path.Combine(folder, "entities", key + ".yaml"), entity.ToString());
            File.WriteAllText(Path.Combine(folder, "layouts", key + ".yaml"), layout.ToString());
        }

        return folder;
    }

    [GeneratedRegex("<script.*?</script>|<link rel=\"modulepreload\"[^>]*>", RegexOptions.Singleline)]
    private static partial Regex Scripts();
}
