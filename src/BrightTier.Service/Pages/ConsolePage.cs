using System.IO.Compression;
using System.Net;
using System.Text;
using BrightTier.Core.Resolution;
using BrightTier.Service.Auth;
using BrightTier.Service.Hosting;
using BrightTier.Service.Resolution;
using Microsoft.Extensions.FileProviders;

namespace BrightTier.Service.Pages;

/// <summary>
/// Every place of the console is the same page. For somebody who works here it carries what it would ask for first, who she is and the form
/// of the place,
/// as data beside its scripts; what else it will ask for is named in a header (RFC 8288, rel=preload). web/console/src/api/early.ts takes
/// up both.
/// </summary>
public sealed class ConsolePage(RequestDelegate next, IFileProvider files)
{
    /// <summary>The console's own places; web/console/src/shell/location.ts has the same ones.</summary>
    private static readonly string[] Places =
    [
        "records",
        "design",
        "print",
        "layouts",
        "data",
        "application",
        "releases",
        "people",
        "audit",
        "account",
    ];

    private static readonly byte[] EndOfBody = "</body>"u8.ToArray();

    /// <summary>The page as it was built, replaced as a whole: requests read it at the same time.</summary>
    private sealed record Built(DateTimeOffset Of, byte[] Html);

    private Built? page;

    public async Task Invoke(HttpContext http)
    {
        var parts = http.Request.Path.Value!.Split('/', StringSplitOptions.RemoveEmptyEntries);
        if (!HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method))
        {
            await next(http);
            return;
        }

        if (parts.Length > 0 && !Places.Contains(parts[0]))
        {
            await next(http);
            if (!IsAstray(http, parts))
            {
                return;
            }

            // The page says so in the reader's language, and leads back.
            http.SetEndpoint(null);
            http.Response.OnStarting(() =>
            {
                http.Response.StatusCode = StatusCodes.Status404NotFound;
                return Task.CompletedTask;
            });
        }

        http.Request.Path = "/index.html";
        if (
            !http.RequestServices.GetRequiredService<Readiness>().IsReady
            || await http.RequestServices.GetRequiredService<KnownCallers>().Recognise(http) is not { ByCookie: true } caller
        )
        {
            await next(http);
            return;
        }

        Callers.Set(http, caller);
        http.User = KnownCallers.Principal(caller);
        var answers = new List<(string Address, string Release, byte[] Json)> { ("/api/session", "", SessionAnswer.Json(http, caller)) };
        var later = new List<string>();
        if (parts is ["records", var entity, var record])
        {
            var (mode, address) =
                record == "new" ? (Modes.Create, "mode=create") : (Modes.View, $"mode=view&record={Uri.EscapeDataString(record)}");
            if (await ResolvedForms.Find(http, caller, entity, "full", mode, record == "new" ? "" : record) is var (form, release))
            {
                answers.Add(($"/api/forms/{Uri.EscapeDataString(entity)}?kind=full&{address}", release.Name, form.Plain));
            }

            if (mode == Modes.View)
            {
                later.Add($"/api/records/{Uri.EscapeDataString(entity)}/{Uri.EscapeDataString(record)}");
            }
        }
        else
        {
            later.Add("/api/entities");
        }

        later.Add("/api/navigation");
        http.Response.Headers.Link = string.Join(", ", later.Select(each => $"<{each}>; rel=preload; as=fetch; crossorigin"));
        await Write(http, Html(), answers);
    }

    /// <summary>Whether somebody asked for a page where nothing is, and nobody answered.</summary>
    private static bool IsAstray(HttpContext http, string[] parts) =>
        http.Response is { StatusCode: StatusCodes.Status404NotFound, HasStarted: false }
        && parts[0] != "api"
        && !parts[^1].Contains('.')
        && http.Request.Headers.Accept.ToString().Contains("text/html", StringComparison.Ordinal);

    private static async Task Write(HttpContext http, byte[] html, List<(string Address, string Release, byte[] Json)> answers)
    {
        http.Response.ContentType = "text/html; charset=utf-8";
        // It names who works here and carries the session's antiforgery value.
        http.Response.Headers.CacheControl = "no-store";
        http.Response.Headers.Vary = "Accept-Encoding, Cookie";
        var zipped = http.Request.Headers.AcceptEncoding.ToString().Contains("gzip", StringComparison.Ordinal);
        var whole = new MemoryStream(html.Length + answers.Sum(answer => answer.Json.Length + 200));
        await using (var body = zipped ? new GZipStream(whole, CompressionLevel.Fastest, leaveOpen: true) : (Stream)whole)
        {
            var end = html.AsSpan().LastIndexOf(EndOfBody);
            body.Write(html.AsSpan(0, end));
            foreach (var (address, release, json) in answers)
            {
                body.Write(
                    Encoding.UTF8.GetBytes(
                        $"<script type=\"application/json\" data-answers=\"{WebUtility.HtmlEncode(address)}\" "
                            + $"data-release=\"{WebUtility.HtmlEncode(release)}\">"
                    )
                );
                Escape(body, json);
                body.Write("</script>\n"u8);
            }

            body.Write(html.AsSpan(end));
            if (zipped)
            {
                http.Response.Headers.ContentEncoding = "gzip";
            }

            await body.FlushAsync(http.RequestAborted);
        }

        var bytes = whole.ToArray();
        http.Response.ContentLength = bytes.Length;
        if (HttpMethods.IsGet(http.Request.Method))
        {
            await http.Response.Body.WriteAsync(bytes, http.RequestAborted);
        }
    }

    /// <summary>
    /// In JSON a '&lt;' stands inside strings only, where an escape says the same: nothing in the data can end the element it stands in.
    /// </summary>
    private static void Escape(Stream to, ReadOnlySpan<byte> json)
    {
        for (int at; (at = json.IndexOf((byte)'<')) >= 0; json = json[(at + 1)..])
        {
            to.Write(json[..at]);
            to.Write("\\u003c"u8);
        }

        to.Write(json);
    }

    private byte[] Html()
    {
        var file = files.GetFileInfo("index.html");
        if (page is { } known && known.Of == file.LastModified)
        {
            return known.Html;
        }

        using var stream = file.CreateReadStream();
        var read = new MemoryStream();
        stream.CopyTo(read);
        page = new Built(file.LastModified, read.ToArray());
        return read.ToArray();
    }
}
