using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>Layouts put away and brought back; either is a change of the draft, which people notice when it is published.</summary>
public static class ArchiveEndpoints
{
    public static void MapArchive(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/layouts/{key}").WithTags("layouts");
        group
            .MapPost("/archive", Archive)
            .WithName("archiveLayout")
            .Needs(Permissions.Configure)
            .Produces<SaveResult>()
            .WithSummary("Archives a layout or piece that nothing names; refused while something does, with every place that does.");
        group
            .MapPost("/bring-back", BringBack)
            .WithName("bringBackLayout")
            .Needs(Permissions.Configure)
            .Produces<SaveResult>()
            .WithSummary("Brings an archived layout or piece back, as it was.");
    }

    private static async Task<IResult> Archive(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var (_, layout) = await drafts.Layout(key, cancel);
        var subject = layout.Kind == "piece" ? "piece" : "layout";
        var uses = layout.IsArchived ? [] : Impact.Of(subject, key, await drafts.Catalogue(cancel));
        return uses.Count == 0
            ? Answer(await drafts.SetArchived(key, true, http.Caller().Author, cancel))
            : throw Problems.InUse("layout-used", layout.Title ?? Texts.Of(key), uses);
    }

    private static async Task<IResult> BringBack(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel) =>
        Answer(await drafts.SetArchived(key, false, http.Caller().Author, cancel));

    private static IResult Answer(SaveResult saved) => TypedResults.Json(saved, WireJson.Default.SaveResult);
}
