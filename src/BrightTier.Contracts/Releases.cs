namespace BrightTier.Contracts;

/// <summary>Publishes drafts, all or none, each at the revision its publisher saw.</summary>
public sealed record PublishRequest(IReadOnlyList<DraftReference> Documents, string Note = "");

public sealed record DraftReference(string Kind, string Key, long Revision);

/// <summary>Goes back to a release; with documents, to how that release has them alone, everything else staying as it is.</summary>
public sealed record RestoreRequest(string Note = "", IReadOnlyList<DocumentName>? Documents = null);

public sealed record DocumentName(string Kind, string Key);

/// <summary>A draft that others rest on and that is ahead of what is published, with one of those that need it.</summary>
public sealed record AlongInfo(string Kind, string Key, long Revision, string ForKind, string ForKey);

/// <param name="Restores">The release this one brought back, if any.</param>
public sealed record ReleaseInfo(long Number, DateTimeOffset At, string By, string Note, long? Restores, bool Current, IReadOnlyList<ReleaseDocument> Documents);

/// <param name="Change">added, changed, unchanged or removed, against the release before.</param>
public sealed record ReleaseDocument(string Kind, string Key, string Hash, string Change);

/// <summary>What publishing did: the release, where it can be reached, and how many open clients were told.</summary>
public sealed record Receipt(ReleaseInfo Release, IReadOnlyList<string> Reached, int OpenClients);
