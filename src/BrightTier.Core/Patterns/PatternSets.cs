using System.Collections.Immutable;
using System.Globalization;

namespace BrightTier.Core.Patterns;

/// <summary>Sets of characters in patterns: those in brackets, and the named classes.</summary>
public sealed partial class PatternParser
{
    /// <summary>The two-letter names of general categories (Unicode Standard, table 4-4).</summary>
    internal static ImmutableDictionary<UnicodeCategory, string> Categories { get; } =
        new Dictionary<UnicodeCategory, string>
        {
            [UnicodeCategory.UppercaseLetter] = "Lu",
            [UnicodeCategory.LowercaseLetter] = "Ll",
            [UnicodeCategory.TitlecaseLetter] = "Lt",
            [UnicodeCategory.ModifierLetter] = "Lm",
            [UnicodeCategory.OtherLetter] = "Lo",
            [UnicodeCategory.NonSpacingMark] = "Mn",
            [UnicodeCategory.SpacingCombiningMark] = "Mc",
            [UnicodeCategory.EnclosingMark] = "Me",
            [UnicodeCategory.DecimalDigitNumber] = "Nd",
            [UnicodeCategory.LetterNumber] = "Nl",
            [UnicodeCategory.OtherNumber] = "No",
            [UnicodeCategory.SpaceSeparator] = "Zs",
            [UnicodeCategory.LineSeparator] = "Zl",
            [UnicodeCategory.ParagraphSeparator] = "Zp",
            [UnicodeCategory.Control] = "Cc",
            [UnicodeCategory.Format] = "Cf",
            [UnicodeCategory.Surrogate] = "Cs",
            [UnicodeCategory.PrivateUse] = "Co",
            [UnicodeCategory.OtherNotAssigned] = "Cn",
            [UnicodeCategory.ConnectorPunctuation] = "Pc",
            [UnicodeCategory.DashPunctuation] = "Pd",
            [UnicodeCategory.OpenPunctuation] = "Ps",
            [UnicodeCategory.ClosePunctuation] = "Pe",
            [UnicodeCategory.InitialQuotePunctuation] = "Pi",
            [UnicodeCategory.FinalQuotePunctuation] = "Pf",
            [UnicodeCategory.OtherPunctuation] = "Po",
            [UnicodeCategory.MathSymbol] = "Sm",
            [UnicodeCategory.CurrencySymbol] = "Sc",
            [UnicodeCategory.ModifierSymbol] = "Sk",
            [UnicodeCategory.OtherSymbol] = "So",
        }.ToImmutableDictionary();

    private static readonly Dictionary<string, int[]> Posix = new()
    {
        ["alnum"] = ['0', '9', 'A', 'Z', 'a', 'z'],
        ["alpha"] = ['A', 'Z', 'a', 'z'],
        ["ascii"] = [0, 127],
        ["blank"] = ['\t', '\t', ' ', ' '],
        ["cntrl"] = [0, 31, 127, 127],
        ["digit"] = ['0', '9'],
        ["graph"] = ['!', '~'],
        ["lower"] = ['a', 'z'],
        ["print"] = [' ', '~'],
        ["punct"] = ['!', '/', ':', '@', '[', '`', '{', '~'],
        ["space"] = ['\t', '\r', ' ', ' '],
        ["upper"] = ['A', 'Z'],
        ["word"] = ['0', '9', 'A', 'Z', '_', '_', 'a', 'z'],
        ["xdigit"] = ['0', '9', 'A', 'F', 'a', 'f'],
    };

    /// <summary>\d, \w, \s, \p{L} and their opposites, behind the backslash.</summary>
    private bool Class(SetBuilder set)
    {
        var c = Peek;
        var name = char.ToLowerInvariant((char)Math.Min(c, 'z')) switch
        {
            'd' => "digit",
            'w' => "word",
            's' => "perl-space",
            _ => null,
        };
        if (c is 'd' or 'D' or 'w' or 'W' or 's' or 'S')
        {
            at++;
            set.Add(name == "perl-space" ? ['\t', '\n', '\f', '\r', ' ', ' '] : Posix[name!], c is 'D' or 'W' or 'S');
            return true;
        }

        if (c is not ('p' or 'P'))
        {
            return false;
        }

        at++;
        var category = Ended ? "" : text[at++].ToString();
        if (category == "{")
        {
            var close = Array.FindIndex(text, at, rune => rune.Value == '}');
            category = close < 0 ? "" : string.Concat(text[at..close].Select(rune => rune.ToString()));
            at = close + 1;
        }

        var not = c == 'P';
        if (category.StartsWith('^'))
        {
            (not, category) = (!not, category[1..]);
        }

        if (category.Length is 0 or > 2 || !Categories.Values.Any(each => each.StartsWith(category, StringComparison.Ordinal)))
        {
            throw new Stop($"names a class '{category}' that is no general category, such as L, Lu or Nd");
        }

        set.Add(category, not);
        return true;
    }

    private void Set()
    {
        var not = Accept('^');
        var set = new SetBuilder(fold);
        var first = true;
        while (first || Peek != ']')
        {
            if (Ended)
            {
                throw new Stop($"has a '[' that is not closed");
            }

            first = false;
            if (Peek == '[' && at + 1 < text.Length && text[at + 1].Value == ':' && NamedClass(set))
            {
                continue;
            }

            if (Accept('\\'))
            {
                if (Ended)
                {
                    throw new Stop($"ends in a lone backslash");
                }

                if (Class(set))
                {
                    continue;
                }

                at--;
            }

            var from = Member();
            var to = from;
            if (Peek == '-' && at + 1 < text.Length && text[at + 1].Value != ']')
            {
                at++;
                to = Member();
            }

            set.Add(from, to >= from ? to : throw new Stop($"has a range whose end lies before its beginning"));
        }

        at++;
        Add(set.Done(not));
    }

    private int Member()
    {
        if (!Accept('\\'))
        {
            return text[at++].Value;
        }

        return Ended ? throw new Stop($"ends in a lone backslash") : Character();
    }

    private bool NamedClass(SetBuilder set)
    {
        var close = Array.FindIndex(text, at, rune => rune.Value == ']');
        var inner = close < 0 ? "" : string.Concat(text[(at + 2)..close].Select(rune => rune.ToString()));
        if (!inner.EndsWith(':'))
        {
            return false;
        }

        var not = inner.StartsWith('^');
        var name = inner.Trim('^', ':');
        set.Add(Posix.TryGetValue(name, out var ranges) ? ranges : throw new Stop($"names a class '{name}' that there is not"), not);
        at = close + 1;
        return true;
    }

    /// <param name="fold">Whether letters stand for either case: what is left out of a class, such as by \W, is left out in either.</param>
    private sealed class SetBuilder(bool fold)
    {
        private readonly List<int> ranges = [];
        private readonly List<string> categories = [];

        public void Add(int from, int to) => Add([from, to], false);

        public void Add(IReadOnlyList<int> pairs, bool not)
        {
            var all = fold ? CaseFolds.Folded(pairs) : pairs;
            ranges.AddRange(not ? CaseFolds.Complement(all) : all);
        }

        public void Add(string category, bool not)
        {
            if (fold)
            {
                ranges.AddRange(CaseFolds.Class(category, not));
            }
            else
            {
                categories.Add(not ? "!" + category : category);
            }
        }

        public PatternStep.Take Done(bool not) => new(not, [.. ranges], [.. categories]);
    }
}
