using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Publishing, the releases there were, going back to one.</summary>
internal static class ReleaseCommands
{
    public static Command Make(CommandLine line) =>
        new("release", "Releases: what was published, when, by whom.")
        {
            Publish(line, "create"),
            List(line),
            Show(line),
            End(line, "promote", "Gives a release that went to some roles first to everyone.", promote: true),
            End(line, "cancel", "Takes back a release that went to some roles first: they have what everyone has.", promote: false),
            Restore(line),
        };

    /// <summary>The same command under two names: the daily one, and the one among the others about releases.</summary>
    public static Command Publish(CommandLine line, string verb)
    {
        var keys = Documents.Some();
        var note = new Option<string>("--note") { Description = "A note, kept with the release.", DefaultValueFactory = _ => "" };
        var dependencies = new Option<bool>("--dependencies") { Description = "Publishes the changed drafts they depend on, too." };
        var to = new Option<string[]>("--to")
        {
            Description = "A role it goes to first; can be given several times. Everyone else gets it with 'release promote'.",
        };
        var everyoneAt = new Option<DateTimeOffset?>("--everyone-at") { Description = "With --to: when it goes to everyone by itself." };
        var at = new Option<DateTimeOffset?>("--at") { Description = "Schedules it for this time, with the drafts as they are now." };
        var overrideReason = new Option<string?>("--override-reason")
        {
            Description = "Why it is published although checks found errors; kept with the release. For those who may override.",
        };
        var called = verb == "create" ? "release create" : verb;
        var command = new Command(
            verb,
            $"Publishes drafts to everyone, all or none.\n\nExamples:\n  brighttier {called} vessel --note \"Home port beside "
                + $"the keeper\"\n  brighttier {called} vessel --dependencies\n  brighttier {called} vessel --to harbour-office "
                + $"--everyone-at 2027-01-04T06:00Z\n  brighttier {called} vessel --at 2027-01-04T06:00Z"
        )
        {
            keys,
            note,
            dependencies,
            to,
            everyoneAt,
            at,
            overrideReason,
        };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var references = (await Documents.References(client, result.GetRequiredValue(keys), cancel)).ToList();
            var needed = await client.Dependencies(references.Select(each => $"{each.Kind}/{each.Key}"), cancel);
            if (result.GetValue(dependencies))
            {
                references.AddRange(needed.Select(each => new DraftReference(each.Kind, each.Key, each.Revision)));
            }

            var request = new PublishRequest(
                references,
                result.GetValue(note)!,
                result.GetValue(to) is { Length: > 0 } some ? some : null,
                result.GetValue(everyoneAt),
                result.GetValue(overrideReason)
            );
            if (result.GetValue(at) is { } time)
            {
                await Schedule(client, context.Printer, request, time, cancel);
            }
            else
            {
                Print(context, await client.Publish(request, cancel));
            }

            if (!result.GetValue(dependencies) && needed.Count > 0)
            {
                context.Printer.Note(
                    $"Not published, although these depend on it: "
                        + $"{string.Join(", ", needed.Select(each => $"{each.Kind}/{each.Key}"))}. --dependencies publishes it too."
                );
            }

            return Exit.Done;
        });
        return command;
    }

    private static async Task Schedule(
        BrightTierClient client,
        Printer printer,
        PublishRequest request,
        DateTimeOffset time,
        CancellationToken cancel
    )
    {
        var scheduled = await client.ScheduleRelease(
            new ScheduleRequest(request.Documents, time, request.Note, request.Roles, request.EveryoneAt, request.OverrideReason),
            cancel
        );
        if (printer.Json)
        {
            printer.Write(scheduled, WireJson.Default.ScheduledReleaseInfo);
        }

        printer.Note(
            $"Scheduled for {scheduled.At:yyyy-MM-dd HH:mm:ss} UTC. 'brighttier scheduled-release cancel " + $"{scheduled.Id}' cancels it."
        );
    }

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
                        release.State + (release.State == "staged" ? $": {string.Join(", ", release.Roles ?? [])}" : ""),
                        $"{release.At:yyyy-MM-dd HH:mm} UTC",
                        release.By,
                        Changed(release),
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
            Print(context, await client.Restore(to, new RestoreRequest(result.GetValue(note)!, documents), cancel));
            return Exit.Done;
        });
        return command;
    }

    private static string Changed(ReleaseInfo release) =>
        string.Join(", ", release.Documents.Select(document => $"{document.Kind}/{document.Key} {document.Change}")) is { Length: > 0 } text
            ? release.Documents.Count(document => document.Change == "added") > 4
                ? $"{release.Documents.Count} documents"
                : text
            : "nothing";

    private static async Task Print(CommandContext context, Client.BrightTierClient client, ReleaseInfo release, CancellationToken cancel)
    {
        if (context.Printer.Json)
        {
            context.Printer.Write(release, WireJson.Default.ReleaseInfo);
            return;
        }

        var adoption = await client.Adoption(release.Number, cancel);
        var state = release.State == "staged" ? $"staged for {string.Join(", ", release.Roles ?? [])}" : release.State;
        context.Printer.Line($"Release {release.Number}: {state}. Changed: {Changed(release)}.");
        context.Printer.Line($"{adoption.Drawn} of {adoption.Open} open {(adoption.Open == 1 ? "browser has" : "browsers have")} it.");
        if (release.OverrideReason is { } why)
        {
            context.Printer.Line($"Published with errors, because: {why}");
        }
    }

    private static void Print(CommandContext context, Receipt receipt)
    {
        if (context.Printer.Json)
        {
            context.Printer.Write(receipt, WireJson.Default.Receipt);
            return;
        }

        context.Printer.Marked(
            "green",
            $"Release {receipt.Release.Number} is published",
            $"{(receipt.Release.Roles is { } roles ? $" to {string.Join(", ", roles)}" : "")}: {Changed(receipt.Release)}."
        );
        context.Printer.Note($"{receipt.OpenClients} open {(receipt.OpenClients == 1 ? "browser was" : "browsers were")} told.");
        foreach (var place in receipt.Reached)
        {
            var way = place.Menu is { } menu ? $" ({string.Join(" › ", menu)})" : "; not in the menu yet: add it to navigation.yaml";
            context.Printer.Note($"{place.Label}: {context.Address}{place.Address.TrimStart('/')}{way}");
        }
    }
}
