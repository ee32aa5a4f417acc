using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Publication;

// Releases that only some have.
public partial class ReleasePublisher
{
    /// <summary>Gives a staged release to everyone.</summary>
    /// <param name="by">Who asks, who may publish everything the release changes; or the service, when its time has come.</param>
    public Task Promote(long number, Author by, CancellationToken cancel) =>
        End(number, RolloutRow.Promoted, "release.promoted", null, by, cancel);

    /// <summary>Takes a staged release back from those who have it.</summary>
    public Task Cancel(long number, Author by, CancellationToken cancel) =>
        End(number, RolloutRow.Cancelled, "release.cancelled", null, by, cancel);

    /// <summary>Takes a staged release back because saves with it fail.</summary>
    /// <param name="found">What was counted.</param>
    public Task Stop(long number, FailedSaves found, Author by, CancellationToken cancel) =>
        End(number, RolloutRow.Stopped, "release.stopped", found, by, cancel);

    /// <summary>Gives a staged release to more people.</summary>
    /// <param name="share">How many of a hundred have it from now on.</param>
    public async Task Widen(long number, int share, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            await RequirePublisher(number, by, cancel);
            if (releases.Active.Staged is { } staged && staged.Snapshot.Number == number && share <= staged.Audience.Terms.Share)
            {
                throw Problems.Invalid(
                    $"Release {number} is out to {staged.Audience.Terms.Share} of a hundred already; give it to more.",
                    Problems.Part("/share", $"must be more than {staged.Audience.Terms.Share}")
                );
            }

            var told = audit.Entry(by.Id, "release.widened", $"release/{number}", new { share });
            if (!await store.Widen(number, share, told, cancel))
            {
                throw NotStaged(number);
            }

            announcer.Announce(await releases.Load(cancel));
        }
        finally
        {
            turn.Release();
        }
    }

    private async Task End(long number, string state, string action, FailedSaves? found, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            await RequirePublisher(number, by, cancel);
            if (
                !await store.End(
                    number,
                    state,
                    found?.Written(),
                    audit.Entry(by.Id, action, $"release/{number}", found),
                    () => Step("before-end"),
                    cancel
                )
            )
            {
                throw NotStaged(number);
            }

            Step("ended");
            announcer.Announce(await releases.Load(cancel));
        }
        finally
        {
            turn.Release();
        }
    }

    private static RefusedException NotStaged(long number) => new(409, "not-staged", $"Release {number} is not staged, or not any more.");

    /// <summary>Sees that somebody may publish all that a release changes.</summary>
    private async Task RequirePublisher(long number, Author by, CancellationToken cancel)
    {
        if (await store.Find(number, cancel) is not { } release)
        {
            return;
        }

        var before = (await store.Texts(release.Base, cancel)).ToDictionary(text => (text.Kind, text.Key), text => text.Hash);
        Read((await store.Texts(number, cancel)).Where(text => before.GetValueOrDefault((text.Kind, text.Key)) != text.Hash), by);
    }

    /// <summary>The ids of the people there are, where a rollout names some.</summary>
    private async Task<IReadOnlyCollection<string>> Known(Rollout? rollout, CancellationToken cancel) =>
        rollout?.People is { Count: > 0 } ? [.. (await people.List(cancel)).Select(person => person.Id)] : [];

    private static RolloutRow Row(ReleaseRow release, Rollout terms) =>
        new()
        {
            Release = release.Number,
            Terms = Audience.Write(terms),
            Share = terms.Share,
            State = RolloutRow.Staged,
            ChangedAt = release.At,
            ChangedBy = release.By,
        };

    /// <summary>While some have a release alone there is no other; the first goes to everyone.</summary>
    private void RequirePlace(ReleaseTerms terms)
    {
        if (releases.Active.Staged is { } staged)
        {
            throw new RefusedException(
                409,
                "release-staged",
                $"Release {staged.Snapshot.Number} is out to some people alone; promote or cancel it before the next."
            );
        }

        if (releases.Default.Number == 0 && terms.Rollout is not null)
        {
            throw Problems.Invalid($"The first release goes to everyone.", Problems.Part("/rollout", $"must be left out"));
        }
    }
}
