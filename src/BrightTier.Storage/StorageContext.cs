using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Documents, drafts, releases and people. Times are Unix milliseconds, which order alike in every database.</summary>
public class StorageContext(DbContextOptions options) : DbContext(options)
{
    public DbSet<DraftRow> Drafts => Set<DraftRow>();

    public DbSet<ChangeRow> Changes => Set<ChangeRow>();

    public DbSet<ContentRow> Contents => Set<ContentRow>();

    public DbSet<ImportedVersionRow> ImportedVersions => Set<ImportedVersionRow>();

    public DbSet<ReleaseRow> Releases => Set<ReleaseRow>();

    public DbSet<ReleaseDocumentRow> ReleaseDocuments => Set<ReleaseDocumentRow>();

    public DbSet<ActiveReleaseRow> ActiveReleases => Set<ActiveReleaseRow>();

    public DbSet<PersonRow> People => Set<PersonRow>();

    public DbSet<CredentialRow> Credentials => Set<CredentialRow>();

    public DbSet<PreferenceRow> Preferences => Set<PreferenceRow>();

    public DbSet<CommentRow> Comments => Set<CommentRow>();

    public DbSet<MentionRow> Mentions => Set<MentionRow>();

    public DbSet<KeyRow> Keys => Set<KeyRow>();

    public DbSet<RolloutRow> Rollouts => Set<RolloutRow>();

    public DbSet<ScheduledReleaseRow> ScheduledReleases => Set<ScheduledReleaseRow>();

    public DbSet<LeaseRow> Leases => Set<LeaseRow>();

    public DbSet<ApprovalRow> Approvals => Set<ApprovalRow>();

    public DbSet<PresenceRow> Presences => Set<PresenceRow>();

    public DbSet<AuditEntryRow> AuditEntries => Set<AuditEntryRow>();

    public DbSet<PasswordRow> Passwords => Set<PasswordRow>();

    public DbSet<FileRow> Files => Set<FileRow>();

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<DraftRow>(row =>
        {
            row.ToTable("draft");
            row.HasKey(draft => new { draft.Kind, draft.Key });
        });
        modelBuilder.Entity<ChangeRow>(row =>
        {
            row.ToTable("change");
            row.HasKey(change => new
            {
                change.Kind,
                change.Key,
                change.Revision,
            });
        });
        modelBuilder.Entity<ContentRow>(row =>
        {
            row.ToTable("content");
            row.HasKey(content => content.Hash);
        });
        modelBuilder.Entity<ReleaseRow>(row =>
        {
            row.ToTable("release");
            row.HasKey(release => release.Number);
            row.Property(release => release.Number).ValueGeneratedNever();
            row.HasMany(release => release.Documents).WithOne().HasForeignKey(document => document.Release);
        });
        modelBuilder.Entity<ReleaseDocumentRow>(row =>
        {
            row.ToTable("release_document");
            row.HasKey(document => new
            {
                document.Release,
                document.Kind,
                document.Key,
            });
            row.HasOne<ContentRow>().WithMany().HasForeignKey(document => document.Hash);
        });
        modelBuilder.Entity<ActiveReleaseRow>(row =>
        {
            row.ToTable("active_release");
            row.HasKey(pointer => pointer.Name);
        });
        modelBuilder.Entity<PersonRow>(row =>
        {
            row.ToTable("person");
            row.HasKey(person => person.Id);
        });
        modelBuilder.Entity<CredentialRow>(row =>
        {
            row.ToTable("credential");
            row.HasKey(credential => credential.Hash);
            row.HasIndex(credential => credential.Person);
        });
        modelBuilder.Entity<PreferenceRow>(row =>
        {
            row.ToTable("preference");
            row.HasKey(preference => new { preference.Person, preference.Name });
        });
        modelBuilder.Entity<CommentRow>(row =>
        {
            row.ToTable("comment");
            row.HasKey(comment => comment.Id);
            row.HasIndex(comment => new { comment.Subject, comment.Id });
        });
        modelBuilder.Entity<ImportedVersionRow>(row =>
        {
            row.ToTable("imported_version");
            row.HasKey(arrival => arrival.Id);
            row.HasIndex(arrival => new { arrival.Kind, arrival.Key });
            row.HasOne<ContentRow>().WithMany().HasForeignKey(arrival => arrival.Hash);
        });
        modelBuilder.Entity<MentionRow>(row =>
        {
            row.ToTable("mention");
            row.HasKey(mention => new { mention.Person, mention.Comment });
            row.HasOne<CommentRow>().WithMany().HasForeignKey(mention => mention.Comment);
        });
        modelBuilder.Entity<KeyRow>(row =>
        {
            row.ToTable("protection_key");
            row.HasKey(key => key.Name);
        });
        modelBuilder.Entity<RolloutRow>(row =>
        {
            row.ToTable("rollout");
            row.HasKey(rollout => rollout.Release);
            row.Property(rollout => rollout.Release).ValueGeneratedNever();
            row.HasOne<ReleaseRow>().WithOne().HasForeignKey<RolloutRow>(rollout => rollout.Release);
        });
        modelBuilder.Entity<ScheduledReleaseRow>(row =>
        {
            row.ToTable("scheduled_release");
            row.HasKey(plan => plan.Id);
            row.HasMany(plan => plan.Documents).WithOne().HasForeignKey(document => document.ScheduledRelease);
        });
        modelBuilder.Entity<ScheduledDocumentRow>(row =>
        {
            row.ToTable("scheduled_release_document");
            row.HasKey(document => new
            {
                document.ScheduledRelease,
                document.Kind,
                document.Key,
            });
            row.HasOne<ContentRow>().WithMany().HasForeignKey(document => document.Hash);
        });
        modelBuilder.Entity<LeaseRow>(row =>
        {
            row.ToTable("lease");
            row.HasKey(lease => lease.Name);
        });
        modelBuilder.Entity<ApprovalRow>(row =>
        {
            row.ToTable("approval");
            row.HasKey(approval => new
            {
                approval.Kind,
                approval.Key,
                approval.Revision,
                approval.By,
            });
        });
        modelBuilder.Entity<PresenceRow>(row =>
        {
            row.ToTable("presence");
            row.HasKey(presence => new { presence.Process, presence.Release });
        });
        modelBuilder.Entity<AuditEntryRow>(row =>
        {
            row.ToTable("audit_entry");
            row.HasKey(entry => entry.Number);
            row.Property(entry => entry.Number).ValueGeneratedNever();
            row.HasIndex(entry => entry.At);
        });
        modelBuilder.Entity<PasswordRow>(row =>
        {
            row.ToTable("password");
            row.HasKey(password => password.Person);
        });
        modelBuilder.Entity<FileRow>(row =>
        {
            row.ToTable("stored_file");
            row.HasKey(file => file.Hash);
        });
    }
}

