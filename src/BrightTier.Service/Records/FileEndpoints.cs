using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Records;

/// <summary>Files and images that records name: kept by the hash of their content, never served as something active.</summary>
public static class FileEndpoints
{
    private const long Largest = 20_000_000;

    public static void MapFiles(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/files").WithTags("files");
        group
            .MapPost("", Store)
            .WithName("uploadFile")
            .Needs(Permissions.WriteRecords)
            .TakesAtMost(BodySizes.Largest)
            .Accepts<byte[]>("application/octet-stream")
            .Produces<StoredFile>(201)
            .WithSummary("Stores the body under the name in ?name=; the answer's value goes into a field.");
        group
            .MapGet("/{hash}/{name}", Get)
            .WithName("downloadFile")
            .Needs(Permissions.ReadRecords)
            .WithMetadata(new NoCompression())
            .Produces<byte[]>(200, "application/octet-stream")
            .WithSummary("A stored file; images as such, all else as a download.");
    }

    private static async Task<IResult> Store(HttpContext http, string? name, FileStore files, CancellationToken cancel)
    {
        var clean = Path.GetFileName(name ?? "").Trim();
        if (
            clean.Length is 0 or > 120
            || clean.Any(char.IsControl)
            || clean.Contains('\\', StringComparison.Ordinal)
            || BrightTier.Core.Model.TextCharacters.Problem(clean) is not null
        )
        {
            throw Problems.Invalid(
                $"A file needs a name of at most 120 characters in ?name=.",
                Problems.Part("name", $"is missing or too long")
            );
        }

        var body = new MemoryStream();
        var buffer = new byte[81_920];
        for (int read; (read = await http.Request.Body.ReadAsync(buffer, cancel)) > 0; )
        {
            if (body.Length + read > Largest)
            {
                throw new RefusedException(413, "body-too-large", $"A file has at most {Largest / 1_000_000} MB.");
            }

            body.Write(buffer.AsSpan(0, read));
        }

        if (body.Length == 0)
        {
            throw Problems.Invalid($"The file is empty.");
        }

        var bytes = body.ToArray();
        var stored = new StoredFile(
            $"{await files.Save(bytes, cancel)}/{clean}",
            TypeOf(bytes) ?? "application/octet-stream",
            bytes.Length
        );
        return CreatedResource.At(http, $"/api/files/{stored.Value}", stored, WireJson.Default.StoredFile);
    }

    private static async Task<IResult> Get(HttpContext http, string hash, string name, FileStore files, CancellationToken cancel)
    {
        var body = await files.Find(hash, cancel) ?? throw Problems.NotFound($"file", name);
        http.Response.Headers.XContentTypeOptions = "nosniff";
        http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        // Named by its content, it never becomes another.
        http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return TypeOf(body) is { } type
            ? TypedResults.Bytes(body, type)
            : TypedResults.Bytes(body, "application/octet-stream", Path.GetFileName(name));
    }

    /// <summary>The type of an image by its first bytes; null for anything else, whatever it calls itself.</summary>
    private static string? TypeOf(ReadOnlySpan<byte> head) =>
        head.Length > 4 && head[1..].StartsWith("PNG"u8) ? "image/png"
        : head.Length > 3 && head[0] == 0xFF && head[1] == 0xD8 ? "image/jpeg"
        : head.StartsWith("GIF8"u8) ? "image/gif"
        : head.Length >= 12 && head.StartsWith("RIFF"u8) && head[8..].StartsWith("WEBP"u8) ? "image/webp"
        : null;
}
