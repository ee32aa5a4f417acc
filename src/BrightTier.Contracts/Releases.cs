namespace BrightTier.Contracts;

/// <summary>Publishes drafts, all or none, each at the revision its publisher saw.</summary>
public sealed record PublishRequest(IReadOnlyList<DraftReference> Documents, string Note = "");

public sealed record DraftReference(string Kind, string Key, long Revision);

public sealed record RestoreRequest(string Note = "");

/// <param name="Restores">The release this one brought back, if any.</param>
public sealed record ReleaseInfo(long Number, DateTimeOffset At, string By, string Note, long? Restores, bool Current, IReadOnlyList<ReleaseDocument> Documents);

/// <param name="Change">added, changed, unchanged or removed, against the release before.</param>
public sealed record ReleaseDocument(string Kind, string Key, string Hash, string Change);

/// <summary>What publishing did: the release, where it can be reached, and how many open clients were told.</summary>
public sealed record Receipt(ReleaseInfo Release, IReadOnlyList<string> Reached, int OpenClients);
