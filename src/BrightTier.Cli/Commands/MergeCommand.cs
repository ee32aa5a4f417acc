using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;

namespace BrightTier.Cli.Commands;

/// <summary>Two sides of one file put together, as a version control system asks.</summary>
internal static class MergeCommand
{
    public static Command Make(CommandLine line)
    {
        var from = new Argument<string>("base") { Description = "The file both sides began with." };
        var mine = new Argument<string>("mine")
        {
            Description = "One side's file; the outcome is written here unless --output says where.",
        };
        var theirs = new Argument<string>("theirs") { Description = "The other side's file." };
        var output = new Option<string?>("--output", "-o") { Description = "Where the outcome is written; - for standard output." };
        var name = new Option<string?>("--name") { Description = "What the file is called in messages. Default: mine." };
        var resolution = new Option<string?>("--conflict-resolution")
        {
            Description =
                "Which side wins where both changed the same: mine or theirs. Without it the outcome has both between marks, as "
                + "version control leaves them, and the exit code is 1.",
        };
        resolution.AcceptOnlyFromAmong("mine", "theirs");
        var command = new Command(
            "merge",
            "Merges what two sides did to one file: a document by what it means, with its comments; any other file line by "
                + "line.\n'git setup' has git do it.\n\nExamples:\n  brighttier merge base.yaml mine.yaml theirs.yaml\n  brighttier "
                + "merge base.yaml mine.yaml theirs.yaml --conflict-resolution theirs -o merged.yaml"
        )
        {
            from,
            mine,
            theirs,
            output,
            name,
            resolution,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var sides = new Sides(
                await Streams.Read(result.GetRequiredValue(from), cancel),
                await Streams.Read(result.GetRequiredValue(mine), cancel),
                await Streams.Read(result.GetRequiredValue(theirs), cancel)
            );
            var path = result.GetValue(output) ?? result.GetRequiredValue(mine);
            var called = result.GetValue(name) ?? path;
            Side? side = result.GetValue(resolution) switch
            {
                "mine" => Side.Mine,
                "theirs" => Side.Theirs,
                _ => null,
            };
            var outcome = sides.Merge(side) ?? await GitMerge.Lines(sides.From, sides.Mine, sides.Theirs, side, cancel);
            if (path == Streams.Standard)
            {
                context.Printer.Line(outcome.Text.TrimEnd());
            }
            else
            {
                await File.WriteAllTextAsync(path, outcome.Text, cancel);
            }

            foreach (var said in outcome.Told)
            {
                context.Printer.Note($"{called}: {said}");
            }

            context.Printer.Note(
                outcome.Conflicts == 0 ? $"{called}: merged without conflicts."
                : side is null
                    ? $"{called}: {Counted(outcome.Conflicts)}, between marks in the file; choose a side at each, and "
                        + $"delete the marks."
                : $"{called}: {Counted(outcome.Conflicts)} resolved: {result.GetValue(resolution)} stands."
            );
            return outcome.Conflicts > 0 && side is null ? Exit.Refused : Exit.Done;
        });
        return command;
    }

    private static string Counted(int conflicts) => $"{conflicts} {(conflicts == 1 ? "conflict" : "conflicts")}";

    /// <summary>The texts that are merged.</summary>
    private sealed record Sides(string From, string Mine, string Theirs)
    {
        /// <summary>The outcome of merging them as a document; null where one of them is none, or they are not of one document.</summary>
        public MergedText? Merge(Side? take)
        {
            var from = DocumentFile.Read(From).Document;
            if (
                DocumentFile.Read(Mine).Document is not { } mine
                || DocumentFile.Read(Theirs).Document is not { } theirs
                || (from is null && From.Trim().Length > 0)
                || (mine.Kind, mine.Key) != (theirs.Kind, theirs.Key)
            )
            {
                return null;
            }

            var merged = DocumentMerge.MergeFiles(from, mine, theirs, take ?? Side.Mine);
            if (merged.Document is null)
            {
                return null;
            }

            var kept = Written(merged.Document);
            var other =
                merged.Conflicts.Count > 0 && take is null
                    ? DocumentMerge.MergeFiles(from, mine, theirs, Side.Theirs).Document is { } document
                        ? Written(document).Text
                        : Theirs
                    : kept.Text;
            return new MergedText(
                ConflictMarks.Write(kept.Text, other),
                merged.Conflicts.Count,
                [
                    .. merged.Conflicts.SelectMany(conflict =>
                        conflict
                            .Mine.Select(did => $"  mine:   {did}")
                            .Concat(conflict.Theirs.Select(did => $"  theirs: {did}"))
                            .Prepend($"{conflict.Message} [{conflict.Code}]")
                    ),
                    .. CommentedFiles.Gone(kept),
                ]
            );
        }

        private CommentedText Written(Document document) =>
            FileComments.Write(document, From.Trim().Length > 0 ? From : null, Mine, Theirs);
    }
}

/// <summary>What a merge came to.</summary>
/// <param name="Told">What is to be said of it, a line each.</param>
internal sealed record MergedText(string Text, int Conflicts, IReadOnlyList<string> Told);
