using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>The example opened in a service that has no entities.</summary>
internal static class ExampleCommand
{
    public static Command Make(CommandLine line)
    {
        var example = new Command(
            "example",
            "Opens the example, a small harbour, in a service that has no entities: forms, lists, menu and records, to look at and "
                + "take apart.\n\nExamples:\n  brighttier example"
        );
        line.Change(example, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var opened = await client.OpenExample(cancel);
            context.Printer.Done(
                new JsonObject
                {
                    ["entities"] = opened.Entities,
                    ["records"] = opened.Records,
                    ["release"] = opened.Release,
                },
                $"The example is open: {opened.Entities} entities and {opened.Records} records, as release {opened.Release}."
            );
            return Exit.Done;
        });
        return example;
    }
}
