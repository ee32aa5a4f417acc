using YamlDotNet.Core;

namespace BrightTier.Core.Documents;

/// <summary>How a comment stands to what it is about.</summary>
internal enum CommentSide
{
    Above,
    Beside,
    Below,
}

/// <summary>One line of comment, from its '#', and the name of what it stands at.</summary>
/// <param name="Number">Which of those in its text that say the same of the same place, from 1.</param>
internal sealed record FileComment(string Text, CommentSide Side, PlaceName At, int Number)
{
    /// <summary>All comments of a text, in its order.</summary>
    /// <param name="document">What the text became or came of, for the ids it leaves out; null for those it has alone.</param>
    public static IReadOnlyList<FileComment> In(string file, Document? document)
    {
        if (!file.Contains('#', StringComparison.Ordinal) || YamlText.Read(file).Node is null)
        {
            return [];
        }

        var found = Scanned(file);
        if (found.Count == 0)
        {
            return [];
        }

        var names = FilePlaceNames.Of(file, document);
        var lines = file.Split('\n');
        var all = new List<FileComment>();
        var count = new Dictionary<FileComment, int>();
        foreach (var (line, column) in found)
        {
            var written = lines[line - 1];
            var text = written[(column - 1)..].TrimEnd();
            var (side, name) =
                written.AsSpan(0, column - 1).Trim(" \t").Length > 0 ? (CommentSide.Beside, names.On(line)) : names.Around(line, column);
            var comment = new FileComment(text, side, name, 1);
            var number = count[comment] = count.GetValueOrDefault(comment) + 1;
            all.Add(comment with { Number = number });
        }

        return all;
    }

    private static List<(int Line, int Column)> Scanned(string text)
    {
        var scanner = new Scanner(new StringReader(text), skipComments: false);
        var found = new List<(int, int)>();
        while (scanner.MoveNext())
        {
            if (scanner.Current is YamlDotNet.Core.Tokens.Comment comment)
            {
                found.Add(((int)comment.Start.Line, (int)comment.Start.Column));
            }
        }

        return found;
    }
}
