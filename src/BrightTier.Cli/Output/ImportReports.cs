using System.CommandLine;
using BrightTier.Contracts;
using BrightTier.Core.Validation;

namespace BrightTier.Cli.Output;

/// <summary>What an import did, or would do: for people, as JSON, as SARIF.</summary>
internal static class ImportReports
{
    public static Option<string?> Side()
    {
        var resolution = new Option<string?>("--conflict-resolution")
        {
            Description = "Which side wins where both changed the same: mine (what is sent) or theirs (the draft); without --merge, whole.",
        };
        resolution.AcceptOnlyFromAmong("mine", "theirs");
        return resolution;
    }

    public static Option<string> Format()
    {
        var format = new Option<string>("--format")
        {
            Description = "text or sarif (SARIF 2.1.0: what checks would find).",
            DefaultValueFactory = _ => "text",
        };
        format.AcceptOnlyFromAmong("text", "sarif");
        return format;
    }

    /// <param name="fileOf">The file a document came from, and what stands in it; null where that is no text.</param>
    /// <returns>The exit code.</returns>
    public static int Print(
        Printer printer,
        ImportReport report,
        bool dry,
        string format,
        Func<ImportedDocument, (string File, string? Text)> fileOf
    )
    {
        var refused = report.Documents.Any(taken => taken.Change == "conflict");
        if (printer.Json)
        {
            printer.Write(report, WireJson.Default.ImportReport);
        }
        else if (format == "sarif")
        {
            printer.Line(
                Sarif.Write([
                    .. report.Findings.Select(finding =>
                    {
                        // What is found in a document that was not sent has no file, and what merging brought no line.
                        var (file, text) = report.Documents.FirstOrDefault(taken => taken.Kind == finding.Kind && taken.Key == finding.Key)
                            is { } from
                            ? fileOf(from)
                            : ($"{finding.Kind}/{finding.Key}", null);
                        var at = text is null ? default : FilePlaces.Of(text, finding.Place);
                        return new PlacedFinding(
                            file,
                            at.Line,
                            at.Column,
                            finding.Place,
                            Enum.Parse<Severity>(finding.Severity, ignoreCase: true),
                            finding.Code,
                            finding.Message,
                            null,
                            null
                        );
                    }),
                ])
            );
        }
        else
        {
            if (report.Bundle is { } bundle)
            {
                printer.Line(
                    $"From {bundle.From}, {(bundle.Release is { } release ? $"release {release}" : "its drafts")}, made "
                        + $"{bundle.At:yyyy-MM-dd HH:mm} UTC."
                );
            }

            foreach (var taken in report.Documents.Where(taken => taken.Change != "unchanged"))
            {
                Print(printer, taken, dry);
            }

            foreach (var finding in report.Findings)
            {
                printer.Marked(
                    finding.Severity == "error" ? "red" : "yellow",
                    finding.Severity,
                    $": {finding.Kind} {finding.Key}{(finding.Place.Length > 0 ? $", {finding.Place}" : "")}: "
                        + $"{finding.Message} [{finding.Code}]"
                );
            }

            var count = report.Documents.Count(taken => taken.Change is not ("unchanged" or "conflict"));
            printer.Line(
                refused ? "Nothing would be imported: look at the conflicts, or give --conflict-resolution."
                : count == 0 ? "Nothing differs from the drafts."
                : dry ? $"{Counted(count)} would change; nothing was changed."
                : $"{Counted(count)} changed. 'brighttier publish' gives {(count == 1 ? "it" : "them")} to everyone."
            );
        }

        return refused || (dry && report.Findings.Any(finding => finding.Severity == "error")) ? Exit.Refused : Exit.Done;
    }

    private static void Print(Printer printer, ImportedDocument taken, bool dry)
    {
        var would = taken.Change switch
        {
            "made" => dry ? "would be made" : "is made",
            "changed" => dry ? "would change" : "is changed",
            "merged" => dry ? "would be merged" : "is merged",
            _ => "conflicts",
        };
        printer.Marked(
            taken.Change == "conflict" ? "red" : "green",
            $"{taken.Kind} {taken.Key} {would}",
            taken.Summary.Count == 0 && taken.Conflicts.Count == 0 ? "." : ":"
        );
        foreach (var sentence in taken.Conflicts.Concat(taken.Base is { } merged ? [merged] : []).Concat(taken.Summary))
        {
            printer.Line($"  {sentence}");
        }

        foreach (var notice in taken.Impact)
        {
            printer.Line($"  used by: {notice}");
        }
    }

    private static string Counted(int count) => count == 1 ? "1 draft" : $"{count} drafts";
}
