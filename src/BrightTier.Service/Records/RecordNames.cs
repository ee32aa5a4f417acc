using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>The texts records are called by, of what somebody may read of them.</summary>
internal static class RecordNames
{
    /// <summary>
    /// What the records are called that these point at. Their own references are left out of it: one step is followed, no more; but for
    /// what is called by nothing else than what it joins.
    /// </summary>
    public static async Task<Dictionary<(string Entity, long Id), RecordName>> Of(
        Field[] readable,
        IReadOnlyList<StoredRecord> records,
        Caller caller,
        CurrentRelease releases,
        IRecordStore store,
        CancellationToken cancel,
        bool joins = true
    )
    {
        var names = new Dictionary<(string Entity, long Id), RecordName>();
        foreach (var target in readable.Where(field => field.Type is FieldType.Reference).GroupBy(field => field.Target!))
        {
            if (releases.Snapshot.Definitions.Entities.GetValueOrDefault(target.Key) is not { } definition)
            {
                continue;
            }

            var ids = target
                .SelectMany(field => records.Select(record => record.Values.GetValueOrDefault(field.Key)))
                .OfType<long>()
                .Distinct()
                .ToArray();
            var found = await store.FindMany(definition, ids, cancel);
            var called = definition.DisplayFields.Where(field => field.MayRead(caller.Roles)).ToArray();
            var joined =
                joins && called.Length > 0 && called.All(field => field.Type is FieldType.Reference)
                    ? await Of(called, found, caller, releases, store, cancel, joins: false)
                    : NoNames;
            foreach (var record in found)
            {
                names[(target.Key, record.Id)] = new RecordName(record.Id, Title(definition, record, caller, joined));
            }
        }

        return names;
    }

    private static readonly Dictionary<(string Entity, long Id), RecordName> NoNames = [];

    /// <summary>The text that names a record, of the fields this caller may read.</summary>
    public static string Title(Entity entity, StoredRecord record, Caller caller, Dictionary<(string Entity, long Id), RecordName> names)
    {
        var title = Placeholders.Fill(entity.Display, key =>
            entity.Find(key) is { } field && field.MayRead(caller.Roles) ? Words(field, record.Values.GetValueOrDefault(key), names) : null
        );
        return title.Length > 0 ? title : $"{entity.Label} {record.Id.ToString(CultureInfo.InvariantCulture)}";
    }

    /// <summary>A value in a title: a reference by the name of its record, moments to the minute in UTC.</summary>
    private static string? Words(Field field, object? value, Dictionary<(string Entity, long Id), RecordName> names) =>
        value switch
        {
            long id when field.Type is FieldType.Reference => names.GetValueOrDefault((field.Target!, id))?.Title,
            DateOnly date => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            DateTimeOffset moment => moment.UtcDateTime.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture),
            _ => Convert.ToString(value, CultureInfo.InvariantCulture),
        };
}
