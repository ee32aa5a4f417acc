using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Releases set for a time to come.</summary>
internal static class ScheduledReleaseCommands
{
    public static Command Make(CommandLine line) =>
        new("scheduled-release", "Releases set for a time to come; 'publish --at' creates one.") { List(line), Cancel(line) };

    private static Command List(CommandLine line)
    {
        var command = new Command("list", "Lists the scheduled releases, newest first.");
        line.Do(command, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var all = await client.ScheduledReleases(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(all, WireJson.Default.IReadOnlyListScheduledReleaseInfo);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Id", "At", "By", "State", "Documents", "Note"],
                all.Select(each =>
                    new[]
                    {
                        $"{each.Id}",
                        $"{each.At:yyyy-MM-dd HH:mm:ss} UTC",
                        each.By,
                        each.State
                            + (each.Release is { } number ? $" as release {number}" : "")
                            + (each.Reason is { } why ? $": {why}" : ""),
                        string.Join(", ", each.Documents.Select(document => $"{document.Kind}/{document.Key}")),
                        each.Note,
                    }
                )
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command Cancel(CommandLine line)
    {
        var id = new Argument<long>("id") { Description = "Its id, as 'scheduled-release list' shows it." };
        var command = new Command(
            "cancel",
            "Cancels a scheduled release; the drafts stay as they are.\n\nExample:\n  brighttier scheduled-release cancel 4"
        )
        {
            id,
        };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var cancelled = await client.CancelScheduledRelease(result.GetValue(id), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(cancelled, WireJson.Default.ScheduledReleaseInfo);
            }

            context.Printer.Note($"Scheduled release {cancelled.Id} is cancelled.");
            return Exit.Done;
        });
        return command;
    }
}
