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
            .WithSummary(
                "Creates a draft: generated, empty, blank, example:key from a worked example, or as a copy of the layout named; "
                    + "with more of its family and an entry in the menu, all or none."
            );
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
        var catalogue = await drafts.Catalogue(cancel);
        var entity = EntityOf(body.Entity, catalogue.Definitions);
        var first = await Begin(body.From, body.Kind, entity, drafts, cancel);
        var key = KeyOf(body.Key ?? (body.Kind == "full" ? body.Entity : $"{body.Entity}-{body.Kind}"), "/key");
        var family = (body.Also ?? [])
            .Select(
                (kind, i) =>
                    (Key: KeyOf($"{key}-{kind}", $"/also/{i}"), Layout: Generated(kind, entity, catalogue.Definitions, $"/also/{i}"))
            )
            .Prepend((Key: key, Layout: first))
            .ToArray();
        if (family.FirstOrDefault(each => catalogue.IsTaken(each.Key)).Key is { } taken)
        {
            throw new RefusedException(409, "key-taken", $"There is a layout '{taken}' already; nothing was made. Give another key.");
        }

        var documents = family
            .Select(each => ((Document)new Document.OfLayout(Named(each.Layout, each.Key, each.Key == key ? body.Title : null)), 0L))
            .ToList();
        if (body.MenuEntry && catalogue.Navigation.WayTo(entity.Key) is null)
        {
            documents.Add(await drafts.Menu(catalogue.Navigation.WithEntry(entity), cancel));
        }

        await drafts.SaveAll(documents, "Made", caller.Author, cancel);
        var (row, made) = await drafts.Layout(key, cancel);
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        return CreatedResource.At(
            http,
            $"/api/layouts/{key}",
            LayoutEndpoints.Draft(row, made, await drafts.Catalogue(cancel)),
            WireJson.Default.LayoutDraft
        );
    }

    internal static Entity EntityOf(string key, Definitions definitions) =>
        definitions.Entities.GetValueOrDefault(key) ?? throw Problems.NotFound($"entity", key, definitions.Entities.Keys);

    /// <summary>What a new layout of an entity begins as.</summary>
    /// <exception cref="RefusedException">400: there is no such beginning or kind, or it is for another entity.</exception>
    internal static async Task<Layout> Begin(string from, string kind, Entity entity, DraftDocuments drafts, CancellationToken cancel)
    {
        var definitions = await drafts.Definitions(cancel);
        var generated = Generated(kind, entity, definitions, "/kind");
        var layout = from switch
        {
            "generated" => generated,
            "empty" => GeneratedLayout.Of(
                entity with
                {
                    Fields = [.. entity.Fields.Where(field => field.Required)],
                },
                kind,
                Definitions.Empty
            ),
            "blank" => GeneratedLayout.Blank(entity, kind),
            _ when from.StartsWith(ExamplePrefix, StringComparison.Ordinal) => Example(from[ExamplePrefix.Length..], entity, definitions),
            _ when from.StartsWith(TemplatePrefix, StringComparison.Ordinal) => OfTemplate(
                from[TemplatePrefix.Length..],
                kind,
                entity,
                await drafts.Catalogue(cancel)
            ),
            _ => (await drafts.Layout(from, cancel)).Layout,
        };
        return layout.Entity == entity.Key
            ? layout
            : throw Problems.Invalid(
                $"The layout '{from}' is for '{layout.Entity}', not for '{entity.Key}'.",
                Problems.Part("/from", $"is for another entity")
            );
    }

    private static Layout Generated(string kind, Entity entity, Definitions definitions, string pointer) =>
        kind == "piece" || Grammar.Root(kind) is null
            ? throw Problems.Invalid(
                $"There is no kind '{kind}'; there are: full, short, card, list, print.",
                Problems.Part(pointer, $"is no kind")
            )
            : GeneratedLayout.Of(entity, kind, definitions);

    private static string KeyOf(string key, string pointer) =>
        NodeId.IsWellFormed(key)
            ? key
            : throw Problems.Invalid(
                $"'{key}' is no key: it must begin with a letter and have only letters, digits, '-' and '_'.",
                Problems.Part(pointer, $"is no key")
            );

    internal static Layout Named(Layout layout, string key, string? title)
    {
        var root = layout.Root.With("key", new Value.Word(key)).With("archived", null);
        return Layout.Of(string.IsNullOrWhiteSpace(title) ? root : root.With("title", new Value.Text(Texts.Of(title.Trim()))));
    }

    internal const string ExamplePrefix = "example:";

    private const string TemplatePrefix = "template:";

    /// <summary>The layout of a kind in a template, taken over for an entity; the first where it has none of that kind.</summary>
    private static Layout OfTemplate(string key, string kind, Entity entity, Catalogue catalogue)
    {
        var template = catalogue.Templates.GetValueOrDefault(key) ?? throw Problems.NotFound($"template", key, catalogue.Templates.Keys);
        var made = TemplateLayouts.Make(template, catalogue, entity, entity.Key);
        return (made.FirstOrDefault(each => each.Layout.Kind == kind) ?? (made.Count > 0 ? made[0] : null))?.Layout
            ?? throw Problems.Invalid($"The template '{key}' has no layout that is there.", Problems.Part("/from", $"has no layouts"));
    }

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
        var of = EntityOf(entity, definitions);
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
        var entity = EntityOf(layout.Entity, definitions);
        return Layout.Of(GeneratedLayout.Of(entity, layout.Kind, definitions).Root.With("key", new Value.Word(layout.Key)));
    }
}
