using System.Collections.Concurrent;
using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Publication;

/// <summary>Counts, release by release, what saving records came to; stored every few seconds, where there is something to store.</summary>
public sealed class SaveCounts(SaveCountStore store, CurrentRelease releases, TimeProvider time, ILogger<SaveCounts> log)
    : BackgroundService
{
    private static readonly TimeSpan Pace = TimeSpan.FromSeconds(2);

    /// <summary>What one person tries again within it is the same failure.</summary>
    private const long Again = 60_000;

    private readonly ConcurrentDictionary<(string Person, string Entity, long Release), long> failures = new();
    private readonly Lock gate = new();
    private Dictionary<(long Release, string Entity), (long Saved, long Failed)> counted = [];

    /// <summary>Takes down what a save of whoever asks came to.</summary>
    public void Note(Caller caller, string entity, bool saved)
    {
        var release = releases.Snapshot.Number;
        if (!releases.Snapshot.Definitions.Entities.ContainsKey(entity) || (!saved && IsAgain((caller.Person.Id, entity, release))))
        {
            return;
        }

        lock (gate)
        {
            var (successes, failed) = counted.GetValueOrDefault((release, entity));
            counted[(release, entity)] = saved ? (successes + 1, failed) : (successes, failed + 1);
        }
    }

    private bool IsAgain((string, string, long) failure)
    {
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        var again = failures.TryGetValue(failure, out var last) && now - last < Again;
        if (!again)
        {
            failures[failure] = now;
        }

        return again;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pace, time);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await timer.WaitForNextTickAsync(stoppingToken);
                await Store(stoppingToken);
            }
            catch (OperationCanceledException)
            {
                break;
            }
        }

        await Store(CancellationToken.None);
    }

    private async Task Store(CancellationToken cancel)
    {
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        foreach (var (failure, at) in failures)
        {
            if (now - at >= Again)
            {
                failures.TryRemove(KeyValuePair.Create(failure, at));
            }
        }

        Dictionary<(long Release, string Entity), (long Saved, long Failed)> more;
        lock (gate)
        {
            if (counted.Count == 0)
            {
                return;
            }

            (more, counted) = (counted, []);
        }

        try
        {
            await store.Add(
                more.Select(each => new SaveCountRow
                {
                    Release = each.Key.Release,
                    Entity = each.Key.Entity,
                    Saved = each.Value.Saved,
                    Failed = each.Value.Failed,
                }),
                cancel
            );
        }
        catch (Exception error) when (DatabaseErrors.IsOutOfReach(error))
        {
            log.LogWarning("What saving came to is counted on until the database answers: {Reason}", error.Message);
            lock (gate)
            {
                foreach (var (name, (saved, failed)) in more)
                {
                    var since = counted.GetValueOrDefault(name);
                    counted[name] = (since.Saved + saved, since.Failed + failed);
                }
            }
        }
    }

    /// <summary>What was counted with a release and with another, of some entities.</summary>
    /// <param name="entities">Null for all.</param>
    public async Task<FailedSaves> Compare(long release, long before, IReadOnlySet<string>? entities, CancellationToken cancel)
    {
        var rows = (await store.Of([release, before], cancel)).Where(row => entities is null || entities.Contains(row.Entity)).ToArray();
        return new FailedSaves(Sum(release), Sum(before));

        SaveCount Sum(long number)
        {
            var own = rows.Where(row => row.Release == number).ToArray();
            return new SaveCount(own.Sum(row => row.Saved), own.Sum(row => row.Failed));
        }
    }

    /// <summary>The entities whose saves tell how a staged release does: those whose forms or fields it changes; null for all.</summary>
    public static IReadOnlySet<string>? Concerned(Snapshot now, Snapshot next)
    {
        var entities = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (kind, key) in next.Hashes.Keys.Union(now.Hashes.Keys))
        {
            if (next.Hashes.GetValueOrDefault((kind, key)) == now.Hashes.GetValueOrDefault((kind, key)))
            {
                continue;
            }

            if (kind == "entity")
            {
                entities.Add(key);
            }
            else if (
                kind == "layout"
                && (next.Catalogue.Layouts.GetValueOrDefault(key) ?? now.Catalogue.Layouts.GetValueOrDefault(key))
                    is { Kind: not "piece" } layout
            )
            {
                entities.Add(layout.Entity);
            }
            else
            {
                return null;
            }
        }

        return entities;
    }
}
