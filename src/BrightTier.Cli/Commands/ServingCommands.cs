using System.CommandLine;
using System.Diagnostics;

namespace BrightTier.Cli.Commands;

/// <summary>Starting the service, plain or with the demo, and keeping what it holds.</summary>
internal static class ServingCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var port = new Option<int>("--port") { Description = "The port on this machine.", DefaultValueFactory = _ => 5080 };
        var data = new Option<string?>("--data") { Description = "The folder of the databases. Default: .data, for the demo .data/demo." };
        var database = new Option<string?>("--database") { Description = "A connection string of PostgreSQL, for any number of services; without it SQLite in the folder." };
        var restore = new Option<FileInfo?>("--restore") { Description = "A backup with which a service without content begins; from either kind of database." };
        var serve = new Command("serve", "Runs the service until it is stopped with Ctrl+C.\n\nExamples:\n  brighttier serve --data /var/lib/brighttier --port 5080\n  brighttier serve --database \"Host=localhost;Database=quay;Username=quay\" --restore quay.backup.zip") { port, data, database, restore };
        line.Do(serve, (result, around, cancel) => Run(
            around, result.GetValue(port), result.GetValue(data) ?? ".data",
            [.. result.GetValue(database) is { } connection ? ["--Database", connection] : Array.Empty<string>(), .. result.GetValue(restore) is { } file ? ["--Restore", file.FullName] : Array.Empty<string>()],
            cancel));
        root.Subcommands.Add(serve);

        var demo = new Command("demo", "Runs the service with the demo application, in which one may be whoever one likes.\n\nExample:\n  brighttier demo --port 5090") { port, data };
        line.Do(demo, (result, around, cancel) =>
        {
            var folder = Find("demo", Directory.Exists) ?? throw new UsageException("The demo's files are not here; run this in a checkout.");
            var number = result.GetValue(port);
            around.Printer.Line($"The demo will be at http://127.0.0.1:{number}/; be Ada Wader (configurator), Bram Klaasen (quay hand) or any of the others. Ctrl+C stops it.");
            return Run(around, number, result.GetValue(data) ?? Path.Combine(".data", "demo"), ["--Seed", folder, "--PickPeople", "true"], cancel);
        });
        root.Subcommands.Add(demo);
        AddBackup(root, line);
    }

    private static void AddBackup(RootCommand root, CommandLine line)
    {
        var file = new Argument<FileInfo>("file") { Description = "Where it is written." };
        var yes = new Option<bool>("--yes") { Description = "Writes over a file that is there." };
        var backup = new Command("backup", "Writes everything the service holds into one file, while it is in use; 'serve --restore' begins an empty service with it.\n\nExample:\n  brighttier backup quay.backup.zip") { file, yes };
        line.Do(backup, async (result, around, cancel) =>
        {
            var target = result.GetValue(file)!;
            if (target.Exists && !result.GetValue(yes))
            {
                throw new UsageException($"{target.Name} is there already; name another file, or write over it with --yes.");
            }

            using var client = around.Client();
            // Only a whole backup gets the name.
            var arriving = target.FullName + ".arriving";
            try
            {
                long length;
                await using (var stream = File.Create(arriving))
                {
                    await client.Backup(stream, cancel);
                    length = stream.Length;
                }

                File.Move(arriving, target.FullName, overwrite: true);
                around.Printer.Line($"Everything is in {target.Name}: {(length / 1024.0 / 1024.0).ToString("0.0", System.Globalization.CultureInfo.InvariantCulture)} MiB. It holds secrets; keep it where the databases are kept.");
            }
            finally
            {
                File.Delete(arriving);
            }

            return Exit.Done;
        });
        root.Subcommands.Add(backup);
    }

    private static async Task<int> Run(CommandContext around, int port, string data, string[] more, CancellationToken cancel)
    {
        if (port is < 1 or > 65_535)
        {
            throw new UsageException($"--port must be from 1 to 65535; it is {port}.");
        }

        var program = Environment.GetEnvironmentVariable("BRIGHTTIER_SERVICE")
            ?? Find(Path.Combine("out", "service", "BrightTier.Service.dll"), File.Exists)
            ?? new[] { "Release", "Debug" }.Select(kind => Find(Path.Combine("src", "BrightTier.Service", "bin", kind, "net10.0", "BrightTier.Service.dll"), File.Exists)).FirstOrDefault(found => found is not null)
            ?? throw new UsageException("The service is not built here; run 'make build' in the checkout, or name it in BRIGHTTIER_SERVICE.");
        var start = new ProcessStartInfo("dotnet") { UseShellExecute = false };
        foreach (var argument in (string[])[program, "--urls", $"http://127.0.0.1:{port}", "--Data", Path.GetFullPath(data), .. more])
        {
            start.ArgumentList.Add(argument);
        }

        using var process = Process.Start(start) ?? throw new UsageException("The service could not be started.");
        try
        {
            await process.WaitForExitAsync(cancel);
        }
        catch (OperationCanceledException)
        {
            // Ctrl+C reached the service too; it drains its streams and ends.
            await process.WaitForExitAsync(CancellationToken.None);
        }

        around.Printer.Line("The service has stopped.");
        return process.ExitCode == 0 ? Exit.Done : Exit.Refused;
    }

    private static string? Find(string relative, Func<string, bool> exists)
    {
        foreach (var begin in new[] { Directory.GetCurrentDirectory(), AppContext.BaseDirectory })
        {
            for (var at = new DirectoryInfo(begin); at is not null; at = at.Parent)
            {
                if (exists(Path.Combine(at.FullName, relative)))
                {
                    return Path.Combine(at.FullName, relative);
                }
            }
        }

        return null;
    }
}
