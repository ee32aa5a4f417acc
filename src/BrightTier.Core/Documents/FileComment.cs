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
/// <param name="Line">Where it stood, from 1.</param>
internal sealed record FileComment(int Line, string Text, CommentSide Side, PlaceName At)
{
    /// <summary>All comments of a text, in its order.</summary>
    /// <param name="document">What the text became or came of, for the ids it leaves out; null for those it has alone.</param>
    public static IReadOnlyList<FileComment> In(string text, Document? document)
    {
        if (!text.Contains('#', StringComparison.Ordinal) || YamlText.Read(text).Node is null)
        {
            return [];
        }

        var found = Scanned(text);
        if (found.Count == 0)
        {
            return [];
        }

        var names = FilePlaceNames.Of(text, document);
        var lines = text.Split('\n');
        return
        [
            .. found.Select(at =>
            {
                var written = lines[at.Line - 1];
                var comment = written[(at.Column - 1)..].TrimEnd();
                if (written.AsSpan(0, at.Column - 1).Trim(" \t").Length > 0)
                {
                    return new FileComment(at.Line, comment, CommentSide.Beside, names.On(at.Line));
                }

                var (side, name) = names.Around(at.Line, at.Column);
                return new FileComment(at.Line, comment, side, name);
            }),
        ];
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
