using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Entities;

/// <summary>What happened to a draft of any kind: who changed what and when, in words; and the way back to any of it.</summary>
public static class DocumentHistoryEndpoints
{
    /// <summary>How many changes are told at once.</summary>
    private const int Most = 50;

    public static void MapDocumentHistory(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/documents/{kind}/{key}").WithTags("documents");
        group
            .MapGet("/changes", List)
            .WithName("listDocumentChanges")
            .NeedsReader()
            .Produces<DocumentHistory>()
            .WithSummary(
                $"How a draft differs from what everybody has, and its newest {Most} changes, newest first, in words; of those before "
                    + "a revision with before=N."
            );
        group
            .MapPost("/restore", Restore)
            .WithName("restoreDocument")
            .Needs(Permissions.Configure)
            .Produces<SaveResult>()
            .WithSummary("Makes a draft what it was at a revision, as one more change.");
    }

    private static async Task<IResult> List(
        string kind,
        string key,
        long? before,
        DraftDocuments drafts,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var row = await drafts.Row(Kind(kind), key, cancel);
        var (steps, earlier) = await drafts.Steps(row, before, Most, cancel);
        var published = (await releases.LastReadable(kind, key, long.MaxValue, cancel))?.Document;
        var entities = (await drafts.Definitions(cancel)).Entities;
        var now = drafts.ParsedOrNull(row);
        return TypedResults.Json(
            new DocumentHistory(
                row.Revision,
                row.Published,
                published is null || now is null ? null : Words(published, now),
                [
                    .. steps.Select(step => new DocumentChange(
                        step.Change.Revision,
                        step.Change.By,
                        DateTimeOffset.FromUnixTimeMilliseconds(step.Change.At),
                        step.Change.Label,
                        step is { Before: { } was, After: { } next } ? Words(was, next) : null
                    )),
                ],
                earlier
            ),
            WireJson.Default.DocumentHistory
        );

        IReadOnlyList<string> Words(Document one, Document other) =>
            DocumentMerge.Describe(one, other, (entity, field) => entities.GetValueOrDefault(entity)?.Find(field)?.Label).Texts();
    }

    private static async Task<IResult> Restore(
        HttpContext http,
        string kind,
        string key,
        RevisionRequest body,
        DraftDocuments drafts,
        CancellationToken cancel
    ) => TypedResults.Json(await drafts.Restore(Kind(kind), key, body.Revision, http.Caller().Author, cancel), WireJson.Default.SaveResult);

    private static DocumentKind Kind(string name) =>
        DocumentFile.KindNamed(name)
        ?? throw Problems.NotFound($"kind of document", name, Enum.GetValues<DocumentKind>().Select(kind => kind.Name()));
}
