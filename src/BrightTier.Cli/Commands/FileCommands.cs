using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Client;
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

            var changed = context.Yes ? [] : files.Where(file => pulled.IsChanged(file.Kind, file.Key, file.Text)).ToArray();
            if (await Unapplied(client, pulled, changed, cancel) is { Key: not null } own)
            {
                throw new UsageException(
                    $"{pulled.PathOf(own.Kind, own.Key)} holds changes that were not applied; apply it first, or give --yes to "
                        + $"write over it. Nothing was written."
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

    /// <summary>Of files that are not as they were pulled, the first that holds something the service never had.</summary>
    private static async Task<(DocumentKind Kind, string Key, string Text)> Unapplied(
        BrightTierClient client,
        PulledFolder pulled,
        (DocumentKind Kind, string Key, string Text)[] changed,
        CancellationToken cancel
    )
    {
        // What was pulled here says it; of a folder that came from elsewhere the service knows.
        if (changed.Length == 0 || changed.Any(file => pulled.Base(file.Kind, file.Key) is not null))
        {
            return changed.FirstOrDefault(file => pulled.Base(file.Kind, file.Key) is not null);
        }

        try
        {
            var report = await client.ImportDocuments(
                new ImportRequest(
                    [.. changed.Select(file => new ImportDocument(File.ReadAllText(pulled.PathOf(file.Kind, file.Key))))],
                    DryRun: true
                ),
                cancel
            );
            return changed.Zip(report.Documents).FirstOrDefault(pair => pair.Second.Change != "unchanged").First;
        }
        catch (RefusedException)
        {
            return changed[0];
        }
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
        var archive = new Option<bool>("--archive-missing")
        {
            Description = "Archives what was applied before and is gone from the folder; refused while something names it.",
        };
        var ids = new Option<bool>("--write-ids") { Description = "Writes the ids that nodes have by now into the files applied." };
        var apply = new Command(
            "apply",
            "Applies the files of a folder to their drafts, all or none; refused where somebody else changed a draft since. A "
                + "fresh clone needs no pull: what its files were made from is what was applied last.\nExits "
                + "with 1 where it was refused, or a dry run finds an error or a conflict.\n\nExamples:\n  brighttier apply "
                + "quay --dry-run\n  brighttier apply quay --archive-missing\n  brighttier apply quay --merge --conflict-resolution mine"
        )
        {
            folder,
            dry,
            merge,
            archive,
            ids,
            resolution,
            format,
        };
        line.Change(apply, (result, context, cancel) =>
            Apply(
                context,
                result.GetRequiredValue(folder),
                new ImportRequest(
                    [],
                    result.GetValue(dry),
                    result.GetValue(merge),
                    result.GetValue(resolution),
                    ArchiveMissing: result.GetValue(archive)
                ),
                result.GetValue(ids),
                result.GetValue(format)!,
                cancel
            )
        );
        return apply;
    }

    /// <param name="asked">How it is to be done; what is sent is found here.</param>
    /// <param name="ids">Whether the files get the ids that nodes have by now.</param>
    private static async Task<int> Apply(
        CommandContext context,
        string folder,
        ImportRequest asked,
        bool ids,
        string format,
        CancellationToken cancel
    )
    {
        using var client = context.Client();
        if (await SentFolder.Read(folder, context, cancel) is not { } sent)
        {
            context.Printer.Line("Nothing was applied.");
            return Exit.Refused;
        }

        if (sent.SaysNothing)
        {
            context.Printer.Done(
                new JsonObject { ["imported"] = false, ["documents"] = new JsonArray() },
                "Nothing differs from the drafts."
            );
            return Exit.Done;
        }

        var report = await client.ImportDocuments(sent.In(asked), cancel);
        foreach (var taken in report.Imported ? report.Documents : [])
        {
            await Keep(sent.Pulled, taken, sent.Of(taken), ids, cancel);
        }

        foreach (var missing in (report.Missing ?? []).Where(missing => report.Imported && missing.State == "archived"))
        {
            sent.Pulled.Forget(DocumentFile.KindNamed(missing.Kind)!.Value, missing.Key);
        }

        return ImportReports.Print(context.Printer, report, asked.DryRun, format, taken => (sent.Of(taken).Path, sent.Of(taken).Text));
    }

    /// <summary>
    /// What was merged, or is to have its ids, is in the file as it is in the draft, with the file's comments; what was not stays as it was
    /// written.
    /// </summary>
    private static async Task Keep(PulledFolder pulled, ImportedDocument taken, WorkFile changed, bool ids, CancellationToken cancel)
    {
        var now =
            (ids || taken.Change == "merged") && DocumentFile.Read(taken.Text).Document is { } merged
                ? FileComments.Write(merged, changed.Text).Text
                : changed.Text;
        await File.WriteAllTextAsync(changed.Path, now, cancel);
        pulled.WriteBase(DocumentFile.KindNamed(taken.Kind)!.Value, taken.Key, now);
    }
}
