using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>One change to many records: every one by the rights and rules it would meet alone, all of them or none.</summary>
public static class BulkEndpoints
{
    private const int Most = 1_000;

    public static void MapBulk(this IEndpointRouteBuilder api) =>
        api.MapPatch("/records/{entity}", Change)
            .WithName("changeRecords")
            .Needs(Permissions.WriteRecords)
            .WithTags("records")
            .Produces<BulkResult>()
            .WithSummary(
                "Sets the same values in up to 1,000 records, each at the version named, all or none; problems are listed by record."
            );

    private static async Task<IResult> Change(
        HttpContext http,
        string entity,
        BulkChange body,
        CurrentRelease releases,
        IRecordStore store,
        RecordWriter saving,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        if (body.Records.Count is 0 or > Most || body.Records.DistinctBy(record => record.Id).Count() != body.Records.Count)
        {
            throw Problems.Invalid(
                $"A change is for 1 to {Most} records, each named once; this one names {body.Records.Count}.",
                Problems.Part("/records", $"must name from 1 to {Most} records, each once")
            );
        }

        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        var writes = new List<RecordWrite>();
        var problems = new List<ProblemPart>();
        var stored = (await store.FindMany(definition, [.. body.Records.Select(record => record.Id)], cancel)).ToDictionary(record =>
            record.Id
        );
        // In one order, whoever asks: two that change the same records wait for one another instead of standing in each other's way.
        var ordered = body.Records.Select((asked, i) => (asked, i)).OrderBy(each => each.asked.Id).ToArray();
        foreach (var (asked, i) in ordered)
        {
            var pointer = $"/records/{i}";
            if (!stored.TryGetValue(asked.Id, out var record) || record.Version != asked.Version)
            {
                problems.Add(
                    Problems.Part(pointer, record is null ? (Message)$"is not there any more" : $"was changed meanwhile", "record-changed")
                );
                continue;
            }

            try
            {
                writes.Add(
                    new RecordWrite.Change(
                        definition,
                        asked.Id,
                        asked.Version,
                        await saving.Decide(definition, new RecordSave(body.Values), record, caller, language, cancel)
                    )
                );
            }
            catch (RefusedException refused) when (refused.Status == 422 && refused.Parts is { Count: > 0 } parts)
            {
                problems.AddRange(parts.Select(part => part with { Pointer = $"{pointer}/{part.Pointer}" }));
            }
        }

        if (problems.Count == 0)
        {
            var outcomes = await store.Write(writes, new Stamp(caller.Person.Id, time.GetUtcNow()), cancel);
            if (RecordRefusals.Refusal(outcomes[^1], definition, ordered[outcomes.Count - 1].asked.Id, caller) is { } refused)
            {
                problems.AddRange(
                    (refused.Parts ?? [])
                        .DefaultIfEmpty(Problems.Part("", refused.Detail))
                        .Select(part => part with { Pointer = $"/records/{ordered[outcomes.Count - 1].i}/{part.Pointer}" })
                );
            }
        }

        return problems.Count == 0
            ? TypedResults.Json(new BulkResult(writes.Count), WireJson.Default.BulkResult)
            : throw new RefusedException(
                422,
                "record-invalid",
                problems.Count == 1
                    ? (Message)$"Nothing was changed: {problems.Count} value needs attention."
                    : $"Nothing was changed: {problems.Count} values need attention.",
                problems
            );
    }
}
