using System.IO.Compression;
using System.Text;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Import;

/// <summary>A bundle: documents in one archive (ZIP), with a manifest that names each, its hash and what it rests on.</summary>
public static class BundleArchive
{
    private const int Largest = 4_000_000;
    private const int LargestTogether = 40_000_000;
    private const int Most = 2_000;

    private static readonly UTF8Encoding Strict = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    public static byte[] Write(BundleManifest manifest, IReadOnlyList<(string Path, string Text)> documents)
    {
        var target = new MemoryStream();
        using (var archive = new ZipArchive(target, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (path, text) in documents)
            {
                Add(archive, path, Strict.GetBytes(text));
            }

            Add(archive, BundleManifest.Name, JsonSerializer.SerializeToUtf8Bytes(manifest, WireJson.Default.BundleManifest));
        }

        return target.ToArray();
    }

    /// <summary>
    /// The documents of a bundle, every one as its manifest says it is. Nothing in it is written anywhere by the name it has there.
    /// </summary>
    /// <exception cref="RefusedException">400: it is no bundle, or not a whole one.</exception>
    public static (BundleManifest Manifest, IReadOnlyList<(BundledDocument Named, Document Document, string Text)> Documents) Read(
        byte[] bytes
    )
    {
        try
        {
            using var archive = new ZipArchive(new MemoryStream(bytes), ZipArchiveMode.Read);
            var manifest = Manifest(archive);
            var documents = new List<(BundledDocument, Document, string)>();
            var read = 0L;
            foreach (var named in manifest.Documents)
            {
                var (document, text) = Bundled(archive, named);
                read += text.Length;
                if (read > LargestTogether)
                {
                    throw Wrong($"its documents are longer than {LargestTogether / 1_000_000} MB together");
                }

                documents.Add((named, document, text));
            }

            return (manifest, documents);
        }
        catch (Exception error)
            when (error
                    is InvalidDataException
                        or JsonException
                        or DecoderFallbackException
                        or NotSupportedException
                        or EndOfStreamException
            )
        {
            throw Wrong(
                error is DecoderFallbackException ? (Message)$"a text in it is not UTF-8" : $"it is no archive (ZIP), or not a whole one"
            );
        }
    }

    private static BundleManifest Manifest(ZipArchive archive)
    {
        var manifest = JsonSerializer.Deserialize(Text(archive, BundleManifest.Name), WireJson.Lenient.BundleManifest)
            ?? throw Wrong($"its manifest is empty");
        if (manifest.Format != BundleManifest.TheFormat || manifest.Version != 1)
        {
            throw Wrong(
                $"it is a {manifest.Format} of version {manifest.Version}, where {BundleManifest.TheFormat} of version 1 is asked for"
            );
        }

        if (manifest.Documents.Count > Most)
        {
            throw Wrong($"it has {manifest.Documents.Count} documents, where {Most} are the most");
        }

        return manifest.Documents.GroupBy(document => document.Path).FirstOrDefault(group => group.Count() > 1) is { Key: var twice }
            ? throw Wrong($"its manifest names '{twice}' more than once")
            : manifest;
    }

    /// <summary>A document at the path that follows from what it is; no other is looked at.</summary>
    private static (Document Document, string Text) Bundled(ZipArchive archive, BundledDocument named)
    {
        if (DocumentFile.KindNamed(named.Kind) is not { } kind || named.Path != DocumentFile.PathOf(kind, named.Key))
        {
            throw Wrong($"its manifest names {named.Kind} '{named.Key}' at '{named.Path}', where such a document does not stand");
        }

        var text = Text(archive, named.Path);
        if (ReleaseStore.HashOf(text) != named.Hash)
        {
            throw Wrong($"{named.Path} is not what its manifest says; it was altered");
        }

        var (document, problems) = DocumentFile.Read(text);
        if (document is null)
        {
            throw new RefusedException(
                422,
                "document-invalid",
                Suggestion.Sentence($"{named.Path}, {problems[0].At}: {problems[0].Message}"),
                [
                    .. problems.Select(problem =>
                        Problems.Part($"{named.Path}{problem.At.Pointer}", problem.Message, null, problem.At.Line, problem.At.Column)
                    ),
                ]
            );
        }

        return document.Kind == kind && document.Key == named.Key
            ? (document, text)
            : throw Wrong($"{named.Path} holds the {document.Kind.Noun()} '{document.Key}'");
    }

    private static void Add(ZipArchive archive, string path, byte[] content)
    {
        using var stream = archive.CreateEntry(path, CompressionLevel.Optimal).Open();
        stream.Write(content);
    }

    private static string Text(ZipArchive archive, string path)
    {
        var entry = archive.GetEntry(path) ?? throw Wrong($"{path} is missing");
        using var stream = entry.Open();
        // What an archive says of a length is not believed: it is read no further than is reasonable.
        var content = new MemoryStream();
        Span<byte> buffer = stackalloc byte[16_384];
        for (int read; (read = stream.Read(buffer)) > 0; )
        {
            content.Write(buffer[..read]);
            if (content.Length > Largest)
            {
                throw Wrong($"{path} is longer than {Largest / 1_000_000} MB");
            }
        }

        return Strict.GetString(content.GetBuffer(), 0, (int)content.Length);
    }

    private static RefusedException Wrong(Message what) => new(400, "bundle-invalid", $"This bundle cannot be used: {what}.");
}
