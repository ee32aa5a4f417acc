using System.Text;

namespace BrightTier.Service.Access;

/// <summary>
/// Passwords that are tried first: words that many choose, with digits, signs, runs of keys and the like around them (NIST SP 800-63B,
/// 5.1.1.2: commonly used, expected, repetitive or sequential). What is left of a password once those are taken out must be long enough to
/// be worth something.
/// </summary>
internal static class GuessablePasswords
{
    /// <summary>As many characters are left of one that is not guessed.</summary>
    private const int Left = 6;

    private static readonly string[] Words =
    [
        .. "password passwort wachtwoord passphrase welcome welkom letmein changeme iloveyou trustno1 sunshine".Split(),
        .. "princess football baseball superman batman dragon monkey shadow master secret geheim login admin".Split(),
        .. "administrator default guest access hello hallo whatever starwars pokemon computer internet summer winter".Split(),
        .. "spring autumn zomer lente herfst january february march april june july august september october november".Split(),
        .. "december januari februari maart juni juli augustus oktober monday tuesday wednesday thursday friday".Split(),
        .. "saturday sunday company office bright tier brighttier harbour haven test temp user abc".Split(),
    ];

    private const string Alphabet = "abcdefghijklmnopqrstuvwxyz";

    private static readonly string[] Rows = ["qwertyuiop", "asdfghjkl", "zxcvbnm", "azertyuiop", "qwertzuiop", "01234567890", Alphabet];

    /// <param name="own">What is known of whoever chooses it: names, the application's title.</param>
    public static bool Contains(string password, params IEnumerable<string> own)
    {
        var rest = Plain(password);
        var words = Words.Concat(own.SelectMany(name => name.Split(' ', '-', '.', '@', '_')).Where(part => part.Length > 2).Select(Plain));
        foreach (var word in words.OrderByDescending(word => word.Length))
        {
            rest = rest.Replace(word, " ", StringComparison.Ordinal);
        }

        foreach (var row in Rows)
        {
            rest = WithoutRuns(rest, row);
            rest = WithoutRuns(rest, new string([.. row.Reverse()]));
        }

        // Years, and what is typed again.
        return rest.Where(char.IsLetter).Distinct().Count() + rest.Where(char.IsDigit).Distinct().Count() / 2 < Left;
    }

    /// <summary>Small letters, with the usual figures and signs for letters taken back.</summary>
    private static string Plain(string text) =>
        text.ToLowerInvariant()
            .Replace('@', 'a')
            .Replace('$', 's')
            .Replace('€', 'e')
            .Replace("p4ss", "pass", StringComparison.Ordinal)
            .Replace("w0rd", "word", StringComparison.Ordinal)
            .Replace("3l", "el", StringComparison.Ordinal)
            .Replace("1n", "in", StringComparison.Ordinal);

    /// <summary>A text without any three or more characters that stand in a row.</summary>
    private static string WithoutRuns(string text, string row)
    {
        var left = new StringBuilder();
        for (var i = 0; i < text.Length; )
        {
            var length = 1;
            while (i + length < text.Length && row.Contains(text[i..(i + length + 1)], StringComparison.Ordinal))
            {
                length++;
            }

            left.Append(length >= 3 ? " " : text.AsSpan(i, length));
            i += length;
        }

        return left.ToString();
    }
}
