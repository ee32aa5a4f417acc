using BrightTier.Contracts;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;
using BrightTier.Core.Resolution;
using BrightTier.Service.Access;
using BrightTier.Service.Forms;
using BrightTier.Service.Hosting;

namespace BrightTier.Service.Layouts;

/// <summary>Conditions and patterns tried while they are written. Nothing is stored.</summary>
public static class TryingEndpoints
{
    private const int MostSamples = 200;
    private const int LongestSamples = 8_000;
    private const int LongestCondition = 2_000;

    public static void MapTrying(this IEndpointRouteBuilder api)
    {
        api.MapPost("/layouts/{key}/condition", Look).NeedsReader().WithTags("layouts").Produces<ConditionInfo>()
            .WithSummary("What is known of a condition on a layout: what is wrong with it and where, whether it can hold and can fail, with examples, and what it comes to for a record.");
        api.MapGet("/patterns", Library).NeedsReader().WithTags("definitions").Produces<IReadOnlyList<PatternInfo>>().WithSummary("The shared library of patterns, as drafts.");
        api.MapPost("/patterns/try", Try).NeedsReader().WithTags("definitions").Produces<PatternTrialResult>().WithSummary("Which of up to 200 samples a pattern takes, by the same engine that checks on saving.");
    }

    private static async Task<IResult> Look(HttpContext http, string key, ConditionRequest body, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var definitions = catalogue.Definitions;
        var entity = QuestionEndpoints.EntityOf(layout, catalogue);
        var mode = body.Mode ?? Modes.Edit;
        if (body.Text.Length > LongestCondition || !Modes.All.Contains(mode))
        {
            throw body.Text.Length > LongestCondition
                ? Problems.Invalid($"A condition has at most {LongestCondition} characters.", new ProblemPart("/text", "is too long"))
                : Problems.Invalid($"There is no mode '{mode}'; there are: {string.Join(", ", Modes.All)}.", new ProblemPart("/mode", "must be create, edit or view"));
        }

        // Every text on its way to a condition comes by here: none of them is remembered.
        var (expression, problems) = Condition.CompileAnew(body.Text, entity, definitions);
        if (expression is null)
        {
            return TypedResults.Json(new ConditionInfo([.. problems.Select(problem => new ConditionPart(problem.At.Start, Math.Max(1, problem.At.End - problem.At.Start), problem.Message))], null, [], null, null, null), WireJson.Default.ConditionInfo);
        }

        string? now = null;
        if (body.Record is { } id)
        {
            var language = FormEndpoints.LanguageOf(http, caller, definitions.Application);
            var roles = body.Role is { Length: > 0 } role ? [role] : definitions.Application.Roles.Select(each => each.Key).ToArray();
            var reduced = Reducer.Reduce(expression, Reducer.Viewer(roles, mode, language));
            now = Evaluator.Evaluate(reduced, await RecordInView.Around(http, id, entity, expression.Reads(), definitions, mode, language, cancel)) switch
            {
                true => "holds",
                false => "does not hold",
                Failure failure => $"no answer: {failure.Message}",
                _ => "no answer",
            };
        }

        var answers = Analysis.All(expression, entity, definitions);
        return TypedResults.Json(
            new ConditionInfo([], DraftDocuments.Element(writer => CompiledCondition.Write(writer, expression)), expression.FieldsRead(), Info(answers[(int)Outcome.Holds], entity), Info(answers[(int)Outcome.DoesNotHold], entity), now),
            WireJson.Default.ConditionInfo);
    }

    private static PossibilityInfo Info(Answer answer, Entity entity) => answer.Verdict switch
    {
        Verdict.Yes => new("yes", answer.Witness?.Describe(entity)),
        Verdict.No => new("no", null),
        _ => new("unknown", answer.Why),
    };

    private static async Task<IResult> Library(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var definitions = await drafts.Definitions(cancel);
        var language = FormEndpoints.LanguageOf(http, caller, definitions.Application);
        return TypedResults.Json<IReadOnlyList<PatternInfo>>(
            [.. definitions.Patterns.Values.Select(pattern => new PatternInfo(pattern.Key, pattern.Label.In(language), pattern.Expression, pattern.Message?.ByLanguage, pattern.Samples.Pass, pattern.Samples.Fail))],
            WireJson.Default.IReadOnlyListPatternInfo);
    }

    private static IResult Try(HttpContext http, PatternTrial body)
    {
        if (body.Samples.Count > MostSamples)
        {
            throw Problems.Invalid($"Up to {MostSamples} samples are tried at once.", new ProblemPart("/samples", "has too many"));
        }

        if (body.Samples.Sum(sample => (long)sample.Length) > LongestSamples)
        {
            throw Problems.Invalid($"The samples have at most {LongestSamples} characters together.", new ProblemPart("/samples", "are too long"));
        }

        var problem = WholePattern.Problem(body.Pattern);
        return TypedResults.Json(new PatternTrialResult(problem, problem is null ? WholePattern.Try(body.Pattern, body.Samples) : []), WireJson.Default.PatternTrialResult);
    }
}
