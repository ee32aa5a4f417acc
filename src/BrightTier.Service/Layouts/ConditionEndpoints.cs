using BrightTier.Contracts;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>A condition looked at while it is written. Nothing is stored.</summary>
public static class ConditionEndpoints
{
    private const int LongestCondition = 2_000;

    public static void MapConditions(this IEndpointRouteBuilder api) =>
        api.MapPost("/layouts/{key}/conditions/check", Check)
            .WithName("checkCondition")
            .WithMetadata(new HarmlessCall())
            .NeedsReader()
            .WithTags("layouts")
            .Produces<ConditionInfo>()
            .WithSummary(
                "Checks a condition on a layout: what is wrong with it and where, whether it can hold and can fail, with "
                    + "examples, and its result for a record."
            );

    private static async Task<IResult> Check(
        HttpContext http,
        string key,
        ConditionRequest body,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var definitions = catalogue.Definitions;
        var entity = DraftDocuments.EntityOf(layout, catalogue);
        var mode = body.Mode ?? Modes.Edit;
        if (body.Text.Length > LongestCondition || !Modes.All.Contains(mode))
        {
            throw body.Text.Length > LongestCondition
                ? Problems.Invalid($"A condition has at most {LongestCondition} characters.", Problems.Part("/text", $"is too long"))
                : Problems.Invalid(
                    $"There is no mode '{mode}'; there are: {string.Join(", ", Modes.All)}.",
                    Problems.Part("/mode", $"must be create, edit or view")
                );
        }

        // Every text on its way to a condition comes by here: none of them is remembered.
        var (expression, problems) = Condition.CompileAnew(body.Text, entity, definitions);
        if (expression is null)
        {
            return TypedResults.Json(
                new ConditionInfo(
                    [
                        .. problems.Select(problem => new ConditionPart(
                            problem.At.Start,
                            Math.Max(1, problem.At.End - problem.At.Start),
                            problem.Message.ToString()
                        )),
                    ],
                    null,
                    [],
                    null,
                    null,
                    null
                ),
                WireJson.Default.ConditionInfo
            );
        }

        Message? now = null;
        if (body.Record is { } id)
        {
            var language = http.LanguageOf(caller, definitions.Application);
            var roles = body.Role is { Length: > 0 } role ? [role] : definitions.Application.Roles.Select(each => each.Key).ToArray();
            var reduced = Reducer.Reduce(expression, Reducer.Viewer(roles, mode, language));
            now = Evaluator.Evaluate(
                reduced,
                await RecordInView.Around(http, id, entity, expression.Reads(), definitions, mode, language, cancel)
            ) switch
            {
                true => (Message)$"holds",
                false => $"does not hold",
                Failure failure => $"no answer: {failure.Message}",
                _ => $"no answer",
            };
        }

        var answers = Analysis.All(expression, entity, definitions);
        return TypedResults.Json(
            new ConditionInfo(
                [],
                DraftDocuments.Element(writer => CompiledCondition.Write(writer, expression)),
                expression.FieldsRead(),
                Info(answers[(int)Outcome.Holds], entity),
                Info(answers[(int)Outcome.DoesNotHold], entity),
                now?.ToString()
            ),
            WireJson.Default.ConditionInfo
        );
    }

    private static PossibilityInfo Info(Answer answer, Entity entity) =>
        answer.Verdict switch
        {
            Verdict.Yes => new("yes", answer.Witness?.Describe(entity).ToString()),
            Verdict.No => new("no", null),
            _ => new("unknown", answer.Why?.ToString()),
        };
}
