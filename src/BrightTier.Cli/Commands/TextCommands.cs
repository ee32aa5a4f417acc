using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>Texts out to translators and back, as XLIFF.</summary>
internal static class TextCommands
{
    public static Command Make(CommandLine line)
    {
        var folder = new Argument<string>("folder") { Description = "A folder of files." };
        var from = new Option<string>("--from") { Description = "The language translated from.", DefaultValueFactory = _ => "en" };
        var to = new Option<string>("--to") { Description = "The language translated into.", Required = true };
        var export = new Command(
            "export",
            "Writes all texts as XLIFF 2.1, with the translations there are.\n\nExample:\n  brighttier text export demo --to nl > nl.xlf"
        )
        {
            folder,
            from,
            to,
        };
        line.Do(export, async (result, context, cancel) =>
        {
            var all = Workspace.Read([result.GetRequiredValue(folder)], cancel);
            var (source, target) = (Tag(result.GetValue(from)!), Tag(result.GetRequiredValue(to)));
            context.Printer.Line(Xliff.Export(all.Files.Select(file => file.Document).OfType<Document>(), source, target).TrimEnd());
            return Exit.Done;
        });

        var file = new Argument<string>("file") { Description = "An XLIFF file, 2.0 or 2.1; - for standard input." };
        var dry = new Option<bool>("--dry-run") { Description = "Shows what would be imported, and writes nothing." };
        var import = new Command(
            "import",
            "Imports translations from an XLIFF file into the files of a folder. Those of texts that have changed since are "
                + "left out and listed.\n\nExample:\n  brighttier text import demo nl.xlf"
        )
        {
            folder,
            file,
            dry,
        };
        line.Do(import, async (result, context, cancel) =>
        {
            var all = Workspace.Read([result.GetRequiredValue(folder)], cancel);
            var byName = all.Files.Where(each => each.Document is not null).ToDictionary(each => (each.Document!.Kind, each.Document.Key));
            var path = result.GetRequiredValue(file);
            var (documents, problem) = Xliff.Import(await Streams.Read(path, cancel), (kind, key) =>
                byName.GetValueOrDefault((kind, key))?.Document
            );
            if (problem is not null)
            {
                throw new UsageException($"{path} {problem}.");
            }

            foreach (var translated in documents)
            {
                var target = byName[(translated.Document.Kind, translated.Document.Key)];
                if (translated.Taken > 0 && !result.GetValue(dry))
                {
                    await CommentedFiles.Write(context.Printer, target.Path, translated.Document, target.Text, cancel);
                }

                context.Printer.Line(
                    $"{target.Path}: {translated.Taken} "
                        + $"imported{(translated.Problems.Count > 0 ? $", {translated.Problems.Count} left out" : "")}"
                );
                foreach (var each in translated.Problems)
                {
                    context.Printer.Line($"  {each}");
                }
            }

            return documents.Any(translated => translated.Problems.Count > 0) ? Exit.Refused : Exit.Done;
        });
        return new Command("text", "Texts of all documents, for translators.") { export, import };
    }

    private static string Tag(string language) =>
        LanguageTags.IsTag(language)
            ? language
            : throw new UsageException($"'{language}' is no language tag (RFC 5646) such as nl or pt-BR.");
}
