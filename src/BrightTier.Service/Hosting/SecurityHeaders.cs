namespace BrightTier.Service.Hosting;

/// <summary>Headers that keep pages from being framed, sniffed or made to run what is not ours.</summary>
public sealed class SecurityHeaders(RequestDelegate next)
{
    private const string Policy =
        "default-src 'self'; img-src 'self' blob: data:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'";

    public Task Invoke(HttpContext http)
    {
        http.Response.Headers.ContentSecurityPolicy = Policy;
        http.Response.Headers.XContentTypeOptions = "nosniff";
        http.Response.Headers["Referrer-Policy"] = "same-origin";
        return next(http);
    }
}
