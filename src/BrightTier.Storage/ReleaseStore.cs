using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>A document's text in a release.</summary>
/// <param name="Head">What reading it came to, where whoever asks read it before.</param>
public sealed record ReleasedText(string Kind, string Key, string Hash, string Text, string? Head = null);

/// <summary>
/// Releases: numbered, immutable, content-addressed. One row says which is current, another which some roles have ahead of it.
/// </summary>
public sealed partial class ReleaseStore(IDbContextFactory<StorageContext> contexts)
{
    private const string Current = "current";
    private const string Staged = "staged";

    /// <summary>The channel on which processes that share a PostgreSQL tell each other what happened.</summary>
    public const string Announcements = "bright_tier";

    public static string HashOf(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    /// <summary>
    /// The current release's number, 0 before the first; and of the one some have ahead, if there is one, with who they are.
    /// </summary>
    public async Task<(long Current, (long Number, string Terms, int Share)? Staged)> Active(CancellationToken cancel)
    {
        var rows = await contexts.Read(
            "SELECT p.\"Name\", p.\"Release\", r.\"Terms\", r.\"Share\" FROM active_release p LEFT JOIN rollout r ON r.\"Release\" = "
                + "p.\"Release\" AND p.\"Name\" = '"
                + Staged
                + "'",
            row =>
                (
                    Name: row.GetString(0),
                    Release: row.GetInt64(1),
                    Terms: row.IsDBNull(2) ? null : row.GetString(2),
                    Share: row.IsDBNull(3) ? 0 : row.GetInt32(3)
                ),
            cancel
        );
        (long, string, int)? ahead = rows.FirstOrDefault(row => row.Name == Staged) is { Terms: { } terms } staged
            ? (staged.Release, terms, staged.Share)
            : null;
        return (rows.FirstOrDefault(row => row.Name == Current).Release, ahead);
    }

    /// <summary>The number the next release gets: one more than any there was, called off or not.</summary>
    public async Task<long> NextNumber(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return (await context.Releases.MaxAsync(release => (long?)release.Number, cancel) ?? 0) + 1;
    }

    public async Task<IReadOnlyList<ReleaseRow>> List(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Releases.AsNoTracking()
            .Include(release => release.Documents)
            .OrderByDescending(release => release.Number)
            .ToListAsync(cancel);
    }

    public async Task<ReleaseRow?> Find(long number, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Releases.AsNoTracking()
            .Include(release => release.Documents)
            .FirstOrDefaultAsync(release => release.Number == number, cancel);
    }

    /// <summary>All documents of a release: what it changed, over what the releases below it did.</summary>
    /// <param name="reader">Whose heads come with them.</param>
    public Task<IReadOnlyList<ReleasedText>> Texts(long number, CancellationToken cancel, string reader = "") =>
        contexts.Read(
            Below
                + """
                SELECT d."Kind", d."Key", d."Hash", c."Text", g."Head"
                """
                + Newest
                + """
                JOIN content c ON c."Hash" = d."Hash"
                LEFT JOIN layout_head g ON g."Hash" = d."Hash" AND g."Reader" = @reader
                WHERE d."Hash" <> @gone
                """,
            row => new ReleasedText(
                row.GetString(0),
                row.GetString(1),
                row.GetString(2),
                row.GetString(3),
                row.IsDBNull(4) ? null : row.GetString(4)
            ),
            cancel,
            ("number", number),
            ("gone", ReleaseDocumentRow.Gone),
            ("reader", reader)
        );

    /// <summary>Keeps what reading some texts came to, in the place of what others read in them.</summary>
    public Task KeepHeads(IReadOnlyCollection<LayoutHeadRow> heads, CancellationToken cancel) => StoreContents([], cancel, heads);

    private static async Task KeepHeads(StorageContext context, IEnumerable<LayoutHeadRow> heads, CancellationToken cancel)
    {
        // In one order, so that of two who keep the same neither waits for the other.
        await context.Run(
            """
            INSERT INTO layout_head ("Hash", "Reader", "Head") VALUES (@p0, @p1, @p2)
            ON CONFLICT ("Hash") DO UPDATE SET "Reader" = excluded."Reader", "Head" = excluded."Head"
            """,
            heads
                .DistinctBy(head => head.Hash)
                .OrderBy(head => head.Hash, StringComparer.Ordinal)
                .Select(head => new object[] { head.Hash, head.Reader, head.Head }),
            cancel
        );
    }

    /// <summary>The hash of each document's text in a release, without the texts.</summary>
    public Task<IReadOnlyList<(string Kind, string Key, string Hash)>> Hashes(long number, CancellationToken cancel) =>
        contexts.Read(
            Below
                + """
                SELECT d."Kind", d."Key", d."Hash"
                """
                + Newest
                + """
                WHERE d."Hash" <> @gone
                """,
            row => (row.GetString(0), row.GetString(1), row.GetString(2)),
            cancel,
            ("number", number),
            ("gone", ReleaseDocumentRow.Gone)
        );

    /// <summary>The hash of a document's text in a release; null where the release has none of it.</summary>
    public async Task<string?> HashIn(long number, string kind, string key, CancellationToken cancel) =>
        (
            await contexts.Read(
                Below
                    + """
                    SELECT "Hash" FROM release_document
                    WHERE "Release" IN (SELECT "Number" FROM below) AND "Kind" = @kind AND "Key" = @key
                    ORDER BY "Release" DESC LIMIT 1
                    """,
                row => row.GetString(0),
                cancel,
                ("number", number),
                ("kind", kind),
                ("key", key)
            )
        ).FirstOrDefault(hash => hash != ReleaseDocumentRow.Gone);

    /// <summary>What the newest of these has of each document, as <c>d</c>.</summary>
    private const string Newest = """

        FROM (
            SELECT "Kind", "Key", MAX("Release") AS "Release" FROM release_document
            WHERE "Release" IN (SELECT "Number" FROM below) GROUP BY "Kind", "Key"
        ) newest
        JOIN release_document d ON d."Release" = newest."Release" AND d."Kind" = newest."Kind" AND d."Key" = newest."Key"

        """;

    /// <summary>A release and those it is made over, down to the first that lists all its documents.</summary>
    private const string Below = """
        WITH RECURSIVE below("Number") AS (
            SELECT CAST(@number AS BIGINT)
            UNION ALL
            SELECT r."Base" FROM "release" r JOIN below ON r."Number" = below."Number" WHERE r."Partial"
        )

        """;

    /// <summary>
    /// The different texts a document had in the releases before one, each with the newest release that had it; the newest twenty, newest
    /// first.
    /// </summary>
    public async Task<IReadOnlyList<(long Release, string Text)>> EarlierTexts(
        string kind,
        string key,
        long before,
        CancellationToken cancel
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var hashes = await context
            .ReleaseDocuments.Where(document => document.Kind == kind && document.Key == key && document.Release < before)
            .Where(document => document.Hash != ReleaseDocumentRow.Gone)
            .GroupBy(document => document.Hash)
            .Select(group => new { Hash = group.Key, Release = group.Max(document => document.Release) })
            .OrderByDescending(each => each.Release)
            .Take(20)
            .Join(
                context.Contents,
                each => each.Hash,
                content => content.Hash,
                (each, content) =>
                    new
                    {
                        each.Release,
                        content.Hash,
                        content.Text,
                    }
            )
            .ToListAsync(cancel);
        return
        [
            .. hashes
                .Where(each => HashOf(each.Text) == each.Hash)
                .OrderByDescending(each => each.Release)
                .Select(each => (each.Release, each.Text)),
        ];
    }

    /// <summary>The text of a draft where its hash is that of a released text; null where it is another.</summary>
    public async Task<string?> SameInDraft(ReleasedText released, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var text = await context
            .Drafts.Where(draft => draft.Kind == released.Kind && draft.Key == released.Key)
            .Select(draft => draft.Content)
            .FirstOrDefaultAsync(cancel);
        return text is not null && HashOf(text) == released.Hash ? text : null;
    }

    /// <summary>
    /// Stores texts under their hashes. Doing it again, or doing it for a release that never comes about, harms nothing; one that was
    /// altered is what its hash says again.
    /// </summary>
    /// <param name="heads">What reading some of them came to.</param>
    public async Task StoreContents(IEnumerable<string> texts, CancellationToken cancel, params IEnumerable<LayoutHeadRow> heads)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        await StoreContents(context, texts, cancel);
        await KeepHeads(context, heads, cancel);
        await transaction.CommitAsync(cancel);
    }

