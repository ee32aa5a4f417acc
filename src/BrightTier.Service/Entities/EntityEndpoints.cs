using System.Text;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Hosting;
using BrightTier.Service.Drafts;
using BrightTier.Service.Releases;

namespace BrightTier.Service.Entities;

/// <summary>Entities, choice lists and the application itself: read as released, changed as drafts.</summary>
public static class EntityEndpoints
{
    public static void MapEntities(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("").WithTags("entities");
        group.MapGet("/entities", List).WithName("listEntities").Needs(Acts.ReadRecords).Produces<IReadOnlyList<EntitySummary>>().WithSummary("All entities.");
        group.MapGet("/entities/{key}", Get).WithName("getEntity").Needs(Acts.ReadRecords, Acts.Configure, Acts.Review, Acts.Publish).Produces<EntityInfo>().WithSummary("An entity as the caller may know it; configurators see the draft with ?draft=true.");
        group.MapGet("/documents", async (DraftDocuments drafts, CurrentRelease releases, CancellationToken cancel) =>
        {
            return TypedResults.Json<IReadOnlyList<DocumentSummary>>([.. (await drafts.List(cancel)).Select(row => new DocumentSummary(row.Kind, row.Key, row.Revision, row.Published, drafts.Damage(row), releases.Default.Damaged.FirstOrDefault(each => each.Kind == row.Kind && each.Key == row.Key)?.Told))], WireJson.Default.IReadOnlyListDocumentSummary);
        }).WithName("listDocuments").NeedsReader().Produces<IReadOnlyList<DocumentSummary>>().WithSummary("Every draft, of whatever kind of document.");
        foreach (var kind in Enum.GetValues<DocumentKind>().Where(kind => kind is not DocumentKind.Layout))
        {
            group.MapGet($"/documents/{kind.Name()}/{{key}}", (HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel) => Text(http, kind, key, drafts, cancel))
                .WithName($"get{Noun(kind)}Document").NeedsReader().Produces<string>(200, "application/yaml").WithSummary($"The draft of the {kind.Name()} as a file, with its revision as entity tag; as JSON with Accept: application/json.");
            group.MapPut($"/documents/{kind.Name()}/{{key}}", (HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel) => Put(http, kind, key, drafts, cancel))
                .WithName($"put{Noun(kind)}Document").Needs(Acts.Configure).TakesAtMost(BodySizes.Document).Accepts<string>("application/yaml", "application/json").Produces<SaveResult>().WithSummary($"Replaces the draft of the {kind.Name()}; If-Match names the revision replaced, If-None-Match: * makes a new one.");
            group.MapPost($"/documents/{kind.Name()}/{{key}}/recover", async (HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel) =>
                    TypedResults.Json(await Recovered(kind, key, http.Caller(), drafts, cancel), WireJson.Default.RecoveredDraft))
                .WithName($"recover{Noun(kind)}Document").Needs(Acts.Configure).Produces<RecoveredDraft>().WithSummary($"Puts the last text that can be read into a draft of the {kind.Name()} that cannot.");
        }
    }

    /// <summary>A kind as it stands in the name of a call, such as ChoiceList.</summary>
    private static string Noun(DocumentKind kind) => kind.ToString();

    internal static async Task<RecoveredDraft> Recovered(DocumentKind kind, string key, Caller caller, DraftDocuments drafts, CancellationToken cancel)
    {
        var (saved, from) = await drafts.Recover(await drafts.Row(kind, key, cancel), caller.Author, cancel);
        return new RecoveredDraft(saved.Kind, saved.Key, saved.Revision, from);
    }

    private static IResult List(HttpContext http, CurrentRelease releases)
    {
        var caller = http.Caller();
        var snapshot = releases.Snapshot;
        // What a client without an open stream asks again and again, to see whether there is another release.
        var tag = $"\"{snapshot.Name}-{BrightTier.Storage.ReleaseStore.HashOf(caller.Kind)[..8]}\"";
        http.Response.Headers.ETag = tag;
        http.Response.Headers.CacheControl = "private, no-cache";
        if (http.Request.Headers.IfNoneMatch.ToString() == tag)
        {
            return TypedResults.StatusCode(304);
        }

        return TypedResults.Json<IReadOnlyList<EntitySummary>>(
            [
                .. snapshot.Definitions.Entities.Values.Select(entity => new EntitySummary(
                    entity.Key, entity.Label.In(caller.Person.Language), entity.Plural.In(caller.Person.Language), entity.Current.Count(field => field.MayRead(caller.Roles)),
                    snapshot.Catalogue.For(entity.Key, "full").FirstOrDefault()?.Key, snapshot.Number)),
            ],
            WireJson.Default.IReadOnlyListEntitySummary);
    }

