using System.CommandLine;
using System.Globalization;
using System.Text.Json;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Publishing: said before in words, and held to what was said.</summary>
internal static class PublishCommand
{
    private static readonly Argument<string[]> Keys = Documents.Some(required: false);

    private static readonly Option<string?> Plan = new("--plan")
    {
        Description =
            "Publishes exactly what a file names, as 'publish --dry-run --json' or 'apply --json' wrote it (- for standard "
            + "input); refused where one of the drafts moved on, or was published differently, since.",
    };

    private static readonly Option<bool> Dry = new("--dry-run")
    {
        Description = "Says what would go out, whose work it is and what stands against it, and publishes nothing.",
    };

    private static readonly Option<string> Note = new("--note")
    {
        Description = "A note, kept with the release.",
        DefaultValueFactory = _ => "",
    };

    private static readonly Option<bool> Dependencies = new("--dependencies")
    {
        Description = "Publishes the changed drafts they depend on, too.",
    };

    private static readonly Option<string[]> To = new("--to")
    {
        Description = "A role it goes to first; can be given several times. Everyone else gets it with 'release promote'.",
    };

    private static readonly Option<string[]> ToPerson = new("--to-person")
    {
        Description = "A person it goes to first, by her id; can be given several times.",
    };

    private static readonly Option<int> Share = new("--share")
    {
        Description = "How many of a hundred people it goes to first; who they are stays as the share grows.",
    };

    private static readonly Option<string[]> Widen = new("--widen")
    {
        Description =
            "When it reaches more by itself: a time, '=', and how many of a hundred have it then; 100 is everyone. Can be given "
            + "several times.",
    };

    private static readonly Option<bool> KeepFailing = new("--keep-failing")
    {
        Description = "Does not take it back by itself where saves with it fail markedly more often than with the release before.",
    };

    private static readonly Option<DateTimeOffset?> At = new("--at")
    {
        Description = "Schedules it for this time, with the drafts as they are now.",
    };

    private static readonly Option<string?> OverrideReason = new("--override-reason")
    {
        Description = "Why it is published although checks found errors; kept with the release. For those who may override.",
    };

    /// <summary>The same command under two names: the daily one, and the one among the others about releases.</summary>
    public static Command Make(CommandLine line, string verb)
    {
        var called = verb == "create" ? "release create" : verb;
        var command = new Command(
            verb,
            $"Publishes drafts to everyone, all or none.\nExits with 1 where it was refused, or a dry run finds an error."
                + $"\n\nExamples:\n  brighttier {called} vessel --note \"Home port beside "
                + $"the keeper\"\n  brighttier {called} vessel --dependencies\n  brighttier {called} vessel --to harbour-office "
                + $"--widen 2027-01-04T06:00Z=100\n  brighttier {called} vessel --share 10 --widen 2027-01-04T06:00Z=50 "
                + $"--widen 2027-01-05T06:00Z=100\n  brighttier {called} vessel --at 2027-01-04T06:00Z\n  brighttier {called} "
                + $"vessel --dry-run --json > plan.json\n  brighttier {called} --plan plan.json\n  brighttier apply quay --json | "
                + $"brighttier {called} --plan -"
        )
        {
            Keys,
            Plan,
            Dry,
            Note,
            Dependencies,
            To,
            ToPerson,
            Share,
            Widen,
            KeepFailing,
            At,
            OverrideReason,
        };
        line.Change(command, Run);
        return command;
    }

    private static async Task<int> Run(ParseResult result, CommandContext context, CancellationToken cancel)
    {
        using var client = context.Client();
        var (references, reviewed) = await Chosen(client, result, cancel);
        if (references.Count == 0)
        {
            context.Printer.Note("Nothing is named to publish; no release was made.");
            return Exit.Done;
        }

        var plan = await client.PlanRelease(references, cancel);
        if (result.GetValue(Dependencies) && plan.Needed.Count > 0)
        {
            references = [.. references, .. plan.Needed.Select(each => new DraftReference(each.Kind, each.Key, each.Revision))];
            plan = await client.PlanRelease(references, cancel);
        }

        if (result.GetValue(Dry))
        {
            return ReleasePlans.Print(context.Printer, plan);
        }

        ReleasePlans.PrintChanges(context.Printer, plan);
        ReleasePlans.PrintNeeded(context.Printer, plan);
        var request = new PublishRequest(
            references,
            result.GetValue(Note)!,
            Rollout(result),
            result.GetValue(OverrideReason),
            reviewed ?? plan.Base
        );
        if (result.GetValue(At) is { } time)
        {
            await Schedule(client, context.Printer, request, time, cancel);
        }
        else
        {
            Receipts.Print(context.Printer, context.Address, await client.Publish(request, cancel));
        }

        return Exit.Done;
    }

    /// <summary>Whom it reaches first; null where nothing of that is said.</summary>
    private static Rollout? Rollout(ParseResult result)
    {
        Option[] said = [To, ToPerson, Share, Widen, KeepFailing];
        return said.Any(option => result.GetResult(option) is { Implicit: false })
            ? new Rollout(
                result.GetValue(To),
                result.GetValue(ToPerson),
                result.GetValue(Share),
                [.. (result.GetValue(Widen) ?? []).Select(Step)],
                !result.GetValue(KeepFailing)
            )
            : null;
    }

    private static RolloutStep Step(string text) =>
        text.Split('=') is [var at, var share]
        && DateTimeOffset.TryParse(at, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var time)
        && int.TryParse(share, NumberStyles.None, CultureInfo.InvariantCulture, out var people)
            ? new RolloutStep(time, people)
            : throw new UsageException(
                $"--widen is a time, '=', and how many of a hundred people have it then, such as 2027-01-04T06:00Z=50; it is '{text}'."
            );

    /// <summary>What is to be published, and the release it was reviewed against, where that is said.</summary>
    private static async Task<(List<DraftReference> References, long? Reviewed)> Chosen(
        BrightTierClient client,
        ParseResult result,
        CancellationToken cancel
    )
    {
        var keys = result.GetValue(Keys)!;
        if (result.GetValue(Plan) is not { } file)
        {
            return keys.Length > 0
                ? ([.. await Documents.References(client, keys, cancel)], null)
                : throw new UsageException("Name what to publish, by key, or give --plan with a file that does.");
        }

        if (keys.Length > 0)
        {
            throw new UsageException("--plan names what is published; name nothing beside it.");
        }

        var text = await Streams.Read(file, cancel);
        if (string.IsNullOrWhiteSpace(text))
        {
            throw new UsageException($"'{file}' is empty: whatever was to write the plan did not. Nothing was published.");
        }

        try
        {
            using var json = JsonDocument.Parse(text);
            return ReleasePlans.Read(json.RootElement);
        }
        catch (Exception error) when (error is JsonException or InvalidOperationException or KeyNotFoundException or FormatException)
        {
            var why = error is FormatException ? error.Message : "It is no JSON, or says something else.";
            throw new UsageException(
                $"'{file}' is no plan: give what 'brighttier publish --dry-run --json' or 'brighttier apply --json' wrote. {why}"
            );
        }
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
            new ScheduleRequest(request.Documents, time, request.Note, request.Rollout, request.OverrideReason),
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
}
