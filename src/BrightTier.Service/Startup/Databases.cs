using System.Xml.Linq;
using BrightTier.Records;
using BrightTier.Records.Attachment;
using BrightTier.Service.Attachment;
using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Storage;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;

namespace BrightTier.Service.Startup;

/// <summary>
/// Where documents and records are kept: in two files of SQLite in the data folder, or in one PostgreSQL for any number of processes.
/// </summary>
public static class Databases
{
    /// <summary>Registers the databases of the configuration; what is wrong with it, or null.</summary>
    public static string? AddDatabases(this WebApplicationBuilder builder, bool describing)
    {
        var services = builder.Services;
        var database = builder.Configuration["Database"] ?? builder.Configuration[$"{ServiceOptions.Section}:Database"];
        var replica = builder.Configuration["Replica"] ?? builder.Configuration[$"{ServiceOptions.Section}:Replica"];
        if (replica is { Length: > 0 } && string.IsNullOrEmpty(database))
        {
            return "Replica is a copy of a PostgreSQL that Database names; there is no Database.";
        }

        if (!string.IsNullOrEmpty(database))
        {
            if (Wrong(database, "Database") is { } wrong)
            {
                return wrong;
            }

            if (replica is { Length: > 0 } && Wrong(replica, "Replica") is { } wrongReplica)
            {
                return wrongReplica;
            }

            services.AddPostgres(database, replica);
        }
        else
        {
            if (!describing)
            {
                var (folder, occupied) = DataFolder.Open(builder.Configuration);
                if (folder is null)
                {
                    return occupied;
                }

                services.AddSingleton<IHostedService>(_ => folder);
            }

            services.AddDbContextFactory<StorageContext>(
                (provider, options) =>
                    options
                        .UseBrightTierSqlite(Path.Combine(Folder(provider), "brighttier.db"))
                        .UseModel(BrightTier.Storage.CompiledModel.StorageContextModel.Instance)
            );
            services.AddSingleton<SqlDialect>(provider => new SqliteDialect(Path.Combine(Folder(provider), "records.db")));
        }

        services.AddRecords();
        services
            .AddSingleton<DraftStore>()
            .AddSingleton<ReleaseStore>()
            .AddSingleton<HistoryStore>()
            .AddSingleton<PeopleStore>()
            .AddSingleton<PreferenceStore>()
            .AddSingleton<CommentStore>()
            .AddSingleton<KeyStore>()
            .AddSingleton<ConnectionStore>()
            .AddSingleton<DocumentTables>();
        services
            .AddSingleton<ScheduledReleaseStore>()
            .AddSingleton<SaveCountStore>()
            .AddSingleton<LeaseStore>()
            .AddSingleton<ApprovalStore>()
            .AddSingleton<PresenceStore>()
            .AddSingleton<AuditStore>()
            .AddSingleton<FileStore>();
        services.AddKeys();
        return null;
    }

    /// <param name="replica">A copy of the database that follows it; null or empty for none.</param>
    private static void AddPostgres(this IServiceCollection services, string database, string? replica)
    {
        services.AddDbContextFactory<PostgresStorageContext>(options => options.UseBrightTierPostgres(database));
        services.AddSingleton<IDbContextFactory<StorageContext>, PostgresContexts>();
        // Days and moments are compared as UTC has them, wherever the database stands.
        services.AddSingleton(_ => NpgsqlDataSource.Create(ForRecords(database)));
        if (replica is { Length: > 0 })
        {
            services.AddSingleton(provider => new ReadReplica(
                NpgsqlDataSource.Create(ForRecords(replica)),
                provider.GetRequiredService<NpgsqlDataSource>(),
                provider.GetRequiredService<TimeProvider>()
            ));
        }

        services.AddSingleton<SqlDialect>(provider => new PostgresDialect(
            provider.GetRequiredService<NpgsqlDataSource>(),
            provider.GetService<ReadReplica>()
        ));
        services.AddSingleton<PostgresBackplane>().AddHostedService(provider => provider.GetRequiredService<PostgresBackplane>());
    }

    private static void AddKeys(this IServiceCollection services)
    {
        services.AddOptions<KeyManagementOptions>().Configure<KeyStore>((options, keys) => options.XmlRepository = new StoredKeys(keys));
        // It would read the keys before the tables are there; they are read when the first cookie asks for them.
        foreach (var eager in services.Where(service => service.ImplementationType?.Name == "DataProtectionHostedService").ToArray())
        {
            services.Remove(eager);
        }
    }

    /// <summary>Records wherever they are: in tables of ours, and in databases that are attached.</summary>
    private static void AddRecords(this IServiceCollection services) =>
        services
            .AddSingleton<Connections>()
            .AddSingleton(provider => new AttachedDatabases(provider.GetRequiredService<Connections>().Find))
            .AddSingleton<AttachedKeys>()
            .AddSingleton<AttachedRecords>()
            .AddSingleton<SqlRecordStore>()
            .AddSingleton<IRecordStore, RecordStores>();

    private static string? Wrong(string connection, string setting)
    {
        try
        {
            return new NpgsqlConnectionStringBuilder(connection).Host is null
                ? $"{setting} has no Host; a connection string of PostgreSQL looks like Host=localhost;Database=quay;Username=quay."
                : null;
        }
        catch (ArgumentException error)
        {
            return $"{setting} is no connection string of PostgreSQL: {error.Message}";
        }
    }

    private static string Folder(IServiceProvider services) =>
        Directory.CreateDirectory(services.GetRequiredService<IOptions<ServiceOptions>>().Value.Data).FullName;

    /// <summary>
    /// Statements over wide tables take the database about as long to prepare as to run: those run often are kept prepared, unless the
    /// connection string says how many.
    /// </summary>
    private static NpgsqlConnectionStringBuilder ForRecords(string database)
    {
        var builder = new NpgsqlConnectionStringBuilder(database)
        {
            Timezone = "UTC",
            ApplicationName = "bright-tier",
            Timeout = 5,
            CommandTimeout = 20,
        };
        if (!database.Replace(" ", "", StringComparison.Ordinal).Contains("MaxAutoPrepare", StringComparison.OrdinalIgnoreCase))
        {
            builder.MaxAutoPrepare = 100;
        }

        return builder;
    }

    /// <summary>Keys of cookies among the documents, so that every process has the same.</summary>
    private sealed class StoredKeys(KeyStore keys) : IXmlRepository
    {
        public IReadOnlyCollection<XElement> GetAllElements() => [.. keys.All().Select(XElement.Parse)];

        public void StoreElement(XElement element, string friendlyName) =>
            keys.Add(friendlyName, element.ToString(SaveOptions.DisableFormatting));
    }
}
