using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace BrightTier.Storage;

/// <summary>Brings a database to the schema of this version.</summary>
public static class SchemaMigration
{
    /// <summary>
    /// Applies the migrations that are missing. Whether any is, is asked with one plain statement: the full machinery takes longer to start
    /// than everything else the service does before it is ready.
    /// </summary>
    public static async Task MigrateIfNeeded(this StorageContext context, CancellationToken cancel)
    {
        if (await LastApplied(context, cancel) == Newest(context))
        {
            return;
        }

        if (context is PostgresStorageContext)
        {
            await context.Database.ExecuteSqlRawAsync($"CREATE SCHEMA IF NOT EXISTS {PostgresStorageContext.Schema}", cancel);
        }

        await context.Database.MigrateAsync(cancel);
    }

    /// <summary>Does something while no other process that shares a PostgreSQL does the like.</summary>
    public static async Task InTurn(this StorageContext context, Func<Task> act, CancellationToken cancel)
    {
        if (context is not PostgresStorageContext)
        {
            await act();
            return;
        }

        // Whoever is first may have a database to fill.
        context.Database.SetCommandTimeout(TimeSpan.FromMinutes(10));
        await context.Database.OpenConnectionAsync(cancel);
        await context.Database.ExecuteSqlRawAsync($"SELECT pg_advisory_lock({Turn})", cancel);
        try
        {
            await act();
        }
        finally
        {
            await context.Database.ExecuteSqlRawAsync($"SELECT pg_advisory_unlock({Turn})", CancellationToken.None);
        }
    }

    private const string Turn = "4272696768742";

    private static string Newest(StorageContext context) =>
        typeof(StorageContext)
            .Assembly.GetTypes()
            .Where(type => type.GetCustomAttribute<DbContextAttribute>()?.ContextType == context.GetType())
            .Select(type => type.GetCustomAttribute<MigrationAttribute>()?.Id)
            .OfType<string>()
            .Max(StringComparer.Ordinal)!;

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
