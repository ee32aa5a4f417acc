using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>The connections to attached databases that were set while the service ran, each as a secret.</summary>
public sealed class ConnectionStore(IDbContextFactory<StorageContext> contexts)
{
    public async Task<IReadOnlyList<ConnectionRow>> All(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Connections.AsNoTracking().OrderBy(row => row.Name).ToListAsync(cancel);
    }

    /// <summary>The secret of a name, where there is one.</summary>
    public string? Find(string name)
    {
        using var context = contexts.CreateDbContext();
        return context.Connections.AsNoTracking().Where(row => row.Name == name).Select(row => row.Secret).SingleOrDefault();
    }

    public async Task Set(string name, string secret, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        if (await context.Connections.FindAsync([name], cancel) is { } present)
        {
            present.Secret = secret;
        }
        else
        {
            context.Connections.Add(new ConnectionRow { Name = name, Secret = secret });
        }

        await context.SaveChangesAsync(cancel);
    }

    public async Task Remove(string name, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Connections.Where(row => row.Name == name).ExecuteDeleteAsync(cancel);
    }
}
