using System.Diagnostics.Metrics;
using System.Runtime.CompilerServices;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using Npgsql;
using OpenTelemetry;
using OpenTelemetry.Metrics;
using OpenTelemetry.Trace;

namespace BrightTier.Service.Startup;

/// <summary>
/// Metrics for Prometheus at /metrics, and traces and metrics by OTLP to where OTEL_EXPORTER_OTLP_ENDPOINT says. Only where it is asked
/// for: measuring
/// every request costs each a little, and the start more.
/// </summary>
public static class Telemetry
{
    private const string Name = "BrightTier";

    private static bool IsWanted(IConfiguration configuration) =>
        configuration.GetValue("Metrics", configuration.GetValue($"{ServiceOptions.Section}:Metrics", false));

    public static void AddTelemetry(this WebApplicationBuilder builder)
    {
        // Apart, so that a start without it loads nothing of it.
        if (IsWanted(builder.Configuration))
        {
            Measure(builder);
        }
    }

    [MethodImpl(MethodImplOptions.NoInlining)]
    private static void Measure(WebApplicationBuilder builder)
    {
        builder.Services.AddSingleton<Instruments>();
        var telemetry = builder
            .Services.AddOpenTelemetry()
            .WithMetrics(metrics =>
                metrics.AddMeter(Name).AddMeter("Npgsql").AddAspNetCoreInstrumentation().AddRuntimeInstrumentation().AddPrometheusExporter()
            )
            .WithTracing(traces => traces.AddAspNetCoreInstrumentation().AddNpgsql());
        if (builder.Configuration["OTEL_EXPORTER_OTLP_ENDPOINT"] is { Length: > 0 })
        {
            telemetry.UseOtlpExporter();
        }
    }

    public static void MapTelemetry(this WebApplication app)
    {
        if (IsWanted(app.Configuration))
        {
            app.Services.GetRequiredService<Instruments>();
            app.MapPrometheusScrapingEndpoint().AllowAnonymous().ExcludeFromDescription().WithMetadata(new Measures());
        }
    }

    /// <summary>Marks the endpoint that is for this machine, and for whoever administers.</summary>
    private sealed class Measures;

    /// <summary>What it measures is told at this machine; through a proxy, or from another machine, to whoever may administer.</summary>
    public static void UseTelemetry(this WebApplication app) =>
        app.Use(
            (http, next) =>
                http.GetEndpoint()?.Metadata.GetMetadata<Measures>() is null
                || !http.IsFromElsewhere()
                || (http.CallerOrNull() is { } caller && http.PermissionsOf(caller).Contains(Permissions.Administer))
                    ? next(http)
                    : Problems.Write(
                        http,
                        403,
                        "measures-local",
                        $"Measures are told at this machine; from elsewhere send a token of somebody who may administer."
                    )
        );

    /// <summary>What only this service can say of itself.</summary>
    private sealed class Instruments : IDisposable
    {
        private readonly Meter meter = new(Name);

        public Instruments(CurrentRelease releases, Broadcaster broadcaster, IServiceProvider services)
        {
            meter.CreateObservableGauge(
                "bright_tier.release",
                () => releases.Default.Number,
                description: "The number of the release everyone gets from this process."
            );
            meter.CreateObservableGauge("bright_tier.streams", () => broadcaster.Open, description: "Event streams that are open.");
            meter.CreateObservableGauge(
                "bright_tier.stale",
                () => services.GetService<PostgresBackplane>() is { IsStale: true } ? 1 : 0,
                description: "1 while the database cannot be reached."
            );
        }

        public void Dispose() => meter.Dispose();
    }
}
