using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

/// <summary>
/// Records wherever they are: in tables of ours, or in databases that are attached. What is told of a record, its history among it, is with
/// us for both.
/// </summary>
public sealed class RecordStores(SqlRecordStore own, AttachedRecords attached) : IRecordStore
{
    public Task Define(Definitions definitions, IReadOnlySet<(string Entity, string Field)> sorted, CancellationToken cancel) =>
        own.Define(definitions, sorted, cancel);

    public Task<bool> IsThere(CancellationToken cancel) => own.IsThere(cancel);

    public async Task<StoredRecord?> Find(Entity entity, long id, CancellationToken cancel)
    {
        if (entity.Attached is null)
        {
            return await own.Find(entity, id, cancel);
        }

        return await attached.Find(entity, id, cancel) is { } record ? await own.Stamped(entity, record, cancel) : null;
    }

    public Task<IReadOnlyList<StoredRecord>> FindMany(Entity entity, IReadOnlyCollection<long> ids, CancellationToken cancel) =>
        entity.Attached is null ? own.FindMany(entity, ids, cancel) : attached.FindMany(entity, ids, cancel);

    public Task<RecordRows> List(Entity entity, RecordQuery query, CancellationToken cancel) =>
        entity.Attached is null ? own.List(entity, query, cancel) : attached.List(entity, query, cancel);

    public Task<SlowQuery?> Foresee(Entity entity, RecordQuery query, CancellationToken cancel) =>
        entity.Attached is null ? own.Foresee(entity, query, cancel) : attached.Foresee(entity, query, cancel);

    public async Task<SaveOutcome> Restore(Entity entity, long id, Stamp stamp, CancellationToken cancel)
    {
        if (entity.Attached is null)
        {
            return await own.Restore(entity, id, stamp, cancel);
        }

        if (await attached.Find(entity, id, cancel) is { } present)
        {
            return new SaveOutcome.Success(present);
        }

        if (await own.History(entity, id, cancel) is not [var last, ..])
        {
            return new SaveOutcome.NotFound();
        }

        var outcome = await attached.Restore(entity, id, last.Values, cancel);
        if (outcome is SaveOutcome.Success { Record: var back })
        {
            await own.Remember(entity, back, "restore", stamp, cancel);
        }

        return outcome;
    }

    /// <summary>
    /// Each database has its own transaction; those of the attached are committed one after the other, the history with the last of ours. A
    /// save that concerns more than one is refused before anything is written.
    /// </summary>
    public async Task<IReadOnlyList<SaveOutcome>> Write(IReadOnlyList<RecordWrite> writes, Stamp stamp, CancellationToken cancel)
    {
        if (writes.Select(write => write.Entity.Attached?.Database).Distinct().Count() > 1)
        {
            return
            [
                new SaveOutcome.Objection(
                    null,
                    "Records of several databases are saved one after another: no transaction holds them together."
                ),
            ];
        }

        if (writes.Count == 0 || writes[0].Entity.Attached is null)
        {
            return await own.Write(writes, stamp, cancel);
        }

        var outcomes = await attached.Write(writes, cancel);
        if (outcomes.Count == writes.Count && outcomes[^1] is SaveOutcome.Success)
        {
            foreach (var (write, outcome) in writes.Zip(outcomes.Cast<SaveOutcome.Success>()))
            {
                await Remember(write, outcome, stamp, cancel);
            }
        }

        return outcomes;
    }

    private async Task Remember(RecordWrite write, SaveOutcome.Success outcome, Stamp stamp, CancellationToken cancel)
    {
        switch (write)
        {
            case RecordWrite.Change when outcome.Before is { } before:
                await own.RememberFound(write.Entity, before, stamp, cancel);
                await own.Remember(write.Entity, outcome.Record, "change", stamp, cancel);
                break;
            case RecordWrite.Change:
                // Nothing was another one.
                break;
            default:
                await own.Remember(write.Entity, outcome.Record, write is RecordWrite.Create ? "create" : "delete", stamp, cancel);
                break;
        }
    }

    public Task<IReadOnlyList<RecordState>> History(Entity entity, long id, CancellationToken cancel) => own.History(entity, id, cancel);

    public Task<IReadOnlyList<RecordAction>> Actions(RecordActionQuery query, CancellationToken cancel) => own.Actions(query, cancel);

    public Task Dump(Definitions definitions, Func<string?, Stream> open, CancellationToken cancel) => own.Dump(definitions, open, cancel);

    public Task Load(Definitions definitions, Func<string?, Stream?> open, CancellationToken cancel) => own.Load(definitions, open, cancel);
}
