using System.Text;
using DiffPlex;
using DiffPlex.Chunkers;

namespace BrightTier.Core.Documents;

/// <summary>Both ways in which a merge can come out in one text, with the marks of version control around what differs.</summary>
public static class ConflictMarks
{
    private const string Mine = "<<<<<<< ";
    private const string Middle = "=======";
    private const string Theirs = ">>>>>>> ";

    /// <param name="mine">The text if mine stands wherever both changed the same.</param>
    /// <param name="theirs">The text if theirs does.</param>
    public static string Write(string mine, string theirs)
    {
        var found = Differ.Instance.CreateDiffs(mine, theirs, ignoreWhiteSpace: false, ignoreCase: false, LineChunker.Instance);
        var text = new StringBuilder();
        var next = 0;
        foreach (var block in found.DiffBlocks)
        {
            Lines(found.PiecesOld.Skip(next).Take(block.DeleteStartA - next));
            text.Append(Mine).Append("mine\n");
            Lines(found.PiecesOld.Skip(block.DeleteStartA).Take(block.DeleteCountA));
            text.Append(Middle).Append('\n');
            Lines(found.PiecesNew.Skip(block.InsertStartB).Take(block.InsertCountB));
            text.Append(Theirs).Append("theirs\n");
            next = block.DeleteStartA + block.DeleteCountA;
        }

        // The text ends with a line's end, so that the last piece is empty.
        Lines(found.PiecesOld.Skip(next).SkipLast(1));
        return text.ToString();

        void Lines(IEnumerable<string> lines)
        {
            foreach (var line in lines)
            {
                text.Append(line).Append('\n');
            }
        }
    }

    /// <summary>The line, from 1, at which a merge left both sides in a text; null where it did not.</summary>
    public static int? LineIn(string text)
    {
        var lines = text.Split('\n');
        var first = Array.FindIndex(lines, line => line.StartsWith(Mine, StringComparison.Ordinal));
        return first >= 0 && lines.Skip(first).Any(line => line.StartsWith(Theirs, StringComparison.Ordinal)) ? first + 1 : null;
    }
}
