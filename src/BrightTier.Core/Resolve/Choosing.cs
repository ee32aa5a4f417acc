using BrightTier.Core.Conditions;
using BrightTier.Core.Entities;
using BrightTier.Core.Generate;
using BrightTier.Core.Layouts;
using BrightTier.Core.Routing;

namespace BrightTier.Core.Resolve;

/// <summary>Picks which layout of an entity somebody gets.</summary>
public static class Choosing
{
    /// <summary>
    /// The layout of the first routing rule that fits; without one the layout named like the entity, else the first of the kind, else the generated
    /// one. A rule's condition is decided with the record, or with an empty one where there is none yet; one that fails does not hold.
    /// </summary>
    public static Layout LayoutFor(Catalogue catalogue, Entity entity, string kind, IReadOnlyCollection<string> roles, Surroundings surroundings)
    {
        foreach (var rule in catalogue.Routing.Rules.Where(rule => rule.Entity == entity.Key && rule.Kind == kind && rule.FitsRoles(roles)))
        {
            if (catalogue.Layouts.GetValueOrDefault(rule.Layout) is { } layout && layout.Kind == kind && layout.Entity == entity.Key
                && (rule.When is not { } when || (Condition.Compile(when, entity, catalogue.Definitions).Expression is { } condition && Evaluator.Holds(condition, surroundings) == true)))
            {
                return layout;
            }
        }

        return catalogue.For(entity.Key, kind).FirstOrDefault() ?? GeneratedLayout.Of(entity, kind, catalogue.Definitions);
    }

    /// <summary>Whether which layout one gets can depend on the record.</summary>
    public static bool DependsOnRecord(Catalogue catalogue, Entity entity, string kind) => catalogue.Routing.Rules.Any(rule => rule.Entity == entity.Key && rule.Kind == kind && rule.When is not null);
}
