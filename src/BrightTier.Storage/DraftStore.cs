using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>All drafts, as far as it tells whether any of them is another one than before.</summary>
public sealed record DraftTally(int Count, long Revisions);

/// <summary>A draft without what it holds.</summary>
public sealed record DraftSummary(string Kind, string Key, long Revision, long? Published, long ChangedAt, string ChangedBy);

/// <summary>Where a draft is.</summary>
public sealed record DraftHead(string Kind, string Key, long Revision);

/// <summary>Drafts and their histories.</summary>
public sealed class DraftStore(IDbContextFactory<StorageContext> contexts)
{
    public async Task<DraftRow?> Find(string kind, string key, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Drafts.AsNoTracking().FirstOrDefaultAsync(draft => draft.Kind == kind && draft.Key == key, cancel);
    }

    /// <summary>How many drafts there are, and the sum of their revisions: another one once any of them is another.</summary>
    public async Task<DraftTally> State(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Drafts.GroupBy(_ => 1)
            .Select(all => new DraftTally(all.Count(), all.Sum(draft => draft.Revision)))
            .SingleOrDefaultAsync(cancel)
            ?? new DraftTally(0, 0);
    }

    /// <summary>The revision each draft is at, without what it holds.</summary>
    public async Task<IReadOnlyList<DraftHead>> Heads(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Drafts.Select(draft => new DraftHead(draft.Kind, draft.Key, draft.Revision)).ToListAsync(cancel);
    }

    /// <summary>What is known of each draft without what it holds, in the order of their kinds and keys.</summary>
    /// <param name="kind">The one kind asked for; null for all.</param>
    /// <param name="after">The key after which they begin.</param>
    /// <param name="limit">How many at most.</param>
    public async Task<IReadOnlyList<DraftSummary>> Summaries(string? kind, string? after, int limit, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Drafts.Where(draft => (kind == null || draft.Kind == kind) && (after == null || string.Compare(draft.Key, after) > 0))
            .OrderBy(draft => draft.Kind)
            .ThenBy(draft => draft.Key)
            .Take(limit)
            .Select(draft => new DraftSummary(draft.Kind, draft.Key, draft.Revision, draft.Published, draft.ChangedAt, draft.ChangedBy))
            .ToListAsync(cancel);
    }

    /// <summary>Some drafts of a kind.</summary>
    public async Task<IReadOnlyList<DraftRow>> Find(string kind, IReadOnlyList<string> keys, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Drafts.AsNoTracking().Where(draft => draft.Kind == kind && keys.Contains(draft.Key)).ToListAsync(cancel);
    }

    public async Task<IReadOnlyList<DraftRow>> List(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Drafts.AsNoTracking().OrderBy(draft => draft.Kind).ThenBy(draft => draft.Key).ToListAsync(cancel);
    }

    /// <summary>Stores a draft's next revision with the change that led to it and what the audit log says of it.</summary>
    /// <returns>False when the draft has moved on from the revision before (0: it does not exist yet), and nothing was stored.</returns>
    public Task<bool> Save(DraftRow draft, ChangeRow change, AuditEntryRow told, CancellationToken cancel) =>
        Save([(draft, change, told)], cancel);

    /// <summary>
    /// Stores the next revisions of several drafts, each with the change that led to it and what the audit log says of it, all or none.
    /// </summary>
    /// <returns>False when one has moved on from the revision before, and nothing was stored.</returns>
    public async Task<bool> Save(IReadOnlyList<(DraftRow Draft, ChangeRow Change, AuditEntryRow Told)> all, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        foreach (var (draft, change, _) in all)
        {
            var expected = draft.Revision - 1;
            if (expected == 0)
            {
                context.Drafts.Add(draft);
            }
            else if (
                await context
                    .Drafts.Where(row => row.Kind == draft.Kind && row.Key == draft.Key && row.Revision == expected)
                    .ExecuteUpdateAsync(
                        set =>
                            set.SetProperty(row => row.Revision, draft.Revision)
                                .SetProperty(row => row.Content, draft.Content)
                                .SetProperty(row => row.ChangedAt, draft.ChangedAt)
                                .SetProperty(row => row.ChangedBy, draft.ChangedBy),
                        cancel
                    ) == 0
            )
            {
                return false;
            }

            context.Changes.Add(change);
        }

        try
        {
            await AuditStore.Append(context, all.Select(each => each.Told), cancel);
            await context.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException) when (all.Any(each => each.Draft.Revision == 1))
        {
            // Somebody else made it at the same moment.
            return false;
        }

        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>The changes that led beyond a revision, oldest first; of very many the newest thousand.</summary>
    public async Task<IReadOnlyList<ChangeRow>> ChangesAfter(string kind, string key, long revision, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var newest = await context
            .Changes.AsNoTracking()
            .Where(change => change.Kind == kind && change.Key == key && change.Revision > revision)
            .OrderByDescending(change => change.Revision)
            .Take(1_000)
            .ToListAsync(cancel);
        newest.Reverse();
        return newest;
    }

    /// <summary>Who changed a draft beyond a revision, by their ids.</summary>
    public async Task<IReadOnlyList<string>> AuthorsSince(string kind, string key, long revision, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Changes.Where(change => change.Kind == kind && change.Key == key && change.Revision > revision)
            .Select(change => change.By)
            .Distinct()
            .OrderBy(by => by)
            .ToListAsync(cancel);
    }

    /// <summary>A change by what its sender called it, if it is one of those beyond a revision.</summary>
    public async Task<ChangeRow?> ChangeSent(string kind, string key, string sent, long revision, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Changes.AsNoTracking()
            .FirstOrDefaultAsync(
                change => change.Kind == kind && change.Key == key && change.Revision > revision && change.IdempotencyKey == sent,
                cancel
            );
    }

    /// <summary>The revision at which a draft was released with a text; null where it never was.</summary>
    public async Task<long?> ReleasedRevision(string kind, string key, string hash, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .ReleaseDocuments.Where(document => document.Kind == kind && document.Key == key && document.Hash == hash)
            .MaxAsync(document => document.Revision, cancel);
    }
}
