// The reference for P1, P6, P9, P10, P12 and P16: the smallest ASP.NET Core program that writes the same bytes with the same headers, or
// the same rows.
var body = args.Length > 1 && File.Exists(args[1]) ? File.ReadAllBytes(args[1]) : [];
var files =
    args.Length > 1 && Directory.Exists(args[1])
        ? Directory
            .EnumerateFiles(args[1], "*", SearchOption.AllDirectories)
            .ToDictionary(file => Path.GetRelativePath(args[1], file), File.ReadAllBytes)
        : [];
var builder = WebApplication.CreateSlimBuilder();
builder.Logging.ClearProviders();
builder.WebHost.UseUrls(args[0]).ConfigureKestrel(kestrel => kestrel.AddServerHeader = false);
var app = builder.Build();
app.MapGet("/form", (HttpContext http) =>
{
    http.Response.Headers.ETag = "\"1\"";
    http.Response.ContentType = "application/json; charset=utf-8";
    http.Response.ContentLength = body.Length;
    return http.Response.Body.WriteAsync(body, 0, body.Length);
});
app.MapGet("/health/ready", () => "ready");
Bare.Streams.Map(app);
Bare.RecordSave.Map(app, args.Length > 2 ? args[2] : null);
Bare.DraftSave.Map(app, args.Length > 2 ? args[2] : null);
app.MapGet("/{**path}", (string path, HttpContext http) =>
{
    if (!files.TryGetValue(path, out var content))
    {
        http.Response.StatusCode = 404;
        return Task.CompletedTask;
    }

    http.Response.Headers.CacheControl = path.StartsWith("assets/", StringComparison.Ordinal)
        ? "public, max-age=31536000, immutable"
        : "no-cache";
    http.Response.ContentType = Path.GetExtension(path) switch
    {
        ".css" => "text/css; charset=utf-8",
        ".woff2" => "font/woff2",
        ".svg" => "image/svg+xml",
        _ => "text/html; charset=utf-8",
    };
    http.Response.ContentLength = content.Length;
    return http.Response.Body.WriteAsync(content, 0, content.Length);
});
app.Run();
