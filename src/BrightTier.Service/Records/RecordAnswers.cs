using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>Records as they are answered: the fields the caller may read, with the names of what they refer to.</summary>
internal static class RecordAnswers
{
    internal static Field[] Readable(Entity entity, Caller caller) => [.. entity.Fields.Where(field => field.MayRead(caller.Roles))];

    internal static async Task<IResult> Answer(
        HttpContext http,
        Entity entity,
        StoredRecord record,
        Caller caller,
        CurrentRelease releases,
        IRecordStore store,
        int status,
        CancellationToken cancel
    )
    {
        http.Response.Headers.ETag = ETags.Of(record.Version);
        http.Response.Headers.CacheControl = "no-store";
        return TypedResults.Json(
            (await Infos(entity, [record], caller, releases, store, cancel))[0],
            WireJson.Default.RecordInfo,
            statusCode: status
        );
    }

    internal static async Task<IReadOnlyList<RecordInfo>> Infos(
        Entity entity,
        IReadOnlyList<StoredRecord> records,
        Caller caller,
        CurrentRelease releases,
        IRecordStore store,
        CancellationToken cancel
    )
    {
        var readable = Readable(entity, caller);
        var names = await RecordNames.Of(readable, records, caller, releases, store, cancel);
        return
        [
            .. records.Select(record => new RecordInfo(
                entity.Key,
                record.Id,
                record.Version,
                RecordNames.Title(entity, record, caller, names),
                Values(readable, record),
                readable
                    .Where(field =>
                        field.Type is FieldType.Reference
                        && record.Values.GetValueOrDefault(field.Key) is long id
                        && names.ContainsKey((field.Target!, id))
                    )
                    .ToDictionary(field => field.Key, field => names[(field.Target!, (long)record.Values[field.Key]!)]),
                record.CreatedAt,
                record.CreatedBy,
                record.ChangedAt,
                record.ChangedBy
            )),
        ];
    }

    internal static JsonElement Values(Field[] readable, StoredRecord record) =>
        DraftDocuments.Element(writer =>
            FieldValues.WriteAll(
                writer,
                readable.Select(field => KeyValuePair.Create(field.Key, record.Values.GetValueOrDefault(field.Key)))
            )
        );
}
