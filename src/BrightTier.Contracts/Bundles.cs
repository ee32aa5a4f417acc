namespace BrightTier.Contracts;

/// <summary>What a bundle says of itself: an archive (ZIP) of documents with this as <c>manifest.json</c>.</summary>
/// <param name="Format">bright-tier-bundle.</param>
/// <param name="From">The application it is of.</param>
/// <param name="Release">The release whose documents it holds; null for drafts.</param>
public sealed record BundleManifest(
    string Format,
    int Version,
    DateTimeOffset At,
    string From,
    long? Release,
    IReadOnlyList<BundledDocument> Documents
)
{
    public const string Name = "manifest.json";

    public const string TheFormat = "bright-tier-bundle";
}

/// <param name="Path">The entry of the archive, such as layouts/vessel.yaml.</param>
/// <param name="Hash">SHA-256 of its text in lower-case hexadecimal.</param>
/// <param name="DependsOn">What it names, as kind/key, in the bundle or not.</param>
/// <param name="Earlier">The hashes it had before where it was made, in releases and as bundles brought it, newest first; one it came back
/// to is there again. What both sides come from is found by them.</param>
public sealed record BundledDocument(
    string Kind,
    string Key,
    string Path,
    string Hash,
    IReadOnlyList<string> DependsOn,
    IReadOnlyList<string>? Earlier = null
);
