using System.CommandLine;
using System.Globalization;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Databases that are not ours: their connections, their tables as entities, and what has become of them since.</summary>
internal static class AttachCommands
{
    public static Command Make(CommandLine line) =>
        new("attach", "Forms over the tables of an existing database, which stays as it is.")
        {
            List(line),
            Connect(line),
            Disconnect(line),
            Tables(line),
            Add(line),
            Check(line),
            Refresh(line),
        };

    private static Argument<string> Database() => new("database") { Description = "The connection's name." };

    private static Command List(CommandLine line)
    {
        var list = new Command("list", "Lists the connections, whether they answer, and which entities are attached by them.");
        line.Do(list, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var databases = await client.Databases(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(databases, WireJson.Default.IReadOnlyListDatabaseInfo);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Name", "Kind", "Where", "Entities", "State"],
                databases.Select(each =>
                    new[] { each.Name, each.Kind, each.Address, string.Join(", ", each.Entities), each.Problem ?? "answers" }
                )
            );
            return Exit.Done;
        });
        return list;
    }

    private static Command Connect(CommandLine line)
    {
        var database = Database();
        var connection = new Argument<string>("connection")
        {
            Description =
                "Of PostgreSQL (Host=…;Database=…;Username=…;Password=…) or SQLite (Data Source=/path/of.db), or - for standard "
                + "input, where no history keeps it.",
        };
        var connect = new Command(
            "connect",
            "Sets a connection, after it has answered. It is kept as a secret and never shown again.\n\nExamples:\n"
                + "  brighttier attach connect stores \"Data Source=/srv/stores.db\"\n  brighttier attach connect orders - < connection.txt"
        )
        {
            database,
            connection,
        };
        line.Change(connect, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var given = result.GetRequiredValue(connection);
            var secret = given == Streams.Standard ? (await Streams.Read(given, cancel)).Trim() : given;
            var set = await client.SetDatabase(result.GetRequiredValue(database), secret, cancel);
            context.Printer.Done(
                new JsonObject { ["database"] = set.Name, ["address"] = set.Address },
                $"'{set.Name}' answers: {set.Kind} at {set.Address}."
            );
            return Exit.Done;
        });
        return connect;
    }

    private static Command Disconnect(CommandLine line)
    {
        var database = Database();
        var disconnect = new Command("disconnect", "Removes a connection that no entity is attached by.") { database };
        line.Change(disconnect, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var name = result.GetRequiredValue(database);
            await client.RemoveDatabase(name, cancel);
            context.Printer.Done(new JsonObject { ["database"] = name }, $"The connection '{name}' is removed.");
            return Exit.Done;
        });
        return disconnect;
    }

    private static Command Tables(CommandLine line)
    {
        var database = Database();
        var tables = new Command("tables", "Lists the tables and views of a database, and what of them can be written.") { database };
        line.Do(tables, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var found = await client.DatabaseTables(result.GetRequiredValue(database), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(found, WireJson.Default.IReadOnlyListDatabaseTableInfo);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Table", "Columns", "Key", "Rows", "Entity", "Written"],
                found.Select(each =>
                    new[]
                    {
                        each.Path,
                        each.Columns.ToString(CultureInfo.InvariantCulture),
                        string.Join(", ", each.Key),
                        each.Rows.ToString(CultureInfo.InvariantCulture),
                        each.Entity ?? "",
                        each.ReadOnly ?? "yes",
                    }
                )
            );
            return Exit.Done;
        });
        return tables;
    }

    private static Command Add(CommandLine line)
    {
        var database = Database();
        var tables = new Argument<string[]>("tables")
        {
            Description = "The tables, as 'attach tables' lists them.",
            Arity = ArgumentArity.ZeroOrMore,
        };
        var all = new Option<bool>("--all") { Description = "All tables and views that are no entities yet." };
        var drafts = new Option<bool>("--drafts") { Description = "Makes drafts; publishes nothing." };
        var dry = new Option<bool>("--dry-run") { Description = "Only shows what would be made, field by field." };
        var add = new Command(
            "add",
            "Makes entities over tables, with forms, lists, cards and menu entries, and publishes them: all or nothing.\n\nExamples:\n"
                + "  brighttier attach add stores part supplier --dry-run\n  brighttier attach add stores --all"
        )
        {
            database,
            tables,
            all,
            drafts,
            dry,
        };
        line.Change(add, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var name = result.GetRequiredValue(database);
            string[] chosen = result.GetValue(all)
                ? [.. (await client.DatabaseTables(name, cancel)).Where(each => each.Entity is null).Select(each => each.Path)]
                : result.GetValue(tables) ?? [];
            var request = new AttachRequest(chosen, !result.GetValue(drafts));
            if (result.GetValue(dry))
            {
                Print(context.Printer, await client.SketchAttachedTables(name, request, cancel));
                return Exit.Done;
            }

            Print(context.Printer, await client.AttachTables(name, request, cancel));
            return Exit.Done;
        });
        return add;
    }

    private static void Print(Printer printer, AttachOutcome made) =>
        printer.Done(
            new JsonObject
            {
                ["entities"] = new JsonArray([.. made.Entities.Select(each => (JsonNode)each)]),
                ["layouts"] = made.Layouts.Count,
                ["release"] = made.Release,
            },
            made.Release is { } release
                ? $"{string.Join(", ", made.Entities)}: attached, with {made.Layouts.Count} layouts, as release {release}."
                : $"{string.Join(", ", made.Entities)}: there as drafts, with {made.Layouts.Count} layouts; nothing is published."
        );

    private static void Print(Printer printer, IReadOnlyList<AttachSketch> sketches)
    {
        if (printer.Json)
        {
            printer.Write(sketches, WireJson.Default.IReadOnlyListAttachSketch);
            return;
        }

        foreach (var sketch in sketches)
        {
            printer.Line($"{sketch.Table}: {sketch.Label} ({sketch.Key}). {sketch.ReadOnly}".TrimEnd());
            printer.Table(
                ["Column", "Type there", "Field", "Type", "Required", "Only read, because"],
                sketch.Fields.Select(field =>
                    new[]
                    {
                        field.Columns,
                        field.DatabaseType,
                        field.Label,
                        field.Target is { } target ? $"{field.Type} to {target}" : field.Type,
                        field.Required ? "yes" : "",
                        sketch.ReadOnly is null ? field.ReadOnly ?? "" : "",
                    }
                )
            );
            foreach (var left in sketch.Left)
            {
                printer.Line($"Left out: {left.Column}. {left.Reason}");
            }

            printer.Line();
        }
    }

    private static Command Check(CommandLine line)
    {
        var database = Database();
        var check = new Command("check", "Says how the tables are other ones than the entities over them; exit code 1 where something is.")
        {
            database,
        };
        line.Do(check, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var found = await client.DatabaseDifferences(result.GetRequiredValue(database), cancel);
            Print(context.Printer, found);
            return found.Count == 0 ? Exit.Done : Exit.Refused;
        });
        return check;
    }

    private static void Print(Printer printer, IReadOnlyList<DatabaseDifference> found)
    {
        if (printer.Json)
        {
            printer.Write(found, WireJson.Default.IReadOnlyListDatabaseDifference);
            return;
        }

        if (found.Count == 0)
        {
            printer.Note("The tables are as the entities have them.");
        }

        foreach (var each in found)
        {
            printer.Line($"{each.Entity}: {each.Message}");
        }
    }

    private static Command Refresh(CommandLine line)
    {
        var database = Database();
        var refresh = new Command(
            "refresh",
            "Brings the drafts of entities in line with their tables: new columns become fields, fields without one are retired."
        )
        {
            database,
        };
        line.Change(refresh, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var outcome = await client.RefreshDatabase(result.GetRequiredValue(database), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(outcome, WireJson.Default.RefreshOutcome);
                return Exit.Done;
            }

            Print(context.Printer, outcome.Differences);
            context.Printer.Note(
                outcome.Changed.Count == 0
                    ? "No draft was changed."
                    : $"Drafts changed: {string.Join(", ", outcome.Changed)}. Look at them and publish them."
            );
            return Exit.Done;
        });
        return refresh;
    }
}
