namespace BrightTier.Cli.Invocation;

/// <summary>
/// Reads what nobody should see: without showing it in a terminal, as one line from a pipe. Never from the command line, which others can
/// list.
/// </summary>
internal static class Secrets
{
    /// <summary>A file with secrets, made anew for its owner alone.</summary>
    public static FileStream Create(string path)
    {
        var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows())
        {
            options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        }

        return new FileStream(path, options);
    }

    /// <exception cref="UsageException">A pipe has no line.</exception>
    public static string Read(string prompt) =>
        Next(prompt) ?? throw new UsageException("There is no password to read: give it as one line of the input.");

    /// <returns>Null where a pipe has no further line.</returns>
    public static string? Next(string prompt)
    {
        if (Console.IsInputRedirected)
        {
            return Console.In.ReadLine();
        }

        Console.Error.Write(prompt);
        var typed = new System.Text.StringBuilder();
        for (var key = Console.ReadKey(intercept: true); key.Key != ConsoleKey.Enter; key = Console.ReadKey(intercept: true))
        {
            if (key.Key == ConsoleKey.Backspace)
            {
                typed.Length = Math.Max(0, typed.Length - 1);
            }
            else if (!char.IsControl(key.KeyChar))
            {
                typed.Append(key.KeyChar);
            }
        }

        Console.Error.WriteLine();
        return typed.ToString();
    }
}
