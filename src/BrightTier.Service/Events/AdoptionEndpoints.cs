using BrightTier.Contracts;
using BrightTier.Service.Auth;

namespace BrightTier.Service.Events;

/// <summary>How far a release has reached open clients.</summary>
public static class AdoptionEndpoints
{
    public static void MapAdoption(this IEndpointRouteBuilder api) =>
        api.MapGet("/releases/{number:long}/adoption", Get)
            .WithTags("releases")
            .WithName("getAdoption")
            .NeedsReader()
            .Produces<AdoptionInfo>()
            .WithSummary("How many clients are open, and how many of them show a release.");

    private static async Task<IResult> Get(long number, Adoption adoption, CancellationToken cancel) =>
        TypedResults.Json(await adoption.Of(number, cancel), WireJson.Default.AdoptionInfo);
}
