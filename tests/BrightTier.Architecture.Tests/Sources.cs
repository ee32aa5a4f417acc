namespace BrightTier.Architecture.Tests;

/// <summary>The house's own files, as they lie in the checkout.</summary>
internal static class Sources
{
    public static string Root { get; } = Find();

    /// <summary>Files below a folder of the checkout, without what is built or fetched.</summary>
    public static IEnumerable<string> In(string folder, string pattern) =>
        Directory
            .EnumerateFiles(Path.Combine(Root, folder), pattern, SearchOption.AllDirectories)
            .Where(file =>
                !file.Contains("/obj/") && !file.Contains("/bin/") && !file.Contains("/node_modules/") && !file.Contains("/dist/")
            );

    private static string Find()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "BrightTier.slnx")))
        {
            folder = Path.GetDirectoryName(folder) ?? throw new InvalidOperationException("No checkout lies above the tests.");
        }

        return folder;
    }
}
