namespace BrightTier.Architecture.Tests;

/// <summary>
/// How much one can take in at once. Lines are broken by the formatter, functions are counted by an analyzer (MA0051), the front end by its
/// linter.
/// </summary>
public sealed class SizeTests
{
    /// <summary>Characters of a line; as the formatter breaks them.</summary>
    private const int Line = 140;

    /// <summary>Lines of a file. The grammar's rules, a table, need the most.</summary>
    private const int File = 1_000;

    private static readonly (string Path, string[] Lines)[] All =
    [
        .. ((string[])["src", "tests", "bench", "fuzz"])
            .SelectMany(folder => Sources.In(folder, "*.cs"))
            .Where(path => !path.Contains("/Migrations/") && !path.Contains("/CompiledModel/"))
            .Select(path => (Path.GetRelativePath(Sources.Root, path), System.IO.File.ReadAllLines(path))),
    ];

    [Fact]
    public void Comments_fit_a_screen()
    {
        All.Length.ShouldBeGreaterThan(400);
        All.SelectMany(source => source.Lines.Select((text, i) => (At: $"{source.Path}:{i + 1}", Text: text)))
            .Where(line => line.Text.Length > Line && line.Text.TrimStart().StartsWith("//", StringComparison.Ordinal))
            .Select(line => line.At)
            .ShouldBeEmpty();
    }

    [Fact]
    public void Files_are_one_idea() =>
        All.Where(source => source.Lines.Length > File).Select(source => $"{source.Path}: {source.Lines.Length}").ShouldBeEmpty();
}
