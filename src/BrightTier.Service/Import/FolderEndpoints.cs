using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Import;

/// <summary>Documents as the files of a folder.</summary>
public static class FolderEndpoints
{
    public static void MapFolders(this IEndpointRouteBuilder api) =>
        api.MapPost("/documents", Take)
            .WithName("importDocuments")
            .Needs(Permissions.Configure)
            .TakesAtMost(BodySizes.Largest)
            .WithTags("documents")
            .Produces<ImportReport>()
            .WithSummary(
                "Imports documents into the drafts, all or none: over the version they were made from, merged on request; "
                    + "dryRun only says what would happen."
            )
            .WithDescription(
                "Where 'before' is left out, a document was made from what was imported this way last; if it never was, from the "
                    + "revision of its draft that is most like it. With 'folder', what was imported this way before and is not "
                    + "named there is gone; archiveMissing archives it."
            );

    private static async Task<IResult> Take(
        HttpContext http,
        ImportRequest body,
        DocumentImport taking,
        DraftDocuments drafts,
        HistoryStore histories,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var by = http.Caller().Author;
        var bases = await FileBases.Load(drafts, histories, by, cancel);
        var taken = await taking.Take(body, "Imported from files", by, cancel, bases);
        if (!body.DryRun)
        {
            // The next files come from these, even where nothing of them was new.
            await histories.Arrive(
                [
                    .. taken
                        .Sent.Select(sent => (Kind: sent.Kind.Name(), sent.Key, Text: DocumentFile.Write(sent)))
                        .Where(sent => !bases.IsLast(sent.Kind, sent.Key, sent.Text)),
                ],
                releases.Default.Number,
                TextSource.Files,
                cancel
            );
        }

        return TypedResults.Json(taken.Report, WireJson.Default.ImportReport);
    }
}
