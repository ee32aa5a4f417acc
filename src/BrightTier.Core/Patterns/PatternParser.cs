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

    /// <summary>Leaves the recursive descent at the first problem; never seen outside.</summary>
    private sealed class Stop(Message reason) : Exception(reason.English)
    {
        public Message Reason => reason;
    }
}
