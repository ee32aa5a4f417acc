using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Backups;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Startup;

/// <summary>
/// Brings the service into a state to answer: databases migrated, the current release in memory, tables there, the first content in place.
/// </summary>
public static class Preparation
{
    /// <summary>Until the service is ready its calls answer 503 with Retry-After.</summary>
    public static Task Middleware(HttpContext http, RequestDelegate next) =>
        http.GetEndpoint()?.Metadata.Any(PermissionPolicies.StatesAccess) == true
        && !http.RequestServices.GetRequiredService<Readiness>().IsReady
            ? Problems.Write(http, 503, "not-ready", $"The service is starting; please try again in a moment.")
            : next(http);

    /// <summary>
    /// Brings everything into place; the service answers calls from then on. Of several processes that start at once one does, and the
    /// others find it done.
    /// </summary>
    public static async Task Run(IServiceProvider services, CancellationToken cancel)
    {
        await using (var turn = await services.GetRequiredService<IDbContextFactory<StorageContext>>().CreateDbContextAsync(cancel))
        {
            await turn.InTurn(() => Fill(services, cancel), cancel);
        }

        services.GetRequiredService<Readiness>().IsReady = true;
    }

    private static async Task Fill(IServiceProvider services, CancellationToken cancel)
    {
        await using (var context = await services.GetRequiredService<IDbContextFactory<StorageContext>>().CreateDbContextAsync(cancel))
        {
            await context.MigrateIfNeeded(cancel);
        }

        var releases = services.GetRequiredService<CurrentRelease>();
        await releases.Load(cancel);
        var archiving = services.GetRequiredService<BackupArchive>();
        if (services.GetRequiredService<IOptions<ServiceOptions>>().Value.Restore is { } file)
        {
            await archiving.Restore(file, cancel);
        }
        else if (await archiving.IsCutShort(cancel))
        {
            throw new InvalidOperationException(
                "A backup was being restored when the service ended; start it again with --Restore and the same file."
            );
        }
        else if (releases.Default.Number > 0 && !await services.GetRequiredService<IRecordStore>().IsThere(cancel))
        {
            // Going on would number new records from 1, over those that are only mislaid.
            throw new InvalidOperationException(
                $"The documents are those of release {releases.Default.Number}, and the records that belong to them are not "
                    + $"there. Put them back beside the documents ('records.db' in the data folder, or the tables in the "
                    + $"database), or restore a backup into an empty installation."
            );
        }

        await services
            .GetRequiredService<IRecordStore>()
            .Define(releases.Default.Definitions, releases.Default.Catalogue.SortedFields, cancel);
        await services.GetRequiredService<Seed>().Run(cancel);
    }
}
