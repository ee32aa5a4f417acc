using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using ResolvedForm = BrightTier.Core.Resolution.ResolvedForm;

namespace BrightTier.Service.Records;

// Records that point at the one saved, saved with it.
public sealed partial class RecordWriter
{
    /// <summary>
    /// What is to be written of records that point at the one saved, each with the JSON pointer to where the save asks for it.
    /// </summary>
    /// <param name="stored">The record they point at; null while it is made.</param>
    /// <exception cref="RefusedException">As for a record; pointers begin with /related.</exception>
    public async Task<IReadOnlyList<RelatedWrite>> Related(
        Entity parent,
        RecordSave save,
        StoredRecord? stored,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        if (save.Related is not { Count: > 0 } all)
        {
            return [];
        }

        (ResolvedForm Form, EvaluationContext Surroundings)? opened = save.Form is { } form
            ? await Opened(form, parent, stored?.Values ?? new Dictionary<string, object?>(), stored, caller, language, cancel)
            : null;
        var writes = new List<RelatedWrite>();
        var problems = new List<ProblemPart>();
        foreach (var (asked, i) in all.Select((asked, i) => (asked, i)))
        {
            var at = $"/related/{i}";
            var entity = releases.Entity(asked.Entity);
            if (entity.Find(asked.Through) is not { Type: FieldType.Reference } through || through.Target != parent.Key)
            {
                throw Problems.Invalid(
                    $"'{asked.Through}' of '{asked.Entity}' does not point at '{parent.Key}'.",
                    Problems.Part($"{at}/through", $"must be a reference to '{parent.Key}'")
                );
            }

            if (opened is { } parentForm && !SaveRules.MayChange(parentForm.Form, asked.Entity, asked.Through, parentForm.Surroundings))
            {
                throw new RefusedException(
                    422,
                    "record-invalid",
                    $"{entity.Plural.In(language)} can only be read here.",
                    [Problems.Part(at, $"can only be read here", "read-only")]
                );
            }

            var rows = new RelatedRows(this, records, parent, entity, through, stored, caller, language, writes, problems, cancel);
            await rows.Add(asked, at);
        }

        return problems.Count == 0 ? writes : throw Invalid(problems);
    }

    /// <summary>The records of one entity that point at the one saved through one field.</summary>
    private sealed class RelatedRows(
        RecordWriter writer,
        IRecordStore records,
        Entity parent,
        Entity entity,
        Field through,
        StoredRecord? stored,
        Caller caller,
        string language,
        List<RelatedWrite> writes,
        List<ProblemPart> problems,
        CancellationToken cancel
    )
    {
        public async Task Add(RelatedSave asked, string at)
        {
            foreach (var (json, j) in (asked.Created ?? []).Select((json, j) => (json, j)))
            {
                await Decided($"{at}/created/{j}", json, null, values => new RecordWrite.Create(
                    entity,
                    stored is null ? values : new Dictionary<string, object?>(values) { [through.Key] = stored.Id },
                    stored is null ? through : null
                ));
            }

            foreach (var (change, j) in (asked.Changed ?? []).Select((change, j) => (change, j)))
            {
                var present = await Hanging($"{at}/changed/{j}", change.Id);
                await Decided($"{at}/changed/{j}", change.Values, present, values => new RecordWrite.Change(
                    entity,
                    change.Id,
                    change.Version,
                    values
                ));
            }

            foreach (var (removal, j) in (asked.Removed ?? []).Select((removal, j) => (removal, j)))
            {
                await Hanging($"{at}/removed/{j}", removal.Id);
                writes.Add(new RelatedWrite($"{at}/removed/{j}", new RecordWrite.Delete(entity, removal.Id, removal.Version)));
            }
        }

        private async Task<StoredRecord> Hanging(string pointer, long id) =>
            stored is not null
            && await records.Find(entity, id, cancel) is { } present
            && Equals(present.Values.GetValueOrDefault(through.Key), stored.Id)
                ? present
                : throw new RefusedException(
                    409,
                    "related-changed",
                    $"{entity.Label} {id} is not there any more, or no longer belongs to this "
                        + $"{parent.Label.ToString().ToLowerInvariant()}. Nothing was saved.",
                    [Problems.Part(pointer, $"is not there any more")]
                );

        private async Task Decided(
            string pointer,
            JsonElement json,
            StoredRecord? present,
            Func<IReadOnlyDictionary<string, object?>, RecordWrite> write
        )
        {
            try
            {
                var values = JsonStrings.Reading(() => Read(entity, json, caller));
                var decided = await writer.Decide(entity, values, null, present, caller, language, cancel, ignoring: through.Key);
                writes.Add(new RelatedWrite(pointer, write(decided)));
            }
            catch (RefusedException refused) when (refused.Parts is { Count: > 0 } parts)
            {
                problems.AddRange(parts.Select(part => part with { Pointer = $"{pointer}/{part.Pointer}" }));
            }
        }
    }
}
