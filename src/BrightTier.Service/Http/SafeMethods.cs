namespace BrightTier.Service.Http;

/// <summary>HEAD and OPTIONS of everything that can be read (RFC 9110, 9.3.2 and 9.3.7).</summary>
public static class SafeMethods
{
    /// <summary>HEAD is GET without its body. A stream of events has no end, and so no HEAD.</summary>
    public static async Task Head(HttpContext http, RequestDelegate next)
    {
        if (!HttpMethods.IsHead(http.Request.Method) || http.Request.Path.StartsWithSegments("/api/events", StringComparison.Ordinal))
        {
            await next(http);
            return;
        }

        var body = http.Response.Body;
        http.Request.Method = HttpMethods.Get;
        http.Response.Body = Stream.Null;
        try
        {
            await next(http);
        }
        finally
        {
            http.Request.Method = HttpMethods.Head;
            http.Response.Body = body;
        }
    }

    /// <summary>What can be done with a resource, also where what was tried cannot: HEAD wherever GET is, OPTIONS everywhere.</summary>
    public static async Task Allow(HttpContext http, RequestDelegate next)
    {
        await next(http);
        if (http.Response.StatusCode == 405 && http.Response.Headers.Allow.ToString() is { Length: > 0 } allowed)
        {
            http.Response.Headers.Allow =
                $"{allowed}{(allowed.Contains(HttpMethods.Get, StringComparison.Ordinal) ? ", HEAD" : "")}, OPTIONS";
            if (HttpMethods.IsOptions(http.Request.Method))
            {
                http.Response.StatusCode = 204;
            }
        }
    }
}
