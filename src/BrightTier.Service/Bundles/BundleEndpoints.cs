using BrightTier.Contracts;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;
using BrightTier.Core.Resolve;
using BrightTier.Service.Access;
using BrightTier.Service.Audit;
using BrightTier.Service.Hosting;
using BrightTier.Service.Layouts;
using BrightTier.Service.Releases;
using BrightTier.Storage;
using Microsoft.AspNetCore.Mvc;

namespace BrightTier.Service.Bundles;

/// <summary>Documents from one installation to another: in a bundle, or as the files of a folder.</summary>
public static class BundleEndpoints
{
    private const int Largest = 20_000_000;

    public static void MapBundles(this IEndpointRouteBuilder api)
    {
        api.MapPost("/documents", Take).WithTags("documents").Produces<TakeReport>().WithSummary("Takes documents into the drafts, all or none: over what they were made from, merged where that is asked for, or only to see what would come of it.");
        var group = api.MapGroup("/bundle").WithTags("documents");
        group.MapGet("", Export).Produces<byte[]>(200, "application/zip").WithSummary("Documents in one archive: those in ?document=kind/key with all they rest on (alone=true without), or every one; as everyone has them, with draft=true as they are in drafts.");
        group.MapPost("", Import).Accepts<byte[]>("application/zip").Produces<TakeReport>().WithSummary("Takes a bundle into the drafts, all or none, checked before anything is written: ?only=kind/key takes some, ?rename=kind/key:other under another key, dryRun=true says what would come of it, merge=true keeps what is here and is told where both have the same place.");
    }

    private static async Task<IResult> Take(HttpContext http, TakeRequest body, Taking taking, CancellationToken cancel) =>
        TypedResults.Json(await taking.Take(body, "Taken from files", http.Caller(Acts.Configure).Author, cancel), WireJson.Default.TakeReport);

    private static async Task<IResult> Export(
        HttpContext http, [FromQuery] string[] document, bool? draft, bool? alone, DraftDocuments drafts, ReleaseStore store, CurrentRelease releases, Auditing audit, TimeProvider time, CancellationToken cancel)
    {
        var caller = http.Reader();
        var release = draft is true ? null : (long?)releases.Everyones.Number;
        var all = draft is true
            ? (await drafts.List(cancel)).ToDictionary(row => (row.Kind, row.Key), row => row.Content)
            : (await store.Texts(releases.Everyones.Number, cancel)).ToDictionary(text => (text.Kind, text.Key), text => text.Text);
        var parsed = all.ToDictionary(pair => (Documents.KindNamed(pair.Key.Kind)!.Value, pair.Key.Key), pair => Snapshot.Parse(pair.Value));
        var chosen = document.Select(name => Named(name, parsed.Keys, "document")).ToArray();
        var included = document.Length == 0 ? parsed.Keys.ToHashSet()
            : alone is true ? chosen.ToHashSet()
            : chosen.Concat(RestingOn.Along(chosen, (kind, key) => parsed.GetValueOrDefault((kind, key))).Select(each => (each.Kind, each.Key))).ToHashSet();
        var bundled = included.OrderBy(each => each.Item1).ThenBy(each => each.Item2, StringComparer.Ordinal).Select(each =>
        {
            var text = all[(each.Item1.Name(), each.Item2)];
            return (Path: Documents.PathOf(each.Item1, each.Item2), Text: text, Named: new BundledDocument(
                each.Item1.Name(), each.Item2, Documents.PathOf(each.Item1, each.Item2), ReleaseStore.HashOf(text), [.. RestingOn.Directly(parsed[each]).Select(on => $"{on.Kind.Name()}/{on.Key}")]));
        }).ToArray();
        var manifest = new BundleManifest(BundleManifest.TheFormat, 1, time.GetUtcNow(), releases.Everyones.Definitions.Application.Title.ToString(), release, [.. bundled.Select(each => each.Named)]);
        await audit.Note(caller.Person.Id, "bundle.exported", release is null ? "drafts" : $"release/{release}", new { documents = bundled.Select(each => $"{each.Named.Kind}/{each.Named.Key}") }, cancel);
        return TypedResults.Bytes(BundleArchive.Write(manifest, [.. bundled.Select(each => (each.Path, each.Text))]), "application/zip", "bright-tier.bundle.zip");
    }

