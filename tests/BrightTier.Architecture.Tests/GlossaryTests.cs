using System.Text.RegularExpressions;

namespace BrightTier.Architecture.Tests;

/// <summary>docs/glossary.md is the one list of names; what bears another fails here.</summary>
public sealed partial class GlossaryTests
{
    /// <summary>The rows of docs/glossary.md: term, meaning, type, folder, path, table, command, on screen.</summary>
    private static string[][] Glossary { get; } =
    [
        .. File.ReadLines(Path.Combine(Sources.Root, "docs", "glossary.md"))
            .Where(line => line.StartsWith("| ", StringComparison.Ordinal))
            .Skip(2)
            .Select(line => line.Trim().Trim('|').Split('|').Select(cell => cell.Trim()).ToArray()),
    ];

    private static IEnumerable<string> Named(string cell) => Code().Matches(cell).Select(match => match.Groups["name"].Value);

    [Fact]
    public void Every_type_the_glossary_names_is_there_and_in_the_folder_it_names()
    {
        foreach (var row in Glossary)
        {
            var folders = row[3].Split(", ");
            var sources = folders
                .SelectMany(folder =>
                    folder.StartsWith("web/", StringComparison.Ordinal)
                        ? Sources.In(folder, "*.ts*")
                        : Sources.In($"src/BrightTier.{folder}", "*.cs")
                )
                .Concat(Sources.In("src/BrightTier.Contracts", "*.cs"))
                .Select(File.ReadAllText)
                .ToArray();
            foreach (var type in Named(row[2]))
            {
                sources.ShouldContain(
                    text => Regex.IsMatch(text, $@"\b(class|record|interface|struct|enum|type|function|const) {type}\b"),
                    $"{row[0]}: {type} in {row[3]}"
                );
            }
        }
    }

    [Fact]
    public void Every_path_table_and_command_the_glossary_names_is_there()
    {
        using var api = System.Text.Json.JsonDocument.Parse(File.ReadAllText(Path.Combine(Sources.Root, "docs", "openapi.json")));
        var paths = api.RootElement.GetProperty("paths").EnumerateObject().Select(each => each.Name).ToArray();
        var tables = Regex
            .Matches(
                File.ReadAllText(Path.Combine(Sources.Root, "src", "BrightTier.Storage", "StorageContext.cs")),
                "ToTable\\(\"(?<name>[a-z_]+)\""
            )
            .Select(match => match.Groups["name"].Value)
            .ToArray();
        var commands = File.ReadLines(Path.Combine(Sources.Root, "docs", "commands.md"))
            .Where(line => line.StartsWith("## brighttier ", StringComparison.Ordinal))
            .Select(line => line["## brighttier ".Length..])
            .ToArray();
        foreach (var row in Glossary)
        {
            Named(row[4]).ShouldBeSubsetOf(paths, row[0]);
            Named(row[5]).ShouldBeSubsetOf(tables, row[0]);
            Named(row[6]).ShouldBeSubsetOf(commands, row[0]);
        }
    }

    [Fact]
    public void No_type_file_path_table_or_command_bears_a_word_the_glossary_bans()
    {
        var text = File.ReadAllText(Path.Combine(Sources.Root, "docs", "glossary.md"));
        var banned = text[(text.LastIndexOf(": ", StringComparison.Ordinal) + 2)..].Trim().TrimEnd('.').Split(", ");
        using var api = System.Text.Json.JsonDocument.Parse(File.ReadAllText(Path.Combine(Sources.Root, "docs", "openapi.json")));
        var names = Sources
            .In("src", "*.cs")
            .Where(file => !file.Contains("/Migrations/", StringComparison.Ordinal))
            .SelectMany(file =>
                Declared()
                    .Matches(File.ReadAllText(file))
                    .Select(match => match.Groups["name"].Value)
                    .Append(Path.GetFileNameWithoutExtension(file))
            )
            .Concat(api.RootElement.GetProperty("paths").EnumerateObject().Select(each => each.Name))
            .Concat(
                File.ReadLines(Path.Combine(Sources.Root, "docs", "commands.md"))
                    .Where(line => line.StartsWith("## ", StringComparison.Ordinal))
            );
        foreach (var name in names)
        {
            var stems = Word().Matches(name).Select(match => match.Value.ToLowerInvariant()).ToArray();
            banned.ShouldAllBe(word => !stems.Contains(word), name);
        }
    }

