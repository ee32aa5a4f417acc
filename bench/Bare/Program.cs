// The reference for P1 and P12: the smallest ASP.NET Core program that writes the same bytes with the same headers.
var body = args.Length > 1 ? File.ReadAllBytes(args[1]) : [];
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
app.Run();
