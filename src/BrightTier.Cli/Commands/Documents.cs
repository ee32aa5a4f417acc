using System.CommandLine;
using System.Globalization;
using BrightTier.Client;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>How documents are named on the command line: a layout by its key, any other as kind/key.</summary>
internal static class Documents
{
    private const string Naming = "a layout by its key, another document as kind/key, such as entity/vessel";

    public static Argument<string> One() => new("document") { Description = $"A draft: {Naming}." };

    public static Argument<string[]> Some(bool required = true) =>
        new("document") { Description = $"Drafts: {Naming}.", Arity = required ? ArgumentArity.OneOrMore : ArgumentArity.ZeroOrMore };

    public static (string Kind, string Key) Named(string name) => name.Split('/') is [var kind, var key] ? (kind, key) : ("layout", name);

    /// <summary>Drafts named on the command line, at the revisions they have.</summary>
    public static async Task<IReadOnlyList<DraftReference>> References(
        BrightTierClient client,
        IEnumerable<string> names,
        CancellationToken cancel
    )
    {
        var references = new List<DraftReference>();
        foreach (var name in names)
        {
            var (kind, key) = Named(name);
            var tag = (await client.File(kind, key, cancel)).Tag.Trim('"');
            references.Add(new DraftReference(kind, key, long.Parse(tag, CultureInfo.InvariantCulture)));
        }

        return references;
    }
}
