using System.Data.Common;
using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

// Making, changing and deleting rows. Only columns whose value is another one are written.
public sealed partial class AttachedRecords
{
    /// <summary>
    /// Makes several changes to records of one database in one transaction, as <see cref="IRecordStore.Write"/> does.
    /// </summary>
    public Task<IReadOnlyList<SaveOutcome>> Write(IReadOnlyList<RecordWrite> writes, CancellationToken cancel) =>
        With<IReadOnlyList<SaveOutcome>>(writes[0].Entity, async (database, _) =>
        {
            await using var connection = await database.Open(cancel);
            await using var transaction = await database.Begin(connection, cancel);
            var outcomes = new List<SaveOutcome>();
            foreach (var write in writes)
            {
                var first = outcomes is [SaveOutcome.Success saved, ..] ? saved.Record.Id : 0;
                var step = new WriteStep(
                    this,
                    database,
                    new AttachedRows(database, write.Entity),
                    connection,
                    transaction,
                    write.Entity,
                    cancel
                );
                try
                {
                    outcomes.Add(
                        write switch
                        {
                            _ when write.Entity.Attached!.ReadOnly is { } bar => new SaveOutcome.ReadOnly(null, bar),
                            RecordWrite.Create { Values: var values, Parent: var parent } => await step.Insert(
                                parent is null ? values : new Dictionary<string, object?>(values) { [parent.Key] = first }
                            ),
                            RecordWrite.Change change => await step.Change(change.Id, change.Version, change.Values),
                            RecordWrite.Delete delete => await step.Delete(delete.Id, delete.Version),
                            _ => throw new ArgumentOutOfRangeException(nameof(writes)),
                        }
                    );
                }
                catch (DbException error)
                {
                    await transaction.RollbackAsync(cancel);
                    outcomes.Add(await Refused(database, connection, write, error) ?? throw Away(database, error));
                    return outcomes;
                }

                if (outcomes[^1] is not SaveOutcome.Success)
                {
                    await transaction.RollbackAsync(cancel);
                    return outcomes;
                }
            }

            try
            {
                await transaction.CommitAsync(cancel);
            }
            catch (DbException error) when (database.Words.IsTurnedAway(error) is false)
            {
                // Constraints that wait for the end.
                return [await Refused(database, connection, writes[0], error) ?? throw Away(database, error)];
            }

            return outcomes;
        });

    /// <summary>Brings a deleted row back with the key it had, where its values are known.</summary>
    public async Task<SaveOutcome> Restore(Entity entity, long id, IReadOnlyDictionary<string, object?> values, CancellationToken cancel)
    {
        if (entity.Attached!.ReadOnly is { } bar)
        {
            return new SaveOutcome.ReadOnly(null, bar);
        }

        return await With(entity, async (database, rows) =>
        {
            var number = entity.Attached.IsNumbered ? (long?)id : null;
            await using var connection = await database.Open(cancel);
            await using var transaction = await database.Begin(connection, cancel);
            var write = new RecordWrite.Create(entity, values);
            try
            {
                var step = new WriteStep(this, database, rows, connection, transaction, entity, cancel);
                var outcome = await step.Insert(values, number);
                await transaction.CommitAsync(cancel);
                return outcome;
            }
            catch (DbException error)
            {
                await transaction.RollbackAsync(cancel);
                return await Refused(database, connection, write, error) ?? throw Away(database, error);
            }
        });
    }

    /// <summary>What the database stands against, in the fields' names; null where the error is none of the change's.</summary>
    private static async Task<SaveOutcome?> Refused(
        AttachedDatabase database,
        DbConnection connection,
        RecordWrite write,
        DbException error
    )
    {
        if (await database.Refusal(connection, write.Entity.Attached!, error) is not { } refusal)
        {
            return null;
        }

        var fields = write
            .Entity.Fields.Where(field => field.Attached!.Columns.Any(column => refusal.Columns.Contains(column.Column)))
            .ToArray();
        if (refusal is { Kind: RefusalKind.Reference, Columns: [] } && Given(write) is { } given)
        {
            // Not every database says which: it is told where there is one alone.
            fields =
            [
                .. write.Entity.Fields.Where(field => field.Type is FieldType.Reference && given.GetValueOrDefault(field.Key) is not null),
            ];
        }

        return (refusal.Kind, fields) switch
        {
            (RefusalKind.Reference, _) when write is RecordWrite.Delete => new SaveOutcome.InUse(),
            (RefusalKind.Unique, [{ Unique: true } only]) => new SaveOutcome.DuplicateValue(only),
            (RefusalKind.Reference, [{ Type: FieldType.Reference } only]) => new SaveOutcome.ReferenceNotFound(only),
            (RefusalKind.Empty, [var only]) => new SaveOutcome.Objection(only, refusal.Words, Empty: true),
            (_, [var only]) => new SaveOutcome.Objection(only, refusal.Words),
            _ => new SaveOutcome.Objection(null, refusal.Words),
        };
    }

    private static IReadOnlyDictionary<string, object?>? Given(RecordWrite write) =>
        (write as RecordWrite.Create)?.Values ?? (write as RecordWrite.Change)?.Values;
}
