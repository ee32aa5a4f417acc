namespace BrightTier.Fuzz;

/// <summary>Texts as nobody means them.</summary>
internal sealed class Input(Random random)
{
    /// <param name="most">How often it is changed at most.</param>
    public string Mutated(string text, int most)
    {
        const string Marks = "{}[]():,-#'\"\\/|&!*?+.<>=~^$%@ \n\t0123456789abcxyzNULL";
        for (var i = random.Next(1, most + 1); i > 0 && text.Length > 0; i--)
        {
            var at = random.Next(text.Length);
            var length = Math.Min(text.Length - at, random.Next(1, 30));
            text = random.Next(6) switch
            {
                0 => text.Remove(at, length),
                1 => text.Insert(at, Marks[random.Next(Marks.Length)].ToString()),
                2 => text.Insert(at, text.Substring(random.Next(text.Length - length + 1), length)),
                3 => text[..at] + (char)random.Next(1, 0x3000) + text[(at + 1)..],
                4 => text.Insert(at, string.Concat(Enumerable.Repeat(Marks[random.Next(Marks.Length)], random.Next(1, 200)))),
                _ => text[..at] + Marks[random.Next(Marks.Length)] + text[(at + 1)..],
            };
        }

        return text;
    }

    /// <summary>A file with some comments, as a team leaves them.</summary>
    public string Commented(string text)
    {
        var lines = text.Split('\n');
        for (var i = random.Next(4); i > 0; i--)
        {
            var at = random.Next(lines.Length);
            lines[at] = random.Next(2) == 0 ? $"{lines[at]} # {at}" : $"{new string(' ', random.Next(9))}# {at}\n{lines[at]}";
        }

        return string.Join('\n', lines);
    }
}
