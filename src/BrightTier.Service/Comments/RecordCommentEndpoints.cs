using System.Globalization;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Comments;

/// <summary>
/// What people say about records. Whoever may read records may read what is said of them and say something herself; those named are told.
/// </summary>
public static class RecordCommentEndpoints
{
    public static void MapRecordComments(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("").WithTags("comments");
        group
            .MapGet("/records/{entity}/{id:long}/comments", List)
            .WithName("listRecordComments")
            .Needs(Permissions.ReadRecords)
            .Produces<IReadOnlyList<CommentInfo>>()
            .WithSummary("The comments on a record, oldest first; one's mentions in them count as read.");
        group
            .MapPost("/records/{entity}/{id:long}/comments", Add)
            .WithName("createRecordComment")
            .Needs(Permissions.ReadRecords)
            .Produces<CommentInfo>(201)
            .WithSummary("Adds a comment to a record; @id mentions a person.");
        group
            .MapGet("/mentions", Mentions)
            .WithName("listMentions")
            .Needs(Permissions.ReadRecords)
            .Produces<IReadOnlyList<CommentInfo>>()
            .WithSummary("Comments that mention one and are not read yet, newest first.");
    }

    private static async Task<IResult> List(
        HttpContext http,
        string entity,
        long id,
        CurrentRelease releases,
        IRecordStore records,
        CommentThreads said,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        await RequireRecord(entity, id, releases, records, cancel);
        return TypedResults.Json(
            await said.About(CommentSubject.Record(entity, id), caller.Person.Id, cancel),
            WireJson.Default.IReadOnlyListCommentInfo
        );
    }

    private static async Task<IResult> Add(
        HttpContext http,
        string entity,
        long id,
        CommentRequest body,
        CurrentRelease releases,
        IRecordStore records,
        CommentThreads said,
        Broadcaster broadcaster,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        await RequireRecord(entity, id, releases, records, cancel);
        if (body.Item is not null)
        {
            throw Problems.Invalid($"A comment on a record names no item; leave 'item' out.", Problems.Part("/item", $"must be left out"));
        }

        var comment = await said.Add(CommentSubject.Record(entity, id), body, caller.Person.Id, cancel);
        broadcaster.Publish("comment", JsonSerializer.Serialize(new CommentEvent(entity, id), WireJson.Default.CommentEvent));
        return CreatedResource.At(http, $"/api/records/{entity}/{id}/comments", comment, WireJson.Default.CommentInfo);
    }

    private static async Task<IResult> Mentions(HttpContext http, CommentThreads said, CancellationToken cancel) =>
        TypedResults.Json(await said.Unseen(http.Caller().Person.Id, cancel), WireJson.Default.IReadOnlyListCommentInfo);

    private static async Task RequireRecord(string entity, long id, CurrentRelease releases, IRecordStore records, CancellationToken cancel)
    {
        var definition = releases.Entity(entity);
        if (await records.Find(definition, id, cancel) is null)
        {
            throw Problems.NotFound($"{definition.Label.Lower()}", id.ToString(CultureInfo.InvariantCulture));
        }
    }
}
