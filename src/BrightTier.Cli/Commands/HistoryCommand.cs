using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>What happened to a draft, and the way back.</summary>
internal static class HistoryCommand
{
    public static Command Make(CommandLine line)
    {
        var document = Documents.One();
        var restore = new Option<long?>("--restore")
        {
            HelpName = "revision",
            Description = "Makes the draft what it was at this revision, as one more change.",
        };
        var command = new Command(
            "history",
            "Tells who changed what in a draft and when, newest first, and how it differs from what everybody has.\n\nExamples:\n"
                + "  brighttier history entity/vessel\n  brighttier history navigation/navigation --restore 3"
        )
        {
            document,
            restore,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var (kind, key) = Documents.Named(result.GetRequiredValue(document));
            if (result.GetValue(restore) is { } revision)
            {
                var saved = await client.RestoreDocument(kind, key, revision, cancel);
                if (context.Printer.Json)
                {
                    context.Printer.Write(saved, WireJson.Default.SaveResult);
                }

                context.Printer.Note(
                    saved.Changed
                        ? $"The draft is as it was at revision {revision}; that is revision {saved.Revision}."
                        : $"The draft is at revision {revision} already."
                );
                return Exit.Done;
            }

            var history = await client.DocumentHistory(kind, key, cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(history, WireJson.Default.DocumentHistory);
                return Exit.Done;
            }

            foreach (var sentence in history.Since ?? [])
            {
                context.Printer.Line($"Not published: {sentence}");
            }

            context.Printer.Table(
                ["Revision", "By", "At", "What"],
                history.Changes.Select(change =>
                    new[]
                    {
                        $"{change.Revision}",
                        change.By,
                        $"{change.At:yyyy-MM-dd HH:mm} UTC",
                        change.Words is { Count: > 0 } words ? string.Join(" ", words) : change.Label,
                    }
                )
            );
            if (history.Earlier)
            {
                context.Printer.Note("There are earlier changes.");
            }

            return Exit.Done;
        });
        return command;
    }
}
