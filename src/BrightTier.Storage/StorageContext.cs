using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>Documents, drafts, releases and people. Times are Unix milliseconds, which order alike in every database.</summary>
public class StorageContext(DbContextOptions options) : DbContext(options)
{
    public DbSet<DraftRow> Drafts => Set<DraftRow>();

    public DbSet<ChangeRow> Changes => Set<ChangeRow>();

    public DbSet<ContentRow> Contents => Set<ContentRow>();

    public DbSet<LayoutHeadRow> LayoutHeads => Set<LayoutHeadRow>();

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

    public DbSet<ConnectionRow> Connections => Set<ConnectionRow>();

    public DbSet<RolloutRow> Rollouts => Set<RolloutRow>();

    public DbSet<SaveCountRow> SaveCounts => Set<SaveCountRow>();

    public DbSet<ScheduledReleaseRow> ScheduledReleases => Set<ScheduledReleaseRow>();

    public DbSet<LeaseRow> Leases => Set<LeaseRow>();

    public DbSet<ApprovalRow> Approvals => Set<ApprovalRow>();

    public DbSet<PresenceRow> Presences => Set<PresenceRow>();

    public DbSet<AuditEntryRow> AuditEntries => Set<AuditEntryRow>();

    public DbSet<PasswordRow> Passwords => Set<PasswordRow>();

    public DbSet<FileRow> Files => Set<FileRow>();

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        MapDocuments(modelBuilder);
        MapReleases(modelBuilder);
        MapPeople(modelBuilder);
        MapService(modelBuilder);
    }

    private static void MapDocuments(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<DraftRow>(row =>
        {
            row.ToTable("draft");
            row.HasKey(draft => new { draft.Kind, draft.Key });
            // Whether any draft is another one is asked at each request: without going through what they hold.
            row.HasIndex(draft => new
            {
                draft.Kind,
                draft.Key,
                draft.Revision,
            });
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
        modelBuilder.Entity<LayoutHeadRow>(row =>
        {
            row.ToTable("layout_head");
            row.HasKey(head => head.Hash);
        });
        modelBuilder.Entity<ImportedVersionRow>(row =>
        {
            row.ToTable("imported_version");
            row.HasKey(arrival => arrival.Id);
            row.HasIndex(arrival => new { arrival.Kind, arrival.Key });
            row.HasOne<ContentRow>().WithMany().HasForeignKey(arrival => arrival.Hash);
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
    }

    private static void MapReleases(ModelBuilder modelBuilder)
    {
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
        modelBuilder.Entity<RolloutRow>(row =>
        {
            row.ToTable("rollout");
            row.HasKey(rollout => rollout.Release);
            row.Property(rollout => rollout.Release).ValueGeneratedNever();
            row.HasOne<ReleaseRow>().WithOne().HasForeignKey<RolloutRow>(rollout => rollout.Release);
        });
        modelBuilder.Entity<SaveCountRow>(row =>
        {
            row.ToTable("save_count");
            row.HasKey(count => new { count.Release, count.Entity });
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
        modelBuilder.Entity<PresenceRow>(row =>
        {
            row.ToTable("presence");
            row.HasKey(presence => new { presence.Process, presence.Release });
        });
        modelBuilder.Entity<LeaseRow>(row =>
        {
            row.ToTable("lease");
            row.HasKey(lease => lease.Name);
        });
    }

    private static void MapPeople(ModelBuilder modelBuilder)
    {
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
        modelBuilder.Entity<PasswordRow>(row =>
        {
            row.ToTable("password");
            row.HasKey(password => password.Person);
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
    }

    private static void MapService(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<KeyRow>(row =>
        {
            row.ToTable("protection_key");
            row.HasKey(key => key.Name);
        });
        modelBuilder.Entity<ConnectionRow>(row =>
        {
            row.ToTable("connection");
            row.HasKey(key => key.Name);
        });
        modelBuilder.Entity<AuditEntryRow>(row =>
        {
            row.ToTable("audit_entry");
            row.HasKey(entry => entry.Number);
            row.Property(entry => entry.Number).ValueGeneratedNever();
            row.HasIndex(entry => entry.At);
        });
        modelBuilder.Entity<FileRow>(row =>
        {
            row.ToTable("stored_file");
            row.HasKey(file => file.Hash);
        });
    }
}
