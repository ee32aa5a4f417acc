using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Who said that which draft is fit to be published.</summary>
public sealed class ApprovalStore(IDbContextFactory<StorageContext> contexts)
{
    public async Task<IReadOnlyList<ApprovalRow>> List(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        // Of each draft what was said of it as it is now.
        return await context
            .Approvals.AsNoTracking()
            .Where(approval =>
                context.Drafts.Any(draft => draft.Kind == approval.Kind && draft.Key == approval.Key && draft.Revision == approval.Revision)
            )
            .OrderBy(approval => approval.At)
            .ToListAsync(cancel);
    }

    public async Task Save(ApprovalRow approval, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        if (
            !await context.Approvals.AnyAsync(
                row => row.Kind == approval.Kind && row.Key == approval.Key && row.Revision == approval.Revision && row.By == approval.By,
                cancel
            )
        )
        {
            context.Approvals.Add(approval);
            await context.SaveChangesAsync(cancel);
        }
    }

    public async Task<bool> Withdraw(string kind, string key, long revision, string by, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
                .Approvals.Where(row => row.Kind == kind && row.Key == key && row.Revision == revision && row.By == by)
                .ExecuteDeleteAsync(cancel) > 0;
    }

    /// <summary>The drafts somebody changed since they were published.</summary>
    public async Task<IReadOnlyList<(string Kind, string Key)>> ChangedBy(string person, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var rows = await context
            .Drafts.AsNoTracking()
            .Where(draft =>
                context.Changes.Any(change =>
                    change.Kind == draft.Kind && change.Key == draft.Key && change.Revision > (draft.Published ?? 0) && change.By == person
                )
            )
            .OrderBy(draft => draft.Kind)
            .ThenBy(draft => draft.Key)
            .Select(draft => new { draft.Kind, draft.Key })
            .ToListAsync(cancel);
        return [.. rows.Select(row => (row.Kind, row.Key))];
    }

    /// <summary>Everyone who changed a draft after a revision, up to another.</summary>
    public async Task<IReadOnlyList<string>> Authors(string kind, string key, long after, long upTo, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Changes.AsNoTracking()
            .Where(change => change.Kind == kind && change.Key == key && change.Revision > after && change.Revision <= upTo)
            .Select(change => change.By)
            .Distinct()
            .ToListAsync(cancel);
    }
}
