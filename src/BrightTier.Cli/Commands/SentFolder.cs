using BrightTier.Cli.Invocation;
using BrightTier.Contracts;
using BrightTier.Core.Documents;

namespace BrightTier.Cli.Commands;

/// <summary>A folder as it is sent to a service: the files that are not as they were applied last, and which documents it holds.</summary>
internal sealed class SentFolder
{
    private readonly IReadOnlyList<WorkFile> all;
    private readonly IReadOnlyList<WorkFile> changed;

    private SentFolder(PulledFolder pulled, IReadOnlyList<WorkFile> all)
    {
        Pulled = pulled;
        this.all = [.. all.OrderBy(file => file.Document!.Kind)];
        changed = [.. this.all.Where(file => pulled.Base(file.Document!.Kind, file.Document.Key) != file.Text)];
        IsWhole = File.Exists(Path.Combine(pulled.Root, "application.yaml"));
    }

    public PulledFolder Pulled { get; }

    /// <summary>Whether it is all of an application: a part of a folder says nothing about what is not in it.</summary>
    public bool IsWhole { get; }

    /// <summary>Whether there is nothing to be sent: no file is another, and of what is gone the folder does not speak.</summary>
    public bool SaysNothing => changed.Count == 0 && !IsWhole;

    /// <returns>Null, and said why, where a file cannot be read.</returns>
    /// <exception cref="UsageException">There is no such folder, or no document in it.</exception>
    public static async Task<SentFolder?> Read(string folder, CommandContext context, CancellationToken cancel)
    {
        if (!Directory.Exists(folder))
        {
            throw new UsageException($"There is no folder '{folder}'.");
        }

        var files = new List<WorkFile>();
        foreach (var path in Workspace.YamlIn(folder))
        {
            var text = await File.ReadAllTextAsync(path, cancel);
            var (document, problems) = DocumentFile.Read(text);
            files.Add(new WorkFile(path, text, document, problems));
        }

        foreach (var file in files.Where(file => file.Document is null))
        {
            CheckCommand.Print(context.Printer, file);
        }

        return files.Count == 0
                ? throw new UsageException(
                    $"There is no document in '{folder}': no file that ends in .yaml. 'brighttier pull' writes them."
                )
            : files.Any(file => file.Document is null) ? null
            : new SentFolder(new PulledFolder(Path.GetFullPath(folder), context.Profile), files);
    }

    /// <summary>A request with the files that are another than they were applied last.</summary>
    public ImportRequest In(ImportRequest asked) => Of(asked, changed);

    /// <summary>A request with every file, which tells of drafts that are newer, too.</summary>
    public ImportRequest Whole(ImportRequest asked) => Of(asked, all);

    /// <summary>The file that a document in the answer was sent from.</summary>
    public WorkFile Of(ImportedDocument taken) =>
        changed.First(file => file.Document!.Kind.Name() == taken.Kind && file.Document.Key == taken.Key);

    private ImportRequest Of(ImportRequest asked, IEnumerable<WorkFile> files) =>
        asked with
        {
            Documents = [.. files.Select(file => new ImportDocument(file.Text, Pulled.Base(file.Document!.Kind, file.Document.Key)))],
            Folder = IsWhole ? [.. all.Select(file => Name(file.Document!))] : null,
            Pulled = IsWhole ? [.. Pulled.Gone().Select(Name)] : null,
        };

    private static DocumentName Name(Document document) => new(document.Kind.Name(), document.Key);
}
