using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>The changes to a record.</summary>
internal static class RecordHistory
{
    internal static async Task<IResult> History(
        HttpContext http,
        string entity,
        long id,
        CurrentRelease releases,
        IRecordStore store,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var readable = RecordAnswers.Readable(definition, caller);
        var states = await store.History(definition, id, cancel);
        if (states.Count == 0 && (definition.Attached is null || await store.Find(definition, id, cancel) is null))
        {
            throw RecordRefusals.NoRecord(definition, id);
        }

        var names = await RecordNames.Of(
            readable,
            [.. states.Select(state => new StoredRecord(id, state.Version, state.Values, state.At, state.By, state.At, state.By))],
            caller,
            releases,
            store,
            cancel
        );
        string? Title(Field field, object? value) =>
            value is long target && field.Type is FieldType.Reference ? names.GetValueOrDefault((field.Target!, target))?.Title : null;
        var entries = states.Select(
            (state, i) =>
            {
                // What was deleted and brought back is as it was; only what else differs is a change.
                var before = i + 1 < states.Count ? states[i + 1].Values : new Dictionary<string, object?>();
                return new HistoryEntry(
                    state.Version,
                    state.Action,
                    state.At,
                    state.By,
                    [
                        .. readable
                            .Where(_ => state.Action is "create" or "change")
                            .Select(field =>
                                (field, old: before.GetValueOrDefault(field.Key), now: state.Values.GetValueOrDefault(field.Key))
                            )
                            .Where(change => !FieldValues.Same(change.old, change.now))
                            .Select(change => new FieldChange(
                                change.field.Key,
                                Json(change.old),
                                Json(change.now),
                                Title(change.field, change.old),
                                Title(change.field, change.now)
                            )),
                    ]
                );
            }
        );
        return TypedResults.Json<IReadOnlyList<HistoryEntry>>(
            [.. entries.Where(entry => entry.Action != "found")],
            WireJson.Default.IReadOnlyListHistoryEntry
        );

        static JsonElement? Json(object? value) =>
            value is null ? null : DraftDocuments.Element(writer => FieldValues.Write(writer, value));
    }
}
