using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation;

/// <summary>An error that stands against a release.</summary>
/// <param name="At">The document and the place in it, such as layout/vessel/n3.</param>
/// <param name="LosesData">Whether records would lose values by it; then nobody may publish in spite of it.</param>
public sealed record ReleaseProblem(string At, Message Message, string Code, bool LosesData = false);

/// <summary>
/// What stands against publishing: layouts with errors, names of what is not there, fields that would go missing. Layouts that are as they
/// were, and rest on what is as it was, are not looked at again.
/// </summary>
public static class ReleaseCheck
{
    /// <param name="before">What everyone has.</param>
    /// <param name="changed">The layouts that can be others, by key; null where that is not known.</param>
    public static IReadOnlyList<ReleaseProblem> Between(Catalogue before, Catalogue next, IEnumerable<string>? changed = null)
    {
        var problems = new List<ReleaseProblem>();
        // What a retired field points at may be put away; its values are kept, too.
        var stored = next.Definitions.Stored.Select(entity => entity.Key).ToArray();
        foreach (var entity in next.Definitions.Entities.Values)
        {
            foreach (var field in entity.Fields)
            {
                Missing(entity, field, field.Target, $"entity", field.Retired ? stored : next.Definitions.Entities.Keys);
                Missing(entity, field, field.ChoiceList, $"choice list", next.Definitions.ChoiceLists.Keys);
            }

            problems.AddRange(Lost(before.Definitions.Stored.FirstOrDefault(each => each.Key == entity.Key), entity));
        }

        problems.AddRange(
            Checker
                .CheckDocuments(next)
                .Where(finding => finding.Severity is Severity.Error && finding.Code != "definition-missing")
                .Select(finding => new ReleaseProblem(
                    $"{finding.Kind.Name()}/{finding.Key}{finding.Pointer}",
                    finding.Message,
                    finding.Code
                ))
        );
        problems.AddRange(
            AffectedLayouts
                .Between(before, next, changed)
                .SideBySide()
                .SelectMany(layout =>
                    Checker
                        .Known(layout, next)
                        .Where(finding => finding.Severity is Severity.Error)
                        .Select(finding => new ReleaseProblem($"layout/{layout.Key}/{finding.Node}", finding.Message, finding.Code))
                )
        );

        return problems;

        void Missing(Entity entity, Field field, string? key, Message what, IEnumerable<string> there)
        {
            if (key is not null && !there.Contains(key))
            {
                problems.Add(
                    new ReleaseProblem(
                        $"entity/{entity.Key}",
                        $"'{field.Key}' names the {what} '{key}', which is not there{Suggestion.For(key, [.. there])}",
                        "unknown",
                        LosesData: true
                    )
                );
            }
        }
    }

    /// <summary>The fields records would lose values of.</summary>
    private static IEnumerable<ReleaseProblem> Lost(Entity? before, Entity entity)
    {
        foreach (var old in before?.Fields ?? [])
        {
            if (entity.Find(old.Key) is not { } now)
            {
                yield return new ReleaseProblem(
                    $"entity/{entity.Key}",
                    $"the field '{old.Key}' is gone; fields are retired ('retired: true'), not removed, so that nothing is lost",
                    "field-removed",
                    LosesData: true
                );
            }
            else if (now.Type != old.Type || now.Target != old.Target)
            {
                yield return new ReleaseProblem(
                    $"entity/{entity.Key}",
                    $"the field '{old.Key}' would change its type; add another field instead",
                    "type-changed",
                    LosesData: true
                );
            }
        }
    }
}
