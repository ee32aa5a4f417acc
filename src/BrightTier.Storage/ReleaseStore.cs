using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>A document's text in a release.</summary>
public sealed record ReleasedText(string Kind, string Key, string Hash, string Text);

/// <summary>Releases: numbered, immutable, content-addressed. One row, the pointer, says which is current.</summary>
public sealed class ReleaseStore(IDbContextFactory<StorageContext> contexts)
{
    private const string Current = "current";

    public static string HashOf(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    /// <summary>The current release's number; 0 before the first.</summary>
    public async Task<long> CurrentNumber(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Pointers.Where(pointer => pointer.Name == Current).Select(pointer => pointer.Release).FirstOrDefaultAsync(cancel);
    }

    public async Task<IReadOnlyList<ReleaseRow>> List(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Releases.AsNoTracking().Include(release => release.Documents).OrderByDescending(release => release.Number).ToListAsync(cancel);
    }

    public async Task<ReleaseRow?> Find(long number, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Releases.AsNoTracking().Include(release => release.Documents).FirstOrDefaultAsync(release => release.Number == number, cancel);
    }

    public async Task<IReadOnlyList<ReleasedText>> Texts(long number, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await (
            from document in context.ReleaseDocuments.AsNoTracking()
            where document.Release == number
            join content in context.Contents on document.Hash equals content.Hash
            select new ReleasedText(document.Kind, document.Key, document.Hash, content.Text)).ToListAsync(cancel);
    }

    /// <summary>Stores texts under their hashes. Doing it again, or doing it for a release that never comes about, harms nothing.</summary>
    public async Task StoreContents(IEnumerable<string> texts, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        foreach (var text in texts)
        {
            var hash = HashOf(text);
            if (!await context.Contents.AnyAsync(content => content.Hash == hash, cancel))
            {
                context.Contents.Add(new ContentRow { Hash = hash, Text = text });
            }
        }

        await context.SaveChangesAsync(cancel);
    }

    /// <summary>Writes a release, marks the drafts it publishes, and moves the pointer: one transaction.</summary>
    /// <param name="beforeCommit">Called when all is written and nothing committed.</param>
    /// <returns>False when another release came between, and nothing was written.</returns>
    public async Task<bool> Publish(ReleaseRow release, long previous, IReadOnlyList<(string Kind, string Key, long Revision)> drafts, Action beforeCommit, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var moved = previous == 0
            ? await FirstPointer(context, release.Number, cancel)
            : await context.Pointers.Where(pointer => pointer.Name == Current && pointer.Release == previous)
                .ExecuteUpdateAsync(set => set.SetProperty(pointer => pointer.Release, release.Number), cancel) == 1;
        if (!moved)
        {
            return false;
        }

        context.Releases.Add(release);
        await context.SaveChangesAsync(cancel);
        foreach (var (kind, key, revision) in drafts)
        {
            await context.Drafts.Where(draft => draft.Kind == kind && draft.Key == key)
                .ExecuteUpdateAsync(set => set.SetProperty(draft => draft.Published, revision), cancel);
        }

        beforeCommit();
        await transaction.CommitAsync(cancel);
        return true;
    }

    private static async Task<bool> FirstPointer(StorageContext context, long number, CancellationToken cancel)
    {
        if (await context.Pointers.AnyAsync(cancel))
        {
            return false;
        }

        context.Pointers.Add(new PointerRow { Name = Current, Release = number });
        return true;
    }
}
