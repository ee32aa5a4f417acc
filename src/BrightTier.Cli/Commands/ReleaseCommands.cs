using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Publishing, the releases there were, going back to one.</summary>
internal static class ReleaseCommands
{
    public static Command Make(CommandLine line) =>
        new("release", "Releases: what was published, when, by whom.")
        {
            PublishCommand.Make(line, "create"),
            List(line),
            Show(line),
            RolloutCommands.Show(line),
            RolloutCommands.Widen(line),
            RolloutCommands.Holders(line),
            End(line, "promote", "Gives a release that some have first to everyone.", promote: true),
            End(line, "cancel", "Takes back a release that some have first: they get what everyone has.", promote: false),
            Restore(line),
        };

    private static Command List(CommandLine line)
    {
        var command = new Command("list", "Lists the releases, newest first.");
        line.Do(command, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var found = await client.Releases(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(found, WireJson.Default.IReadOnlyListReleaseInfo);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Release", "State", "At", "By", "Changed", "Note"],
                found.Select(release =>
                    new[]
                    {
                        $"{release.Number}",
                        RolloutTexts.State(release),
                        $"{release.At:yyyy-MM-dd HH:mm} UTC",
                        release.By,
                        Receipts.Changed(release),
                        release.Note,
                    }
                )
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command Show(CommandLine line)
    {
        var number = new Argument<long>("release") { Description = "Its number." };
        var command = new Command(
            "show",
            "Shows a release: its state, what it changed, and how many browsers have it.\n\nExample:\n  brighttier release show 7"
        )
        {
            number,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            await Print(context, client, await client.Release(result.GetValue(number), cancel), cancel);
            return Exit.Done;
        });
        return command;
    }

    private static Command End(CommandLine line, string verb, string about, bool promote)
    {
        var number = new Argument<long>("release") { Description = "Its number." };
        var command = new Command(verb, $"{about}\n\nExample:\n  brighttier release {verb} 7") { number };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            await Print(
                context,
                client,
                await (promote ? client.Promote(result.GetValue(number), cancel) : client.Cancel(result.GetValue(number), cancel)),
                cancel
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command Restore(CommandLine line)
    {
        var number = new Argument<long>("release") { Description = "The release to go back to." };
        var note = new Option<string>("--note") { Description = "A note, kept with the new release.", DefaultValueFactory = _ => "" };
        var only = new Option<string[]>("--only")
        {
            Description = "Only this document, a layout by its key or kind/key; everything else stays. Can be given several times.",
        };
        var command = new Command(
            "restore",
            "Publishes what an old release held, as a new release. Drafts stay as they are.\n\nExamples:\n  brighttier "
                + "release restore 1 --yes\n  brighttier release restore 1 --only vessel --only entity/berth"
        )
        {
            number,
            note,
            only,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var to = result.GetValue(number);
            var named = result.GetValue(only) is { Length: > 0 } some ? some : null;
            context.Confirm($"Everyone will get what release {to} held{(named is null ? "" : $" of {string.Join(", ", named)}")}.");
            using var client = context.Client();
            var documents = named?.Select(Documents.Named).Select(name => new DocumentName(name.Kind, name.Key)).ToArray();
            Receipts.Print(
                context.Printer,
                context.Address,
                await client.Restore(to, new RestoreRequest(result.GetValue(note)!, documents), cancel)
            );
            return Exit.Done;
        });
        return command;
    }

    private static async Task Print(CommandContext context, Client.BrightTierClient client, ReleaseInfo release, CancellationToken cancel)
    {
        if (context.Printer.Json)
        {
            context.Printer.Write(release, WireJson.Default.ReleaseInfo);
            return;
        }

        var adoption = await client.Adoption(release.Number, cancel);
        context.Printer.Line($"Release {release.Number}: {RolloutTexts.State(release)}. Changed: {Receipts.Changed(release)}.");
        context.Printer.Line($"{adoption.Drawn} of {adoption.Open} open {(adoption.Open == 1 ? "browser has" : "browsers have")} it.");
        if (release.StopReason is { } found)
        {
            context.Printer.Line($"Taken back by itself: {found}");
        }

        if (release.OverrideReason is { } why)
        {
            context.Printer.Line($"Published with errors, because: {why}");
        }
    }
}
