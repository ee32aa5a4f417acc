using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>
/// One thing that stops a record from being saved: the field, a sentence about it, and whether the entity or the layout says so.
/// </summary>
public sealed record SaveProblem(string Field, string Code, Message Message, bool ByLayout = false);

/// <summary>
/// The rules of the entity and, when a save names one, of a layout, applied to a whole record; the browser applies the same while typing,
/// this decides.
/// </summary>
public static class SaveRules
{
    /// <summary>The entity's own rules on the values of a record.</summary>
    public static IEnumerable<SaveProblem> Entity(
        Entity entity,
        IReadOnlyDictionary<string, object?> record,
        Definitions definitions,
        string language
    )
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
                yield return new SaveProblem(
                    field.Key,
                    "invalid",
                    definitions.PatternOf(field)?.Message?.In(language) == problem.English
                        ? problem
                        : $"{field.Label.In(language)} {problem}."
                );
            }
        }
    }

    /// <summary>
    /// What a layout asks for on top: fields that are shown and whose requirement holds, and its own limits for what is shown.
    /// </summary>
    public static IEnumerable<SaveProblem> Layout(
        ResolvedForm form,
        Entity entity,
        IReadOnlyDictionary<string, object?> record,
        EvaluationContext surroundings,
        Definitions definitions
    )
    {
        var hidden = Hidden(form, surroundings);
        foreach (var item in form.FieldItems.Where(item => !hidden.Contains(item.Field)))
        {
            var value = record.GetValueOrDefault(item.Field);
            if (value is null)
            {
                if (Holds(item.Required, surroundings) && entity.Find(item.Field) is { Required: false })
                {
                    yield return new SaveProblem(item.Field, "required", $"{item.Label} is required.", ByLayout: true);
                }
            }
            else if (
                !ReferenceEquals(item.Constraints, Constraints.None)
                && entity.Find(item.Field) is { } field
                && Check(field, item, value, definitions, form.Language) is { } problem
            )
            {
                yield return new SaveProblem(
                    item.Field,
                    "invalid",
                    item.Constraints.PatternMessage == problem.English ? problem : $"{item.Label} {problem}.",
                    ByLayout: true
                );
            }
        }
    }

    private static Message? Check(Field field, ResolvedField item, object value, Definitions definitions, string language)
    {
        var limits = item.Constraints;
        var narrowed = field with
        {
            Min = limits.Min,
            Max = limits.Max,
            MaxLength = limits.MaxLength,
            Pattern = limits.Pattern,
            Uses = null,
            PatternMessage = limits.PatternMessage.Length > 0 ? Texts.Of(limits.PatternMessage) : null,
        };
        return FieldValues.Check(narrowed, value, definitions, language);
    }

    /// <summary>Fields of the form that its conditions hide for these values, wherever they stand on it.</summary>
    public static IReadOnlySet<string> Hidden(ResolvedForm form, EvaluationContext surroundings)
    {
        var shown = new HashSet<string>(StringComparer.Ordinal);
        foreach (
            var side in new[] { form.Content.Start, form.Content.End }
                .OfType<ResolvedSide>()
                .Where(side => Holds(side.Visible, surroundings))
        )
        {
            Show(side.Sections);
        }

        Panel(form.Content.Body);
        return form.FieldItems.Select(item => item.Field).Where(key => !shown.Contains(key)).ToHashSet(StringComparer.Ordinal);

        void Panel(ResolvedPanel panel)
        {
            foreach (var page in panel.Pages.Where(page => Holds(page.Visible, surroundings)))
            {
                Show(page.Sections);
            }
        }

        void Show(IEnumerable<ResolvedSection> sections)
        {
            foreach (
                var item in sections
                    .Where(section => Holds(section.Visible, surroundings))
                    .SelectMany(section => section.Rows)
                    .SelectMany(row => row.Cells)
                    .SelectMany(cell => cell.Items)
                    .Where(item => Holds(item.Visible, surroundings))
            )
            {
                if (item is ResolvedField field)
                {
                    shown.Add(field.Field);
                }
                else if (item is ResolvedPanel panel)
                {
                    Panel(panel);
                }
            }
        }
    }

    /// <summary>Fields of the form that cannot be written in it for these values. A failing condition closes: it does hold.</summary>
    public static IReadOnlySet<string> ReadOnly(ResolvedForm form, EvaluationContext surroundings) =>
        form
            .FieldItems.GroupBy(item => item.Field)
            .Where(items =>
                items.All(item =>
                    item.ReadOnly.When is { } condition ? Evaluator.Holds(condition, surroundings) ?? true : item.ReadOnly.Holds
                )
            )
            .Select(items => items.Key)
            .ToHashSet(StringComparer.Ordinal);

    /// <summary>Whether records that point at the one in the form can be changed in it.</summary>
    public static bool MayChange(ResolvedForm form, string entity, string through, EvaluationContext surroundings) =>
        form
            .Content.Items.OfType<ResolvedRelatedRecords>()
            .Any(item =>
                item.Entity == entity
                && item.Through == through
                && !(item.ReadOnly.When is { } condition ? Evaluator.Holds(condition, surroundings) ?? true : item.ReadOnly.Holds)
            );

    private static bool Holds(Decision decision, EvaluationContext surroundings) =>
        decision.When is { } condition ? Evaluator.Holds(condition, surroundings) ?? false : decision.Holds;
}
