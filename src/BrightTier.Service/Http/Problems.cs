using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Records.Attachment;
using Microsoft.AspNetCore.Diagnostics;

namespace BrightTier.Service.Http;

/// <summary>Stops a request with an answer that says what is wrong, where, and what would be right.</summary>
public sealed class RefusedException(int status, string code, Message detail, IReadOnlyList<ProblemPart>? parts = null)
    : Exception(detail.English)
{
    public int Status => status;

    public string Code => code;

    /// <summary>What is wrong and what would be right, for whoever asked.</summary>
    public Message Detail => detail;

    public IReadOnlyList<ProblemPart>? Parts => parts;
}

/// <summary>The one place where errors become answers: problem details (RFC 9457) with a stable code.</summary>
public static class Problems
{
    public static RefusedException NotFound(Message what, string key, IEnumerable<string>? candidates = null) =>
        new(
            404,
            "not-found",
            Core.Model.Suggestion.Sentence(
                candidates is null
                    ? (Message)$"There is no {what} '{key}'"
                    : $"There is no {what} '{key}'{Core.Model.Suggestion.For(key, [.. candidates])}"
            )
        );

    /// <summary>What is to be archived is named elsewhere; with every place that does.</summary>
    /// <param name="uses">At least one.</param>
    public static RefusedException InUse(string code, Core.Model.Texts name, IReadOnlyList<Core.Composition.Use> uses) =>
        new(
            409,
            code,
            $"'{name}' is in use and was not archived. {uses[0].Message} End that first.",
            [.. uses.Select(use => Part($"{use.Kind.Name()}/{use.Key}/{use.Place.TrimStart('/')}", use.Message, use.As))]
        );

    public static RefusedException Forbidden(Message detail) => new(403, "forbidden", detail);

    public static RefusedException Invalid(Message detail, params ProblemPart[] parts) =>
        new(400, "invalid", detail, parts.Length == 0 ? null : parts);

    public static RefusedException Document(IReadOnlyList<FileProblem> problems) =>
        new(
            422,
            "document-invalid",
            // What is wrong alike in several places is told once.
            problems.DistinctBy(problem => problem.Message.English).Count() == 1
                ? problems[0].At.Line > 0
                    ? Core.Model.Suggestion.Sentence($"{Capital(problems[0].At.ToString())}: {problems[0].Message}")
                    : Core.Model.Suggestion.Sentence(problems[0].Message)
                : $"There are {problems.Count} things wrong with the document.",
            [
                .. problems.Select(problem =>
                    Part(problem.At.Pointer ?? "", problem.Message, null, Positive(problem.At.Line), Positive(problem.At.Column))
                ),
            ]
        );

    public static RefusedException Edit(Refusal refusal) =>
        new(
            422,
            refusal.Code,
            refusal.Message,
            [Part($"/edits/{refusal.Index.ToString(System.Globalization.CultureInfo.InvariantCulture)}", refusal.Message, refusal.Code)]
        );

    private static int? Positive(int number) => number > 0 ? number : null;

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    /// <summary>One of the things that are wrong, at a place of what was sent (RFC 6901).</summary>
    public static ProblemPart Part(string pointer, Message message, string? code = null, int? line = null, int? column = null) =>
        new(pointer, message.ToString(), code, line, column);

    public static async Task Write(HttpContext http, int status, string code, Message detail, IReadOnlyList<ProblemPart>? parts = null)
    {
        http.Response.StatusCode = status;
        if (status is 503)
        {
            http.Response.Headers.RetryAfter = "2";
        }
        else if (status is 401)
        {
            // RFC 9110, 11.6.1, and RFC 6750, 3: how one signs in; a browser does so on a page.
            http.Response.Headers.WWWAuthenticate = "Bearer realm=\"Bright Tier\"";
        }

        var language = RequestLanguage.Of(http);
        http.Response.Headers.ContentLanguage = language;
        http.Response.Headers.AppendCommaSeparatedValues("Vary", "Accept-Language");
        // What was sent comes back in messages: no longer than anybody reads, however long it was.
        var shown = parts?.Take(MostParts).Select(part => part with { Pointer = Cut(part.Pointer), Message = Cut(part.Message) }).ToArray();
        await http.Response.WriteAsJsonAsync(
            new Problem($"https://brighttier.example/problems/{code}", Title(status), status, Cut(detail.In(language)), code, shown),
            WireJson.Default.Problem,
            "application/problem+json",
            http.RequestAborted
        );
    }

    /// <summary>Things to mend that one answer names; who mends these is told of the others next.</summary>
    private const int MostParts = 1_000;

    private const int Longest = 1_500;

    private static string Cut(string text) =>
        text.Length <= Longest ? text : string.Concat(text.AsSpan(0, char.IsHighSurrogate(text[Longest - 1]) ? Longest - 1 : Longest), "…");

