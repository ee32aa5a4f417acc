using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>Records: list, read, create, change, delete, bring back, look up. Fields one may not read are nowhere in any of it.</summary>
public static class RecordEndpoints
{
    public static void MapRecords(this IEndpointRouteBuilder api)
    {
        api.MapGet("/search", RecordSearch.Search)
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
            .CountsSaves()
            .WithName("createRecord")
            .Needs(Permissions.WriteRecords)
            .TakesAtMost(BodySizes.Document)
            .Produces<RecordInfo>(201)
            .WithSummary("Creates a record.");
        group
            .MapGet("/lookup", RecordSearch.LookUp)
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
            .CountsSaves()
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
            .MapGet("/{id:long}/history", RecordHistory.History)
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
        bool? slow,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var query = await lists.Query(
            definition,
            new ListRequest(q, sort, filter, listed ?? false, after, limit ?? 50),
            caller,
            http.LanguageOf(caller, releases.Snapshot.Definitions.Application),
            cancel
        );
        // What the list is published with, and pages of what was agreed to, are not asked about.
        if (slow is not true && after is null && (q ?? sort ?? filter) is { Length: > 0 })
        {
            await lists.RequireQuick(definition, query, caller.Person.Language, cancel);
        }

        var rows = await lists.Rows(definition, query, cancel);
        return TypedResults.Json(
            new RecordPage(
                await RecordAnswers.Infos(definition, rows.Records, caller, releases, store, cancel),
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
        return await RecordAnswers.Answer(
            http,
            definition,
            await store.Find(definition, id, cancel) ?? throw RecordRefusals.NoRecord(definition, id),
            caller,
            releases,
            store,
            200,
            cancel
        );
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
        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        var values = await saving.Decide(definition, body, null, caller, language, cancel);
        var related = await saving.Related(definition, body, null, caller, language, cancel);
        var record = RecordRefusals.Saved(
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
        return await RecordAnswers.Answer(http, definition, record, caller, releases, store, 201, cancel);
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
        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        var version = ETags.Expected(http);
        var stored = await store.Find(definition, id, cancel) ?? throw RecordRefusals.NoRecord(definition, id);
        if (stored.Version != version)
        {
            throw RecordRefusals.Outdated(definition, stored);
        }

        var values = await saving.Decide(definition, body, stored, caller, language, cancel);
        var related = await saving.Related(definition, body, stored, caller, language, cancel);
        var record = RecordRefusals.Saved(
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
        return await RecordAnswers.Answer(http, definition, record, caller, releases, store, 200, cancel);
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
        var version = ETags.Expected(http);
        var outcome =
            definition.Attached is not null
            && await RecordRefusals.IsPointedAtFromElsewhere(definition, id, releases.Snapshot.Definitions, store, cancel)
                ? new SaveOutcome.InUse()
                : await store.Delete(definition, id, version, Stamp(caller, time), cancel);
        if (
            outcome is SaveOutcome.InUse
            && await RecordRefusals.Referring(definition, id, caller, releases, store, cancel) is { } referring
        )
        {
            throw new RefusedException(409, "referred-to", $"{referring} refer to this one; change them first.");
        }

        RecordRefusals.Saved(outcome, definition, id, caller);
        return TypedResults.NoContent();
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
        return await RecordAnswers.Answer(
            http,
            definition,
            RecordRefusals.Saved(await store.Restore(definition, id, Stamp(caller, time), cancel), definition, id, caller),
            caller,
            releases,
            store,
            200,
            cancel
        );
    }

    private static Stamp Stamp(Caller caller, TimeProvider time) => new(caller.Person.Id, time.GetUtcNow());
}
