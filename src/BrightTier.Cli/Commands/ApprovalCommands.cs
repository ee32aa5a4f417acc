using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>A second person's word that drafts are fit to be published.</summary>
internal static class ApprovalCommands
{
    public static Command Make(CommandLine line) =>
        new("approval", "A second person's word that drafts are fit to be published.")
        {
            Decision(line, "create", "Approves drafts as they are now; nobody approves their own changes.", approved: true),
            List(line),
            Decision(line, "withdraw", "Withdraws your approval of drafts.", approved: false),
        };

    private static Command Decision(CommandLine line, string verb, string about, bool approved)
    {
        var documents = Documents.Some();
        var command = new Command(verb, $"{about}\n\nExample:\n  brighttier approval {verb} vessel entity/vessel") { documents };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var said = new JsonArray();
            foreach (var reference in await Documents.References(client, result.GetRequiredValue(documents), cancel))
            {
                await client.Approve(new ApprovalRequest(reference.Kind, reference.Key, reference.Revision, approved), cancel);
                said.Add(
                    (JsonNode)
                        new JsonObject
                        {
                            ["kind"] = reference.Kind,
                            ["key"] = reference.Key,
                            ["revision"] = reference.Revision,
                            ["approved"] = approved,
                        }
                );
                context.Printer.Note(
                    $"{reference.Kind}/{reference.Key} at revision {reference.Revision}: {(approved ? "approved" : "approval withdrawn")}."
                );
            }

            if (context.Printer.Json)
            {
                context.Printer.Write(said);
            }

            return Exit.Done;
        });
        return command;
    }

    private static Command List(CommandLine line)
    {
        var command = new Command("list", "Lists the approvals of drafts as they are now.");
        line.Do(command, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var approvals = await client.Approvals(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(approvals, WireJson.Default.Approvals);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Draft", "Revision", "By", "At"],
                approvals.Given.Select(each =>
                    new[] { $"{each.Kind}/{each.Key}", $"{each.Revision}", each.By, $"{each.At:yyyy-MM-dd HH:mm} UTC" }
                )
            );
            context.Printer.Note(approvals.Required ? "Publishing needs an approval of each draft." : "Publishing needs no approval.");
            return Exit.Done;
        });
        return command;
    }
}
