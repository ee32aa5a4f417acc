using System.Data.Common;
using System.Globalization;
using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

/// <summary>
/// The records of attached entities: rows of databases that are not ours, through ordinary SQL with the rights of the connection. A row is
/// as it was as long as all that is in it is.
/// </summary>
/// <exception cref="DatabaseAwayException">Of every method: the database does not answer, or there is no such connection.</exception>
public sealed partial class AttachedRecords(AttachedDatabases databases, AttachedKeys keys)
{
    private AttachedKeys RowKeys => keys;

    public async Task<StoredRecord?> Find(Entity entity, long id, CancellationToken cancel) =>
        await FindMany(entity, [id], cancel) is [var found, ..] ? found : null;

    public Task<IReadOnlyList<StoredRecord>> FindMany(Entity entity, IReadOnlyCollection<long> ids, CancellationToken cancel) =>
        With<IReadOnlyList<StoredRecord>>(entity, async (database, rows) =>
        {
            var known = await KeysOf(entity, ids, cancel);
            if (known.Count == 0)
            {
                return [];
            }

            await using var connection = await database.Open(cancel);
            var found = new List<AttachedRow>();
            foreach (var some in known.Values.Chunk(100))
            {
                await using var command = connection.Command("");
                var wanted = some.Select(
                    (key, i) => $"({rows.Where(key, command, string.Create(CultureInfo.InvariantCulture, $"k{i}x"))})"
                );
                command.CommandText = $"{rows.Select} WHERE {string.Join(" OR ", wanted)}";
                found.AddRange(await rows.Read(command, cancel));
            }

            var records = await Records(entity, rows, database, found, cancel);
            // Rows without a key may be there twice.
            return [.. records.DistinctBy(record => record.Id)];
        });

    private Task<IReadOnlyDictionary<long, RowKey>> KeysOf(Entity entity, IReadOnlyCollection<long> ids, CancellationToken cancel) =>
        keys.Keys(entity.Key, entity.Attached!.IsNumbered, ids, cancel);

    /// <summary>Rows as records: each with its number, and the numbers of those it refers to.</summary>
    private async Task<IReadOnlyList<StoredRecord>> Records(
        Entity entity,
        AttachedRows rows,
        AttachedDatabase database,
        IReadOnlyList<AttachedRow> found,
        CancellationToken cancel
    )
    {
        if (found.Count == 0)
        {
            return [];
        }

        var own = await keys.Numbers(entity.Key, entity.Attached!.IsNumbered, [.. found.Select(rows.Key)], cancel);
        var targets = new Dictionary<string, IReadOnlyDictionary<string, long>>(StringComparer.Ordinal);
        foreach (var field in entity.Current.Where(field => field.Type is FieldType.Reference))
        {
            targets[field.Key] = await keys.Numbers(
                field.Target!,
                IsNumbered(field),
                [.. found.Select(row => rows.Target(row, field)).OfType<RowKey>()],
                cancel
            );
        }

        return
        [
            .. found.Select(row => new StoredRecord(
                own[rows.Key(row).Text],
                rows.Version(row),
                entity.Fields.ToDictionary(
                    field => field.Key,
                    field =>
                        // A retired field's column may be gone.
                        field.Retired
                            ? null
                        : field.Type is not FieldType.Reference ? database.Read(field, rows.Value(row, field.Attached!.Name))
                        : rows.Target(row, field) is { } target ? targets[field.Key][target.Text]
                        : null,
                    StringComparer.Ordinal
                ),
                null,
                null,
                null,
                null
            )),
        ];
    }

    /// <summary>Whether the records a reference points at have the key itself as their number.</summary>
    private static bool IsNumbered(Field reference) => reference.Attached!.Columns is [{ IsWhole: true }];

    private async Task<T> With<T>(Entity entity, Func<AttachedDatabase, AttachedRows, Task<T>> act)
    {
        var database = databases.Get(entity.Attached!.Database);
        try
        {
            return await act(database, new AttachedRows(database, entity));
        }
        catch (DbException error)
        {
            throw Away(database, error);
        }
    }

    private static DatabaseAwayException Away(AttachedDatabase database, DbException error) =>
        new(database.Name, error.Message, error, database.IsChanged(error));
}
