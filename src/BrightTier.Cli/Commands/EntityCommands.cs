using System.CommandLine;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Entities and their fields.</summary>
internal static class EntityCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var entities = new Command("entities", "Entities and their fields.");
        var list = new Command("list", "Lists the entities.");
        line.Do(list, async (_, around, cancel) =>
        {
            using var client = around.Client();
            var found = await client.Entities(cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(found, WireJson.Default.IReadOnlyListEntitySummary);
            }
            else
            {
                around.Printer.Table(["Entity", "Label", "Fields", "Layout"], found.Select(entity => new[] { entity.Key, entity.Label, $"{entity.Fields}", entity.Layout ?? "generated" }));
            }

            return Exit.Done;
        });
        var key = new Argument<string>("entity") { Description = "The entity's key." };
        var show = new Command("show", "Shows an entity's fields.\n\nExample:\n  brighttier entities show vessel") { key };
        line.Do(show, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var entity = await client.Entity(result.GetRequiredValue(key), cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(entity, WireJson.Default.EntityInfo);
            }
            else
            {
                around.Printer.Line($"{entity.Label} ({entity.Key}), told apart by \"{entity.Display}\"");
                around.Printer.Table(
                    ["Field", "Label", "Type", "Notes"],
                    entity.Fields.Select(field => new[]
                    {
                        field.Key, field.Label, field.Type + (field.Target is null ? "" : $" to {field.Target}") + (field.Unit is null ? "" : $", {field.Unit}"),
                        string.Join(", ", new[] { field.Required ? "required" : "", field.Unique ? "unique" : "", field.Added ? "added" : "", field.Retired ? "retired" : "", field.Writable ? "" : "read only" }.Where(note => note.Length > 0)),
                    }));
            }

            return Exit.Done;
        });
        entities.Subcommands.Add(list);
        entities.Subcommands.Add(show);
        root.Subcommands.Add(entities);
    }
}
