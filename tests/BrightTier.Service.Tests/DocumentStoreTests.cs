using BrightTier.Storage;
using BrightTier.Testing;
using Microsoft.EntityFrameworkCore;

namespace BrightTier.Service.Tests;

/// <summary>What every kind of database must do with documents, releases and people; each is one subclass.</summary>
public abstract partial class DocumentStoreTests : IAsyncLifetime
{
    private sealed class Clock : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = new(2026, 11, 27, 9, 0, 0, TimeSpan.Zero);

        public override DateTimeOffset GetUtcNow() => Now;
    }

    private readonly Clock clock = new();
    private IDbContextFactory<StorageContext> contexts = null!;
    private DraftStore drafts = null!;
    private ReleaseStore releases = null!;
    private PeopleStore people = null!;
    private AuditStore audit = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    protected abstract Task<IDbContextFactory<StorageContext>> Open();

    public async ValueTask InitializeAsync()
    {
        contexts = await Open();
        await using var context = await contexts.CreateDbContextAsync(Cancel);
        await context.MigrateIfNeeded(Cancel);
        (drafts, releases, people, audit) = (
            new DraftStore(contexts),
            new ReleaseStore(contexts),
            new PeopleStore(contexts, clock),
            new AuditStore(contexts, clock)
        );
    }

    public ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task Migrating_again_changes_nothing_and_the_model_is_what_the_migrations_make()
    {
        await Draft("vessel", 1, "one");
        await using var context = await contexts.CreateDbContextAsync(Cancel);
        await context.MigrateIfNeeded(Cancel);
        (await drafts.Find("layout", "vessel", Cancel))!.Content.ShouldBe("one");
        (await context.Database.GetPendingMigrationsAsync(Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Of_very_many_changes_the_newest_are_told_in_their_order()
    {
        await Draft("vessel", 1, "change 1");
        (
            await drafts.Save([.. Enumerable.Range(2, 1_002).Select(revision => Next("vessel", revision, $"change {revision}"))], Cancel)
        ).ShouldBeTrue();
        (await drafts.ChangesAfter("layout", "vessel", 0, Cancel))
            .Select(change => change.Revision)
            .ShouldBe(Enumerable.Range(4, 1_000).Select(revision => (long)revision));
        (await drafts.ChangesAfter("layout", "vessel", 1_001, Cancel))
            .Select(change => change.Label)
            .ShouldBe(["change 1002", "change 1003"]);
        (await drafts.ChangeSent("layout", "vessel", "unheard", 0, Cancel)).ShouldBeNull();
    }

    [Fact]
    public async Task Drafts_go_on_revision_by_revision_several_all_or_none_and_who_comes_too_late_is_told()
    {
        (await Draft("vessel", 1, "one")).ShouldBeTrue();
        (await Draft("vessel", 1, "another first")).ShouldBeFalse();
        (await Draft("vessel", 2, "two ✓ ü")).ShouldBeTrue();
        (await Draft("vessel", 2, "too late")).ShouldBeFalse();
        (await drafts.Save([Next("berth", 1, "new"), Next("vessel", 2, "too late")], Cancel)).ShouldBeFalse();

        (await drafts.Find("layout", "vessel", Cancel))!.ShouldSatisfyAllConditions(
            row => row.Content.ShouldBe("two ✓ ü"),
            row => row.Revision.ShouldBe(2)
        );
        (await drafts.Find("layout", "berth", Cancel)).ShouldBeNull("none, if not all");
        (await drafts.ChangesAfter("layout", "vessel", 1, Cancel)).Select(change => change.Label).ShouldBe(["two ✓ ü"]);
        (await audit.Search(new AuditQuery(), Cancel)).Count.ShouldBe(2, "what did not come about is not in the log");
    }

    [Fact]
    public async Task Of_two_releases_made_from_one_base_the_second_is_refused_and_drafts_are_marked_with_what_is_out()
    {
        await Draft("vessel", 1, "one");
        (await Publish(1, 0, "one", 1)).ShouldBeTrue();
        await Draft("vessel", 2, "two");
        (await Publish(2, 1, "two", 2)).ShouldBeTrue();
        (await Publish(3, 1, "three", null)).ShouldBeFalse();

        (await releases.Widen(2, 60, Told("release.widened"), Cancel)).ShouldBeFalse();
        (await releases.Active(Cancel)).ShouldBe((2, null));
        (await releases.NextNumber(Cancel)).ShouldBe(3);
        (await drafts.Find("layout", "vessel", Cancel))!.Published.ShouldBe(2);
        (await Publish(3, 2, "one", null)).ShouldBeTrue();
        (await drafts.Find("layout", "vessel", Cancel))!.Published.ShouldBe(1, "what was is out again");
        await Draft("vessel", 3, "one");
        await Publish(4, 3, "two", null);
        await Publish(5, 4, "one", null);
        (await drafts.Find("layout", "vessel", Cancel))!.Published.ShouldBe(3, "it is what the draft has by now");
        (await releases.Texts(1, Cancel)).Single().Text.ShouldBe("one");
        (await audit.Prove(Cancel)).Broken.ShouldBeNull();
    }

    [Fact]
    public async Task A_release_to_some_moves_another_pointer_and_ends_one_way_or_the_other_once()
    {
        await Draft("vessel", 1, "one");
        await Publish(1, 0, "one", 1);
        await Draft("vessel", 2, "two");
        (await Publish(2, 1, "two", 2, "some")).ShouldBeTrue();
        var (current, ahead) = await releases.Active(Cancel);
        (current, ahead).ShouldBe((1, (2L, "some", 5)));
        (await releases.Widen(2, 5, Told("release.widened"), Cancel)).ShouldBeFalse("as many have it");
        (await releases.Widen(2, 50, Told("release.widened"), Cancel)).ShouldBeTrue();
        (await releases.Active(Cancel)).Staged!.Value.Share.ShouldBe(50);
        (await Publish(3, 1, "three", null)).ShouldBeFalse("while one is ahead there is no other");
        (await drafts.Find("layout", "vessel", Cancel))!.Published.ShouldBe(1);

        (await releases.End(2, RolloutRow.Promoted, null, Told("release.promoted"), () => { }, Cancel)).ShouldBeTrue();
        (await releases.End(2, RolloutRow.Cancelled, null, Told("release.cancelled"), () => { }, Cancel)).ShouldBeFalse();
        (await releases.Active(Cancel)).ShouldBe((2, null));
        (await drafts.Find("layout", "vessel", Cancel))!.Published.ShouldBe(2);
        (await audit.Search(new AuditQuery(Action: "release.cancelled"), Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_lease_is_held_by_one_renewed_by_it_and_taken_by_another_once_it_has_run_out()
    {
        var leases = new LeaseStore(contexts, clock);
        var length = TimeSpan.FromSeconds(20);
        (
            await leases.Hold("timed", "one", length, Cancel),
            await leases.Hold("timed", "two", length, Cancel),
            await leases.Hold("timed", "one", length, Cancel)
        ).ShouldBe((true, false, true));
        clock.Now += TimeSpan.FromSeconds(21);
        (await leases.Hold("timed", "two", length, Cancel), await leases.Hold("timed", "one", length, Cancel)).ShouldBe((true, false));

        var many = await Task.WhenAll(Enumerable.Range(0, 8).Select(i => leases.Hold("contended", $"p{i}", length, Cancel)));
        many.Count(held => held).ShouldBe(1);
    }

    [Fact]
    public async Task Entries_that_many_write_at_once_stand_one_after_another_and_hold_together()
    {
        await Task.WhenAll(
            Enumerable.Range(0, 20).Select(i => audit.Add(audit.Entry($"p{i % 3}", "layout.tried", $"layout/{i}", new { i }), Cancel))
        );

        (await audit.Search(new AuditQuery(Limit: 50), Cancel))
            .Select(row => row.Number)
            .ShouldBe(Enumerable.Range(1, 20).Reverse().Select(i => (long)i));
        (await audit.Search(new AuditQuery(By: "p1", Text: "\"i\":4"), Cancel)).Single().Subject.ShouldBe("layout/4");
        (await audit.Prove(Cancel)).ShouldSatisfyAllConditions(proof => proof.Rows.ShouldBe(20), proof => proof.Broken.ShouldBeNull());
    }

    [Fact]
    public async Task Secrets_are_known_by_their_hash_until_they_expire_and_go_with_what_began_with_them()
    {
        await people.Save(
            new PersonRow
            {
                Id = "ada",
                Name = "Ada Wader",
                Roles = "harbour-office",
                Language = "en",
            },
            Cancel
        );
        var (secret, credential) = await people.Issue(PeopleStore.Token, "ada", "test", TimeSpan.FromDays(1), Cancel, "read-records");
        credential.Hash.ShouldNotContain(secret);
        (await people.Find(PeopleStore.Token, PeopleStore.HashOf(secret), Cancel))!.Value.Scopes.ShouldBe("read-records");
        (await people.Find(PeopleStore.Session, PeopleStore.HashOf(secret), Cancel)).ShouldBeNull("a token is no session");
        clock.Now += TimeSpan.FromDays(2);
        (await people.Find(PeopleStore.Token, PeopleStore.HashOf(secret), Cancel)).ShouldBeNull();

        var (_, lasting) = await people.Issue(PeopleStore.Token, "ada", "lasting", TimeSpan.FromDays(3), Cancel);
        var (_, begun) = await people.Issue(PeopleStore.Session, "ada", PeopleStore.NameOf(lasting.Hash), TimeSpan.FromDays(3), Cancel);
        (await people.RemoveExpired(Cancel)).ShouldBe(1);
        (await people.Revoke("ada", lasting.Hash, Cancel)).ShouldBe([lasting.Hash, begun.Hash], ignoreOrder: true);
        (await people.Revoke("ada", lasting.Hash, Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Files_comments_plans_and_presence_come_back_as_they_went_in()
    {
        var files = new FileStore(contexts);
        var bytes = Enumerable.Range(0, 70_000).Select(i => (byte)(i * 7)).ToArray();
        var hash = await files.Save(bytes, Cancel);
        (await files.Save(bytes, Cancel)).ShouldBe(hash);
        (await files.Find(hash, Cancel)).ShouldBe(bytes);

        var comments = new CommentStore(contexts, clock);
        var said = await comments.Add("draft/layout/vessel", "rig", "ada", "Why, @bram?", ["bram"], Cancel);
        (await comments.Unseen("bram", Cancel)).Single().Item.ShouldBe("rig");
        (await comments.Open("draft/", Cancel))["draft/layout/vessel"].ShouldBe(1);
        await comments.Resolve(said.Id, "bram", Cancel);
        (await comments.Open("draft/", Cancel)).ShouldBeEmpty();

        await releases.StoreContents(["one"], Cancel);
        var plans = new ScheduledReleaseStore(contexts);
        var plan = new ScheduledReleaseRow
        {
            By = "ada",
            Note = "",
            Made = 1,
            Due = 100,
            State = ScheduledReleaseRow.Scheduled,
        };
        plan.Documents.Add(
            new ScheduledDocumentRow
            {
                Kind = "layout",
                Key = "vessel",
                Revision = 1,
                Hash = ReleaseStore.HashOf("one"),
            }
        );
        await plans.Add(plan, Cancel);
        ((await plans.Due(99, Cancel)).Count, (await plans.Due(100, Cancel)).Count).ShouldBe((0, 1));
        (
            await plans.Become(plan.Id, ScheduledReleaseRow.Cancelled, null, null, Cancel),
            await plans.Become(plan.Id, ScheduledReleaseRow.Published, null, 2, Cancel)
        ).ShouldBe((true, false));

        var presence = new PresenceStore(contexts, clock);
        await presence.Report("one", new Dictionary<long, int> { [0] = 5, [2] = 3 }, Cancel);
        await presence.Report("one", new Dictionary<long, int> { [0] = 6, [2] = 4 }, Cancel);
        (await presence.Others("two", Cancel)).Select(row => (row.Release, row.Clients)).ShouldBe([(0, 6), (2, 4)], ignoreOrder: true);
        clock.Now += TimeSpan.FromMinutes(1);
        (await presence.Others("two", Cancel)).ShouldBeEmpty("what was said long ago is not believed");
    }

    private Task<bool> Draft(string key, long revision, string content) => drafts.Save([Next(key, revision, content)], Cancel);

    private (DraftRow, ChangeRow, AuditEntryRow) Next(string key, long revision, string content) =>
        (
            new DraftRow
            {
                Kind = "layout",
                Key = key,
                Revision = revision,
                Content = content,
                ChangedAt = 1,
                ChangedBy = "ada",
            },
            new ChangeRow
            {
                Kind = "layout",
                Key = key,
                Revision = revision,
                Label = content,
                Edits = "[]",
                Inverse = "[]",
                At = 1,
                By = "ada",
            },
            Told("draft.changed")
        );

    private AuditEntryRow Told(string action) => audit.Entry("ada", action, "layout/vessel", null);

    private async Task<bool> Publish(long number, long from, string text, long? revision, string? roles = null)
    {
        await releases.StoreContents([text], Cancel);
        var release = new ReleaseRow
        {
            Number = number,
            At = 1,
            By = "ada",
            Note = "",
            Base = from,
        };
        release.Documents.Add(
            new ReleaseDocumentRow
            {
                Release = number,
                Kind = "layout",
                Key = "vessel",
                Hash = ReleaseStore.HashOf(text),
                Revision = revision,
            }
        );
        return await Publish(release, roles);
    }

    private Task<bool> Publish(ReleaseRow release, string? terms) =>
        releases.Publish(
            release,
            terms is null
                ? null
                : new RolloutRow
                {
                    Release = release.Number,
                    Terms = terms,
                    Share = 5,
                    State = RolloutRow.Staged,
                    ChangedAt = 1,
                    ChangedBy = "ada",
                },
            null,
            Told("release.published"),
            () => { },
            Cancel
        );
}

public sealed class SqliteDocumentStoreTests : DocumentStoreTests
{
    private sealed class Contexts(DbContextOptions<StorageContext> options) : IDbContextFactory<StorageContext>
    {
        public StorageContext CreateDbContext() => new(options);
    }

    protected override Task<IDbContextFactory<StorageContext>> Open() =>
        Task.FromResult<IDbContextFactory<StorageContext>>(
            new Contexts(
                (DbContextOptions<StorageContext>)
                    new DbContextOptionsBuilder<StorageContext>()
                        .UseBrightTierSqlite(Path.Combine(RunningService.NewFolder(), "brighttier.db"))
                        .Options
            )
        );
}

public sealed class PostgresDocumentStoreTests(Postgres postgres) : DocumentStoreTests
{
    private sealed class Contexts(DbContextOptions<PostgresStorageContext> options) : IDbContextFactory<StorageContext>
    {
        public StorageContext CreateDbContext() => new PostgresStorageContext(options);
    }

    protected override async Task<IDbContextFactory<StorageContext>> Open() =>
        new Contexts(
            (DbContextOptions<PostgresStorageContext>)
                new DbContextOptionsBuilder<PostgresStorageContext>()
                    .UseBrightTierPostgres(await (await postgres.Server).NewDatabase())
                    .Options
        );
}
