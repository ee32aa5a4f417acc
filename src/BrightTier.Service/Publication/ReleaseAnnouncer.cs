using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Publication;

/// <summary>Tells the clients of this process of releases, each once, whoever made it.</summary>
public sealed class ReleaseAnnouncer(CurrentRelease releases, Broadcaster broadcaster)
{
    private readonly Lock gate = new();
    private ActiveReleases? told;

    /// <summary>Tells the clients of this process whom a new release concerns.</summary>
    public void Announce((ActiveReleases Before, ActiveReleases Now) change)
    {
        ActiveReleases before,
            now;
        lock (gate)
        {
            // Of a release this process made, the loop that listens to the others may hear as well: it is told once.
            (before, now) = (told ?? change.Before, releases.Active);
            told = now;
        }

        if (RightsChange.Between(before.Everyone.Definitions, now.Everyone.Definitions).Count > 0)
        {
            // What a stream is told of depends on what its listener may: it begins anew.
            broadcaster.EndHere(_ => true);
        }

        // What is told is remembered for a while, and with it what is captured here: numbers, no releases.
        var (served, was) = (new ReleaseOf(now), new ReleaseOf(before));
        if (now.Everyone.Number != before.Everyone.Number)
        {
            Publish(now.Everyone.Number, now.Staged is null ? null : Gets(now.Everyone.Number));
        }
        else if (now.Staged?.Snapshot.Number != before.Staged?.Snapshot.Number && before.Staged is not null)
        {
            Publish(now.Everyone.Number, who => Gets(now.Everyone.Number)(who) && IsAnother(who));
        }

        if (now.Staged is { } staged)
        {
            Publish(staged.Snapshot.Number, who => Gets(staged.Snapshot.Number)(who) && IsAnother(who));
        }

        if ((before.Staged, now.Staged) is not (null, null))
        {
            // Who watches over it looks again: it was staged, widened, promoted or taken back.
            broadcaster.PublishHere(
                "rollout",
                JsonSerializer.Serialize(new RolloutEvent((now.Staged ?? before.Staged)!.Snapshot.Number), WireJson.Default.RolloutEvent),
                forConfigurators: true
            );
        }

        Func<Subscriber, bool> Gets(long release) => who => served.To(who) == release;

        bool IsAnother(Subscriber who) => served.To(who) != was.To(who);

        void Publish(long release, Func<Subscriber, bool>? whom) =>
            broadcaster.PublishHere(
                "release",
                JsonSerializer.Serialize(new ReleaseEvent(release, broadcaster.Within), WireJson.Default.ReleaseEvent),
                whom: whom
            );
    }

    /// <summary>The number of the release that each is served.</summary>
    private sealed class ReleaseOf(ActiveReleases active)
    {
        private readonly long everyone = active.Everyone.Number;
        private readonly long staged = active.Staged?.Snapshot.Number ?? 0;
        private readonly Audience? audience = active.Staged?.Audience;

        public long To(Subscriber who) => audience?.Because(who.Person, who.Roles) is null ? everyone : staged;
    }
}
