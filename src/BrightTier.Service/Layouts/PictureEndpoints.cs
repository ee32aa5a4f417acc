using System.Text;
using BrightTier.Core.Composition;
using BrightTier.Core.Model;
using BrightTier.Core.Pictures;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;

namespace BrightTier.Service.Layouts;

/// <summary>Layouts drawn small, those there are and those that could begin.</summary>
public static class PictureEndpoints
{
    private const string Svg = "image/svg+xml";

    public static void MapPictures(this IEndpointRouteBuilder api)
    {
        api.MapGet("/layouts/{key}/picture", OfDraft)
            .WithName("drawLayout")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<string>(200, Svg)
            .WithSummary("A draft drawn small, as SVG: where what stands, under its own names.");
        api.MapGet("/entities/{entity}/picture", OfBeginning)
            .WithName("drawBeginning")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<string>(200, Svg)
            .WithSummary("A layout of an entity as it would begin, drawn small, as SVG; from and kind as when one is created.");
    }

    private static async Task<IResult> OfDraft(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var assembled = LayoutComposer.Assemble(Pieces.AsForm(layout), catalogue).Base;
        return Drawn(http, assembled, DraftDocuments.EntityOf(layout, catalogue), catalogue.Definitions);
    }

    private static async Task<IResult> OfBeginning(
        HttpContext http,
        string entity,
        DraftDocuments drafts,
        string? from,
        string? kind,
        CancellationToken cancel
    )
    {
        var catalogue = await drafts.Catalogue(cancel);
        var of = NewLayouts.EntityOf(entity, catalogue.Definitions);
        var layout = await NewLayouts.Begin(from ?? "generated", kind ?? "full", of, drafts, cancel);
        return Drawn(http, LayoutComposer.Assemble(layout, catalogue).Base, of, catalogue.Definitions);
    }

    private static IResult Drawn(HttpContext http, Layout layout, Entity entity, Definitions definitions)
    {
        // It is an image and nothing else, wherever it is opened.
        http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'";
        http.Response.Headers.CacheControl = "no-cache";
        var language = http.LanguageOf(http.Caller(), definitions.Application);
        return TypedResults.Text(LayoutPicture.Of(layout, entity, language), Svg, Encoding.UTF8);
    }
}
