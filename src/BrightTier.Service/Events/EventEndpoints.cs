using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using Microsoft.AspNetCore.Http.Features;

namespace BrightTier.Service.Events;

/// <summary>
/// Server-sent events: <c>hello</c> with the name of the stream and the release, <c>release</c> with the number of the one that is current
/// for whoever
/// listens, <c>draft</c>, <c>approval</c>, <c>scheduled-release</c> and <c>rollout</c> (for those who read drafts), <c>comment</c> with
/// what it is about,
/// <c>person</c> with whose roles or language are others now.
/// </summary>
public static class EventEndpoints
{
    public static void MapEvents(this IEndpointRouteBuilder api)
    {
        api.MapGet(
                "/events",
                async (
                    HttpContext http,
                    string? after,
                    Broadcaster broadcaster,
                    CurrentRelease releases,
                    TimeProvider time,
                    IHostApplicationLifetime lifetime
                ) =>
                {
                    var caller = http.Caller();
                    var snapshot = releases.Snapshot;
                    var who = new Subscriber(
                        caller.Person.Id,
                        caller.Credential,
                        caller.Roles,
                        Callers.Reads(caller.PermissionsIn(snapshot.Definitions.Application, snapshot.Number))
                    );
                    // A browser that comes back says in the header what it heard last; the address is that of the first time.
                    var last = http.Request.Headers["Last-Event-ID"].ToString() is { Length: > 0 } heard ? heard : after;
                    // Without this a stop would wait for every open stream.
                    using var until = CancellationTokenSource.CreateLinkedTokenSource(http.RequestAborted, lifetime.ApplicationStopping);
                    // It ends with the session or token it began with; after three weeks at the latest, which is as far as a timer reaches.
                    var left = caller.Expires - time.GetUtcNow().ToUnixTimeMilliseconds();
                    until.CancelAfter(TimeSpan.FromMilliseconds(Math.Clamp(left, 1, (long)TimeSpan.FromDays(21).TotalMilliseconds)));
                    http.Response.ContentType = "text/event-stream";
                    http.Response.Headers.CacheControl = "no-cache, no-store";
                    http.Response.Headers["X-Accel-Buffering"] = "no";
                    http.Features.Get<IHttpResponseBodyFeature>()?.DisableBuffering();
                    await broadcaster.Follow(
                        string.IsNullOrEmpty(last) ? null : last,
                        who,
                        snapshot.Number,
                        http.Response.BodyWriter,
                        until.Token
                    );
                }
            )
            .WithName("followEvents")
            .Needs()
            .WithMetadata(new NoCompression())
            .WithTags("events")
            .Produces<string>(200, "text/event-stream")
            .WithSummary("What happens, as it happens; begins after the event named by Last-Event-ID or the parameter after.")
            .DisableRequestTimeout();
        api.MapPost("/events/acknowledge", (HttpContext http, AcknowledgeRequest body, Broadcaster broadcaster) =>
            {
                var caller = http.Caller();
                if (body.Release < 1)
                {
                    throw Problems.Invalid($"A release has a number from 1 on.", Problems.Part("/release", $"must be 1 or more"));
                }

                // A stream that another process holds, or that has gone, is not counted; its client says so again under the next.
                broadcaster.HasDrawn(body.Stream, caller.Person.Id, body.Release);
                return TypedResults.NoContent();
            })
            .WithName("acknowledgeRelease")
            .WithMetadata(new HarmlessCall())
            .Needs()
            .WithTags("events")
            .Produces(204)
            .WithSummary("Acknowledges that the client of a stream shows a release; the release's receipt counts them.");
    }
}
