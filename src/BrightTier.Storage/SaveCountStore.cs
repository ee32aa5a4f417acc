using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>What saving came to with each release, entity by entity.</summary>
public sealed class SaveCountStore(IDbContextFactory<StorageContext> contexts)
{
    /// <summary>Adds to what was counted, in one transaction.</summary>
    public async Task Add(IEnumerable<SaveCountRow> more, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        // In one order, so that of two processes that count the same neither waits for the other.
        foreach (var row in more.OrderBy(row => row.Release).ThenBy(row => row.Entity, StringComparer.Ordinal))
        {
            await context.Database.ExecuteSqlAsync(
                $"""
                INSERT INTO save_count ("Release", "Entity", "Saved", "Failed")
                VALUES ({row.Release}, {row.Entity}, {row.Saved}, {row.Failed})
                ON CONFLICT ("Release", "Entity") DO UPDATE
                SET "Saved" = save_count."Saved" + excluded."Saved", "Failed" = save_count."Failed" + excluded."Failed"
                """,
                cancel
            );
        }

        await transaction.CommitAsync(cancel);
    }

    /// <summary>What was counted with some releases.</summary>
    public async Task<IReadOnlyList<SaveCountRow>> Of(IReadOnlyCollection<long> releases, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.SaveCounts.AsNoTracking().Where(count => releases.Contains(count.Release)).ToListAsync(cancel);
    }
}
