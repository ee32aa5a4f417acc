using System.Globalization;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Resolution;

/// <summary>
/// What conditions are evaluated against in the service: a record, the records its references lead to, the viewer, the day. Of all of it
/// only what
/// she may read: the rest is empty, so that it influences nothing she is answered.
/// </summary>
public sealed class RecordContext(IRecordStore records, TimeProvider time)
{
    /// <summary>For routing rules that look at the record. Without a record, or one that is not there, its values are all empty.</summary>
    public async Task<EvaluationContext> Of(
        string record,
        Snapshot snapshot,
        Entity entity,
        string kind,
        Caller caller,
        string mode,
        string language,
        CancellationToken cancel
    )
    {
        IReadOnlyDictionary<string, object?> values = new Dictionary<string, object?>();
        if (
            LayoutSelector.DependsOnRecord(snapshot.Catalogue, entity, kind)
            && long.TryParse(record, NumberStyles.None, CultureInfo.InvariantCulture, out var id)
            && await records.Find(entity, id, cancel) is { } found
        )
        {
            values = found.Values;
        }

        var steps = snapshot
            .Catalogue.Routing.Rules.Where(rule => rule.Entity == entity.Key && rule.When is not null)
            .SelectMany(rule => Condition.Compile(rule.When!, entity, snapshot.Definitions).Expression?.Reads() ?? []);
        return await Around(entity, values, steps, snapshot.Definitions, caller, mode, language, cancel);
    }

    /// <param name="steps">Steps through references that will be read, such as berth.zone.</param>
    /// <param name="asker">Somebody else who is told what comes of it, and so must be allowed to read it as well; null where that is the
    /// caller.</param>
    public async Task<EvaluationContext> Around(
        Entity entity,
        IReadOnlyDictionary<string, object?> record,
        IEnumerable<string> steps,
        Definitions definitions,
        Caller caller,
        string mode,
        string language,
        CancellationToken cancel,
        Caller? asker = null
    )
    {
        record = Readable(entity, record);
        var taken = steps.Where(step => step.Contains('.', StringComparison.Ordinal)).Distinct().ToArray();
        var related = new Dictionary<string, IReadOnlyDictionary<string, object?>>(StringComparer.Ordinal);
        foreach (var key in taken.Select(Expression.Own).Distinct())
        {
            if (
                record.GetValueOrDefault(key) is long id
                && entity.Find(key)?.Target is { } target
                && definitions.Entities.GetValueOrDefault(target) is { } other
                && await records.Find(other, id, cancel) is { } found
            )
            {
                related[key] = Readable(other, found.Values);
            }
        }

        var now = time.GetUtcNow();
        var local = TimeZoneInfo.ConvertTime(now, definitions.Application.Zone);
        return EvaluationContext.Of(
            Condition.Values(entity, record, related, taken),
            caller.Person.Id,
            caller.Roles,
            mode,
            language,
            new DateTimeOffset(local.Date, TimeSpan.Zero),
            now
        );

        IReadOnlyDictionary<string, object?> Readable(Entity of, IReadOnlyDictionary<string, object?> values) =>
            asker is null ? of.ReadableBy(values, caller.Roles) : of.ReadableBy(of.ReadableBy(values, caller.Roles), asker.Roles);
    }
}
