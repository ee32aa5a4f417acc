using BrightTier.Service.Audit;
using BrightTier.Service.Events;
using BrightTier.Service.Releases;
using BrightTier.Service.Hosting;
using BrightTier.Storage;

namespace BrightTier.Service.Scheduling;

/// <summary>Does at its time what was set for a time: makes planned releases, and gives to everyone what went to some first. Of several processes the one with the lease does.</summary>
public sealed class ReleaseSchedule(
    ScheduledReleaseStore plans, ReleaseStore store, LeaseStore leases, CurrentRelease releases, ReleasePublisher publishing, Broadcaster broadcaster, AuditTrail audit, Readiness readiness, TimeProvider time, ILogger<ReleaseSchedule> log) : BackgroundService
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
                    await Look(stoppingToken);
                }

                await timer.WaitForNextTickAsync(stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception error) when (Databases.IsOutOfReach(error))
            {
                log.LogWarning("What is set for a time waits, since the database does not answer: {Reason}", error.Message);
                await Task.Delay(Pace, stoppingToken).ContinueWith(_ => { }, CancellationToken.None, TaskContinuationOptions.None, TaskScheduler.Default);
            }
        }
    }

    private async Task Look(CancellationToken cancel)
    {
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        var ahead = await store.FindStaged(cancel);
        var due = await plans.Due(now, cancel);
        if ((ahead?.EveryoneAt is not { } at || at > now) && due.Count == 0)
        {
            return;
        }

        // Only what is due needs the lease: nothing is written while nothing is.
        if (!await leases.Hold(Lease, own, Length, cancel))
        {
            return;
        }

        if (ahead is { EveryoneAt: { } everyoneAt } && everyoneAt <= now)
        {
            await publishing.End(ahead.Release, everyone: true, new Auth.Author(ahead.ChangedBy, null), cancel);
        }

        foreach (var plan in due)
        {
            await Carry(plan, cancel);
        }
    }

    private async Task Carry(ScheduledReleaseRow plan, CancellationToken cancel)
    {
        if (releases.Active.Ahead is { } ahead)
        {
            var reason = $"waits for release {ahead.Snapshot.Number}, which is out to some alone";
            if (plan.Reason != reason)
            {
                await Become(plan, ScheduledReleaseRow.Scheduled, reason, cancel);
            }

            return;
        }

        // It may have been called off since it was read.
        if ((await plans.Find(plan.Id, cancel))?.State != ScheduledReleaseRow.Scheduled)
        {
            return;
        }

        try
        {
            await publishing.Carry(plan, cancel);
            Tell(plan, ScheduledReleaseRow.Published);
        }
        catch (RefusedException refused) when (refused.Code == "release-between")
        {
            // Somebody published at this moment, or called it off: looked at again in a second.
        }
        catch (RefusedException refused)
        {
            log.LogWarning("The release planned by {Person} as {Plan} was not made: {Reason}", plan.By, plan.Id, refused.Message);
            await Become(plan, ScheduledReleaseRow.Failed, refused.Message, cancel);
            await audit.Note(plan.By, "plan.failed", $"scheduled-release/{plan.Id}", new { reason = refused.Message }, cancel);
        }
    }

    private async Task Become(ScheduledReleaseRow plan, string state, string reason, CancellationToken cancel)
    {
        await plans.Become(plan.Id, state, reason, null, cancel);
        Tell(plan, state);
    }

    private void Tell(ScheduledReleaseRow plan, string state) =>
        broadcaster.Tell("scheduled-release", System.Text.Json.JsonSerializer.Serialize(new { plan = plan.Id, state }), forConfigurators: true);
}
