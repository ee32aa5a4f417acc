using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.AspNetCore.Mvc;

namespace BrightTier.Service.Import;

/// <summary>Puts documents into a bundle: of the drafts, of what everyone has, or of a release.</summary>
internal static class BundleExport
{
    public static async Task<IResult> Export(
        HttpContext http,
        [FromQuery] string[] document,
        bool? draft,
        long? release,
        bool? withoutDependencies,
        DraftDocuments drafts,
        ReleaseStore store,
        HistoryStore histories,
        CurrentRelease releases,
        AuditStore audit,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var all = await Texts(draft is true, release, drafts, store, releases, cancel);
        release = draft is true ? null : release ?? releases.Default.Number;
        // What cannot be read cannot be taken in anywhere else either.
        var parsed = all.Select(pair => DocumentFile.Read(pair.Value, pair.Key.Kind, pair.Key.Key).Document)
            .OfType<Document>()
            .ToDictionary(read => (read.Kind, read.Key));
        var chosen = document.Select(name => BundleEndpoints.Named(name, parsed.Keys, "document")).ToArray();
        var included =
            document.Length == 0 ? parsed.Keys.ToHashSet()
            : withoutDependencies is true ? chosen.ToHashSet()
            : chosen
                .Concat(
                    DocumentDependencies
                        .Along(chosen, (kind, key) => parsed.GetValueOrDefault((kind, key)))
                        .Select(each => (each.Kind, each.Key))
                )
                .ToHashSet();
        // One at a time is quicker for few, all at once for many.
        var every = included.Count > 20 ? await histories.All(cancel) : null;
        var bundled = new List<(string Text, BundledDocument Named)>();
        foreach (var (kind, key) in included.OrderBy(each => each.Item1).ThenBy(each => each.Item2, StringComparer.Ordinal))
        {
            var text = all[(kind.Name(), key)];
            var had = every?[(kind.Name(), key)] ?? await histories.Of(kind.Name(), key, cancel);
            var earlier = had.Reverse().Take(BundleEndpoints.Remembered).Select(text => text.Hash).ToArray();
            bundled.Add(
                (
                    text,
                    new BundledDocument(
                        kind.Name(),
                        key,
                        DocumentFile.PathOf(kind, key),
                        ReleaseStore.HashOf(text),
                        [.. DocumentDependencies.Directly(parsed[(kind, key)]).Select(on => $"{on.Kind.Name()}/{on.Key}")],
                        earlier
                    )
                )
            );
        }

        var manifest = new BundleManifest(
            BundleManifest.TheFormat,
            1,
            time.GetUtcNow(),
            releases.Default.Definitions.Application.Title.ToString(),
            release,
            [.. bundled.Select(each => each.Named)]
        );
        await audit.Note(
            caller.Person.Id,
            "bundle.exported",
            release is null ? "drafts" : $"release/{release}",
            new { documents = bundled.Select(each => $"{each.Named.Kind}/{each.Named.Key}") },
            cancel
        );
        return TypedResults.Bytes(
            BundleArchive.Write(manifest, [.. bundled.Select(each => (each.Named.Path, each.Text))]),
            "application/zip",
            "bright-tier.bundle.zip"
        );
    }

    /// <summary>Every text there is in the drafts, in a release, or in what everyone has.</summary>
    private static async Task<Dictionary<(string Kind, string Key), string>> Texts(
        bool draft,
        long? release,
        DraftDocuments drafts,
        ReleaseStore store,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        if (draft && release is not null)
        {
            throw Problems.Invalid(
                $"A bundle is of drafts or of a release, not of both.",
                Problems.Part("release", $"goes not with draft=true")
            );
        }

        if (release is { } asked && await store.Find(asked, cancel) is null)
        {
            var newest = (await store.List(cancel)).Select(row => row.Number).DefaultIfEmpty().Max();
            throw Problems.Invalid(
                $"There is no release '{asked}'; the newest is {newest}.",
                Problems.Part("release", $"names no release")
            );
        }

        return draft
            ? (await drafts.List(cancel)).ToDictionary(row => (row.Kind, row.Key), row => row.Content)
            : (await store.Texts(release ?? releases.Default.Number, cancel)).ToDictionary(
                text => (text.Kind, text.Key),
                text => text.Text
            );
    }
}
