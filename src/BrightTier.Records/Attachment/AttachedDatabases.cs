using System.Collections.Concurrent;

namespace BrightTier.Records.Attachment;

/// <summary>A connection that there is none of, that does not answer, or whose schema has moved on.</summary>
public sealed class DatabaseAwayException(string database, string reason, Exception? inner = null, bool changed = false)
    : Exception(reason, inner)
{
    public string Database => database;

    /// <summary>Whether it answers, but its schema is another one than the entities over it say.</summary>
    public bool IsChanged => changed;
}

/// <summary>The connections to databases that are not ours, by name.</summary>
/// <param name="look">Looks up a connection string by name, where none is open yet; null where there is none.</param>
public sealed class AttachedDatabases(Func<string, string?> look) : IDisposable
{
    private readonly ConcurrentDictionary<string, AttachedDatabase> databases = new(StringComparer.Ordinal);

    /// <summary>A connection that is not kept.</summary>
    /// <param name="connectionString">Of PostgreSQL (Host=…) or SQLite (Data Source=…).</param>
    /// <exception cref="FormatException">It is of neither kind; says what is wrong.</exception>
    public static AttachedDatabase Open(string name, string connectionString)
    {
        try
        {
            return connectionString.Contains("Host", StringComparison.OrdinalIgnoreCase) ? new PostgresDatabase(name, connectionString)
                : connectionString.Contains("Data Source", StringComparison.OrdinalIgnoreCase) ? new SqliteDatabase(name, connectionString)
                : throw new FormatException(
                    "A connection string of PostgreSQL looks like Host=localhost;Database=orders;Username=reader, one of SQLite like "
                        + "Data Source=/path/of.db."
                );
        }
        catch (ArgumentException error)
        {
            // Without the name of the driver's parameter, which tells nobody anything.
            throw new FormatException(error.Message.Split(" (Parameter", 2)[0], error);
        }
    }

    /// <summary>Lets go of a connection: it is another one from now on, or none.</summary>
    public void Forget(string name)
    {
        if (databases.TryRemove(name, out var before))
        {
            before.Dispose();
        }
    }

    /// <summary>A connection by its name; nothing is asked of it yet.</summary>
    public AttachedDatabase? Find(string name)
    {
        if (databases.TryGetValue(name, out var known))
        {
            return known;
        }

        return look(name) is { } connectionString ? databases.GetOrAdd(name, _ => Open(name, connectionString)) : null;
    }

    /// <exception cref="DatabaseAwayException">There is none of that name.</exception>
    internal AttachedDatabase Get(string name) =>
        Find(name) ?? throw new DatabaseAwayException(name, $"This service has no connection '{name}'.");

    public void Dispose()
    {
        foreach (var each in databases.Values)
        {
            each.Dispose();
        }
    }
}
