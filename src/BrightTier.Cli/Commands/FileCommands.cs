using System.CommandLine;
using BrightTier.Core.Files;

namespace BrightTier.Cli.Commands;

/// <summary>Documents as files: pulled, pushed.</summary>
internal static class FileCommands
{
    private const string BaseFile = ".bright-tier-base";

    public static void Add(RootCommand root, CommandLine line)
    {
        AddPull(root, line);
        AddPush(root, line);
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

    private static async Task<IReadOnlyList<(string Kind, string Key)>> All(Client.BrightTierClient client, CancellationToken cancel) =>
        [.. (await client.Documents(cancel)).Select(document => (document.Kind, document.Key))];

    private static string PathOf(string kind, string key) => Documents.PathOf(Documents.KindNamed(kind)!.Value, key).Replace('/', Path.DirectorySeparatorChar);

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
            foreach (var file in Workspace.YamlIn(from))
            {
                var text = await File.ReadAllTextAsync(file, cancel);
                var (document, problems) = Documents.Read(text);
                if (document is null)
                {
                    CheckCommand.Print(around.Printer, new WorkFile(file, text, document, problems));
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

            foreach (var (document, text) in changed.OrderBy(pair => (int)pair.Document.Kind))
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
