using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

/// <summary>What is kept here of records that are in other databases: their history, and by it who changed them and when.</summary>
public sealed partial class SqlRecordStore
{
    /// <summary>What a record was before it was first changed here: nobody's action, but what that change is held against.</summary>
    private const string Found = "found";

    /// <summary>Keeps how a record was found, where nothing is known of it, or others have changed it since.</summary>
    internal async Task RememberFound(Entity entity, StoredRecord record, Stamp stamp, CancellationToken cancel)
    {
        if (
            await History(entity, record.Id, cancel) is not [var last, ..]
            || entity.Fields.Any(field => !FieldValues.Same(last.Values[field.Key], record.Values[field.Key]))
        )
        {
            await Remember(entity, record, Found, stamp, cancel);
        }
    }

    /// <summary>Puts what was done to a record behind what is known of it.</summary>
    internal async Task Remember(Entity entity, StoredRecord record, string action, Stamp stamp, CancellationToken cancel)
    {
        await using var writer = await dialect.Write(cancel);
        var last = await writer.Connection.ExecuteScalarAsync<long?>(
            $"SELECT max(version) FROM {SqlNames.History} WHERE entity = @entity AND record_id = @id",
            new { entity = entity.Key, id = record.Id }
        );
        await Write(writer, entity, record with { Version = (last ?? 0) + 1 }, action, stamp);
        await writer.Commit(cancel);
    }

    /// <summary>A record with who made and changed it, as far as it was done here.</summary>
    internal async Task<StoredRecord> Stamped(Entity entity, StoredRecord record, CancellationToken cancel)
    {
        await using var connection = await dialect.Open(cancel);
        var rows = (
            await connection.QueryAsync(
                $"SELECT action, at, by FROM {SqlNames.History} WHERE entity = @entity AND record_id = @id AND action <> '{Found}' "
                    + "ORDER BY version",
                new { entity = entity.Key, id = record.Id }
            )
        )
            .Cast<IDictionary<string, object?>>()
            .ToArray();
        if (rows.Length == 0)
        {
            return record;
        }

        var (first, last) = (rows[0], rows[^1]);
        var isMadeHere = (string)first["action"]! == "create";
        return record with
        {
            CreatedAt = isMadeHere ? dialect.Stamp(first["at"]!) : null,
            CreatedBy = isMadeHere ? (string)first["by"]! : null,
            ChangedAt = dialect.Stamp(last["at"]!),
            ChangedBy = (string)last["by"]!,
        };
    }
}
