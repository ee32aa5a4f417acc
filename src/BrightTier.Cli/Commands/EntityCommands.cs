using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Entities and their fields.</summary>
internal static class EntityCommands
{
    public static Command Make(CommandLine line)
    {
        var list = new Command("list", "Lists the entities.");
        line.Do(list, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var found = await client.Entities(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(found, WireJson.Default.IReadOnlyListEntitySummary);
            }
            else
            {
                context.Printer.Table(
                    ["Entity", "Label", "Fields", "Layout"],
                    found.Select(entity => new[] { entity.Key, entity.Label, $"{entity.Fields}", entity.Layout ?? "generated" })
                );
            }

            return Exit.Done;
        });
        var key = new Argument<string>("entity") { Description = "The entity's key." };
        var show = new Command("show", "Shows an entity's fields.\n\nExample:\n  brighttier entity show vessel") { key };
        line.Do(show, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var entity = await client.Entity(result.GetRequiredValue(key), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(entity, WireJson.Default.EntityInfo);
            }
            else
            {
                context.Printer.Line($"{entity.Label} ({entity.Key}), shown as \"{entity.Display}\"");
                context.Printer.Table(
                    ["Field", "Label", "Type", "Notes"],
                    entity.Fields.Select(field =>
                        new[]
                        {
                            field.Key,
                            field.Label,
                            field.Type
                                + (field.Target is null ? "" : $" to {field.Target}")
                                + (field.Unit is null ? "" : $", {field.Unit}"),
                            Notes(
                                (field.Required, "required"),
                                (field.Unique, "unique"),
                                (field.Added, "added"),
                                (field.Retired, "retired"),
                                (!field.Writable, "read only")
                            ),
                        }
                    )
                );
            }

            return Exit.Done;
        });
        return new Command("entity", "Entities and their fields.")
        {
            list,
            show,
            Relations(line),
            Archive(line),
            BringBack(line),
            EntityCreateCommand.Make(line),
        };
    }

    private static Command Archive(CommandLine line) =>
        Move(
            line,
            "archive",
            "Archives an entity with its layouts, menu entries and routing rules; its records are kept. Publish the drafts it names, and "
                + "nobody meets it any more.\n\nExample:\n  brighttier entity archive mooring",
            (client, key, cancel) => client.ArchiveEntity(key, cancel)
        );

    private static Command BringBack(CommandLine line) =>
        Move(
            line,
            "bring-back",
            "Brings an archived entity back with the layouts that went with it, as drafts to publish.\n\nExample:\n  brighttier entity "
                + "bring-back mooring",
            (client, key, cancel) => client.BringBackEntity(key, cancel)
        );

    private static Command Move(
        CommandLine line,
        string name,
        string about,
        Func<BrightTierClient, string, CancellationToken, Task<IReadOnlyList<DraftReference>>> move
    )
    {
        var key = new Argument<string>("entity") { Description = "The entity's key." };
        var command = new Command(name, about) { key };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var drafts = await move(client, result.GetRequiredValue(key), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(drafts, WireJson.Default.IReadOnlyListDraftReference);
            }
            else
            {
                context.Printer.Table(
                    ["Draft", "Revision"],
                    drafts.Select(each => new[] { each.Kind == "layout" ? each.Key : $"{each.Kind}/{each.Key}", $"{each.Revision}" })
                );
            }

            context.Printer.Note(drafts.Count == 0 ? "It is so already." : "Publish these, and everybody has it so.");
            return Exit.Done;
        });
        return command;
    }

    private static Command Relations(CommandLine line)
    {
        var command = new Command(
            "relations",
            "Lists which entities point at which, as drafts.\n\nExample:\n  brighttier entity relations"
        );
        line.Do(command, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var found = await client.Relations(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(found, WireJson.Default.IReadOnlyListEntityRelations);
            }
            else
            {
                context.Printer.Table(
                    ["From", "By", "To", "Notes"],
                    found.SelectMany(entity =>
                        entity.References.Select(reference =>
                            new[]
                            {
                                entity.Key,
                                $"{reference.Label} ({reference.Field})",
                                reference.Target,
                                Notes((reference.Required, "required")),
                            }
                        )
                    )
                );
            }

            return Exit.Done;
        });
        return command;
    }

    /// <summary>Those of some words that hold, with commas between.</summary>
    internal static string Notes(params (bool Holds, string Word)[] notes) =>
        string.Join(", ", notes.Where(note => note.Holds).Select(note => note.Word));
}
