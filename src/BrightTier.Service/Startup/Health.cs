using BrightTier.Service.Events;
using BrightTier.Service.Hosting;

namespace BrightTier.Service.Startup;

/// <summary>
/// How the process is, for balancers and whoever watches: <c>/health/live</c>, <c>/health/ready</c> and <c>/health/stale</c>. Answered
/// before
/// anything else is looked at, so that being asked often costs nothing, and being asked first does not hold the start up.
/// </summary>
public static class Health
{
    public static Task Middleware(HttpContext http, RequestDelegate next) =>
        http.Request.Path.Value switch
        {
            "/health/live" => Answer(http, 200, "live"),
            "/health/ready" => !http.RequestServices.GetRequiredService<Readiness>().IsReady ? Answer(http, 503, "not yet")
            : http.RequestServices.GetRequiredService<Maintenance>().Unwritable is not null
                ? Answer(http, 503, "not writable: the data folder is full or read-only")
            : Answer(http, 200, "ready"),
            "/health/stale" => http.RequestServices.GetService<PostgresBackplane>() is { IsStale: true }
                ? Answer(http, 503, "stale")
                : Answer(http, 200, "current"),
            _ => next(http),
        };

    private static Task Answer(HttpContext http, int status, string word)
    {
        http.Response.StatusCode = status;
        http.Response.ContentType = "text/plain; charset=utf-8";
        http.Response.Headers.CacheControl = "no-store";
        return http.Response.WriteAsync(word);
    }
}
