namespace BrightTier.Architecture.Tests;

/// <summary>
/// How much one can take in at once. Functions are counted by an analyzer (MA0051), the front end by its linter.
/// </summary>
public sealed class SizeTests
{
    /// <summary>Characters of a line; as the formatter breaks them, which leaves texts alone.</summary>
    private const int Line = 140;

    /// <summary>Lines of code of a file: without comments and what is empty.</summary>
    private const int File = 330;

    private static readonly (string Path, string[] Lines)[] All =
    [
        .. ((string[])["src", "tests", "bench", "fuzz"])
            .SelectMany(folder => Sources.In(folder, "*.cs"))
            .Where(path => !path.Contains("/Migrations/") && !path.Contains("/CompiledModel/"))
            .Select(path => (Path.GetRelativePath(Sources.Root, path), System.IO.File.ReadAllLines(path))),
    ];

    [Fact]
    public void Lines_fit_a_screen()
    {
        All.Length.ShouldBeGreaterThan(400);
        All.SelectMany(source => source.Lines.Select((text, i) => (At: $"{source.Path}:{i + 1}", Text: text)))
            .Where(line => line.Text.Length > Line)
            .Select(line => line.At)
            .ShouldBeEmpty();
    }

    [Fact]
    public void Files_are_one_idea() =>
        All.Select(source => (source.Path, Code: source.Lines.Count(IsCode)))
            .Where(source => source.Code > File)
            .Select(source => $"{source.Path}: {source.Code}")
            .ShouldBeEmpty();

    private static bool IsCode(string line) => line.Trim() is { Length: > 0 } text && !text.StartsWith("//", StringComparison.Ordinal);
}
