using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>Documents from one installation to another, in one archive.</summary>
internal static class BundleCommands
{
    public static Command Make(CommandLine line) =>
        new("bundle", "Documents from one installation to another, in one archive.") { Export(line), Import(line) };

    private static Command Export(CommandLine line)
    {
        var file = new Argument<string>("file") { Description = "The archive to write (ZIP); - for standard output." };
        var documents = new Argument<string[]>("document")
        {
            Description = "Layouts by key, other documents as kind/key, with all they depend on; every document where none is named.",
            Arity = ArgumentArity.ZeroOrMore,
        };
        var draft = new Option<bool>("--draft") { Description = "As they are in drafts, not as everyone has them." };
        var release = new Option<long?>("--release") { Description = "As a release had them, by its number." };
        var alone = new Option<bool>("--without-dependencies") { Description = "Without what they depend on." };
        var export = new Command(
            "export",
            "Writes published documents into one archive, with a manifest that names each, its hash and what it depends "
                + "on.\n\nExamples:\n  brighttier bundle export quay.zip --profile test\n  brighttier bundle export vessel.zip "
                + "vessel vessel-list"
        )
        {
            file,
            documents,
            draft,
            release,
            alone,
        };
        line.Do(export, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var path = result.GetRequiredValue(file);
            var bundle = await client.ExportBundle(
                result.GetValue(documents)!.Select(Named),
                result.GetValue(draft),
                result.GetValue(alone),
                cancel,
                result.GetValue(release)
            );
            await Streams.WriteBytes(path, bundle, cancel);
            if (path != Streams.Standard)
            {
                context.Printer.Done(
                    new JsonObject { ["file"] = path, ["bytes"] = bundle.Length },
                    $"{path} is written, {bundle.Length / 1024 + 1} kB."
                );
            }

            return Exit.Done;
        });
        return export;
    }

    private static Command Import(CommandLine line)
    {
        var file = new Argument<string>("file") { Description = "An archive that 'bundle export' wrote; - for standard input." };
        var only = new Option<string[]>("--only")
        {
            Description = "Only this document, by kind/key or a layout's key. Can be given several times.",
        };
        var rename = new Option<string[]>("--rename")
        {
            Description = "Imports a document under another key, with all that names it: entity/vessel=boat. Can be given several times.",
        };
        var dry = new Option<bool>("--dry-run")
        {
            Description = "Shows what would change, what checks would find and what uses it, and changes nothing.",
        };
        var merge = new Option<bool>("--merge") { Description = "Merges with what was changed here; refused where both changed the same." };
        var resolution = ImportReports.Side();
        var format = ImportReports.Format();
        var import = new Command(
            "import",
            "Imports an archive into the drafts, all or none, checked before anything is written.\nExits with 1 where it was "
                + "refused, or a dry run finds an error or a conflict.\n\nExamples:\n  brighttier bundle import quay.zip "
                + "--profile production --dry-run\n  brighttier bundle import quay.zip --only vessel --only entity/vessel\n "
                + " brighttier bundle import quay.zip --rename entity/vessel=boat --rename layout/vessel=boat"
        )
        {
            file,
            only,
            rename,
            dry,
            merge,
            resolution,
            format,
        };
        line.Change(import, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var path = result.GetRequiredValue(file);
            var rules = result
                .GetValue(rename)!
                .Select(rule =>
                    rule.Split('=') is [var name, var other]
                        ? $"{Named(name)}:{other}"
                        : throw new UsageException($"--rename is kind/key=other, such as entity/vessel=boat; it is '{rule}'.")
                );
            var report = await client.ImportBundle(
                await Streams.ReadBytes(path, cancel),
                result.GetValue(only)!.Select(Named),
                rules,
                result.GetValue(dry),
                result.GetValue(merge),
                result.GetValue(resolution),
                cancel
            );
            return ImportReports.Print(context.Printer, report, result.GetValue(dry), result.GetValue(format)!, _ => (path, null));
        });
        return import;
    }

    private static string Named(string name) => name.Contains('/', StringComparison.Ordinal) ? name : $"layout/{name}";
}