/// <summary>The working copy of a document. A revision counts its changes.</summary>
public sealed class DraftRow
{
    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required long Revision { get; set; }

    /// <summary>The revision last published; null when none was.</summary>
    public long? Published { get; set; }

    /// <summary>Canonical YAML.</summary>
    public required string Content { get; set; }

    public required long ChangedAt { get; set; }

    public required string ChangedBy { get; set; }
}

/// <summary>One change in a draft's history, with its inverse; both as edits on the wire are.</summary>
public sealed class ChangeRow
{
    public required string Kind { get; set; }

    public required string Key { get; set; }

    /// <summary>The revision this change led to.</summary>
    public required long Revision { get; set; }

    public required string Label { get; set; }

    public required string Edits { get; set; }

    public required string Inverse { get; set; }

    /// <summary>
    /// What whoever sent it calls it, so that it is applied once however often it is sent; null where she calls it nothing.
    /// </summary>
    public string? IdempotencyKey { get; set; }

    public required long At { get; set; }

    public required string By { get; set; }
}

/// <summary>A released document's text under its SHA-256, in lower-case hexadecimal. Never changed, never removed.</summary>
public sealed class ContentRow
{
    public required string Hash { get; set; }

    public required string Text { get; set; }
}

/// <summary>A text that a bundle brought.</summary>
public sealed class ImportedVersionRow
{
    public long Id { get; set; }

    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required string Hash { get; set; }

    /// <summary>The release everyone had then.</summary>
    public required long After { get; set; }
}

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

    public List<ReleaseDocumentRow> Documents { get; } = [];
}

public sealed class ReleaseDocumentRow
{
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

public sealed class PersonRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    /// <summary>Role keys, separated by spaces.</summary>
    public required string Roles { get; set; }

    public required string Language { get; set; }

    /// <summary>Whose dates and numbers are written (ISO 3166-1, two capital letters); null for what goes with the language.</summary>
    public string? Region { get; set; }

