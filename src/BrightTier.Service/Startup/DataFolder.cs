using BrightTier.Service.Hosting;

namespace BrightTier.Service.Startup;

/// <summary>
/// The data folder, taken for one service: two on one folder would each serve what it knows. Let go of with the other services of the host,
/// and by the system however the process ends.
/// </summary>
public sealed class DataFolder : IHostedService, IDisposable
{
    private const string InUse = "in-use";
    private readonly FileStream held;

    private DataFolder(FileStream held) => this.held = held;

    /// <summary>Takes the folder of the configuration; else what stands against it.</summary>
    public static (DataFolder? Folder, string? Problem) Open(IConfiguration configuration)
    {
        var folder = configuration["Data"] ?? configuration[$"{ServiceOptions.Section}:Data"] ?? new ServiceOptions().Data;
        try
        {
            Keep(folder);
            var hold = new FileStream(Path.Combine(folder, InUse), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
            hold.SetLength(0);
            hold.Write(
                System.Text.Encoding.ASCII.GetBytes(Environment.ProcessId.ToString(System.Globalization.CultureInfo.InvariantCulture))
            );
            hold.Flush();
            return (new DataFolder(hold), null);
        }
        catch (UnauthorizedAccessException error)
        {
            return (null, $"the data folder '{folder}' cannot be written: {error.Message}");
        }
        catch (IOException error)
        {
            return (
                null,
                File.Exists(Path.Combine(folder, InUse))
                && !error.Message.Contains("space", StringComparison.OrdinalIgnoreCase)
                && !error.Message.Contains("Read-only", StringComparison.OrdinalIgnoreCase)
                    ? $"another service uses the data folder '{folder}'. End it first, or name another folder with --Data; "
                        + $"several services share one PostgreSQL (--Database)."
                    : $"the data folder '{folder}' cannot be used: {error.Message}"
            );
        }
    }

    /// <summary>What is in it is for the service's own user: the folder lets nobody else at this machine in.</summary>
    private static void Keep(string folder)
    {
        if (OperatingSystem.IsWindows())
        {
            throw new PlatformNotSupportedException("The service runs on Linux.");
        }

        const UnixFileMode own = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
        const UnixFileMode others = UnixFileMode.OtherRead | UnixFileMode.OtherWrite | UnixFileMode.OtherExecute;
        var mode = Directory.Exists(folder) ? File.GetUnixFileMode(folder) : UnixFileMode.None;
        if (mode is UnixFileMode.None)
        {
            Directory.CreateDirectory(folder, own);
        }
        else if ((mode & others) != UnixFileMode.None)
        {
            File.SetUnixFileMode(folder, mode & ~others);
        }
    }

    public Task StartAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public void Dispose() => held.Dispose();
}
