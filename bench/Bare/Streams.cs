using System.Collections.Concurrent;
using System.Diagnostics;

namespace Bare;

/// <summary>P9's reference: streams that are held open, and a loop that writes one event to each.</summary>
internal static class Streams
{
    private static readonly ConcurrentDictionary<HttpResponse, TaskCompletionSource> Open = new();

    public static void Map(WebApplication app)
    {
        app.MapGet("/api/events", async (HttpContext http) =>
        {
            http.Response.ContentType = "text/event-stream";
            await http.Response.Body.WriteAsync("event: hello\ndata: {}\n\n"u8.ToArray());
            await http.Response.Body.FlushAsync();
            var gone = new TaskCompletionSource();
            Open[http.Response] = gone;
            http.RequestAborted.Register(() => gone.TrySetResult());
            await gone.Task;
            Open.TryRemove(http.Response, out _);
        });
        app.MapGet("/tell", async () =>
        {
            var begun = Stopwatch.GetTimestamp();
            var bytes = "event: release\ndata: {\"release\":2}\nid: 00000000-1\n\n"u8.ToArray();
            foreach (var (response, _) in Open)
            {
                await response.Body.WriteAsync(bytes);
                await response.Body.FlushAsync();
            }

            return begun.ToString(System.Globalization.CultureInfo.InvariantCulture);
        });
    }
}
