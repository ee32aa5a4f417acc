using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Comments;

/// <summary>
/// What people say about drafts and their items, for whoever may look at drafts. A comment holds to an item by its id, and so goes with it
/// wherever it
/// is moved; of an item that is gone it stays with the draft.
/// </summary>
public static class DraftCommentEndpoints
{
    public static void MapDraftComments(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/drafts/{kind}/{key}/comments").WithTags("comments");
        group
            .MapGet("", List)
            .WithName("listDraftComments")
            .NeedsReader()
            .Produces<IReadOnlyList<CommentInfo>>()
            .WithSummary("The comments on a draft and its items, oldest first; one's mentions in them count as read.");
        group
            .MapPost("", Add)
            .WithName("createDraftComment")
            .NeedsReader()
            .Produces<CommentInfo>(201)
            .WithSummary("Adds a comment to a draft, or to one item of a layout; @id mentions a person.");
        api.MapPut("/comments/{id:long}/resolved", Resolve)
            .WithName("resolveComment")
            .Needs(Permissions.ReadRecords, Permissions.Configure, Permissions.Review, Permissions.Publish)
            .WithTags("comments")
            .Produces<CommentInfo>()
            .WithSummary("Resolves a comment, or opens it again.");
    }

    private static async Task<IResult> List(
        HttpContext http,
        string kind,
        string key,
        DraftDocuments drafts,
        CommentThreads said,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var row = await drafts.Row(Kind(kind), key, cancel);
        return TypedResults.Json(
            await said.About(CommentSubject.Draft(row.Kind, row.Key), caller.Person.Id, cancel),
            WireJson.Default.IReadOnlyListCommentInfo
        );
    }

    private static async Task<IResult> Add(
        HttpContext http,
        string kind,
        string key,
        CommentRequest body,
        DraftDocuments drafts,
        CommentThreads said,
        Broadcaster broadcaster,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var row = await drafts.Row(Kind(kind), key, cancel);
        if (
            body.Item is { } item
            && (drafts.Parsed(row) is not Document.OfLayout { Layout: var layout } || layout.Find(new NodeId(item)) is null)
        )
        {
            throw Problems.Invalid($"'{key}' has no item '{item}'.", Problems.Part("/item", $"is no item of it"));
        }

        var comment = await said.Add(CommentSubject.Draft(row.Kind, row.Key), body, caller.Person.Id, cancel);
        Publish(broadcaster, comment);
        return CreatedResource.At(http, $"/api/drafts/{kind}/{key}/comments", comment, WireJson.Default.CommentInfo);
    }

    private static async Task<IResult> Resolve(
        HttpContext http,
        long id,
        ResolveRequest body,
        CommentThreads said,
        Broadcaster broadcaster,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var (comment, _) = await said.Find(id, cancel);
        caller = comment.Draft is null ? http.Caller(Permissions.ReadRecords) : http.Reader();
        comment = await said.Resolve(id, body.Resolved, caller.Person.Id, cancel);
        Publish(broadcaster, comment);
        return TypedResults.Json(comment, WireJson.Default.CommentInfo);
    }

    private static void Publish(Broadcaster broadcaster, CommentInfo comment) =>
        broadcaster.Publish(
            "comment",
            JsonSerializer.Serialize(new CommentEvent(comment.Entity, comment.Record, comment.Draft), WireJson.Default.CommentEvent),
            forConfigurators: comment.Draft is not null
        );

    private static DocumentKind Kind(string word) =>
        DocumentFile.KindNamed(word)
        ?? throw Problems.Invalid(
            $"There are no documents of kind '{word}'; there are: {string.Join(", ", DocumentFile.KindNames)}.",
            Problems.Part("kind", $"is no kind")
        );
}
