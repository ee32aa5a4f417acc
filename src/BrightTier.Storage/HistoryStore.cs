using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Where a text of a document came from.</summary>
public enum TextSource
{
    /// <summary>It was published here.</summary>
    Release,

    Bundle,

    /// <summary>The files of a folder.</summary>
    Files,
}

/// <summary>A text a document had here.</summary>
/// <param name="After">The release that had it; of one that arrived, the one everyone had then.</param>
public sealed record TextHad(string Hash, long After, TextSource Source);

/// <summary>The texts a document had here one after another: in releases, and as bundles and files brought them.</summary>
public sealed class HistoryStore(IDbContextFactory<StorageContext> contexts)
{
    /// <summary>The texts of a document, oldest first; a text it came back to is there again, none follows itself.</summary>
    public async Task<IReadOnlyList<TextHad>> Of(string kind, string key, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var released = await Released(context)
            .Where(document => document.Kind == kind && document.Key == key)
            .Select(document => new TextHad(document.Hash, document.Release, TextSource.Release))
            .ToListAsync(cancel);
        var arrived = await context
            .ImportedVersions.Where(arrival => arrival.Kind == kind && arrival.Key == key)
            .OrderBy(arrival => arrival.Id)
            .Select(arrival => new TextHad(arrival.Hash, arrival.After, arrival.FromFiles ? TextSource.Files : TextSource.Bundle))
            .ToListAsync(cancel);
        return InOrder(released.Concat(arrived));
    }

    /// <summary>The same of every document, read at once.</summary>
    public async Task<ILookup<(string Kind, string Key), TextHad>> All(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var released = await Released(context)
            .Select(document => new
            {
                document.Kind,
                document.Key,
                Text = new TextHad(document.Hash, document.Release, TextSource.Release),
            })
            .ToListAsync(cancel);
        var arrived = await context
            .ImportedVersions.OrderBy(arrival => arrival.Id)
            .Select(arrival => new
            {
                arrival.Kind,
                arrival.Key,
                Text = new TextHad(arrival.Hash, arrival.After, arrival.FromFiles ? TextSource.Files : TextSource.Bundle),
            })
            .ToListAsync(cancel);
        return released
            .Concat(arrived)
            .GroupBy(each => (each.Kind, each.Key), each => each.Text)
            .SelectMany(had => InOrder(had).Select(text => (had.Key, text)))
            .ToLookup(each => each.Key, each => each.text);
    }

    /// <summary>What releases had, oldest first, but for those that were given to some alone.</summary>
    private static IQueryable<ReleaseDocumentRow> Released(StorageContext context) =>
        context
            .ReleaseDocuments.Where(document => document.Hash != ReleaseDocumentRow.Gone)
            .Where(document =>
                !context.Rollouts.Any(rollout => rollout.Release == document.Release && rollout.State != RolloutRow.Promoted)
            )
            .OrderBy(document => document.Release);

    /// <summary>What arrived after a release comes before the next; the order among themselves stays.</summary>
    private static List<TextHad> InOrder(IEnumerable<TextHad> had)
    {
        var texts = new List<TextHad>();
        foreach (var text in had.OrderBy(text => text.After))
        {
            if (texts.LastOrDefault()?.Hash != text.Hash)
            {
                texts.Add(text);
            }
        }

        return texts;
    }

    /// <summary>The hash of the text that files brought last, of each document that ever came from them.</summary>
    public async Task<IReadOnlyDictionary<(string Kind, string Key), string>> LastFromFiles(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var last = context
            .ImportedVersions.Where(arrival => arrival.FromFiles)
            .GroupBy(arrival => new { arrival.Kind, arrival.Key })
            .Select(arrivals => arrivals.Max(arrival => arrival.Id));
        return await context
            .ImportedVersions.Where(arrival => last.Contains(arrival.Id))
            .ToDictionaryAsync(arrival => (arrival.Kind, arrival.Key), arrival => arrival.Hash, cancel);
    }

    /// <summary>Remembers that these texts came from elsewhere while everyone had a release.</summary>
    /// <param name="arrived">Under the keys the documents have here, the texts as they were sent.</param>
    public async Task Arrive(
        IReadOnlyList<(string Kind, string Key, string Text)> arrived,
        long release,
        TextSource source,
        CancellationToken cancel
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        await ReleaseStore.StoreContents(context, arrived.Select(each => each.Text), cancel);
        context.ImportedVersions.AddRange(
            arrived.Select(each => new ImportedVersionRow
            {
                Kind = each.Kind,
                Key = each.Key,
                Hash = ReleaseStore.HashOf(each.Text),
                After = release,
                FromFiles = source is TextSource.Files,
            })
        );
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>The text of a hash that a history names.</summary>
    public async Task<string> Text(string hash, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Contents.Where(content => content.Hash == hash).Select(content => content.Text).SingleAsync(cancel);
    }
}
