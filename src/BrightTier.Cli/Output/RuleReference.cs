using System.Text.RegularExpressions;
using BrightTier.Core.Validation;

namespace BrightTier.Cli.Output;

/// <summary>What the reference of checks, docs/checks.md, says of a code: it is part of the program.</summary>
/// <param name="About">What it looks for and why, in a sentence or two.</param>
/// <param name="Usually">How grave it is as a rule.</param>
/// <param name="Help">The whole of it, as Markdown.</param>
public sealed partial record RuleReference(string Code, string About, Severity Usually, string Help)
{
    private static readonly Lazy<IReadOnlyDictionary<string, RuleReference>> All = new(() =>
        Read().ToDictionary(each => each.Code, StringComparer.Ordinal)
    );

    /// <summary>What is found beside the rules: in files that cannot be read, and where files and drafts do not go together.</summary>
    private static readonly RuleReference[] Others =
    [
        Of("document-invalid", "The file is no document: it is ill-formed, or says what no document can say."),
        Of("conflict", "The file and its draft were both changed in the same place; one side has to be chosen."),
        Of("document-used", "The document is gone from the folder, and something still names it; it cannot be archived."),
    ];

    public static RuleReference Of(string code) => All.Value.GetValueOrDefault(code) ?? Of(code, "The document is ill-formed.");

    private static RuleReference Of(string code, string about) => new(code, about, Severity.Error, about);

    private static IEnumerable<RuleReference> Read()
    {
        using var reader = new StreamReader(typeof(RuleReference).Assembly.GetManifestResourceStream("checks.md")!);
        return Section()
            .Matches(reader.ReadToEnd().ReplaceLineEndings("\n"))
            .Select(section => new RuleReference(
                section.Groups["code"].Value,
                section.Groups["about"].Value,
                Enum.Parse<Severity>(section.Groups["severity"].Value),
                // A link leads into a checkout, where who reads this need not be.
                $"{section.Groups["about"].Value}\n\nFor example: {section.Groups["example"].Value}"
                    + (section.Groups["mends"].Success ? "\n\n`brighttier check --fix` mends it." : "")
            ))
            .Concat(Others);
    }

    [GeneratedRegex(
        @"^## (?<code>\S+)\n(?<about>[^\n]+)\n\n(?<severity>Error|Warning|Advice)(?<mends>, mends)?\. "
            + @"\[Example\]\([^)]*\): (?<example>[^\n]+)",
        RegexOptions.Multiline | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Section();
}
