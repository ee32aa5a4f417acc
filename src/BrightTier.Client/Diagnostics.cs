using System.Net;
using System.Net.Http.Headers;
using BrightTier.Contracts;

namespace BrightTier.Client;

/// <summary>
/// Looks at an installation from outside, through whatever stands before it: does everything come through as the service sent it?
/// </summary>
public static class Diagnostics
{
    /// <summary>A clock may be off by this much before tokens and histories begin to confuse.</summary>
    private static readonly TimeSpan ClockMayBeOff = TimeSpan.FromSeconds(30);

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    /// <summary>Every check with what it found, in an order in which each rests on those before.</summary>
    /// <exception cref="UnreachableException">Nobody answers at all.</exception>
    public static async Task<IReadOnlyList<DiagnosticResult>> Examine(Uri address, string? token, CancellationToken cancel)
    {
        // As a browser sees it: nothing unpacked on the way.
        using var http = new HttpClient(
            new SocketsHttpHandler
            {
                ConnectTimeout = Patience,
                AutomaticDecompression = DecompressionMethods.None,
                UseCookies = false,
            }
        )
        {
            BaseAddress = address,
            Timeout = Patience,
        };
        var found = new List<DiagnosticResult>();
        await Answering(http, found, cancel);
        await Standing(http, found, cancel);
        if (token is null)
        {
            found.Add(Doubtful("token", "Without a token the rest cannot be looked at: give one with --token, or sign in."));
            return found;
        }

        http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        using var client = new BrightTierClient(address, token);
        var session = await client.Session(cancel);
        if (session.Person is null)
        {
            found.Add(
                Bad(
                    "token",
                    "The token is not known there, or has expired; or something before the service takes the Authorization header away."
                )
            );
            return found;
        }

        found.Add(Good("token", $"The token is {session.Person.Name}'s."));
        await Form(http, await client.Entities(cancel), found, cancel);
        await Stream(http, found, cancel);
        return found;
    }

    /// <summary>Whether somebody answers, by what clock, and whether others can listen.</summary>
    private static async Task Answering(HttpClient http, List<DiagnosticResult> found, CancellationToken cancel)
    {
        var address = http.BaseAddress!;
        HttpResponseMessage live;
        try
        {
            live = await http.GetAsync("health/live", cancel);
        }
        catch (Exception error) when (UnreachableException.Matches(error, cancel))
        {
            throw new UnreachableException(address, error);
        }

        using (live)
        {
            found.Add(
                live.IsSuccessStatusCode
                    ? Good("answers", "A service answers.")
                    : Bad("answers", $"Something answers {(int)live.StatusCode}, where Bright Tier would answer 200; is the address right?")
            );
            found.Add(
                live.Headers.Date is not { } theirs ? Doubtful("clock", "The answer tells no time.")
                : (theirs - DateTimeOffset.UtcNow).Duration() is var off && off <= ClockMayBeOff
                    ? Good("clock", "Its clock and this machine's agree.")
                : Doubtful("clock", $"Its clock and this machine's are {off.TotalSeconds:0} seconds apart.")
            );
        }

        found.Add(
            address.Scheme != Uri.UriSchemeHttp ? Good("encryption", "The way to it is encrypted.")
            : address.IsLoopback ? Good("encryption", "It is on this machine; nothing travels.")
            : Bad("encryption", "Passwords and tokens travel in the open: put a reverse proxy with TLS before it.")
        );
    }

