using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;

namespace BrightTier.Cli.Commands;

/// <summary>How layouts, releases and drafts differ.</summary>
internal static class DiffCommand
{
    public static Command Make(CommandLine line)
    {
        var old = new Argument<string>("old")
        {
            DefaultValueFactory = _ => "current",
            Description =
                "Default: current. A layout file, - for standard input, or draft:KEY; or all documents: release:N, current or drafts.",
        };
        var next = new Argument<string>("new")
        {
            DefaultValueFactory = _ => "drafts",
            Description = "What it is compared with, named likewise. Default: drafts.",
        };
        var command = new Command(
            "diff",
            "Shows how two layouts, two releases, or what is published and the drafts differ; of layouts with --json as "
                + "edits, which 'layout edit' takes.\nExits with 1 where they differ.\n\nExamples:\n  brighttier diff\n  "
                + "brighttier diff old/vessel.yaml demo/layouts/vessel.yaml\n  brighttier diff draft:vessel "
                + "demo/layouts/vessel.yaml --json > edits.json\n  brighttier diff release:3 release:7\n  brighttier "
                + "diff current drafts"
        )
        {
            old,
            next,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var (one, other) = (result.GetRequiredValue(old), result.GetRequiredValue(next));
            if (ReleaseNamed(one) is { } before && ReleaseNamed(other) is { } after)
            {
                return await DiffReleases(before, after, context, cancel);
            }

            if ((ReleaseNamed(one) ?? ReleaseNamed(other)) is not null)
            {
                throw new UsageException("A layout cannot be compared with a release or with all drafts.");
            }

            var from = (await LayoutFiles.ReadDocument(one, context, cancel)).Layout;
            var to = (
                (Document.OfLayout)(await LayoutFiles.ReadDocument(other, context, cancel)).CarriedFrom(new Document.OfLayout(from))
            ).Layout;
            var edits = LayoutDiff.Edits(from, to);
            if (context.Printer.Json)
            {
                context.Printer.Line(LayoutFiles.Json(edits));
            }
            else
            {
                foreach (var sentence in EditSummary.Describe(from, edits))
                {
                    context.Printer.Line(sentence.English);
                }

                context.Printer.Line(edits.Count == 0 ? "Nothing differs." : $"{edits.Count} {(edits.Count == 1 ? "edit" : "edits")}.");
            }

            return edits.Count == 0 ? Exit.Done : Exit.Refused;
        });
        return command;
    }

    /// <summary>What names all documents at once, as the service has it; null for what names a layout.</summary>
    private static string? ReleaseNamed(string name) =>
        name is "current" or "drafts" ? name
        : name.StartsWith("release:", StringComparison.Ordinal) ? name["release:".Length..]
        : null;

    private static async Task<int> DiffReleases(string from, string to, CommandContext context, CancellationToken cancel)
    {
        using var client = context.Client();
        var compared = await client.DiffReleases(from, to, cancel);
        if (context.Printer.Json)
        {
            context.Printer.Write(compared, WireJson.Default.ReleaseComparison);
        }
        else
        {
            foreach (var document in compared.Documents)
            {
                var by = document.Draft is { } draft ? $", by {draft.ChangedBy}" : "";
                var end = document.Summary.Count > 0 ? ":" : ".";
                context.Printer.Line($"{document.Kind}/{document.Key} {document.Change}{by}{end}");
                foreach (var sentence in document.Summary)
                {
                    context.Printer.Line($"  {sentence}");
                }
            }

            if (compared.Documents.Count == 0)
            {
                context.Printer.Line("Nothing differs.");
            }
        }

        return compared.Documents.Count == 0 ? Exit.Done : Exit.Refused;
    }
}
