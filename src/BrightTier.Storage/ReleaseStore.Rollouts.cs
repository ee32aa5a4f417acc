using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

// Releases that only some have.
public sealed partial class ReleaseStore
{
    /// <summary>The release that some have ahead of the others, if there is one.</summary>
    public async Task<RolloutRow?> FindStaged(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Rollouts.AsNoTracking().FirstOrDefaultAsync(rollout => rollout.State == RolloutRow.Staged, cancel);
    }

    public async Task<IReadOnlyList<RolloutRow>> Rollouts(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Rollouts.AsNoTracking().ToListAsync(cancel);
    }

    /// <summary>Gives the release that some have ahead to more; false when it is not ahead any more, or as many have it.</summary>
    public async Task<bool> Widen(long number, int share, AuditEntryRow told, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        if (
            await context
                .Rollouts.Where(rollout => rollout.Release == number && rollout.State == RolloutRow.Staged && rollout.Share < share)
                .ExecuteUpdateAsync(set => set.SetProperty(rollout => rollout.Share, share), cancel) == 0
        )
        {
            return false;
        }

        await AuditStore.Append(context, [told], cancel);
        await context.SaveChangesAsync(cancel);
        await Announce(context, number, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>
    /// Gives the release that some have ahead to everyone, or takes it back from them; false when it is not ahead any more.
    /// </summary>
    /// <param name="state">promoted, cancelled or stopped.</param>
    /// <param name="reason">Why it is stopped.</param>
    public async Task<bool> End(
        long number,
        string state,
        string? reason,
        AuditEntryRow told,
        Action beforeCommit,
        CancellationToken cancel
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        if (
            await context
                .Rollouts.Where(rollout => rollout.Release == number && rollout.State == RolloutRow.Staged)
                .ExecuteUpdateAsync(
                    set =>
                        set.SetProperty(rollout => rollout.State, state)
                            .SetProperty(rollout => rollout.Reason, reason)
                            .SetProperty(rollout => rollout.ChangedAt, told.At)
                            .SetProperty(rollout => rollout.ChangedBy, told.By),
                    cancel
                ) == 0
        )
        {
            return false;
        }

        await AuditStore.Append(context, [told], cancel);
        await context.SaveChangesAsync(cancel);
        await context.ActiveReleases.Where(pointer => pointer.Name == Staged).ExecuteDeleteAsync(cancel);
        if (state == RolloutRow.Promoted)
        {
            await context
                .ActiveReleases.Where(pointer => pointer.Name == Current)
                .ExecuteUpdateAsync(set => set.SetProperty(pointer => pointer.Release, number), cancel);
            await MarkPublished(context, number, cancel);
        }

        await Announce(context, number, cancel);
        beforeCommit();
        await transaction.CommitAsync(cancel);
        return true;
    }
}
