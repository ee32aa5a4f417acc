using BrightTier.Service.Http;
using Microsoft.AspNetCore.Antiforgery;

namespace BrightTier.Service.Auth;

/// <summary>Refuses calls that change something and that another page could have made with somebody's cookie.</summary>
public static class CrossSiteGuard
{
    public static async Task Middleware(HttpContext http, RequestDelegate next)
    {
        // What routing itself answers with (405, 415) is no route.
        if (
            http.GetEndpoint() is RouteEndpoint
            && Changes(http.Request.Method)
            && http.CallerOrNull() is { ByCookie: true }
            && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http)
        )
        {
            throw new RefusedException(
                403,
                "antiforgery",
                $"This call changes something and was made with a cookie: send the antiforgery value of GET /api/session in "
                    + $"the header X-Antiforgery."
            );
        }

        await next(http);
    }

    /// <summary>Whether calls by a method may change something (RFC 9110, 9.2.1).</summary>
    internal static bool Changes(string method) =>
        !HttpMethods.IsGet(method) && !HttpMethods.IsHead(method) && !HttpMethods.IsOptions(method);
}