    private static string Title(int status) => Microsoft.AspNetCore.WebUtilities.ReasonPhrases.GetReasonPhrase(status);

    /// <summary>What stores throw as what people are told of it.</summary>
    private static Exception? Told(Exception? error) =>
        error switch
        {
            DatabaseAwayException { IsChanged: true } changed => new RefusedException(
                409,
                "database-changed",
                $"The database '{changed.Database}' is another one than its entities say; bring them in line with it: "
                    + $"{Message.Verbatim(changed.Message)}"
            ),
            DatabaseAwayException away => new RefusedException(
                503,
                "database-away",
                $"The database '{away.Database}' does not answer: {Message.Verbatim(away.Message)}"
            ),
            _ => error,
        };

    /// <summary>Turns what was thrown into an answer; what nobody foresaw is logged and answered without its inside.</summary>
    public static void UseProblems(this WebApplication app)
    {
        app.UseExceptionHandler(
            new ExceptionHandlerOptions
            {
                SuppressDiagnosticsCallback = context =>
                    context.Exception
                        is RefusedException
                            or DatabaseAwayException
                            or BadHttpRequestException
                            or JsonException
                            or OperationCanceledException,
                ExceptionHandler = async http =>
                {
                    var error = Told(http.Features.Get<IExceptionHandlerFeature>()?.Error);
                    switch (error)
                    {
                        case RefusedException refused:
                            await Write(http, refused.Status, refused.Code, refused.Detail, refused.Parts);
                            break;
                        case BadHttpRequestException { InnerException: JsonException json }:
                            var pointer = Pointer(json.Path);
                            var message = Unreadable(json);
                            await Write(
                                http,
                                400,
                                "body-invalid",
                                pointer.Length == 0
                                    ? (Message)$"The body is not what this call takes, at its beginning: {message}"
                                    : $"The body is not what this call takes, at {pointer}: {message}",
                                [Part(pointer, message)]
                            );
                            break;
                        case JsonException json:
                            await Write(http, 400, "body-invalid", Message.Verbatim(json.Message));
                            break;
                        case BadHttpRequestException bad:
                            await Write(http, bad.StatusCode, CodeOf(bad), Message.Verbatim(bad.Message));
                            break;
                        case OperationCanceledException:
                            http.Response.StatusCode = 499;
                            break;
                        default:
                            await Write(
                                http,
                                503,
                                "unavailable",
                                $"Something the service rests on did not answer. Nothing was changed; please try again."
                            );
                            break;
                    }
                },
            }
        );
        app.UseStatusCodePages(async context =>
        {
            var http = context.HttpContext;
            if (http.Request.Path.StartsWithSegments("/api", StringComparison.OrdinalIgnoreCase))
            {
                (string code, Message detail) = http.Response.StatusCode switch
                {
                    404 => ("not-found", (Message)$"There is nothing at {http.Request.Path}; /openapi/v1.json lists what there is."),
                    405 => ("method", (Message)$"{http.Request.Method} is not a method of {http.Request.Path}."),
                    415 => ("media-type", (Message)$"The body must be JSON, with Content-Type: application/json."),
                    var other => ("refused", Message.Verbatim(Title(other))),
                };
                await Write(http, http.Response.StatusCode, code, detail);
            }
        });
    }

    private static string CodeOf(BadHttpRequestException bad) =>
        bad.StatusCode switch
        {
            413 => "body-too-large",
            415 => "media-type",
            _ => "request-invalid",
        };

    /// <summary>What the serialiser found wrong with a body, in words of who wrote it rather than of the type it was read into.</summary>
    private static Message Unreadable(JsonException json)
    {
        if (json.InnerException is { } inner)
        {
            return inner is InvalidOperationException or FormatException ? NotOfType() : Message.Verbatim(inner.Message);
        }

        var found = json.Message.Split(" Path:")[0];
        var named = found.Split('\'');
        return found switch
        {
            _ when found.Contains("could not be mapped", StringComparison.Ordinal) && named.Length > 2 =>
                $"there is no '{named[1]}' here; leave it out",
            _ when found.Contains("missing required properties", StringComparison.Ordinal) && named.Length > 2 => (Message)
                $"'{string.Join("', '", named.Skip(3).Where((_, at) => at % 2 == 0))}' is missing",
            _ when found.Contains("could not be converted", StringComparison.Ordinal) => NotOfType(),
            _ => Message.Verbatim(found),
        };
    }

    private static Message NotOfType() => $"this is not of the type that is asked for here";

    /// <summary>From the JSON path of the serialiser ($.edits[0].op) to a JSON pointer.</summary>
    private static string Pointer(string? path) =>
        path is null or "$" ? "" : path[1..].Replace("].", "/", StringComparison.Ordinal).Replace('.', '/').Replace('[', '/').TrimEnd(']');
}
