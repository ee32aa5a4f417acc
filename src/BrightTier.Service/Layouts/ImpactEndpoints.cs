using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>What would notice if something changed.</summary>
public static class ImpactEndpoints
{
    public static void MapImpact(this IEndpointRouteBuilder api) =>
        api.MapGet("/impact", Uses)
            .WithName("listUses")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<IReadOnlyList<UseInfo>>()
            .WithSummary("Every place that uses a field, choice, choice-list, entity, piece, role, pattern, layout or style.");

    private static async Task<IResult> Uses(
        HttpContext http,
        DraftDocuments drafts,
        string? subject,
        string? name,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrEmpty(subject) || string.IsNullOrEmpty(name))
        {
            throw Problems.Invalid(
                $"Name a subject: ?subject=field&name=vessel.length.",
                Problems.Part(string.IsNullOrEmpty(subject) ? "subject" : "name", $"is missing")
            );
        }

        if (!Impact.Subjects.Contains(subject))
        {
            throw Problems.Invalid(
                Suggestion.Sentence($"There is no subject '{subject}'{Suggestion.For(subject, Impact.Subjects)}"),
                Problems.Part("subject", $"must be one of {string.Join(", ", Impact.Subjects)}")
            );
        }

        var catalogue = await drafts.Catalogue(cancel);
        var uses = Impact.Of(subject, name, catalogue);
        // What is gone may be used still, and is worth asking about; what never was is a mistake in the question.
        if (uses.Count == 0 && Impact.Names(subject, catalogue) is var names && !names.Contains(name))
        {
            throw Problems.NotFound(Message.Term(subject.Replace('-', ' ')), name, names);
        }

        return TypedResults.Json<IReadOnlyList<UseInfo>>(
            [.. uses.Select(use => new UseInfo(use.Kind.Name(), use.Key, use.Place, use.As, use.Message.ToString()))],
            WireJson.Default.IReadOnlyListUseInfo
        );
    }
}
