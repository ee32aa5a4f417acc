using System.CommandLine;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>Documents from one installation to another, in one archive.</summary>
internal static class BundleCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        AddExport(root, line);
        AddImport(root, line);
    }

    private static void AddExport(RootCommand root, CommandLine line)
    {
        var file = new Argument<string>("file") { Description = "The archive to write (ZIP)." };
        var documents = new Argument<string[]>("document") { Description = "Layouts by key, other documents as kind/key, with all they rest on; every document where none is named.", Arity = ArgumentArity.ZeroOrMore };
        var draft = new Option<bool>("--draft") { Description = "As they are in drafts, not as everyone has them." };
        var alone = new Option<bool>("--alone") { Description = "Without what they rest on." };
        var export = new Command("export", "Writes published documents into one archive, with a manifest that names each, its hash and what it rests on.\n\nExamples:\n  brighttier export quay.zip --profile test\n  brighttier export vessel.zip vessel vessel-list") { file, documents, draft, alone };
        line.Do(export, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var path = result.GetRequiredValue(file);
            var bundle = await client.ExportBundle(result.GetValue(documents)!.Select(Named), result.GetValue(draft), result.GetValue(alone), cancel);
            await File.WriteAllBytesAsync(path, bundle, cancel);
            around.Printer.Line($"{path} is written, {bundle.Length / 1024 + 1} kB.");
            return Exit.Done;
        });
        root.Subcommands.Add(export);
    }

    private static void AddImport(RootCommand root, CommandLine line)
    {
        var file = new Argument<string>("file") { Description = "An archive that 'export' wrote." };
        var only = new Option<string[]>("--only") { Description = "Only this document, by kind/key or a layout's key. Can be given several times." };
        var rename = new Option<string[]>("--rename") { Description = "Takes a document under another key, with all that names it: entity/vessel=boat. Can be given several times." };
        var dry = new Option<bool>("--dry-run") { Description = "Says in words what would change, what checks would find and who would notice, and changes nothing." };
        var merge = new Option<bool>("--merge") { Description = "Keeps what was changed here as well, over what both sides come from; refused where both changed the same." };
        var take = ImportReports.Side();
        var format = ImportReports.Format();
        var import = new Command("import", "Takes an archive into the drafts, all or none, checked before anything is written.\nExits with 1 where it was refused, or a dry run finds an error or a conflict.\n\nExamples:\n  brighttier import quay.zip --profile production --dry-run\n  brighttier import quay.zip --only vessel --only entity/vessel\n  brighttier import quay.zip --rename entity/vessel=boat --rename layout/vessel=boat") { file, only, rename, dry, merge, take, format };
        line.Do(import, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var path = result.GetRequiredValue(file);
            if (!File.Exists(path))
            {
                throw new UsageException($"There is no file '{path}'.");
            }

            var rules = result.GetValue(rename)!.Select(rule => rule.Split('=') is [var name, var other] ? $"{Named(name)}:{other}" : throw new UsageException($"--rename is kind/key=other, such as entity/vessel=boat; it is '{rule}'."));
            var report = await client.ImportBundle(await File.ReadAllBytesAsync(path, cancel), result.GetValue(only)!.Select(Named), rules, result.GetValue(dry), result.GetValue(merge), result.GetValue(take), cancel);
            return ImportReports.Print(around.Printer, report, result.GetValue(dry), result.GetValue(format)!, _ => (path, null));
        });
        root.Subcommands.Add(import);
    }

    private static string Named(string name) => name.Contains('/', StringComparison.Ordinal) ? name : $"layout/{name}";
}
