using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>Layouts to start from.</summary>
public static class TemplateEndpoints
{
    public static void MapTemplates(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/templates").WithTags("layouts");
        group
            .MapGet("", List)
            .WithName("listTemplates")
            .NeedsReader()
            .Produces<IReadOnlyList<TemplateInfo>>()
            .WithSummary("The templates one can begin with, and what each makes.");
        group
            .MapPost("/{key}/layouts", Make)
            .WithName("createLayoutsFromTemplate")
            .Needs(Permissions.Configure)
            .Produces<IReadOnlyList<TemplateLayoutInfo>>(201)
            .WithSummary("Creates drafts of the layouts of a template for an entity, its fields matched, all or none.");
    }

    private static async Task<IResult> List(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        var catalogue = await drafts.Catalogue(cancel);
        var language = http.LanguageOf(http.Caller(), catalogue.Definitions.Application);
        return TypedResults.Json<IReadOnlyList<TemplateInfo>>(
            [
                .. catalogue
                    .Templates.Values.OrderBy(template => template.Key, StringComparer.Ordinal)
                    .Select(template => new TemplateInfo(
                        template.Key,
                        template.Title.In(language) ?? template.Key,
                        template.About?.In(language),
                        [.. template.Layouts.Select(key => catalogue.Layouts.GetValueOrDefault(key)?.Kind).OfType<string>()],
                        template.Layouts
                    )),
            ],
            WireJson.Default.IReadOnlyListTemplateInfo
        );
    }

    private static async Task<IResult> Make(
        HttpContext http,
        string key,
        TemplateRequest body,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var catalogue = await drafts.Catalogue(cancel);
        var template = catalogue.Templates.GetValueOrDefault(key) ?? throw Problems.NotFound($"template", key, catalogue.Templates.Keys);
        var entity = catalogue.Definitions.Entities.GetValueOrDefault(body.Entity)
            ?? throw Problems.NotFound($"entity", body.Entity, catalogue.Definitions.Entities.Keys);
        var first = body.Key ?? entity.Key;
        if (!NodeId.IsWellFormed(first))
        {
            throw Problems.Invalid(
                $"'{first}' is no key: it must begin with a letter and have only letters, digits, '-' and '_'.",
                Problems.Part("/key", $"is no key")
            );
        }

        var made = TemplateLayouts
            .Make(template, catalogue, entity, first)
            .Where(each => body.Without?.Contains(each.Layout.Kind) != true)
            .ToArray();
        if (made.Length == 0)
        {
            throw Problems.Invalid($"Nothing of the template '{key}' is left to make.", Problems.Part("/without", $"leaves nothing"));
        }

        made[0] = made[0] with { Layout = NewLayouts.Named(made[0].Layout, made[0].Layout.Key, body.Title) };
        if (made.FirstOrDefault(each => catalogue.IsTaken(each.Layout.Key)) is { } taken)
        {
            throw new RefusedException(
                409,
                "key-taken",
                $"There is a layout '{taken.Layout.Key}' already; nothing was made. Give another key."
            );
        }

        await drafts.SaveAll([.. made.Select(each => ((Document)new Document.OfLayout(each.Layout), 0L))], "Made", caller.Author, cancel);

        return TypedResults.Json<IReadOnlyList<TemplateLayoutInfo>>(
            [.. made.Select(each => new TemplateLayoutInfo(each.Layout.Key, [.. each.Strays]))],
            WireJson.Default.IReadOnlyListTemplateLayoutInfo,
            statusCode: 201
        );
    }
}
