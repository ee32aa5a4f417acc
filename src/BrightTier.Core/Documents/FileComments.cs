namespace BrightTier.Core.Documents;

/// <summary>A document's text with the comments of the texts it came of.</summary>
/// <param name="Text">Canonical but for the comments.</param>
/// <param name="Gone">The comments on what is not in the document any more, as they stood; they are not in the text.</param>
public sealed record CommentedText(string Text, IReadOnlyList<string> Gone);

/// <summary>
/// Comments of files, which documents do not have: each belongs to what it stands at or above, a node of a layout, an element with a key, a
/// property, and goes with that through edits, merges and pulls.
/// </summary>
public static class FileComments
{
    /// <summary>Writes a document with the comments of the text it was before.</summary>
    /// <param name="text">What can be read; what cannot has no comments.</param>
    public static CommentedText Write(Document document, string text) => Write(document, [new Source(document, text)]);

    /// <summary>Writes what two sides of a text came to: a comment stays unless one side took it away.</summary>
    /// <param name="from">What both began with; null where both made it.</param>
    public static CommentedText Write(Document document, string? from, string mine, string theirs)
    {
        var start = from is null ? null : new Source(document, from);
        var (one, other) = (new Source(document, mine), new Source(document, theirs));
        return Write(document, [one.Without(start, other), other.Without(start, one)]);
    }

    /// <summary>How many comments a text has.</summary>
    public static int Count(string text) => FileComment.In(text, null).Count;

    private static CommentedText Write(Document document, IReadOnlyList<Source> sources)
    {
        var text = DocumentFile.Write(document);
        if (sources.All(source => source.Comments.Count == 0))
        {
            return new CommentedText(text, []);
        }

        var target = FilePlaceNames.Of(text);
        var lines = text.TrimEnd('\n').Split('\n');
        var between = new Dictionary<(int Line, bool Below), List<string>>();
        var seen = new HashSet<FileComment>();
        var gone = new List<string>();
        foreach (var comment in sources.SelectMany(source => source.Comments))
        {
            if (!seen.Add(comment))
            {
                continue;
            }

            if (target.Find(comment.At) is not { } place)
            {
                gone.Add(comment.Text);
            }
            else if (comment.Side is CommentSide.Beside && !target.IsCommented(place.Line))
            {
                lines[place.Line - 1] += "  " + comment.Text;
                target.Comment(place.Line);
            }
            else
            {
                // Before lines counted from 0; what is below something comes before what is above the next.
                var below = comment.Side is CommentSide.Below;
                var indent = lines[place.Line - 1].Length - lines[place.Line - 1].TrimStart(' ').Length;
                var at = (below ? place.LastLine : place.Line - 1, below);
                between[at] = [.. between.GetValueOrDefault(at, []), new string(' ', indent) + comment.Text];
            }
        }

        var whole = Enumerable
            .Range(0, lines.Length + 1)
            .SelectMany(line =>
                between
                    .GetValueOrDefault((line, true), [])
                    .Concat(between.GetValueOrDefault((line, false), []))
                    .Concat(lines.Skip(line).Take(1))
            );
        return new CommentedText(string.Join('\n', whole) + "\n", gone);
    }

    /// <summary>One text and its comments.</summary>
    private sealed class Source
    {
        private Source(IReadOnlyList<FileComment> comments) => Comments = comments;

        /// <param name="document">What it became, which knows the ids of what the text leaves them out of.</param>
        public Source(Document document, string text)
            : this(FileComment.In(text, document)) { }

        public IReadOnlyList<FileComment> Comments { get; }

        /// <summary>Those that the other side did not take away.</summary>
        public Source Without(Source? start, Source other)
        {
            if (start is null)
            {
                return this;
            }

            var before = start.Comments.ToHashSet();
            var there = other.Comments.ToHashSet();
            return new Source([.. Comments.Where(comment => !before.Contains(comment) || there.Contains(comment))]);
        }
    }
}
