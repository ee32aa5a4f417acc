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
            var before = await LayoutFiles.Read(path, context, cancel);
            IReadOnlyList<Edit> edits;
            try
            {
                using var json = JsonDocument.Parse(
                    await Streams.Read(result.GetRequiredValue(file), cancel),
                    new JsonDocumentOptions { MaxDepth = Limits.FileDepth }
                );
                var (read, problems) = TreeJson.ReadEdits(json.RootElement, before.Find);
                if (problems.Count > 0)
                {
                    throw new UsageException(
                        $"{result.GetRequiredValue(file)}: "
                            + $"{string.Join("; ", problems.Select(problem => $"{problem.At.Pointer}: {problem.Message}"))}."
                    );
                }

                edits = read;
            }
            catch (JsonException error)
            {
                throw new UsageException($"{result.GetRequiredValue(file)} is not JSON: {error.Message}");
            }

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
                await File.WriteAllTextAsync(path, DocumentFile.Write(new Document.OfLayout(applied.Layout!)), cancel);
            }

            context.Printer.Note(result.GetValue(dry) ? "Nothing was changed." : $"{path} is changed.");
            return Exit.Done;
        });
        return command;
    }
}
