using System.Data.Common;
using BrightTier.Core.Model;
using Dapper;

namespace BrightTier.Records;

// What stands against a write, as the database says it.
public partial class SqlRecordStore
{
    /// <summary>What a constraint of the database stood against: a unique value, or a reference.</summary>
    private async Task<SaveOutcome> Refused(
        DbConnection connection,
        Entity entity,
        IReadOnlyDictionary<string, object?>? values,
        Violation stood
    ) =>
        stood.OfUniqueness
            ? new SaveOutcome.DuplicateValue(
                entity.Fields.First(field =>
                    field.Unique
                    && (
                        stood.About == Index(entity, field, "unique")
                        || stood.About.EndsWith($".{Name(field)}", StringComparison.Ordinal)
                        || stood.About.Contains($".{Name(field)}'", StringComparison.Ordinal)
                    )
                )
            )
            : await Broken(connection, entity, values);

    /// <summary>Which reference broke: one of the values given, or another entity's to the deleted record.</summary>
    private async Task<SaveOutcome> Broken(DbConnection connection, Entity entity, IReadOnlyDictionary<string, object?>? values)
    {
        foreach (
            var field in entity.Fields.Where(field => field.Type is FieldType.Reference && values?.GetValueOrDefault(field.Key) is not null)
        )
        {
            var there = await connection.ExecuteScalarAsync<long>(
                $"SELECT count(*) FROM {SqlNames.Quote(dialect.Fit(SqlNames.Table(field.Target!)))} WHERE id = @id",
                new { id = values![field.Key] }
            );
            if (there == 0)
            {
                return new SaveOutcome.ReferenceNotFound(field);
            }
        }

        return new SaveOutcome.InUse();
    }

    private async Task<SaveOutcome> Current(DbConnection connection, Entity entity, long id) =>
        await Find(connection, entity, id) is { } record ? new SaveOutcome.VersionConflict(record) : new SaveOutcome.NotFound();
}
