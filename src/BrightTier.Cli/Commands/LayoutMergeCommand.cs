using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>Two sides of one layout put together, as a version control system asks.</summary>
internal static class LayoutMergeCommand
{
    public static Command Make(CommandLine line)
    {
        var from = new Argument<string>("base") { Description = "The file both sides began with." };
        var mine = new Argument<string>("mine")
        {
            Description = "One side's file; the merged layout is written here unless --output says where.",
        };
        var theirs = new Argument<string>("theirs") { Description = "The other side's file." };
        var output = new Option<string?>("--output", "-o") { Description = "Where the merged layout is written; - for standard output." };
        var resolution = new Option<string?>("--conflict-resolution")
        {
            Description =
                "Which side wins where both changed the same: mine or theirs. Without it conflicts are listed, mine stands, "
                + "and the exit code is 1.",
        };
        resolution.AcceptOnlyFromAmong("mine", "theirs");
        var command = new Command(
            "merge",
            "Merges what two sides did to one layout. As a merge driver of git:\n\n  git config merge.brighttier.driver "
                + "'brighttier layout merge %O %A %B'\n  echo 'layouts/*.yaml merge=brighttier' >> "
                + ".gitattributes\n\nExamples:\n  brighttier layout merge base.yaml mine.yaml theirs.yaml\n  brighttier "
                + "layout merge base.yaml mine.yaml theirs.yaml --conflict-resolution theirs -o merged.yaml"
        )
        {
            from,
            mine,
            theirs,
            output,
            resolution,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var (start, one, other) = (
                await LayoutFiles.Read(result.GetRequiredValue(from), context, cancel),
                await LayoutFiles.Read(result.GetRequiredValue(mine), context, cancel),
                await LayoutFiles.Read(result.GetRequiredValue(theirs), context, cancel)
            );
            var side = result.GetValue(resolution);
            var merged = LayoutMerge.Merge(start, one, other, _ => side == "theirs" ? Side.Theirs : Side.Mine);
            var text = DocumentFile.Write(new Document.OfLayout(merged.Layout));
            var path = result.GetValue(output) ?? result.GetRequiredValue(mine);
            if (path == "-")
            {
                context.Printer.Line(text.TrimEnd());
            }
            else
            {
                await File.WriteAllTextAsync(path, text, cancel);
            }

            if (path != "-" || merged.Conflicts.Count > 0)
            {
                foreach (var conflict in merged.Conflicts)
                {
                    context.Printer.Line($"{conflict.Message} [{conflict.Code}]");
                    Print(context.Printer.Line, "  mine:   ", start, conflict.Mine);
                    Print(context.Printer.Line, "  theirs: ", start, conflict.Theirs);
                }

                context.Printer.Line(
                    merged.Conflicts.Count == 0 ? "Merged without conflicts."
                    : side is null
                        ? $"{merged.Conflicts.Count} {(merged.Conflicts.Count == 1 ? "conflict" : "conflicts")}; mine stands "
                            + $"for now. Look at each, or give --conflict-resolution."
                    : $"{merged.Conflicts.Count} resolved: {side} stands."
                );
            }

            return merged.Conflicts.Count > 0 && side is null ? Exit.Refused : Exit.Done;
        });
        return command;
    }

    private static void Print(Action<string> print, string name, Layout start, IReadOnlyList<Edit> edits)
    {
        foreach (var sentence in edits.Select(edit => EditSummary.Describe(start, [edit]).Single()))
        {
            print(name + sentence);
        }
    }
}
