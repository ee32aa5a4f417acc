using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Where one stands: who one is where, what waits to be published, and how a folder stands to the drafts; a line each.</summary>
internal static class StatusCommand
{
    public static Command Make(CommandLine line)
    {
        var folder = new Argument<string?>("folder")
        {
            Description = "A folder of files: how it stands to the drafts is told, too.",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new Command(
            "status",
            "Shows who is signed in where, what waits to be published, and how a folder stands to the drafts; a line each. 'diff' shows "
                + "how they differ.\n\nExamples:\n  brighttier status\n  brighttier status quay --profile production"
        )
        {
            folder,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var session = await client.Session(cancel);
            var reads =
                session.Person is not null && session.Permissions.Any(permission => permission is "configure" or "review" or "publish");
            var waiting = reads ? (await client.DiffReleases("current", "drafts", cancel)).Documents : [];
            var files = session.Person is not null && result.GetValue(folder) is { } path ? await Files(client, path, context, cancel) : [];
            if (files is null)
            {
                return Exit.Refused;
            }

            if (context.Printer.Json)
            {
                context.Printer.Write(Json(context, session, waiting, files));
                return session.Person is null ? Exit.Refused : Exit.Done;
            }

            SessionCommands.Print(context, session, context.Profile);
            if (session.Person is null)
            {
                return Exit.Refused;
            }

            context.Printer.Line(session.Release == 0 ? "Nothing is published yet." : $"Release {session.Release} is current.");
            if (reads)
            {
                Print(
                    context.Printer,
                    waiting.Count == 0 ? "No draft waits to be published."
                        : waiting.Count == 1 ? "1 draft waits to be published:"
                        : $"{waiting.Count} drafts wait to be published:",
                    waiting.Select(each => ($"{each.Kind}/{each.Key}", Said(each)))
                );
            }

            if (result.GetValue(folder) is { } named)
            {
                Print(
                    context.Printer,
                    files.Count == 0 ? $"{named} holds what the drafts hold."
                        : files.Count == 1 ? $"1 file of {named} and its draft differ:"
                        : $"{files.Count} files of {named} and their drafts differ:",
                    files.Select(each => (each.Document, each.Said))
                );
            }

            return Exit.Done;
        });
        return command;
    }

    private static JsonObject Json(
        CommandContext context,
        SessionInfo session,
        IReadOnlyList<DocumentDifference> waiting,
        IReadOnlyList<FileState> files
    ) =>
        new()
        {
            ["profile"] = context.Profile,
            ["server"] = context.Address.ToString().TrimEnd('/'),
            ["production"] = context.IsProduction,
            ["person"] = session.Person?.Id,
            ["permissions"] = new JsonArray([.. session.Permissions.Select(permission => JsonValue.Create(permission))]),
            ["release"] = session.Release,
            ["waiting"] = new JsonArray([.. waiting.Select(each => JsonValue.Create($"{each.Kind}/{each.Key}"))]),
            ["files"] = new JsonArray([.. files.Select(file => new JsonObject { ["document"] = file.Document, ["state"] = file.State })]),
        };

    private static string Said(DocumentDifference document)
    {
        var by = document.Draft is { } draft ? $" by {draft.ChangedBy}" : "";
        var changes = document.Summary.Count switch
        {
            0 => "",
            1 => ", 1 change",
            var count => $", {count} changes",
        };
        return $"{document.Change}{by}{changes}";
    }

    /// <summary>How the files of a folder stand to the drafts; null, and said why, where one cannot be read.</summary>
    private static async Task<IReadOnlyList<FileState>?> Files(
        BrightTierClient client,
        string folder,
        CommandContext context,
        CancellationToken cancel
    )
    {
        if (await SentFolder.Read(folder, context, cancel) is not { } sent)
        {
            return null;
        }

        var report = await client.ImportDocuments(
            sent.Whole(new ImportRequest([], DryRun: true, Merge: true, ArchiveMissing: true)),
            cancel
        );
        var told = report.Documents.Select(taken => $"{taken.Kind}/{taken.Key}");
        told = told.Concat((report.Missing ?? []).Select(missing => $"{missing.Kind}/{missing.Key}"));
        var elsewhere = sent.IsWhole ? (await client.Documents(cancel)).Where(each => !each.Archived) : [];
        return
        [
            .. report
                .Documents.Where(taken => taken.Change != "unchanged" || taken.Ahead)
                .Select(taken => new FileState(
                    $"{taken.Kind}/{taken.Key}",
                    taken.Ahead ? "draft" : taken.Change,
                    taken.Ahead
                        ? "changed in the draft; 'pull' brings it"
                        : taken.Change switch
                        {
                            "made" => "only in the folder; 'apply' makes the draft",
                            "merged" => "changed on both sides; 'apply --merge' puts them together",
                            "conflict" => "changed on both sides, in the same places",
                            _ => "changed in the folder; 'apply' brings it",
                        }
                )),
            .. (report.Missing ?? []).Select(missing => new FileState(
                $"{missing.Kind}/{missing.Key}",
                "gone",
                missing.State switch
                {
                    "used" => "gone from the folder, and in use",
                    "kept" => "gone from the folder; the draft stays",
                    _ => "gone from the folder; 'apply --archive-missing' archives the draft",
                }
            )),
            .. elsewhere
                .Select(each => $"{each.Kind}/{each.Key}")
                .Except(told)
                .Select(name => new FileState(name, "draft", "only a draft; 'pull' brings it")),
        ];
    }

    private static void Print(Printer printer, string title, IEnumerable<(string Document, string Said)> lines)
    {
        var all = lines.ToArray();
        printer.Line(title);
        foreach (var (document, said) in all)
        {
            printer.Line($"  {document.PadRight(all.Max(each => each.Document.Length))}  {said}");
        }
    }

    /// <summary>A document whose file and draft differ.</summary>
    /// <param name="State">made, changed, merged or conflict, as an import says it; draft where the draft is newer, or alone; gone.</param>
    private sealed record FileState(string Document, string State, string Said);
}
