using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace BrightTier.Architecture.Tests;

/// <summary>
/// Arrows point one way (docs/architecture.md): between projects, and between the folders of each. One reversed fails here.
/// </summary>
public sealed class ArchitectureTests
{
    private static readonly Dictionary<string, string[]> Projects = new()
    {
        ["BrightTier.Core"] = [],
        ["BrightTier.Contracts"] = [],
        ["BrightTier.Storage"] = ["BrightTier.Core"],
        ["BrightTier.Records"] = ["BrightTier.Core"],
        ["BrightTier.Service"] = ["BrightTier.Core", "BrightTier.Contracts", "BrightTier.Storage", "BrightTier.Records"],
        ["BrightTier.Client"] = ["BrightTier.Contracts"],
        ["BrightTier.Cli"] = ["BrightTier.Core", "BrightTier.Client"],
    };

    /// <summary>The folders of a project from the ground up: each may use those of the lines before its own, and none beside it.</summary>
    private static readonly Dictionary<string, string[][]> Storeys = new()
    {
        ["BrightTier.Core"] =
        [
            ["Messages"],
            ["Audit", "Icons", "Patterns"],
            ["Model"],
            ["Edits", "Conditions"],
            ["Places"],
            ["Documents", "Generation"],
            ["Composition", "Proposals", "Pictures", "Attachment"],
            ["Resolution"],
            ["Validation"],
        ],
        ["BrightTier.Contracts"] =
        [
            [""],
        ],
        ["BrightTier.Storage"] =
        [
            [""],
            ["Migrations", "CompiledModel"],
        ],
        ["BrightTier.Records"] =
        [
            [""],
            ["Attachment"],
        ],
        ["BrightTier.Service"] =
        [
            ["Hosting"],
            ["Http"],
            ["Snapshots", "Broadcast"],
            ["Auth"],
            ["Drafts", "Resolution"],
            ["Publication"],
            // Features: what two of them share lies below.
            [
                "Access",
                "Audit",
                "Backups",
                "Comments",
                "Entities",
                "Events",
                "Forms",
                "Import",
                "Layouts",
                "Pages",
                "Records",
                "Releases",
                "Scheduling",
            ],
            // What is done with several features at once.
            ["Tables"],
            ["Attachment"],
            ["Startup"],
            [""],
        ],
        ["BrightTier.Client"] =
        [
            [""],
        ],
        ["BrightTier.Cli"] =
        [
            ["Output"],
            ["Invocation"],
            ["Commands"],
            [""],
        ],
    };

    public static TheoryData<string> Names => [.. Projects.Keys];

    [Fact]
    public void Every_project_has_its_place() =>
        Directory
            .EnumerateDirectories(Path.Combine(Sources.Root, "src"))
            .Select(Path.GetFileName)
            .ShouldBe(Projects.Keys, ignoreOrder: true);

    [Theory]
    [MemberData(nameof(Names))]
    public void Project_references_follow_the_arrows(string project) =>
        XDocument
            .Load(Path.Combine(Sources.Root, "src", project, project + ".csproj"))
            .Descendants("ProjectReference")
            .Select(each => Path.GetFileNameWithoutExtension(each.Attribute("Include")!.Value))
            .ShouldBeSubsetOf(Projects[project]);

    [Theory]
    [MemberData(nameof(Names))]
    public void Every_folder_of_a_project_has_its_storey(string project) =>
        Sources
            .In($"src/{project}", "*.cs")
            .Select(file => ProjectReferences.FolderOf(project, file))
            .Distinct()
            .ShouldBeSubsetOf(Storeys[project].SelectMany(folders => folders));

    [Theory]
    [MemberData(nameof(Names))]
    public void Folders_use_only_what_lies_below_them(string project)
    {
        var storeys = Storeys[project]
            .SelectMany((folders, i) => folders.Select(folder => (folder, i)))
            .ToDictionary(each => each.folder, each => each.i);
        ProjectReferences
            .Of(project)
            .Where(use => storeys[use.To] >= storeys[use.From])
            .Select(use => $"{use.From} uses {use.To}: {use.User} {use.Used}")
            .ShouldBeEmpty();
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void A_namespace_is_named_as_its_folder(string project)
    {
        foreach (var file in Sources.In($"src/{project}", "*.cs"))
        {
            var folders = Path.GetDirectoryName(Path.GetRelativePath(Path.Combine(Sources.Root, "src"), file))!.Replace('/', '.');
            Regex
                .Match(File.ReadAllText(file), @"^namespace (?<name>[\w.]+)", RegexOptions.Multiline | RegexOptions.ExplicitCapture)
                .Groups["name"]
                .Value.ShouldBeOneOf(folders, "");
        }
    }

    [Fact]
    public void The_core_does_no_input_or_output()
    {
        foreach (var file in Sources.In("src/BrightTier.Core", "*.cs"))
        {
            var text = File.ReadAllText(file);
            text.ShouldNotMatch(
                @"\b(File|Directory|HttpClient|Console|Environment|DateTime)\.(Read|Write|Open|Exists|Get|Now|UtcNow|Create)",
                file
            );
            text.ShouldNotMatch(@"DateTimeOffset\.(UtcNow|Now)|Guid\.NewGuid|new Random", file);
        }
    }

    [Fact]
    public void Every_colour_stands_in_the_tokens()
    {
        foreach (var file in Sources.In("web", "*.css").Where(file => Path.GetFileName(file) != "tokens.css"))
        {
            Regex.Matches(File.ReadAllText(file), @"#[0-9a-fA-F]{3,8}\b").Select(match => match.Value).ShouldBeEmpty(file);
        }
    }
}
