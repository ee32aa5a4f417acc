using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>Keeping what a service holds.</summary>
internal static class BackupCommands
{
    public static Command Make(CommandLine line) =>
        new("backup", "Backups of everything a service holds; 'serve --restore' starts with one.") { Create(line) };

    private static Command Create(CommandLine line)
    {
        var file = new Argument<FileInfo>("file") { Description = "Where it is written." };
        var backup = new Command(
            "create",
            "Writes everything the service holds into one file, while it is in use; 'serve --restore' begins an empty service "
                + "with it.\n\nExample:\n  brighttier backup create quay.backup.zip"
        )
        {
            file,
        };
        line.Do(backup, async (result, context, cancel) =>
        {
            var target = result.GetValue(file)!;
            if (target.Exists)
            {
                context.Confirm($"{target.Name} exists already and would be overwritten.");
            }

            using var client = context.Client();
            // Only a whole backup gets the name.
            var arriving = target.FullName + ".arriving";
            try
            {
                long length;
                await using (var stream = Secrets.Create(arriving))
                {
                    await client.Backup(stream, cancel);
                    length = stream.Length;
                }

                File.Move(arriving, target.FullName, overwrite: true);
                context.Printer.Done(
                    new JsonObject { ["file"] = target.FullName, ["bytes"] = length },
                    $"Everything is in {target.Name}: "
                        + $"{(length / 1024.0 / 1024.0).ToString("0.0", System.Globalization.CultureInfo.InvariantCulture)} "
                        + $"MiB. It holds secrets; keep it where the databases are kept."
                );
            }
            finally
            {
                File.Delete(arriving);
            }

            return Exit.Done;
        });
        return backup;
    }
}
