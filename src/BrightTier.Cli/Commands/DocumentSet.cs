using System.IO.Compression;
using System.Text.Json;
using BrightTier.Cli.Invocation;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>The documents of one side of a comparison.</summary>
/// <param name="One">The one that is meant, where the others are only what it rests on.</param>
/// <param name="IsPart">Whether a document that is not there is none that is gone: the folder is a part of one.</param>
internal sealed record DocumentSet(
    string Name,
    IReadOnlyDictionary<(DocumentKind Kind, string Key), Document> Documents,
    (DocumentKind Kind, string Key)? One,
    bool IsPart
)
{
    private Catalogue? catalogue;

    public Catalogue Catalogue => catalogue ??= DocumentFile.Of(Documents.Values);

    public Document? Of((DocumentKind Kind, string Key) name) => Documents.GetValueOrDefault(name);

    /// <summary>Those of it that are compared: by what they say, read only where that differs.</summary>
    public IReadOnlyDictionary<(DocumentKind Kind, string Key), ComparedDocument> Compared(
        Func<(DocumentKind Kind, string Key), bool> isMeant
    ) =>
        Documents
            .Where(pair => isMeant(pair.Key))
            .ToDictionary(pair => pair.Key, pair => new ComparedDocument(DocumentFile.Write(pair.Value), () => pair.Value));

    /// <exception cref="UsageException">There is no such file or folder, or a file in it cannot be read; which is printed
    /// before.</exception>
    public static async Task<DocumentSet> OfFiles(string path, CommandContext context, CancellationToken cancel)
    {
        if (path.EndsWith(".zip", StringComparison.OrdinalIgnoreCase) && !Directory.Exists(path))
        {
            return OfBundle(path, await Streams.ReadBytes(path, cancel), null);
        }

        if (path == Streams.Standard)
        {
            var text = await Streams.Read(path, cancel);
            var (document, problems) = DocumentFile.Read(text);
            var only = Readable(new WorkFile("standard input", text, document, problems), context);
            return new DocumentSet(path, Named([only]), (only.Kind, only.Key), false);
        }

        if (!Directory.Exists(path) && !File.Exists(path))
        {
            throw new UsageException($"There is no file or folder '{path}'. {ComparedSide.Help}");
        }

        var workspace = Workspace.Read([path], cancel);
        var documents = workspace.Files.Select(file => Readable(file, context)).ToArray();
        if (Directory.Exists(path))
        {
            return new DocumentSet(path, Named(documents), null, !File.Exists(Path.Combine(path, "application.yaml")));
        }

        return new DocumentSet(path, Named(documents), (documents[0].Kind, documents[0].Key), false) { catalogue = workspace.Catalogue };
    }

    /// <summary>What a bundle holds; its manifest says which documents these are.</summary>
    public static DocumentSet OfBundle(string name, byte[] bundle, (DocumentKind Kind, string Key)? one)
    {
        try
        {
            using var archive = new ZipArchive(new MemoryStream(bundle), ZipArchiveMode.Read);
            var manifest = JsonSerializer.Deserialize(Text(archive, BundleManifest.Name), WireJson.Default.BundleManifest)!;
            return new DocumentSet(
                name,
                Named(manifest.Documents.Select(each => DocumentFile.Read(Text(archive, each.Path)).Document).OfType<Document>()),
                one,
                false
            );
        }
        catch (Exception error) when (error is InvalidDataException or JsonException)
        {
            throw new UsageException($"'{name}' is no bundle: {error.Message}");
        }
    }

    private static string Text(ZipArchive archive, string path)
    {
        using var reader = new StreamReader((archive.GetEntry(path) ?? throw new InvalidDataException($"{path} is missing in it.")).Open());
        return reader.ReadToEnd();
    }

    private static Document Readable(WorkFile file, CommandContext context)
    {
        if (file.Document is { } document)
        {
            return document;
        }

        CheckCommand.Print(context.Printer, file);
        throw new UsageException($"'{file.Path}' cannot be read, and nothing was compared.");
    }

    private static Dictionary<(DocumentKind Kind, string Key), Document> Named(IEnumerable<Document> documents)
    {
        var named = new Dictionary<(DocumentKind Kind, string Key), Document>();
        foreach (var document in documents)
        {
            if (!named.TryAdd((document.Kind, document.Key), document))
            {
                throw new UsageException($"Two files hold the {document.Kind.Noun()} '{document.Key}'; nothing was compared.");
            }
        }

        return named;
    }
}
