using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Who of several processes does what only one may do. A lease that is not renewed runs out, and another takes it.</summary>
public sealed class LeaseStore(IDbContextFactory<StorageContext> contexts, TimeProvider time)
{
    /// <summary>Takes a lease or renews one's own; false while another holds it.</summary>
    public async Task<bool> Hold(string name, string holder, TimeSpan length, CancellationToken cancel)
    {
        var now = time.GetUtcNow();
        var (at, until) = (now.ToUnixTimeMilliseconds(), now.Add(length).ToUnixTimeMilliseconds());
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Database.ExecuteSqlAsync(
                $"""
                INSERT INTO lease ("Name", "Holder", "Until") VALUES ({name}, {holder}, {until})
                ON CONFLICT ("Name") DO UPDATE SET "Holder" = excluded."Holder", "Until" = excluded."Until"
                WHERE lease."Holder" = excluded."Holder" OR lease."Until" < {at}
                """,
                cancel
            ) == 1;
    }
}
