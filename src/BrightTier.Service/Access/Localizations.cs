using System.Text.RegularExpressions;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Access;

/// <summary>In which language a person reads, and whose dates and numbers are written for them.</summary>
internal static partial class Localizations
{
    /// <summary>What is wrong with what was asked for; nothing where it is right.</summary>
    public static IEnumerable<ProblemPart> Problems(Localization asked, Application application)
    {
        if (!application.Languages.Contains(asked.Language))
        {
            yield return Http.Problems.Part("/language", $"must be one of {string.Join(", ", application.Languages)}");
        }

        if (asked.Region is { } region && !Region().IsMatch(region))
        {
            yield return Http.Problems.Part("/region", $"must be two capital letters of ISO 3166-1, such as NL or GB");
        }
    }

    /// <summary>Changes one's own; one's open pages follow.</summary>
    public static async Task<IResult> Put(
        HttpContext http,
        Localization body,
        PeopleStore people,
        CurrentRelease releases,
        PersonChanges changes,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        if (caller.Scopes is not null)
        {
            throw new Http.RefusedException(
                403,
                "token-narrow",
                $"This token has limited permissions; sign in with one that has all of yours."
            );
        }

        var wrong = Problems(body, releases.Snapshot.Definitions.Application).ToArray();
        if (wrong.Length > 0)
        {
            throw Http.Problems.Invalid($"{wrong[0].Pointer} {wrong[0].Message}.", wrong);
        }

        var person = caller.Person;
        var row = new PersonRow
        {
            Id = person.Id,
            Name = person.Name,
            Roles = person.Roles,
            Language = body.Language,
            Region = body.Region,
            Provider = person.Provider,
        };
        await people.Save(row, cancel);
        changes.Announce(person.Id);
        return TypedResults.Json(PersonAnswer.Of(row), WireJson.Default.Person);
    }

    [GeneratedRegex("^[A-Z]{2}$")]
    private static partial Regex Region();
}
