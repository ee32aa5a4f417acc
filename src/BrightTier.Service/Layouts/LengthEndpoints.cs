using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Layouts;

/// <summary>How long a form is.</summary>
public static class LengthEndpoints
{
    public static void MapLength(this IEndpointRouteBuilder api) =>
        api.MapGet("/layouts/{key}/length", Measure)
            .WithName("measureLayout")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<IReadOnlyList<LengthInfo>>()
            .WithSummary("How long the draft is at each width; what is published, with released=true.");

    private static async Task<IResult> Measure(
        HttpContext http,
        string key,
        DraftDocuments drafts,
        CurrentRelease releases,
        bool? released,
        CancellationToken cancel
    )
    {
        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        if (released is true)
        {
            catalogue = releases.Snapshot.Catalogue;
            layout = catalogue.Layouts.GetValueOrDefault(key) ?? throw Problems.NotFound($"published layout", key, catalogue.Layouts.Keys);
        }

        return TypedResults.Json(DraftPreview.Lengths(layout, catalogue), WireJson.Default.IReadOnlyListLengthInfo);
    }
}
