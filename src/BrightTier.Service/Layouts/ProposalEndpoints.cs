using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Proposals;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>What would make a form shorter or tidier, as edits with reasons. Nothing is changed by asking.</summary>
public static class ProposalEndpoints
{
    public static void MapProposals(this IEndpointRouteBuilder api) =>
        api.MapPost("/layouts/{key}/proposals", Propose)
            .WithName("proposeForLayout")
            .WithTags("layouts")
            .Needs(Permissions.Configure)
            .Produces<ProposedChanges>()
            .WithSummary("What would make a form shorter or tidier: each change with its reason, and the edits of all that is taken.");

    private static async Task<IResult> Propose(
        HttpContext http,
        string key,
        ProposalRequest body,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        if (Aims.Parse(body.Aim) is not { } aim)
        {
            throw Problems.Invalid(
                Suggestion.Sentence($"There is no aim '{body.Aim}'{Suggestion.For(body.Aim, Aims.All)}"),
                Problems.Part("/aim", $"must be one of {string.Join(", ", Aims.All)}")
            );
        }

        var (row, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var seen = DraftDocuments.Seen(layout, null, catalogue);
        if (body.Within?.FirstOrDefault(id => !NodeId.IsWellFormed(id) || !seen.Contains(new NodeId(id))) is { } stranger)
        {
            throw Problems.Invalid(
                $"There is no '{stranger}' on '{key}'.",
                Problems.Part($"/within/{body.Within.ToList().IndexOf(stranger)}", $"must be the id of a node")
            );
        }

        var proposed = FormProposals.Of(
            seen,
            DraftDocuments.EntityOf(layout, catalogue),
            catalogue.Definitions,
            aim,
            body.Within?.Select(id => new NodeId(id)).ToHashSet(),
            body.Without?.ToHashSet(StringComparer.Ordinal)
        );
        var language = RequestLanguage.Of(http);
        return TypedResults.Json(
            new ProposedChanges(
                row.Revision,
                [
                    .. proposed.Offered.Select(each => new ProposalInfo(
                        each.Key,
                        each.Reason.In(language),
                        [.. each.Nodes.Select(id => id.Name)],
                        !each.Edits.IsEmpty
                    )),
                ],
                DraftDocuments.Element(writer => TreeJson.Write(writer, proposed.Edits)),
                DraftPreview.Lengths(seen, catalogue),
                DraftPreview.Lengths(proposed.Layout, catalogue)
            ),
            WireJson.Default.ProposedChanges
        );
    }
}
