using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>How many open clients each process has, and which releases they have drawn.</summary>
public sealed class PresenceStore(IDbContextFactory<StorageContext> contexts, TimeProvider time)
{
    /// <summary>How long what a process said of itself is believed.</summary>
    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(30);

    /// <summary>Says anew what a process has; 0 stands for all its clients.</summary>
    public async Task Report(string process, IReadOnlyDictionary<long, int> counts, CancellationToken cancel)
    {
        var at = time.GetUtcNow().ToUnixTimeMilliseconds();
        var old = at - (long)Believed.TotalMilliseconds;
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        await context.Presences.Where(row => row.Process == process || row.At < old).ExecuteDeleteAsync(cancel);
        context.Presences.AddRange(
            counts.Select(count => new PresenceRow
            {
                Process = process,
                Release = count.Key,
                Clients = count.Value,
                At = at,
            })
        );
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>All that the other processes said lately.</summary>
    public async Task<IReadOnlyList<PresenceRow>> Others(string process, CancellationToken cancel)
    {
        var old = time.GetUtcNow().Subtract(Believed).ToUnixTimeMilliseconds();
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Presences.AsNoTracking().Where(row => row.Process != process && row.At >= old).ToListAsync(cancel);
    }
}
