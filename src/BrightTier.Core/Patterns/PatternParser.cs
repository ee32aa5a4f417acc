using System.Globalization;
using System.Text;

namespace BrightTier.Core.Patterns;

/// <summary>
/// Parses patterns in the syntax CEL prescribes for <c>matches</c> (RE2): no look-around and no back-references, which could not be matched
/// in linear time. Unicode classes are the general categories; scripts are not known.
/// </summary>
public sealed partial class PatternParser
{
    /// <summary>Largest number of repeats and of steps of one pattern.</summary>
    private const int Most = 1_000;

    private const int MostSteps = 5_000;

    /// <summary>Ranges and classes that all its steps may look through together: what one character of a text can cost.</summary>
    private const int MostRanges = 20_000;

    /// <summary>Characters of a pattern.</summary>
    public const int Longest = 2_100;

    private const int Deepest = 50;

    private readonly Rune[] text;
    private readonly List<PatternStep> steps = [];
    private int at;
    private int depth;
    private int ranges;
    private bool fold;
    private bool dotAll;
    private bool manyLines;

    private PatternParser(string pattern) => text = [.. pattern.EnumerateRunes()];

    /// <summary>The program, or what is wrong in words that go behind "the pattern".</summary>
    public static (PatternProgram? Program, Message? Problem) Parse(string pattern)
    {
        if (pattern.Length > Longest)
        {
            return (null, $"must be at most {Longest} characters; it has {pattern.Length}");
        }

        var parser = new PatternParser(pattern);
        try
        {
            parser.Alternatives();
            if (parser.at < parser.text.Length)
            {
                throw new Stop($"has a ')' that closes nothing");
            }

            parser.Add(new PatternStep.Match());
            return (new PatternProgram(pattern, [.. parser.steps]), null);
        }
        catch (Stop stop)
        {
            return (null, stop.Reason);
        }
    }

    private bool Ended => at >= text.Length;

    private int Peek => Ended ? -1 : text[at].Value;

    private bool Accept(char c)
    {
        if (Peek != c)
        {
            return false;
        }

        at++;
        return true;
    }

    private void Add(PatternStep step)
    {
        ranges += step is PatternStep.Take take ? (take.Ranges.Length / 2) + take.Categories.Length : 0;
        if (steps.Count >= MostSteps || ranges > MostRanges)
        {
            throw new Stop($"is too large");
        }

        steps.Add(step);
    }

    private void Alternatives()
    {
        if (++depth > Deepest)
        {
            throw new Stop($"nests deeper than {Deepest} levels");
        }

        var (wasFold, wasDotAll, wasManyLines) = (fold, dotAll, manyLines);
        var start = steps.Count;
        var ends = new List<int>();
        Sequence();
        while (Accept('|'))
        {
            // The alternative read so far moves one step on, to make room for the split before it.
            Shift(start, 1);
            Add(new PatternStep.Jump(0));
            ends.Add(steps.Count - 1);
            steps[start] = new PatternStep.Split(start + 1, steps.Count);
            start = steps.Count;
            Sequence();
        }

        foreach (var end in ends)
        {
            steps[end] = new PatternStep.Jump(steps.Count);
        }

        (fold, dotAll, manyLines) = (wasFold, wasDotAll, wasManyLines);
        depth--;
    }

    /// <summary>Opens a gap before everything from a step on, so that what points there follows.</summary>
    private void Shift(int from, int by)
    {
        for (var i = 0; i < by; i++)
        {
            Add(new PatternStep.Match());
        }

        for (var i = steps.Count - 1 - by; i >= from; i--)
        {
            steps[i + by] = Moved(steps[i], from, by);
        }
    }

    private static PatternStep Moved(PatternStep step, int from, int by) =>
        step switch
        {
            PatternStep.Jump jump => new PatternStep.Jump(jump.To >= from ? jump.To + by : jump.To),
            PatternStep.Split split => new PatternStep.Split(
                split.First >= from ? split.First + by : split.First,
                split.Second >= from ? split.Second + by : split.Second
            ),
            _ => step,
        };

