using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Publication;

// Releases that only some have.
public partial class ReleasePublisher
{
    /// <summary>Promotes the staged release to everyone, or cancels it.</summary>
    /// <param name="by">Who asks, who may publish everything the release changes; or the service, when its time has come.</param>
    public async Task EndRollout(long number, bool everyone, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            if (await store.Find(number, cancel) is { } release)
            {
                var before = (await store.Texts(release.Base, cancel)).ToDictionary(text => (text.Kind, text.Key), text => text.Hash);
                Read((await store.Texts(number, cancel)).Where(text => before.GetValueOrDefault((text.Kind, text.Key)) != text.Hash), by);
            }

            if (
                !await store.End(
                    number,
                    everyone,
                    audit.Entry(by.Id, everyone ? "release.promoted" : "release.cancelled", $"release/{number}", null),
                    () => Step("before-end"),
                    cancel
                )
            )
            {
                throw new RefusedException(409, "not-staged", $"Release {number} is not staged, or not any more.");
            }

            Step("ended");
            announcer.Announce(await releases.Load(cancel));
        }
        finally
        {
            turn.Release();
        }
    }

    private static RolloutRow Rollout(ReleaseRow release, IReadOnlyList<string> roles, long? everyoneAt) =>
        new()
        {
            Release = release.Number,
            Roles = string.Join(' ', roles),
            EveryoneAt = everyoneAt,
            State = RolloutRow.Staged,
            ChangedAt = release.At,
            ChangedBy = release.By,
        };
}
