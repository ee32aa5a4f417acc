using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace BrightTier.Core.Tests;

/// <summary>Arrows between projects point one way (docs/architecture.md); one reversed fails here.</summary>
public sealed partial class ArchitectureTests
{
    private static readonly string Root = Path.GetFullPath(Path.Combine(Demo.Folder, ".."));

    private static readonly Dictionary<string, string[]> Allowed = new()
    {
        ["BrightTier.Core"] = [],
        ["BrightTier.Contracts"] = [],
        ["BrightTier.Storage"] = ["BrightTier.Core"],
        ["BrightTier.Records"] = ["BrightTier.Core"],
        ["BrightTier.Service"] = ["BrightTier.Core", "BrightTier.Contracts", "BrightTier.Storage", "BrightTier.Records"],
        ["BrightTier.Client"] = ["BrightTier.Contracts"],
        ["BrightTier.Cli"] = ["BrightTier.Core", "BrightTier.Client"],
    };

    [Fact]
    public void Project_references_follow_the_arrows()
    {
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Root, "src"), "*.csproj", SearchOption.AllDirectories))
        {
            var references = XDocument.Load(file).Descendants("ProjectReference").Select(each => Path.GetFileNameWithoutExtension(each.Attribute("Include")!.Value));
            references.ShouldBeSubsetOf(Allowed[Path.GetFileNameWithoutExtension(file)], file);
        }
    }

    [Fact]
    public void The_core_does_no_input_or_output()
    {
        foreach (var file in Sources("src/BrightTier.Core", "*.cs"))
        {
            var text = File.ReadAllText(file);
            text.ShouldNotMatch(@"\b(File|Directory|HttpClient|Console|Environment|DateTime)\.(Read|Write|Open|Exists|Get|Now|UtcNow|Create)", file);
            text.ShouldNotMatch(@"DateTimeOffset\.(UtcNow|Now)|Guid\.NewGuid|new Random", file);
        }
    }

    [Fact]
    public void Features_of_the_core_use_only_what_lies_below_them()
    {
        // Validation rests on resolution, resolution on composition, composition on the model; nothing looks up.
        var below = new Dictionary<string, string[]>
        {
            ["Patterns"] = [],
            ["Icons"] = [],
            ["Model"] = ["Patterns"],
            ["Edits"] = ["Model"],
            ["Conditions"] = ["Patterns", "Model"],
            ["Generation"] = ["Model", "Conditions"],
            ["Documents"] = ["Patterns", "Model", "Edits"],
            ["Composition"] = ["Model", "Edits", "Conditions", "Generation", "Documents"],
            ["Resolution"] = ["Patterns", "Model", "Edits", "Conditions", "Composition", "Generation", "Documents", "Icons"],
            ["Validation"] = ["Patterns", "Model", "Edits", "Conditions", "Composition", "Resolution", "Documents", "Icons"],
        };
        foreach (var (folder, allowed) in below)
        {
            foreach (var file in Sources($"src/BrightTier.Core/{folder}", "*.cs"))
            {
                var used = Using().Matches(File.ReadAllText(file)).Select(match => match.Groups["folder"].Value).Where(each => each != folder);
                used.ShouldBeSubsetOf(allowed, file);
            }
        }
    }

    /// <summary>The rows of docs/glossary.md: term, meaning, type, folder, path, table, command, on screen.</summary>
    private static string[][] Glossary { get; } =
    [
        .. File.ReadLines(Path.Combine(Root, "docs", "glossary.md")).Where(line => line.StartsWith("| ", StringComparison.Ordinal)).Skip(2)
            .Select(line => line.Trim().Trim('|').Split('|').Select(cell => cell.Trim()).ToArray()),
    ];

    private static IEnumerable<string> Named(string cell) => Code().Matches(cell).Select(match => match.Groups["name"].Value);

    [Fact]
    public void Every_type_the_glossary_names_is_there_and_in_the_folder_it_names()
    {
        foreach (var row in Glossary)
        {
            var sources = row[3].Split(", ").SelectMany(folder => Sources($"src/BrightTier.{folder}", "*.cs")).Concat(Sources("src/BrightTier.Contracts", "*.cs")).Select(File.ReadAllText).ToArray();
            foreach (var type in Named(row[2]))
            {
                sources.ShouldContain(text => Regex.IsMatch(text, $@"\b(class|record|interface|struct|enum) {type}\b"), $"{row[0]}: {type} in {row[3]}");
            }
        }
    }

    [Fact]
    public void Every_path_table_and_command_the_glossary_names_is_there()
    {
        using var api = System.Text.Json.JsonDocument.Parse(File.ReadAllText(Path.Combine(Root, "docs", "openapi.json")));
        var paths = api.RootElement.GetProperty("paths").EnumerateObject().Select(each => each.Name).ToArray();
        var tables = Regex.Matches(File.ReadAllText(Path.Combine(Root, "src", "BrightTier.Storage", "StorageContext.cs")), "ToTable\\(\"(?<name>[a-z_]+)\"").Select(match => match.Groups["name"].Value).ToArray();
        var commands = File.ReadLines(Path.Combine(Root, "docs", "commands.md")).Where(line => line.StartsWith("## brighttier ", StringComparison.Ordinal)).Select(line => line["## brighttier ".Length..]).ToArray();
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
        var text = File.ReadAllText(Path.Combine(Root, "docs", "glossary.md"));
        var banned = text[(text.LastIndexOf(": ", StringComparison.Ordinal) + 2)..].Trim().TrimEnd('.').Split(", ");
        using var api = System.Text.Json.JsonDocument.Parse(File.ReadAllText(Path.Combine(Root, "docs", "openapi.json")));
        var names = Sources("src", "*.cs").Where(file => !file.Contains("/Migrations/", StringComparison.Ordinal)).SelectMany(file =>
                Declared().Matches(File.ReadAllText(file)).Select(match => match.Groups["name"].Value).Append(Path.GetFileNameWithoutExtension(file)))
            .Concat(api.RootElement.GetProperty("paths").EnumerateObject().Select(each => each.Name))
            .Concat(File.ReadLines(Path.Combine(Root, "docs", "commands.md")).Where(line => line.StartsWith("## ", StringComparison.Ordinal)));
        foreach (var name in names)
        {
            var stems = Word().Matches(name).Select(match => match.Value.ToLowerInvariant()).ToArray();
            banned.ShouldAllBe(word => !stems.Contains(word), name);
        }

        // A type, a file or a folder is a thing: no gerund names one. What is missing, or in an order, is described so.
        foreach (var name in names.Concat(Sources("web", "*.ts*").SelectMany(file => new[] { Path.GetFileName(file).Split('.')[0], Path.GetFileName(Path.GetDirectoryName(file))! })))
        {
            var last = Word().Matches(name).Select(match => match.Value.ToLowerInvariant()).LastOrDefault() ?? "";
            (last.EndsWith("ing", StringComparison.Ordinal) && last is not ("finding" or "string" or "routing" or "heading" or "setting" or "missing" or "drawing" or "sharing")).ShouldBeFalse(name);
        }
    }

    [Fact]
    public void The_form_package_knows_nothing_of_the_console()
    {
        foreach (var file in Sources("web/form/src", "*.ts*"))
        {
            var imports = Import().Matches(File.ReadAllText(file)).Select(match => match.Groups["from"].Value).ToArray();
            imports.ShouldAllBe(from => from == "react" || from == "react-dom/client" || from.StartsWith("./", StringComparison.Ordinal) || from.StartsWith("../", StringComparison.Ordinal), file);
            imports.ShouldNotContain(from => from.Contains("console"));
        }
    }

    [Fact]
    public void Every_colour_stands_in_the_tokens()
    {
        foreach (var file in Sources("web", "*.css").Where(file => Path.GetFileName(file) != "tokens.css"))
        {
            Regex.Matches(File.ReadAllText(file), @"#[0-9a-fA-F]{3,8}\b").Select(match => match.Value).ShouldBeEmpty(file);
        }
    }

    private static IEnumerable<string> Sources(string folder, string pattern) => Directory.EnumerateFiles(Path.Combine(Root, folder), pattern, SearchOption.AllDirectories)
        .Where(file => !file.Contains("/obj/") && !file.Contains("/bin/") && !file.Contains("/node_modules/") && !file.Contains("/dist/"));

    [GeneratedRegex("`(?<name>[^`]+)`", RegexOptions.ExplicitCapture)]
    private static partial Regex Code();

    [GeneratedRegex(@"^(public |internal )(sealed |static |abstract |partial |readonly )*(class|record struct|record|interface|struct|enum) (?<name>\w+)", RegexOptions.ExplicitCapture | RegexOptions.Multiline)]
    private static partial Regex Declared();

    [GeneratedRegex("[A-Z]?[a-z-]+")]
    private static partial Regex Word();

    [GeneratedRegex(@"^using BrightTier\.Core\.(?<folder>\w+)", RegexOptions.Multiline | RegexOptions.ExplicitCapture)]
    private static partial Regex Using();

    [GeneratedRegex(@"from '(?<from>[^']+)'", RegexOptions.ExplicitCapture)]
    private static partial Regex Import();
}