    private void Sequence()
    {
        while (!Ended && Peek is not ('|' or ')'))
        {
            var start = steps.Count;
            Atom();
            Repeats(start);
        }
    }

    private void Repeats(int start)
    {
        var times = 0;
        while (!Ended)
        {
            int least,
                most;
            if (Accept('*'))
            {
                (least, most) = (0, -1);
            }
            else if (Accept('+'))
            {
                (least, most) = (1, -1);
            }
            else if (Accept('?'))
            {
                (least, most) = (0, 1);
            }
            else if (Peek != '{' || !Counted(out least, out most))
            {
                return;
            }

            if (++times > 1)
            {
                throw new Stop($"repeats a repeat; put the inner one in brackets");
            }

            Accept('?');
            Repeat(start, least, most);
        }
    }

    /// <summary>{2}, {2,} or {2,5}; anything else in braces stands for itself.</summary>
    private bool Counted(out int least, out int most)
    {
        least = most = 0;
        var close = Array.FindIndex(text, at, rune => rune.Value == '}');
        if (close < 0)
        {
            return false;
        }

        var inner = string.Concat(text[(at + 1)..close].Select(rune => rune.ToString())).Split(',');
        if (inner.Length > 2 || !int.TryParse(inner[0], NumberStyles.None, CultureInfo.InvariantCulture, out least))
        {
            return false;
        }

        most =
            inner.Length == 1 ? least
            : inner[1].Length == 0 ? -1
            : int.TryParse(inner[1], NumberStyles.None, CultureInfo.InvariantCulture, out var given) ? given
            : -2;
        if (most == -2)
        {
            return false;
        }

        at = close + 1;
        return least <= Most && most <= Most && (most < 0 || least <= most)
            ? true
            : throw new Stop($"repeats out of range; at most {Most}, the smaller number first");
    }

    private void Repeat(int start, int least, int most)
    {
        var atom = steps.GetRange(start, steps.Count - start);
        steps.RemoveRange(start, atom.Count);
        for (var i = 0; i < least; i++)
        {
            Copy();
        }

        if (most < 0)
        {
            var loop = steps.Count;
            Add(new PatternStep.Split(loop + 1, loop + atom.Count + 2));
            Copy();
            Add(new PatternStep.Jump(loop));
        }
        else
        {
            var end = steps.Count + ((most - least) * (atom.Count + 1));
            for (var i = least; i < most; i++)
            {
                Add(new PatternStep.Split(steps.Count + 1, end));
                Copy();
            }
        }

        void Copy()
        {
            var by = steps.Count - start;
            foreach (var step in atom)
            {
                Add(Moved(step, start, by));
            }
        }
    }

    private void Atom()
    {
        var c = text[at++].Value;
        switch (c)
        {
            case '(':
                Group();
                break;
            case '[':
                Set();
                break;
            case '.':
                Add(dotAll ? new PatternStep.Take(true, false, [], []) : new PatternStep.Take(true, false, ['\n', '\n'], []));
                break;
            case '^':
                Add(new PatternStep.At(manyLines ? "line-start" : "start"));
                break;
            case '$':
                Add(new PatternStep.At(manyLines ? "line-end" : "end"));
                break;
            case '*' or '+' or '?':
                throw new Stop($"has '{(char)c}' with nothing before it to repeat");
            case '\\':
                Escape();
                break;
            default:
                Add(Single(c));
                break;
        }
    }

    private PatternStep.Take Single(int c) => new(false, fold, [c, c], []);

    private void Group()
    {
        var (wasFold, wasDotAll, wasManyLines) = (fold, dotAll, manyLines);
        if (Accept('?') && !Named() && !Flags())
        {
            return;
        }

        Alternatives();
        if (!Accept(')'))
        {
            throw new Stop($"has a '(' that is not closed");
        }

        (fold, dotAll, manyLines) = (wasFold, wasDotAll, wasManyLines);
    }

