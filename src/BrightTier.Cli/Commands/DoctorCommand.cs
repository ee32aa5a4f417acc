using System.CommandLine;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Looking at an installation from outside.</summary>
internal static class DoctorCommand
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var doctor = new Command("doctor", "Looks at an installation through whatever stands before it, and says what is not as it should be.\n\nExample:\n  brighttier doctor --server https://forms.example.org");
        line.Do(doctor, async (_, around, cancel) =>
        {
            var found = await Client.Diagnostics.Examine(around.Address, around.Token, cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(found, WireJson.Default.IReadOnlyListDiagnosticResult);
            }
            else
            {
                foreach (var each in found)
                {
                    around.Printer.Marked(each.Verdict switch { "good" => "green", "bad" => "red", _ => "yellow" }, each.Verdict.PadRight(10), each.Message);
                }
            }

            return found.Any(each => each.Verdict == "bad") ? Exit.Refused : Exit.Done;
        });
        root.Subcommands.Add(doctor);
    }
}
