using System.Security.Cryptography;
using BrightTier.Contracts;
using BrightTier.Core.Entities;
using BrightTier.Service.Access;
using BrightTier.Service.Hosting;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Records;

/// <summary>Files and images that records name: kept by the hash of their content, never served as something active.</summary>
public static class FileEndpoints
{
    private const long Largest = 20_000_000;

    public static void MapFiles(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/files").WithTags("files");
        group.MapPost("", Store).Accepts<byte[]>("application/octet-stream").Produces<StoredFile>(201).WithSummary("Stores the body under the name in ?name=; the answer's value goes into a field.");
        group.MapGet("/{hash}/{name}", Get).Produces<byte[]>(200, "application/octet-stream").WithSummary("A stored file; images as such, all else as a download.");
    }

    private static async Task<IResult> Store(HttpContext http, string? name, IOptions<ServiceOptions> options, CancellationToken cancel)
    {
        http.Caller(Acts.WriteRecords);
        var clean = Path.GetFileName(name ?? "").Trim();
        if (clean.Length is 0 or > 120 || clean.Any(char.IsControl))
        {
            throw Problems.Invalid("A file needs a name of at most 120 characters in ?name=.", new ProblemPart("name", "is missing or too long"));
        }

        var folder = Directory.CreateDirectory(Path.Combine(options.Value.Data, "files")).FullName;
        var arriving = Path.Combine(folder, $"{Guid.NewGuid():N}.arriving");
        try
        {
            long size = 0;
            using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            await using (var target = File.Create(arriving))
            {
                var buffer = new byte[81_920];
                for (int read; (read = await http.Request.Body.ReadAsync(buffer, cancel)) > 0;)
                {
                    size += read;
                    if (size > Largest)
                    {
                        throw new RefusedException(413, "body-too-large", $"A file has at most {Largest / 1_000_000} MB.");
                    }

                    hash.AppendData(buffer.AsSpan(0, read));
                    await target.WriteAsync(buffer.AsMemory(0, read), cancel);
                }
            }

            if (size == 0)
            {
                throw Problems.Invalid("The file is empty.");
            }

            var hex = Convert.ToHexStringLower(hash.GetHashAndReset());
            File.Move(arriving, Path.Combine(folder, hex), overwrite: true);
            return TypedResults.Json(new StoredFile($"{hex}/{clean}", TypeOf(Path.Combine(folder, hex)) ?? "application/octet-stream", size), WireJson.Default.StoredFile, statusCode: 201);
        }
        finally
        {
            File.Delete(arriving);
        }
    }

    private static IResult Get(HttpContext http, string hash, string name, IOptions<ServiceOptions> options)
    {
        http.Caller(Acts.ReadRecords);
        var file = Path.GetFullPath(Path.Combine(options.Value.Data, "files", hash));
        if (hash.Length != 64 || !hash.All(char.IsAsciiHexDigitLower) || !File.Exists(file))
        {
            throw Problems.NotFound("file", name);
        }

        http.Response.Headers.XContentTypeOptions = "nosniff";
        http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        return TypeOf(file) is { } type ? TypedResults.PhysicalFile(file, type) : TypedResults.PhysicalFile(file, "application/octet-stream", Path.GetFileName(name));
    }

    /// <summary>The type of an image by its first bytes; null for anything else, whatever it calls itself.</summary>
    private static string? TypeOf(string file)
    {
        Span<byte> head = stackalloc byte[12];
        using var stream = File.OpenRead(file);
        var read = stream.ReadAtLeast(head, head.Length, throwOnEndOfStream: false);
        head = head[..read];
        return head.StartsWith("\x89PNG"u8[1..]) || (read > 4 && head[1..].StartsWith("PNG"u8)) ? "image/png"
            : read > 3 && head[0] == 0xFF && head[1] == 0xD8 ? "image/jpeg"
            : head.StartsWith("GIF8"u8) ? "image/gif"
            : read == 12 && head.StartsWith("RIFF"u8) && head[8..].StartsWith("WEBP"u8) ? "image/webp"
            : null;
    }
}
