using System.Data.Common;
using System.Globalization;
using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

// One change as statements.
public sealed partial class AttachedRecords
{
    /// <summary>One change in its transaction.</summary>
    private sealed class WriteStep(
        AttachedRecords records,
        AttachedDatabase database,
        AttachedRows rows,
        DbConnection connection,
        DbTransaction transaction,
        Entity entity,
        CancellationToken cancel
    )
    {
        private string Table => AttachedDatabase.Table(entity.Attached!);

        /// <param name="number">The key it is given, where that is its number and not the database's to give.</param>
        public async Task<SaveOutcome> Insert(IReadOnlyDictionary<string, object?> values, long? number = null)
        {
            var assigned = new Dictionary<string, (TypedColumn Column, object? Value)>(StringComparer.Ordinal);
            foreach (var field in entity.Current.Where(field => values.ContainsKey(field.Key) && MayMake(field)))
            {
                // What the database fills is left to it.
                if (values[field.Key] is null && field.Attached!.Fills)
                {
                    continue;
                }

                if (!await Assign(field, values[field.Key], assigned))
                {
                    return new SaveOutcome.ReferenceNotFound(field);
                }
            }

            var numbered = number is not null && !assigned.ContainsKey(entity.Attached!.Key[0].Column);
            if (numbered)
            {
                assigned[entity.Attached!.Key[0].Column] = (
                    entity.Attached.Key[0],
                    database.KeyPart(RowKey.Of(number!.Value).Parts[0]!, entity.Attached.Key[0].Type)
                );
            }

            await using var insert = connection.Command("", transaction);
            var (columns, places) = Listed(assigned, insert);
            insert.CommandText =
                assigned.Count == 0
                    ? $"INSERT INTO {Table} DEFAULT VALUES RETURNING {rows.Columns}"
                    : $"INSERT INTO {Table} ({string.Join(", ", columns)}){(numbered ? database.OwnNumber : "")} "
                        + $"VALUES ({string.Join(", ", places)}) RETURNING {rows.Columns}";
            var made = await rows.Read(insert, cancel);
            return made is [var row, ..]
                ? await Again(rows.Key(row))
                : new SaveOutcome.Objection(null, "The row was not made: a rule or a trigger of the database kept it out.");
        }

        public async Task<SaveOutcome> Change(long id, long version, IReadOnlyDictionary<string, object?> values)
        {
            var (present, row, refused) = await Present(id, version);
            if (refused is not null)
            {
                return refused;
            }

            var assigned = new Dictionary<string, (TypedColumn Column, object? Value)>(StringComparer.Ordinal);
            foreach (var field in entity.Current.Where(field => values.ContainsKey(field.Key)))
            {
                if (AttachedValues.IsAsItWas(field, values[field.Key], present!.Values[field.Key]))
                {
                    continue;
                }

                if (field.Attached!.ReadOnly is { } bar)
                {
                    return new SaveOutcome.ReadOnly(field, bar);
                }

                if (!await Assign(field, values[field.Key], assigned))
                {
                    return new SaveOutcome.ReferenceNotFound(field);
                }
            }

            if (assigned.Count == 0)
            {
                return new SaveOutcome.Success(present!);
            }

            var key = rows.Key(row!);
            await using var update = connection.Command("", transaction);
            var (columns, places) = Listed(assigned, update);
            update.CommandText =
                $"UPDATE {Table} SET {string.Join(", ", columns.Zip(places, (column, place) => $"{column} = {place}"))} "
                + $"WHERE {rows.Where(key, update)}";
            await update.ExecuteNonQueryAsync(cancel);
            var outcome = await Again(key);
            return outcome is SaveOutcome.Success saved ? saved with { Before = present } : outcome;
        }

        public async Task<SaveOutcome> Delete(long id, long version)
        {
            var (present, row, refused) = await Present(id, version);
            if (refused is not null)
            {
                return refused;
            }

            await using var delete = connection.Command("", transaction);
            delete.CommandText = $"DELETE FROM {Table} WHERE {rows.Where(rows.Key(row!), delete)}";
            await delete.ExecuteNonQueryAsync(cancel);
            return new SaveOutcome.Success(present!);
        }

        /// <summary>The row as it is, taken until the transaction ends; what stands against changing it.</summary>
        private async Task<(StoredRecord? Record, AttachedRow? Row, SaveOutcome? Refused)> Present(long id, long version)
        {
            var known = await records.KeysOf(entity, [id], cancel);
            if (!known.TryGetValue(id, out var key))
            {
                return (null, null, new SaveOutcome.NotFound());
            }

            await using var select = connection.Command("", transaction);
            select.CommandText = $"{rows.Select} WHERE {rows.Where(key, select)}{database.Taken}";
            var found = await rows.Read(select, cancel);
            if (found is not [var row, ..])
            {
                return (null, null, new SaveOutcome.NotFound());
            }

            var record = (await records.Records(entity, rows, database, [row], cancel))[0];
            return (record, row, record.Version == version ? null : new SaveOutcome.VersionConflict(record));
        }

        /// <summary>The row as it is after it was written: triggers may have had a hand in it.</summary>
        private async Task<SaveOutcome> Again(RowKey key)
        {
            await using var select = connection.Command("", transaction);
            select.CommandText = $"{rows.Select} WHERE {rows.Where(key, select)}";
            var found = await rows.Read(select, cancel);
            return found is [var row, ..]
                ? new SaveOutcome.Success((await records.Records(entity, rows, database, [row], cancel))[0])
                : new SaveOutcome.Objection(null, "The row is not there after it was written: the connection may not read it.");
        }

        private static bool MayMake(Field field) => field.Attached!.ReadOnly is null or WriteBar.Key;

        /// <summary>Says what a field's columns get; false where it refers to a record that there is not.</summary>
        private async Task<bool> Assign(Field field, object? value, Dictionary<string, (TypedColumn Column, object? Value)> assigned)
        {
            var columns = field.Attached!.Columns;
            if (field.Type is not FieldType.Reference)
            {
                // A text that must be there, but may be empty, is an empty one.
                assigned[columns[0].Column] = (
                    columns[0],
                    value is null && field.Attached.Fills && field.Type is FieldType.Text or FieldType.LongText
                        ? ""
                        : database.Write(field, value)
                );
                return true;
            }

            RowKey? target = null;
            if (value is long id)
            {
                target = (await records.RowKeys.Keys(field.Target!, IsNumbered(field), [id], cancel)).GetValueOrDefault(id);
                if (target is null)
                {
                    return false;
                }
            }

            for (var i = 0; i < columns.Length; i++)
            {
                assigned[columns[i].Column] = (columns[i], target is null ? null : database.KeyPart(target.Parts[i]!, columns[i].Type));
            }

            return true;
        }

        private (List<string> Columns, List<string> Places) Listed(
            Dictionary<string, (TypedColumn Column, object? Value)> assigned,
            DbCommand command
        )
        {
            var (columns, places) = (new List<string>(), new List<string>());
            foreach (var (column, value) in assigned.Values)
            {
                var name = string.Create(CultureInfo.InvariantCulture, $"v{columns.Count}");
                columns.Add(AttachedDatabase.Quote(column.Column));
                places.Add(database.Placed("@" + name, column.Type));
                command.Add(name, value);
            }

            return (columns, places);
        }
    }
}
