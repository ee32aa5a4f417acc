using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Resolution;
using BrightTier.Service.Snapshots;
using ResolvedForm = BrightTier.Core.Resolution.ResolvedForm;

namespace BrightTier.Service.Records;

/// <summary>A write of a record that hangs on another, and where in the request it is asked for.</summary>
public sealed record RelatedWrite(string Pointer, RecordWrite Write);

/// <summary>
/// Decides what of a save may be stored: rights first, then the entity's rules, then, if the save names one, the layout's.
/// </summary>
public sealed partial class RecordWriter(
    CurrentRelease releases,
    IRecordStore records,
    RecordContext around,
    BrightTier.Storage.FileStore files
)
{
    /// <summary>The values to store of a save as it travels.</summary>
    /// <exception cref="RefusedException">403 for a field one may not write, 422 with every problem, 409 when only a newer layout stands
    /// against it.</exception>
    public Task<IReadOnlyDictionary<string, object?>> Decide(
        Entity entity,
        RecordSave save,
        StoredRecord? stored,
        Caller caller,
        string language,
        CancellationToken cancel
    ) => Decide(entity, JsonStrings.Reading(() => Read(entity, save.Values, caller)), save.Form, stored, caller, language, cancel);

    /// <summary>The values to store of those given, all of which the caller may write; a field given as null is emptied.</summary>
    /// <param name="ignoring">A field that somebody else fills, about which nothing is said.</param>
    /// <exception cref="RefusedException">422 with every problem, 409 when only a newer layout stands against it.</exception>
    public async Task<IReadOnlyDictionary<string, object?>> Decide(
        Entity entity,
        Dictionary<string, object?> given,
        FormReference? asked,
        StoredRecord? stored,
        Caller caller,
        string language,
        CancellationToken cancel,
        string? ignoring = null
    )
    {
        var snapshot = releases.Snapshot;
        var definitions = snapshot.Definitions;
        if (stored is null)
        {
            foreach (var field in entity.Current.Where(field => field.Default is not null && !given.ContainsKey(field.Key)))
            {
                given[field.Key] = Default(field);
            }
        }

        await RequireFiles(entity, given, stored, language, cancel);
        await RequireTargets(entity, given, stored, definitions, caller, cancel);
        var whole = entity.Fields.ToDictionary(
            field => field.Key,
            field => given.TryGetValue(field.Key, out var value) ? value : stored?.Values.GetValueOrDefault(field.Key)
        );
        var byLayout = new List<SaveProblem>();
        if (asked is { } form)
        {
            var (resolved, surroundings) = await Opened(form, entity, whole, stored, caller, language, cancel);
            LeaveHidden(SaveRules.Hidden(resolved, surroundings), entity, given, whole, stored);
            byLayout.AddRange(
                SaveRules
                    .ReadOnly(resolved, surroundings)
                    .Where(key => given.TryGetValue(key, out var value) && !IsAsItWas(entity.Find(key)!, value, stored))
                    .Select(key => new SaveProblem(
                        key,
                        "read-only",
                        $"{entity.Find(key)!.Label.In(language)} can only be read here.",
                        ByLayout: true
                    ))
            );
            byLayout.AddRange(SaveRules.Layout(resolved, entity, whole, surroundings, definitions));
        }

        // What is in a database that is not ours is its affair; only what is changed is held to the rules.
        bool IsAsked(string key) =>
            entity.Attached is null || (given.ContainsKey(key) && !IsAsItWas(entity.Find(key)!, whole[key], stored));
        var problems = SaveRules
            .Entity(entity, whole, definitions, language)
            .Where(problem => problem.Field != ignoring && entity.Find(problem.Field)!.MayRead(caller.Roles))
            .Where(problem => stored is null || IsAsked(problem.Field))
            .Concat(byLayout)
            .ToArray();
        if (problems.Length == 0)
        {
            return given;
        }

        ProblemPart[] parts = [.. problems.Select(problem => Problems.Part(problem.Field, problem.Message, problem.Code))];
        var newer = asked is { } made && made.Release != snapshot.Number && problems.All(problem => problem.ByLayout);
        throw newer
            ? new RefusedException(
                409,
                "form-changed",
                $"The form has changed since it was opened (release {asked!.Release}, now {snapshot.Number}) and asks for "
                    + $"more. Nothing was saved; what you typed is kept.",
                parts
            )
            : Invalid(parts);
    }

    private static RefusedException Invalid(IReadOnlyList<ProblemPart> parts) =>
        new(
            422,
            "record-invalid",
            parts.Count == 1 ? Message.Verbatim(parts[0].Message) : (Message)$"{parts.Count} values need attention. Nothing was saved.",
            parts
        );

    /// <summary>What is pointed at in another database is there: no constraint reaches into it.</summary>
    private async Task RequireTargets(
        Entity entity,
        Dictionary<string, object?> given,
        StoredRecord? stored,
        Definitions definitions,
        Caller caller,
        CancellationToken cancel
    )
    {
        foreach (var (key, value) in given)
        {
            if (
                value is long id
                && entity.Find(key) is { Type: FieldType.Reference } field
                && definitions.Entities.GetValueOrDefault(field.Target!) is { Attached: { } table } target
                && table.Database != entity.Attached?.Database
                && !IsAsItWas(field, value, stored)
                && await records.Find(target, id, cancel) is null
            )
            {
                throw RecordRefusals.Refusal(new SaveOutcome.ReferenceNotFound(field), entity, stored?.Id ?? 0, caller)!;
            }
        }
    }

    /// <summary>Files are stored before they are named.</summary>
    private async Task RequireFiles(
        Entity entity,
        Dictionary<string, object?> given,
        StoredRecord? stored,
        string language,
        CancellationToken cancel
    )
    {
        foreach (var (key, value) in given)
        {
            if (
                value is string named
                && entity.Find(key) is { Type: FieldType.File or FieldType.Image } field
                && !Equals(named, stored?.Values.GetValueOrDefault(key))
                && !await files.Has(named[..64], cancel)
            )
            {
                throw new RefusedException(
                    422,
                    "record-invalid",
                    $"{field.Label.In(language)} names a file that is not stored here.",
                    [
                        Problems.Part(
                            key,
                            $"{field.Label.In(language)} names a file that is not stored here; store it with POST /api/files first.",
                            "file-unknown"
                        ),
                    ]
                );
            }
        }
    }

    /// <summary>
    /// What is hidden keeps its stored value, or is cleared where the field says so; either way what was typed does not count.
    /// </summary>
    private static void LeaveHidden(
        IEnumerable<string> hidden,
        Entity entity,
        Dictionary<string, object?> given,
        Dictionary<string, object?> whole,
        StoredRecord? stored
    )
    {
        foreach (var key in hidden)
        {
            given.Remove(key);
            whole[key] = stored?.Values.GetValueOrDefault(key);
            if (entity.Find(key)!.ClearWhenHidden && whole[key] is not null)
            {
                given[key] = whole[key] = null;
            }
        }
    }

    private static bool IsAsItWas(Field field, object? value, StoredRecord? stored) =>
        FieldValues.Same(value, stored?.Values.GetValueOrDefault(field.Key)) || (stored is null && FieldValues.Same(value, Default(field)));

    /// <summary>The form a record was entered in, and what its conditions are decided by.</summary>
    private async Task<(ResolvedForm Form, EvaluationContext Surroundings)> Opened(
        FormReference form,
        Entity entity,
        IReadOnlyDictionary<string, object?> whole,
        StoredRecord? stored,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        var (snapshot, definitions) = (releases.Snapshot, releases.Snapshot.Definitions);
        var mode = form.Mode is Modes.Create or Modes.Edit
            ? form.Mode
            : throw Problems.Invalid(
                $"A record is saved in mode create or edit, not '{form.Mode}'.",
                Problems.Part("/form/mode", $"must be create or edit")
            );
        // An open form is not rerouted: the layout is the one for the record as it was opened.
        var opened = await around.Around(
            entity,
            stored?.Values ?? new Dictionary<string, object?>(),
            [],
            definitions,
            caller,
            mode,
            language,
            cancel
        );
        var resolved = Resolver.Resolve(
            snapshot.LayoutFor(entity, form.Kind, caller.Roles, opened),
            entity,
            definitions,
            new Viewer([.. caller.Roles], language),
            mode
        );
        return (
            resolved,
            await around.Around(entity, whole, resolved.Steps.Select(each => each.Step), definitions, caller, mode, language, cancel)
        );
    }

    private static Dictionary<string, object?> Read(Entity entity, JsonElement values, Caller caller)
    {
        if (values.ValueKind is not JsonValueKind.Object)
        {
            throw Problems.Invalid($"'values' must be an object, from field to value.", Problems.Part("/values", $"must be an object"));
        }

        var given = new Dictionary<string, object?>(StringComparer.Ordinal);
        var parts = new List<ProblemPart>();
        foreach (var property in values.EnumerateObject())
        {
            // A field one may not read is as unknown as one that does not exist.
            if (entity.Find(property.Name) is not { } field || !field.MayRead(caller.Roles))
            {
                string[] known = [.. entity.Current.Where(each => each.MayRead(caller.Roles)).Select(each => each.Key)];
                var unknown = Suggestion.Sentence($"There is no field '{property.Name}'{Suggestion.For(property.Name, known)}");
                parts.Add(Problems.Part(property.Name, unknown, "unknown"));
            }
            else if (field.Attached?.ReadOnly is { } bar and not WriteBar.Key)
            {
                throw RecordRefusals.ReadOnly(entity, field, bar);
            }
            else if (!field.MayWrite(caller.Roles))
            {
                throw new RefusedException(
                    403,
                    "field-not-writable",
                    $"Your roles do not allow changing '{field.Key}'.",
                    [Problems.Part(field.Key, $"may not be written by you", "not-writable")]
                );
            }
            else if (FieldValues.Read(field, property.Value, out var value) is { } problem)
            {
                parts.Add(Problems.Part(field.Key, $"{field.Label} {problem}.", "type"));
            }
            else
            {
                given[field.Key] = value;
            }
        }

        return parts.Count == 0 ? given : throw new RefusedException(422, "record-invalid", Message.Verbatim(parts[0].Message), parts);
    }

    private static object? Default(Field field)
    {
        if (field.Default is null)
        {
            return null;
        }

        using var json = JsonDocument.Parse(
            field.Type is FieldType.Boolean || field.Type.IsNumber() || field.Type is FieldType.Reference
                ? field.Default
                : JsonSerializer.Serialize(field.Default)
        );
        return FieldValues.Read(field, json.RootElement, out var value) is null ? value : null;
    }
}
