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

    /// <summary>The channel on which processes that share a PostgreSQL tell each other what happened.</summary>
    public const string Announcements = "bright_tier";

    public static string HashOf(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    /// <summary>The current release's number; 0 before the first.</summary>
    public async Task<long> CurrentNumber(CancellationToken cancel)
    {
        var rows = await Read($"SELECT \"Release\" FROM pointer WHERE \"Name\" = '{Current}'", row => row.GetInt64(0), cancel);
        return rows.Count == 0 ? 0 : rows[0];
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
        return await Read(
            $"""
            SELECT d."Kind", d."Key", d."Hash", c."Text" FROM release_document d JOIN content c ON c."Hash" = d."Hash"
            WHERE d."Release" = {number.ToString(System.Globalization.CultureInfo.InvariantCulture)}
            """,
            row => new ReleasedText(row.GetString(0), row.GetString(1), row.GetString(2), row.GetString(3)),
            cancel);
    }

    /// <summary>The two reads a start needs are plain SQL: preparing the first query any other way takes longer than the rest of a start.</summary>
    private async Task<IReadOnlyList<T>> Read<T>(string sql, Func<System.Data.Common.DbDataReader, T> read, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Database.OpenConnectionAsync(cancel);
        await using var command = context.Database.GetDbConnection().CreateCommand();
        command.CommandText = sql;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var rows = new List<T>();
        while (await reader.ReadAsync(cancel))
        {
            rows.Add(read(reader));
        }

        return rows;
    }

    /// <summary>Stores texts under their hashes. Doing it again, or doing it for a release that never comes about, harms nothing.</summary>
    public async Task StoreContents(IEnumerable<string> texts, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        // Whoever else stores one at the same moment stores the same.
        foreach (var text in texts)
        {
            await context.Database.ExecuteSqlAsync($"""INSERT INTO content ("Hash", "Text") VALUES ({HashOf(text)}, {text}) ON CONFLICT ("Hash") DO NOTHING""", cancel);
        }
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
        try
        {
            await context.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException)
        {
            // The number, or the first pointer, is taken.
            return false;
        }

        foreach (var (kind, key, revision) in drafts)
        {
            await context.Drafts.Where(draft => draft.Kind == kind && draft.Key == key)
                .ExecuteUpdateAsync(set => set.SetProperty(draft => draft.Published, revision), cancel);
        }

        if (context is PostgresStorageContext)
        {
            // Part of the transaction: heard if and only if the release is current.
            await context.Database.ExecuteSqlAsync($"SELECT pg_notify({Announcements}, {release.Number.ToString(System.Globalization.CultureInfo.InvariantCulture)})", cancel);
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
