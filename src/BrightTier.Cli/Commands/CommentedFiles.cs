using BrightTier.Cli.Output;
using BrightTier.Core.Documents;

namespace BrightTier.Cli.Commands;

/// <summary>Files written anew with the comments that stood in them.</summary>
internal static class CommentedFiles
{
    /// <summary>Writes a document where it stood; says which comments went with what they were about.</summary>
    /// <param name="before">The text there was.</param>
    public static async Task Write(Printer printer, string path, Document document, string before, CancellationToken cancel)
    {
        var kept = FileComments.Write(document, before);
        await File.WriteAllTextAsync(path, kept.Text, cancel);
        foreach (var said in Gone(kept))
        {
            printer.Note($"{path}: {said}");
        }
    }

    public static IEnumerable<string> Gone(CommentedText kept) =>
        kept.Gone.Select(comment => $"'{comment}' is left out: what it was about is not there any more.");
}
