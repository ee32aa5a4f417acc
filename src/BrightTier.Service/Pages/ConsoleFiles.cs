using BrightTier.Service.Hosting;
using Microsoft.Extensions.FileProviders;

namespace BrightTier.Service.Pages;

/// <summary>Serves the built console: one page, and assets whose names carry the hash of their content.</summary>
public static class ConsoleFiles
{
    public static void UseConsole(this WebApplication app, ServiceOptions options)
    {
        if (Folder(options) is not { } folder)
        {
            return;
        }

        var files = new PhysicalFileProvider(folder);
        app.UseMiddleware<PrecompressedAssets>(files);
        app.UseMiddleware<ConsolePage>(files);
        app.UseStaticFiles(
            new StaticFileOptions
            {
                FileProvider = files,
                OnPrepareResponse = context =>
                    context.Context.Response.Headers.CacheControl = context.Context.Request.Path.StartsWithSegments(
                        "/assets",
                        StringComparison.Ordinal
                    )
                        ? "public, max-age=31536000, immutable"
                        : "no-cache",
            }
        );
    }

    /// <summary>Where no console has been built, says so instead of nothing.</summary>
    public static void MapConsole(this WebApplication app) =>
        app.MapGet("/", () =>
                TypedResults.Text(
                    "Bright Tier is running, but its console has not been built. Run 'make build' in the checkout.",
                    statusCode: 404
                )
            )
            .AllowAnonymous()
            .ExcludeFromDescription();

    private static string? Folder(ServiceOptions options)
    {
        if (options.Console is { } given)
        {
            return Directory.Exists(given) ? Path.GetFullPath(given) : null;
        }

        for (var at = new DirectoryInfo(AppContext.BaseDirectory); at is not null; at = at.Parent)
        {
            foreach (var candidate in new[] { Path.Combine(at.FullName, "wwwroot"), Path.Combine(at.FullName, "web", "console", "dist") })
            {
                if (File.Exists(Path.Combine(candidate, "index.html")))
                {
                    return candidate;
                }
            }
        }

        return null;
    }
}
