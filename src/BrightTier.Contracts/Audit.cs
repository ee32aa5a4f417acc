using System.Text.Json;

namespace BrightTier.Contracts;

/// <summary>Something somebody did.</summary>
/// <param name="Action">Such as draft.changed or release.published.</param>
/// <param name="Subject">Such as layout/vessel or release/7.</param>
/// <param name="Hash">SHA-256 over this entry and the hash of the one before.</param>
/// <param name="Text">The detail to the letter as it is kept, which is what the hash is over; in exports alone.</param>
public sealed record AuditEntry(
    long Number,
    DateTimeOffset At,
    string By,
    string Action,
    string Subject,
    JsonElement Detail,
    string Hash,
    string? Text = null
);

/// <summary>
/// How long the audit log is at one moment, signed: kept elsewhere, it shows later that nothing up to there was altered or cut off.
/// </summary>
/// <param name="Entries">How many there are.</param>
/// <param name="Hash">Of the last; empty where there is none.</param>
/// <param name="Key">The public key (SubjectPublicKeyInfo in base64), the same for every head of an installation.</param>
/// <param name="Signature">ECDSA on P-256 with SHA-256, in base64; docs/security.md says over what.</param>
public sealed record AuditHead(long Entries, string Hash, DateTimeOffset At, string Key, string Signature);

/// <summary>A page of the audit log, newest first; null as <paramref name="Next"/> says that there is no more.</summary>
public sealed record AuditPage(IReadOnlyList<AuditEntry> Entries, string? Next);

/// <summary>Something that was done to a record; what it held then is in the record's history.</summary>
/// <param name="Action">create, change, delete or restore.</param>
/// <param name="Version">The record's version after it.</param>
public sealed record RecordAuditEntry(DateTimeOffset At, string By, string Action, string Entity, long Record, long Version);

/// <summary>A page of what was done to records, newest first; null as <paramref name="Next"/> says that there is no more.</summary>
public sealed record RecordAuditPage(IReadOnlyList<RecordAuditEntry> Entries, string? Next);

/// <param name="Intact">Whether every entry holds the hash of the one before.</param>
/// <param name="Entries">How many there are that do.</param>
/// <param name="Hash">Of the last of them; whoever keeps it elsewhere can prove later that nothing before it was altered.</param>
/// <param name="FirstBroken">The first number that is missing or does not fit.</param>
public sealed record AuditProof(bool Intact, long Entries, string Hash, long? FirstBroken);
