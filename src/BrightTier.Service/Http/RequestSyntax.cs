using Microsoft.Net.Http.Headers;

namespace BrightTier.Service.Http;

/// <summary>What every call must be, whatever it asks: its texts in UTF-8, and of characters that a text can hold.</summary>
public static class RequestSyntax
{
    public static Task Middleware(HttpContext http, RequestDelegate next)
    {
        // RFC 8259, 8.1: JSON that travels is UTF-8; and so is all else that is read here.
        if (
            http.Request.ContentType is { } type
            && type.Contains("charset", StringComparison.OrdinalIgnoreCase)
            && (
                !MediaTypeHeaderValue.TryParse(type, out var media)
                || !HeaderUtilities.RemoveQuotes(media.Charset).Equals("utf-8", StringComparison.OrdinalIgnoreCase)
            )
        )
        {
            throw new RefusedException(415, "media-type", $"The body must be in UTF-8; its Content-Type names another charset.");
        }

        // Escaped, since a parsed query is made only where one is asked for.
        if (http.Request.QueryString.Value is { Length: > 0 } query && query.Contains("%0", StringComparison.Ordinal))
        {
            foreach (var (name, values) in http.Request.Query)
            {
                foreach (var value in values)
                {
                    if (value is not null && Core.Model.TextCharacters.Problem(value) is { } problem)
                    {
                        throw Problems.Invalid($"'{Core.Model.Suggestion.Short(name)}' {problem}.", Problems.Part(name, problem));
                    }
                }
            }
        }

        return next(http);
    }
}
