using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Messages;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;

namespace BrightTier.Cli.Commands;

/// <summary>Checks files without a service, and mends what can be.</summary>
internal static class CheckCommand
{
    public static Command Make(CommandLine line)
    {
        var paths = new Argument<string[]>("path") { Description = "Files, or folders of files.", Arity = ArgumentArity.OneOrMore };
        var strict = new Option<bool>("--strict") { Description = "Warnings count as errors." };
        var fix = new Option<bool>("--fix") { Description = "Fixes what has a fix, in the files." };
        var format = new Option<string>("--format")
        {
            Description = "text, json (a line each), sarif (SARIF 2.1.0), or junit (a test report in XML: a case a file).",
            DefaultValueFactory = _ => "text",
        };
        format.AcceptOnlyFromAmong("text", "json", "sarif", "junit");
        var check = new Command(
            "check",
            "Checks files without a service: form, conditions, and every rule. Entities are looked for in the folders given "
                + "and beside them.\n\nExamples:\n  brighttier check demo\n  brighttier check demo/layouts/vessel.yaml "
                + "--strict\n  brighttier check quay --fix\n  brighttier check quay --format sarif > findings.sarif\n  "
                + "brighttier check quay --format junit > checks.xml"
        )
        {
            paths,
            strict,
            fix,
            format,
        };
        line.Do(check, async (result, context, cancel) =>
        {
            var workspace = Workspace.Read(result.GetRequiredValue(paths), cancel);
            if (result.GetValue(fix))
            {
                await Repair(workspace, context.Printer, cancel);
                workspace = Workspace.Read(result.GetRequiredValue(paths), cancel);
            }

            var findings = Findings(workspace).ToArray();
            var gravest = result.GetValue(strict) ? Severity.Warning : Severity.Error;
            Print(context.Printer, context.Printer.Json ? "json" : result.GetValue(format)!, workspace, findings, gravest);
            return findings.Any(finding => finding.Severity >= gravest) ? Exit.Refused : Exit.Done;
        });
        return check;
    }

    /// <param name="gravest">What has to be mended at least.</param>
    private static void Print(Printer printer, string format, Workspace workspace, IReadOnlyList<PlacedFinding> findings, Severity gravest)
    {
        switch (format)
        {
            case "sarif":
                printer.Line(Sarif.Write(findings));
                break;
            case "junit":
                printer.Line(TestSummary.Write("brighttier check", workspace.Files.Select(file => file.Path), findings, gravest));
                break;
            case "json":
                foreach (var finding in findings)
                {
                    printer.Line(ToJson(finding));
                }

                break;
            default:
                foreach (var finding in findings)
                {
                    Print(printer, finding, workspace.Files.First(file => file.Path == finding.File).Text);
                }

                var count = workspace.Files.Count;
                printer.Line(
                    findings.Count == 0
                        ? $"{count} {(count == 1 ? "file" : "files")} checked, nothing found."
                        : $"{count} {(count == 1 ? "file" : "files")} checked: {Counted(findings)}."
                );
                break;
        }
    }

    private static string Counted(IReadOnlyList<PlacedFinding> findings) =>
        string.Join(
            ", ",
            new[] { (Severity.Error, "error", "errors"), (Severity.Warning, "warning", "warnings"), (Severity.Advice, "advice", "advice") }
                .Select(each => (Count: findings.Count(finding => finding.Severity == each.Item1), each))
                .Where(pair => pair.Count > 0)
                .Select(pair => $"{pair.Count} {(pair.Count == 1 ? pair.each.Item2 : pair.each.Item3)}")
        );

    private static PlacedFinding Placed(WorkFile file, FileProblem problem) =>
        new(
            file.Path,
            problem.At.Line,
            problem.At.Column,
            problem.At.Pointer,
            Severity.Error,
            "document-invalid",
            Suggestion.Sentence(Message.Verbatim(char.ToUpperInvariant(problem.Message.English[0]) + problem.Message.English[1..])).English,
            null,
            null
        );

