using System.Text;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Core.Validation.Rules;

namespace BrightTier.Core.Tests;

/// <summary>
/// tests/broken holds, for every code there is, a document that breaks it, named by the code. docs/checks.md is made from the rules and
/// these.
/// </summary>
public sealed class BrokenTests
{
    private static readonly string Folder = Path.Combine(Demo.Folder, "..", "tests", "broken");

    private static readonly Dictionary<string, Document> Broken = Directory
        .EnumerateFiles(Folder, "*.yaml")
        .ToDictionary(
            file => Path.GetFileNameWithoutExtension(file),
            file =>
            {
                var (document, problems) = DocumentFile.Read(File.ReadAllText(file));
                problems.ShouldBeEmpty(file);
                return document!;
            }
        );

    /// <summary>The demo, with the broken documents in the place of or beside its own.</summary>
    private static readonly Catalogue All = Broken.Values.Aggregate(Demo.Catalogue, (catalogue, document) => catalogue.With(document));

    private static readonly (string Code, string About, string File)[] Codes =
    [
        ("entity-unknown", "A layout is for an entity that is not there.", "entity-unknown"),
        .. Checker.Rules.Where(rule => rule is not CompositionProblems).Select(rule => (rule.Code, rule.About, rule.Code)),
        .. CompositionProblems.Codes.Select(pair => (pair.Key, pair.Value, pair.Key)),
        .. Checker.DocumentRules.Select(rule =>
            (
                rule.Code,
                rule.About,
                rule.Code switch
                {
                    "routing-unknown" or "routing-shadowed" or "routing-unreadable" => "routing",
                    "navigation-unknown" => "navigation",
                    var code => code,
                }
            )
        ),
    ];

    public static TheoryData<string> EveryCode => [.. Codes.Select(each => each.Code)];

    [Theory]
    [MemberData(nameof(EveryCode))]
    public void Every_check_has_a_document_that_breaks_it(string code) => Found(code).ShouldNotBeEmpty();

    private static IEnumerable<(string Severity, string Message, bool Fix, string? Evidence)> Found(string code)
    {
        var file = Codes.First(each => each.Code == code).File;
        return Broken[file] is Document.OfLayout { Layout: var layout }
            ? Checker
                .Check(layout, All)
                .Where(finding => finding.Code == code)
                .Select(finding =>
                    (
                        finding.Severity.ToString().ToLowerInvariant(),
                        finding.Message.English,
                        finding.Fix is not null,
                        finding.Evidence?.English
                    )
                )
            : Checker
                .CheckDocuments(All)
                .Where(finding => finding.Code == code && finding.Key == Broken[file].Key)
                .Select(finding =>
                    (finding.Severity.ToString().ToLowerInvariant(), finding.Message.English, false, finding.Evidence?.English)
                );
    }

    [Fact]
    public void The_demo_is_clean()
    {
        foreach (var layout in Demo.Catalogue.Layouts.Values)
        {
            Checker.Check(layout, Demo.Catalogue).ShouldBeEmpty(layout.Key);
        }

        Checker.CheckDocuments(Demo.Catalogue).ShouldBeEmpty();
    }

    /// <summary>BRIGHTTIER_WRITE_VECTORS=1 writes it anew.</summary>
    [Fact]
    public void The_reference_in_docs_is_what_the_rules_say()
    {
        var file = Path.Combine(Demo.Folder, "..", "docs", "checks.md");
        var made = Reference();
        if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
        {
            File.WriteAllText(file, made);
        }

        File.ReadAllText(file).ShouldBe(made);
    }

    private static string Reference()
    {
        var text = new StringBuilder(
            """
            # Checks
            Made from the rules and from `tests/broken`, where each code has a document that breaks it; `brighttier check tests/broken`
            shows them all. An error stops publishing, a warning is worth a look, advice is a matter of taste. "Mends" tells that the
            finding carries a fix, which `brighttier check --fix` applies. A file that cannot be read at all is `document-invalid`.


            """
        );
        foreach (var (code, about, file) in Codes.OrderBy(each => each.Code, StringComparer.Ordinal))
        {
            var (severity, message, fix, evidence) = Found(code).First();
            text.Append(
                $"## {code}\n{about}\n\n{char.ToUpperInvariant(severity[0])}{severity[1..]}{(fix ? ", mends" : "")}. "
                    + $"[Example](../tests/broken/{file}.yaml): {message}{(evidence is null ? "" : $" For example: {evidence}.")}\n\n"
            );
        }

        return text.ToString().TrimEnd() + "\n";
    }
}
