using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Storage;

namespace BrightTier.Service.Backups;

/// <summary>A backup over HTTP.</summary>
public static class BackupEndpoints
{
    public static void MapBackups(this IEndpointRouteBuilder api) =>
        api.MapGet("/backup", Get)
            .WithName("downloadBackup")
            .Needs(Permissions.Administer)
            .WithTags("operations")
            .Produces<byte[]>(200, "application/zip")
            .WithSummary(
                "Everything the installation holds, as it is now, in one archive. It is restored by starting an empty service "
                    + "with --Restore."
            )
            .DisableRequestTimeout();

    private static async Task<IResult> Get(HttpContext http, BackupArchive archiving, AuditStore audit, CancellationToken cancel)
    {
        var caller = http.Caller();
        // Made whole before a byte is sent: one that goes wrong is an error, not half a file.
        var file = new FileStream(
            Path.GetTempFileName(),
            FileMode.Open,
            FileAccess.ReadWrite,
            FileShare.None,
            81_920,
            FileOptions.DeleteOnClose | FileOptions.Asynchronous
        );
        try
        {
            await archiving.Write(file, cancel);
            file.Position = 0;
            await audit.Note(caller.Person.Id, "backup.made", "installation", null, cancel);
            return TypedResults.File(file, "application/zip", "bright-tier.backup.zip");
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }
}
