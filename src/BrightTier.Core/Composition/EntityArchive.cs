using System.Globalization;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>What putting an entity away takes with it, and what stands against it.</summary>
public static class EntityArchive
{
    /// <summary>What would miss it: references to it, forms of others that show its records, templates of its forms.</summary>
    public static IReadOnlyList<Use> Uses(string entity, Catalogue catalogue)
    {
        var own = Own(entity, catalogue).Select(layout => layout.Key).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. Impact
                .Of("entity", entity, catalogue)
                .Concat(own.SelectMany(key => Impact.Of(catalogue.Piece(key) is null ? "layout" : "piece", key, catalogue)))
                .Where(use =>
                    use.Kind is not (DocumentKind.Navigation or DocumentKind.Routing)
                    && !(use.Kind is DocumentKind.Layout && own.Contains(use.Key))
                    && !(use.Kind is DocumentKind.Entity && (use.Key == entity || IsRetired(use, catalogue)))
                )
                .DistinctBy(use => (use.Kind, use.Key, use.Place)),
        ];
    }

    /// <summary>It and what belongs to it once it is archived: its layouts with it, the menu and the rules without it.</summary>
    public static IReadOnlyList<Document> Archive(Entity entity, Catalogue catalogue)
    {
        List<Document> documents =
        [
            new Document.OfEntity(entity with { Archived = true }),
            .. Own(entity.Key, catalogue).Select(layout => new Document.OfLayout(WithArchived(layout, true))),
        ];
        if (catalogue.Navigation.WayTo(entity.Key) is not null)
        {
            documents.Add(new Document.OfNavigation(catalogue.Navigation.Without(entity.Key)));
        }

        if (catalogue.Routing.Rules.Any(rule => rule.Entity == entity.Key))
        {
            documents.Add(new Document.OfRouting(new RoutingRules([.. catalogue.Routing.Rules.Where(rule => rule.Entity != entity.Key)])));
        }

        return documents;
    }

    public static Layout WithArchived(Layout layout, bool archived) =>
        Layout.Of(layout.Root.With("archived", archived ? new Value.Flag(true) : null));

    /// <summary>Whether it is a field that is retired, which stays as it is for good and stands against nothing.</summary>
    private static bool IsRetired(Use use, Catalogue catalogue) =>
        use.Place.Split('/') is ["", "fields", var place]
        && catalogue.Definitions.Entities[use.Key].Fields[int.Parse(place, CultureInfo.InvariantCulture)].Retired;

    private static IEnumerable<Layout> Own(string entity, Catalogue catalogue) =>
        catalogue.Layouts.Values.Where(layout => layout.Entity == entity);
}
