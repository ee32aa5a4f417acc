using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Scheduling;

/// <summary>
/// Makes scheduled releases when their time has come, widens those that went to some first, and takes them back where saves with them fail.
/// Of several processes the one with the lease does.
/// </summary>
public sealed class ReleaseSchedule(
    ScheduledReleaseStore scheduled,
    ReleaseStore store,
    LeaseStore leases,
    CurrentRelease releases,
    ReleasePublisher publisher,
    SaveCounts counts,
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
        var share = staged is null ? null : Due(staged, now);
        var failed = staged is null ? null : await Failed(staged, cancel);
        var due = await scheduled.Due(now, cancel);
        if (share is null && failed is null && due.Count == 0)
        {
            return;
        }

        // Only what is due needs the lease: nothing is written while nothing is.
        if (!await leases.Hold(Lease, own, Length, cancel))
        {
            return;
        }

        if (staged is not null)
        {
            await Move(staged, share, failed, cancel);
        }

        foreach (var release in due)
        {
            await Execute(release, cancel);
        }
    }

    /// <summary>The share a staged release has come to by its steps; null where it has it already.</summary>
    private static int? Due(RolloutRow staged, long now) =>
        Audience
            .Read(staged.Terms)
            .Steps?.Where(step => step.At.ToUnixTimeMilliseconds() <= now && step.Share > staged.Share)
            .Max(step => (int?)step.Share);

    /// <summary>What was counted, where it is to be taken back for it.</summary>
    private async Task<FailedSaves?> Failed(RolloutRow staged, CancellationToken cancel)
    {
        var active = releases.Active;
        if (active.Staged?.Snapshot is not { } next || next.Number != staged.Release || !active.Staged.Audience.Terms.Stops)
        {
            return null;
        }

        var found = await counts.Compare(next.Number, active.Everyone.Number, SaveCounts.Concerned(active.Everyone, next), cancel);
        return found.AreMarked ? found : null;
    }

    /// <summary>Takes a staged release back, or gives it to more. Somebody else may have ended it since.</summary>
    private async Task Move(RolloutRow staged, int? share, FailedSaves? failed, CancellationToken cancel)
    {
        var by = new Author(staged.ChangedBy, null);
        try
        {
            if (failed is not null)
            {
                log.LogWarning("Release {Release} is taken back: {Found}", staged.Release, failed.Told.English);
                await publisher.Stop(staged.Release, failed, by, cancel);
            }
            else if (share == 100)
            {
                await publisher.Promote(staged.Release, by, cancel);
            }
            else if (share is { } more)
            {
                await publisher.Widen(staged.Release, more, by, cancel);
            }
        }
        catch (RefusedException refused) when (refused.Code == "not-staged")
        {
            log.LogInformation("Release {Release} was ended by somebody at this moment", staged.Release);
        }
    }

    private async Task Execute(ScheduledReleaseRow release, CancellationToken cancel)
    {
        if (releases.Active.Staged is { } staged)
        {
            var reason = $"waits for release {staged.Snapshot.Number}, which is out to some people alone";
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
            JsonSerializer.Serialize(new ScheduledReleaseEvent(release.Id, state), WireJson.Default.ScheduledReleaseEvent),
            forConfigurators: true
        );
}
