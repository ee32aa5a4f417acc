using BrightTier.Core.Documents;

namespace BrightTier.Cli.Commands;

/// <summary>
/// A folder that was pulled to, with what was pulled beside it, text by text: what every environment's drafts are compared with, until
/// something
/// is applied to one of them, and from then on what was applied there.
/// </summary>
internal sealed class PulledFolder(string root, string profile)
{
    public const string Folder = ".bright-tier";

    private const string Common = "pulled";

    public string Root => root;

    public string PathOf(DocumentKind kind, string key) => Path.Combine(root, Part(kind, key));

    /// <summary>What a document was made from; null where it was not pulled.</summary>
    public string? Base(DocumentKind kind, string key) =>
        new[] { BaseOf(profile, kind, key), BaseOf(Common, kind, key) }.FirstOrDefault(File.Exists) is { } file
            ? File.ReadAllText(file)
            : null;

    public bool IsChanged(DocumentKind kind, string key, string next) =>
        File.Exists(PathOf(kind, key))
        && File.ReadAllText(PathOf(kind, key)) is var present
        && present != next
        && present != Base(kind, key);

    /// <summary>
    /// Writes what a draft holds, with the comments of the file there was; one that says the same already stays as it is written.
    /// </summary>
    /// <returns>What is to be told of it.</returns>
    public IEnumerable<string> Take(DocumentKind kind, string key, string text)
    {
        var path = PathOf(kind, key);
        string[] told = [];
        if (File.Exists(path) && DocumentFile.Read(text).Document is { } draft && File.ReadAllText(path) is var present)
        {
            var same = DocumentFile.Read(present).Document is { } read && DocumentFile.Write(read.CarriedFrom(draft)) == text;
            var kept = same ? new CommentedText(present, []) : FileComments.Write(draft, present);
            (text, told) = (kept.Text, [.. CommentedFiles.Gone(kept).Select(said => $"{path}: {said}")]);
        }

        Write(path, text);
        Write(BaseOf(Common, kind, key), text);
        WriteBase(kind, key, text);
        return told;
    }

    /// <summary>The documents that were pulled to a file that is not there any more.</summary>
    public IEnumerable<Document> Gone()
    {
        var bases = Path.Combine(root, Folder, Common);
        return Directory.Exists(bases)
            ? Workspace
                .YamlIn(bases, hidden: true)
                .Where(file => !File.Exists(Path.Combine(root, Path.GetRelativePath(bases, file))))
                .Select(file => DocumentFile.Read(File.ReadAllText(file)).Document)
                .OfType<Document>()
            : [];
    }

    /// <summary>Forgets what a document was made from: one that comes back is new.</summary>
    public void Forget(DocumentKind kind, string key)
    {
        foreach (var file in new[] { BaseOf(profile, kind, key), BaseOf(Common, kind, key) })
        {
            if (File.Exists(file))
            {
                File.Delete(file);
            }
        }
    }

    public void WriteBase(DocumentKind kind, string key, string text)
    {
        // It is of use on this machine alone.
        Write(Path.Combine(root, Folder, ".gitignore"), "*\n");
        Write(BaseOf(profile, kind, key), text);
    }

    private string BaseOf(string name, DocumentKind kind, string key) => Path.Combine(root, Folder, name, Part(kind, key));

    private static string Part(DocumentKind kind, string key) => DocumentFile.PathOf(kind, key).Replace('/', Path.DirectorySeparatorChar);

    private static void Write(string path, string text)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.WriteAllText(path, text);
    }
}
