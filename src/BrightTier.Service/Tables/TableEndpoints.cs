using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Tables;

/// <summary>A table of somebody's becomes an entity: first as it would be, then with forms, list, menu entry and records.</summary>
public static class TableEndpoints
{
    public static void MapTables(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/tables").WithTags("entities");
        group
            .MapPost("/sketch", Sketch)
            .WithName("sketchTable")
            .Needs(Permissions.Configure)
            .TakesAtMost(BodySizes.Largest)
            .Produces<TableSketch>()
            .WithSummary(
                "The entity a table suggests: of each column the field it would be, why, and which cells do not fit; nothing is made."
            );
        group
            .MapPost("/entity", Make)
            .WithName("createEntityOfTable")
            .Needs(Permissions.Configure)
            .TakesAtMost(BodySizes.Largest)
            .Produces<TableOutcome>(201)
            .WithSummary("Makes the entity, its forms, list, card and menu entry, publishes them and imports the records: all or nothing.");
    }

    private static async Task<IResult> Sketch(
        HttpContext http,
        TableRequest body,
        TableEntities tables,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var (caller, language) = Asked(http, releases);
        return TypedResults.Json(
            TableAnswer.Of(await tables.Sketch(body, caller, language, cancel), language),
            WireJson.Default.TableSketch
        );
    }

    private static async Task<IResult> Make(
        HttpContext http,
        TableRequest body,
        TableEntities tables,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var (caller, language) = Asked(http, releases);
        var made = await tables.Make(body, caller, language, cancel);
        return CreatedResource.At(http, $"/api/entities/{made.Entity}", made, WireJson.Default.TableOutcome);
    }

    private static (Caller Caller, string Language) Asked(HttpContext http, CurrentRelease releases)
    {
        var caller = http.Caller();
        return (caller, http.LanguageOf(caller, releases.Snapshot.Definitions.Application));
    }
}
