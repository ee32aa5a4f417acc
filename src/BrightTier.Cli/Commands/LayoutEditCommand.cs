using System.CommandLine;
using System.Text.Json;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>Edits applied to a layout file.</summary>
internal static class LayoutEditCommand
{
    public static Command Make(CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "A layout file." };
        var file = new Argument<string>("edits")
        {
            Description = "A file of edits as JSON, such as 'diff --json' writes; - for standard input.",
        };
        var dry = new Option<bool>("--dry-run") { Description = "Shows what would change, and changes nothing." };
        var command = new Command(
            "edit",
            "Applies edits from a file to a layout file, all or none.\n\nExample:\n  brighttier layout edit "
                + "demo/layouts/vessel.yaml edits.json --dry-run"
        )
        {
            layout,
            file,
            dry,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var path = result.GetRequiredValue(layout);
            if (!File.Exists(path))
            {
                throw new UsageException($"There is no file '{path}'; a draft is changed by 'layout place', or as a file by 'apply'.");
            }

            var before = await LayoutFiles.Read(path, context, cancel);
            var edits = await ReadEdits(before, result.GetRequiredValue(file), cancel);
            var applied = before.Apply(edits);
            if (applied.Refusal is { } refusal)
            {
                context.Printer.Line($"Edit {refusal.Index + 1}: {refusal.Message} [{refusal.Code}] Nothing was changed.");
                return Exit.Refused;
            }

            if (context.Printer.Json)
            {
                context.Printer.Line(LayoutFiles.Json(applied.Edits));
            }

            foreach (var sentence in EditSummary.Describe(before, applied.Edits))
            {
                context.Printer.Note(sentence.English);
            }

            if (!result.GetValue(dry))
            {
                await CommentedFiles.Write(
                    context.Printer,
                    path,
                    new Document.OfLayout(applied.Layout!),
                    await File.ReadAllTextAsync(path, cancel),
                    cancel
                );
            }

            context.Printer.Note(result.GetValue(dry) ? "Nothing was changed." : $"{path} is changed.");
            return Exit.Done;
        });
        return command;
    }

    private static async Task<IReadOnlyList<Edit>> ReadEdits(Layout layout, string file, CancellationToken cancel)
    {
        try
        {
            using var json = JsonDocument.Parse(await Streams.Read(file, cancel), new JsonDocumentOptions { MaxDepth = Limits.FileDepth });
            var (read, problems) = TreeJson.ReadEdits(json.RootElement, layout.Find);
            return problems.Count == 0
                ? read
                : throw new UsageException(
                    $"{file}: {string.Join("; ", problems.Select(problem => $"{problem.At.Pointer}: {problem.Message}"))}."
                );
        }
        catch (JsonException error)
        {
            throw new UsageException($"{file} is not JSON: {error.Message}");
        }
    }
}
