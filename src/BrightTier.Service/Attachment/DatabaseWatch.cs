using BrightTier.Records.Attachment;
using BrightTier.Service.Drafts;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Attachment;

/// <summary>Says at the start, in the log, which attached databases do not answer or are other ones than their entities say.</summary>
public sealed class DatabaseWatch(DatabaseEntities entities, DraftDocuments drafts, Readiness readiness, ILogger<DatabaseWatch> log)
    : BackgroundService
{
    private static readonly TimeSpan Pace = TimeSpan.FromMilliseconds(200);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            while (!readiness.IsReady)
            {
                await Task.Delay(Pace, stoppingToken);
            }

            var names = (await drafts.Definitions(stoppingToken)).Entities.Values.Select(entity => entity.Attached?.Database);
            foreach (var name in names.OfType<string>().Distinct(StringComparer.Ordinal))
            {
                await Look(name, stoppingToken);
            }
        }
        catch (Exception error) when (error is OperationCanceledException || DatabaseErrors.IsOutOfReach(error))
        {
            // The service ends, or has greater worries.
        }
    }

    private async Task Look(string name, CancellationToken cancel)
    {
        try
        {
            foreach (var difference in await entities.Differences(name, cancel))
            {
                log.LogWarning("Database {Database}, entity {Entity}: {Message}", name, difference.Entity, difference.Message);
            }
        }
        catch (Exception error) when (error is RefusedException or DatabaseAwayException)
        {
            log.LogWarning("Database {Database}: {Message}", name, error.Message);
        }
    }
}
