using BrightTier.Contracts;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Hosting;
using BrightTier.Storage;

namespace BrightTier.Service.Events;

/// <summary>How many open clients have said that they drew a release; of all processes together, where there are several.</summary>
public sealed class Adoption(Broadcaster broadcaster, PresenceStore presence, Readiness readiness, IServiceProvider services)
    : BackgroundService,
        IOpenClients
{
    private static readonly TimeSpan Pace = TimeSpan.FromMilliseconds(500);

    /// <summary>How often a process says what it has although nothing changed, so that it is believed.</summary>
    private static readonly TimeSpan Reminder = TimeSpan.FromSeconds(10);

    private readonly string own = Guid.NewGuid().ToString("N")[..12];

    private bool IsAlone => services.GetService<PostgresBackplane>() is null;

    public async Task<AdoptionInfo> Of(long release, CancellationToken cancel)
    {
        var here = broadcaster.Drawn();
        var others = IsAlone ? [] : await presence.Others(own, cancel);
        return new AdoptionInfo(
            release,
            broadcaster.Open + (int)others.Where(row => row.Release == 0).Sum(row => row.Clients),
            here.GetValueOrDefault(release) + (int)others.Where(row => row.Release == release).Sum(row => row.Clients)
        );
    }

    public async Task<int> Count(CancellationToken cancel) => (await Of(0, cancel)).Open;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (IsAlone)
        {
            return;
        }

        string? said = null;
        var at = DateTimeOffset.MinValue;
        while (!stoppingToken.IsCancellationRequested)
        {
            var counts = broadcaster.Drawn();
            counts[0] = broadcaster.Open;
            var now = string.Join(' ', counts.OrderBy(count => count.Key));
            try
            {
                if (readiness.IsReady && (now != said || DateTimeOffset.UtcNow - at > Reminder))
                {
                    await presence.Report(own, counts, stoppingToken);
                    (said, at) = (now, DateTimeOffset.UtcNow);
                }

                await Task.Delay(Pace, stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception error) when (DatabaseErrors.IsOutOfReach(error))
            {
                // Said again when the database answers.
                said = null;
                await Task.Delay(Pace, CancellationToken.None);
            }
        }
    }
}
