using System.Text;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Entities;

/// <summary>Entities, choice lists and the application itself: read as released, changed as drafts.</summary>
public static class EntityEndpoints
{
    public static void MapEntities(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("").WithTags("entities");
        group
            .MapGet("/entities", List)
            .WithName("listEntities")
            .Needs(Permissions.ReadRecords)
            .Produces<IReadOnlyList<EntitySummary>>()
            .WithSummary("All entities.");
        group
            .MapGet("/entities/{key}", Get)
            .WithName("getEntity")
            .Needs(Permissions.ReadRecords, Permissions.Configure, Permissions.Review, Permissions.Publish)
            .Produces<EntityInfo>()
            .WithSummary("An entity as the caller may know it; configurators see the draft with ?draft=true.");
        var documents = api.MapGroup("/documents").WithTags("documents");
        documents
            .MapGet("", Documents)
            .WithName("listDocuments")
            .NeedsReader()
            .Produces<IReadOnlyList<DocumentSummary>>()
            .WithSummary("Every draft, of whatever kind of document.");
        foreach (var kind in Enum.GetValues<DocumentKind>().Where(kind => kind is not DocumentKind.Layout))
        {
            documents
                .MapGet($"/{kind.Name()}/{{key}}", (HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel) =>
                    Text(http, kind, key, drafts, cancel)
                )
                .WithName($"get{Noun(kind)}Document")
                .NeedsReader()
                .Produces<string>(200, "application/yaml")
                .WithSummary(
                    $"The draft of the {kind.Name()} as a file, with its revision as entity tag; as JSON with Accept: application/json."
                );
            documents
                .MapPut($"/{kind.Name()}/{{key}}", (HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel) =>
                    Put(http, kind, key, drafts, cancel)
                )
                .WithName($"put{Noun(kind)}Document")
                .Needs(Permissions.Configure)
                .TakesAtMost(BodySizes.Document)
                .Accepts<string>("application/yaml", "application/json")
                .Produces<SaveResult>()
                .WithSummary(
                    $"Replaces the draft of the {kind.Name()}; If-Match names the revision replaced, If-None-Match: * makes a new one."
                );
            documents
                .MapPost(
                    $"/{kind.Name()}/{{key}}/recover",
                    async (HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel) =>
                        TypedResults.Json(await drafts.Recover(kind, key, http.Caller().Author, cancel), WireJson.Default.RecoveredDraft)
                )
                .WithName($"recover{Noun(kind)}Document")
                .Needs(Permissions.Configure)
                .Produces<RecoveredDraft>()
                .WithSummary($"Replaces a draft of the {kind.Name()} that cannot be read by the last text that can.");
        }
    }

    private static async Task<IResult> Documents(DraftDocuments drafts, CurrentRelease releases, CancellationToken cancel) =>
        TypedResults.Json<IReadOnlyList<DocumentSummary>>(
            [
                .. (await drafts.Known(null, cancel)).Select(draft => new DocumentSummary(
                    draft.Row.Kind,
                    draft.Row.Key,
                    draft.Row.Revision,
                    draft.Row.Published,
                    draft.Damage,
                    releases
                        .Default.Damaged.FirstOrDefault(each => each.Kind == draft.Row.Kind && each.Key == draft.Row.Key)
                        ?.Told.ToString(),
                    draft.Document is Document.OfLayout { Layout.IsArchived: true } or Document.OfEntity { Entity.Archived: true }
                )),
            ],
            WireJson.Default.IReadOnlyListDocumentSummary
        );

    /// <summary>A kind as it stands in the name of a call, such as ChoiceList.</summary>
    private static string Noun(DocumentKind kind) => kind.ToString();

    private static IResult List(HttpContext http, CurrentRelease releases)
    {
        var caller = http.Caller();
        var snapshot = releases.Snapshot;
        // What a client without an open stream asks again and again, to see whether there is another release.
        var tag = $"\"{snapshot.Name}-{BrightTier.Storage.ReleaseStore.HashOf(caller.Kind)[..8]}\"";
        http.Response.Headers.ETag = tag;
        http.Response.Headers.CacheControl = "private, no-cache";
        if (ETags.IsKnown(http, tag))
        {
            return TypedResults.StatusCode(304);
        }

        return TypedResults.Json<IReadOnlyList<EntitySummary>>(
            [
                .. snapshot.Definitions.Entities.Values.Select(entity => new EntitySummary(
                    entity.Key,
                    entity.Label.In(caller.Person.Language),
                    entity.Plural.In(caller.Person.Language),
                    entity.Current.Count(field => field.MayRead(caller.Roles)),
                    snapshot.Catalogue.For(entity.Key, "full").FirstOrDefault()?.Key,
                    snapshot.Number
                )),
            ],
            WireJson.Default.IReadOnlyListEntitySummary
        );
    }

    private static async Task<IResult> Get(
        HttpContext http,
        string key,
        CurrentRelease releases,
        DraftDocuments drafts,
        bool? draft,
        CancellationToken cancel
    )
    {
        var caller = draft is true ? http.Reader() : http.Caller(Permissions.ReadRecords);
        var definitions = draft is true ? await drafts.Definitions(cancel) : releases.Snapshot.Definitions;
        var entity = definitions.Entities.GetValueOrDefault(key) ?? throw Problems.NotFound($"entity", key, definitions.Entities.Keys);
        // A configurator places fields without reading values, so the designer may know of all of them.
        return TypedResults.Json(
            EntityAnswer.Of(
                http,
                entity,
                [.. entity.Fields.Where(field => draft is true || field.MayRead(caller.Roles))],
                definitions,
                caller,
                releases
            ),
            WireJson.Default.EntityInfo
        );
    }

    private static async Task<IResult> Text(
        HttpContext http,
        DocumentKind kind,
        string key,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var row = await drafts.Row(kind, key, cancel);
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        http.Response.Headers.Vary = "Accept";
        return http.Request.Headers.Accept.ToString().Contains("application/json", StringComparison.Ordinal)
            ? TypedResults.Json(
                DraftDocuments.Element(writer => DocumentFile.Write(writer, drafts.Parsed(row))),
                WireJson.Default.JsonElement
            )
            : TypedResults.Text(row.Content, "application/yaml", Encoding.UTF8);
    }

    private static async Task<IResult> Put(HttpContext http, DocumentKind kind, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var (document, comments) = await DocumentBody.Read(http, kind, key, cancel);
        var saved = await drafts.Save(document, ETags.Expected(http), caller.Author, cancel);
        http.Response.Headers.ETag = ETags.Of(saved.Revision);
        return TypedResults.Json(saved with { Comments = comments }, WireJson.Default.SaveResult);
    }
}
