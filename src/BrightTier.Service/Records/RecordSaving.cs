using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Entities;
using BrightTier.Core.Resolve;
using BrightTier.Records;
using BrightTier.Service.Access;
using BrightTier.Service.Hosting;
using BrightTier.Service.Releases;

namespace BrightTier.Service.Records;

/// <summary>Decides what of a save may be stored: rights first, then the entity's rules, then, if the save names one, the layout's.</summary>
public sealed class RecordSaving(CurrentRelease releases, RecordSurroundings around)
{
    /// <summary>The values to store.</summary>
    /// <exception cref="RefusedException">403 for a field one may not write, 422 with every problem, 409 when only a newer layout stands against it.</exception>
    public async Task<IReadOnlyDictionary<string, object?>> Decide(Entity entity, RecordSave save, StoredRecord? stored, Caller caller, string language, CancellationToken cancel)
    {
        var snapshot = releases.Snapshot;
        var definitions = snapshot.Definitions;
        var given = JsonStrings.Reading(() => Read(entity, save.Values, caller));
        if (stored is null)
        {
            foreach (var field in entity.Current.Where(field => field.Default is not null && !given.ContainsKey(field.Key)))
            {
                given[field.Key] = Default(field);
            }
        }

        var whole = entity.Fields.ToDictionary(field => field.Key, field => given.TryGetValue(field.Key, out var value) ? value : stored?.Values.GetValueOrDefault(field.Key));
        var byLayout = new List<SaveProblem>();
        if (save.Form is { } form)
        {
            var mode = form.Mode is Modes.Create or Modes.Edit ? form.Mode : throw Problems.Invalid($"A record is saved in mode create or edit, not '{form.Mode}'.", new ProblemPart("/form/mode", "must be create or edit"));
            // An open form is not rerouted: the layout is the one for the record as it was opened.
            var opened = await around.Around(entity, stored?.Values ?? new Dictionary<string, object?>(), [], definitions, caller, mode, language, cancel);
            var resolved = Resolver.Resolve(snapshot.LayoutFor(entity, form.Kind, caller.Roles, opened), entity, definitions, new Viewer([.. caller.Roles], language), mode);
            var surroundings = await around.Around(entity, whole, SaveRules.Steps(resolved), definitions, caller, mode, language, cancel);
            foreach (var key in SaveRules.Hidden(resolved, surroundings))
            {
                // What is hidden keeps its stored value, or is cleared where the field says so; either way what was typed does not count.
                given.Remove(key);
                whole[key] = stored?.Values.GetValueOrDefault(key);
                if (entity.Find(key)!.ClearWhenHidden && whole[key] is not null)
                {
                    given[key] = whole[key] = null;
                }
            }

            foreach (var key in SaveRules.ReadOnly(resolved, surroundings).Where(key => given.ContainsKey(key)))
            {
                if (!Equals(given[key], stored?.Values.GetValueOrDefault(key)) && !(stored is null && Equals(given[key], Default(entity.Find(key)!))))
                {
                    byLayout.Add(new SaveProblem(key, "read-only", $"{entity.Find(key)!.Label.In(language)} can only be read here.", ByLayout: true));
                }
            }

            byLayout.AddRange(SaveRules.Layout(resolved, entity, whole, surroundings, definitions));
        }

        var problems = SaveRules.Entity(entity, whole, definitions, language).Where(problem => entity.Find(problem.Field)!.MayRead(caller.Roles)).Concat(byLayout).ToArray();
        if (problems.Length == 0)
        {
            return given;
        }

        var parts = problems.Select(problem => new ProblemPart(problem.Field, problem.Message, problem.Code)).ToArray();
        var newer = save.Form is { } made && made.Release != snapshot.Number && problems.All(problem => problem.ByLayout);
        throw newer
            ? new RefusedException(409, "form-changed", $"The form has changed since it was opened (release {save.Form!.Release}, now {snapshot.Number}) and asks for more. Nothing was saved; what you typed is kept.", parts)
            : new RefusedException(422, "record-invalid", parts.Length == 1 ? parts[0].Message : $"{parts.Length} values need attention. Nothing was saved.", parts);
    }

    private static Dictionary<string, object?> Read(Entity entity, JsonElement values, Caller caller)
    {
        if (values.ValueKind is not JsonValueKind.Object)
        {
            throw Problems.Invalid("'values' must be an object, from field to value.", new ProblemPart("/values", "must be an object"));
        }

        var given = new Dictionary<string, object?>(StringComparer.Ordinal);
        var parts = new List<ProblemPart>();
        foreach (var property in values.EnumerateObject())
        {
            // A field one may not read is as unknown as one that does not exist.
            if (entity.Find(property.Name) is not { } field || !field.MayRead(caller.Roles))
            {
                parts.Add(new ProblemPart(property.Name, Suggestion.Sentence($"There is no field '{property.Name}'{Suggestion.For(property.Name, [.. entity.Current.Where(each => each.MayRead(caller.Roles)).Select(each => each.Key)])}"), "unknown"));
            }
            else if (!field.MayWrite(caller.Roles))
            {
                throw new RefusedException(403, "field-not-writable", $"Your roles do not allow changing '{field.Key}'.", [new ProblemPart(field.Key, "may not be written by you", "not-writable")]);
            }
            else if (FieldValues.Read(field, property.Value, out var value) is { } problem)
            {
                parts.Add(new ProblemPart(field.Key, $"{field.Label} {problem}.", "type"));
            }
            else
            {
                given[field.Key] = value;
            }
        }

        return parts.Count == 0 ? given : throw new RefusedException(422, "record-invalid", parts[0].Message, parts);
    }

    private static object? Default(Field field)
    {
        if (field.Default is null)
        {
            return null;
        }

        using var json = JsonDocument.Parse(field.Type is FieldType.Boolean || field.Type.IsNumber() || field.Type is FieldType.Reference ? field.Default : JsonSerializer.Serialize(field.Default));
        return FieldValues.Read(field, json.RootElement, out var value) is null ? value : null;
    }
}
