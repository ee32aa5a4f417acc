using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.Extensions.Diagnostics.HealthChecks;

namespace BrightTier.Service.Startup;

/// <summary>
/// How the process is, for balancers and whoever watches: <c>/health/live</c>, <c>/health/ready</c> and <c>/health/stale</c>, each a word.
/// Answered before anything else is looked at, so that being asked often costs nothing, and being asked first does not hold the start up.
/// </summary>
public static class Health
{
    private const string Live = "live";
    private const string Ready = "ready";
    private const string Stale = "stale";

    public static void AddHealth(this IServiceCollection services) =>
        services
            .AddHealthChecks()
            .Add(Check(Live, _ => HealthCheckResult.Healthy("live")))
            .Add(Check(Ready, IsReady))
            .Add(
                Check(Stale, services =>
                    services.GetService<PostgresBackplane>() is { IsStale: true }
                        ? HealthCheckResult.Unhealthy("stale")
                        : HealthCheckResult.Healthy("current")
                )
            );

    public static void UseHealth(this WebApplication app)
    {
        foreach (var name in new[] { Live, Ready, Stale })
        {
            app.UseHealthChecks(
                $"/health/{name}",
                new HealthCheckOptions { Predicate = check => check.Name == name, ResponseWriter = Write }
            );
        }
    }

    private static HealthCheckResult IsReady(IServiceProvider services) =>
        !services.GetRequiredService<Readiness>().IsReady ? HealthCheckResult.Unhealthy("not yet")
        : services.GetRequiredService<Maintenance>().Unwritable is not null
            ? HealthCheckResult.Unhealthy("not writable: the data folder is full or read-only")
        : HealthCheckResult.Healthy("ready");

    private static HealthCheckRegistration Check(string name, Func<IServiceProvider, HealthCheckResult> check) =>
        new(name, services => new Question(services, check), failureStatus: null, tags: null);

    private static Task Write(HttpContext http, HealthReport report)
    {
        http.Response.ContentType = "text/plain; charset=utf-8";
        return http.Response.WriteAsync(report.Entries.Values.Single().Description!);
    }

    /// <summary>A check that waits for nothing.</summary>
    private sealed class Question(IServiceProvider services, Func<IServiceProvider, HealthCheckResult> check) : IHealthCheck
    {
        public Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default) =>
            Task.FromResult(check(services));
    }
}
