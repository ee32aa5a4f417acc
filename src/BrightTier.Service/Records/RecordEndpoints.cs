using System.Globalization;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>Records: list, read, create, change, delete, bring back, look up. Fields one may not read are nowhere in any of it.</summary>
public static class RecordEndpoints
{
    public static void MapRecords(this IEndpointRouteBuilder api)
    {
        api.MapGet("/search", Search)
            .WithName("searchRecords")
            .Needs(Permissions.ReadRecords)
            .WithTags("records")
            .Produces<IReadOnlyList<FoundRecords>>()
            .WithSummary("Records of every entity that have the words of q in the text that names them, up to limit (5) of each.");
        var group = api.MapGroup("/records/{entity}").WithTags("records");
        group
            .MapGet("", List)
            .WithName("listRecords")
            .Needs(Permissions.ReadRecords)
            .Produces<RecordPage>()
            .WithSummary(
                "A page of records: q searches for words, sort names fields (-field descending) with commas between, filter "
                    + "is a condition in CEL, listed takes the filter and order of the published list, after is the cursor of "
                    + "the page before, limit up to 200. Counting stops at 10,000."
            );
        group
            .MapPost("", Create)
            .WithName("createRecord")
            .Needs(Permissions.WriteRecords)
            .TakesAtMost(BodySizes.Document)
            .Produces<RecordInfo>(201)
            .WithSummary("Creates a record.");
        group
            .MapGet("/lookup", LookUp)
            .WithName("lookUpRecords")
            .Needs(Permissions.ReadRecords)
            .Produces<IReadOnlyList<RecordName>>()
            .WithSummary(
                "Records by the text that names them, for references: q searches for words, filter is a condition in CEL, "
                    + "display another text to name them by, ids asks for the names of these."
            );
        group
            .MapGet("/{id:long}", Get)
            .WithName("getRecord")
            .Needs(Permissions.ReadRecords)
            .Produces<RecordInfo>()
            .WithSummary("One record, with its version as entity tag.");
        group
            .MapPatch("/{id:long}", Change)
            .WithName("changeRecord")
            .Needs(Permissions.WriteRecords)
            .TakesAtMost(BodySizes.Document)
            .Produces<RecordInfo>()
            .WithSummary("Changes the fields given; If-Match names the version changed.");
        group
            .MapDelete("/{id:long}", Delete)
            .WithName("deleteRecord")
            .Needs(Permissions.WriteRecords)
            .Produces(204)
            .WithSummary("Deletes a record; it can be restored.");
        group
            .MapGet("/{id:long}/history", History)
            .WithName("getRecordHistory")
            .Needs(Permissions.ReadRecords)
            .Produces<IReadOnlyList<HistoryEntry>>()
            .WithSummary("The changes to a record, newest first, as far as one may read them.");
        group
            .MapPost("/{id:long}/restore", Restore)
            .WithName("restoreRecord")
            .Needs(Permissions.WriteRecords)
            .Produces<RecordInfo>()
            .WithSummary("Restores a deleted record.");
    }

    private static async Task<IResult> List(
        HttpContext http,
        string entity,
        RecordLists lists,
        CurrentRelease releases,
        IRecordStore store,
        string? q,
        string? sort,
        string? filter,
        bool? listed,
        string? after,
        int? limit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var query = await lists.Query(
            definition,
            new ListRequest(q, sort, filter, listed ?? false, after, limit ?? 50),
            caller,
            Language(http, caller, releases),
            cancel
        );
        var rows = await lists.Rows(definition, query, cancel);
        return TypedResults.Json(
            new RecordPage(
                await Infos(definition, rows.Records, caller, releases, store, cancel),
                rows.Next,
                Math.Min(rows.Total, RecordQuery.Counted),
                rows.Total <= RecordQuery.Counted
            ),
            WireJson.Default.RecordPage
        );
    }

    private static async Task<IResult> Get(
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
        return await Answer(
            http,
            definition,
            await store.Find(definition, id, cancel) ?? throw NoRecord(definition, id),
            caller,
            releases,
            store,
            200,
            cancel
        );
    }

