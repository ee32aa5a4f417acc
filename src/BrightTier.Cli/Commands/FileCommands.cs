using System.CommandLine;
using BrightTier.Cli.Output;
using BrightTier.Core.Checks;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;

namespace BrightTier.Cli.Commands;

/// <summary>Layouts as files: checked offline, pulled, pushed.</summary>
internal static class FileCommands
{
    private const string BaseFile = ".bright-tier-base";

    private static readonly string[] Kinds = ["application", "choice-list", "entity", "layout"];

    public static void Add(RootCommand root, CommandLine line)
    {
        AddCheck(root, line);
        AddPull(root, line);
        AddPush(root, line);
    }

    private static void AddCheck(RootCommand root, CommandLine line)
    {
        var paths = new Argument<string[]>("path") { Description = "Files, or folders of files.", Arity = ArgumentArity.OneOrMore };
        var strict = new Option<bool>("--strict") { Description = "Warnings count as errors." };
        var check = new Command("check", "Checks files without a service: form, conditions, and every rule. Entities are looked for in the folders given and beside them.\n\nExamples:\n  brighttier check demo\n  brighttier check demo/layouts/vessel.yaml --strict") { paths, strict };
        line.Do(check, async (result, around, cancel) =>
        {
            var files = new List<string>();
            var context = new SortedSet<string>(StringComparer.Ordinal);
            foreach (var path in result.GetRequiredValue(paths))
            {
                if (Directory.Exists(path))
                {
                    files.AddRange(YamlIn(path));
                }
                else if (File.Exists(path))
                {
                    files.Add(path);
                    // demo/layouts/vessel.yaml rests on demo/entities and its neighbours.
                    if (Path.GetDirectoryName(Path.GetDirectoryName(Path.GetFullPath(path))) is { } around2 && File.Exists(Path.Combine(around2, "application.yaml")))
                    {
                        // Only what the file can need: other layouts and entities cannot change what is found in it.
                        context.UnionWith(YamlIn(around2).Where(each => Path.GetFileName(Path.GetDirectoryName(each)) is not ("layouts" or "entities")));
                        if ((Documents.Read(await File.ReadAllTextAsync(path, cancel)).Document as Document.OfLayout)?.Layout.Entity is { } entity)
                        {
                            context.UnionWith(new[] { Path.Combine(around2, PathOf("entity", entity)) }.Where(File.Exists));
                        }
                    }
                }
                else
                {
                    throw new UsageException($"There is no file or folder '{path}'.");
                }
            }

            var definitions = await Definitions(context.Union(files), cancel);
            var worst = -1;
            foreach (var file in files.Distinct())
            {
                worst = Math.Max(worst, await Check(around.Printer, file, definitions, cancel));
            }

            if (!around.Printer.Json)
            {
                around.Printer.Line(worst < 0 ? $"{files.Count} {(files.Count == 1 ? "file" : "files")} checked, nothing found." : $"{files.Count} {(files.Count == 1 ? "file" : "files")} checked.");
            }

            return worst >= (int)(result.GetValue(strict) ? Severity.Warning : Severity.Error) ? Exit.Refused : Exit.Done;
        });
        root.Subcommands.Add(check);
    }

    private static IEnumerable<string> YamlIn(string folder) => Directory.EnumerateFiles(folder, "*.*", SearchOption.AllDirectories)
        .Where(file => Path.GetExtension(file) is ".yaml" or ".yml" && Path.GetFileName(file) != "people.yaml").Order(StringComparer.Ordinal);

    private static async Task<Definitions> Definitions(IEnumerable<string> files, CancellationToken cancel)
    {
        var definitions = Core.Entities.Definitions.Empty;
        foreach (var file in files)
        {
            definitions = Documents.Read(await File.ReadAllTextAsync(file, cancel)).Document switch
            {
                Document.OfApplication application => definitions with { Application = application.Application },
                Document.OfEntity entity => definitions with { Entities = definitions.Entities.SetItem(entity.Key, entity.Entity) },
                Document.OfChoiceList list => definitions with { ChoiceLists = definitions.ChoiceLists.SetItem(list.Key, list.ChoiceList) },
                _ => definitions,
            };
        }

        return definitions;
    }