    private static async Task<IResult> Get(HttpContext http, string key, CurrentRelease releases, DraftDocuments drafts, bool? draft, CancellationToken cancel)
    {
        var caller = draft is true ? http.Reader() : http.Caller(Acts.ReadRecords);
        var definitions = draft is true ? await drafts.Definitions(cancel) : releases.Snapshot.Definitions;
        var entity = definitions.Entities.GetValueOrDefault(key) ?? throw Problems.NotFound("entity", key, definitions.Entities.Keys);
        // A configurator places fields without reading values, so the designer may know of all of them.
        return TypedResults.Json(Info(http, entity, [.. entity.Fields.Where(field => draft is true || field.MayRead(caller.Roles))], definitions, caller, releases), WireJson.Default.EntityInfo);
    }

    internal static EntityInfo Info(HttpContext http, Entity entity, IReadOnlyList<Field> fields, Definitions definitions, Caller caller, CurrentRelease releases)
    {
        var language = FormLanguage(http, caller, definitions.Application);
        return new EntityInfo(
            entity.Key, entity.Label.In(language), entity.Plural.In(language), entity.Display,
            [.. GeneratedLayout.ListColumns(entity).Where(column => fields.Any(field => field.Key == column))],
            [.. fields.Select(field => Info(field, definitions, caller, language))],
            ReleaseTag(releases),
            Related(entity, definitions, language));
    }

    private static RelatedInfo[] Related(Entity entity, Definitions definitions, string language)
    {
        var all = definitions.PointingAt(entity.Key).ToArray();
        return [.. all.Select(each => new RelatedInfo(each.Entity.Key, each.Through.Key, all.Count(other => other.Entity == each.Entity) == 1 ? each.Entity.Plural.In(language) : $"{each.Entity.Plural.In(language)} ({each.Through.Label.In(language)})"))];
    }

    private static string ReleaseTag(CurrentRelease releases) => releases.Snapshot.Number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static string FormLanguage(HttpContext http, Caller caller, Application application) => Forms.FormEndpoints.LanguageOf(http, caller, application);

    private static FieldInfo Info(Field field, Definitions definitions, Caller caller, string language) => new(
        field.Key, field.Label.In(language), field.Type.Name(), field.Required, field.Advised, field.Unique, field.Added, field.Retired, field.MayWrite(caller.Roles),
        field.Target, field.ChoiceList,
        field.ChoiceList is not null && definitions.ChoiceLists.TryGetValue(field.ChoiceList, out var list)
            ? [.. list.Choices.Select(choice => new ChoiceInfo(choice.Key, choice.Label.In(language), choice.Retired))] : null,
        field.MaxLength, field.Type is FieldType.Money ? definitions.Application.Currency : field.Unit, field.Type is FieldType.Decimal ? field.Scale : null, Editors.For(field.Type), field.Read, field.Write);

    private static async Task<IResult> Text(HttpContext http, DocumentKind kind, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var row = await drafts.Row(kind, key, cancel);
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        http.Response.Headers.Vary = "Accept";
        return http.Request.Headers.Accept.ToString().Contains("application/json", StringComparison.Ordinal)
            ? TypedResults.Json(DraftDocuments.Element(writer => DocumentFile.Write(writer, drafts.Parsed(row))), WireJson.Default.JsonElement)
            : TypedResults.Text(row.Content, "application/yaml", Encoding.UTF8);
    }

    private static async Task<IResult> Put(HttpContext http, DocumentKind kind, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var document = await ReadDocument(http, kind, key, cancel);
        var saved = await drafts.Put(document, ETags.Expected(http), caller.Author, cancel);
        http.Response.Headers.ETag = ETags.Of(saved.Revision);
        return TypedResults.Json(saved, WireJson.Default.SaveResult);
    }

    /// <summary>A document from the body, YAML or JSON, which must be of the kind and key the address names.</summary>
    public static async Task<Document> ReadDocument(HttpContext http, DocumentKind kind, string key, CancellationToken cancel)
    {
        using var reader = new StreamReader(http.Request.Body, Encoding.UTF8);
        var (document, problems) = DocumentFile.Read(await reader.ReadToEndAsync(cancel));
        if (document is null)
        {
            throw Problems.Document(problems);
        }

        return document.Kind == kind && document.Key == key
            ? document
            : throw Problems.Invalid($"The body is the {document.Kind.Name()} '{document.Key}', the address names the {kind.Name()} '{key}'.", new ProblemPart("/key", $"must be '{key}'"));
    }
}
