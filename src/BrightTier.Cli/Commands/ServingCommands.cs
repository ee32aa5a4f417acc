using System.CommandLine;
using System.Diagnostics;

namespace BrightTier.Cli.Commands;

/// <summary>Starting the service, plain or with the demo.</summary>
internal static class ServingCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var port = new Option<int>("--port") { Description = "The port on this machine.", DefaultValueFactory = _ => 5080 };
        var data = new Option<string?>("--data") { Description = "The folder of the databases. Default: .data, for the demo .data/demo." };
        var serve = new Command("serve", "Runs the service until it is stopped with Ctrl+C.\n\nExample:\n  brighttier serve --data /var/lib/brighttier --port 5080") { port, data };
        line.Do(serve, (result, around, cancel) => Run(around, result.GetValue(port), result.GetValue(data) ?? ".data", [], cancel));
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
    }

    private static async Task<int> Run(Surroundings around, int port, string data, string[] more, CancellationToken cancel)
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
