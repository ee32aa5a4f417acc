using BrightTier.Core.Conditions;
using BrightTier.Core.Entities;

namespace BrightTier.Core.Resolve;

/// <summary>One thing that stops a record from being saved: the field, a sentence about it, and whether the entity or the layout says so.</summary>
public sealed record SaveProblem(string Field, string Code, string Message, bool ByLayout = false);

/// <summary>The rules of the entity and, when a save names one, of a layout, applied to a whole record; the browser applies the same while typing, this decides.</summary>
public static class SaveRules
{
    /// <summary>The entity's own rules on the values of a record.</summary>
    public static IEnumerable<SaveProblem> Entity(Entity entity, IReadOnlyDictionary<string, object?> record, Definitions definitions, string language)
    {
        foreach (var field in entity.Current)
        {
            var value = record.GetValueOrDefault(field.Key);
            if (value is null && field.Required)
            {
                yield return new SaveProblem(field.Key, "required", $"{field.Label.In(language)} is required.");
            }
            else if (FieldValues.Check(field, value, definitions, language) is { } problem)
            {
                // A message of one's own is a sentence already.
                yield return new SaveProblem(field.Key, "invalid", field.PatternMessage?.In(language) == problem ? problem : $"{field.Label.In(language)} {problem}.");
            }
        }
    }

    /// <summary>What a layout requires on top: fields that are shown and whose requirement holds.</summary>
    public static IEnumerable<SaveProblem> Layout(ResolvedForm form, Entity entity, IReadOnlyDictionary<string, object?> record, Surroundings surroundings)
    {
        var hidden = Hidden(form, surroundings);
        foreach (var item in form.FieldItems)
        {
            if (record.GetValueOrDefault(item.Field) is null && !hidden.Contains(item.Field) && Holds(item.Required, surroundings) && entity.Find(item.Field) is { Required: false })
            {
                yield return new SaveProblem(item.Field, "required", $"{item.Label} is required.", ByLayout: true);
            }
        }
    }

    /// <summary>Fields of the form that its conditions hide for these values, wherever they stand on it.</summary>
    public static IReadOnlySet<string> Hidden(ResolvedForm form, Surroundings surroundings)
    {
        var shown = new HashSet<string>(StringComparer.Ordinal);
        foreach (var page in form.Pages.Where(page => Holds(page.Visible, surroundings)))
        {
            foreach (var section in page.Sections.Where(section => Holds(section.Visible, surroundings)))
            {
                shown.UnionWith(section.Rows.SelectMany(row => row.Cells).SelectMany(cell => cell.Items).OfType<ResolvedField>()
                    .Where(item => Holds(item.Visible, surroundings)).Select(item => item.Field));
            }
        }

        return form.FieldItems.Select(item => item.Field).Where(key => !shown.Contains(key)).ToHashSet(StringComparer.Ordinal);
    }

    /// <summary>Fields of the form that cannot be written in it for these values. A failing condition closes: it does hold.</summary>
    public static IReadOnlySet<string> ReadOnly(ResolvedForm form, Surroundings surroundings) => form.FieldItems
        .GroupBy(item => item.Field)
        .Where(items => items.All(item => item.ReadOnly.When is { } condition ? Evaluator.Holds(condition, surroundings) ?? true : item.ReadOnly.Holds))
        .Select(items => items.Key)
        .ToHashSet(StringComparer.Ordinal);

    private static bool Holds(Decision decision, Surroundings surroundings) =>
        decision.When is { } condition ? Evaluator.Holds(condition, surroundings) ?? false : decision.Holds;
}
