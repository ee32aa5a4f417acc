using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>A text a document had here.</summary>
/// <param name="After">The release that had it; of one that arrived, the one everyone had then.</param>
/// <param name="Arrived">Whether a bundle brought it.</param>
public sealed record TextHad(string Hash, long After, bool Arrived);

/// <summary>The texts a document had here one after another: in releases, and as bundles brought them.</summary>
public sealed class HistoryStore(IDbContextFactory<StorageContext> contexts)
{
    /// <summary>The texts of a document, oldest first; a text it came back to is there again, none follows itself.</summary>
    public async Task<IReadOnlyList<TextHad>> Of(string kind, string key, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var released = await context
            .ReleaseDocuments.Where(document => document.Kind == kind && document.Key == key)
            .Where(document => document.Hash != ReleaseDocumentRow.Gone)
            .Where(document =>
                !context.Rollouts.Any(rollout => rollout.Release == document.Release && rollout.State != RolloutRow.Promoted)
            )
            .OrderBy(document => document.Release)
            .Select(document => new TextHad(document.Hash, document.Release, false))
            .ToListAsync(cancel);
        var arrived = await context
            .ImportedVersions.Where(arrival => arrival.Kind == kind && arrival.Key == key)
            .OrderBy(arrival => arrival.Id)
            .Select(arrival => new TextHad(arrival.Hash, arrival.After, true))
            .ToListAsync(cancel);
        // What arrived after a release comes before the next; the order among themselves stays.
        var texts = new List<TextHad>();
        foreach (var text in released.Concat(arrived).OrderBy(text => text.After))
        {
            if (texts.LastOrDefault()?.Hash != text.Hash)
            {
                texts.Add(text);
            }
        }

        return texts;
    }

    /// <summary>Remembers that a bundle brought these texts while everyone had a release.</summary>
    /// <param name="arrived">Under the keys the documents have here, the texts as they were sent.</param>
    public async Task Arrive(IReadOnlyList<(string Kind, string Key, string Text)> arrived, long release, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await ReleaseStore.StoreContents(context, arrived.Select(each => each.Text), cancel);
        context.ImportedVersions.AddRange(
            arrived.Select(each => new ImportedVersionRow
            {
                Kind = each.Kind,
                Key = each.Key,
                Hash = ReleaseStore.HashOf(each.Text),
                After = release,
            })
        );
        await context.SaveChangesAsync(cancel);
    }

    /// <summary>The text of a hash that a history names.</summary>
    public async Task<string> Text(string hash, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Contents.Where(content => content.Hash == hash).Select(content => content.Text).SingleAsync(cancel);
    }
}
