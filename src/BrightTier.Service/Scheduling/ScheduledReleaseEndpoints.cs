using System.Globalization;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Scheduling;

/// <summary>Releases set for a time to come.</summary>
public static class ScheduledReleaseEndpoints
{
    public static void MapScheduledReleases(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scheduled-releases").WithTags("releases");
        group
            .MapGet("", List)
            .WithName("listScheduledReleases")
            .NeedsReader()
            .Produces<IReadOnlyList<ScheduledReleaseInfo>>()
            .WithSummary("Scheduled releases, newest first.");
        group
            .MapPost("", Schedule)
            .WithName("scheduleRelease")
            .Needs(Permissions.Publish)
            .Produces<ScheduledReleaseInfo>(201)
            .WithSummary("Schedules a release of drafts, as they are now.");
        group
            .MapPost("/{id:long}/cancel", Cancel)
            .WithName("cancelScheduledRelease")
            .Needs(Permissions.Publish)
            .Produces<ScheduledReleaseInfo>()
            .WithSummary("Cancels a scheduled release; the drafts stay as they are.");
    }

    private static async Task<IResult> Schedule(
        HttpContext http,
        ScheduleRequest body,
        ReleasePublisher publisher,
        AuditStore audit,
        Broadcaster broadcaster,
        CancellationToken cancel
    )
    {
        var caller = http.Publisher(body.Note, body.OverrideReason);
        var release = await publisher.Schedule(body, caller.Author, CancellationToken.None);
        await audit.Note(
            caller.Person.Id,
            "release.scheduled",
            Subject(release),
            new
            {
                at = body.At,
                note = body.Note,
                documents = body.Documents.Select(document => $"{document.Kind}/{document.Key}"),
                rollout = body.Rollout,
                overrideReason = body.OverrideReason,
            },
            CancellationToken.None
        );
        Announce(release.Id, release.State, broadcaster);
        return CreatedResource.At(http, "/api/scheduled-releases", Info(release), WireJson.Default.ScheduledReleaseInfo);
    }

    private static async Task<IResult> List(HttpContext http, ScheduledReleaseStore scheduled, CancellationToken cancel)
    {
        return TypedResults.Json<IReadOnlyList<ScheduledReleaseInfo>>(
            [.. (await scheduled.List(cancel)).Select(Info)],
            WireJson.Default.IReadOnlyListScheduledReleaseInfo
        );
    }

    private static async Task<IResult> Cancel(
        HttpContext http,
        long id,
        ScheduledReleaseStore scheduled,
        ReleasePublisher publisher,
        AuditStore audit,
        Broadcaster broadcaster,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var release = await scheduled.Find(id, cancel)
            ?? throw Problems.NotFound($"scheduled release", id.ToString(CultureInfo.InvariantCulture));
        await publisher.RequirePublisher(release, caller.Author, cancel);
        if (!await scheduled.Become(id, ScheduledReleaseRow.Cancelled, null, null, cancel))
        {
            throw new RefusedException(
                409,
                "not-scheduled",
                release.Release is { } number ? (Message)$"It is out already, as release {number}." : $"It is not waiting any more."
            );
        }

        await audit.Note(caller.Person.Id, "release.schedule-cancelled", Subject(release), null, cancel);
        Announce(id, ScheduledReleaseRow.Cancelled, broadcaster);
        return TypedResults.Json(Info((await scheduled.Find(id, cancel))!), WireJson.Default.ScheduledReleaseInfo);
    }

    private static ScheduledReleaseInfo Info(ScheduledReleaseRow release) =>
        new(
            release.Id,
            release.By,
            release.Note,
            Moment(release.Made),
            Moment(release.Due),
            release.Terms is { } terms ? Audience.Read(terms) : null,
            release.State,
            release.Reason,
            release.Release,
            [.. release.Documents.Select(document => new DraftReference(document.Kind, document.Key, document.Revision))]
        );

    private static string Subject(ScheduledReleaseRow release) => $"scheduled-release/{release.Id}";

    private static void Announce(long id, string state, Broadcaster broadcaster) =>
        broadcaster.Publish(
            "scheduled-release",
            JsonSerializer.Serialize(new ScheduledReleaseEvent(id, state), WireJson.Default.ScheduledReleaseEvent),
            forConfigurators: true
        );

    private static DateTimeOffset Moment(long at) => DateTimeOffset.FromUnixTimeMilliseconds(at);
}
