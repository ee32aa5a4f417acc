using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Releases to be made at a set time.</summary>
public sealed class ScheduledReleaseStore(IDbContextFactory<StorageContext> contexts)
{
    /// <summary>Plans, newest first, at most 200.</summary>
    public async Task<IReadOnlyList<ScheduledReleaseRow>> List(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .ScheduledReleases.AsNoTracking()
            .Include(plan => plan.Documents)
            .OrderByDescending(plan => plan.Id)
            .Take(200)
            .ToListAsync(cancel);
    }

    public async Task<ScheduledReleaseRow?> Find(long id, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .ScheduledReleases.AsNoTracking()
            .Include(plan => plan.Documents)
            .FirstOrDefaultAsync(plan => plan.Id == id, cancel);
    }

    /// <summary>The plans whose time has come, oldest first.</summary>
    public async Task<IReadOnlyList<ScheduledReleaseRow>> Due(long now, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .ScheduledReleases.AsNoTracking()
            .Include(plan => plan.Documents)
            .Where(plan => plan.State == ScheduledReleaseRow.Scheduled && plan.Due <= now)
            .OrderBy(plan => plan.Due)
            .ThenBy(plan => plan.Id)
            .ToListAsync(cancel);
    }

    public async Task Add(ScheduledReleaseRow plan, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        context.ScheduledReleases.Add(plan);
        await context.SaveChangesAsync(cancel);
    }

    /// <summary>Changes what became of a plan that waits; false when it does not wait any more.</summary>
    public async Task<bool> Become(long id, string state, string? reason, long? release, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await Become(context, id, state, reason, release, cancel);
    }

    internal static async Task<bool> Become(
        StorageContext context,
        long id,
        string state,
        string? reason,
        long? release,
        CancellationToken cancel
    ) =>
        await context
            .ScheduledReleases.Where(plan => plan.Id == id && plan.State == ScheduledReleaseRow.Scheduled)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(plan => plan.State, state)
                        .SetProperty(plan => plan.Reason, reason)
                        .SetProperty(plan => plan.Release, release),
                cancel
            ) == 1;

    /// <summary>The texts of a plan's documents.</summary>
    public async Task<IReadOnlyDictionary<string, string>> Texts(ScheduledReleaseRow plan, CancellationToken cancel)
    {
        var hashes = plan.Documents.Select(document => document.Hash).ToArray();
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Contents.AsNoTracking()
            .Where(content => hashes.Contains(content.Hash))
            .ToDictionaryAsync(content => content.Hash, content => content.Text, cancel);
    }
}
