using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Cli.Invocation;
using BrightTier.Core.Documents;

namespace BrightTier.Cli.Commands;

/// <summary>
/// One side of a comparison as it is named on the command line: drafts, what everyone has or a release, whole or one document of it,
/// here or
/// in another environment; or a folder, a bundle, a file or standard input.
/// </summary>
/// <param name="State">drafts, current or the number of a release; null for what is read from files.</param>
/// <param name="Document">The one document meant; null for all.</param>
/// <param name="Profile">The environment; null for the one the command is for.</param>
internal sealed partial record ComparedSide(string Name, string? State, (DocumentKind Kind, string Key)? Document, string? Profile)
{
    public const string Help =
        "A folder, a file, a bundle (.zip) or - for standard input; or of a service drafts, current or release:N, of one document "
        + "draft:KEY, current:KEY or release:N:KEY (a layout by its key, any other as kind/key); of another environment with @PROFILE "
        + "behind it.";

    /// <summary>Whether it is all documents of a service in one state, which the service itself compares.</summary>
    public bool IsWholeState => State is not null && Document is null;

    public static ComparedSide Of(string name)
    {
        if (OfService().Match(name) is not { Success: true } match)
        {
            return new ComparedSide(name, null, null, null);
        }

        var state = match.Groups["state"].Value is var word && word == "draft" ? "drafts" : word;
        return new ComparedSide(
            name,
            match.Groups["number"].Success ? match.Groups["number"].Value : state,
            match.Groups["document"].Success ? Named(match.Groups["document"].Value) : null,
            match.Groups["profile"].Success ? match.Groups["profile"].Value : null
        );
    }

    public async Task<DocumentSet> Read(CommandContext context, CancellationToken cancel) =>
        State is null ? await DocumentSet.OfFiles(Name, context, cancel) : await OfService(context, State, cancel);

    private async Task<DocumentSet> OfService(CommandContext context, string state, CancellationToken cancel)
    {
        using var client = (Profile is null ? context : context.In(Profile)).Client();
        var bundle = await client.ExportBundle(
            Document is { } one ? [$"{one.Kind.Name()}/{one.Key}"] : [],
            state == "drafts",
            withoutDependencies: false,
            cancel,
            long.TryParse(state, NumberStyles.None, CultureInfo.InvariantCulture, out var release) ? release : null
        );
        return DocumentSet.OfBundle(Name, bundle, Document);
    }

    private static (DocumentKind Kind, string Key) Named(string name)
    {
        var (kind, key) = Documents.Named(name);
        return DocumentFile.KindNamed(kind) is { } known
            ? (known, key)
            : throw new UsageException($"'{kind}' is no kind of document; name a layout by its key, any other as kind/key.");
    }

    [GeneratedRegex(
        @"^((?<state>drafts|current|release:(?<number>\d{1,18}))|(?<state>draft|current|release:(?<number>\d{1,18})):(?<document>[^:@]+))"
            + "(@(?<profile>.+))?$",
        RegexOptions.ExplicitCapture
    )]
    private static partial Regex OfService();
}
