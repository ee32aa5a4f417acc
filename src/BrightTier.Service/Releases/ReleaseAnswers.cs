using System.Collections.Immutable;
using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Releases;

/// <summary>Releases as they are told: what each has otherwise than the one it was made from.</summary>
internal static class ReleaseAnswers
{
    /// <summary>One release: of one that keeps what it changed, no other is looked at.</summary>
    public static async Task<ReleaseInfo> Info(long number, ReleaseStore store, CurrentRelease releases, CancellationToken cancel)
    {
        var row = await store.Find(number, cancel) ?? throw Problems.NotFound($"release", number.ToString(CultureInfo.InvariantCulture));
        if (!row.Partial)
        {
            return (await Infos(store, releases, cancel)).First(release => release.Number == number);
        }

        var before = await Before(row, store, cancel);
        var rollout = (await store.Rollouts(cancel)).FirstOrDefault(rollout => rollout.Release == number);
        return Info(row, before, Over(before, row), rollout, releases.Active);
    }

    /// <summary>What its base has of the documents of a release: each asked for where they are few, all at once where they are
    /// many.</summary>
    private static async Task<ImmutableDictionary<(string Kind, string Key), string>> Before(
        ReleaseRow row,
        ReleaseStore store,
        CancellationToken cancel
    )
    {
        var names = row.Documents.Select(document => (document.Kind, document.Key)).ToHashSet();
        var found = ImmutableDictionary.CreateBuilder<(string Kind, string Key), string>();
        if (names.Count > Told)
        {
            foreach (var (kind, key, hash) in await store.Hashes(row.Base, cancel))
            {
                if (names.Contains((kind, key)))
                {
                    found[(kind, key)] = hash;
                }
            }
        }
        else
        {
            foreach (var name in names)
            {
                if (await store.HashIn(row.Base, name.Kind, name.Key, cancel) is { } hash)
                {
                    found[name] = hash;
                }
            }
        }

        return found.ToImmutable();
    }

    /// <summary>The hashes of a release, of those its base has.</summary>
    private static ImmutableDictionary<(string Kind, string Key), string> Over(
        ImmutableDictionary<(string Kind, string Key), string> before,
        ReleaseRow row
    ) =>
        before
            .SetItems(row.Documents.Select(each => KeyValuePair.Create((each.Kind, each.Key), each.Hash)))
            .RemoveRange(row.Documents.Where(each => each.Hash == ReleaseDocumentRow.Gone).Select(each => (each.Kind, each.Key)));

    private static ReleaseInfo Info(
        ReleaseRow row,
        ImmutableDictionary<(string Kind, string Key), string> before,
        ImmutableDictionary<(string Kind, string Key), string> after,
        RolloutRow? rollout,
        ActiveReleases served
    )
    {
        // What is told of a release that goes out in steps is what people are served here, not what is written down and not yet served.
        var current = served.Everyone.Number;
        var staged = served.Staged is { } some && some.Snapshot.Number == row.Number ? some.Audience.Terms : null;
        ReleaseDocument[] documents =
        [
            .. row
                .Documents.Select(document => (document.Kind, document.Key))
                .Concat(row.Partial ? [] : before.Keys.Except(after.Keys))
                .Select(name => (Name: name, Was: before.GetValueOrDefault(name), Is: after.GetValueOrDefault(name)))
                .Where(each => each.Was != each.Is)
                .Select(each => new ReleaseDocument(
                    each.Name.Kind,
                    each.Name.Key,
                    each.Is ?? each.Was!,
                    each.Was is null ? "added"
                        : each.Is is null ? "removed"
                        : "changed"
                ))
                .OrderBy(document => DocumentFile.KindNamed(document.Kind))
                .ThenBy(document => document.Key, StringComparer.Ordinal),
        ];
        var state =
            row.Number == current ? "current"
            : staged is not null ? RolloutRow.Staged
            : rollout?.State is RolloutRow.Staged or RolloutRow.Cancelled or RolloutRow.Stopped ? rollout.State
            : "past";
        return new ReleaseInfo(
            row.Number,
            Moment(row.At),
            row.By,
            row.Note,
            row.Restores,
            row.Number == current,
            documents,
            state,
            row.Base,
            staged ?? (rollout is null ? null : Audience.Read(rollout.Terms) with { Share = rollout.Share }),
            rollout?.Reason is { } why ? FailedSaves.Read(why).Told.ToString() : null,
            row.OverrideReason,
            documents.Length,
            documents.Count(document => document.Change == "added")
        );
    }

    /// <summary>Of more documents than this a list of releases tells how many there are.</summary>
    private const int Told = 20;

    /// <summary>A page of releases, the newest first.</summary>
    /// <param name="before">The number below which they begin; null for the newest.</param>
    /// <param name="document">Only those that changed it; null for all.</param>
    public static async Task<IReadOnlyList<ReleaseInfo>> Page(
        ReleaseStore store,
        CurrentRelease releases,
        long? before,
        int limit,
        DocumentName? document,
        CancellationToken cancel
    ) =>
        [
            .. (await Infos(store, releases, cancel))
                .Where(release => before is null || release.Number < before)
                .Where(release => document is null || release.Documents.Any(each => each.Kind == document.Kind && each.Key == document.Key))
                .Take(limit)
                .Select(release => release.Changed > Told ? release with { Documents = [] } : release),
        ];

    /// <summary>All releases, the newest first.</summary>
    public static async Task<IReadOnlyList<ReleaseInfo>> Infos(ReleaseStore store, CurrentRelease releases, CancellationToken cancel)
    {
        var rows = await store.List(cancel);
        var rollouts = (await store.Rollouts(cancel)).ToDictionary(rollout => rollout.Release);
        // What each release has, over what the one below it has: of most that is what they share.
        var none = ImmutableDictionary<(string Kind, string Key), string>.Empty;
        var hashes = new Dictionary<long, ImmutableDictionary<(string Kind, string Key), string>>();
        foreach (var row in rows.OrderBy(row => row.Number))
        {
            hashes[row.Number] = Over(row.Partial ? hashes.GetValueOrDefault(row.Base, none) : none, row);
        }

        var served = releases.Active;
        return
        [
            .. rows.Select(row =>
                Info(row, hashes.GetValueOrDefault(row.Base, none), hashes[row.Number], rollouts.GetValueOrDefault(row.Number), served)
            ),
        ];
    }

    private static DateTimeOffset Moment(long at) => DateTimeOffset.FromUnixTimeMilliseconds(at);
}
