using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Publication;

// Releases at a set time.
public sealed partial class ReleasePublisher
{
    /// <summary>Schedules a release of what the drafts hold now, checked now and once more when its time has come.</summary>
    public async Task<ScheduledReleaseRow> Schedule(ScheduleRequest request, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            var now = time.GetUtcNow();
            if (request.At <= now || request.At > now.AddYears(1))
            {
                throw Problems.Invalid(
                    $"A release is scheduled for a time after now, within a year.",
                    Problems.Part("/at", $"must be after now and within a year")
                );
            }

            var rows = await Chosen(request.Documents, by, cancel);
            var terms = ReleaseTerms.Of(
                request.Note,
                by,
                request.Rollout,
                request.OverrideReason,
                await Known(request.Rollout, cancel),
                request.At,
                releases.Default.Definitions.Application
            );
            var next = releases.Default.With(0, Drafted(rows));
            by.RequireRights(releases.Default.Definitions, next.Definitions);
            Check(next, rows.Select(row => (row.Kind, row.Key)), terms.OverrideReason is not null);
            await store.StoreContents(rows.Select(row => row.Content), cancel);
            var release = new ScheduledReleaseRow
            {
                By = by.Id,
                Note = request.Note,
                Made = now.ToUnixTimeMilliseconds(),
                Due = request.At.ToUnixTimeMilliseconds(),
                Terms = terms.Rollout is { } rollout ? Audience.Write(rollout) : null,
                OverrideReason = terms.OverrideReason,
                State = ScheduledReleaseRow.Scheduled,
            };
            release.Documents.AddRange(
                rows.Select(row => new ScheduledDocumentRow
                {
                    Kind = row.Kind,
                    Key = row.Key,
                    Revision = row.Revision,
                    Hash = ReleaseStore.HashOf(row.Content),
                    Before = releases.Default.Hashes.GetValueOrDefault((row.Kind, row.Key)),
                })
            );
            await scheduled.Add(release, cancel);
            return release;
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Sees that somebody may publish all that a scheduled release would.</summary>
    /// <exception cref="RefusedException">403.</exception>
    public async Task RequirePublisher(ScheduledReleaseRow release, Author by, CancellationToken cancel)
    {
        var texts = await scheduled.Texts(release, cancel);
        Read(release.Documents.Select(document => new ReleasedText(document.Kind, document.Key, document.Hash, texts[document.Hash])), by);
    }

    /// <summary>Makes a scheduled release. What was published otherwise since it was scheduled is not undone by it.</summary>
    public async Task<ReleaseRow> Execute(ScheduledReleaseRow release, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            // It is made by the rights its author has when its time has come.
            var by = await people.Find(release.By, cancel) is { } author
                ? new Author(author.Id, author.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries))
                : throw new RefusedException(403, "person-gone", $"'{release.By}', who scheduled this, does not exist any more.");
            var now = releases.Default.Hashes;
            if (
                release.Documents.FirstOrDefault(document =>
                    now.GetValueOrDefault((document.Kind, document.Key)) is var published
                    && published != document.Before
                    && published != document.Hash
                ) is
                { } other
            )
            {
                throw new RefusedException(
                    409,
                    "published-since",
                    $"The {other.Kind} '{other.Key}' was published differently after this was scheduled; check it and schedule it again."
                );
            }

            var texts = await scheduled.Texts(release, cancel);
            return await Release(
                Read(
                    release.Documents.Select(document => new ReleasedText(
                        document.Kind,
                        document.Key,
                        document.Hash,
                        texts[document.Hash]
                    )),
                    by
                ),
                release.Documents.ToDictionary(document => (document.Kind, document.Key), document => document.Revision),
                new ReleaseTerms(
                    release.Note,
                    by,
                    release.Terms is { } rollout ? Audience.Read(rollout) : null,
                    release.OverrideReason,
                    Scheduled: release.Id
                ),
                cancel
            );
        }
        finally
        {
            turn.Release();
        }
    }
}
