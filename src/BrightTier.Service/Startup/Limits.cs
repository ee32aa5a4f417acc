using System.Threading.RateLimiting;
using BrightTier.Service.Auth;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using Microsoft.AspNetCore.Http.Timeouts;

namespace BrightTier.Service.Startup;

/// <summary>What no caller may use up: calls in a second, tries at signing in, time for one call.</summary>
public static class Limits
{
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(100);

    /// <returns>What is wrong with the configuration; null when nothing is.</returns>
    public static string? AddLimits(this WebApplicationBuilder builder)
    {
        var options = new ServiceOptions();
        builder.Configuration.GetSection(ServiceOptions.Section).Bind(options);
        builder.Configuration.Bind(options);
        if (options.CallsPerSecond is < 0 or > 1_000_000)
        {
            return $"'CallsPerSecond' must be from 0 to 1000000; it is {options.CallsPerSecond}.";
        }

        if (options.SignInsPerMinute is < 0 or > 1_000_000)
        {
            return $"'SignInsPerMinute' must be from 0 to 1000000; it is {options.SignInsPerMinute}.";
        }

        if (options.Log is not ("text" or "json"))
        {
            return $"'Log' must be text or json; it is '{options.Log}'.";
        }

        builder.Services.AddRequestTimeouts(timeouts =>
            timeouts.DefaultPolicy = new RequestTimeoutPolicy
            {
                Timeout = Longest,
                TimeoutStatusCode = 503,
                WriteTimeoutResponse = http =>
                    Problems.Write(http, 503, "timeout", $"This took longer than {Longest.TotalSeconds:0} seconds and was given up."),
            }
        );
        builder.Services.AddRateLimiter(limiter =>
        {
            limiter.GlobalLimiter = PartitionedRateLimiter.Create<HttpContext, string>(http => Partition(http, options));
            limiter.OnRejected = async (context, cancel) =>
            {
                var wait = context.Lease.TryGetMetadata(MetadataName.RetryAfter, out var after)
                    ? Math.Max(1, (int)Math.Ceiling(after.TotalSeconds))
                    : 1;
                context.HttpContext.Response.Headers.RetryAfter = wait.ToString(System.Globalization.CultureInfo.InvariantCulture);
                await Problems.Write(
                    context.HttpContext,
                    429,
                    "too-many",
                    $"These are more calls than one may make at once; go on in {wait} s."
                );
            };
        });
        return null;
    }

    public static void UseLimits(this WebApplication app)
    {
        app.UseRateLimiter();
        app.UseRequestTimeouts();
    }

    private static RateLimitPartition<string> Partition(HttpContext http, ServiceOptions options)
    {
        var address = http.Connection.RemoteIpAddress?.ToString() ?? "";
        var endpoint = http.GetEndpoint();
        if (endpoint?.Metadata.GetMetadata<SignInTry>() is not null)
        {
            return options.SignInsPerMinute == 0
                ? RateLimitPartition.GetNoLimiter("")
                : RateLimitPartition.GetFixedWindowLimiter("sign-in " + address, _ => new FixedWindowRateLimiterOptions
                {
                    PermitLimit = options.SignInsPerMinute,
                    Window = TimeSpan.FromMinutes(1),
                });
        }

        // What is not there is counted too; what the page loads is served before this.
        return options.CallsPerSecond == 0
            ? RateLimitPartition.GetNoLimiter("")
            : RateLimitPartition.GetTokenBucketLimiter(
                http.CallerOrNull()?.Person.Id ?? "from " + address,
                _ => new TokenBucketRateLimiterOptions
                {
                    TokenLimit = options.CallsPerSecond * 4,
                    TokensPerPeriod = Math.Max(1, options.CallsPerSecond / 5),
                    ReplenishmentPeriod = TimeSpan.FromMilliseconds(200),
                    AutoReplenishment = true,
                }
            );
    }
}
