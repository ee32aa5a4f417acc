namespace BrightTier.Service.Http;

/// <summary>Headers that keep pages from being framed, sniffed or made to run what is not ours.</summary>
public sealed class SecurityHeaders(RequestDelegate next)
{
    // The one style sheet allowed by its hash is what the component library of the designer adds to the page.
    private const string Policy =
        "default-src 'self'; style-src 'self' 'sha256-38RhXrc7EdReTKsOm23ZPOCUgniTUUcjky8QOOrQx6o='; img-src 'self' blob: "
        + "data:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'";

    public Task Invoke(HttpContext http)
    {
        http.Response.Headers.ContentSecurityPolicy = Policy;
        http.Response.Headers.XContentTypeOptions = "nosniff";
        http.Response.Headers["Referrer-Policy"] = "same-origin";
        return next(http);
    }
}
