using System.Net;
using System.Net.Sockets;
using System.Text;
using BrightTier.Testing;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The page of docs/embedding.html, at an origin of its own.</summary>
public sealed class EmbeddingTests(Chromium chromium)
{
    /// <summary>Another site on this machine: every address of it is the page.</summary>
    private sealed class Site : IAsyncDisposable
    {
        private readonly HttpListener listener = new();
        private readonly Task answering;

        public Site(string origin, string html)
        {
            listener.Prefixes.Add(origin + "/");
            listener.Start();
            answering = Answer(Encoding.UTF8.GetBytes(html));
        }

        private async Task Answer(byte[] body)
        {
            try
            {
                while (true)
                {
                    var asked = await listener.GetContextAsync();
                    asked.Response.ContentType = "text/html; charset=utf-8";
                    await asked.Response.OutputStream.WriteAsync(body);
                    asked.Response.Close();
                }
            }
            catch (Exception error) when (error is HttpListenerException or ObjectDisposedException)
            {
                // It is closed.
            }
        }

        public async ValueTask DisposeAsync()
        {
            listener.Close();
            await answering;
        }
    }

    private async Task<(IPage Page, IAsyncDisposable[] All)> Open(
        RunningService service,
        string origin,
        Action<IConsoleMessage>? hears = null
    )
    {
        using var http = await service.Http("ada");
        var html = (await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "docs", "embedding.html")))
            .Replace("http://127.0.0.1:5080", service.Address.ToString().TrimEnd('/'))
            .Replace("bt_put-your-token-here", http.DefaultRequestHeaders.Authorization!.Parameter!);
        var site = new Site(origin, html);
        var context = await chromium.Browser.NewContextAsync();
        context.SetDefaultTimeout(15_000);
        var page = await context.NewPageAsync();
        page.Console += (_, message) => hears?.Invoke(message);
        await page.GotoAsync($"{origin}/");
        return (page, [context, site]);
    }

    private static async Task Close(IEnumerable<IAsyncDisposable> all)
    {
        foreach (var each in all)
        {
            await each.DisposeAsync();
        }
    }

    private static string FreeOrigin()
    {
        using var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        return $"http://127.0.0.1:{((IPEndPoint)probe.LocalEndpoint).Port}";
    }

    [Fact]
    public async Task A_page_of_ones_own_holds_a_form_that_is_typed_in_refused_and_saved()
    {
        var origin = FreeOrigin();
        await using var service = await HostedService.WithDemo(null, "--Origins", origin);
        var (page, all) = await Open(service, origin);
        var port = page.Locator("[data-field=homePort] input");
        await port.FillAsync("Reedham");
        await Assertions.Expect(page.Locator("#state")).ToHaveTextAsync("Not saved: homePort");
        await page.Locator("[data-field=registration] input").FillAsync("SQ-0203");
        await page.GetByRole(AriaRole.Button, new() { Name = "Save" }).ClickAsync();
        await Assertions.Expect(page.Locator("#state")).ToContainTextAsync("has this registration already");
        await Assertions.Expect(page.Locator("[data-field=registration] .bt-error")).ToContainTextAsync("is taken");
        await page.Locator("[data-field=registration] input").FillAsync("SQ-0417");
        await page.GetByRole(AriaRole.Button, new() { Name = "Save" }).ClickAsync();
        await Assertions.Expect(page.Locator("#state")).ToHaveTextAsync("Saved: Kittiwake, SQ-0417");
        using var ada = await service.As("ada");
        (await ada.Record("vessel", 1, CancellationToken.None)).Values.GetProperty("homePort").GetString().ShouldBe("Reedham");

        // The calendar comes from where the module came from, and opens in the element's own tree.
        await page.GetByRole(AriaRole.Tab, new() { Name = "Condition and papers" }).ClickAsync();
        var due = page.Locator("[data-field=surveyDue]");
        await due.GetByRole(AriaRole.Button, new() { Name = "Choose a day" }).ClickAsync();
        await Assertions.Expect(due.Locator(".bt-calendar td:focus")).ToHaveCountAsync(1);
        await page.Keyboard.PressAsync("PageDown");
        await page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(due.Locator(".bt-calendar")).ToHaveCountAsync(0);
        await Assertions.Expect(due.Locator("input")).ToBeFocusedAsync();
        await Close(all);
    }

    [Fact]
    public async Task A_page_the_service_was_not_told_of_gets_nothing()
    {
        await using var service = await HostedService.WithDemo();
        var refused = new TaskCompletionSource();
        var (page, all) = await Open(service, FreeOrigin(), message =>
        {
            if (message.Text.Contains("CORS policy", StringComparison.Ordinal))
            {
                refused.TrySetResult();
            }
        });
        await refused.Task.WaitAsync(TimeSpan.FromSeconds(15));
        await Assertions.Expect(page.Locator(".bt-field")).ToHaveCountAsync(0);
        await Close(all);
    }
}
