using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Publication;

/// <summary>
/// Makes releases, all or nothing: check everything; give added fields their place in the tables; store the texts; then, in one
/// transaction,
/// write the release and move the pointer; last, tell everyone. A process that dies between any two of these leaves the old release or the
/// new one.
/// </summary>
public sealed partial class ReleasePublisher(
    DraftDocuments drafts,
    ReleaseStore store,
    HistoryStore histories,
    ScheduledReleaseStore scheduled,
    PeopleStore people,
    CurrentRelease releases,
    KeptLayouts kept,
    DraftApprovals approving,
    IRecordStore records,
    ReleaseAnnouncer announcer,
    AuditStore audit,
    TimeProvider time,
    IOptions<ServiceOptions> options
) : IDisposable
{
    private readonly SemaphoreSlim turn = new(1, 1);

    public void Dispose() => turn.Dispose();

    /// <returns>The release; null where nothing differs from what everyone has.</returns>
    public async Task<ReleaseRow?> Publish(PublishRequest request, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            var chosen = await Chosen(request.Documents, by, cancel);
            var terms = ReleaseTerms.Of(
                request.Note,
                by,
                request.Rollout,
                request.OverrideReason,
                await Known(request.Rollout, cancel),
                time.GetUtcNow(),
                releases.Default.Definitions.Application
            );
            RequirePlace(terms);
            if (request.Base is { } reviewed)
            {
                await RequireReviewed(reviewed, chosen, cancel);
            }

            var rows = chosen.Where(IsAnother).ToArray();
            await store.MarkPublished([.. chosen.Except(rows)], cancel);
            if (rows.Length == 0)
            {
                return null;
            }

            return await Release(Drafted(rows), rows.ToDictionary(row => (row.Kind, row.Key), row => row.Revision), terms, cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>
    /// Makes a new release of what an old one held, or of what is current with some documents as the old one had them. Drafts are left
    /// alone.
    /// </summary>
    /// <returns>The release; null where nothing differs from what everyone has.</returns>
    public async Task<ReleaseRow?> Restore(long number, RestoreRequest request, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            if (await store.Find(number, cancel) is null)
            {
                throw Problems.NotFound($"release", number.ToString(CultureInfo.InvariantCulture));
            }

            var texts = (await store.Texts(number, cancel)).ToDictionary(text => (text.Kind, text.Key));
            var none = new Dictionary<(string, string), long>();
            if (request.Documents is null)
            {
                Read(texts.Values, by);
                var others = texts.Values.Where(IsAnother).ToArray();
                if (others.Length == 0 && texts.Count == releases.Default.Hashes.Count)
                {
                    return null;
                }

                return await Release(
                    await releases.Read(await store.NextNumber(cancel), texts.Values, cancel),
                    others,
                    none,
                    new ReleaseTerms(request.Note, by, Restores: number),
                    cancel
                );
            }

            var some = new Dictionary<(string Kind, string Key), ReleasedText>();
            for (var i = 0; i < request.Documents.Count; i++)
            {
                var (kind, key) = request.Documents[i];
                some[(kind, key)] = texts.GetValueOrDefault((kind, key))
                    ?? throw Problems.Invalid(
                        $"Release {number} has no {kind} '{key}'.",
                        Problems.Part($"/documents/{i.ToString(CultureInfo.InvariantCulture)}", $"is not in that release")
                    );
            }

            if (some.Count == 0)
            {
                throw Problems.Invalid(
                    $"Name at least one document, or leave documents out to go back to all of the release.",
                    Problems.Part("/documents", $"is empty")
                );
            }

            var read = Read(some.Values.Where(IsAnother), by);
            if (read.Count == 0)
            {
                return null;
            }

            var said =
                request.Note.Length > 0
                    ? request.Note
                    : $"{string.Join(", ", some.Keys.Select(name => $"{name.Kind} {name.Key}"))} as in release {number}";
            return await Release(read, none, new ReleaseTerms(said, by), cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>The drafts somebody names, each at the revision she saw, hers to publish, and approved where that is asked for.</summary>
    /// <param name="isApproved">Whether they must be approved by now, where that is asked for.</param>
    private async Task<List<DraftRow>> Chosen(
        IReadOnlyList<DraftReference> documents,
        Author by,
        CancellationToken cancel,
        bool isApproved = true
    )
    {
        if (documents.Count == 0)
        {
            throw Problems.Invalid($"Name at least one document to publish.", Problems.Part("/documents", $"is empty"));
        }

        var rows = new List<DraftRow>();
        var there = await drafts.Rows([.. documents.Select(each => (each.Kind, each.Key)).Distinct()], cancel);
        for (var i = 0; i < documents.Count; i++)
        {
            var reference = documents[i];
            var pointer = $"/documents/{i.ToString(CultureInfo.InvariantCulture)}";
            var kind = DocumentFile.KindNamed(reference.Kind)
                ?? throw Problems.Invalid(
                    $"There are no documents of kind '{reference.Kind}'; there are: {string.Join(", ", DocumentFile.KindNames)}.",
                    Problems.Part(pointer + "/kind", $"is no kind")
                );
            var row = there.GetValueOrDefault((reference.Kind, reference.Key)) ?? await drafts.Row(kind, reference.Key, cancel);
            if (row.Revision != reference.Revision)
            {
                throw new RefusedException(
                    409,
                    "draft-moved-on",
                    $"The {reference.Kind} '{reference.Key}' is at revision {row.Revision} by now, changed by "
                        + $"{row.ChangedBy}; look at it before publishing it.",
                    [Problems.Part(pointer + "/revision", $"is {reference.Revision}, the draft is at {row.Revision}")]
                );
            }

            by.Require(Permissions.Publish, releases.Default.Definitions.Application, drafts.Parsed(row));
            rows.Add(row);
        }

        // Whether approval is asked for is what everyone has now: no release can exempt itself.
        if (isApproved && releases.Default.Definitions.Application.Approval)
        {
            await approving.Require(rows, cancel);
        }

        return rows;
    }

    /// <summary>Texts of releases, made or scheduled, all theirs to publish, with what they say.</summary>
    private IReadOnlyList<(ReleasedText Text, Document Document)> Read(IEnumerable<ReleasedText> texts, Author by)
    {
        var read = new List<(ReleasedText, Document)>();
        foreach (var text in texts)
        {
            var document = kept.Read(text.Text, text.Kind, text.Key).Document
                ?? throw new RefusedException(
                    409,
                    "document-damaged",
                    $"The {text.Kind} '{text.Key}' of that release cannot be read and is not restored. Name the documents "
                        + $"to restore without it.",
                    [Problems.Part("/documents", $"{text.Kind}/{text.Key} cannot be read")]
                );
            by.Require(Permissions.Publish, releases.Default.Definitions.Application, document);
            read.Add((text, document));
        }

        return read;
    }

    private List<(ReleasedText Text, Document Document)> Drafted(IEnumerable<DraftRow> rows) =>
        [.. rows.Select(row => (new ReleasedText(row.Kind, row.Key, ReleaseStore.HashOf(row.Content), row.Content), drafts.Parsed(row)))];

    private ReleaseRow Row(long number, ReleaseTerms terms, bool overrides) =>
        new()
        {
            Number = number,
            At = time.GetUtcNow().ToUnixTimeMilliseconds(),
            By = terms.By,
            Note = terms.Note,
            Restores = terms.Restores,
            Base = releases.Default.Number,
            OverrideReason = overrides ? terms.OverrideReason : null,
        };

    /// <summary>Releases some documents over what everyone has.</summary>
    private async Task<ReleaseRow> Release(
        IReadOnlyList<(ReleasedText Text, Document Document)> changed,
        Dictionary<(string Kind, string Key), long> revisions,
        ReleaseTerms terms,
        CancellationToken cancel
    ) =>
        await Release(
            releases.Default.With(await store.NextNumber(cancel), changed),
            changed.Select(each => each.Text),
            revisions,
            terms,
            cancel
        );

    /// <param name="changed">The texts of it that differ from what everyone has.</param>
    private async Task<ReleaseRow> Release(
        Snapshot next,
        IEnumerable<ReleasedText> changed,
        Dictionary<(string Kind, string Key), long> revisions,
        ReleaseTerms terms,
        CancellationToken cancel
    )
    {
        RequirePlace(terms);
        RequireRights(next, revisions, terms);
        var texts = changed.Concat(releases.Default.Hashes.Keys.Where(name => !next.Hashes.ContainsKey(name)).Select(Gone)).ToArray();
        var standing = Check(next, texts.Select(text => (text.Kind, text.Key)), terms.OverrideReason is not null);
        Step("checked");
        await records.Define(next.Definitions, next.Catalogue.SortedFields, cancel);
        Step("tables-defined");
        var release = Row(next.Number, terms, standing.Count > 0);
        release.Partial = release.Base > 0;
        await store.StoreContents(
            texts.Where(text => terms.Restores is null || text.Text.Length == 0).Select(text => text.Text),
            cancel,
            CurrentRelease.Heads(next, texts.Where(text => text.Text.Length > 0))
        );
        Step("contents-stored");
        release.Documents.AddRange(
            texts.Select(text => new ReleaseDocumentRow
            {
                Release = next.Number,
                Kind = text.Kind,
                Key = text.Key,
                Hash = text.Hash,
                Revision = revisions.TryGetValue((text.Kind, text.Key), out var revision) ? revision : null,
            })
        );
        var rollout = terms.Rollout is { } first ? Row(release, first) : null;
        var entry = audit.Entry(
            terms.By,
            terms.Restores is null ? "release.published" : "release.restored",
            $"release/{release.Number}",
            new
            {
                note = terms.Note,
                documents = revisions.Keys.Select(name => $"{name.Kind}/{name.Key}"),
                rollout = terms.Rollout,
                restores = terms.Restores,
                overrideReason = release.OverrideReason,
                findings = standing.Count == 0 ? null : standing.Select(part => part.Message),
            }
        );
        if (!await store.Publish(release, rollout, terms.Scheduled, entry, () => Step("before-commit"), cancel))
        {
            announcer.Announce(await releases.Load(cancel));
            throw new RefusedException(
                409,
                "release-between",
                $"Another release was made at the same moment, {releases.Default.Number} is current; look at it and publish again."
            );
        }

        Step("committed");
        var before = releases.Active;
        var now = rollout is null
            ? new ActiveReleases(next, null)
            : before with
            {
                Staged = new StagedRelease(next, new Audience(next.Number, rollout.Terms, rollout.Share)),
            };
        releases.Become(now);
        Step("current");
        announcer.Announce((before, now));
        SpareMemory.After(release.Documents.Count);
        return release;
    }

    /// <summary>
    /// What changes who may do what is published by an administrator, and by way of drafts where a second person approves those: going back
    /// to an old
    /// release is a change like any other.
    /// </summary>
    private void RequireRights(Snapshot next, Dictionary<(string Kind, string Key), long> revisions, ReleaseTerms terms)
    {
        var now = releases.Default.Definitions;
        terms.Author.RequireRights(now, next.Definitions);
        if (now.Application.Approval && revisions.Count == 0 && RightsChange.Between(now, next.Definitions) is { Count: > 0 } changes)
        {
            throw new RefusedException(
                422,
                "approval-missing",
                $"Restoring would change permissions, which needs a second person's approval: {changes[0]} Put it into the "
                    + $"draft, have that approved and publish it.",
                [.. changes.Select(change => Problems.Part("", change, "rights-change"))]
            );
        }
    }

    /// <summary>No layout with an error is published, nor one that what is published would break; nor does a field go missing.</summary>
    /// <param name="changed">The documents of it that are others than everyone has.</param>
    /// <param name="overridden">Whether it goes out although layouts have errors. What would lose data never does.</param>
    /// <returns>The errors that stand against it.</returns>
    private List<ProblemPart> Check(Snapshot next, IEnumerable<(string Kind, string Key)> changed, bool overridden)
    {
        var problems = ReleaseCheck.Between(
            releases.Default.Catalogue,
            next.Catalogue,
            changed.Where(name => name.Kind == DocumentKind.Layout.Name()).Select(name => name.Key)
        );
        List<ProblemPart> parts = [.. problems.Select(problem => Problems.Part(problem.At, problem.Message, problem.Code))];
        return parts.Count == 0 || (overridden && !problems.Any(problem => problem.LosesData))
            ? parts
            : throw new RefusedException(
                422,
                "findings",
                parts.Count == 1
                    ? problems[0].Message
                    : (Message)$"{parts.Count} errors stand against publishing; nothing was published. The first: {parts[0].Message}",
                parts
            );
    }

    private static ReleasedText Gone((string Kind, string Key) name) => new(name.Kind, name.Key, ReleaseDocumentRow.Gone, "");

    private void Step(string name)
    {
        if (options.Value.KillAt == name)
        {
            System.Diagnostics.Process.GetCurrentProcess().Kill();
            Thread.Sleep(Timeout.Infinite);
        }
    }
}
