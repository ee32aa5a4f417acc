using System.Text.RegularExpressions;

namespace BrightTier.Core.Model;

/// <summary>
/// What is taken for an address. Browser and service decide alike, so it is no library that decides: the same two expressions are in
/// <c>web/form/src/values/addresses.ts</c>, and tests/vectors/values.json holds both to the same cases.
/// </summary>
public static partial class AddressSyntax
{
    /// <summary>
    /// One @ with something on either side and no white space; whether mail arrives only sending it tells (RFC 5321, 3.3).
    /// </summary>
    public static bool IsEmail(string text) => Email().IsMatch(text);

    /// <summary>
    /// http or https in either case (RFC 3986, 3.1), a host as a name or an address in brackets (3.2.2), perhaps a port up to 65535, and no
    /// white space.
    /// </summary>
    public static bool IsWebAddress(string text) =>
        WebAddress().Match(text) is { Success: true } match
        && (
            !match.Groups["port"].Success
            || int.Parse(match.Groups["port"].ValueSpan, System.Globalization.CultureInfo.InvariantCulture) <= 65_535
        );

    // White_Space of Unicode, spelt out: what \s takes is not the same in every language.
    private const string Space = @"\t-\r \u0085\u00a0\u1680\u2000-\u200a\u2028\u2029\u202f\u205f\u3000";

    [GeneratedRegex($@"\A[^@{Space}]+@[^@{Space}]+\z")]
    private static partial Regex Email();

    [GeneratedRegex(
        $@"\A[hH][tT][tT][pP][sS]?://([^/?#@{Space}]*@)?(\[[0-9A-Fa-f:.]+\]|[^/?#@:\[\]\\{Space}]+)"
            + $@"(:(?<port>[0-9]{{1,5}}))?([/?#][^{Space}]*)?\z",
        RegexOptions.ExplicitCapture
    )]
    private static partial Regex WebAddress();
}