    /// <returns>The gravest severity found, -1 for none.</returns>
    private static async Task<int> Check(Printer printer, string file, Definitions definitions, CancellationToken cancel)
    {
        var text = await File.ReadAllTextAsync(file, cancel);
        var (document, problems) = Documents.Read(text);
        if (document is null)
        {
            Print(printer, file, text, problems);
            return (int)Severity.Error;
        }

        if (document is not Document.OfLayout { Layout: var layout, Places: var places })
        {
            return -1;
        }

        var worst = -1;
        foreach (var finding in Checker.Check(layout, definitions))
        {
            Print(printer, file, text, places.GetValueOrDefault(finding.Node), finding.Severity, finding.Code, finding.Message);
            worst = Math.Max(worst, (int)finding.Severity);
        }

        return worst;
    }

    public static void Print(Printer printer, string file, string text, IReadOnlyList<FileProblem> problems)
    {
        foreach (var problem in problems)
        {
            Print(printer, file, text, problem.At, Severity.Error, "document-invalid", char.ToUpperInvariant(problem.Message[0]) + problem.Message[1..] + ".");
        }
    }

    private static void Print(Printer printer, string file, string text, Place at, Severity severity, string code, string message)
    {
        if (printer.Json)
        {
            printer.Line(JsonText.Write(FileNode.Of(
                ("file", FileNode.Word(file)), ("line", FileNode.Bare($"{at.Line}")), ("column", FileNode.Bare($"{at.Column}")), ("pointer", FileNode.Word(at.Pointer ?? "")),
                ("severity", FileNode.Word(severity.ToString().ToLowerInvariant())), ("code", FileNode.Word(code)), ("message", FileNode.Word(message)))).ReplaceLineEndings("").Replace("  ", " ", StringComparison.Ordinal));
            return;
        }

        var colour = severity switch { Severity.Error => "red", Severity.Warning => "yellow", _ => "blue" };
        printer.Marked(colour, $"{file}:{at.Line}:{at.Column}: {severity.ToString().ToLowerInvariant()}", $": {message} [{code}]");
        var lines = text.Split('\n');
        if (at.Line >= 1 && at.Line <= lines.Length)
        {
            printer.Line("    " + lines[at.Line - 1].TrimEnd());
            printer.Line("    " + new string(' ', Math.Max(0, at.Column - 1)) + "^");
        }
    }

