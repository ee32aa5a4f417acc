using System.CommandLine;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>Layouts as files, compared, merged and edited: what a version control system asks of a format.</summary>
internal static class MergingCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        AddCompare(root, line);
        AddMerge(root, line);
        AddEdit(root, line);
    }

    private static void AddCompare(RootCommand root, CommandLine line)
    {
        var old = new Argument<string>("old") { Description = "A layout file, or draft:KEY for what the service holds; or all documents at once: release:N, current or drafts." };
        var next = new Argument<string>("new") { Description = "What it is compared with, named alike." };
        var compare = new Command("compare", "Tells what happened between two layouts, releases, or what is published and the drafts, as a short list; of layouts with --json the edits, which 'edit' takes.\nExits with 1 where they differ.\n\nExamples:\n  brighttier compare old/vessel.yaml demo/layouts/vessel.yaml\n  brighttier compare draft:vessel demo/layouts/vessel.yaml --json > edits.json\n  brighttier compare release:3 release:7\n  brighttier compare current drafts") { old, next };
        line.Do(compare, async (result, around, cancel) =>
        {
            var (one, other) = (result.GetRequiredValue(old), result.GetRequiredValue(next));
            if (Whole(one) is { } before && Whole(other) is { } after)
            {
                return await CompareAll(before, after, around, cancel);
            }

            if ((Whole(one) ?? Whole(other)) is not null)
            {
                throw new UsageException("A release, what is current, and the drafts are compared with one another, not with a layout.");
            }

            var (from, to) = (await Read(one, around, cancel), await Read(other, around, cancel));
            var edits = LayoutDiff.Edits(from, to);
            if (around.Printer.Json)
            {
                around.Printer.Line(Json(edits));
            }
            else
            {
                foreach (var sentence in EditSummary.Tell(from, edits))
                {
                    around.Printer.Line(sentence);
                }

                around.Printer.Line(edits.Count == 0 ? "Nothing differs." : $"{edits.Count} {(edits.Count == 1 ? "edit" : "edits")}.");
            }

            return edits.Count == 0 ? Exit.Done : Exit.Refused;
        });
        root.Subcommands.Add(compare);
    }

    /// <summary>What names all documents at once, as the service has it; null for what names a layout.</summary>
    private static string? Whole(string name) => name is "current" or "drafts" ? name : name.StartsWith("release:", StringComparison.Ordinal) ? name["release:".Length..] : null;

    private static async Task<int> CompareAll(string from, string to, CommandContext around, CancellationToken cancel)
    {
        using var client = around.Client();
        var compared = await client.DiffReleases(from, to, cancel);
        if (around.Printer.Json)
        {
            around.Printer.Write(compared, WireJson.Default.ReleaseComparison);
        }
        else
        {
            foreach (var document in compared.Documents)
            {
                around.Printer.Line($"{document.Kind}/{document.Key} was {document.Change}{(document.Draft is { } draft ? $", by {draft.ChangedBy}" : "")}{(document.Summary.Count > 0 ? ":" : ".")}");
                foreach (var sentence in document.Summary)
                {
                    around.Printer.Line($"  {sentence}");
                }
            }

            if (compared.Documents.Count == 0)
            {
                around.Printer.Line("Nothing differs.");
            }
        }

        return compared.Documents.Count == 0 ? Exit.Done : Exit.Refused;
    }

    private static void AddMerge(RootCommand root, CommandLine line)
    {
        var from = new Argument<string>("base") { Description = "The file both sides began with." };
        var mine = new Argument<string>("mine") { Description = "One side's file; the merged layout is written here unless --output says where." };
        var theirs = new Argument<string>("theirs") { Description = "The other side's file." };
        var output = new Option<string?>("--output", "-o") { Description = "Where the merged layout is written; - for the terminal." };
        var take = new Option<string?>("--take") { Description = "Which side has its way in conflicts, mine or theirs. Without it they are told, mine stands, and the exit code is 1." };
        take.AcceptOnlyFromAmong("mine", "theirs");
        var merge = new Command("merge", "Merges what two sides did to one layout. As a merge driver of git:\n\n  git config merge.brighttier.driver 'brighttier merge %O %A %B'\n  echo 'layouts/*.yaml merge=brighttier' >> .gitattributes\n\nExamples:\n  brighttier merge base.yaml mine.yaml theirs.yaml\n  brighttier merge base.yaml mine.yaml theirs.yaml --take theirs -o merged.yaml") { from, mine, theirs, output, take };
        line.Do(merge, async (result, around, cancel) =>
        {
            var (start, one, other) = (await Read(result.GetRequiredValue(from), around, cancel), await Read(result.GetRequiredValue(mine), around, cancel), await Read(result.GetRequiredValue(theirs), around, cancel));
            var side = result.GetValue(take);
            var merged = LayoutMerge.Merge(start, one, other, _ => side == "theirs" ? Side.Theirs : Side.Mine);
            var text = DocumentFile.Write(new Document.OfLayout(merged.Layout));
            var path = result.GetValue(output) ?? result.GetRequiredValue(mine);
            if (path == "-")
            {
                around.Printer.Line(text.TrimEnd());
            }
            else
            {
                await File.WriteAllTextAsync(path, text, cancel);
            }

            if (path != "-" || merged.Conflicts.Count > 0)
            {
                foreach (var conflict in merged.Conflicts)
                {
                    around.Printer.Line($"{conflict.Message} [{conflict.Code}]");
                    Tell(around.Printer.Line, "  mine:   ", start, conflict.Mine);
                    Tell(around.Printer.Line, "  theirs: ", start, conflict.Theirs);
                }

                around.Printer.Line(merged.Conflicts.Count == 0 ? "Merged, no conflict."
                    : side is null ? $"{merged.Conflicts.Count} {(merged.Conflicts.Count == 1 ? "conflict" : "conflicts")}; mine stands for now. Look at each, or give --take." : $"{merged.Conflicts.Count} resolved: {side} stands.");
            }

            return merged.Conflicts.Count > 0 && side is null ? Exit.Refused : Exit.Done;
        });
        root.Subcommands.Add(merge);
    }

    private static void Tell(Action<string> print, string name, Layout start, IReadOnlyList<Edit> edits)
    {
        foreach (var sentence in edits.Select(edit => EditSummary.Tell(start, [edit]).Single()))
        {
            print(name + sentence);
        }
    }

    private static void AddEdit(RootCommand root, CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "A layout file." };
        var file = new Argument<string>("edits") { Description = "A file of edits as JSON, such as 'compare --json' writes." };
        var dry = new Option<bool>("--dry-run") { Description = "Says what would happen, and changes nothing." };
        var edit = new Command("edit", "Applies edits from a file to a layout file, all or none.\n\nExample:\n  brighttier edit demo/layouts/vessel.yaml edits.json --dry-run") { layout, file, dry };
        line.Do(edit, async (result, around, cancel) =>
        {
            var path = result.GetRequiredValue(layout);
            var before = await Read(path, around, cancel);
            IReadOnlyList<Edit> edits;
            try
            {
                using var json = JsonDocument.Parse(await File.ReadAllTextAsync(result.GetRequiredValue(file), cancel), new JsonDocumentOptions { MaxDepth = Limits.FileDepth });
                var (read, problems) = TreeJson.ReadEdits(json.RootElement, before.Find);
                if (problems.Count > 0)
                {
                    throw new UsageException($"{result.GetRequiredValue(file)}: {string.Join("; ", problems.Select(problem => $"{problem.At.Pointer}: {problem.Message}"))}.");
                }

                edits = read;
            }
            catch (JsonException error)
            {
                throw new UsageException($"{result.GetRequiredValue(file)} is not JSON: {error.Message}");
            }

            var applied = before.Apply(edits);
            if (applied.Refusal is { } refusal)
            {
                around.Printer.Line($"Edit {refusal.Index + 1}: {refusal.Message} [{refusal.Code}] Nothing was changed.");
                return Exit.Refused;
            }

            foreach (var sentence in EditSummary.Tell(before, applied.Edits))
            {
                around.Printer.Line(sentence);
            }

            if (!result.GetValue(dry))
            {
                await File.WriteAllTextAsync(path, DocumentFile.Write(new Document.OfLayout(applied.Layout!)), cancel);
            }

            around.Printer.Line(result.GetValue(dry) ? "Nothing was changed." : $"{path} is changed.");
            return Exit.Done;
        });
        root.Subcommands.Add(edit);
    }

    private static async Task<Layout> Read(string name, CommandContext around, CancellationToken cancel)
    {
        string text;
        if (name.StartsWith("draft:", StringComparison.Ordinal))
        {
            using var client = around.Client();
            text = (await client.File("layout", name["draft:".Length..], cancel)).Text;
        }
        else
        {
            text = File.Exists(name) ? await File.ReadAllTextAsync(name, cancel) : throw new UsageException($"There is no file '{name}'.");
        }

        var (document, problems) = DocumentFile.Read(text);
        if (document is Document.OfLayout { Layout: var layout })
        {
            return layout;
        }

        CheckCommand.Print(around.Printer, new WorkFile(name, text, document, problems));
        throw new UsageException($"'{name}' holds no layout.");
    }

    private static string Json(IReadOnlyList<Edit> edits)
    {
        using var stream = new MemoryStream();
        using (var writer = new Utf8JsonWriter(stream, new JsonWriterOptions { Indented = true, Encoder = JsonText.Options.Encoder }))
        {
            TreeJson.Write(writer, edits);
        }

        return System.Text.Encoding.UTF8.GetString(stream.ToArray());
    }
}