    /// <summary>
    /// Who vouches for her: the issuer and the subject of OpenID Connect, with a space between; null for people of this service alone.
    /// </summary>
    public string? Provider { get; set; }
}

/// <summary>A session or a personal token, known only by the SHA-256 of its secret.</summary>
public sealed class CredentialRow
{
    public required string Hash { get; set; }

    /// <summary>session or token.</summary>
    public required string Use { get; set; }

    public required string Person { get; set; }

    public required string Name { get; set; }

    public required long Expires { get; set; }

    /// <summary>The permissions a token is good for, separated by spaces; null for all its person may do.</summary>
    public string? Scopes { get; set; }
}

/// <summary>Something a person keeps for herself, such as her views of a list.</summary>
public sealed class PreferenceRow
{
    public required string Person { get; set; }

    public required string Name { get; set; }

    /// <summary>JSON, whatever its client makes of it.</summary>
    public required string Content { get; set; }
}

/// <summary>Something somebody said about something.</summary>
public sealed class CommentRow
{
    public long Id { get; set; }

    /// <summary>What it is about: record/{entity}/{id}, or draft/{kind}/{key}.</summary>
    public required string Subject { get; set; }

    /// <summary>The item of a layout it is about; null for the whole.</summary>
    public string? Item { get; set; }

    public required string By { get; set; }

    public required long At { get; set; }

    public required string Text { get; set; }

    /// <summary>When somebody said that what it asks for is done; null while it is open.</summary>
    public long? ResolvedAt { get; set; }

    public string? ResolvedBy { get; set; }
}

/// <summary>Somebody named in a comment, and whether she has seen it.</summary>
public sealed class MentionRow
{
    public required string Person { get; set; }

    public required long Comment { get; set; }

    public bool Seen { get; set; }
}

/// <summary>A key with which cookies are protected: every process of an installation has the same.</summary>
public sealed class KeyRow
{
    public required string Name { get; set; }

    public required string Xml { get; set; }
}

/// <summary>Whom a release reached that did not go to everyone at once.</summary>
public sealed class RolloutRow
{
    public const string Staged = "staged";
    public const string Promoted = "promoted";
    public const string Cancelled = "cancelled";

    public required long Release { get; set; }

    /// <summary>The roles it went to first, separated by spaces.</summary>
    public required string Roles { get; set; }

    /// <summary>When it goes to everyone by itself; null for when somebody says so.</summary>
    public long? EveryoneAt { get; set; }

    /// <summary>staged, promoted or cancelled.</summary>
    public required string State { get; set; }

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

    /// <summary>The roles it goes to first, separated by spaces; null for everyone.</summary>
    public string? Roles { get; set; }

    public long? EveryoneAt { get; set; }

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

/// <summary>Which process does what only one may do, until when.</summary>
public sealed class LeaseRow
{
    public required string Name { get; set; }

    public required string Holder { get; set; }

    public required long Until { get; set; }
}

/// <summary>Somebody's word that a draft is fit to be published as it is at a revision.</summary>
public sealed class ApprovalRow
{
    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required long Revision { get; set; }

    public required string By { get; set; }

    public required long At { get; set; }
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

/// <summary>Something somebody did. Each row holds the hash of the one before: none can be altered or taken out unseen.</summary>
public sealed class AuditEntryRow
{
    public required long Number { get; set; }

    public required long At { get; set; }

    public required string By { get; set; }

    public required string Action { get; set; }

    /// <summary>What it was done to, such as layout/vessel or release/7.</summary>
    public required string Subject { get; set; }

    public required string Detail { get; set; }

    /// <summary>SHA-256 of the hash before and of all of this row, in lower-case hexadecimal.</summary>
    public required string Hash { get; set; }
}

/// <summary>A password as its hash, and how often it was missed.</summary>
public sealed class PasswordRow
{
    public required string Person { get; set; }

    public required string Hash { get; set; }

    public required long Missed { get; set; }

    /// <summary>Until when nobody gets in by it; 0 when it is not locked.</summary>
    public required long LockedUntil { get; set; }

    /// <summary>Whether somebody else set it, so that it is to be changed first.</summary>
    public bool ToChange { get; set; }
}

/// <summary>A file that records or layouts name, by the hash of its content.</summary>
public sealed class FileRow
{
    public required string Hash { get; set; }

    public required byte[] Body { get; set; }
}
