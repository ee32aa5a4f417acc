using System.CommandLine;
using System.Text.Json;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Commands;

/// <summary>The schema by which an editor completes and checks files.</summary>
internal static class SchemaCommand
{
    public static Command Make(CommandLine line)
    {
        var folder = new Argument<string?>("folder")
        {
            Description = "A folder of files whose names it is to know: its fields, roles, choice lists, layouts.",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new Command(
            "schema",
            "Prints the JSON Schema (2020-12) of documents as files, of whatever kind, for editors that complete and check them; made "
                + "for a folder it knows the names there.\n\nExamples:\n  brighttier schema > document.schema.json\n  brighttier "
                + "schema quay > quay/.bright-tier/schema.json"
        )
        {
            folder,
        };
        line.Do(command, (result, context, cancel) =>
        {
            var known = result.GetValue(folder) is { } path ? Known(path, context, cancel) : null;
            context.Printer.Line(
                DocumentSchema
                    .Make(known)
                    .ToJsonString(new JsonSerializerOptions { WriteIndented = true, TypeInfoResolver = WireJson.Default })
            );
            return Task.FromResult(Exit.Done);
        });
        return command;
    }

    /// <summary>The documents of a folder. One that is being written just now is left out, and said so beside the result.</summary>
    private static Catalogue Known(string path, CommandContext context, CancellationToken cancel)
    {
        if (!Directory.Exists(path))
        {
            throw new UsageException($"There is no folder '{path}'.");
        }

        var workspace = Workspace.Read([path], cancel);
        foreach (var file in workspace.Files.Where(file => file.Document is null))
        {
            Console.Error.WriteLine($"{file.Path} cannot be read; what it names is not in the schema.");
        }

        return workspace.Catalogue;
    }
}
