using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Looking at an installation from outside.</summary>
internal static class DiagnoseCommand
{
    public static Command Make(CommandLine line)
    {
        var command = new Command(
            "diagnose",
            "Examines an installation from outside, through its proxy, and lists what is wrong.\n\nExample:\n  brighttier "
                + "diagnose --server https://forms.example.org"
        );
        line.Do(command, async (_, context, cancel) =>
        {
            var found = await Client.Diagnostics.Examine(context.Address, context.Token, cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(found, WireJson.Default.IReadOnlyListDiagnosticResult);
            }
            else
            {
                foreach (var each in found)
                {
                    context.Printer.Marked(
                        each.Verdict switch
                        {
                            "good" => "green",
                            "bad" => "red",
                            _ => "yellow",
                        },
                        each.Verdict.PadRight(10),
                        each.Message
                    );
                }
            }

            return found.Any(each => each.Verdict == "bad") ? Exit.Refused : Exit.Done;
        });
        return command;
    }
}
