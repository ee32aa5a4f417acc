using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>Where something is used.</summary>
internal static class ImpactCommand
{
    public static Command Make(CommandLine line)
    {
        var subject = new Argument<string>("subject") { HelpName = "subject", Description = string.Join(", ", Impact.Subjects) };
        subject.AcceptOnlyFromAmong([.. Impact.Subjects]);
        var name = new Argument<string>("name")
        {
            Description = "Its key; fields and choices with what they belong to: vessel.length, propulsion.sail.",
        };
        var folder = new Argument<string>("folder")
        {
            Description = "A folder of files, or drafts for what the service holds.",
            DefaultValueFactory = _ => ".",
        };
        var command = new Command(
            "impact",
            "Lists every place that uses something.\n\nExamples:\n  brighttier impact field vessel.propulsion demo\n  "
                + "brighttier impact choice propulsion.sail demo\n  brighttier impact role quay-hand demo\n  brighttier impact "
                + "piece cover demo"
        )
        {
            subject,
            name,
            folder,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var (what, named) = (result.GetRequiredValue(subject), result.GetRequiredValue(name));
            IReadOnlyList<UseInfo> uses;
            if (result.GetRequiredValue(folder) == "drafts")
            {
                using var client = context.Client();
                uses = await client.Impact(what, named, cancel);
            }
            else
            {
                var all = Workspace.Read([result.GetRequiredValue(folder)], cancel);
                uses =
                [
                    .. Impact
                        .Of(what, named, all.Catalogue)
                        .Select(use => new UseInfo(use.Kind.Name(), use.Key, use.Place, use.As, use.Message.English)),
                ];
                if (uses.Count == 0 && Impact.Names(what, all.Catalogue) is var names && !names.Contains(named))
                {
                    throw new UsageException(Suggestion.Sentence($"There is no {what} '{named}'{Suggestion.For(named, names)}").English);
                }
            }

            if (context.Printer.Json)
            {
                context.Printer.Write(uses, WireJson.Default.IReadOnlyListUseInfo);
                return Exit.Done;
            }

            if (uses.Count == 0)
            {
                context.Printer.Line("Nothing uses it.");
            }
            else
            {
                context.Printer.Table(
                    ["Document", "Place", "As", "Use"],
                    uses.Select(use =>
                        new[] { DocumentFile.PathOf(DocumentFile.KindNamed(use.Kind)!.Value, use.Key), use.Place, use.As, use.Message }
                    )
                );
            }

            return Exit.Done;
        });
        return command;
    }
}
