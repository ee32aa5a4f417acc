using System.Globalization;
using BrightTier.Core.Entities;
using BrightTier.Service.Access;
using BrightTier.Service.Releases;

namespace BrightTier.Service.Events;

/// <summary>
/// Server-sent events: <c>release</c> with the current number, <c>draft</c> (for configurators) with a layout's key and revision, <c>comment</c> with
/// the record it is about, <c>person</c> with whose roles or language are others now.
/// </summary>
public static class EventEndpoints
{
    public static void MapEvents(this IEndpointRouteBuilder api) =>
        api.MapGet("/events", (HttpContext http, Broadcaster broadcaster, CurrentRelease releases, IHostApplicationLifetime lifetime) =>
        {
            var caller = http.Caller();
            var snapshot = releases.Snapshot;
            var configurator = caller.May(snapshot.Definitions.Application, snapshot.Number).Contains(Acts.Configure);
            var last = http.Request.Headers["Last-Event-ID"].ToString();
            // Without this a stop would wait for every open stream.
            var until = CancellationTokenSource.CreateLinkedTokenSource(http.RequestAborted, lifetime.ApplicationStopping);
            http.Response.RegisterForDispose(until);
            http.Response.Headers["X-Accel-Buffering"] = "no";
            var hello = string.Create(CultureInfo.InvariantCulture, $"{{\"release\":{snapshot.Number}}}");
            return TypedResults.ServerSentEvents(broadcaster.Follow(last.Length == 0 ? null : last, caller.Person.Id, configurator, hello, until.Token));
        })
        .WithTags("events")
        .WithSummary("What happens, as it happens; resumes by Last-Event-ID.");
}
