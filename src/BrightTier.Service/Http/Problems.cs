using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using Microsoft.AspNetCore.Diagnostics;

namespace BrightTier.Service.Http;

/// <summary>Stops a request with an answer that says what is wrong, where, and what would be right.</summary>
public sealed class RefusedException(int status, string code, string detail, IReadOnlyList<ProblemPart>? parts = null) : Exception(detail)
{
    public int Status => status;

    public string Code => code;

    public IReadOnlyList<ProblemPart>? Parts => parts;
}

/// <summary>The one place where errors become answers: problem details (RFC 9457) with a stable code.</summary>
public static class Problems
{
    public static RefusedException NotFound(string what, string key, IEnumerable<string>? candidates = null) =>
        new(
            404,
            "not-found",
            Core.Model.Suggestion.Sentence(
                $"There is no {what} '{key}'{(candidates is null ? "" : Core.Model.Suggestion.For(key, [.. candidates]))}"
            )
        );

    public static RefusedException Forbidden(string detail) => new(403, "forbidden", detail);

    public static RefusedException Invalid(string detail, params ProblemPart[] parts) =>
        new(400, "invalid", detail, parts.Length == 0 ? null : parts);

    public static RefusedException Document(IReadOnlyList<FileProblem> problems) =>
        new(
            422,
            "document-invalid",
            problems.Count == 1
                ? $"{Capital(problems[0].At.ToString())}: {problems[0].Message}."
                : $"There are {problems.Count} things wrong with the document.",
            [
                .. problems.Select(problem => new ProblemPart(
                    problem.At.Pointer ?? "",
                    problem.Message,
                    null,
                    Positive(problem.At.Line),
                    Positive(problem.At.Column)
                )),
            ]
        );

    public static RefusedException Edit(Refusal refusal) =>
        new(
            422,
            refusal.Code,
            refusal.Message,
            [
                new ProblemPart(
                    $"/edits/{refusal.Index.ToString(System.Globalization.CultureInfo.InvariantCulture)}",
                    refusal.Message,
                    refusal.Code
                ),
            ]
        );

    private static int? Positive(int number) => number > 0 ? number : null;

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    public static async Task Write(HttpContext http, int status, string code, string detail, IReadOnlyList<ProblemPart>? parts = null)
    {
        http.Response.StatusCode = status;
        if (status is 503)
        {
            http.Response.Headers.RetryAfter = "2";
        }

        // What was sent comes back in messages: no longer than anybody reads, however long it was.
        var shown = parts?.Take(MostParts).Select(part => part with { Pointer = Cut(part.Pointer), Message = Cut(part.Message) }).ToArray();
        await http.Response.WriteAsJsonAsync(
            new Problem($"https://brighttier.example/problems/{code}", Title(status), status, Cut(detail), code, shown),
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

    /// <summary>Turns what was thrown into an answer; what nobody foresaw is logged and answered without its inside.</summary>
    public static void UseProblems(this WebApplication app)
    {
        app.UseExceptionHandler(
            new ExceptionHandlerOptions
            {
                SuppressDiagnosticsCallback = context =>
                    context.Exception is RefusedException or BadHttpRequestException or JsonException or OperationCanceledException,
                ExceptionHandler = async http =>
                {
                    var error = http.Features.Get<IExceptionHandlerFeature>()?.Error;
                    switch (error)
                    {
                        case RefusedException refused:
                            await Write(http, refused.Status, refused.Code, refused.Message, refused.Parts);
                            break;
                        case BadHttpRequestException { InnerException: JsonException json }:
                            var pointer = Pointer(json.Path);
                            var message = json.InnerException is null ? json.Message.Split(" Path:")[0] : json.InnerException.Message;
                            await Write(
                                http,
                                400,
                                "body-invalid",
                                $"The body is not what this call takes, at {(pointer.Length == 0 ? "its beginning" : pointer)}: {message}",
                                [new ProblemPart(pointer, message)]
                            );
                            break;
                        case JsonException json:
                            await Write(http, 400, "body-invalid", json.Message);
                            break;
                        case BadHttpRequestException bad:
                            await Write(
                                http,
                                bad.StatusCode,
                                bad.StatusCode switch
                                {
                                    413 => "body-too-large",
                                    415 => "media-type",
                                    _ => "request-invalid",
                                },
                                bad.Message
                            );
                            break;
                        case OperationCanceledException:
                            http.Response.StatusCode = 499;
                            break;
                        default:
                            await Write(
                                http,
                                503,
                                "unavailable",
                                "Something the service rests on did not answer. Nothing was changed; please try again."
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
                var (code, detail) = http.Response.StatusCode switch
                {
                    404 => ("not-found", $"There is nothing at {http.Request.Path}; /openapi/v1.json lists what there is."),
                    405 => ("method", $"{http.Request.Method} is not a method of {http.Request.Path}."),
                    415 => ("media-type", "The body must be JSON, with Content-Type: application/json."),
                    var other => ("refused", Title(other)),
                };
                await Write(http, http.Response.StatusCode, code, detail);
            }
        });
    }

    /// <summary>From the JSON path of the serialiser ($.edits[0].op) to a JSON pointer.</summary>
    private static string Pointer(string? path) =>
        path is null or "$" ? "" : path[1..].Replace("].", "/", StringComparison.Ordinal).Replace('.', '/').Replace('[', '/').TrimEnd(']');
}