    private static void AddPull(RootCommand root, CommandLine line)
    {
        var folder = new Argument<string>("folder") { Description = "Where the files go; made if it is not there." };
        var force = new Option<bool>("--yes") { Description = "Writes over files that were changed since they were pulled." };
        var pull = new Command("pull", "Writes every draft of the service as a file, and remembers their revisions for 'push'.\n\nExample:\n  brighttier pull quay") { folder, force };
        line.Do(pull, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var into = Directory.CreateDirectory(result.GetRequiredValue(folder)).FullName;
            var known = Base.Read(into);
            var next = new Base();
            var written = 0;
            foreach (var (kind, key) in await All(client, cancel))
            {
                var file = await client.File(kind, key, cancel);
                var path = Path.Combine(into, PathOf(kind, key));
                if (File.Exists(path) && await File.ReadAllTextAsync(path, cancel) is var present && present != file.Text
                    && known.Hash(kind, key) != Base.HashOf(present) && !result.GetValue(force))
                {
                    throw new UsageException($"{path} was changed since it was pulled, or never was; push it first, or give --yes to write over it. Nothing more was written.");
                }

                Directory.CreateDirectory(Path.GetDirectoryName(path)!);
                await File.WriteAllTextAsync(path, file.Text, cancel);
                next.Set(kind, key, file.Tag, file.Text);
                next.Write(into);
                written++;
            }

            around.Printer.Line($"{written} files are in {into}.");
            return Exit.Done;
        });
        root.Subcommands.Add(pull);
    }

    private static async Task<IReadOnlyList<(string Kind, string Key)>> All(Client.BrightTierClient client, CancellationToken cancel)
    {
        var all = new List<(string, string)> { ("application", "application") };
        var entities = await client.Entities(cancel);
        var lists = new SortedSet<string>(StringComparer.Ordinal);
        foreach (var entity in entities)
        {
            lists.UnionWith((await client.Entity(entity.Key, cancel)).Fields.Select(field => field.ChoiceList).OfType<string>());
        }

        all.AddRange(lists.Select(list => ("choice-list", list)));
        all.AddRange(entities.Select(entity => ("entity", entity.Key)));
        all.AddRange((await client.Layouts(cancel)).Select(layout => ("layout", layout.Key)));
        return all;
    }

    public static string PathOf(string kind, string key) => kind switch
    {
        "application" => "application.yaml",
        "entity" => Path.Combine("entities", key + ".yaml"),
        "choice-list" => Path.Combine("choice-lists", key + ".yaml"),
        _ => Path.Combine("layouts", key + ".yaml"),
    };

    private static void AddPush(RootCommand root, CommandLine line)
    {
        var folder = new Argument<string>("folder") { Description = "The folder pulled to." };
        var dry = new Option<bool>("--dry-run") { Description = "Says what would change, and changes nothing." };
        var push = new Command("push", "Sends files that were changed to their drafts; refused where a draft moved on since it was pulled.\n\nExamples:\n  brighttier push quay --dry-run\n  brighttier push quay") { folder, dry };
        line.Do(push, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var from = result.GetRequiredValue(folder);
            if (!Directory.Exists(from))
            {
                throw new UsageException($"There is no folder '{from}'.");
            }

            var known = Base.Read(from);
            var changed = new List<(Document Document, string Text)>();
            var bad = false;
            foreach (var file in YamlIn(from))
            {
                var text = await File.ReadAllTextAsync(file, cancel);
                var (document, problems) = Documents.Read(text);
                if (document is null)
                {
                    Print(around.Printer, file, text, problems);
                    bad = true;
                }
                else if (known.Hash(document.Kind.Name(), document.Key) != Base.HashOf(text))
                {
                    changed.Add((document, text));
                }
            }

            if (bad)
            {
                around.Printer.Line("Nothing was pushed.");
                return Exit.Refused;
            }

            foreach (var (document, text) in changed.OrderBy(pair => Array.IndexOf(Kinds, pair.Document.Kind.Name())))
            {
                var (kind, key) = (document.Kind.Name(), document.Key);
                if (result.GetValue(dry))
                {
                    around.Printer.Line($"{kind} {key} would {(known.Tag(kind, key) is null ? "be made" : "change")}");
                    continue;
                }

                var saved = await client.PutFile(kind, key, text, known.Tag(kind, key), cancel);
                known.Set(kind, key, $"\"{saved.Revision}\"", text);
                known.Write(from);
                around.Printer.Line($"{kind} {key} is at revision {saved.Revision}");
            }

            if (changed.Count == 0)
            {
                around.Printer.Line("Nothing was changed since the pull.");
            }

            return Exit.Done;
        });
        root.Subcommands.Add(push);
    }

    /// <summary>What was pulled: for each document the revision and the hash of its text, one a line.</summary>
    private sealed class Base
    {
        private readonly SortedDictionary<string, (string Tag, string Hash)> entries = new(StringComparer.Ordinal);

        public static string HashOf(string text) => Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(text)))[..32];

        public static Base Read(string folder)
        {
            var known = new Base();
            var file = Path.Combine(folder, BaseFile);
            foreach (var parts in File.Exists(file) ? File.ReadAllLines(file).Select(each => each.Split(' ')) : [])
            {
                if (parts is [var name, var tag, var hash])
                {
                    known.entries[name] = (tag, hash);
                }
            }

            return known;
        }

        public string? Tag(string kind, string key) => entries.TryGetValue($"{kind}/{key}", out var entry) ? entry.Tag : null;

        public string? Hash(string kind, string key) => entries.TryGetValue($"{kind}/{key}", out var entry) ? entry.Hash : null;

        public void Set(string kind, string key, string tag, string text) => entries[$"{kind}/{key}"] = (tag, HashOf(text));

        public void Write(string folder) => File.WriteAllLines(Path.Combine(folder, BaseFile), entries.Select(entry => $"{entry.Key} {entry.Value.Tag} {entry.Value.Hash}"));
    }
}
