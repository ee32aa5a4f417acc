using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Documents;

namespace BrightTier.Cli.Commands;

/// <summary>Layouts: list, show, generate.</summary>
internal static class LayoutCommands
{
    public static Command Make(CommandLine line) =>
        new("layout", "Layouts: in drafts, and as files.")
        {
            List(line),
            Show(line),
            Generate(line),
            Archive(line),
            BringBack(line),
            LayoutExplainCommand.Make(line),
            LayoutLengthCommand.Make(line),
            LayoutEditCommand.Make(line),
            LayoutPlaceCommand.Make(line),
            LayoutProposeCommand.Make(line),
        };

    private static Command List(CommandLine line)
    {
        var archived = new Option<bool>("--archived") { Description = "Those that are archived, instead of those in use." };
        var list = new Command("list", "Lists the layouts, what is published of them and what is wrong.") { archived };
        line.Do(list, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var found = result.GetValue(archived) ? await client.ArchivedLayouts(cancel) : await client.Layouts(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(found, WireJson.Default.IReadOnlyListLayoutSummary);
            }
            else
            {
                context.Printer.Table(
                    ["Layout", "Entity", "Title", "Revision", "Published", "Errors", "Warnings", "Changed by"],
                    found.Select(layout =>
                        new[]
                        {
                            layout.Key,
                            layout.Entity,
                            layout.Title,
                            $"{layout.Revision}",
                            layout.Published is null ? "never"
                            : layout.Published == layout.Revision ? "yes"
                            : $"revision {layout.Published}",
                            $"{layout.Errors}",
                            $"{layout.Warnings}",
                            layout.ChangedBy,
                        }
                    )
                );
            }

            return Exit.Done;
        });
        return list;
    }

    private static Command Show(CommandLine line)
    {
        var key = new Argument<string>("layout") { Description = "The layout's key, a file, or - for standard input." };
        var wireframe = new Option<bool>("--wireframe") { Description = "Draws the rows to scale instead of an outline." };
        var show = new Command(
            "show",
            "Shows a layout as an outline, or as a wireframe.\n\nExamples:\n  brighttier layout show vessel\n  brighttier "
                + "layout show vessel --wireframe\n  brighttier layout show demo/layouts/berth.yaml --wireframe"
        )
        {
            key,
            wireframe,
        };
        line.Do(show, async (result, context, cancel) =>
        {
            var name = result.GetRequiredValue(key);
            string text;
            if (name == Streams.Standard || File.Exists(name))
            {
                text = await Streams.Read(name, cancel);
            }
            else
            {
                using var client = context.Client();
                if (context.Printer.Json)
                {
                    context.Printer.Write(await client.Layout(name, cancel), WireJson.Default.LayoutDraft);
                    return Exit.Done;
                }

                text = (await client.File("layout", name, cancel)).Text;
            }

            var (document, problems) = DocumentFile.Read(text);
            if (document is not Document.OfLayout { Layout: var layout })
            {
                CheckCommand.Print(context.Printer, new WorkFile(name, text, document, problems));
                return Exit.Refused;
            }

            foreach (var each in result.GetValue(wireframe) ? Outline.Wireframe(layout, context.Printer.Width) : Outline.Lines(layout))
            {
                context.Printer.Line(each);
            }

            return Exit.Done;
        });
        return show;
    }

    private static Command Archive(CommandLine line)
    {
        var key = new Argument<string>("layout") { Description = "The layout's or piece's key." };
        var archive = new Command(
            "archive",
            "Archives a layout or piece that nothing names; people keep it until that is published.\n\nExamples:\n  brighttier layout "
                + "archive berth-2\n  brighttier impact layout vessel   # what names it"
        )
        {
            key,
        };
        line.Change(archive, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var saved = await client.ArchiveLayout(result.GetRequiredValue(key), cancel);
            return Saved(context, saved, saved.Changed ? "is archived" : "was archived already");
        });
        return archive;
    }

    private static Command BringBack(CommandLine line)
    {
        var key = new Argument<string>("layout") { Description = "The key; 'brighttier layout list --archived' lists them." };
        var back = new Command("bring-back", "Brings an archived layout or piece back, as it was.") { key };
        line.Change(back, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var saved = await client.BringBackLayout(result.GetRequiredValue(key), cancel);
            return Saved(context, saved, saved.Changed ? "is back" : "was not archived");
        });
        return back;
    }

    private static int Saved(CommandContext context, SaveResult saved, string said)
    {
        context.Printer.Done(
            new JsonObject { ["key"] = saved.Key, ["revision"] = saved.Revision },
            saved.Changed ? $"{saved.Key} {said}, at revision {saved.Revision}, not published." : $"{saved.Key} {said}."
        );
        return Exit.Done;
    }

    private static Command Generate(CommandLine line)
    {
        var entity = new Argument<string>("entity") { Description = "The entity's key." };
        var as_ = new Option<string?>("--key") { Description = "The layout's key; default: the entity's." };
        var replace = new Option<bool>("--replace") { Description = "Replaces what the draft holds; its history keeps that." };
        var generate = new Command(
            "generate",
            "Creates a draft with the generated layout of an entity.\n\nExamples:\n  brighttier layout generate berth --key "
                + "berth-2\n  brighttier layout generate berth --replace"
        )
        {
            entity,
            as_,
            replace,
        };
        line.Change(generate, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var layoutKey = result.GetValue(as_) ?? result.GetRequiredValue(entity);
            if (result.GetValue(replace))
            {
                var saved = await client.GenerateLayout(layoutKey, cancel);
                context.Printer.Done(
                    new JsonObject { ["key"] = layoutKey, ["revision"] = saved.Revision },
                    $"{layoutKey} holds the generated layout now, at revision {saved.Revision}."
                );
            }
            else
            {
                var made = await client.CreateLayout(new LayoutRequest(result.GetRequiredValue(entity), layoutKey), cancel);
                context.Printer.Done(
                    new JsonObject { ["key"] = made.Key, ["revision"] = made.Revision },
                    $"{made.Key} is created, at revision {made.Revision}, not published."
                );
            }

            return Exit.Done;
        });
        return generate;
    }
}
