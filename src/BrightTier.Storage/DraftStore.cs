using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Drafts and their histories.</summary>
public sealed class DraftStore(IDbContextFactory<StorageContext> contexts)
{
    public async Task<DraftRow?> Find(string kind, string key, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Drafts.AsNoTracking().FirstOrDefaultAsync(draft => draft.Kind == kind && draft.Key == key, cancel);
    }

    public async Task<IReadOnlyList<DraftRow>> List(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Drafts.AsNoTracking().OrderBy(draft => draft.Kind).ThenBy(draft => draft.Key).ToListAsync(cancel);
    }

    /// <summary>Stores a draft's next revision with the change that led to it.</summary>
    /// <returns>False when the draft has moved on from <paramref name="expected"/> (0: it does not exist yet), and nothing was stored.</returns>
    public async Task<bool> Save(DraftRow draft, long expected, ChangeRow change, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        if (expected == 0)
        {
            if (await context.Drafts.AnyAsync(row => row.Kind == draft.Kind && row.Key == draft.Key, cancel))
            {
                return false;
            }

            context.Drafts.Add(draft);
        }
        else if (await context.Drafts
            .Where(row => row.Kind == draft.Kind && row.Key == draft.Key && row.Revision == expected)
            .ExecuteUpdateAsync(
                set => set.SetProperty(row => row.Revision, draft.Revision).SetProperty(row => row.Content, draft.Content)
                    .SetProperty(row => row.ChangedAt, draft.ChangedAt).SetProperty(row => row.ChangedBy, draft.ChangedBy),
                cancel) == 0)
        {
            return false;
        }

        context.Changes.Add(change);
        try
        {
            await context.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException) when (expected == 0)
        {
            // Somebody else made it at the same moment.
            return false;
        }

        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>The changes that led beyond a revision, oldest first, at most a thousand.</summary>
    public async Task<IReadOnlyList<ChangeRow>> ChangesAfter(string kind, string key, long revision, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Changes.AsNoTracking()
            .Where(change => change.Kind == kind && change.Key == key && change.Revision > revision)
            .OrderBy(change => change.Revision).Take(1_000).ToListAsync(cancel);
    }
}
