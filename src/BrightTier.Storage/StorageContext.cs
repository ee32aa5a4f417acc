using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Documents, drafts, releases and people. Times are Unix milliseconds, which order alike in every database.</summary>
public class StorageContext(DbContextOptions options) : DbContext(options)
{
    public DbSet<DraftRow> Drafts => Set<DraftRow>();

    public DbSet<ChangeRow> Changes => Set<ChangeRow>();

    public DbSet<ContentRow> Contents => Set<ContentRow>();

    public DbSet<ReleaseRow> Releases => Set<ReleaseRow>();

    public DbSet<ReleaseDocumentRow> ReleaseDocuments => Set<ReleaseDocumentRow>();

    public DbSet<PointerRow> Pointers => Set<PointerRow>();

    public DbSet<PersonRow> People => Set<PersonRow>();

    public DbSet<CredentialRow> Credentials => Set<CredentialRow>();

    public DbSet<PreferenceRow> Preferences => Set<PreferenceRow>();

    public DbSet<CommentRow> Comments => Set<CommentRow>();

    public DbSet<MentionRow> Mentions => Set<MentionRow>();

    public DbSet<KeyRow> Keys => Set<KeyRow>();

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
            row.HasKey(change => new { change.Kind, change.Key, change.Revision });
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
            row.HasKey(document => new { document.Release, document.Kind, document.Key });
            row.HasOne<ContentRow>().WithMany().HasForeignKey(document => document.Hash);
        });
        modelBuilder.Entity<PointerRow>(row =>
        {
            row.ToTable("pointer");
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

    public required long At { get; set; }

    public required string By { get; set; }
}

/// <summary>A released document's text under its SHA-256, in lower-case hexadecimal. Never changed, never removed.</summary>
public sealed class ContentRow
{
    public required string Hash { get; set; }

    public required string Text { get; set; }
}

public sealed class ReleaseRow
{
    public required long Number { get; set; }

    public required long At { get; set; }

    public required string By { get; set; }

    public required string Note { get; set; }

    public long? Restores { get; set; }

    public List<ReleaseDocumentRow> Documents { get; } = [];
}

public sealed class ReleaseDocumentRow
{
    public long Release { get; set; }

    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required string Hash { get; set; }
}

/// <summary>The one thing about releases that changes: which is current.</summary>
public sealed class PointerRow
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

    /// <summary>What it is about: record/{entity}/{id}.</summary>
    public required string Subject { get; set; }

    public required string By { get; set; }

    public required long At { get; set; }

    public required string Text { get; set; }
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