    /// <summary>Whether it is ready and current, and its pages come through.</summary>
    private static async Task Standing(HttpClient http, List<DiagnosticResult> found, CancellationToken cancel)
    {
        found.Add(
            await StatusOf(http, "health/ready", cancel) is HttpStatusCode.OK
                ? Good("ready", "It is ready.")
                : Bad("ready", "It is not ready: its database does not answer, or is being brought to this version; its log says which.")
        );
        found.Add(
            await StatusOf(http, "health/stale", cancel) is HttpStatusCode.OK
                ? Good("current", "It has the newest release.")
                : Bad("current", "It is cut off from its database: others may have a newer release.")
        );
        using var page = await http.GetAsync("", cancel);
        found.Add(
            page.Headers.Contains("Content-Security-Policy")
            && page.Headers.TryGetValues("X-Content-Type-Options", out var sniff)
            && sniff.Contains("nosniff")
                ? Good("headers", "Its security headers come through.")
                : Bad("headers", "Its security headers do not come through: something before it takes them away.")
        );
        found.Add(
            page.IsSuccessStatusCode
                ? Good("console", "The console is there.")
                : Doubtful("console", "The console is not there; the service was built without it, or Console names another folder.")
        );
    }

    /// <summary>Whether a form is compressed on the way, and costs nothing when it has not changed.</summary>
    private static async Task Form(
        HttpClient http,
        IReadOnlyList<EntitySummary> entities,
        List<DiagnosticResult> found,
        CancellationToken cancel
    )
    {
        if (entities.Count == 0)
        {
            found.Add(Doubtful("forms", "There is no entity yet, and so no form to look at."));
            return;
        }

        using var first = await Get(http, entities[0].Key, null, cancel);
        if (!first.IsSuccessStatusCode || first.Headers.ETag is not { } tag)
        {
            found.Add(
                Bad(
                    "forms",
                    first.IsSuccessStatusCode
                        ? "A form comes without its entity tag: something before the service takes it away, and every opening "
                            + "costs the whole form."
                        : $"A form is answered with {(int)first.StatusCode}."
                )
            );
            return;
        }

        found.Add(
            first.Content.Headers.ContentEncoding.Count > 0
                ? Good("compression", "Forms come compressed.")
                : Doubtful(
                    "compression",
                    "Forms come uncompressed: something before the service unpacks them, or takes Accept-Encoding away."
                )
        );
        using var again = await Get(http, entities[0].Key, tag, cancel);
        found.Add(
            again.StatusCode is HttpStatusCode.NotModified
                ? Good("forms", "A form that has not changed costs nothing.")
                : Doubtful("forms", "A form that has not changed is sent again: something before the service takes If-None-Match away.")
        );
    }

    private static async Task<HttpResponseMessage> Get(HttpClient http, string entity, EntityTagHeaderValue? tag, CancellationToken cancel)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, $"api/forms/{Uri.EscapeDataString(entity)}");
        request.Headers.AcceptEncoding.ParseAdd("gzip");
        if (tag is not null)
        {
            request.Headers.IfNoneMatch.Add(tag);
        }

        return await http.SendAsync(request, cancel);
    }

    /// <summary>Whether events come as they happen: a proxy that gathers them would keep every user on the old release.</summary>
    private static async Task Stream(HttpClient http, List<DiagnosticResult> found, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(Patience);
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "api/events");
            using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, limit.Token);
            using var reader = new StreamReader(await answer.Content.ReadAsStreamAsync(limit.Token));
            var line = await reader.ReadLineAsync(limit.Token);
            found.Add(
                line is not null && answer.IsSuccessStatusCode
                    ? Good("events", "Events come as they happen.")
                    : Bad("events", $"The stream of events ends at once ({(int)answer.StatusCode}).")
            );
        }
        catch (Exception error) when (UnreachableException.Matches(error, cancel))
        {
            found.Add(
                Bad(
                    "events",
                    "No event comes within five seconds: something before the service gathers what it sends. Turn buffering "
                        + "off for /api/events."
                )
            );
        }
    }

    private static async Task<HttpStatusCode> StatusOf(HttpClient http, string path, CancellationToken cancel)
    {
        using var answer = await http.GetAsync(path, cancel);
        return answer.StatusCode;
    }

    private static DiagnosticResult Good(string what, string message) => new(what, "good", message);

    private static DiagnosticResult Doubtful(string what, string message) => new(what, "doubtful", message);

    private static DiagnosticResult Bad(string what, string message) => new(what, "bad", message);
}
