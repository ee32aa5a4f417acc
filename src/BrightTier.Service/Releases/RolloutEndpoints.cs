using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Releases;

/// <summary>Releases that some have before everyone does: who has what, how it goes, giving it to more.</summary>
public static class RolloutEndpoints
{
    public static void MapRollouts(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/releases").WithTags("releases");
        group
            .MapGet("/{number:long}/rollout", Get)
            .WithName("getRollout")
            .NeedsReader()
            .Produces<RolloutState>()
            .WithSummary(
                "How a staged release goes: how many have it, what saving came to with it and with the one before, and the rule "
                    + "by which it is "
                    + "taken back."
            );
        group
            .MapPost("/{number:long}/widen", Widen)
            .WithName("widenRelease")
            .Needs(Permissions.Publish)
            .Produces<ReleaseInfo>()
            .WithSummary("Gives a staged release to a larger share of people; 100 promotes it to everyone.");
        group
            .MapGet("/holders", Holders)
            .WithName("listHolders")
            .NeedsReader()
            .Produces<Holders>()
            .WithSummary(
                "Who has which release and why, by name: search finds names and ids, release those who have it; limit up to 500, "
                    + "without it "
                    + "100, from offset on."
            );
        api.MapPost("/records/{entity}/refused", Refused)
            .WithTags("records")
            .WithName("noteRefusedSave")
            .WithMetadata(new HarmlessCall())
            .Needs(Permissions.WriteRecords)
            .Produces(204)
            .WithSummary("Notes that a form refused to save what was entered, for the counts by which a staged release is taken back.");
    }

    private static async Task<IResult> Get(
        HttpContext http,
        long number,
        ReleaseStore store,
        PeopleStore people,
        SaveCounts counts,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var info = await ReleaseAnswers.Info(number, store, releases, cancel);
        if (releases.Active is not { Staged: { } staged, Everyone: var everyone } || staged.Snapshot.Number != number)
        {
            throw new RefusedException(409, "not-staged", $"Release {number} is not staged, or not any more.");
        }

        var entities = SaveCounts.Concerned(everyone, staged.Snapshot);
        var found = await counts.Compare(number, everyone.Number, entities, cancel);
        var all = await people.List(cancel);
        return TypedResults.Json(
            new RolloutState(
                info,
                all.Count,
                all.Count(person => staged.Audience.Because(person.Id, PersonAnswer.Of(person).Roles) is not null),
                found.With,
                found.Before,
                entities is null ? null : [.. entities.Order(StringComparer.Ordinal)],
                FailedSaves.Rule.ToString()
            ),
            WireJson.Default.RolloutState
        );
    }

    private static async Task<IResult> Widen(
        HttpContext http,
        long number,
        WidenRequest body,
        ReleasePublisher publisher,
        ReleaseStore store,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        if (body.Share is < 1 or > 100)
        {
            throw Problems.Invalid(
                $"A share is how many of a hundred people have it, from 1 to 100.",
                Problems.Part("/share", $"must be from 1 to 100")
            );
        }

        var by = http.Caller().Author;
        await (
            body.Share == 100
                ? publisher.Promote(number, by, CancellationToken.None)
                : publisher.Widen(number, body.Share, by, CancellationToken.None)
        );
        return TypedResults.Json(await ReleaseAnswers.Info(number, store, releases, cancel), WireJson.Default.ReleaseInfo);
    }

    private static async Task<IResult> Holders(
        PeopleStore people,
        CurrentRelease releases,
        string? search,
        long? release,
        int? limit,
        int? offset,
        CancellationToken cancel
    )
    {
        if (limit is < 1 or > 500)
        {
            throw Problems.Invalid($"A page has from 1 to 500 entries.", Problems.Part("limit", $"is out of range"));
        }

        if (offset is < 0)
        {
            throw Problems.Invalid($"A page begins at 0 or later.", Problems.Part("offset", $"must be 0 or more"));
        }

        var active = releases.Active;
        var found = (await people.List(cancel))
            .Where(person =>
                search is null
                || person.Name.Contains(search, StringComparison.CurrentCultureIgnoreCase)
                || person.Id.Contains(search, StringComparison.OrdinalIgnoreCase)
            )
            .Select(person =>
                active.Staged?.Audience.Because(person.Id, PersonAnswer.Of(person).Roles) is { } because
                    ? new Holder(person.Id, person.Name, active.Staged.Snapshot.Number, because)
                    : new Holder(person.Id, person.Name, active.Everyone.Number, Audience.Everyone)
            )
            .Where(holder => release is null || holder.Release == release)
            .ToArray();
        return TypedResults.Json(new Holders([.. found.Skip(offset ?? 0).Take(limit ?? 100)], found.Length), WireJson.Default.Holders);
    }

    private static IResult Refused(HttpContext http, string entity, SaveCounts counts, CurrentRelease releases)
    {
        counts.Note(http.Caller(), releases.Entity(entity).Key, saved: false);
        return TypedResults.NoContent();
    }
}
