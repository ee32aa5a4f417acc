using System.Collections.Concurrent;
using System.IO.Compression;
using Microsoft.Extensions.FileProviders;

namespace BrightTier.Service.Pages;

/// <summary>Scripts and style sheets of the console, compressed once and kept.</summary>
public sealed class PrecompressedAssets(RequestDelegate next, IFileProvider files)
{
    private readonly ConcurrentDictionary<string, byte[]> compressed = new();

    public async Task Invoke(HttpContext http)
    {
        var path = http.Request.Path.Value!;
        var type = Path.GetExtension(path) switch
        {
            ".js" => "text/javascript; charset=utf-8",
            ".css" => "text/css; charset=utf-8",
            _ => null,
        };
        if (
            type is null
            || !path.StartsWith("/assets/", StringComparison.Ordinal)
            || !http.Request.Headers.AcceptEncoding.ToString().Contains("gzip", StringComparison.Ordinal)
            || files.GetFileInfo(path) is not { Exists: true } file
        )
        {
            await next(http);
            return;
        }

        var body = compressed.GetOrAdd(path, _ =>
        {
            var target = new MemoryStream();
            using (var source = file.CreateReadStream())
            using (var gzip = new GZipStream(target, CompressionLevel.SmallestSize))
            {
                source.CopyTo(gzip);
            }

            return target.ToArray();
        });
        http.Response.Headers.ContentEncoding = "gzip";
        http.Response.Headers.Vary = "Accept-Encoding";
        http.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
        http.Response.ContentType = type;
        http.Response.ContentLength = body.Length;
        await http.Response.Body.WriteAsync(body, http.RequestAborted);
    }
}
