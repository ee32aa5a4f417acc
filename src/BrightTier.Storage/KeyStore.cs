using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>The keys cookies are protected with, as XML. Few, and read at the start and every day.</summary>
public sealed class KeyStore(IDbContextFactory<StorageContext> contexts)
{
    public IReadOnlyList<string> All()
    {
        using var context = contexts.CreateDbContext();
        return [.. context.Keys.AsNoTracking().OrderBy(key => key.Name).Select(key => key.Xml)];
    }

    public void Add(string name, string xml)
    {
        using var context = contexts.CreateDbContext();
        context.Keys.Add(new KeyRow { Name = name, Xml = xml });
        context.SaveChanges();
    }
}