    /// <summary>
    /// A type, a file or a folder is a thing: neither a gerund nor what was done to it names one. What is missing, or in an order, is
    /// described so.
    /// </summary>
    [Fact]
    public void No_type_file_or_folder_is_named_by_a_gerund_or_a_participle()
    {
        var declared = Sources
            .In("src", "*.cs")
            .Concat(Sources.In("tests", "*.cs"))
            .Concat(Sources.In("bench", "*.cs"))
            .Where(file => !file.Contains("/Migrations/", StringComparison.Ordinal))
            .SelectMany(file =>
                Declared()
                    .Matches(File.ReadAllText(file))
                    .Select(match => match.Groups["name"].Value)
                    .Append(Path.GetFileNameWithoutExtension(file))
            );
        var web = Sources
            .In("web", "*.ts*")
            .Where(file => !file.EndsWith(".gen.ts", StringComparison.Ordinal))
            .SelectMany(file =>
                DeclaredInWeb()
                    .Matches(File.ReadAllText(file))
                    .Select(match => match.Groups["name"].Value)
                    .Append(Path.GetFileName(file).Split('.')[0])
                    .Append(Path.GetFileName(Path.GetDirectoryName(file))!)
            );
        // A rule of the checks is named by its code, what is wrong after where it is: field-retired.
        var rules = Sources.In("src/BrightTier.Core/Validation/Rules", "*.cs").Select(Path.GetFileNameWithoutExtension).ToHashSet();
        var wrong = declared
            .Concat(web)
            .Where(name =>
                !rules.Contains(name)
                && Word().Matches(name).Select(match => match.Value.ToLowerInvariant()).LastOrDefault() is { } last
                && (
                    Participles.Contains(last)
                    || (
                        last.EndsWith("ing", StringComparison.Ordinal)
                        && last
                            is not (
                                "finding"
                                or "string"
                                or "routing"
                                or "mapping"
                                or "binding"
                                or "heading"
                                or "setting"
                                or "missing"
                                or "drawing"
                                or "sharing"
                            )
                    )
                    || (last.EndsWith("ed", StringComparison.Ordinal) && last is not ("seed" or "feed" or "need"))
                )
            )
            .Distinct()
            .ToArray();
        wrong.ShouldBeEmpty();
    }

    private static HashSet<string> Participles { get; } =
    [
        "said",
        "told",
        "taken",
        "seen",
        "sent",
        "kept",
        "drawn",
        "done",
        "known",
        "shown",
        "made",
        "given",
        "held",
        "put",
        "laid",
        "gone",
        "written",
        "chosen",
        "met",
    ];

    [GeneratedRegex("`(?<name>[^`]+)`", RegexOptions.ExplicitCapture)]
    private static partial Regex Code();

    [GeneratedRegex(
        @"^\s*(public |internal |private |file |protected )+(sealed |static |abstract |partial |readonly )*"
            + @"(class|record struct|record|interface|struct|enum) (?<name>\w+)",
        RegexOptions.ExplicitCapture | RegexOptions.Multiline
    )]
    private static partial Regex Declared();

    [GeneratedRegex(
        @"^(export )?(default )?(abstract )?(class|interface|type|enum) (?<name>\w+)",
        RegexOptions.ExplicitCapture | RegexOptions.Multiline
    )]
    private static partial Regex DeclaredInWeb();

    [GeneratedRegex("[A-Z]?[a-z-]+")]
    private static partial Regex Word();
}