    private static async Task<IResult> LookUp(
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
                Language(http, caller, releases),
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

    private static async Task<IResult> Search(
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
        var language = Language(http, caller, releases);
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

    private static async Task<IResult> Create(
        HttpContext http,
        string entity,
        RecordSave body,
        CurrentRelease releases,
        IRecordStore store,
        RecordWriter saving,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var language = Language(http, caller, releases);
        var values = await saving.Decide(definition, body, null, caller, language, cancel);
        var related = await saving.Related(definition, body, null, caller, language, cancel);
        var record = Saved(
            await store.Write(
                [new RecordWrite.Create(definition, values), .. related.Select(each => each.Write)],
                Stamp(caller, time),
                cancel
            ),
            definition,
            0,
            related,
            caller
        );
        http.Response.Headers.Location = $"/api/records/{entity}/{record.Id.ToString(CultureInfo.InvariantCulture)}";
        return await Answer(http, definition, record, caller, releases, store, 201, cancel);
    }

    private static async Task<IResult> Change(
        HttpContext http,
        string entity,
        long id,
        RecordSave body,
        CurrentRelease releases,
        IRecordStore store,
        RecordWriter saving,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var language = Language(http, caller, releases);
        var version = ETags.Expected(http);
        var stored = await store.Find(definition, id, cancel) ?? throw NoRecord(definition, id);
        if (stored.Version != version)
        {
            throw Outdated(definition, stored);
        }

        var values = await saving.Decide(definition, body, stored, caller, language, cancel);
        var related = await saving.Related(definition, body, stored, caller, language, cancel);
        var record = Saved(
            await store.Write(
                [new RecordWrite.Change(definition, id, version, values), .. related.Select(each => each.Write)],
                Stamp(caller, time),
                cancel
            ),
            definition,
            id,
            related,
            caller
        );
        return await Answer(http, definition, record, caller, releases, store, 200, cancel);
    }

    private static async Task<IResult> Delete(
        HttpContext http,
        string entity,
        long id,
        CurrentRelease releases,
        IRecordStore store,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var outcome = await store.Delete(definition, id, ETags.Expected(http), Stamp(caller, time), cancel);
        if (outcome is SaveOutcome.InUse && await Referring(definition, id, caller, releases, store, cancel) is { } referring)
        {
            throw new RefusedException(409, "referred-to", $"{referring} refer to this one; change them first.");
        }

        Saved(outcome, definition, id, caller);
        return TypedResults.NoContent();
    }

    /// <summary>What the records are called that refer to one, of those the caller may know do; null where she may know of none.</summary>
    private static async Task<string?> Referring(
        Entity entity,
        long id,
        Caller caller,
        CurrentRelease releases,
        IRecordStore store,
        CancellationToken cancel
    )
    {
        var definitions = releases.Snapshot.Definitions;
        foreach (
            var (other, through) in definitions.Entities.Values.SelectMany(other =>
                other.Fields.Where(field => field.Target == entity.Key && field.MayRead(caller.Roles)).Select(field => (other, field))
            )
        )
        {
            var pointing = Core
                .Conditions.Condition.CompileAnew(
                    string.Create(CultureInfo.InvariantCulture, $"record.{through.Key} == {id}"),
                    other,
                    definitions
                )
                .Expression!;
            var query = new RecordQuery { Filters = [new RecordFilter(pointing, Core.Conditions.Reducer.Nothing, definitions)], Limit = 1 };
            if ((await store.List(other, query, cancel)).Records.Count > 0)
            {
                return $"{other.Plural.In(caller.Person.Language)} ({through.Label.In(caller.Person.Language)})";
            }
        }

        return null;
    }

    private static async Task<IResult> Restore(
        HttpContext http,
        string entity,
        long id,
        CurrentRelease releases,
        IRecordStore store,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        return await Answer(
            http,
            definition,
            Saved(await store.Restore(definition, id, Stamp(caller, time), cancel), definition, id, caller),
            caller,
            releases,
            store,
            200,
            cancel
        );
    }

    private static async Task<IResult> History(
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
        var readable = Readable(definition, caller);
        var states = await store.History(definition, id, cancel);
        if (states.Count == 0)
        {
            throw NoRecord(definition, id);
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
        return TypedResults.Json<IReadOnlyList<HistoryEntry>>([.. entries], WireJson.Default.IReadOnlyListHistoryEntry);

        static JsonElement? Json(object? value) =>
            value is null ? null : DraftDocuments.Element(writer => FieldValues.Write(writer, value));
    }

    private static Stamp Stamp(Caller caller, TimeProvider time) => new(caller.Person.Id, time.GetUtcNow());

    private static string Language(HttpContext http, Caller caller, CurrentRelease releases) =>
        http.LanguageOf(caller, releases.Snapshot.Definitions.Application);

    private static Field[] Readable(Entity entity, Caller caller) => [.. entity.Fields.Where(field => field.MayRead(caller.Roles))];

    /// <summary>The first of what was saved together; what stood against one that hangs on it is told with its place.</summary>
    private static StoredRecord Saved(
        IReadOnlyList<SaveOutcome> outcomes,
        Entity entity,
        long id,
        IReadOnlyList<RelatedWrite> related,
        Caller caller
    )
    {
        if (
            outcomes.Count > 1
            && related[outcomes.Count - 2] is var (pointer, write)
            && Refusal(outcomes[^1], write.Entity, (write as RecordWrite.Change)?.Id ?? (write as RecordWrite.Delete)?.Id ?? 0, caller)
                is { } refused
        )
        {
            var (status, code) = outcomes[^1] is SaveOutcome.VersionConflict ? (409, "related-changed") : (refused.Status, refused.Code);
            throw new RefusedException(
                status,
                code,
                refused.Detail,
                [
                    .. (refused.Parts ?? [])
                        .Select(part => part with { Pointer = $"{pointer}/{part.Pointer}" })
                        .DefaultIfEmpty(Problems.Part(pointer, refused.Detail)),
                ]
            );
        }

        return Saved(outcomes[0], entity, id, caller);
    }

    private static StoredRecord Saved(SaveOutcome outcome, Entity entity, long id, Caller caller) =>
        outcome is SaveOutcome.Success saved ? saved.Record : throw Refusal(outcome, entity, id, caller)!;

    /// <summary>What stood against saving; null where nothing did.</summary>
    internal static RefusedException? Refusal(SaveOutcome outcome, Entity entity, long id, Caller caller) =>
        outcome switch
        {
            SaveOutcome.Success => null,
            SaveOutcome.VersionConflict outdated => Outdated(entity, outdated.Current),
            SaveOutcome.DuplicateValue taken => new RefusedException(
                422,
                "record-invalid",
                taken.Field.MayRead(caller.Roles)
                    ? (Message)$"Another {entity.Label.Lower()} has this {taken.Field.Label.Lower()} already."
                    : $"A value is taken.",
                [
                    Problems.Part(
                        taken.Field.MayRead(caller.Roles) ? taken.Field.Key : "",
                        taken.Field.MayRead(caller.Roles)
                            ? (Message)$"{taken.Field.Label} is taken: another {entity.Label.Lower()} has it."
                            : $"A value is taken.",
                        "unique"
                    ),
                ]
            ),
            SaveOutcome.ReferenceNotFound { Field: var hidden } when !hidden.MayRead(caller.Roles) => new RefusedException(
                422,
                "record-invalid",
                $"A value points at a record that is not there."
            ),
            SaveOutcome.ReferenceNotFound dangling => new RefusedException(
                422,
                "record-invalid",
                $"{dangling.Field.Label} points at a record that is not there.",
                [
                    Problems.Part(
                        dangling.Field.Key,
                        $"{dangling.Field.Label} points at a record that is not there; it may have been deleted.",
                        "reference"
                    ),
                ]
            ),
            SaveOutcome.InUse => new RefusedException(409, "referred-to", $"Other records refer to this one; change them first."),
            _ => NoRecord(entity, id),
        };

    private static RefusedException NoRecord(Entity entity, long id) =>
        Problems.NotFound($"{entity.Label.Lower()}", id.ToString(CultureInfo.InvariantCulture));

    private static RefusedException Outdated(Entity entity, StoredRecord current) =>
        new(
            412,
            "record-changed",
            $"This {entity.Label.ToString().ToLowerInvariant()} was changed by {current.ChangedBy} meanwhile (version "
                + $"{current.Version}). Nothing was saved; read it again and save over it."
        );

    private static async Task<IResult> Answer(
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

    private static async Task<IReadOnlyList<RecordInfo>> Infos(
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

    private static JsonElement Values(Field[] readable, StoredRecord record) =>
        DraftDocuments.Element(writer =>
            FieldValues.WriteAll(
                writer,
                readable.Select(field => KeyValuePair.Create(field.Key, record.Values.GetValueOrDefault(field.Key)))
            )
        );
}
