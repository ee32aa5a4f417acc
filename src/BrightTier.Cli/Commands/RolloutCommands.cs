using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Releases that some have before everyone does: how they go, giving them to more, who has what.</summary>
internal static class RolloutCommands
{
    public static Command Show(CommandLine line)
    {
        var number = new Argument<long>("release") { Description = "The number of a staged release." };
        var command = new Command(
            "rollout",
            "Says how a release goes that some have first: who has it, how saving does with it, when it reaches more.\n\nExample:\n  "
                + "brighttier release rollout 7"
        )
        {
            number,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var state = await client.Rollout(result.GetValue(number), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(state, WireJson.Default.RolloutState);
                return Exit.Done;
            }

            context.Printer.Line($"Release {state.Release.Number} is out to {RolloutTexts.Audience(state.Release.Rollout)}.");
            context.Printer.Line($"{state.Reached} of {state.People} people have it.");
            context.Printer.Table(
                ["Release", "Saved", "Refused or failed"],
                [
                    [$"{state.Release.Number}, staged", $"{state.Saves.Saved}", $"{state.Saves.Failed}"],
                    [$"{state.Release.Base}, before", $"{state.Before.Saved}", $"{state.Before.Failed}"],
                ]
            );
            foreach (var step in RolloutTexts.Steps(state.Release.Rollout))
            {
                context.Printer.Line(step);
            }

            context.Printer.Line(
                state.Release.Rollout is { Stops: false } ? "It is not taken back by itself, whatever saving comes to." : state.Rule
            );
            return Exit.Done;
        });
        return command;
    }

    public static Command Widen(CommandLine line)
    {
        var number = new Argument<long>("release") { Description = "The number of a staged release." };
        var share = new Argument<int>("share") { Description = "How many of a hundred people have it from now on; 100 for everyone." };
        var command = new Command(
            "widen",
            "Gives a release that some have first to more people; whoever has it keeps it.\n\nExample:\n  brighttier release widen 7 50"
        )
        {
            number,
            share,
        };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var release = await client.Widen(result.GetValue(number), result.GetValue(share), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(release, WireJson.Default.ReleaseInfo);
                return Exit.Done;
            }

            context.Printer.Line($"Release {release.Number}: {RolloutTexts.State(release)}.");
            return Exit.Done;
        });
        return command;
    }

    public static Command Holders(CommandLine line)
    {
        var search = new Option<string?>("--search") { Description = "Only people whose name or id has this in it." };
        var command = new Command(
            "holders",
            "Lists who has which release, and by what.\n\nExample:\n  brighttier release holders --search ada"
        )
        {
            search,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var found = new List<Holder>();
            int total;
            do
            {
                var page = await client.Holders(result.GetValue(search), found.Count, 500, cancel);
                found.AddRange(page.People);
                total = page.People.Count == 0 ? found.Count : page.Total;
            } while (found.Count < total);

            if (context.Printer.Json)
            {
                context.Printer.Write(new Holders(found, total), WireJson.Default.Holders);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Person", "Name", "Release", "Because"],
                found.Select(holder => new[] { holder.Person, holder.Name, $"{holder.Release}", Because(holder) })
            );
            return Exit.Done;
        });
        return command;
    }

    private static string Because(Holder holder) =>
        holder.Because switch
        {
            "role" => "has one of its roles",
            "person" => "is named",
            "share" => "is in its share",
            _ => "everyone has it",
        };
}
