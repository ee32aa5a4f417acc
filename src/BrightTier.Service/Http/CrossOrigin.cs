using BrightTier.Service.Hosting;

namespace BrightTier.Service.Http;

/// <summary>
/// Lets the pages of named origins call the service (the Fetch standard's CORS protocol). Without credentials: a cookie is never sent, a
/// token is.
/// </summary>
public static class CrossOrigin
{
    /// <returns>What is wrong with the origins; null when nothing is.</returns>
    public static string? AddOrigins(this WebApplicationBuilder builder)
    {
        var origins = (
            builder.Configuration[$"{ServiceOptions.Section}:{nameof(ServiceOptions.Origins)}"]
            ?? builder.Configuration[nameof(ServiceOptions.Origins)]
            ?? ""
        ).Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        foreach (var origin in origins)
        {
            if (
                !Uri.TryCreate(origin, UriKind.Absolute, out var address)
                || address.Scheme is not ("http" or "https")
                || address.GetLeftPart(UriPartial.Authority) != origin
            )
            {
                return $"'Origins' names '{origin}', which is no origin; one is like https://quay.example.org, without anything behind it.";
            }
        }

        builder.Services.AddCors(options =>
            options.AddDefaultPolicy(policy =>
                policy
                    .WithOrigins(origins)
                    .WithMethods("GET", "POST", "PATCH")
                    .WithHeaders("Authorization", "Content-Type", "Accept", "If-Match", "If-None-Match")
                    .WithExposedHeaders("ETag", "Bright-Release", "Location")
            )
        );
        return null;
    }
}
