using BrightTier.Testing;
using Microsoft.Playwright;

[assembly: AssemblyFixture(typeof(BrightTier.EndToEnd.Tests.Chromium))]

namespace BrightTier.EndToEnd.Tests;

/// <summary>One headless Chromium for all tests; each person has a window of their own.</summary>
public sealed class Chromium : IAsyncLifetime
{
    private static readonly string[] Arguments =
    [
        "--headless",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
    ];

    /// <summary>With scrollbars, as on a desk: the driver would hide them, and what they cover.</summary>
    private static readonly string[] NotAsked = ["--hide-scrollbars"];

    /// <summary>Chromium built to be driven, without the frame of a desktop program, which it would paint for nobody.</summary>
    private const string Program = "/usr/bin/chromium-headless-shell";

    /// <summary>How long something is waited for, in milliseconds.</summary>
    private const int Patience = 30_000;

    private IPlaywright playwright = null!;

    public IBrowser Browser { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        // Several tests share few processors: what comes late is no fault, what does not come is.
        Assertions.SetDefaultExpectTimeout(Patience);
        playwright = await Playwright.CreateAsync();
        Browser = await playwright.Chromium.LaunchAsync(
            new()
            {
                ExecutablePath = Program,
                Args = Arguments,
                IgnoreDefaultArgs = NotAsked,
            }
        );
    }

    public async ValueTask DisposeAsync()
    {
        await Browser.DisposeAsync();
        playwright.Dispose();
    }

    /// <summary>
    /// A window in which a person is signed in. Whatever the page says is wrong fails the test that looks at
    /// <see cref="Window.Complaints"/>.
    /// </summary>
    public async Task<Window> Open(
        RunningService service,
        string person,
        int width = 1280,
        ColorScheme theme = ColorScheme.Light,
        int scale = 1
    ) =>
        await Known(
            await Browser.NewContextAsync(
                new()
                {
                    BaseURL = service.Address.ToString(),
                    ViewportSize = new() { Width = width, Height = 800 / scale },
                    DeviceScaleFactor = scale,
                    ColorScheme = theme,
                }
            ),
            person
        );

    /// <summary>A window in which nobody has signed in.</summary>
    public async Task<Window> OpenForNobody(RunningService service)
    {
        var window = await In(
            await Browser.NewContextAsync(
                new()
                {
                    BaseURL = service.Address.ToString(),
                    ViewportSize = new() { Width = 1280, Height = 800 },
                }
            )
        );
        await window.Page.GotoAsync("/");
        return window;
    }

    /// <summary>The same under a finger: on a phone, or on a screen as wide as is said.</summary>
    public async Task<Window> Touch(RunningService service, string person, int width = 390) =>
        await Known(
            await Browser.NewContextAsync(
                new()
                {
                    BaseURL = service.Address.ToString(),
                    ViewportSize = new() { Width = width, Height = 800 },
                    HasTouch = true,
                    IsMobile = true,
                    DeviceScaleFactor = 2,
                }
            ),
            person
        );

    /// <summary>A browser of its own that keeps what it knows in a folder, as one on a desk does.</summary>
    public async Task<Window> Kept(RunningService service, string folder, string person) =>
        await SignedIn(
            await playwright.Chromium.LaunchPersistentContextAsync(
                folder,
                new()
                {
                    ExecutablePath = Program,
                    Args = Arguments,
                    IgnoreDefaultArgs = NotAsked,
                    BaseURL = service.Address.ToString(),
                    ViewportSize = new() { Width = 1280, Height = 800 },
                }
            ),
            person
        );

    /// <summary>Ends the browsers that were started over a folder, without warning.</summary>
    public static void Kill(string folder)
    {
        foreach (
            var process in System
                .Diagnostics.Process.GetProcesses()
                .Where(each => each.ProcessName.StartsWith("chromium", StringComparison.Ordinal))
        )
        {
            try
            {
                if (File.ReadAllText($"/proc/{process.Id}/cmdline").Contains(folder, StringComparison.Ordinal))
                {
                    process.Kill();
                }
            }
            catch (IOException)
            {
                // It ended by itself between the two looks.
            }
        }
    }

    /// <summary>Where somebody has signed in already, by the call the page makes: no page is open yet.</summary>
    private static async Task<Window> Known(IBrowserContext context, string person)
    {
        var answer = await context.APIRequest.PostAsync(
            "/api/session",
            new() { DataObject = new { person = person.Split(' ')[0].ToLowerInvariant() } }
        );
        answer.Ok.ShouldBeTrue(await answer.TextAsync());
        return await In(context);
    }

    private static async Task<Window> In(IBrowserContext context)
    {
        context.SetDefaultTimeout(Patience);
        var page = context.Pages.Count > 0 ? context.Pages[0] : await context.NewPageAsync();
        var complaints = new List<string>();
        page.PageError += (_, error) => complaints.Add(error);
        page.Console += (_, message) =>
        {
            if (message.Type == "error" && !message.Text.Contains("status of 4", StringComparison.Ordinal))
            {
                complaints.Add(message.Text);
            }
        };
        return new Window(page, complaints);
    }

    private static async Task<Window> SignedIn(IBrowserContext context, string person)
    {
        var window = await In(context);
        await window.Page.GotoAsync("/");
        var menu = window.Page.Locator(".menu");
        var choice = window.Page.GetByRole(AriaRole.Button, new() { Name = person });
        // A browser that was used before may still know who sits there.
        await menu.Or(choice).WaitForAsync();
        if (await choice.IsVisibleAsync())
        {
            await choice.ClickAsync();
        }

        await menu.WaitForAsync();
        return window;
    }
}

public sealed record Window(IPage Page, List<string> Complaints) : IAsyncDisposable
{
    public ILocator Field(string field) => Page.Locator($".bt-form [data-field='{field}']");

    public ILocator Control(string field) => Field(field).Locator("input, select, textarea").First;

    public async Task Go(string place, string waitFor = ".bt-form .bt-field")
    {
        await Page.GotoAsync($"/{place}");
        await Page.Locator(waitFor).First.WaitForAsync();
    }

    /// <summary>The fields of each drawn row, as one sees them.</summary>
    public async Task<IReadOnlyList<string>> Rows() =>
        await Page.EvaluateAsync<string[]>(
            "() => [...document.querySelectorAll('.bt-form .bt-row')].map(row => "
                + "[...row.querySelectorAll('[data-field]')].map(field => field.dataset.field).join(' '))"
        );

    /// <summary>Waits for what follows from the service's answer rather than from the click.</summary>
    public static async Task Eventually(Func<Task> holds)
    {
        for (var attempt = 0; ; attempt++)
        {
            try
            {
                await holds();
                return;
            }
            catch (ShouldAssertException) when (attempt < 80)
            {
                await Task.Delay(100);
            }
        }
    }

    /// <summary>What the page complained of is said even where a test failed before it looked.</summary>
    public ValueTask DisposeAsync()
    {
        foreach (var complaint in Complaints)
        {
            Console.Error.WriteLine($"The page said: {complaint}");
        }

        return new(Page.Context.CloseAsync());
    }
}
