using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Npgsql;

namespace BrightTier.Storage;

/// <summary>
/// How the context meets its database. SQLite: write-ahead log, so that readers never wait for a writer; synchronous=FULL, so that what was
/// acknowledged survives.
/// </summary>
public static class StorageSetup
{
    public static DbContextOptionsBuilder UseBrightTierSqlite(this DbContextOptionsBuilder options, string file) =>
        options.UseSqlite($"Data Source={file};Default Timeout=30").AddInterceptors(new Pragmas());

    /// <param name="connection">A connection string; documents get a schema of their own in its database.</param>
    public static DbContextOptionsBuilder UseBrightTierPostgres(this DbContextOptionsBuilder options, string connection) =>
        options.UseNpgsql(
            new NpgsqlConnectionStringBuilder(connection)
            {
                SearchPath = PostgresStorageContext.Schema,
                ApplicationName = "bright-tier",
                Timeout = 5,
                CommandTimeout = 20,
            }.ToString(),
            postgres => postgres.MigrationsHistoryTable("__EFMigrationsHistory", PostgresStorageContext.Schema)
        );

    private sealed class Pragmas : DbConnectionInterceptor
    {
        // Waited for by the database, some milliseconds at a time: the driver, turned away, sleeps for 150.
        private const string Statements =
            "PRAGMA busy_timeout=30000; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;";

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
        {
            using var command = connection.CreateCommand();
            command.CommandText = Statements;
            command.ExecuteNonQuery();
        }

        public override async Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default
        )
        {
            await using var command = connection.CreateCommand();
            command.CommandText = Statements;
            await command.ExecuteNonQueryAsync(cancellationToken);
        }
    }
}

/// <summary>Contexts of PostgreSQL for whoever needs one and does not care which database it is.</summary>
public sealed class PostgresContexts(IDbContextFactory<PostgresStorageContext> contexts) : IDbContextFactory<StorageContext>
{
    public StorageContext CreateDbContext() => contexts.CreateDbContext();

    public async Task<StorageContext> CreateDbContextAsync(CancellationToken cancellationToken = default) =>
        await contexts.CreateDbContextAsync(cancellationToken);
}

/// <summary>For the tool that writes migrations.</summary>
public sealed class PostgresDesignTimeFactory : IDesignTimeDbContextFactory<PostgresStorageContext>
{
    public PostgresStorageContext CreateDbContext(string[] args) =>
        new(
            (DbContextOptions<PostgresStorageContext>)
                new DbContextOptionsBuilder<PostgresStorageContext>().UseBrightTierPostgres("Host=localhost").Options
        );
}

/// <summary>For the tool that writes migrations.</summary>
public sealed class DesignTimeFactory : IDesignTimeDbContextFactory<StorageContext>
{
    public StorageContext CreateDbContext(string[] args) =>
        new((DbContextOptions<StorageContext>)new DbContextOptionsBuilder<StorageContext>().UseBrightTierSqlite("design.db").Options);
}
