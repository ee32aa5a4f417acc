using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using BrightTier.Contracts;
using BrightTier.Core.Entities;
using BrightTier.Records;
using BrightTier.Service.Access;
using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Service.Releases;
using BrightTier.Storage;

namespace BrightTier.Service.Records;

/// <summary>What people say about records. Whoever may read records may read what is said of them and say something herself; those named are told.</summary>
public static partial class CommentEndpoints
{
    private const int Longest = 4_000;

    public static void MapComments(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("").WithTags("comments");
        group.MapGet("/records/{entity}/{id:long}/comments", List).Produces<IReadOnlyList<CommentInfo>>().WithSummary("What was said about a record, oldest first; from then on one has seen it.");
        group.MapPost("/records/{entity}/{id:long}/comments", Add).Produces<CommentInfo>(201).WithSummary("Says something about a record; @id names a person, who is told.");
        group.MapGet("/mentions", Mentions).Produces<IReadOnlyList<CommentInfo>>().WithSummary("Comments in which one is named and which one has not seen, newest first.");
    }

    private static async Task<IResult> List(HttpContext http, string entity, long id, CurrentRelease releases, IRecordStore records, CommentStore comments, PeopleStore people, CancellationToken cancel)
    {
        var caller = http.Caller(Acts.ReadRecords);
        await InsistOnRecord(entity, id, releases, records, cancel);
        var said = await comments.About(Subject(entity, id), cancel);
        await comments.See(caller.Person.Id, Subject(entity, id), cancel);
        return Json(await Infos(said, people, cancel));
    }

    private static async Task<IResult> Add(
        HttpContext http, string entity, long id, CommentRequest body, CurrentRelease releases, IRecordStore records, CommentStore comments, PeopleStore people, Broadcaster broadcaster, CancellationToken cancel)
    {
        var caller = http.Caller(Acts.ReadRecords);
        await InsistOnRecord(entity, id, releases, records, cancel);
        var text = body.Text?.Trim() ?? "";
        if (text.Length is 0 or > Longest)
        {
            throw Problems.Invalid($"A comment has from 1 to {Longest} characters; this one has {text.Length}.", new ProblemPart("/text", text.Length == 0 ? "must not be empty" : $"must have at most {Longest} characters"));
        }

        var everyone = await people.List(cancel);
        var named = Named(text).Where(each => everyone.Any(person => person.Id == each) && each != caller.Person.Id).ToArray();
        var comment = await comments.Add(Subject(entity, id), caller.Person.Id, text, named, cancel);
        broadcaster.Tell("comment", JsonSerializer.Serialize(new CommentTold(entity, id), WireJson.Default.CommentTold));
        return TypedResults.Json((await Infos([comment], people, cancel))[0], WireJson.Default.CommentInfo, statusCode: 201);
    }

    private static async Task<IResult> Mentions(HttpContext http, CommentStore comments, PeopleStore people, CancellationToken cancel) =>
        Json(await Infos(await comments.Unseen(http.Caller(Acts.ReadRecords).Person.Id, cancel), people, cancel));

    private static async Task InsistOnRecord(string entity, long id, CurrentRelease releases, IRecordStore records, CancellationToken cancel)
    {
        var definition = releases.Entity(entity);
        if (await records.Find(definition, id, cancel) is null)
        {
            throw Problems.NotFound(definition.Label.ToString().ToLowerInvariant(), id.ToString(CultureInfo.InvariantCulture));
        }
    }

    private static string Subject(string entity, long id) => string.Create(CultureInfo.InvariantCulture, $"record/{entity}/{id}");

    private static async Task<IReadOnlyList<CommentInfo>> Infos(IReadOnlyList<CommentRow> rows, PeopleStore people, CancellationToken cancel)
    {
        var names = (await people.List(cancel)).ToDictionary(person => person.Id, person => person.Name);
        return
        [
            .. rows.Select(row => row.Subject.Split('/') is [_, var entity, var id]
                ? new CommentInfo(row.Id, entity, long.Parse(id, CultureInfo.InvariantCulture), row.By, names.GetValueOrDefault(row.By, row.By), DateTimeOffset.FromUnixTimeMilliseconds(row.At), row.Text, [.. Named(row.Text).Where(names.ContainsKey)])
                : throw new InvalidDataException($"Comment {row.Id} is about '{row.Subject}'.")),
        ];
    }

    private static IEnumerable<string> Named(string text) => Mention().Matches(text).Select(match => match.Groups[1].Value).Distinct();

    [GeneratedRegex(@"(?<![\w@])@([A-Za-z][\w-]*)")]
    private static partial Regex Mention();

    private static IResult Json(IReadOnlyList<CommentInfo> comments) => TypedResults.Json(comments, WireJson.Default.IReadOnlyListCommentInfo);
}
