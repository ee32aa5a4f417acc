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

        if (now.Everyone.Number != before.Everyone.Number)
        {
            Publish(now.Everyone.Number, null);
        }

        if (now.Staged?.Snapshot.Number != before.Staged?.Snapshot.Number)
        {
            if (now.Staged is { } staged)
            {
                Publish(staged.Snapshot.Number, staged.Roles);
            }
            else if (now.Everyone.Number == before.Everyone.Number)
            {
                Publish(now.Everyone.Number, before.Staged!.Roles);
            }
        }

        void Publish(long release, IReadOnlyList<string>? roles) =>
            broadcaster.PublishHere("release", System.Text.Json.JsonSerializer.Serialize(new { release }), roles: roles);
    }
}
