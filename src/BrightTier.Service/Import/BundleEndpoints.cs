using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.AspNetCore.Mvc;

namespace BrightTier.Service.Import;

/// <summary>Documents from one installation to another, in a bundle.</summary>
public static class BundleEndpoints
{
    private const int Largest = 20_000_000;

    /// <summary>Of how many earlier texts of a document a bundle names the hash.</summary>
    internal const int Remembered = 20;

    /// <summary>How many of the latest texts of a document here are looked through for one of them.</summary>
    private const int Searched = 500;

    public static void MapBundles(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/bundle").WithTags("documents");
        group
            .MapGet("", BundleExport.Export)
            .WithName("exportBundle")
            .NeedsReader()
            .Produces<byte[]>(200, "application/zip")
            .WithSummary(
                "Documents in one archive: those in ?document=kind/key with their dependencies (withoutDependencies=true "
                    + "without), or every one; as everyone has them, with release=N as that release had "
                    + "them, with draft=true as they are in drafts."
            );
        group
            .MapPost("", Import)
            .WithName("importBundle")
            .Needs(Permissions.Configure)
            .TakesAtMost(BodySizes.Largest)
            .Accepts<byte[]>("application/zip")
            .Produces<ImportReport>()
            .WithSummary(
                "Imports a bundle into the drafts, all or none, checked before anything is written: only=kind/key imports "
                    + "some, rename=kind/key:other under another key, dryRun=true only says what would happen. What somebody "
                    + "changed here since is refused; merge=true keeps it too and lists the conflicts, conflictResolution says whose "
                    + "word counts in them, or, without merge, whose document."
            );
    }

    private static void RequireDependencies(
        IReadOnlyList<(string Path, Document Document)> arriving,
        Func<(DocumentKind Kind, string Key), bool> isHere
    )
    {
        var included = arriving.Select(each => (each.Document.Kind, each.Document.Key)).ToHashSet();
        var missing = arriving
            .SelectMany(each =>
                DocumentDependencies
                    .Directly(each.Document)
                    .Where(on => !included.Contains(on) && !isHere(on))
                    .Select(on =>
                        Problems.Part(
                            each.Path,
                            $"depends on {on.Kind.Noun()} '{on.Key}', which is neither in the bundle nor here",
                            "dependency-missing"
                        )
                    )
            )
            .ToArray();
        if (missing.Length > 0)
        {
            throw new RefusedException(
                422,
                "dependency-missing",
                $"{missing[0].Pointer} "
                    + $"{missing[0].Message}.{(missing.Length > 1 ? $" There are {missing.Length - 1} more like it." : "")} "
                    + $"Nothing was imported.",
                missing
            );
        }
    }

    private static async Task<IResult> Import(
        HttpContext http,
        [FromQuery] string[] only,
        [FromQuery] string[] rename,
        bool? dryRun,
        bool? merge,
        string? conflictResolution,
        DraftDocuments drafts,
        HistoryStore histories,
        CurrentRelease releases,
        DocumentImport taking,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var (manifest, documents) = BundleArchive.Read(await Body(http, cancel));
        var there = documents.Select(each => (each.Document.Kind, each.Document.Key)).ToHashSet();
        var some = only.Select(name => Named(name, there, "only")).ToHashSet();
        var names = Names(rename, there);
        var (taken, bases) = (new List<ImportDocument>(), new List<string?>());
        var present = (await drafts.List(cancel)).ToDictionary(
            row => (DocumentFile.KindNamed(row.Kind)!.Value, row.Key),
            row => row.Content
        );
        var arriving = documents.Where(each => some.Count == 0 || some.Contains((each.Document.Kind, each.Document.Key))).ToArray();
        RequireDependencies([.. arriving.Select(each => (each.Named.Path, each.Document))], on =>
            present.ContainsKey((on.Kind, names.GetValueOrDefault(on, on.Key)))
        );
        foreach (var (named, document, _) in arriving)
        {
            var (renamed, problems) = KeyRename.Apply(document, names);
            var arrives = renamed ?? throw Problems.Document(problems);
            var draft = present.GetValueOrDefault((arrives.Kind, arrives.Key));
            var (before, where) = await Common(named, arrives, draft, names, histories, cancel);
            taken.Add(new ImportDocument(DocumentFile.Write(arrives), before));
            bases.Add(where.ToString());
        }

        var (report, _) = await taking.Take(
            new ImportRequest(taken, dryRun is true, merge is true, conflictResolution),
            $"Imported from a bundle of {manifest.From}",
            caller.Author,
            cancel
        );
        if (dryRun is not true)
        {
            // What was taken is what both sides come from when the next bundle is merged, even where nothing of it was new.
            await histories.Arrive(
                [.. report.Documents.Zip(arriving, (info, each) => (info.Kind, info.Key, each.Text))],
                releases.Default.Number,
                TextSource.Bundle,
                cancel
            );
        }

        if (report.Imported)
        {
            await audit.Note(
                caller.Person.Id,
                "bundle.imported",
                manifest.From,
                new
                {
                    made = manifest.At,
                    release = manifest.Release,
                    documents = report.Documents.Where(each => each.Change != "unchanged").Select(each => $"{each.Kind}/{each.Key}"),
                },
                cancel
            );
        }

        var told = report.Documents.Zip(bases, (info, where) => info.Change is "merged" or "conflict" ? info with { Base = where } : info);
        return TypedResults.Json(report with { Bundle = manifest, Documents = [.. told] }, WireJson.Default.ImportReport);
    }

