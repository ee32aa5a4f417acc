using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>Two at one form: each sees what the other has selected.</summary>
public static class SelectionEndpoints
{
    /// <summary>More than this nobody selects by hand.</summary>
    private const int Most = 200;

    public static void MapSelections(this IEndpointRouteBuilder api) =>
        api.MapPost("/layouts/{key}/selection", Tell)
            .WithName("tellSelection")
            .WithTags("layouts")
            .Needs(Permissions.Configure)
            .Produces(204)
            .WithSummary("Tells the others at a draft what one has selected of it; it is kept nowhere.");

    private static async Task<IResult> Tell(
        HttpContext http,
        string key,
        SelectionRequest body,
        DraftDocuments drafts,
        Broadcaster broadcaster,
        CancellationToken cancel
    )
    {
        await drafts.Row(DocumentKind.Layout, key, cancel);
        if (body.Nodes.Count > Most || body.Nodes.Any(node => !node.Split('/').All(NodeId.IsWellFormed)))
        {
            throw Problems.Invalid(
                $"A selection is of at most {Most} nodes of the layout, each by its id.",
                Problems.Part("/nodes", $"must be at most {Most} ids of nodes")
            );
        }

        var told = new SelectionEvent(key, http.Caller().Author.Id, body.Nodes);
        broadcaster.Publish(Broadcaster.Passing, JsonSerializer.Serialize(told, WireJson.Default.SelectionEvent), forConfigurators: true);
        return TypedResults.NoContent();
    }
}
