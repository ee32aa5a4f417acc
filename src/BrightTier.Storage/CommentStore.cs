using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>What people say about records and drafts, and who is told.</summary>
public sealed class CommentStore(IDbContextFactory<StorageContext> contexts, TimeProvider time)
{
    /// <summary>All about one subject, oldest first.</summary>
    public async Task<IReadOnlyList<CommentRow>> About(string subject, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Comments.AsNoTracking().Where(row => row.Subject == subject).OrderBy(row => row.Id).ToListAsync(cancel);
    }

    public async Task<CommentRow> Add(
        string subject,
        string? item,
        string by,
        string text,
        IEnumerable<string> mentioned,
        CancellationToken cancel
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var comment = new CommentRow
        {
            Subject = subject,
            Item = item,
            By = by,
            At = time.GetUtcNow().ToUnixTimeMilliseconds(),
            Text = text,
        };
        context.Comments.Add(comment);
        await context.SaveChangesAsync(cancel);
        context.Mentions.AddRange(mentioned.Select(person => new MentionRow { Person = person, Comment = comment.Id }));
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return comment;
    }

    /// <summary>The comments in which a person is named and which she has not seen, newest first, at most 50.</summary>
    public async Task<IReadOnlyList<CommentRow>> Unseen(string person, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Mentions.AsNoTracking()
            .Where(mention => mention.Person == person && !mention.Seen)
            .Join(context.Comments, mention => mention.Comment, comment => comment.Id, (_, comment) => comment)
            .OrderByDescending(comment => comment.Id)
            .Take(50)
            .ToListAsync(cancel);
    }

    /// <summary>From now on she has seen what is said about a subject.</summary>
    public async Task See(string person, string subject, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context
            .Mentions.Where(mention =>
                mention.Person == person
                && !mention.Seen
                && context.Comments.Any(comment => comment.Id == mention.Comment && comment.Subject == subject)
            )
            .ExecuteUpdateAsync(set => set.SetProperty(mention => mention.Seen, true), cancel);
    }

    public async Task<CommentRow?> Find(long id, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Comments.AsNoTracking().FirstOrDefaultAsync(row => row.Id == id, cancel);
    }

    /// <summary>Says that what a comment asks for is done, or, with nobody, that it is open again.</summary>
    public async Task Resolve(long id, string? by, CancellationToken cancel)
    {
        var at = by is null ? null : (long?)time.GetUtcNow().ToUnixTimeMilliseconds();
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context
            .Comments.Where(row => row.Id == id)
            .ExecuteUpdateAsync(set => set.SetProperty(row => row.ResolvedAt, at).SetProperty(row => row.ResolvedBy, by), cancel);
    }

    /// <summary>How many open comments each subject that begins so has.</summary>
    public async Task<IReadOnlyDictionary<string, int>> Open(string prefix, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Comments.AsNoTracking()
            .Where(row => row.Subject.StartsWith(prefix) && row.ResolvedAt == null)
            .GroupBy(row => row.Subject)
            .Select(group => new { group.Key, Count = group.Count() })
            .ToDictionaryAsync(group => group.Key, group => group.Count, cancel);
    }
}
