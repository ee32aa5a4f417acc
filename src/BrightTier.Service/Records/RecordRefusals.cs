using System.Globalization;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>What stood against saving or deleting a record, in words; nothing in it the caller may not read.</summary>
internal static class RecordRefusals
{
    /// <summary>What the records are called that refer to one, of those the caller may know do; null where she may know of none.</summary>
    internal static async Task<string?> Referring(
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
            if (await IsPointedAt(id, other, through, definitions, store, cancel))
            {
                return $"{other.Plural.In(caller.Person.Language)} ({through.Label.In(caller.Person.Language)})";
            }
        }

        return null;
    }

    /// <summary>Whether records in another database point at one: no constraint reaches there.</summary>
    internal static async Task<bool> IsPointedAtFromElsewhere(
        Entity entity,
        long id,
        Definitions definitions,
        IRecordStore store,
        CancellationToken cancel
    )
    {
        foreach (var other in definitions.Entities.Values.Where(other => other.Attached?.Database != entity.Attached?.Database))
        {
            foreach (var through in other.Current.Where(field => field.Target == entity.Key))
            {
                if (await IsPointedAt(id, other, through, definitions, store, cancel))
                {
                    return true;
                }
            }
        }

        return false;
    }

    private static async Task<bool> IsPointedAt(
        long id,
        Entity other,
        Field through,
        Definitions definitions,
        IRecordStore store,
        CancellationToken cancel
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
        return (await store.List(other, query, cancel)).Records.Count > 0;
    }

    /// <summary>The first of what was saved together; what stood against one that hangs on it is told with its place.</summary>
    internal static StoredRecord Saved(
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

    internal static StoredRecord Saved(SaveOutcome outcome, Entity entity, long id, Caller caller) =>
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
            SaveOutcome.Objection objection => Objection(objection, caller),
            SaveOutcome.ReadOnly { Field: var stays, Why: var why } => ReadOnly(entity, stays, why),
            SaveOutcome.InUse => new RefusedException(409, "referred-to", $"Other records refer to this one; change them first."),
            _ => NoRecord(entity, id),
        };

    /// <summary>What a database that is not ours stands against; of what somebody may not read nothing is named.</summary>
    private static RefusedException Objection(SaveOutcome.Objection objection, Caller caller)
    {
        var field = objection.Field is { } about && about.MayRead(caller.Roles) ? about : null;
        var hidden = objection.Field is not null && field is null;
        var said = Said(objection, field, hidden);
        return new RefusedException(422, "record-invalid", said, [Problems.Part(field?.Key ?? "", said, "database")]);
    }

    /// <summary>What of an attached table is only read, and why.</summary>
    internal static RefusedException ReadOnly(Entity entity, Field? field, WriteBar why)
    {
        Message said = $"{field?.Label ?? entity.Plural}: {why.Reason()}";
        return new RefusedException(422, "record-invalid", said, [Problems.Part(field?.Key ?? "", said, "read-only")]);
    }

    private static Message Said(SaveOutcome.Objection objection, Field? field, bool hidden)
    {
        if (hidden)
        {
            return $"The database does not take what would be saved.";
        }

        return objection.Empty && field is not null
            ? (Message)$"{field.Label} must not be empty: the database asks for it."
            : $"The database does not take it: {Message.Verbatim(objection.Words)}";
    }

    internal static RefusedException NoRecord(Entity entity, long id) =>
        Problems.NotFound($"{entity.Label.Lower()}", id.ToString(CultureInfo.InvariantCulture));

    internal static RefusedException Outdated(Entity entity, StoredRecord current) => new(412, "record-changed", Changed(entity, current));

    private static Message Changed(Entity entity, StoredRecord current)
    {
        if (current.ChangedBy is not { } by)
        {
            return $"This {entity.Label.Lower()} was changed in its database meanwhile. Nothing was saved; read it again and save over it.";
        }

        if (entity.Attached is not null)
        {
            return $"This {entity.Label.Lower()} was changed by {by} meanwhile. Nothing was saved; read it again and save over it.";
        }

        return $"This {entity.Label.Lower()} was changed by {by} meanwhile (version {current.Version}). Nothing was saved; read it "
            + $"again and save over it.";
    }
}
