using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Audit;
using BrightTier.Service.Auth;
using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Service.Releases;
using BrightTier.Storage;

namespace BrightTier.Service.Scheduling;

/// <summary>Releases set for a time to come.</summary>
public static class ScheduledReleaseEndpoints
{
    public static void MapScheduledReleases(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scheduled-releases").WithTags("releases");
        group.MapGet("", List).WithName("listScheduledReleases").NeedsReader().Produces<IReadOnlyList<ScheduledReleaseInfo>>().WithSummary("Scheduled releases, newest first.");
        group.MapPost("", Schedule).WithName("scheduleRelease").Needs(Acts.Publish).Produces<ScheduledReleaseInfo>(201)
            .WithSummary("Schedules a release of drafts, as they are now.");
        group.MapPost("/{id:long}/cancel", Cancel).WithName("cancelScheduledRelease").Needs(Acts.Publish).Produces<ScheduledReleaseInfo>()
            .WithSummary("Cancels a scheduled release; the drafts stay as they are.");
    }

    private static async Task<IResult> Schedule(HttpContext http, ScheduleRequest body, ReleasePublisher publishing, AuditTrail audit, Broadcaster broadcaster, CancellationToken cancel)
    {
        var caller = ReleaseEndpoints.Publisher(http, body.Note, body.OverrideReason);
        var plan = await publishing.Plan(body, caller.Author, CancellationToken.None);
        await audit.Note(caller.Person.Id, "release.scheduled", Subject(plan), new { at = body.At, note = body.Note, documents = body.Documents.Select(document => $"{document.Kind}/{document.Key}"), roles = body.Roles, overrideReason = body.OverrideReason }, CancellationToken.None);
        Told(plan.Id, plan.State, broadcaster);
        return TypedResults.Json(Info(plan), WireJson.Default.ScheduledReleaseInfo, statusCode: 201);
    }

    private static async Task<IResult> List(HttpContext http, ScheduledReleaseStore plans, CancellationToken cancel)
    {
        return TypedResults.Json<IReadOnlyList<ScheduledReleaseInfo>>([.. (await plans.List(cancel)).Select(Info)], WireJson.Default.IReadOnlyListScheduledReleaseInfo);
    }

    private static async Task<IResult> Cancel(HttpContext http, long id, ScheduledReleaseStore plans, ReleasePublisher publishing, AuditTrail audit, Broadcaster broadcaster, CancellationToken cancel)
    {
        var caller = http.Caller();
        var plan = await plans.Find(id, cancel) ?? throw Problems.NotFound("scheduled release", id.ToString(CultureInfo.InvariantCulture));
        await publishing.InsistOnPlan(plan, caller.Author, cancel);
        if (!await plans.Become(id, ScheduledReleaseRow.Cancelled, null, null, cancel))
        {
            throw new RefusedException(409, "not-scheduled", plan.Release is { } release ? $"It is out already, as release {release}." : "It is not waiting any more.");
        }

        await audit.Note(caller.Person.Id, "release.schedule-cancelled", Subject(plan), null, cancel);
        Told(id, ScheduledReleaseRow.Cancelled, broadcaster);
        return TypedResults.Json(Info((await plans.Find(id, cancel))!), WireJson.Default.ScheduledReleaseInfo);
    }

    private static ScheduledReleaseInfo Info(ScheduledReleaseRow plan) => new(
        plan.Id, plan.By, plan.Note, ReleaseEndpoints.Moment(plan.Made), ReleaseEndpoints.Moment(plan.Due), plan.Roles?.Split(' '), plan.EveryoneAt is { } at ? ReleaseEndpoints.Moment(at) : null, plan.State, plan.Reason, plan.Release,
        [.. plan.Documents.Select(document => new DraftReference(document.Kind, document.Key, document.Revision))]);

    private static string Subject(ScheduledReleaseRow plan) => $"scheduled-release/{plan.Id}";

    private static void Told(long plan, string state, Broadcaster broadcaster) =>
        broadcaster.Tell("scheduled-release", System.Text.Json.JsonSerializer.Serialize(new { plan, state }), forConfigurators: true);
}
