using System.CommandLine;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Documents;

namespace BrightTier.Cli.Commands;

/// <summary>Layouts: list, show, generate.</summary>
internal static class LayoutCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var layouts = new Command("layouts", "Layouts as they are in drafts.");
        var list = new Command("list", "Lists the layouts, what is published of them and what is wrong.");
        line.Do(list, async (_, around, cancel) =>
        {
            using var client = around.Client();
            var found = await client.Layouts(cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(found, WireJson.Default.IReadOnlyListLayoutSummary);
            }
            else
            {
                around.Printer.Table(
                    ["Layout", "Entity", "Title", "Revision", "Published", "Errors", "Warnings", "Changed by"],
                    found.Select(layout => new[]
                    {
                        layout.Key, layout.Entity, layout.Title, $"{layout.Revision}", layout.Published is null ? "never" : layout.Published == layout.Revision ? "yes" : $"revision {layout.Published}",
                        $"{layout.Errors}", $"{layout.Warnings}", layout.ChangedBy,
                    }));
            }

            return Exit.Done;
        });

        var key = new Argument<string>("layout") { Description = "The layout's key, or a file." };
        var wireframe = new Option<bool>("--wireframe") { Description = "Draws the rows to scale instead of an outline." };
        var show = new Command("show", "Shows a layout as an outline, or as a wireframe.\n\nExamples:\n  brighttier layouts show vessel\n  brighttier layouts show vessel --wireframe\n  brighttier layouts show demo/layouts/berth.yaml --wireframe") { key, wireframe };
        line.Do(show, async (result, around, cancel) =>
        {
            var name = result.GetRequiredValue(key);
            string text;
            if (File.Exists(name))
            {
                text = await File.ReadAllTextAsync(name, cancel);
            }
            else
            {
                using var client = around.Client();
                if (around.Printer.Json)
                {
                    around.Printer.Write(await client.Layout(name, cancel), WireJson.Default.LayoutDraft);
                    return Exit.Done;
                }

                text = (await client.File("layout", name, cancel)).Text;
            }

            var (document, problems) = DocumentFile.Read(text);
            if (document is not Document.OfLayout { Layout: var layout })
            {
                CheckCommand.Print(around.Printer, new WorkFile(name, text, document, problems));
                return Exit.Refused;
            }

            foreach (var each in result.GetValue(wireframe) ? Outline.Wireframe(layout, around.Printer.Width) : Outline.Lines(layout))
            {
                around.Printer.Line(each);
            }

            return Exit.Done;
        });

        var entity = new Argument<string>("entity") { Description = "The entity's key." };
        var as_ = new Option<string?>("--key") { Description = "The layout's key; default: the entity's." };
        var replace = new Option<bool>("--replace") { Description = "Puts the generated layout in the place of what the draft holds; the history keeps what was there." };
        var generate = new Command("generate", "Makes the generated layout of an entity a draft.\n\nExamples:\n  brighttier layouts generate berth --key berth-2\n  brighttier layouts generate berth --replace") { entity, as_, replace };
        line.Do(generate, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var layoutKey = result.GetValue(as_) ?? result.GetRequiredValue(entity);
            if (result.GetValue(replace))
            {
                var saved = await client.GenerateLayout(layoutKey, cancel);
                around.Printer.Line($"{layoutKey} holds the generated layout now, at revision {saved.Revision}.");
            }
            else
            {
                var made = await client.CreateLayout(new LayoutRequest(result.GetRequiredValue(entity), layoutKey), cancel);
                around.Printer.Line($"{made.Key} is made, at revision {made.Revision}, not published.");
            }

            return Exit.Done;
        });
        layouts.Subcommands.Add(list);
        layouts.Subcommands.Add(show);
        layouts.Subcommands.Add(generate);
        root.Subcommands.Add(layouts);
    }
}
