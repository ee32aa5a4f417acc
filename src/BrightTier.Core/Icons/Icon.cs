using System.Collections.Frozen;

namespace BrightTier.Core.Icons;

/// <summary>The pictures a tab, a band, an action or an entry of the menu can have beside its words, by name.</summary>
public static class Icon
{
    private static readonly Lazy<FrozenDictionary<string, string>> All = new(Read);

    /// <summary>The names there are, in alphabetical order.</summary>
    public static IEnumerable<string> Names => All.Value.Keys.Order(StringComparer.Ordinal);

    public static bool Exists(string name) => All.Value.ContainsKey(name);

    /// <summary>
    /// A picture as one SVG path (SVG 2, 9.3) on a raster of 24 by 24, to be stroked and not filled; empty when there is no such picture.
    /// </summary>
    public static string Path(string? name) => name is null ? "" : All.Value.GetValueOrDefault(name, "");

    private static FrozenDictionary<string, string> Read()
    {
        using var reader = new StreamReader(typeof(Icon).Assembly.GetManifestResourceStream("icons.txt")!);
        return reader
            .ReadToEnd()
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Where(line => line[0] != '#')
            .Select(line => line.Split(' ', 2))
            .ToFrozenDictionary(parts => parts[0], parts => parts[1], StringComparer.Ordinal);
    }
}
