using System.Diagnostics;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>What a call of the client came to.</summary>
internal sealed record TerminalOutput(int Exit, string Out, string Error);

/// <summary>Calls the command-line client, the real program as a process.</summary>
internal static class Terminal
{
    /// <summary>The client as it was built with the tests.</summary>
    public static string Program { get; } =
        Directory
            .EnumerateFiles(
                Path.Combine(
                    RunningService.Checkout,
                    "src",
                    "BrightTier.Cli",
                    "bin",
                    AppContext.BaseDirectory.Contains("/Release/") ? "Release" : "Debug"
                ),
                "brighttier.dll",
                SearchOption.AllDirectories
            )
            .Where(file => File.Exists(Path.ChangeExtension(file, "runtimeconfig.json")))
            .OrderBy(file => file.Length)
            .First();

    /// <param name="server">What BRIGHTTIER_SERVER names; null where the profile is to say it.</param>
    public static Task<TerminalOutput> Run(string? server, string config, params string[] arguments) =>
        Run(server, config, null, null, arguments);

    /// <summary>Called in a folder, as somebody whose home is another.</summary>
    public static Task<TerminalOutput> RunAt(string server, string home, string at, params string[] arguments) =>
        Run(server, home, at, null, arguments);

    /// <summary>With a line to be read from a pipe.</summary>
    public static Task<TerminalOutput> RunWith(string input, string server, string config, params string[] arguments) =>
        Run(server, config, null, input, arguments);

    private static async Task<TerminalOutput> Run(string? server, string config, string? at, string? input, string[] arguments)
    {
        var start = new ProcessStartInfo("dotnet")
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            RedirectStandardInput = true,
            UseShellExecute = false,
        };
        foreach (var argument in (string[])[Program, .. arguments])
        {
            start.ArgumentList.Add(argument);
        }

        start.Environment.Remove("BRIGHTTIER_SERVER");
        if (server is not null)
        {
            start.Environment["BRIGHTTIER_SERVER"] = server.TrimEnd('/');
        }

        start.Environment[at is null ? "BRIGHTTIER_CONFIG" : "HOME"] = config;
        start.Environment.Remove("XDG_CONFIG_HOME");
        start.WorkingDirectory = at ?? "";
        using var process = Process.Start(start)!;
        if (input is not null)
        {
            await process.StandardInput.WriteLineAsync(input);
        }

        process.StandardInput.Close();
        var output = process.StandardOutput.ReadToEndAsync();
        var error = process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        return new TerminalOutput(process.ExitCode, await output, await error);
    }
}