    private static async Task<IResult> Import(
        HttpContext http, [FromQuery] string[] only, [FromQuery] string[] rename, bool? dryRun, bool? merge, string? take, DraftDocuments drafts, Taking taking, Auditing audit, CancellationToken cancel)
    {
        var caller = http.Caller(Acts.Configure);
        var (manifest, documents) = BundleArchive.Read(await Body(http, cancel));
        var there = documents.Select(each => (each.Document.Kind, each.Document.Key)).ToHashSet();
        var some = only.Select(name => Named(name, there, "only")).ToHashSet();
        var names = Names(rename, there);
        var (taken, missing) = (new List<TakenDocument>(), new List<ProblemPart>());
        var present = (await drafts.List(cancel)).Select(row => (Documents.KindNamed(row.Kind)!.Value, row.Key)).ToHashSet();
        var arriving = documents.Where(each => some.Count == 0 || some.Contains((each.Document.Kind, each.Document.Key))).ToArray();
        var included = arriving.Select(each => (each.Document.Kind, each.Document.Key)).ToHashSet();
        foreach (var (named, document) in arriving)
        {
            foreach (var on in RestingOn.Directly(document).Where(on => !included.Contains(on) && !present.Contains((on.Kind, names.GetValueOrDefault(on, on.Key)))))
            {
                missing.Add(new ProblemPart(named.Path, $"rests on {on.Kind.Name()} '{on.Key}', which is neither taken nor here", "dependency-missing"));
            }

            var (renamed, problems) = Renaming.Apply(document, names);
            taken.Add(new TakenDocument(renamed is null ? throw Problems.Document(problems) : Documents.Write(renamed), null, Replaces: merge is not true));
        }

        if (missing.Count > 0)
        {
            throw new RefusedException(422, "dependency-missing", $"{missing[0].Pointer} {missing[0].Message}.{(missing.Count > 1 ? $" There are {missing.Count - 1} more like it." : "")} Nothing was taken.", missing);
        }

        var report = await taking.Take(new TakeRequest(taken, dryRun is true, merge is true, take), $"Taken from a bundle of {manifest.From}", caller.Author, cancel);
        if (report.Taken)
        {
            await audit.Note(caller.Person.Id, "bundle.imported", manifest.From, new { made = manifest.At, release = manifest.Release, documents = report.Documents.Where(each => each.Change != "unchanged").Select(each => $"{each.Kind}/{each.Key}") }, cancel);
        }

        return TypedResults.Json(report, WireJson.Default.TakeReport);
    }

    private static Dictionary<(DocumentKind Kind, string Key), string> Names(string[] rename, IReadOnlySet<(DocumentKind, string)> there)
    {
        var names = new Dictionary<(DocumentKind Kind, string Key), string>();
        foreach (var rule in rename)
        {
            if (rule.Split(':') is not [var name, { Length: > 0 } other])
            {
                throw Problems.Invalid($"'{rule}' renames nothing; write kind/key:other, such as entity/vessel:boat.", new ProblemPart("rename", "must be kind/key:other"));
            }

            var document = Named(name, there, "rename");
            if (!Renaming.Kinds.Contains(document.Kind))
            {
                throw Problems.Invalid($"There is one {document.Kind.Name()} in an application; it has no other key.", new ProblemPart("rename", $"must be one of {string.Join(", ", Renaming.Kinds.Select(kind => kind.Name()))}"));
            }

            names[document] = other;
        }

        return names;
    }

    private static (DocumentKind Kind, string Key) Named(string name, IEnumerable<(DocumentKind Kind, string Key)> there, string parameter)
    {
        var known = there.Select(each => $"{each.Kind.Name()}/{each.Key}").ToArray();
        return name.Split('/') is [var word, var key] && Documents.KindNamed(word) is { } kind && known.Contains(name)
            ? (kind, key)
            : throw Problems.Invalid($"'{name}' names no document here{Suggestion.For(name, known)}. A document is named by kind/key, such as layout/vessel.", new ProblemPart(parameter, $"'{name}' is no document"));
    }

    private static async Task<byte[]> Body(HttpContext http, CancellationToken cancel)
    {
        var body = new MemoryStream();
        var buffer = new byte[81_920];
        for (int read; (read = await http.Request.Body.ReadAsync(buffer, cancel)) > 0;)
        {
            body.Write(buffer.AsSpan(0, read));
            if (body.Length > Largest)
            {
                throw new RefusedException(413, "body-too-large", $"A bundle has at most {Largest / 1_000_000} MB.");
            }
        }

        return body.ToArray();
    }
}
