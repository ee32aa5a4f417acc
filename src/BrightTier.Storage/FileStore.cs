using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Files and pictures, by the hash of their content; where the documents are, so that every process has them.</summary>
public sealed class FileStore(IDbContextFactory<StorageContext> contexts)
{
    /// <summary>Keeps a file; one that is there already is there once.</summary>
    /// <returns>Its SHA-256 in lower-case hexadecimal.</returns>
    public async Task<string> Save(byte[] body, CancellationToken cancel)
    {
        var hash = Convert.ToHexStringLower(SHA256.HashData(body));
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Database.ExecuteSqlAsync(
            $"""INSERT INTO stored_file ("Hash", "Body") VALUES ({hash}, {body}) ON CONFLICT ("Hash") DO NOTHING""",
            cancel
        );
        return hash;
    }

    /// <summary>Whether a file of this hash is kept.</summary>
    public async Task<bool> Has(string hash, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Files.AnyAsync(file => file.Hash == hash, cancel);
    }

    public async Task<byte[]?> Find(string hash, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return (await context.Files.AsNoTracking().FirstOrDefaultAsync(file => file.Hash == hash, cancel))?.Body;
    }
}
