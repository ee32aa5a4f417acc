using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>Why a node is, or is not, there.</summary>
public static class ExplanationEndpoints
{
    public static void MapExplanation(this IEndpointRouteBuilder api) =>
        api.MapGet("/layouts/{key}/explain", Explain)
            .WithName("explainNode")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<ExplanationInfo>()
            .WithSummary("Why a node is, or is not, there for a role, mode, width and record.");

    private static async Task<IResult> Explain(
        HttpContext http,
        string key,
        DraftDocuments drafts,
        string? node,
        string? role,
        string? mode,
        string? width,
        long? record,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        if (string.IsNullOrEmpty(node))
        {
            throw Problems.Invalid($"Name a node: ?node=mastHeight.", Problems.Part("node", $"is missing"));
        }

        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var entity = DraftDocuments.EntityOf(layout, catalogue);
        var asked = mode ?? Modes.Edit;
        if (!Modes.All.Contains(asked))
        {
            throw Problems.Invalid(
                $"There is no mode '{asked}'; there are: {string.Join(", ", Modes.All)}.",
                Problems.Part("mode", $"must be create, edit or view")
            );
        }

        var roles = catalogue.Definitions.Application.Roles.Select(each => each.Key).ToArray();
        if (role is not null && !roles.Contains(role))
        {
            throw Problems.NotFound($"role", role, roles);
        }

        var assembled = LayoutComposer.Assemble(layout, catalogue);
        var at = width is null
            ? assembled.Base
            : assembled.At(width, catalogue.Definitions.Application)
                ?? throw Problems.NotFound($"width", width, assembled.WidthNames(catalogue.Definitions.Application));
        var viewer = new Viewer([.. role is null ? roles : [role]], http.LanguageOf(caller, catalogue.Definitions.Application));
        Core.Conditions.EvaluationContext? situation = null;
        if (record is { } id)
        {
            var steps = at.Walk()
                .SelectMany(each =>
                    each.Word("visible") is { } text ? Condition.Compile(text, entity, catalogue.Definitions).Expression?.Reads() ?? [] : []
                );
            situation = await RecordInView.Around(http, id, entity, steps, catalogue.Definitions, asked, viewer.Language, cancel);
        }

        var explanation = LayoutExplainer.Explain(at, new NodeId(node), entity, catalogue.Definitions, viewer, asked, situation)
            ?? throw Problems.NotFound($"node", node, at.Walk().Select(each => each.Id.Name));
        return TypedResults.Json(
            new ExplanationInfo(
                explanation.Node.Name,
                explanation.Shown,
                [
                    .. explanation.Reasons.Select(reason => new ReasonInfo(
                        reason.Node.Name,
                        reason.Property,
                        reason.Shows,
                        reason.Message.ToString()
                    )),
                ]
            ),
            WireJson.Default.ExplanationInfo
        );
    }
}
