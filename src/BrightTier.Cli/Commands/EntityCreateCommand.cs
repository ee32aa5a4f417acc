using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>An entity made of a table: its forms, list, card, menu entry and records with it.</summary>
internal static class EntityCreateCommand
{
    public static Command Make(CommandLine line)
    {
        var table = new Argument<string>("table")
        {
            Description = "A CSV file whose first line heads the columns, or - for standard input.",
        };
        var label = new Option<string?>("--label") { Description = "What one record is called; default: made of the file's name." };
        var plural = new Option<string?>("--plural") { Description = "What several are called." };
        var display = new Option<string?>("--display") { Description = "The text that names a record, such as \"{name}, {code}\"." };
        var types = Columns("--type", "A column's type, as Heading=type: date, money, choice, reference:vessel and so on.");
        var left = Columns("--leave-out", "A column to leave out, by its heading.");
        var empty = new Option<bool>("--empty-doubtful") { Description = "Leaves cells empty that do not fit their column." };
        var drafts = new Option<bool>("--drafts") { Description = "Makes drafts; publishes nothing and imports nothing." };
        var dry = new Option<bool>("--dry-run") { Description = "Only shows what would be made, and why." };
        var create = new Command(
            "create",
            "Creates an entity of a table, with forms, list, card, menu entry and records, and publishes it: all or nothing.\n\n"
                + "Examples:\n  brighttier entity create moorings.csv --dry-run\n  brighttier entity create moorings.csv --type "
                + "\"Warden=text\" --leave-out Remarks"
        )
        {
            table,
            label,
            plural,
            display,
            types,
            left,
            empty,
            drafts,
            dry,
        };
        line.Change(create, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var name = result.GetRequiredValue(table);
            var request = new TableRequest(
                name == Streams.Standard ? "records.csv" : Path.GetFileName(name),
                await Streams.Read(name, cancel),
                result.GetValue(label),
                result.GetValue(plural),
                result.GetValue(display),
                EmptyDoubtful: result.GetValue(empty),
                Publish: !result.GetValue(drafts)
            );
            var (said, without) = (result.GetValue(types) ?? [], result.GetValue(left) ?? []);
            if (said.Length + without.Length > 0)
            {
                var headings = (await client.SketchTable(request, cancel)).Columns.Select(column => column.Heading).ToArray();
                request = request with { Columns = Wishes(headings, said, without) };
            }

            if (result.GetValue(dry))
            {
                Print(context.Printer, await client.SketchTable(request, cancel));
                return Exit.Done;
            }

            Print(context.Printer, await client.CreateEntity(request, cancel));
            return Exit.Done;
        });
        return create;
    }

    private static void Print(Printer printer, TableOutcome made) =>
        printer.Done(
            new JsonObject
            {
                ["entity"] = made.Entity,
                ["records"] = made.Records,
                ["release"] = made.Release,
            },
            made.Release is { } release
                ? $"{made.Entity} is made, with {made.Layouts.Count} layouts and {made.Records} records, as release {release}."
                : $"{made.Entity} is made as drafts, with {made.Layouts.Count} layouts; nothing is published."
        );

    private static Option<string[]> Columns(string name, string about) => new(name) { Description = about };

    private static TableColumnRequest[] Wishes(string[] headings, string[] types, string[] left)
    {
        var said = types
            .Select(each =>
                each.LastIndexOf('=') is var at and > 0 ? (Heading: each[..at], Type: each[(at + 1)..]) : (Heading: each, Type: "")
            )
            .ToDictionary(each => each.Heading, each => each.Type, StringComparer.OrdinalIgnoreCase);
        foreach (var named in said.Keys.Concat(left).Where(each => !headings.Contains(each, StringComparer.OrdinalIgnoreCase)))
        {
            throw new UsageException($"There is no column '{named}'; there are: {string.Join(", ", headings)}.");
        }

        return
        [
            .. headings.Select(heading =>
                said.GetValueOrDefault(heading)?.Split(':', 2) is [var type, .. var target]
                    ? new TableColumnRequest(Type: type, Target: target.FirstOrDefault())
                    : new TableColumnRequest(Left: left.Contains(heading, StringComparer.OrdinalIgnoreCase))
            ),
        ];
    }

    private static void Print(Printer printer, TableSketch sketch)
    {
        if (printer.Json)
        {
            printer.Write(sketch, WireJson.Default.TableSketch);
            return;
        }

        printer.Line($"{sketch.Label} ({sketch.Key}), {sketch.Records} records, each shown as \"{sketch.Display}\"");
        printer.Table(
            ["Column", "Field", "Type", "Notes", "Why", "Doubtful"],
            sketch.Columns.Select(column =>
                column.Left
                    ? new[] { column.Heading, "", "", "left out", "", "" }
                    :
                    [
                        column.Heading,
                        column.Label,
                        column.Type
                            + (column.Target is null ? "" : $" to {column.Target}")
                            + (column.Unit is null ? "" : $", {column.Unit}"),
                        EntityCommands.Notes((column.Required, "required"), (column.Unique, "unique")),
                        column.Reason,
                        column.Doubtful == 0 ? "" : $"{column.Doubtful}",
                    ]
            )
        );
        foreach (var doubt in sketch.Columns.SelectMany(column => column.Left ? [] : column.Doubts).OrderBy(doubt => doubt.Line))
        {
            printer.Line($"line {doubt.Line}, {doubt.Field}: {doubt.Message}");
        }
    }
}
