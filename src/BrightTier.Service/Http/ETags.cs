using System.Globalization;

namespace BrightTier.Service.Http;

/// <summary>Entity tags of what has a revision or version: the number in quotation marks (RFC 9110, 8.8.3).</summary>
public static class ETags
{
    public static string Of(long revision) => string.Create(CultureInfo.InvariantCulture, $"\"{revision}\"");

    /// <summary>Whether who asks has it already: If-None-Match names the tag, weakly or not, or anything (RFC 9110, 13.1.2).</summary>
    public static bool IsKnown(HttpContext http, string tag) =>
        http.Request.Headers.IfNoneMatch.ToString() is { Length: > 0 } known
        && known.Split(',').Any(each => each.Trim() is var one && (one == "*" || Strong(one) == tag));

    /// <summary>A tag that was weakened on its way, by a proxy that compresses, is the one it was.</summary>
    private static string Strong(string tag) => tag.StartsWith("W/", StringComparison.Ordinal) ? tag[2..] : tag;

    /// <summary>The revision a change expects: from If-Match, or 0 from If-None-Match: *.</summary>
    /// <exception cref="RefusedException">428 when the request names none, 400 when it is no revision.</exception>
    public static long Expected(HttpContext http)
    {
        if (http.Request.Headers.IfNoneMatch.ToString() == "*")
        {
            return 0;
        }

        var tag = http.Request.Headers.IfMatch.ToString();
        if (tag.Length == 0)
        {
            throw new RefusedException(
                428,
                "precondition-required",
                $"Say in If-Match which revision this changes (the ETag it was read with), or If-None-Match: * for something new."
            );
        }

        return long.TryParse(Strong(tag).Trim('"'), NumberStyles.None, CultureInfo.InvariantCulture, out var revision)
            ? revision
            : throw Problems.Invalid($"If-Match must be an ETag of this service, such as \"3\"; it is {tag}.");
    }
}
