using BrightTier.Core.Conditions;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>What a routing rule says of somebody who opens a record.</summary>
public enum RuleVerdict
{
    /// <summary>It fits: unless one before it does, its layout is the one.</summary>
    Fits,

    /// <summary>It is for other roles.</summary>
    OtherRoles,

    /// <summary>Its condition does not hold, or fails.</summary>
    ConditionFails,

    /// <summary>Its layout is not there, or is of another kind or entity.</summary>
    NoLayout,
}

/// <summary>Picks which layout of an entity somebody gets.</summary>
public static class LayoutSelector
{
    /// <summary>
    /// The layout of the first routing rule that fits; without one the layout named like the entity, else the first of the kind, else the
    /// generated
    /// one. A rule's condition is decided with the record, or with an empty one where there is none yet; one that fails does not hold.
    /// </summary>
    public static Layout LayoutFor(
        Catalogue catalogue,
        Entity entity,
        string kind,
        IReadOnlyCollection<string> roles,
        EvaluationContext surroundings
    )
    {
        var rule = catalogue.Routing.Rules.FirstOrDefault(rule =>
            rule.Entity == entity.Key && rule.Kind == kind && Verdict(rule, catalogue, entity, roles, surroundings) is RuleVerdict.Fits
        );
        return rule is not null
            ? catalogue.Layouts[rule.Layout]
            : catalogue.First(entity.Key, kind) ?? GeneratedLayout.Of(entity, kind, catalogue.Definitions);
    }

    /// <summary>Whether a rule of the entity fits somebody in these surroundings, and if not, why.</summary>
    public static RuleVerdict Verdict(
        RoutingRule rule,
        Catalogue catalogue,
        Entity entity,
        IReadOnlyCollection<string> roles,
        EvaluationContext surroundings
    ) =>
        !rule.FitsRoles(roles) ? RuleVerdict.OtherRoles
        : catalogue.Layouts.GetValueOrDefault(rule.Layout) is not { } layout || layout.Kind != rule.Kind || layout.Entity != entity.Key
            ? RuleVerdict.NoLayout
        : rule.When is not { } when
        || (
            Condition.Compile(when, entity, catalogue.Definitions).Expression is { } condition
            && Evaluator.Holds(condition, surroundings) == true
        )
            ? RuleVerdict.Fits
        : RuleVerdict.ConditionFails;

    /// <summary>
    /// Those of some layouts that nobody can get: no rule gives them, and another comes first. Pieces are part of others.
    /// </summary>
    public static IEnumerable<Layout> Unrouted(Catalogue catalogue, IReadOnlyCollection<Layout> layouts)
    {
        var given = catalogue.Routing.Rules.Select(rule => (rule.Layout, rule.Kind)).ToHashSet();
        return layouts.Where(layout =>
            layout.Kind != "piece"
            && !given.Contains((layout.Key, layout.Kind))
            && catalogue.First(layout.Entity, layout.Kind)?.Key != layout.Key
        );
    }

    /// <summary>Whether which layout one gets can depend on the record.</summary>
    public static bool DependsOnRecord(Catalogue catalogue, Entity entity, string kind) =>
        catalogue.Routing.Rules.Any(rule => rule.Entity == entity.Key && rule.Kind == kind && rule.When is not null);
}
