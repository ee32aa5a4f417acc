using System.CommandLine;
using System.Globalization;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Proposals;

namespace BrightTier.Cli.Commands;

/// <summary>Says what would make a draft shorter or tidier, and on request does it.</summary>
internal static class LayoutProposeCommand
{
    public static Command Make(CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "The layout's key." };
        var aim = new Argument<string>("aim") { Description = "What it is to become." }.AcceptOnlyFromAmong([.. Aims.All]);
        var within = new Option<string[]>("--in")
        {
            Description = "Touch only this node and what is in it; may be given more than once.",
            HelpName = "node",
        };
        var without = new Option<string[]>("--without")
        {
            Description = "Leave a proposal out, by its key; may be given more than once.",
            HelpName = "key",
        };
        var take = new Option<bool>("--take") { Description = "Change the draft so. Without it nothing is changed." };
        var command = new Command(
            "propose",
            "Says what would make a form shorter or tidier, each change with its reason. Nobody gets less room than they need, "
                + "nothing goes, and who sees what stays as it is.\n\nExamples:\n  brighttier layout propose vessel shorter\n"
                + "  brighttier layout propose vessel tidier --in identity --take"
        )
        {
            layout,
            aim,
            within,
            without,
            take,
        };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var key = result.GetRequiredValue(layout);
            var request = new ProposalRequest(
                result.GetRequiredValue(aim),
                Given(result.GetValue(within)),
                Given(result.GetValue(without))
            );
            var proposed = await client.Propose(key, request, cancel);
            var taken = result.GetValue(take) && proposed.Offered.Any(each => each.Taken);
            var edited = taken
                ? await client.Edit(key, new EditRequest(proposed.Revision, proposed.Edits, $"Make it {request.Aim}"), cancel)
                : null;
            if (context.Printer.Json)
            {
                context.Printer.Write(proposed, WireJson.Default.ProposedChanges);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Proposal", "What, and why"],
                proposed.Offered.Select(each => new[] { each.Key, each.Taken ? each.Reason : $"(left out) {each.Reason}" })
            );
            if (proposed.Offered.Count == 0)
            {
                context.Printer.Note($"Nothing would make {key} {request.Aim}.");
            }

            foreach (var (before, after) in proposed.Before.Zip(proposed.After).Where(pair => pair.First.Screens != pair.Second.Screens))
            {
                context.Printer.Line($"At width {before.Width}: {Screens(before)} screens become {Screens(after)}.");
            }

            if (edited is not null)
            {
                context.Printer.Line($"Done; {key} is at revision {edited.Revision}, not published.");
            }

            return Exit.Done;
        });
        return command;
    }

    private static string[]? Given(string[]? values) => values is { Length: > 0 } ? values : null;

    private static string Screens(LengthInfo length) => length.Screens.ToString("0.0", CultureInfo.InvariantCulture);
}