    /// <summary>
    /// The newest text that a document's draft here and its text in a bundle both come from, under the names it has here; and a sentence
    /// that says which that is.
    /// </summary>
    private static async Task<(string? Text, Message Where)> Common(
        BundledDocument named,
        Document arrives,
        string? draft,
        Dictionary<(DocumentKind Kind, string Key), string> names,
        HistoryStore histories,
        CancellationToken cancel
    )
    {
        var here = (await histories.Of(arrives.Kind.Name(), arrives.Key, cancel)).TakeLast(Searched).ToList();
        if (draft is not null)
        {
            here.Add(new TextHad(ReleaseStore.HashOf(draft), 0, TextSource.Release));
        }

        string[] there = [.. (named.Earlier ?? []).Take(Remembered).Reverse(), named.Hash];
        if (MergeBase.Find([.. here.Select(had => had.Hash)], there) is not { } last)
        {
            return (null, $"No text is known that both come from; they are merged as two.");
        }

        var (found, isDraft) = (here[last], draft is not null && last == here.Count - 1);
        var text = isDraft ? draft! : await histories.Text(found.Hash, cancel);
        var before =
            DocumentFile.Read(text).Document is { } read && KeyRename.Apply(read, names).Document is { } renamed
                ? DocumentFile.Write(renamed)
                : null;
        return (
            before,
            isDraft ? (Message)$"Both come from the draft as it is."
            : found.Source is TextSource.Bundle ? (Message)$"Both come from what a bundle brought after release {found.After}."
            : found.Source is TextSource.Files ? (Message)$"Both come from what files brought after release {found.After}."
            : $"Both come from release {found.After}."
        );
    }

    private static Dictionary<(DocumentKind Kind, string Key), string> Names(string[] rename, IReadOnlySet<(DocumentKind, string)> there)
    {
        var names = new Dictionary<(DocumentKind Kind, string Key), string>();
        foreach (var rule in rename)
        {
            if (rule.Split(':') is not [var name, { Length: > 0 } other])
            {
                throw Problems.Invalid(
                    $"'{rule}' renames nothing; write kind/key:other, such as entity/vessel:boat.",
                    Problems.Part("rename", $"must be kind/key:other")
                );
            }

            var document = Named(name, there, "rename");
            if (!KeyRename.Kinds.Contains(document.Kind))
            {
                throw Problems.Invalid(
                    $"There is one {document.Kind.Noun()} in an application; it has no other key.",
                    Problems.Part("rename", $"must be one of {string.Join(", ", KeyRename.Kinds.Select(kind => kind.Name()))}")
                );
            }

            names[document] = other;
        }

        return names;
    }

    internal static (DocumentKind Kind, string Key) Named(string name, IEnumerable<(DocumentKind Kind, string Key)> there, string parameter)
    {
        var known = there.Select(each => $"{each.Kind.Name()}/{each.Key}").ToArray();
        return name.Split('/') is [var word, var key] && DocumentFile.KindNamed(word) is { } kind && known.Contains(name)
            ? (kind, key)
            : throw Problems.Invalid(
                $"{Suggestion.Sentence($"'{name}' names no document here{Suggestion.For(name, known)}")} "
                    + $"A document is named by kind/key, such as layout/vessel.",
                Problems.Part(parameter, $"'{name}' is no document")
            );
    }

    private static async Task<byte[]> Body(HttpContext http, CancellationToken cancel)
    {
        var body = new MemoryStream();
        var buffer = new byte[81_920];
        for (int read; (read = await http.Request.Body.ReadAsync(buffer, cancel)) > 0; )
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
