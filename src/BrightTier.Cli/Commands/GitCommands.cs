using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>What git is to know of documents.</summary>
internal static class GitCommands
{
    /// <summary>All files below the one it stands in.</summary>
    private const string Attribute = "*.yaml merge=brighttier";

    public static Command Make(CommandLine line)
    {
        var folder = new Argument<string>("folder")
        {
            DefaultValueFactory = _ => ".",
            Description = "The folder of the documents, in a repository. Default: this one.",
        };
        var setup = new Command(
            "setup",
            "Has git merge the documents of a folder by what they mean: writes .gitattributes there, to be committed, and the "
                + "merge driver into this clone's configuration; run it in each clone.\n\nExample:\n  brighttier git setup quay"
        )
        {
            folder,
        };
        line.Do(setup, async (result, context, cancel) =>
        {
            var at = result.GetRequiredValue(folder);
            if (!Directory.Exists(at))
            {
                throw new UsageException($"There is no folder '{at}'.");
            }

            await Configure(at, "merge.brighttier.name", "documents by what they mean", cancel);
            await Configure(at, "merge.brighttier.driver", $"{Self()} merge %O %A %B --name %P", cancel);
            var path = Path.Combine(at, ".gitattributes");
            var there = File.Exists(path) ? await File.ReadAllTextAsync(path, cancel) : "";
            if (!there.Split('\n').Contains(Attribute))
            {
                await File.WriteAllTextAsync(path, there + (there is "" or [.., '\n'] ? "" : "\n") + Attribute + "\n", cancel);
            }

            context.Printer.Done(
                new JsonObject { ["attributes"] = path },
                $"git merges what is in {at} by what it means. Commit {path}; other clones run 'brighttier git setup' too."
            );
            return Exit.Done;
        });
        return new Command("git", "How git treats documents.") { setup };
    }

    private static async Task Configure(string folder, string key, string value, CancellationToken cancel)
    {
        var (exit, _, error) = await Git.Run(folder, cancel, "config", "--local", key, value);
        if (exit != 0)
        {
            throw new UsageException($"'{folder}' is in no git repository that can be set up: {error}");
        }
    }

    /// <summary>This program, as a shell runs it from anywhere.</summary>
    private static string Self()
    {
        var program = Environment.ProcessPath!;
        var assembly = Path.Combine(AppContext.BaseDirectory, "brighttier.dll");
        return Path.GetFileNameWithoutExtension(program) == "dotnet" ? $"'{program}' '{assembly}'" : $"'{program}'";
    }
}
