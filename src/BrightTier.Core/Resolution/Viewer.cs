using System.Collections.Immutable;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>For whom a form is resolved.</summary>
public sealed record Viewer(ImmutableArray<string> Roles, string Language)
{
    /// <summary>
    /// Those of the viewer's roles that can make a difference to this layout: named in an expression or in a right on one of the entity's
    /// fields.
    /// All viewers with the same class, mode and language get the same bytes.
    /// </summary>
    public static string ClassOf(IEnumerable<string> roles, ComposedLayout assembled, Definitions definitions)
    {
        var mentioned = new HashSet<string>(StringComparer.Ordinal);
        foreach (var field in Entities(assembled, definitions).SelectMany(entity => entity.Fields))
        {
            mentioned.UnionWith(field.Read ?? []);
            mentioned.UnionWith(field.Write ?? []);
        }

        foreach (var (_, text, _) in assembled.Layouts.SelectMany(layout => layout.Walk()).SelectMany(Grammar.Expressions))
        {
            if (text.Contains("roles", StringComparison.Ordinal) && Parser.Parse(text).Expression is { } expression)
            {
                if (
                    expression
                        .Walk()
                        .OfType<Expression.Select>()
                        .Any(select => select.Field == "roles" && !IsMembership(expression, select))
                )
                {
                    return string.Join(' ', roles.Order(StringComparer.Ordinal));
                }

                mentioned.UnionWith(expression.Walk().OfType<Expression.Literal>().Select(literal => literal.Value).OfType<string>());
            }
        }

        return string.Join(' ', roles.Where(mentioned.Contains).Order(StringComparer.Ordinal));
    }

    /// <summary>The layout's entity, those its references lead to, and those of the related records it shows.</summary>
    private static IEnumerable<Entity> Entities(ComposedLayout assembled, Definitions definitions) =>
        assembled
            .Base.Walk()
            .Where(node => node.Kind is NodeKind.Related)
            .Select(node => node.Word("related")!)
            .Prepend(assembled.Base.Entity)
            .Concat(
                definitions.Entities.GetValueOrDefault(assembled.Base.Entity)?.Fields.Select(field => field.Target).OfType<string>() ?? []
            )
            .Distinct()
            .Select(key => definitions.Entities.GetValueOrDefault(key))
            .OfType<Entity>();

    private static bool IsMembership(Expression whole, Expression.Select roles) =>
        whole
            .Walk()
            .OfType<Expression.Binary>()
            .Any(binary => binary.Operator == "in" && ReferenceEquals(binary.Right, roles) && binary.Left is Expression.Literal);
}
