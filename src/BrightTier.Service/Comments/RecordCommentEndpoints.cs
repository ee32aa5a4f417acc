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

/// <summary>What people say about records. Whoever may read records may read what is said of them and say something herself; those named are told.</summary>
public static class RecordCommentEndpoints
{
    public static void MapRecordComments(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("").WithTags("comments");
        group.MapGet("/records/{entity}/{id:long}/comments", List).WithName("listRecordComments").Needs(Permissions.ReadRecords).Produces<IReadOnlyList<CommentInfo>>().WithSummary("What was said about a record, oldest first; from then on one has seen it.");
        group.MapPost("/records/{entity}/{id:long}/comments", Add).WithName("createRecordComment").Needs(Permissions.ReadRecords).Produces<CommentInfo>(201).WithSummary("Says something about a record; @id names a person, who is told.");
        group.MapGet("/mentions", Mentions).WithName("listMentions").Needs(Permissions.ReadRecords).Produces<IReadOnlyList<CommentInfo>>().WithSummary("Comments in which one is named and which one has not seen, newest first.");
    }

    private static async Task<IResult> List(HttpContext http, string entity, long id, CurrentRelease releases, IRecordStore records, CommentThreads said, CancellationToken cancel)
    {
        var caller = http.Caller();
        await InsistOnRecord(entity, id, releases, records, cancel);
        return TypedResults.Json(await said.About(CommentSubject.Record(entity, id), caller.Person.Id, cancel), WireJson.Default.IReadOnlyListCommentInfo);
    }

    private static async Task<IResult> Add(
        HttpContext http, string entity, long id, CommentRequest body, CurrentRelease releases, IRecordStore records, CommentThreads said, Broadcaster broadcaster, CancellationToken cancel)
    {
        var caller = http.Caller();
        await InsistOnRecord(entity, id, releases, records, cancel);
        if (body.Item is not null)
        {
            throw Problems.Invalid("A comment on a record names no item; leave 'item' out.", new ProblemPart("/item", "must be left out"));
        }

        var comment = await said.Add(CommentSubject.Record(entity, id), body, caller.Person.Id, cancel);
        broadcaster.Tell("comment", JsonSerializer.Serialize(new CommentTold(entity, id), WireJson.Default.CommentTold));
        return TypedResults.Json(comment, WireJson.Default.CommentInfo, statusCode: 201);
    }

    private static async Task<IResult> Mentions(HttpContext http, CommentThreads said, CancellationToken cancel) =>
        TypedResults.Json(await said.Unseen(http.Caller().Person.Id, cancel), WireJson.Default.IReadOnlyListCommentInfo);

    private static async Task InsistOnRecord(string entity, long id, CurrentRelease releases, IRecordStore records, CancellationToken cancel)
    {
        var definition = releases.Entity(entity);
        if (await records.Find(definition, id, cancel) is null)
        {
            throw Problems.NotFound(definition.Label.ToString().ToLowerInvariant(), id.ToString(CultureInfo.InvariantCulture));
        }
    }
}
