namespace BrightTier.Storage;

public sealed class ReleaseRow
{
    public required long Number { get; set; }

    public required long At { get; set; }

    public required string By { get; set; }

    public required string Note { get; set; }

    public long? Restores { get; set; }

    /// <summary>
    /// The release that was current when this one was made, and that it differs from by what it published; 0 for the first.
    /// </summary>
    public long Base { get; set; }

    /// <summary>Why it was published although checks stood against it; null when none did.</summary>
    public string? OverrideReason { get; set; }

    /// <summary>
    /// Whether its documents are those alone that differ from its base; releases of before 2026-12 list all, as does the first.
    /// </summary>
    public bool Partial { get; set; }

    public List<ReleaseDocumentRow> Documents { get; } = [];
}

/// <summary>What a release has of a document.</summary>
public sealed class ReleaseDocumentRow
{
    /// <summary>The hash of no text, which is no document's: the release does without what its base had.</summary>
    public static string Gone { get; } = ReleaseStore.HashOf("");

    public long Release { get; set; }

    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required string Hash { get; set; }

    /// <summary>The draft's revision this release published; null for what it took over.</summary>
    public long? Revision { get; set; }
}

/// <summary>The one thing about releases that changes: which is current.</summary>
public sealed class ActiveReleaseRow
{
    public required string Name { get; set; }

    public required long Release { get; set; }
}

/// <summary>Whom a release reached that did not go to everyone at once.</summary>
public sealed class RolloutRow
{
    public const string Staged = "staged";
    public const string Promoted = "promoted";
    public const string Cancelled = "cancelled";
    public const string Stopped = "stopped";

    public required long Release { get; set; }

    /// <summary>Whom it was to reach first and how it was to spread, as the wire has it.</summary>
    public required string Terms { get; set; }

    /// <summary>How many of a hundred have it by now, beside those named.</summary>
    public required int Share { get; set; }

    /// <summary>staged, promoted, cancelled or stopped.</summary>
    public required string State { get; set; }

    /// <summary>Why it was stopped.</summary>
    public string? Reason { get; set; }

    public required long ChangedAt { get; set; }

    public required string ChangedBy { get; set; }
}

/// <summary>A release to be made at a set time, of drafts as they were when it was planned.</summary>
public sealed class ScheduledReleaseRow
{
    public const string Scheduled = "scheduled";
    public const string Published = "published";
    public const string Cancelled = "cancelled";
    public const string Failed = "failed";

    public long Id { get; set; }

    public required string By { get; set; }

    public required string Note { get; set; }

    public required long Made { get; set; }

    public required long Due { get; set; }

    /// <summary>Whom it is to reach first, as the wire has it; null for everyone.</summary>
    public string? Terms { get; set; }

    public string? OverrideReason { get; set; }

    /// <summary>scheduled, published, cancelled or failed.</summary>
    public required string State { get; set; }

    /// <summary>Why it failed, or what it waits for after its time.</summary>
    public string? Reason { get; set; }

    /// <summary>The release it became.</summary>
    public long? Release { get; set; }

    public List<ScheduledDocumentRow> Documents { get; } = [];
}

public sealed class ScheduledDocumentRow
{
    public long ScheduledRelease { get; set; }

    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required long Revision { get; set; }

    public required string Hash { get; set; }

    /// <summary>What was published when this was planned; null for nothing.</summary>
    public string? Before { get; set; }
}

/// <summary>What saving records of an entity came to with a release.</summary>
public sealed class SaveCountRow
{
    public required long Release { get; set; }

    public required string Entity { get; set; }

    public required long Saved { get; set; }

    public required long Failed { get; set; }
}

/// <summary>How many open clients of a process have drawn a release.</summary>
public sealed class PresenceRow
{
    public required string Process { get; set; }

    /// <summary>0 counts all that are open, whatever they have drawn.</summary>
    public required long Release { get; set; }

    public required long Clients { get; set; }

    public required long At { get; set; }
}

/// <summary>Which process does what only one may do, until when.</summary>
public sealed class LeaseRow
{
    public required string Name { get; set; }

    public required string Holder { get; set; }

    public required long Until { get; set; }
}