    internal static async Task StoreContents(StorageContext context, IEnumerable<string> texts, CancellationToken cancel)
    {
        // Whoever else stores one at the same moment stores the same.
        // In one order, so that of two who store the same neither waits for the other.
        await context.Run(
            """
            INSERT INTO content ("Hash", "Text") VALUES (@p0, @p1)
            ON CONFLICT ("Hash") DO UPDATE SET "Text" = excluded."Text" WHERE content."Text" <> excluded."Text"
            """,
            texts.Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal).Select(text => new object[] { HashOf(text), text }),
            cancel
        );
    }

    /// <summary>Writes a release, marks the drafts it publishes, and moves the pointer: one transaction.</summary>
    /// <param name="release">The release; its base is the one that must be current still.</param>
    /// <param name="ahead">Whom it reaches first; null for everyone.</param>
    /// <param name="scheduled">The plan it is made of, which it carries out; null where it was asked for.</param>
    /// <param name="told">What the audit log says of it.</param>
    /// <param name="beforeCommit">Called when all is written and nothing committed.</param>
    /// <returns>False when another release came between, or the plan was called off, and nothing was written.</returns>
    public async Task<bool> Publish(
        ReleaseRow release,
        RolloutRow? ahead,
        long? scheduled,
        AuditEntryRow told,
        Action beforeCommit,
        CancellationToken cancel
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        // Whoever publishes takes the pointer's row first, even where it does not move: others wait, and then find that they were
        // overtaken.
        var moved =
            release.Base == 0 && ahead is null
                ? await FirstPointer(context, release.Number, cancel)
                : await context
                    .ActiveReleases.Where(pointer =>
                        pointer.Name == Current
                        && pointer.Release == release.Base
                        && !context.ActiveReleases.Any(other => other.Name == Staged)
                    )
                    .ExecuteUpdateAsync(
                        set => set.SetProperty(pointer => pointer.Release, ahead is null ? release.Number : release.Base),
                        cancel
                    ) == 1;
        if (
            !moved
            || (
                scheduled is { } carried
                && !await ScheduledReleaseStore.Become(context, carried, ScheduledReleaseRow.Published, null, release.Number, cancel)
            )
        )
        {
            return false;
        }

        context.Releases.Add(release);
        await AuditStore.Append(context, [told], cancel);
        if (ahead is not null)
        {
            context.Rollouts.Add(ahead);
            context.ActiveReleases.Add(new ActiveReleaseRow { Name = Staged, Release = release.Number });
        }

        try
        {
            await context.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException)
        {
            // The number, or the first pointer, is taken.
            return false;
        }

        if (ahead is null)
        {
            await MarkPublished(context, release.Number, cancel);
        }

        await Announce(context, release.Number, cancel);
        beforeCommit();
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Drafts that hold what everyone has are published as they are.</summary>
    public async Task MarkPublished(IReadOnlyList<DraftRow> same, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        foreach (var draft in same)
        {
            await Mark(context, draft.Kind, draft.Key, draft.Revision, cancel);
        }
    }

    /// <summary>Drafts are published as far as the release has them; what is not current yet publishes nothing.</summary>
    private static async Task MarkPublished(StorageContext context, long number, CancellationToken cancel)
    {
        var release = await context.Releases.AsNoTracking().Include(row => row.Documents).SingleAsync(row => row.Number == number, cancel);
        await context.Database.ExecuteSqlAsync(
            $"""
            UPDATE draft SET "Published" = d."Revision" FROM release_document d
            WHERE d."Release" = {number} AND d."Revision" IS NOT NULL AND d."Kind" = draft."Kind" AND d."Key" = draft."Key"
            """,
            cancel
        );
        if (release.Documents.Any(document => document.Revision is not null))
        {
            return;
        }

        // Something that was is back: of each draft that revision is published at which it was the same.
        foreach (var (kind, key, hash) in release.Documents.Select(document => (document.Kind, document.Key, document.Hash)))
        {
            var draft = await context.Drafts.AsNoTracking().FirstOrDefaultAsync(draft => draft.Kind == kind && draft.Key == key, cancel);
            if (draft is not null)
            {
                await Mark(
                    context,
                    kind,
                    key,
                    hash == HashOf(draft.Content)
                        ? draft.Revision
                        : await context
                            .ReleaseDocuments.Where(document => document.Kind == kind && document.Key == key && document.Hash == hash)
                            .MaxAsync(document => document.Revision, cancel),
                    cancel
                );
            }
        }
    }

    private static Task<int> Mark(StorageContext context, string kind, string key, long? revision, CancellationToken cancel) =>
        context
            .Drafts.Where(draft => draft.Kind == kind && draft.Key == key)
            .ExecuteUpdateAsync(set => set.SetProperty(draft => draft.Published, revision), cancel);

    /// <summary>Part of the transaction: heard if and only if what it announces came about.</summary>
    private static async Task Announce(StorageContext context, long number, CancellationToken cancel)
    {
        if (context is PostgresStorageContext)
        {
            await context.Database.ExecuteSqlAsync(
                $"SELECT pg_notify({Announcements}, {number.ToString(System.Globalization.CultureInfo.InvariantCulture)})",
                cancel
            );
        }
    }

    private static async Task<bool> FirstPointer(StorageContext context, long number, CancellationToken cancel)
    {
        if (await context.ActiveReleases.AnyAsync(cancel))
        {
            return false;
        }

        context.ActiveReleases.Add(new ActiveReleaseRow { Name = Current, Release = number });
        return true;
    }
}
