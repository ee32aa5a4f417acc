using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;

namespace BrightTier.Service.Layouts;

/// <summary>What the checks find in documents that are no layouts.</summary>
public static class FindingEndpoints
{
    public static void MapFindings(this IEndpointRouteBuilder api) =>
        api.MapGet("/findings", Findings)
            .WithName("listFindings")
            .NeedsReader()
            .WithTags("definitions")
            .Produces<IReadOnlyList<DocumentFindingInfo>>()
            .WithSummary("What the checks find in drafts that are no layouts.");

    private static async Task<IResult> Findings(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        return TypedResults.Json<IReadOnlyList<DocumentFindingInfo>>(
            [
                .. Checker
                    .CheckDocuments(await drafts.Catalogue(cancel))
                    .Select(finding => new DocumentFindingInfo(
                        finding.Code,
                        finding.Severity.ToString().ToLowerInvariant(),
                        finding.Kind.Name(),
                        finding.Key,
                        finding.Pointer,
                        finding.Message.ToString(),
                        finding.Evidence?.ToString()
                    )),
            ],
            WireJson.Default.IReadOnlyListDocumentFindingInfo
        );
    }
}
