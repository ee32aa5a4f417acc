using System.Text.Json;
using BrightTier.Cli.Invocation;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>Layouts named on the command line: a file, standard input, or a draft.</summary>
internal static class LayoutFiles
{
    /// <summary>The prefix of what names a draft of the service.</summary>
    public const string Draft = "draft:";

    /// <summary>Whether a name is that of a draft; its key then.</summary>
    public static bool IsDraft(string name, out string key)
    {
        key = name.StartsWith(Draft, StringComparison.Ordinal) ? name[Draft.Length..] : "";
        return key.Length > 0;
    }

    /// <summary>Why a file holds no layout.</summary>
    public static Exception Wrong(WorkFile file) =>
        new UsageException(
            file.Problems is [var problem, ..] ? $"{file.Path}: {problem.At}: {problem.Message}." : $"'{file.Path}' holds no layout."
        );

    public static async Task<Layout> Read(string name, CommandContext context, CancellationToken cancel) =>
        (await ReadDocument(name, context, cancel)).Layout;

    /// <summary>A layout, with which of its ids its text leaves out.</summary>
    public static async Task<Document.OfLayout> ReadDocument(string name, CommandContext context, CancellationToken cancel)
    {
        string text;
        if (IsDraft(name, out var key))
        {
            using var client = context.Client();
            text = (await client.File("layout", key, cancel)).Text;
        }
        else
        {
            text = await Streams.Read(name, cancel);
        }

        var (document, problems) = DocumentFile.Read(text);
        if (document is Document.OfLayout layout)
        {
            return layout;
        }

        CheckCommand.Print(context.Printer, new WorkFile(name, text, document, problems));
        throw new UsageException($"'{name}' holds no layout.");
    }

    /// <summary>Edits as JSON.</summary>
    public static string Json(IReadOnlyList<Edit> edits)
    {
        using var stream = new MemoryStream();
        using (var writer = new Utf8JsonWriter(stream, new JsonWriterOptions { Indented = true, Encoder = JsonText.Options.Encoder }))
        {
            TreeJson.Write(writer, edits);
        }

        return System.Text.Encoding.UTF8.GetString(stream.ToArray());
    }
}
