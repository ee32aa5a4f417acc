namespace BrightTier.Contracts;

/// <summary>Publishes drafts, all or none, each at the revision its publisher saw.</summary>
/// <param name="Rollout">Whom it reaches first; null for everyone at once.</param>
/// <param name="OverrideReason">Why it goes out although checks stand against it, from 1 to 500 characters; for those who may
/// override.</param>
/// <param name="Base">The release it was reviewed against: refused where one of these was published differently since. Null for whatever
/// everyone has.</param>
public sealed record PublishRequest(
    IReadOnlyList<DraftReference> Documents,
    string Note = "",
    Rollout? Rollout = null,
    string? OverrideReason = null,
    long? Base = null
);

/// <summary>Sets a release for a time to come, within a year: of the drafts as they are now.</summary>
public sealed record ScheduleRequest(
    IReadOnlyList<DraftReference> Documents,
    DateTimeOffset At,
    string Note = "",
    Rollout? Rollout = null,
    string? OverrideReason = null
);

/// <summary>A release set for a time.</summary>
/// <param name="State">scheduled, published, cancelled or failed.</param>
/// <param name="Reason">Why it failed, or what it waits for after its time.</param>
/// <param name="Release">The release it became.</param>
public sealed record ScheduledReleaseInfo(
    long Id,
    string By,
    string Note,
    DateTimeOffset Made,
    DateTimeOffset At,
    Rollout? Rollout,
    string State,
    string? Reason,
    long? Release,
    IReadOnlyList<DraftReference> Documents
);

/// <summary>How many clients are open now, and how many of them said that they drew a release.</summary>
public sealed record AdoptionInfo(long Release, int Open, int Drawn);

/// <summary>Says that the client of a stream, named by its hello, drew a release.</summary>
public sealed record AcknowledgeRequest(string Stream, long Release);

/// <summary>Approves a draft as it is at a revision, or takes that back.</summary>
public sealed record ApprovalRequest(string Kind, string Key, long Revision, bool Approved = true);

/// <summary>Somebody's word that a draft, as it is now, is fit to be published.</summary>
public sealed record ApprovalInfo(string Kind, string Key, long Revision, string By, DateTimeOffset At);

/// <summary>The approvals of drafts as they are now, and whether publishing asks for one.</summary>
/// <param name="Own">The drafts the caller changed herself since they were published: none of these is hers to approve.</param>
public sealed record Approvals(bool Required, IReadOnlyList<ApprovalInfo> Given, IReadOnlyList<DocumentName> Own);

public sealed record DraftReference(string Kind, string Key, long Revision);

/// <summary>Goes back to a release; with documents, to how that release has them alone, everything else staying as it is.</summary>
public sealed record RestoreRequest(string Note = "", IReadOnlyList<DocumentName>? Documents = null);

public sealed record DocumentName(string Kind, string Key);

/// <summary>An unpublished draft that others depend on, with one of those that do.</summary>
/// <param name="ChangedBy">Who changed it since it was published, by their ids.</param>
public sealed record DependencyInfo(string Kind, string Key, long Revision, string ForKind, string ForKey, IReadOnlyList<string> ChangedBy);

/// <summary>Drafts somebody may publish, each at the revision she sees.</summary>
public sealed record PlanRequest(IReadOnlyList<DraftReference> Documents);

/// <summary>What publishing some drafts would do.</summary>
/// <param name="Base">The release everyone has, which the drafts were compared with.</param>
/// <param name="Documents">Those that would become another one for everyone.</param>
/// <param name="Problems">What checks find against it; with any of them it is not published, unless somebody who may says why.</param>
/// <param name="Needed">Unpublished drafts beside these that these depend on.</param>
public sealed record ReleasePlan(
    long Base,
    IReadOnlyList<PlannedDocument> Documents,
    IReadOnlyList<ProblemPart> Problems,
    IReadOnlyList<DependencyInfo> Needed
);

/// <param name="Change">added or changed.</param>
/// <param name="Summary">What is done to what everyone has, a sentence each; of what is added nothing.</param>
/// <param name="ChangedBy">Who changed the draft since it was published, by their ids.</param>
public sealed record PlannedDocument(
    string Kind,
    string Key,
    long Revision,
    string Change,
    IReadOnlyList<string> Summary,
    IReadOnlyList<string> ChangedBy
);

/// <param name="Restores">The release this one brought back, if any.</param>
/// <param name="Documents">What it has otherwise than the release it was made from; in a list of releases nothing where it is many.</param>
/// <param name="State">current, staged (out to some alone), past, cancelled or stopped (taken back by itself).</param>
/// <param name="Base">The release it was made from, and is compared with; 0 for the first.</param>
/// <param name="Rollout">Whom it reached first, with the share it has come to; null for everyone at once.</param>
/// <param name="StopReason">Why it was taken back by itself.</param>
/// <param name="OverrideReason">Why it went out although checks stood against it.</param>
/// <param name="Changed">How many documents it has otherwise.</param>
/// <param name="Added">How many of these are new.</param>
public sealed record ReleaseInfo(
    long Number,
    DateTimeOffset At,
    string By,
    string Note,
    long? Restores,
    bool Current,
    IReadOnlyList<ReleaseDocument> Documents,
    string State,
    long Base,
    Rollout? Rollout,
    string? StopReason,
    string? OverrideReason,
    int Changed,
    int Added
);

/// <param name="Change">added, changed or removed, against the release it was made from.</param>
public sealed record ReleaseDocument(string Kind, string Key, string Hash, string Change);

/// <summary>What publishing did: the release, where it can be reached, and how many open clients were told.</summary>
/// <param name="Unrouted">Layouts that went out and that nobody gets: another one comes first, and no rule gives them.</param>
/// <param name="Made">False where nothing differed from what everyone has: no release was made, and this is that one.</param>
public sealed record Receipt(
    ReleaseInfo Release,
    IReadOnlyList<ReachInfo> Reached,
    int OpenClients,
    IReadOnlyList<UnroutedInfo>? Unrouted = null,
    bool Made = true
);

/// <summary>A layout that no rule gives to anybody.</summary>
public sealed record UnroutedInfo(string Layout, string Title, string Entity, string Kind);

/// <summary>Where the records of an entity are that a release changed something of.</summary>
/// <param name="Menu">The way through the menu, headings first; null where no entry leads there.</param>
public sealed record ReachInfo(string Entity, string Label, string Address, IReadOnlyList<string>? Menu);

/// <summary>How two states of all documents differ.</summary>
/// <param name="From">A release's number, or <c>drafts</c>.</param>
/// <param name="To">The same.</param>
public sealed record ReleaseComparison(string From, string To, IReadOnlyList<DocumentDifference> Documents);

/// <param name="Change">added, changed or removed.</param>
/// <param name="Summary">What was done to it, a sentence each; of what was added or removed nothing.</param>
/// <param name="Draft">Its draft, where one of the two states is that of the drafts.</param>
public sealed record DocumentDifference(string Kind, string Key, string Change, IReadOnlyList<string> Summary, DraftState? Draft);

/// <summary>A draft as it is now.</summary>
public sealed record DraftState(long Revision, string ChangedBy, DateTimeOffset ChangedAt);
