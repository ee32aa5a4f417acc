using BrightTier.Contracts;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;
using BrightTier.Core.Resolve;
using BrightTier.Service.Access;
using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Service.Layouts;
using BrightTier.Storage;

namespace BrightTier.Service.Releases;

/// <summary>Publishing, the releases there were, going back to one.</summary>
public static class ReleaseEndpoints
{
    public static void MapReleases(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/releases").WithTags("releases");
        group.MapGet("", List).Produces<IReadOnlyList<ReleaseInfo>>().WithSummary("All releases, newest first.");
        group.MapGet("/{number:long}", Get).Produces<ReleaseInfo>().WithSummary("One release.");
        group.MapPost("", Publish).Produces<Receipt>(201).WithSummary("Publishes drafts, all or none, at the revisions named.");
        group.MapGet("/along", Along).Produces<IReadOnlyList<AlongInfo>>().WithSummary("What the drafts in ?document=kind/key rest on, near and far, as far as it is ahead of what is published too: it goes out with them.");
        group.MapPost("/{number:long}/restore", Restore).Produces<Receipt>(201).WithSummary("Makes a new release of what an old one held, or of what is current with some documents as an old one had them.");
    }

    private static async Task<IResult> List(HttpContext http, ReleaseStore store, CurrentRelease releases, CancellationToken cancel)
    {
        http.Caller(Acts.Configure);
        return TypedResults.Json(Infos(await store.List(cancel), releases.Snapshot.Number), WireJson.Default.IReadOnlyListReleaseInfo);
    }

    private static async Task<IResult> Get(HttpContext http, long number, ReleaseStore store, CurrentRelease releases, CancellationToken cancel)
    {
        http.Caller(Acts.Configure);
        return TypedResults.Json(
            Infos(await store.List(cancel), releases.Snapshot.Number).FirstOrDefault(release => release.Number == number)
                ?? throw Problems.NotFound("release", number.ToString(System.Globalization.CultureInfo.InvariantCulture)),
            WireJson.Default.ReleaseInfo);
    }

    private static async Task<IResult> Publish(HttpContext http, PublishRequest body, Publishing publishing, ReleaseStore store, Broadcaster broadcaster, CancellationToken cancel)
    {
        var caller = http.Caller(Acts.Publish);
        if (body.Note.Length > 2_000)
        {
            throw Problems.Invalid("A note has at most 2000 characters.", new ProblemPart("/note", "is too long"));
        }

        // Once begun, publishing is finished even if whoever asked has gone.
        var open = broadcaster.Open;
        return await Receipt(await publishing.Publish(body, caller.Person.Id, CancellationToken.None), open, store, cancel);
    }

    private static async Task<IResult> Along(HttpContext http, string[] document, DraftDocuments drafts, CancellationToken cancel)
    {
        http.Caller(Acts.Configure);
        var rows = (await drafts.List(cancel)).ToDictionary(row => (row.Kind, row.Key));
        var chosen = new List<(DocumentKind, string)>();
        foreach (var name in document)
        {
            if (name.Split('/') is not [var word, var key] || Documents.KindNamed(word) is not { } kind || !rows.ContainsKey((word, key)))
            {
                throw Problems.Invalid($"'{name}' names no draft; a draft is named by kind/key, such as layout/vessel.", new ProblemPart("document", $"'{name}' is no draft"));
            }

            chosen.Add((kind, key));
        }

        var along = RestingOn.Along(chosen, (kind, key) => rows.GetValueOrDefault((kind.Name(), key)) is { } row && row.Revision != row.Published ? drafts.Parsed(row) : null);
        return TypedResults.Json<IReadOnlyList<AlongInfo>>(
            [.. along.Select(each => new AlongInfo(each.Kind.Name(), each.Key, rows[(each.Kind.Name(), each.Key)].Revision, each.ForKind.Name(), each.ForKey))], WireJson.Default.IReadOnlyListAlongInfo);
    }

    private static async Task<IResult> Restore(HttpContext http, long number, RestoreRequest body, Publishing publishing, ReleaseStore store, Broadcaster broadcaster, CancellationToken cancel)
    {
        var caller = http.Caller(Acts.Publish);
        var open = broadcaster.Open;
        return await Receipt(await publishing.Restore(number, body, caller.Person.Id, CancellationToken.None), open, store, cancel);
    }

    private static async Task<IResult> Receipt(ReleaseRow row, int open, ReleaseStore store, CancellationToken cancel)
    {
        var release = Infos(await store.List(cancel), row.Number).First(info => info.Number == row.Number);
        return TypedResults.Json(
            new Receipt(release, [.. release.Documents.Where(document => document is { Kind: "layout", Change: "added" or "changed" }).Select(document => $"/records/{document.Key}")], open),
            WireJson.Default.Receipt, statusCode: 201);
    }

    private static IReadOnlyList<ReleaseInfo> Infos(IReadOnlyList<ReleaseRow> rows, long current)
    {
        var infos = new List<ReleaseInfo>();
        for (var i = 0; i < rows.Count; i++)
        {
            var row = rows[i];
            var before = i + 1 < rows.Count ? rows[i + 1].Documents.ToDictionary(document => (document.Kind, document.Key), document => document.Hash) : [];
            var documents = row.Documents
                .Select(document => new ReleaseDocument(document.Kind, document.Key, document.Hash, !before.TryGetValue((document.Kind, document.Key), out var hash) ? "added" : hash == document.Hash ? "unchanged" : "changed"))
                .Concat(before.Where(pair => row.Documents.All(document => (document.Kind, document.Key) != pair.Key)).Select(pair => new ReleaseDocument(pair.Key.Kind, pair.Key.Key, pair.Value, "removed")))
                .OrderBy(document => Documents.KindNamed(document.Kind)).ThenBy(document => document.Key, StringComparer.Ordinal);
            infos.Add(new ReleaseInfo(row.Number, DateTimeOffset.FromUnixTimeMilliseconds(row.At), row.By, row.Note, row.Restores, row.Number == current, [.. documents]));
        }

        return infos;
    }
}
