using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Migrations;

namespace BrightTier.Storage;

/// <summary>Brings a database to the schema of this version.</summary>
public static class Migrating
{
    /// <summary>
    /// Applies the migrations that are missing. Whether any is, is asked with one plain statement: the full machinery takes longer to start
    /// than everything else the service does before it is ready.
    /// </summary>
    public static async Task MigrateIfNeeded(this StorageContext context, CancellationToken cancel)
    {
        if (await LastApplied(context, cancel) != Newest())
        {
            await context.Database.MigrateAsync(cancel);
        }
    }

    private static string Newest() => typeof(StorageContext).Assembly.GetTypes()
        .Select(type => type.GetCustomAttribute<MigrationAttribute>()?.Id).OfType<string>().Max(StringComparer.Ordinal)!;

    private static async Task<string?> LastApplied(StorageContext context, CancellationToken cancel)
    {
        var connection = context.Database.GetDbConnection();
        await context.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var command = connection.CreateCommand();
            command.CommandText = "SELECT max(\"MigrationId\") FROM \"__EFMigrationsHistory\"";
            return await command.ExecuteScalarAsync(cancel) as string;
        }
        catch (System.Data.Common.DbException)
        {
            // A database in which nothing has been made yet has no such table.
            return null;
        }
        finally
        {
            await context.Database.CloseConnectionAsync();
        }
    }
}
