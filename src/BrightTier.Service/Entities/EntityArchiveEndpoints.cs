using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Entities;

/// <summary>Entities put away with their forms, and brought back; changes of drafts, which people notice when they are published.</summary>
public static class EntityArchiveEndpoints
{
    public static void MapEntityArchive(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/entities/{key}").WithTags("entities");
        group
            .MapPost("/archive", Archive)
            .WithName("archiveEntity")
            .Needs(Permissions.Configure)
            .Produces<IReadOnlyList<DraftReference>>()
            .WithSummary(
                "Archives an entity with its layouts, menu entries and routing rules, as drafts; its records are kept. Refused while "
                    + "something else names it, with every place that does. Answers the drafts to publish."
            );
        group
            .MapPost("/bring-back", BringBack)
            .WithName("bringBackEntity")
            .Needs(Permissions.Configure)
            .Produces<IReadOnlyList<DraftReference>>()
            .WithSummary("Brings an archived entity back with the layouts that were archived with it, as drafts to publish.");
    }

    private static async Task<IResult> Archive(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var catalogue = await drafts.Catalogue(cancel);
        if (catalogue.Definitions.ArchivedEntities.ContainsKey(key))
        {
            return Answer([]);
        }

        var entity = catalogue.Definitions.Entities.GetValueOrDefault(key)
            ?? throw Problems.NotFound($"entity", key, catalogue.Definitions.Entities.Keys);
        if (EntityArchive.Uses(key, catalogue) is { Count: > 0 } uses)
        {
            throw Problems.InUse("entity-used", entity.Plural, uses);
        }

        return Answer(
            await drafts.Replace(EntityArchive.Archive(entity, catalogue), DraftDocuments.WithEntity, http.Caller().Author, cancel)
        );
    }

    private static async Task<IResult> BringBack(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var catalogue = await drafts.Catalogue(cancel);
        if (catalogue.Definitions.ArchivedEntities.GetValueOrDefault(key) is not { } entity)
        {
            return catalogue.Definitions.Entities.ContainsKey(key)
                ? Answer([])
                : throw Problems.NotFound($"archived entity", key, catalogue.Definitions.ArchivedEntities.Keys);
        }

        var layouts = new List<Document>();
        foreach (var layout in catalogue.Archived.Values.Where(layout => layout.Entity == key))
        {
            if (await drafts.WentWithEntity(layout.Key, cancel))
            {
                layouts.Add(new Document.OfLayout(EntityArchive.WithArchived(layout, false)));
            }
        }

        var back = new Document.OfEntity(entity with { Archived = false });
        return Answer(await drafts.Replace([back, .. layouts], "Brought back", http.Caller().Author, cancel));
    }

    private static IResult Answer(IReadOnlyList<DraftReference> drafts) =>
        TypedResults.Json(drafts, WireJson.Default.IReadOnlyListDraftReference);
}
