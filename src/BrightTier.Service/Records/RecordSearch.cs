using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>Records found by the text that names them: for references, and over every entity.</summary>
internal static class RecordSearch
{
    internal static async Task<IResult> LookUp(
        HttpContext http,
        string entity,
        RecordLists lists,
        CurrentRelease releases,
        IRecordStore store,
        string? q,
        string? filter,
        string? display,
        string? ids,
        int? limit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        if (display is not null)
        {
            // The text a layout composes; what it names that one may not read stays empty.
            definition = definition with { Display = display };
        }

        var shown = definition.DisplayFields.Where(field => field.MayRead(caller.Roles)).ToArray();
        IReadOnlyList<StoredRecord> records;
        if (ids is not null)
        {
            var wanted = ids.Split(',')
                .Take(50)
                .Select(each =>
                    long.TryParse(each, NumberStyles.None, CultureInfo.InvariantCulture, out var id)
                        ? id
                        : throw Problems.Invalid(
                            $"'ids' are numbers of records with commas between them.",
                            Problems.Part("ids", $"must be numbers")
                        )
                )
                .ToList();
            records = [.. (await store.FindMany(definition, wanted, cancel)).OrderBy(record => wanted.IndexOf(record.Id))];
        }
        else
        {
            var query = await lists.Query(
                definition,
                new ListRequest(null, null, filter, false, null, Math.Clamp(limit ?? 20, 1, 50)),
                caller,
                http.LanguageOf(caller, releases.Snapshot.Definitions.Application),
                cancel
            );
            records = (
                await lists.Rows(
                    definition,
                    query with
                    {
                        Search = q,
                        SearchIn = [.. shown.Where(field => field.Type.IsShortText())],
                        Sort = [.. shown.Take(1).Select(field => new SortBy(field, false))],
                    },
                    cancel
                )
            ).Records;
        }

        var names = await RecordNames.Of(
            [.. definition.DisplayFields.Where(field => field.Type is FieldType.Reference && field.MayRead(caller.Roles))],
            records,
            caller,
            releases,
            store,
            cancel
        );
        return TypedResults.Json<IReadOnlyList<RecordName>>(
            [.. records.Select(record => new RecordName(record.Id, RecordNames.Title(definition, record, caller, names)))],
            WireJson.Default.IReadOnlyListRecordName
        );
    }

    internal static async Task<IResult> Search(
        HttpContext http,
        RecordLists lists,
        CurrentRelease releases,
        IRecordStore store,
        string? q,
        int? limit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        var found = new List<FoundRecords>();
        foreach (var entity in string.IsNullOrWhiteSpace(q) ? [] : releases.Snapshot.Definitions.Entities.Values)
        {
            var shown = entity.DisplayFields.Where(field => field.MayRead(caller.Roles)).ToArray();
            var query = new RecordQuery
            {
                Search = q,
                SearchIn = [.. shown.Where(field => field.Type.IsShortText())],
                Limit = Math.Clamp(limit ?? 5, 1, 20),
            };
            var records = (await lists.Rows(entity, query, cancel)).Records;
            var names = await RecordNames.Of(
                [.. shown.Where(field => field.Type is FieldType.Reference)],
                records,
                caller,
                releases,
                store,
                cancel
            );
            if (records.Count > 0)
            {
                found.Add(
                    new FoundRecords(
                        entity.Key,
                        entity.Plural.In(language),
                        [.. records.Select(record => new RecordName(record.Id, RecordNames.Title(entity, record, caller, names)))]
                    )
                );
            }
        }

        return TypedResults.Json<IReadOnlyList<FoundRecords>>(found, WireJson.Default.IReadOnlyListFoundRecords);
    }
}
