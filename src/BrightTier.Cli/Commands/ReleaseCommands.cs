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
        var to = new Option<string[]>("--to") { Description = "A role it goes to first; can be given several times. Everyone else has what they had until 'release NUMBER --everyone'." };
        var everyoneAt = new Option<DateTimeOffset?>("--everyone-at") { Description = "With --to: when it goes to everyone by itself." };
        var at = new Option<DateTimeOffset?>("--at") { Description = "Sets it for this time, with the drafts as they are now." };
        var overrideReason = new Option<string?>("--override-reason") { Description = "Why it goes out although checks stand against it; kept with the release. For those who may override." };
        var publish = new Command("publish", "Makes drafts what everyone gets, all or none.\n\nExamples:\n  brighttier publish vessel --note \"Home port beside the keeper\"\n  brighttier publish vessel berth entity/berth\n  brighttier publish vessel --along\n  brighttier publish vessel --to harbour-office --everyone-at 2027-01-04T06:00Z\n  brighttier publish vessel --at 2027-01-04T06:00Z") { keys, note, alongToo, to, everyoneAt, at, overrideReason };
        line.Do(publish, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var references = (await References(client, result.GetRequiredValue(keys), cancel)).ToList();
            var along = await client.Dependencies(references.Select(each => $"{each.Kind}/{each.Key}"), cancel);
            if (result.GetValue(alongToo))
            {
                references.AddRange(along.Select(each => new DraftReference(each.Kind, each.Key, each.Revision)));
            }

            var roles = result.GetValue(to) is { Length: > 0 } some ? some : null;
            if (result.GetValue(at) is { } time)
            {
                var plan = await client.ScheduleRelease(new ScheduleRequest(references, time, result.GetValue(note)!, roles, result.GetValue(everyoneAt), result.GetValue(overrideReason)), cancel);
                if (around.Printer.Json)
                {
                    around.Printer.Write(plan, WireJson.Default.ScheduledReleaseInfo);
                }
                else
                {
                    around.Printer.Line($"Set for {plan.At:yyyy-MM-dd HH:mm:ss} UTC. 'brighttier plans --call-off {plan.Id}' calls it off.");
                }
            }
            else
            {
                Print(around, await client.Publish(new PublishRequest(references, result.GetValue(note)!, roles, result.GetValue(everyoneAt), result.GetValue(overrideReason)), cancel));
            }

            if (!result.GetValue(alongToo) && along.Count > 0 && !around.Printer.Json)
            {
                around.Printer.Line($"Changed too, rested on by these and not published: {string.Join(", ", along.Select(each => $"{each.Kind}/{each.Key}"))}. --along takes them with it.");
            }

            return Exit.Done;
        });
        root.Subcommands.Add(publish);
        AddRelease(root, line);
        AddPlans(root, line);

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
                    found.Select(release => new[] { release.State == "past" ? $"{release.Number}" : $"{release.Number} ({release.State}{(release.State == "staged" ? $": {string.Join(", ", release.Roles ?? [])}" : "")})", $"{release.At:yyyy-MM-dd HH:mm} UTC", release.By, Changed(release), release.Note }));
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

    /// <summary>Drafts named on the command line, at the revisions they have.</summary>
    public static async Task<IReadOnlyList<DraftReference>> References(Client.BrightTierClient client, IEnumerable<string> names, CancellationToken cancel)
    {
        var references = new List<DraftReference>();
        foreach (var name in names)
        {
            var (kind, key) = name.Split('/') is [var given, var rest] ? (given, rest) : ("layout", name);
            var tag = (await client.File(kind, key, cancel)).Tag.Trim('"');
            references.Add(new DraftReference(kind, key, long.Parse(tag, System.Globalization.CultureInfo.InvariantCulture)));
        }

        return references;
    }

    private static void AddRelease(RootCommand root, CommandLine line)
    {
        var number = new Argument<long>("number") { Description = "The release." };
        var everyone = new Option<bool>("--everyone") { Description = "Gives a release that went to some roles first to everyone." };
        var callOff = new Option<bool>("--call-off") { Description = "Takes it back from them." };
        var release = new Command("release", "Tells about one release and how many have drawn it, gives it to everyone, or calls it off.\n\nExamples:\n  brighttier release 7\n  brighttier release 7 --everyone") { number, everyone, callOff };
        line.Do(release, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var which = result.GetValue(number);
            if (result.GetValue(everyone) && result.GetValue(callOff))
            {
                throw new UsageException("--everyone and --call-off are one or the other.");
            }

            var found = result.GetValue(everyone) || result.GetValue(callOff)
                ? await (result.GetValue(everyone) ? client.Promote(which, cancel) : client.Cancel(which, cancel))
                : await client.Release(which, cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(found, WireJson.Default.ReleaseInfo);
                return Exit.Done;
            }

            var adopted = await client.Adoption(which, cancel);
            around.Printer.Line($"Release {found.Number} is {(found.State == "current" ? "what everyone has" : found.State == "staged" ? $"out to {string.Join(", ", found.Roles ?? [])} alone" : found.State == "past" ? "past" : "called off")}; {Changed(found)}.");
            around.Printer.Line($"Drawn by {adopted.Drawn} of {adopted.Open} open {(adopted.Open == 1 ? "browser" : "browsers")}.");
            if (found.OverrideReason is { } why)
            {
                around.Printer.Line($"In spite of errors: {why}");
            }

            return Exit.Done;
        });
        root.Subcommands.Add(release);
    }

    private static void AddPlans(RootCommand root, CommandLine line)
    {
        var callOff = new Option<long?>("--call-off") { Description = "Calls one off, by its number." };
        var plans = new Command("plans", "Lists the releases set for a time, newest first; calls one off.") { callOff };
        line.Do(plans, async (result, around, cancel) =>
        {
            using var client = around.Client();
            if (result.GetValue(callOff) is { } id)
            {
                await client.CancelScheduledRelease(id, cancel);
            }

            var all = await client.ScheduledReleases(cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(all, WireJson.Default.IReadOnlyListScheduledReleaseInfo);
            }
            else
            {
                around.Printer.Table(["Plan", "At", "By", "State", "Documents", "Note"], all.Select(plan => new[]
                {
                    $"{plan.Id}", $"{plan.At:yyyy-MM-dd HH:mm:ss} UTC", plan.By, plan.State + (plan.Release is { } number ? $", release {number}" : "") + (plan.Reason is { } why ? $": {why}" : ""),
                    string.Join(", ", plan.Documents.Select(document => $"{document.Kind}/{document.Key}")), plan.Note,
                }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(plans);
    }

    private static string Changed(ReleaseInfo release) =>
        string.Join(", ", release.Documents.Where(document => document.Change != "unchanged").Select(document => $"{document.Kind} {document.Key} {document.Change}")) is { Length: > 0 } text
            ? release.Documents.Count(document => document.Change == "added") > 4 ? $"{release.Documents.Count} documents" : text
            : "nothing";

    private static void Print(CommandContext around, Receipt receipt)
    {
        if (around.Printer.Json)
        {
            around.Printer.Write(receipt, WireJson.Default.Receipt);
            return;
        }

        around.Printer.Marked("green", $"Release {receipt.Release.Number} is out", $"{(receipt.Release.Roles is { } roles ? $" to {string.Join(", ", roles)}" : "")}: {Changed(receipt.Release)}.");
        around.Printer.Line($"Told at once: {receipt.OpenClients} open {(receipt.OpenClients == 1 ? "browser" : "browsers")}.");
        foreach (var place in receipt.Reached)
        {
            around.Printer.Line($"Reached at {around.Address}{place.Address.TrimStart('/')}{(place.Menu is { } menu ? $" ({string.Join(" › ", menu)})" : "; no entry of the menu leads there: add one to navigation.yaml")}");
        }
    }
}
