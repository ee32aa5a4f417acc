using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace BrightTier.Storage;

/// <summary>How the context meets SQLite: write-ahead log, so that readers never wait for a writer; synchronous=FULL, so that what was acknowledged survives.</summary>
public static class StorageSetup
{
    public static DbContextOptionsBuilder UseBrightTierSqlite(this DbContextOptionsBuilder options, string file) =>
        options.UseSqlite($"Data Source={file};Default Timeout=30").AddInterceptors(new Pragmas());

    private sealed class Pragmas : DbConnectionInterceptor
    {
        private const string Statements = "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;";

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
        {
            using var command = connection.CreateCommand();
            command.CommandText = Statements;
            command.ExecuteNonQuery();
        }

        public override async Task ConnectionOpenedAsync(DbConnection connection, ConnectionEndEventData eventData, CancellationToken cancellationToken = default)
        {
            await using var command = connection.CreateCommand();
            command.CommandText = Statements;
            await command.ExecuteNonQueryAsync(cancellationToken);
        }
    }
}

/// <summary>For the tool that writes migrations.</summary>
public sealed class DesignTimeFactory : IDesignTimeDbContextFactory<StorageContext>
{
    public StorageContext CreateDbContext(string[] args) =>
        new((DbContextOptions<StorageContext>)new DbContextOptionsBuilder<StorageContext>().UseBrightTierSqlite("design.db").Options);
}
