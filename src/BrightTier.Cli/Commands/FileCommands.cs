using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Documents;

namespace BrightTier.Cli.Commands;

/// <summary>Documents as files: pulled into a folder one would like to review, and applied to the drafts again.</summary>
internal static class FileCommands
{
    public static Command Pull(CommandLine line)
    {
        var folder = new Argument<string>("folder") { Description = "Where the files go; made if it is not there." };
        var pull = new Command(
            "pull",
            $"Writes every draft of the service as a file, and keeps what was pulled in {PulledFolder.Folder} for "
                + $"'apply'.\n\nExample:\n  brighttier pull quay"
        )
        {
            folder,
        };
        line.Do(pull, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var pulled = new PulledFolder(Directory.CreateDirectory(result.GetRequiredValue(folder)).FullName, context.Profile);
            var files = new List<(DocumentKind Kind, string Key, string Text)>();
            foreach (var document in await client.Documents(cancel))
            {
                files.Add(
                    (
                        DocumentFile.KindNamed(document.Kind)!.Value,
                        document.Key,
                        (await client.File(document.Kind, document.Key, cancel)).Text
                    )
                );
            }

            if (!context.Yes && files.FirstOrDefault(file => pulled.IsChanged(file.Kind, file.Key, file.Text)) is { Key: not null } own)
            {
                throw new UsageException(
                    $"{pulled.PathOf(own.Kind, own.Key)} was changed since it was pulled, or never was; apply it first, or "
                        + $"give --yes to write over it. Nothing was written."
                );
            }

            foreach (var file in files)
            {
                foreach (var said in pulled.Take(file.Kind, file.Key, file.Text))
                {
                    context.Printer.Note(said);
                }
            }

            context.Printer.Done(
                new JsonObject { ["folder"] = pulled.Root, ["files"] = files.Count },
                $"{files.Count} files are in {pulled.Root}."
            );
            return Exit.Done;
        });
        return pull;
    }

    public static Command Apply(CommandLine line)
    {
        var folder = new Argument<string>("folder") { Description = "The folder pulled to." };
        var dry = new Option<bool>("--dry-run")
        {
            Description = "Shows what would change, what checks would find and what uses it, and changes nothing.",
        };
        var merge = new Option<bool>("--merge")
        {
            Description = "Merges with drafts that were changed since the pull; refused where both changed the same.",
        };
        var resolution = ImportReports.Side();
        var format = ImportReports.Format();
        var apply = new Command(
            "apply",
            "Applies changed files to their drafts, all or none; refused where a draft was changed since the pull.\nExits "
                + "with 1 where it was refused, or a dry run finds an error or a conflict.\n\nExamples:\n  brighttier apply "
                + "quay --dry-run\n  brighttier apply quay\n  brighttier apply quay --merge --conflict-resolution mine"
        )
        {
            folder,
            dry,
            merge,
            resolution,
            format,
        };
        line.Change(apply, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var from = result.GetRequiredValue(folder);
            var pulled = Directory.Exists(from)
                ? new PulledFolder(Path.GetFullPath(from), context.Profile)
                : throw new UsageException($"There is no folder '{from}'.");
            if (await Changed(pulled, from, context.Printer, cancel) is not { } changed)
            {
                context.Printer.Line("Nothing was applied.");
                return Exit.Refused;
            }

            if (changed.Count == 0)
            {
                context.Printer.Done(
                    new JsonObject { ["imported"] = false, ["documents"] = new JsonArray() },
                    "Nothing was changed since the pull."
                );
                return Exit.Done;
            }

            var request = new ImportRequest(
                [
                    .. changed
                        .OrderBy(each => each.Document.Kind)
                        .Select(each => new ImportDocument(each.Text, pulled.Base(each.Document.Kind, each.Document.Key))),
                ],
                result.GetValue(dry),
                result.GetValue(merge),
                result.GetValue(resolution)
            );
            var report = await client.ImportDocuments(request, cancel);
            foreach (var taken in report.Imported ? report.Documents : [])
            {
                await Keep(pulled, taken, changed.First(each => Names(taken, each.Document)), cancel);
            }

            return ImportReports.Print(context.Printer, report, result.GetValue(dry), result.GetValue(format)!, taken =>
                changed.Where(each => Names(taken, each.Document)).Select(each => (each.File, each.Text)).First()
            );
        });
        return apply;
    }

    private static bool Names(ImportedDocument taken, Document document) => document.Kind.Name() == taken.Kind && document.Key == taken.Key;

    /// <summary>
    /// What was merged is in the file as it is in the draft, with the file's comments; what was not stays as it was written.
    /// </summary>
    private static async Task Keep(
        PulledFolder pulled,
        ImportedDocument taken,
        (Document Document, string File, string Text) changed,
        CancellationToken cancel
    )
    {
        var now =
            taken.Change == "merged" && DocumentFile.Read(taken.Text).Document is { } merged
                ? FileComments.Write(merged, changed.Text).Text
                : changed.Text;
        await File.WriteAllTextAsync(changed.File, now, cancel);
        pulled.WriteBase(DocumentFile.KindNamed(taken.Kind)!.Value, taken.Key, now);
    }

    /// <summary>The files that are not as they were pulled; null, and said why, where one cannot be read.</summary>
    private static async Task<List<(Document Document, string File, string Text)>?> Changed(
        PulledFolder pulled,
        string folder,
        Printer printer,
        CancellationToken cancel
    )
    {
        var changed = new List<(Document Document, string File, string Text)>();
        var readable = true;
        foreach (var file in Workspace.YamlIn(folder))
        {
            var text = await File.ReadAllTextAsync(file, cancel);
            var (document, problems) = DocumentFile.Read(text);
            if (document is null)
            {
                CheckCommand.Print(printer, new WorkFile(file, text, document, problems));
                readable = false;
            }
            else if (pulled.Base(document.Kind, document.Key) != text)
            {
                changed.Add((document, file, text));
            }
        }

        return readable ? changed : null;
    }

    /// <summary>
    /// A folder that was pulled to, with what was pulled beside it, text by text: what every environment's drafts are compared with, until
    /// something
    /// is applied to one of them, and from then on what was applied there.
    /// </summary>
    private sealed class PulledFolder(string root, string profile)
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

        public void WriteBase(DocumentKind kind, string key, string text) => Write(BaseOf(profile, kind, key), text);

        private string BaseOf(string name, DocumentKind kind, string key) => Path.Combine(root, Folder, name, Part(kind, key));

        private static string Part(DocumentKind kind, string key) =>
            DocumentFile.PathOf(kind, key).Replace('/', Path.DirectorySeparatorChar);

        private static void Write(string path, string text)
        {
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            File.WriteAllText(path, text);
        }
    }
}
