using System.CommandLine;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Publishing and going back.</summary>
internal static class ReleaseCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var keys = new Argument<string[]>("document") { Description = "Layouts by key, other documents as kind/key: entity/vessel.", Arity = ArgumentArity.OneOrMore };
        var note = new Option<string>("--note") { Description = "What is to be said about the release.", DefaultValueFactory = _ => "" };
        var alongToo = new Option<bool>("--along") { Description = "Takes along what they rest on, as far as it was changed too." };
        var publish = new Command("publish", "Makes drafts what everyone gets, all or none.\n\nExamples:\n  brighttier publish vessel --note \"Home port beside the keeper\"\n  brighttier publish vessel berth entity/berth\n  brighttier publish vessel --along") { keys, note, alongToo };
        line.Do(publish, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var references = new List<DraftReference>();
            foreach (var name in result.GetRequiredValue(keys))
            {
                var (kind, key) = name.Split('/') is [var given, var rest] ? (given, rest) : ("layout", name);
                var tag = (await client.File(kind, key, cancel)).Tag.Trim('"');
                references.Add(new DraftReference(kind, key, long.Parse(tag, System.Globalization.CultureInfo.InvariantCulture)));
            }

            var along = await client.Along(references.Select(each => $"{each.Kind}/{each.Key}"), cancel);
            if (result.GetValue(alongToo))
            {
                references.AddRange(along.Select(each => new DraftReference(each.Kind, each.Key, each.Revision)));
            }

            Print(around, await client.Publish(new PublishRequest(references, result.GetValue(note)!), cancel));
            if (!result.GetValue(alongToo) && along.Count > 0 && !around.Printer.Json)
            {
                around.Printer.Line($"Changed too, needed by these and not published: {string.Join(", ", along.Select(each => $"{each.Kind}/{each.Key}"))}. --along takes them with it.");
            }

            return Exit.Done;
        });
        root.Subcommands.Add(publish);

        var releases = new Command("releases", "Lists the releases, newest first.");
        line.Do(releases, async (_, around, cancel) =>
        {
            using var client = around.Client();
            var found = await client.Releases(cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(found, WireJson.Default.IReadOnlyListReleaseInfo);
            }
            else
            {
                around.Printer.Table(
                    ["Release", "At", "By", "Changed", "Note"],
                    found.Select(release => new[] { $"{release.Number}{(release.Current ? " (current)" : "")}", $"{release.At:yyyy-MM-dd HH:mm} UTC", release.By, Changed(release), release.Note }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(releases);

        var number = new Argument<long>("release") { Description = "The release to go back to." };
        var yes = new Option<bool>("--yes") { Description = "Does it without asking." };
        var restoreNote = new Option<string>("--note") { Description = "What is to be said about it.", DefaultValueFactory = _ => "" };
        var only = new Option<string[]>("--only") { Description = "Only this document, by kind/key or a layout's key; all else stays as it is now. Can be given several times." };
        var restore = new Command("restore", "Makes a new release of what an old one held. Drafts stay as they are.\n\nExamples:\n  brighttier restore 1 --yes\n  brighttier restore 1 --only vessel --only entity/berth") { number, yes, restoreNote, only };
        line.Do(restore, async (result, around, cancel) =>
        {
            var to = result.GetValue(number);
            var what = result.GetValue(only) is { Length: > 0 } named ? $" of {string.Join(", ", named)}" : "";
            if (!result.GetValue(yes))
            {
                if (Console.IsInputRedirected)
                {
                    throw new UsageException($"Everyone would get what release {to} held{what}. Give --yes to do it.");
                }

                await Console.Error.WriteAsync($"Everyone will get what release {to} held{what}. Do it? [y/N] ");
                if (Console.ReadLine()?.Trim() is not ("y" or "yes"))
                {
                    return Exit.Refused;
                }
            }

            using var client = around.Client();
            var some = result.GetValue(only) is { Length: > 0 } names ? names.Select(name => name.Split('/') is [var kind, var key] ? new DocumentName(kind, key) : new DocumentName("layout", name)).ToArray() : null;
            Print(around, await client.Restore(to, new RestoreRequest(result.GetValue(restoreNote)!, some), cancel));
            return Exit.Done;
        });
        root.Subcommands.Add(restore);
    }

    private static string Changed(ReleaseInfo release) =>
        string.Join(", ", release.Documents.Where(document => document.Change != "unchanged").Select(document => $"{document.Kind} {document.Key} {document.Change}")) is { Length: > 0 } text
            ? release.Documents.Count(document => document.Change == "added") > 4 ? $"{release.Documents.Count} documents" : text
            : "nothing";

    private static void Print(Surroundings around, Receipt receipt)
    {
        if (around.Printer.Json)
        {
            around.Printer.Write(receipt, WireJson.Default.Receipt);
            return;
        }

        around.Printer.Marked("green", $"Release {receipt.Release.Number} is out", $": {Changed(receipt.Release)}.");
        around.Printer.Line($"Told at once: {receipt.OpenClients} open {(receipt.OpenClients == 1 ? "browser" : "browsers")}.");
        foreach (var place in receipt.Reached)
        {
            around.Printer.Line($"Reached at {around.Address}{place.TrimStart('/')}");
        }
    }
}
