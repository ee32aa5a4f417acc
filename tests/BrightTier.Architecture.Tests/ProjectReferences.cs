using System.Text.RegularExpressions;
using ArchUnitNET.Domain;
using ArchUnitNET.Loader;

namespace BrightTier.Architecture.Tests;

/// <summary>One use of something of another folder of the same project; the project's own root is the folder "".</summary>
internal sealed record Reference(string From, string To, string User, string Used);

/// <summary>
/// Which folder of a project uses which, as the compiler resolved it: out of the assemblies, however a namespace came to be named.
/// Constants leave no
/// trace there, so that the using lines count as well; the analyzers refuse one that nothing uses.
/// </summary>
internal static partial class ProjectReferences
{
    private static readonly ArchUnitNET.Domain.Architecture Built = new ArchLoader()
        .LoadAssemblies([
            .. Assemblies("BrightTier.Service", "BrightTier.*.dll")
                .Concat(Assemblies("BrightTier.Cli", "brighttier.dll"))
                .Concat(Assemblies("BrightTier.Cli", "BrightTier.Client.dll"))
                .Select(System.Reflection.Assembly.LoadFrom),
        ])
        .Build();

    /// <summary>Every use that crosses a folder.</summary>
    public static IReadOnlyList<Reference> Of(string project) => [.. InAssemblies(project).Concat(InSources(project)).Distinct()];

    /// <summary>The first folder of a file below its project.</summary>
    public static string FolderOf(string project, string file) =>
        Path.GetRelativePath(Path.Combine(Sources.Root, "src", project), file).Split('/') is [var first, _, ..] ? first : "";

    private static IEnumerable<Reference> InAssemblies(string project) =>
        Built.Types.SelectMany(type =>
            Folder(type, project) is not { } from
                ? []
                : type
                    .Dependencies.Where(each => Folder(each.Target, project) is { } to && to != from)
                    .Select(each => new Reference(from, Folder(each.Target, project)!, type.FullName, each.Target.FullName))
        );

    private static IEnumerable<Reference> InSources(string project) =>
        Sources
            .In($"src/{project}", "*.cs")
            .SelectMany(file =>
                Using()
                    .Matches(File.ReadAllText(file))
                    .Where(match => match.Groups["project"].Value == project && match.Groups["folder"].Value != FolderOf(project, file))
                    .Select(match => new Reference(
                        FolderOf(project, file),
                        match.Groups["folder"].Value,
                        Path.GetFileName(file),
                        match.Value
                    ))
            );

    /// <summary>The first folder of a type below its project; null if it is another project's. A program has no namespace.</summary>
    private static string? Folder(IType type, string project)
    {
        var name = type.Namespace?.FullName ?? "";
        return name == project
            || (
                name.Length == 0
                && type.Name == "Program"
                && type.Assembly?.Name.StartsWith(project + ",", StringComparison.Ordinal) == true
            )
                ? ""
            : name.StartsWith(project + ".", StringComparison.Ordinal) ? name[(project.Length + 1)..].Split('.')[0]
            : null;
    }

    private static IEnumerable<string> Assemblies(string project, string pattern) =>
        Directory
            .EnumerateFiles(Path.Combine(Sources.Root, "src", project, "bin", "Release"), pattern, SearchOption.AllDirectories)
            .OrderByDescending(File.GetLastWriteTimeUtc)
            .DistinctBy(Path.GetFileName);

    [GeneratedRegex(@"^using (?<project>BrightTier\.\w+)\.(?<folder>\w+)", RegexOptions.Multiline | RegexOptions.ExplicitCapture)]
    private static partial Regex Using();
}
