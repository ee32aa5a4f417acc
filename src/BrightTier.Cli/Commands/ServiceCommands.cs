using System.CommandLine;
using System.Diagnostics;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>Running the service, plain or with the demo.</summary>
internal static class ServiceCommands
{
    public static Command Serve(CommandLine line)
    {
        var (port, data) = (Port(), Data(".data"));
        var database = Database();
        var restore = new Option<FileInfo?>("--restore")
        {
            Description = "A backup with which a service without content begins; from either kind of database.",
        };
        var serve = new Command(
            "serve",
            "Runs the service until it is stopped with Ctrl+C.\n\nExamples:\n  brighttier serve --data /var/lib/brighttier "
                + "--port 5080\n  brighttier serve --database \"Host=localhost;Database=quay;Username=quay\" --restore quay.backup.zip"
        )
        {
            port,
            data,
            database,
            restore,
        };
        line.Do(serve, (result, context, cancel) =>
            Run(
                context,
                result.GetValue(port),
                result.GetValue(data) ?? ".data",
                [
                    .. result.GetValue(database) is { } connection ? ["--Database", connection] : Array.Empty<string>(),
                    .. result.GetValue(restore) is { } file ? ["--Restore", file.FullName] : Array.Empty<string>(),
                ],
                cancel
            )
        );
        return serve;
    }

    public static Command Demo(CommandLine line)
    {
        var (port, data) = (Port(), Data(".data/demo"));
        var demo = new Command(
            "demo",
            "Runs the service with the demo application, in which you can be any of its people.\n\nExample:\n  brighttier demo --port 5090"
        )
        {
            port,
            data,
        };
        line.Do(demo, (result, context, cancel) =>
        {
            var folder = Find("demo", Directory.Exists)
                ?? throw new UsageException("The demo's files are not here; run this in a checkout.");
            var number = result.GetValue(port);
            context.Printer.Line(
                $"The demo will be at http://127.0.0.1:{number}/; be Ada Wader (configurator), Bram Klaasen (quay hand) or "
                    + $"any of the others. Ctrl+C stops it."
            );
            return Run(
                context,
                number,
                result.GetValue(data) ?? Path.Combine(".data", "demo"),
                ["--Seed", folder, "--PickPeople", "true"],
                cancel
            );
        });
        return demo;
    }

    private static Option<int> Port() => new("--port") { Description = "The port on this machine.", DefaultValueFactory = _ => 5080 };

    internal static Option<string?> Data(string usual) => new("--data") { Description = $"The folder of the databases. Default: {usual}." };

    internal static Option<string?> Database() =>
        new("--database")
        {
            Description = "A connection string of PostgreSQL, for any number of services; without it SQLite in the folder.",
        };

    private static async Task<int> Run(CommandContext context, int port, string data, string[] more, CancellationToken cancel)
    {
        if (port is < 1 or > 65_535)
        {
            throw new UsageException($"--port must be from 1 to 65535; it is {port}.");
        }

        var code = await Run(["--urls", $"http://127.0.0.1:{port}", "--Data", Path.GetFullPath(data), .. more], cancel);
        context.Printer.Line("The service has stopped.");
        return code;
    }

    /// <summary>Runs the service's program until it ends.</summary>
    internal static async Task<int> Run(string[] arguments, CancellationToken cancel)
    {
        var program = Environment.GetEnvironmentVariable("BRIGHTTIER_SERVICE")
            ?? Find(Path.Combine("out", "service", "BrightTier.Service.dll"), File.Exists)
            ?? new[] { "Release", "Debug" }
                .Select(kind =>
                    Find(Path.Combine("src", "BrightTier.Service", "bin", kind, "net10.0", "BrightTier.Service.dll"), File.Exists)
                )
                .FirstOrDefault(found => found is not null)
            ?? throw new UsageException(
                "The service is not built here; run 'make build' in the checkout, or name it in BRIGHTTIER_SERVICE."
            );
        var start = new ProcessStartInfo("dotnet") { UseShellExecute = false };
        foreach (var argument in (string[])[program, .. arguments])
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