    private bool Named()
    {
        var start = at;
        if ((Accept('P') || Peek == '<') && Accept('<'))
        {
            while (!Ended && (Rune.IsLetterOrDigit(text[at]) || Peek == '_'))
            {
                at++;
            }

            if (at > start + 1 && Accept('>'))
            {
                return true;
            }

            throw Peek is '=' or '!' ? LookAround() : new Stop($"has a group whose name is malformed");
        }

        at = start;
        return false;
    }

    private static Stop LookAround() => new($"looks around, which would make matching slow; write it without (?=, (?!, (?<=, (?<!");

    /// <summary>(?i) sets for the rest of the group and stands for nothing (false); (?i: opens a group of its own (true).</summary>
    private bool Flags()
    {
        var on = true;
        while (!Ended)
        {
            switch (text[at++].Value)
            {
                case 'i':
                    fold = on;
                    break;
                case 's':
                    dotAll = on;
                    break;
                case 'm':
                    manyLines = on;
                    break;
                case 'U':
                    break;
                case '-' when on:
                    on = false;
                    break;
                case ':':
                    return true;
                case ')':
                    return false;
                case '=' or '!':
                    throw LookAround();
                case var other:
                    throw new Stop($"has an unknown flag '{new Rune(other)}' behind '(?'");
            }
        }

        throw new Stop($"has a '(' that is not closed");
    }

    private void Escape()
    {
        if (Ended)
        {
            throw new Stop($"ends in a lone backslash");
        }

        var c = text[at++].Value;
        switch (c)
        {
            case 'A':
                Add(new PatternStep.At("start"));
                break;
            case 'z':
                Add(new PatternStep.At("end"));
                break;
            case 'b':
                Add(new PatternStep.At("word"));
                break;
            case 'B':
                Add(new PatternStep.At("not-word"));
                break;
            case 'Q':
                while (!Ended && !(Peek == '\\' && at + 1 < text.Length && text[at + 1].Value == 'E'))
                {
                    Add(Single(text[at++].Value));
                }

                at = Math.Min(text.Length, at + 2);
                break;
            case >= '1' and <= '9':
                throw new Stop($"refers back to a group, which would make matching slow; write it without");
            default:
                at--;
                var set = new SetBuilder();
                if (!Class(set))
                {
                    var single = Character();
                    set.Add(single, single);
                }

                Add(set.Done(false, fold));
                break;
        }
    }

    /// <summary>An escaped character, behind the backslash.</summary>
    private int Character()
    {
        var c = text[at++].Value;
        switch (c)
        {
            case 'a':
                return '\a';
            case 'f':
                return '\f';
            case 'n':
                return '\n';
            case 'r':
                return '\r';
            case 't':
                return '\t';
            case 'v':
                return '\v';
            case '0':
                // RE2 syntax: an octal code of up to three digits, the first of them this one.
                var code = 0;
                for (var more = 0; more < 2 && !Ended && Peek is >= '0' and <= '7'; more++)
                {
                    code = (code * 8) + (text[at++].Value - '0');
                }

                return code;
            case 'x':
                var digits = Accept('{') ? -1 : 2;
                var value = 0;
                var count = 0;
                while (!Ended && Uri.IsHexDigit((char)Math.Min(Peek, 0xFFFF)) && (digits < 0 || count < digits) && count < 7)
                {
                    value = (value * 16) + Convert.ToInt32(text[at++].ToString(), 16);
                    count++;
                }

                return count == 0 || (digits < 0 ? !Accept('}') : count < 2) || !Rune.IsValid(value)
                    ? throw new Stop($"has an \\x that names no character; write \\x41 or \\x{{1F600}}")
                    : value;
            default:
                return c > 127 || !char.IsAsciiLetterOrDigit((char)c) ? c : throw new Stop($"has an unknown escape '\\{(char)c}'");
        }
    }

    /// <summary>Leaves the recursive descent at the first problem; never seen outside.</summary>
    private sealed class Stop(Message reason) : Exception(reason.English)
    {
        public Message Reason => reason;
    }
}
