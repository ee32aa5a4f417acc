using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Scheduling;

/// <summary>
/// Makes scheduled releases when their time has come, and promotes those that went to some roles first. Of several processes the one with
/// the lease does.
/// </summary>
public sealed class ReleaseSchedule(
    ScheduledReleaseStore scheduled,
    ReleaseStore store,
    LeaseStore leases,
    CurrentRelease releases,
    ReleasePublisher publisher,
    Broadcaster broadcaster,
    AuditStore audit,
    Readiness readiness,
    TimeProvider time,
    ILogger<ReleaseSchedule> log
) : BackgroundService
{
    private const string Lease = "timed-releases";

    private static readonly TimeSpan Pace = TimeSpan.FromSeconds(1);

    /// <summary>Longer than any release takes; a process that dies with the lease holds the others up no longer.</summary>
    private static readonly TimeSpan Length = TimeSpan.FromSeconds(20);

    private readonly string own = Guid.NewGuid().ToString("N")[..12];

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pace, time);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                if (readiness.IsReady)
                {
                    await ExecuteDue(stoppingToken);
                }

                await timer.WaitForNextTickAsync(stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception error) when (DatabaseErrors.IsOutOfReach(error))
            {
                log.LogWarning("Scheduled releases wait, since the database does not answer: {Reason}", error.Message);
                await Task.Delay(Pace, stoppingToken)
                    .ContinueWith(_ => { }, CancellationToken.None, TaskContinuationOptions.None, TaskScheduler.Default);
            }
        }
    }

    private async Task ExecuteDue(CancellationToken cancel)
    {
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        var staged = await store.FindStaged(cancel);
        var due = await scheduled.Due(now, cancel);
        if ((staged?.EveryoneAt is not { } at || at > now) && due.Count == 0)
        {
            return;
        }

        // Only what is due needs the lease: nothing is written while nothing is.
        if (!await leases.Hold(Lease, own, Length, cancel))
        {
            return;
        }

        if (staged is { EveryoneAt: { } everyoneAt } && everyoneAt <= now)
        {
            await publisher.EndRollout(staged.Release, everyone: true, new Author(staged.ChangedBy, null), cancel);
        }

        foreach (var release in due)
        {
            await Execute(release, cancel);
        }
    }

    private async Task Execute(ScheduledReleaseRow release, CancellationToken cancel)
    {
        if (releases.Active.Staged is { } staged)
        {
            var reason = $"waits for release {staged.Snapshot.Number}, which is out to some roles alone";
            if (release.Reason != reason)
            {
                await Become(release, ScheduledReleaseRow.Scheduled, reason, cancel);
            }

            return;
        }

        // It may have been cancelled since it was read.
        if ((await scheduled.Find(release.Id, cancel))?.State != ScheduledReleaseRow.Scheduled)
        {
            return;
        }

        try
        {
            await publisher.Execute(release, cancel);
            Publish(release, ScheduledReleaseRow.Published);
        }
        catch (RefusedException refused) when (refused.Code == "release-between")
        {
            // Somebody published at this moment, or cancelled it: looked at again in a second.
        }
        catch (RefusedException refused)
        {
            log.LogWarning(
                "The release scheduled by {Person} as {Scheduled} was not made: {Reason}",
                release.By,
                release.Id,
                refused.Message
            );
            await Become(release, ScheduledReleaseRow.Failed, refused.Message, cancel);
            await audit.Note(
                release.By,
                "release.schedule-failed",
                $"scheduled-release/{release.Id}",
                new { reason = refused.Message },
                cancel
            );
        }
    }

    private async Task Become(ScheduledReleaseRow release, string state, string reason, CancellationToken cancel)
    {
        await scheduled.Become(release.Id, state, reason, null, cancel);
        Publish(release, state);
    }

    private void Publish(ScheduledReleaseRow release, string state) =>
        broadcaster.Publish(
            "scheduled-release",
            System.Text.Json.JsonSerializer.Serialize(new { id = release.Id, state }),
            forConfigurators: true
        );
}
