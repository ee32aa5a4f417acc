namespace BrightTier.Contracts;

/// <summary>Whom a release reaches before everyone does, and how it spreads.</summary>
/// <param name="Roles">Whoever has one of these roles has it at once.</param>
/// <param name="People">These have it at once, by their ids.</param>
/// <param name="Share">
/// How many of a hundred people have it beside them, from 0 to 99. Who they are is drawn by their ids, anew for each release; as the share
/// grows, whoever has it keeps it.
/// </param>
/// <param name="Steps">When the share grows by itself, one step after the other; with 100 everyone has it.</param>
/// <param name="Stops">Whether it is taken back by itself where saves with it fail markedly more often than before.</param>
public sealed record Rollout(
    IReadOnlyList<string>? Roles = null,
    IReadOnlyList<string>? People = null,
    int Share = 0,
    IReadOnlyList<RolloutStep>? Steps = null,
    bool Stops = true
);

/// <summary>The share a staged release comes to at a time.</summary>
/// <param name="Share">From 1 to 100.</param>
public sealed record RolloutStep(DateTimeOffset At, int Share);

/// <summary>Gives a staged release to more people.</summary>
/// <param name="Share">How many of a hundred have it from now on: more than before; 100 for everyone.</param>
public sealed record WidenRequest(int Share);

/// <summary>Who has a staged release, and how it goes.</summary>
/// <param name="Release">The release itself, as it is now.</param>
/// <param name="People">How many people there are.</param>
/// <param name="Reached">How many of them have it.</param>
/// <param name="Saves">What saving came to with it.</param>
/// <param name="Before">What saving came to with the release everyone else has.</param>
/// <param name="Entities">The entities whose saves are counted: those whose forms or fields it changes; null for all.</param>
/// <param name="Rule">When it is taken back by itself, in words.</param>
public sealed record RolloutState(
    ReleaseInfo Release,
    int People,
    int Reached,
    SaveCount Saves,
    SaveCount Before,
    IReadOnlyList<string>? Entities,
    string Rule
);

/// <param name="Saved">How many records were saved.</param>
/// <param name="Failed">How many the form or the service refused; what one person tries again within a minute is one.</param>
public sealed record SaveCount(long Saved, long Failed);

/// <summary>A person and the release she has.</summary>
/// <param name="Because">everyone, role, person or share: what she has it by.</param>
public sealed record Holder(string Person, string Name, long Release, string Because);

/// <summary>Who has what: a page of people, by name.</summary>
/// <param name="Total">How many were asked for, on all pages.</param>
public sealed record Holders(IReadOnlyList<Holder> People, int Total);
