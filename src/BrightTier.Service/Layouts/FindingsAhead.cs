using System.Diagnostics;
using BrightTier.Core.Validation;
using BrightTier.Service.Drafts;
using BrightTier.Service.Hosting;
using BrightTier.Storage;

namespace BrightTier.Service.Layouts;

/// <summary>
/// Once the service has started, looks at each draft of a layout as its list will, so that nobody waits for thousands to be checked. Works
/// half of the time, on one core, and never again: what is changed later is checked by whoever looks at it.
/// </summary>
internal sealed class FindingsAhead(DraftDocuments drafts, Readiness readiness, ILogger<FindingsAhead> log) : BackgroundService
{
    private static readonly TimeSpan Pace = TimeSpan.FromSeconds(2);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            do
            {
                await Task.Delay(Pace, stoppingToken);
            } while (!readiness.IsReady);

            var catalogue = await drafts.Catalogue(stoppingToken);
            foreach (var layout in catalogue.Layouts.Values)
            {
                var began = Stopwatch.GetTimestamp();
                Checker.Known(layout, catalogue);
                await Task.Delay(Stopwatch.GetElapsedTime(began), stoppingToken);
            }

            SpareMemory.After(catalogue.Layouts.Count);
        }
        catch (OperationCanceledException)
        {
            // The service ends.
        }
        catch (Exception error) when (DatabaseErrors.IsOutOfReach(error))
        {
            log.LogInformation("Layouts are not checked ahead, since the database does not answer: {Reason}", error.Message);
        }
    }
}
