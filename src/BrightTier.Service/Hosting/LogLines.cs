using System.Globalization;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Json;

namespace BrightTier.Service.Hosting;

/// <summary>Where log lines go: to the error stream, as text for people or as JSON for whatever collects them.</summary>
public static class LogLines
{
    public static LoggerConfiguration WriteLines(this LoggerConfiguration log, ServiceOptions options) =>
        options.Log == "json"
            ? log.WriteTo.Console(
                new JsonFormatter(renderMessage: true, formatProvider: CultureInfo.InvariantCulture),
                standardErrorFromLevel: LogEventLevel.Verbose
            )
            : log.WriteTo.Console(formatProvider: CultureInfo.InvariantCulture, standardErrorFromLevel: LogEventLevel.Verbose);
}
