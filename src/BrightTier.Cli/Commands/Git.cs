using System.ComponentModel;
using System.Diagnostics;
using BrightTier.Cli.Invocation;
using BrightTier.Core.Edits;

namespace BrightTier.Cli.Commands;

/// <summary>The git there is.</summary>
internal static class Git
{
    /// <summary>Runs it; what it prints, and how it ended.</summary>
    public static async Task<(int Exit, string Out, string Error)> Run(string folder, CancellationToken cancel, params string[] arguments)
    {
        var start = new ProcessStartInfo("git", arguments)
        {
            WorkingDirectory = folder,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
        };
        try
        {
            using var process = Process.Start(start)!;
            var (output, error) = (process.StandardOutput.ReadToEndAsync(cancel), process.StandardError.ReadToEndAsync(cancel));
            await process.WaitForExitAsync(cancel);
            return (process.ExitCode, await output, (await error).Trim());
        }
        catch (Win32Exception)
        {
            throw new UsageException("git is not installed here; it is needed for this.");
        }
    }
}

/// <summary>Merging line by line, of what is no document.</summary>
internal static class GitMerge
{
    public static async Task<MergedText> Lines(string from, string mine, string theirs, Side? take, CancellationToken cancel)
    {
        var folder = Directory.CreateTempSubdirectory("brighttier-").FullName;
        try
        {
            foreach (var (name, text) in new[] { ("mine", mine), ("base", from), ("theirs", theirs) })
            {
                await File.WriteAllTextAsync(Path.Combine(folder, name), text, cancel);
            }

            string[] side = take is { } one ? [one is Side.Mine ? "--ours" : "--theirs"] : [];
            var (exit, merged, error) = await Git.Run(
                folder,
                cancel,
                ["merge-file", "-p", .. side, "-L", "mine", "-L", "base", "-L", "theirs", "mine", "base", "theirs"]
            );
            return exit is >= 0 and < 128
                ? new MergedText(merged, exit, [$"is no document that can be read on every side; it was merged line by line."])
                : throw new UsageException($"It cannot be merged line by line: {error}");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
