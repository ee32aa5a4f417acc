using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Publication;

namespace BrightTier.Service.Releases;

/// <summary>A second person's word that a draft is fit to be published.</summary>
public static class ApprovalEndpoints
{
    public static void MapApprovals(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/approvals").WithTags("releases");
        group
            .MapGet("", List)
            .WithName("listApprovals")
            .NeedsReader()
            .Produces<Approvals>()
            .WithSummary(
                "Who approved which drafts as they are now, which of them the caller changed, and whether publishing needs an approval."
            );
        group
            .MapPost("", Approve)
            .WithName("approveDraft")
            .Needs(Permissions.Review)
            .Produces(204)
            .WithSummary("Approves a draft as it is at a revision, or withdraws that; nobody approves their own changes.");
    }

    private static async Task<IResult> List(HttpContext http, DraftApprovals approvals, CancellationToken cancel) =>
        TypedResults.Json(await approvals.List(http.Caller().Person.Id, cancel), WireJson.Default.Approvals);

    private static async Task<IResult> Approve(HttpContext http, ApprovalRequest body, DraftApprovals approvals, CancellationToken cancel)
    {
        await approvals.Decide(body, http.Caller().Author, cancel);
        return TypedResults.NoContent();
    }
}
