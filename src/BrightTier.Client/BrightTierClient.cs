using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using BrightTier.Contracts;

namespace BrightTier.Client;

/// <summary>The service said no: its problem, with the stable code.</summary>
public sealed class RefusedException(Problem problem) : Exception(problem.Detail ?? problem.Title)
{
    public Problem Problem => problem;
}

/// <summary>The service could not be reached.</summary>
public sealed class UnreachableException(Uri address, Exception inner)
    : Exception($"There is no answer from {address}: {Reason(inner)}", inner)
{
    /// <summary>What went wrong, not that something did: of a certificate that is not trusted, why.</summary>
    private static string Reason(Exception error) =>
        error.InnerException is System.Security.Authentication.AuthenticationException { Message: var why }
            ? $"its certificate is not one this machine trusts. {why}"
            : error.Message;

    /// <summary>
    /// Whether a call failed since nobody answered: none to connect to, cut off on the way, or silent for too long. What was called off by
    /// whoever asked is none.
    /// </summary>
    internal static bool Matches(Exception error, CancellationToken cancel) =>
        error is HttpRequestException or IOException or SocketException
        || (error is OperationCanceledException && !cancel.IsCancellationRequested);
}

/// <summary>A file as the service holds it: its text and the revision it is at.</summary>
public sealed record FileText(string Text, string Tag);

/// <summary>
/// A typed client of the service's HTTP interface. Every call throws <see cref="RefusedException"/> or <see cref="UnreachableException"/>
/// when it does not come about.
/// </summary>
public sealed partial class BrightTierClient : IDisposable
{
    private readonly HttpClient http;
    private volatile string? position;

    public BrightTierClient(Uri address, string? token, HttpMessageHandler? handler = null)
    {
        Address = address;
        http = new HttpClient(handler ?? new SocketsHttpHandler { ConnectTimeout = TimeSpan.FromSeconds(5) })
        {
            BaseAddress = address,
            Timeout = Timeout.InfiniteTimeSpan,
        };
        if (token is not null)
        {
            http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        }
    }

    /// <summary>How long an answer may take, save for what is known to take its time.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    public Uri Address { get; }

    public void Dispose() => http.Dispose();

    private async Task Do(HttpMethod method, string path, HttpContent? body, CancellationToken cancel)
    {
        using var answer = await Ask(method, path, body, null, cancel);
    }

    private static string Escape(string part) => Uri.EscapeDataString(part);

    private static string Number(long number) => number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static string Part(string name, string? value) => value is null ? "" : $"&{name}={Escape(value)}";

    private static void Precondition(HttpRequestMessage request, string? tag)
    {
        if (tag is null)
        {
            request.Headers.IfNoneMatch.Add(EntityTagHeaderValue.Any);
        }
        else
        {
            request.Headers.IfMatch.Add(new EntityTagHeaderValue(tag));
        }
    }

    private static ByteArrayContent Body<T>(T value, JsonTypeInfo<T> type)
    {
        var content = new ByteArrayContent(JsonSerializer.SerializeToUtf8Bytes(value, type));
        content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
        return content;
    }

    private Task<T> Get<T>(string path, JsonTypeInfo<T> type, CancellationToken cancel) =>
        Send(HttpMethod.Get, path, null, type, null, cancel);

    private async Task<T> Send<T>(
        HttpMethod method,
        string path,
        HttpContent? body,
        JsonTypeInfo<T> type,
        Action<HttpRequestMessage>? prepare,
        CancellationToken cancel
    )
    {
        using var answer = await Ask(method, path, body, prepare, cancel);
        await using var stream = await answer.Content.ReadAsStreamAsync(cancel);
        // A service of a newer version may say more.
        return (await JsonSerializer.DeserializeAsync(stream, (JsonTypeInfo<T>)WireJson.Lenient.GetTypeInfo(typeof(T))!, cancel))!;
    }

    private async Task<HttpResponseMessage> Ask(
        HttpMethod method,
        string path,
        HttpContent? body,
        Action<HttpRequestMessage>? prepare,
        CancellationToken cancel,
        HttpCompletionOption completion = HttpCompletionOption.ResponseContentRead
    )
    {
        using var request = new HttpRequestMessage(method, path) { Content = body };
        prepare?.Invoke(request);
        if (position is not null)
        {
            request.Headers.Add(WireHeaders.Position, position);
        }

        HttpResponseMessage answer;
        try
        {
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(completion is HttpCompletionOption.ResponseHeadersRead ? Timeout.InfiniteTimeSpan : Patience);
            answer = await http.SendAsync(request, completion, limit.Token);
        }
        catch (Exception error) when (UnreachableException.Matches(error, cancel))
        {
            throw new UnreachableException(Address, error);
        }

        if (answer.IsSuccessStatusCode)
        {
            // What was written is read back, whichever process and whichever copy of the database answers next.
            position = answer.Headers.TryGetValues(WireHeaders.Position, out var told) ? told.First() : position;
            return answer;
        }

        var text = await answer.Content.ReadAsStringAsync(cancel);
        answer.Dispose();
        Problem? problem = null;
        try
        {
            problem = JsonSerializer.Deserialize(text, WireJson.Lenient.Problem);
        }
        catch (JsonException)
        {
            // Something in between answered in its own way; its status must do.
        }

        throw new RefusedException(problem ?? new Problem(null, answer.ReasonPhrase ?? "", (int)answer.StatusCode, null, "unexpected"));
    }
}
