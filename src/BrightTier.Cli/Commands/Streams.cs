using BrightTier.Cli.Invocation;

namespace BrightTier.Cli.Commands;

/// <summary>Files named on the command line; - is standard input or output.</summary>
internal static class Streams
{
    public const string Standard = "-";

    public static async Task<string> Read(string path, CancellationToken cancel) =>
        path == Standard ? await Console.In.ReadToEndAsync(cancel)
        : File.Exists(path) ? await File.ReadAllTextAsync(path, cancel)
        : throw new UsageException($"There is no file '{path}'.");

    public static async Task<byte[]> ReadBytes(string path, CancellationToken cancel)
    {
        if (path != Standard)
        {
            return File.Exists(path) ? await File.ReadAllBytesAsync(path, cancel) : throw new UsageException($"There is no file '{path}'.");
        }

        await using var input = Console.OpenStandardInput();
        using var all = new MemoryStream();
        await input.CopyToAsync(all, cancel);
        return all.ToArray();
    }

    public static async Task WriteBytes(string path, byte[] content, CancellationToken cancel)
    {
        if (path != Standard)
        {
            await File.WriteAllBytesAsync(path, content, cancel);
            return;
        }

        await using var output = Console.OpenStandardOutput();
        await output.WriteAsync(content, cancel);
    }
}