    private static IEnumerable<PlacedFinding> Findings(Workspace workspace)
    {
        foreach (var file in workspace.Files)
        {
            foreach (var problem in file.Problems)
            {
                yield return Placed(file, problem);
            }

            if (file.Document is Document.OfLayout { Layout: var layout, Places: var places })
            {
                foreach (var finding in Checker.Check(layout, workspace.Catalogue))
                {
                    var at = places.GetValueOrDefault(finding.Node);
                    yield return new PlacedFinding(
                        file.Path,
                        at.Line,
                        at.Column,
                        at.Pointer ?? "",
                        finding.Severity,
                        finding.Code,
                        finding.Message.English,
                        finding.Evidence?.English,
                        finding.Fix?.Label.English
                    );
                }
            }
        }

        // What is found in other documents is told where one of them is looked at.
        foreach (
            var finding in workspace.Files.Any(file => file.Document is not (null or Document.OfLayout))
                ? Checker.CheckDocuments(workspace.Catalogue)
                : []
        )
        {
            if (workspace.Files.FirstOrDefault(file => file.Document?.Kind == finding.Kind && file.Document.Key == finding.Key) is { } file)
            {
                var at = FilePlaces.At(file.Text, finding.Pointer);
                yield return new PlacedFinding(
                    file.Path,
                    at.Line,
                    at.Column,
                    finding.Pointer,
                    finding.Severity,
                    finding.Code,
                    finding.Message.English,
                    finding.Evidence?.English,
                    null
                );
            }
        }
    }

    private static async Task Repair(Workspace workspace, Printer printer, CancellationToken cancel)
    {
        foreach (var file in workspace.Files)
        {
            if (file.Document is not Document.OfLayout { Layout: var layout, Derived: var derived })
            {
                continue;
            }

            var catalogue = workspace.Catalogue;
            var mended = new List<string>();
            // One fix may mend, or bring about, another finding: each round looks anew.
            for (var round = 0; round < 50; round++)
            {
                if (
                    Checker
                        .Check(layout, catalogue)
                        .Where(finding => finding.Fix is not null)
                        .Select(finding => (finding, applied: layout.Apply(finding.Fix!.Edits)))
                        .FirstOrDefault(pair => pair.applied.Layout is { } next && !next.Equals(layout))
                    is not { applied: { Layout: { } changed }, finding: var found }
                )
                {
                    break;
                }

                layout = changed;
                catalogue = catalogue.With(new Document.OfLayout(layout));
                mended.Add($"{found.Fix!.Label} ({found.Code}: {found.Message})");
            }

            if (mended.Count == 0)
            {
                continue;
            }

            var whole = new Document.OfLayout(DerivedIds.Anew(layout, derived));
            await CommentedFiles.Write(printer, file.Path, whole, file.Text, cancel);
            foreach (var each in mended)
            {
                printer.Line($"{file.Path}: {each}");
            }
        }
    }

    private static string ToJson(PlacedFinding finding) =>
        JsonText.WriteLine(
            FileNode.Of(
                ("file", FileNode.Word(finding.File)),
                ("line", FileNode.Bare($"{finding.Line}")),
                ("column", FileNode.Bare($"{finding.Column}")),
                ("pointer", FileNode.Word(finding.Pointer)),
                ("severity", FileNode.Word(finding.Severity.ToString().ToLowerInvariant())),
                ("code", FileNode.Word(finding.Code)),
                ("message", FileNode.Word(finding.Message)),
                ("evidence", finding.Evidence is { } evidence ? FileNode.Word(evidence) : null),
                ("fix", finding.Fix is { } fix ? FileNode.Word(fix) : null)
            )
        );

    public static void Print(Printer printer, WorkFile file)
    {
        foreach (var problem in file.Problems)
        {
            Print(printer, Placed(file, problem), file.Text);
        }
    }

    private static void Print(Printer printer, PlacedFinding finding, string text)
    {
        var colour = finding.Severity switch
        {
            Severity.Error => "red",
            Severity.Warning => "yellow",
            _ => "blue",
        };
        printer.Marked(
            colour,
            $"{finding.File}:{finding.Line}:{finding.Column}: {finding.Severity.ToString().ToLowerInvariant()}",
            $": {finding.Message} [{finding.Code}]"
        );
        var lines = text.Split('\n');
        if (finding.Line >= 1 && finding.Line <= lines.Length)
        {
            printer.Line("    " + lines[finding.Line - 1].TrimEnd());
            printer.Line("    " + new string(' ', Math.Max(0, finding.Column - 1)) + "^");
        }

        if (finding.Evidence is { } evidence)
        {
            printer.Line($"    for example: {evidence}");
        }

        if (finding.Fix is { } fix)
        {
            printer.Line($"    fix: {fix}");
        }
    }
}
