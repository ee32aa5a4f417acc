using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>The same in PostgreSQL, with migrations of its own. Texts are ordered by code points, as in SQLite.</summary>
public sealed class PostgresStorageContext(DbContextOptions<PostgresStorageContext> options) : StorageContext(options)
{
    /// <summary>The schema that documents, releases and people live in; records are in the schema the connection is in.</summary>
    public const string Schema = "bright_tier";

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder) =>
        configurationBuilder.Properties<string>().UseCollation("C");
}
