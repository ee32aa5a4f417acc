using BrightTier.Contracts;
using BrightTier.Core.Patterns;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>The library of patterns, and a pattern tested against samples.</summary>
public static class PatternEndpoints
{
    private const int MostSamples = 200;
    private const int LongestSamples = 8_000;

    public static void MapPatterns(this IEndpointRouteBuilder api)
    {
        api.MapGet("/patterns", Library)
            .WithName("listPatterns")
            .NeedsReader()
            .WithTags("definitions")
            .Produces<IReadOnlyList<PatternInfo>>()
            .WithSummary("The shared library of patterns, as drafts.");
        api.MapPost("/patterns/test", Test)
            .WithName("testPattern")
            .NeedsReader()
            .WithMetadata(new HarmlessCall())
            .WithTags("definitions")
            .Produces<PatternTestResult>()
            .WithSummary("Which of up to 200 samples a pattern matches, by the engine that checks on saving.");
    }

    private static async Task<IResult> Library(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var definitions = await drafts.Definitions(cancel);
        var language = http.LanguageOf(caller, definitions.Application);
        return TypedResults.Json<IReadOnlyList<PatternInfo>>(
            [
                .. definitions.Patterns.Values.Select(pattern => new PatternInfo(
                    pattern.Key,
                    pattern.Label.In(language),
                    pattern.Expression,
                    pattern.Message?.ByLanguage,
                    pattern.Samples.Pass,
                    pattern.Samples.Fail
                )),
            ],
            WireJson.Default.IReadOnlyListPatternInfo
        );
    }

    private static IResult Test(PatternTest body)
    {
        if (body.Samples.Count > MostSamples)
        {
            throw Problems.Invalid($"Up to {MostSamples} samples are tried at once.", Problems.Part("/samples", $"has too many"));
        }

        if (body.Samples.Sum(sample => (long)sample.Length) > LongestSamples)
        {
            throw Problems.Invalid(
                $"The samples have at most {LongestSamples} characters together.",
                Problems.Part("/samples", $"are too long")
            );
        }

        var problem = WholePattern.Problem(body.Pattern);
        return TypedResults.Json(
            new PatternTestResult(problem?.ToString(), problem is null ? WholePattern.Try(body.Pattern, body.Samples) : []),
            WireJson.Default.PatternTestResult
        );
    }
}
