using System.Text;

namespace BrightTier.Core.Patterns;

// What stands for a character or a group of them.
public sealed partial class PatternParser
{
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
                Add(new PatternStep.Take(true, dotAll ? [] : ['\n', '\n'], []));
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

    private PatternStep.Take Single(int c) => new(false, fold ? [.. CaseFolds.Folded([c, c])] : [c, c], []);

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
                var set = new SetBuilder(fold);
                if (!Class(set))
                {
                    var single = Character();
                    set.Add(single, single);
                }

                Add(set.Done(false));
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
}
