using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Startup;

/// <summary>
/// What is done now and then: seeing that the data folder can still be written, and removing sessions and tokens that have expired.
/// </summary>
public sealed class Maintenance(
    PeopleStore people,
    Readiness readiness,
    IServiceProvider services,
    IOptions<ServiceOptions> options,
    ILogger<Maintenance> log
) : BackgroundService
{
    private static readonly TimeSpan Pace = TimeSpan.FromSeconds(3);
    private static readonly TimeSpan Removal = TimeSpan.FromHours(1);

    /// <summary>As much as one save may need: a disk with less than this is full.</summary>
    private const int Room = 256 * 1024;

    private volatile string? unwritable;

    /// <summary>Why nothing can be saved, where documents and records lie in files; null while it can.</summary>
    public string? Unwritable => unwritable;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var inFiles = services.GetService<PostgresBackplane>() is null;
        var removed = DateTimeOffset.MinValue;
        using var timer = new PeriodicTimer(Pace);
        while (await Next(timer, stoppingToken))
        {
            if (!readiness.IsReady)
            {
                continue;
            }

            if (inFiles)
            {
                Probe();
            }

            if (DateTimeOffset.UtcNow - removed > Removal)
            {
                try
                {
                    await people.RemoveExpired(stoppingToken);
                    removed = DateTimeOffset.UtcNow;
                }
                catch (Exception error) when (DatabaseErrors.IsOutOfReach(error))
                {
                    // Tried again when the database answers.
                }
                catch (OperationCanceledException)
                {
                    return;
                }
            }
        }
    }

    /// <summary>Writes beside the databases what a save would need room for.</summary>
    private void Probe()
    {
        var file = Path.Combine(options.Value.Data, "probe");
        string? found = null;
        try
        {
            File.WriteAllBytes(file, new byte[Room]);
            File.Delete(file);
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            found = error.Message;
        }

        if (found is not null && unwritable is null)
        {
            log.LogError("The data folder cannot be written, so that nothing is saved: {Reason} Forms are served on.", found);
        }
        else if (found is null && unwritable is not null)
        {
            log.LogInformation("The data folder can be written again.");
        }

        unwritable = found;
    }

    private static async Task<bool> Next(PeriodicTimer timer, CancellationToken stop)
    {
        try
        {
            return await timer.WaitForNextTickAsync(stop);
        }
        catch (OperationCanceledException)
        {
            return false;
        }
    }
}
