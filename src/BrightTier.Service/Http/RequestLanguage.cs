using System.Globalization;

namespace BrightTier.Service.Http;

/// <summary>
/// The language in which a call's messages are answered: of a person in the console, hers; of a program, the one it accepts (RFC 9110,
/// 12.5.4); of either, the one the call names with <c>language</c>. English where there is no message file.
/// </summary>
public static class RequestLanguage
{
    private static readonly object Key = new();

    /// <summary>The language of messages to whoever made the call.</summary>
    public static string Of(HttpContext http) => (string?)http.Items[Key] ?? Accepted(http);

    /// <summary>Has everything that comes of this call speak to its maker.</summary>
    /// <param name="own">The language of the person at the console; null for anybody else.</param>
    public static void Set(HttpContext http, string? own)
    {
        var asked = http.Request.Query["language"].ToString();
        var language =
            IsThere(asked) ? asked
            : own is null ? Accepted(http)
            : Base(own);
        http.Items[Key] = language;
        CultureInfo.CurrentUICulture = CultureInfo.GetCultureInfo(language);
    }

    private static string Accepted(HttpContext http) =>
        http.Request.Headers.AcceptLanguage.Count == 0
            ? MessageTexts.English
            : http.Request.GetTypedHeaders()
                .AcceptLanguage.OrderByDescending(each => each.Quality ?? 1)
                .Select(each => (each.Value.Value ?? "").Split('-')[0].ToLowerInvariant())
                .FirstOrDefault(IsThere)
                ?? MessageTexts.English;

    private static bool IsThere(string language) => language == MessageTexts.English || MessageTexts.Translated.Contains(language);

    private static string Base(string tag) =>
        tag.Split('-')[0].ToLowerInvariant() is var language && IsThere(language) ? language : MessageTexts.English;
}
