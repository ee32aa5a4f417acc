using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;

namespace BrightTier.Service.Entities;

/// <summary>Which entities point at which, as drafts: what is drawn as a diagram.</summary>
public static class RelationEndpoints
{
    public static void MapRelations(this IEndpointRouteBuilder api) =>
        api.MapGet("/relations", List)
            .WithName("listRelations")
            .NeedsReader()
            .WithTags("entities")
            .Produces<IReadOnlyList<EntityRelations>>()
            .WithSummary("Every entity as its draft is, with the references by which it points at others; those retired are left out.");

    private static async Task<IResult> List(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        var definitions = await drafts.Definitions(cancel);
        var language = http.LanguageOf(http.Caller(), definitions.Application);
        return TypedResults.Json<IReadOnlyList<EntityRelations>>(
            [
                .. definitions.Entities.Values.Select(entity => new EntityRelations(
                    entity.Key,
                    entity.Label.In(language),
                    entity.Plural.In(language),
                    entity.Current.Count(),
                    entity.Attached is not null,
                    [
                        .. entity
                            .Current.Where(field => field.Type is FieldType.Reference)
                            .Select(field => new RelationInfo(field.Key, field.Label.In(language), field.Target ?? "", field.Required)),
                    ]
                )),
            ],
            WireJson.Default.IReadOnlyListEntityRelations
        );
    }
}
