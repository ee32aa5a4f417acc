using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>Layouts begun: generated, of a worked example, as a copy.</summary>
internal static class NewLayouts
{
    public static void Map(IEndpointRouteBuilder api, RouteGroupBuilder group)
    {
        group
            .MapPost("", Make)
            .WithName("createLayout")
            .Needs(Permissions.Configure)
            .Produces<LayoutDraft>(201)
            .WithSummary("Creates a draft: generated, empty, example:key from a worked example, or as a copy of the layout named.");
        api.MapGet("/entities/{entity}/examples", Examples)
            .WithName("listExamples")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<IReadOnlyList<ExampleInfo>>()
            .WithSummary("The worked examples that can be made of an entity's fields; each begins a layout.");
        group
            .MapPost("/{key}/generate", Generate)
            .WithName("generateLayout")
            .Needs(Permissions.Configure)
            .Produces<SaveResult>()
            .WithSummary("Replaces the draft by the generated layout, as one change that can be undone.");
    }

    private static async Task<IResult> Make(HttpContext http, LayoutRequest body, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var definitions = await drafts.Definitions(cancel);
        var entity = definitions.Entities.GetValueOrDefault(body.Entity)
            ?? throw Problems.NotFound($"entity", body.Entity, definitions.Entities.Keys);
        var layout = body.From switch
        {
            "generated" => GeneratedLayout.Of(entity, body.Kind, definitions),
            "empty" => GeneratedLayout.Of(
                entity with
                {
                    Fields = [.. entity.Fields.Where(field => field.Required)],
                },
                body.Kind,
                Definitions.Empty
            ),
            var example when example.StartsWith(ExamplePrefix, StringComparison.Ordinal) => Example(
                example[ExamplePrefix.Length..],
                entity,
                definitions
            ),
            var other => (await drafts.Layout(other, cancel)).Layout,
        };
        if (body.Kind == "piece" || Grammar.Root(body.Kind) is null)
        {
            throw Problems.Invalid(
                $"There is no kind '{body.Kind}'; there are: full, short, card, list, print.",
                Problems.Part("/kind", $"is no kind")
            );
        }

        var key = body.Key ?? (body.Kind == "full" ? body.Entity : $"{body.Entity}-{body.Kind}");
        if (!NodeId.IsWellFormed(key))
        {
            throw Problems.Invalid(
                $"'{key}' is no key: it must begin with a letter and have only letters, digits, '-' and '_'.",
                Problems.Part("/key", $"is no key")
            );
        }

        if (layout.Entity != entity.Key)
        {
            throw Problems.Invalid(
                $"The layout '{body.From}' is for '{layout.Entity}', not for '{entity.Key}'.",
                Problems.Part("/from", $"is for another entity")
            );
        }

        var root = layout.Root.With("key", new Value.Word(key));
        if (!string.IsNullOrWhiteSpace(body.Title))
        {
            root = root.With("title", new Value.Text(Texts.Of(body.Title.Trim())));
        }

        layout = Layout.Of(root);
        await drafts.Save(new Document.OfLayout(layout), 0, caller.Author, cancel);
        var (row, made) = await drafts.Layout(key, cancel);
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        return TypedResults.Json(
            LayoutEndpoints.Draft(row, made, await drafts.Catalogue(cancel)),
            WireJson.Default.LayoutDraft,
            statusCode: 201
        );
    }

    internal const string ExamplePrefix = "example:";

    internal static Layout Example(string key, Entity entity, Definitions definitions)
    {
        var example = WorkedExamples.Find(key)
            ?? throw Problems.Invalid(
                $"There is no example '{key}'; there are: {string.Join(", ", WorkedExamples.All.Select(each => each.Key))}.",
                Problems.Part("/from", $"is no example")
            );
        return example.Make(entity, definitions)
            ?? throw Problems.Invalid(
                $"'{entity.Key}' has too few fields of the right types for the example '{key}'.",
                Problems.Part("/from", $"does not fit the entity")
            );
    }

    /// <summary>The examples an entity has the fields for.</summary>
    private static async Task<IResult> Examples(HttpContext http, string entity, DraftDocuments drafts, CancellationToken cancel)
    {
        var definitions = await drafts.Definitions(cancel);
        var of = definitions.Entities.GetValueOrDefault(entity) ?? throw Problems.NotFound($"entity", entity, definitions.Entities.Keys);
        return TypedResults.Json<IReadOnlyList<ExampleInfo>>(
            [
                .. WorkedExamples
                    .All.Where(example => example.Make(of, definitions) is not null)
                    .Select(example => new ExampleInfo(example.Key, example.Title)),
            ],
            WireJson.Default.IReadOnlyListExampleInfo
        );
    }

    private static async Task<IResult> Generate(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var (row, layout) = await drafts.Layout(key, cancel);
        var generated = Generated(layout, await drafts.Definitions(cancel));
        return TypedResults.Json(
            await drafts.Save(new Document.OfLayout(generated), row.Revision, caller.Author, cancel),
            WireJson.Default.SaveResult
        );
    }

    /// <summary>What is generated in the place of a layout, under its key.</summary>
    internal static Layout Generated(Layout layout, Definitions definitions)
    {
        var entity = definitions.Entities.GetValueOrDefault(layout.Entity)
            ?? throw Problems.NotFound($"entity", layout.Entity, definitions.Entities.Keys);
        return Layout.Of(GeneratedLayout.Of(entity, layout.Kind, definitions).Root.With("key", new Value.Word(layout.Key)));
    }
}
