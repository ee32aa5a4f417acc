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
            Description =
                "text, or what checks would find and what does not go together: sarif (SARIF 2.1.0) or junit (a test report in XML).",
            DefaultValueFactory = _ => "text",
        };
        format.AcceptOnlyFromAmong("text", "sarif", "junit");
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
        var refused =
            report.Documents.Any(taken => taken.Change == "conflict") || (report.Missing ?? []).Any(missing => missing.State == "used");
        if (printer.Json)
        {
            printer.Write(report, WireJson.Default.ImportReport);
        }
        else if (format == "sarif")
        {
            printer.Line(Sarif.Write(Findings(report, fileOf)));
        }
        else if (format == "junit")
        {
            printer.Line(
                TestSummary.Write(
                    dry ? "brighttier apply --dry-run" : "brighttier apply",
                    report.Documents.Select(taken => fileOf(taken).File),
                    Findings(report, fileOf),
                    Severity.Error
                )
            );
        }
        else
        {
            PrintText(printer, report, dry, refused);
        }

        return refused || (dry && report.Findings.Any(finding => finding.Severity == "error")) ? Exit.Refused : Exit.Done;
    }

    /// <summary>What checks would find, what both sides changed, and what is gone while something names it.</summary>
    private static PlacedFinding[] Findings(ImportReport report, Func<ImportedDocument, (string File, string? Text)> fileOf) =>
        [
            .. report.Documents.SelectMany(taken => taken.Conflicts.Select(conflict => Unplaced(fileOf(taken).File, "conflict", conflict))),
            .. (report.Missing ?? [])
                .Where(missing => missing.State == "used")
                .SelectMany(missing =>
                    missing.Uses.Select(use =>
                        Unplaced($"{missing.Kind}/{missing.Key}", "document-used", $"It is gone from the folder: {use}")
                    )
                ),
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
        ];

    private static PlacedFinding Unplaced(string file, string code, string message) =>
        new(file, 0, 0, "", Severity.Error, code, message, null, null);

    private static void PrintText(Printer printer, ImportReport report, bool dry, bool refused)
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

        foreach (var taken in report.Documents.Where(taken => taken.Ahead))
        {
            printer.Note($"{taken.Kind} {taken.Key} was changed here since, and its file says nothing new; the draft stays as it is.");
        }

        foreach (var missing in report.Missing ?? [])
        {
            Print(printer, missing, dry);
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

        var count =
            report.Documents.Count(taken => taken.Change is not ("unchanged" or "conflict"))
            + (report.Missing ?? []).Count(missing => missing.State == "archived");
        printer.Line(
            refused ? "Nothing would be imported: look at the conflicts, or give --conflict-resolution."
            : count == 0 ? "Nothing differs from the drafts."
            : dry ? $"{Counted(count)} would change; nothing was changed."
            : $"{Counted(count)} changed. 'brighttier publish' gives {(count == 1 ? "it" : "them")} to everyone."
        );
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

    private static void Print(Printer printer, MissingDocument missing, bool dry)
    {
        var became = missing.Became is { } key ? $", renamed to {key}" : "";
        var (color, state) = missing.State switch
        {
            "archived" => ("green", dry ? "would be archived" : "is archived"),
            "used" => ("red", "is in use and cannot be archived:"),
            "kept" => ("yellow", "stays; documents of its kind are not archived."),
            _ => ("yellow", "stays; --archive-missing archives it."),
        };
        printer.Marked(
            color,
            $"{missing.Kind} {missing.Key} is gone from the folder{became}",
            missing.State == "archived" ? $" and {state}." : $": it {state}"
        );
        foreach (var use in missing.Uses)
        {
            printer.Line($"  {use}");
        }
    }

    private static string Counted(int count) => count == 1 ? "1 draft" : $"{count} drafts";
}
