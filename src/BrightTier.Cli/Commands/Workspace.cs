using System.Text.RegularExpressions;
using BrightTier.Cli.Invocation;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>One file: its text, and the document in it or what is wrong with it.</summary>
internal sealed record WorkFile(string Path, string Text, Document? Document, IReadOnlyList<FileProblem> Problems);

/// <summary>Files named on the command line, with all documents they rest on: those in the same folders, and beside them.</summary>
internal sealed partial record Workspace(IReadOnlyList<WorkFile> Files, Catalogue Catalogue)
{
    /// <param name="hidden">Whether the folder is that of what was pulled.</param>
    public static IEnumerable<string> YamlIn(string folder, bool hidden = false) =>
        Directory
            .EnumerateFiles(folder, "*.*", SearchOption.AllDirectories)
            .Where(file =>
                Path.GetExtension(file) is ".yaml" or ".yml"
                && Path.GetFileName(file) != "people.yaml"
                && (
                    hidden
                    || !file.Contains($"{Path.DirectorySeparatorChar}.bright-tier{Path.DirectorySeparatorChar}", StringComparison.Ordinal)
                )
            )
            .Order(StringComparer.Ordinal);

    public static Workspace Read(IEnumerable<string> paths, CancellationToken cancel)
    {
        var named = new List<string>();
        var context = new SortedSet<string>(StringComparer.Ordinal);
        foreach (var path in paths)
        {
            if (Directory.Exists(path))
            {
                named.AddRange(YamlIn(path));
            }
            else if (File.Exists(path))
            {
                named.Add(path);
                if (FolderOf(path) is { } folder)
                {
                    context.UnionWith(RestedOn(File.ReadAllText(path), [.. YamlIn(folder)]));
                }
            }
            else
            {
                throw new UsageException($"There is no file or folder '{path}'.");
            }
        }

        var all = named
            .Concat(context.Where(each => !named.Any(one => Path.GetFullPath(one) == Path.GetFullPath(each))))
            .Distinct()
            .ToArray();
        var read = new WorkFile[all.Length];
        Parallel.For(0, all.Length, new ParallelOptions { CancellationToken = cancel }, i =>
        {
            var text = File.ReadAllText(all[i]);
            var (document, problems) = DocumentFile.Read(text);
            read[i] = new WorkFile(all[i], text, document, problems);
        });
        var files = read.ToDictionary(file => file.Path, StringComparer.Ordinal);
        // What is named on the command line comes last, and so in the place of what stands beside it.
        var catalogue = DocumentFile.Of(context.Concat(named).Select(file => files.GetValueOrDefault(file)?.Document).OfType<Document>());
        return new Workspace([.. named.Distinct().Select(file => files[file])], catalogue);
    }

    /// <summary>
    /// Of the files beside one those it rests on: entities and what those rest on, and of the layouts those it names, as long as they lie
    /// under their
    /// own names; else, and where it is about layouts, all files there are.
    /// </summary>
    private static IEnumerable<string> RestedOn(string text, string[] beside)
    {
        var layouts = beside
            .Where(each => Path.GetFileName(Path.GetDirectoryName(each)) == "layouts")
            .ToLookup(each => Path.GetFileNameWithoutExtension(each), StringComparer.Ordinal);
        var others = beside
            .Except(layouts.SelectMany(each => each))
            .Where(each =>
                Path.GetFileName(Path.GetDirectoryName(each)) != "templates"
                && Path.GetFileName(each) is not ("routing.yaml" or "navigation.yaml")
            );
        var found = new HashSet<string>(StringComparer.Ordinal);
        var texts = new Stack<string>([text]);
        while (texts.TryPop(out var next))
        {
            if (AboutLayouts().IsMatch(next))
            {
                return beside;
            }

            foreach (var name in NamesLayout().Matches(next).Select(match => match.Groups["key"].Value))
            {
                if (layouts[name].FirstOrDefault() is not { } path)
                {
                    return beside;
                }

                if (found.Add(path))
                {
                    texts.Push(File.ReadAllText(path));
                }
            }
        }

        return others.Concat(found);
    }

    [GeneratedRegex(@"^kind: *(routing|template)\b", RegexOptions.Multiline | RegexOptions.ExplicitCapture)]
    private static partial Regex AboutLayouts();

    [GeneratedRegex(@"\b(piece|extends): *[""']?(?<key>[^""'\s,}]+)", RegexOptions.ExplicitCapture)]
    private static partial Regex NamesLayout();

    /// <summary>The folder with application.yaml that a file belongs to.</summary>
    private static string? FolderOf(string path)
    {
        var at = Path.GetDirectoryName(Path.GetFullPath(path));
        for (var up = 0; at is not null && up < 3; up++, at = Path.GetDirectoryName(at))
        {
            if (File.Exists(Path.Combine(at, "application.yaml")))
            {
                return at;
            }
        }

        return null;
    }

    /// <summary>The one layout named, with its file.</summary>
    public static (Workspace All, WorkFile File, Layout Layout) OneLayout(string path, CommandProblems problems, CancellationToken cancel)
    {
        var all = Read([path], cancel);
        var file = all.Files is [var only] ? only : throw new UsageException($"'{path}' must be one file.");
        return file.Document is Document.OfLayout { Layout: var layout } ? (all, file, layout) : throw problems(file);
    }

    public Entity EntityOf(Layout layout) =>
        Catalogue.Definitions.Entities.GetValueOrDefault(layout.Entity)
        ?? throw new UsageException(
            $"The entity '{layout.Entity}' is not beside the file; keep layouts in a folder with application.yaml and entities."
        );
}

/// <summary>Tells what is wrong with a file that holds no layout.</summary>
internal delegate Exception CommandProblems(WorkFile file);
