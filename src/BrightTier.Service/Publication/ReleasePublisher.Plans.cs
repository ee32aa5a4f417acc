using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Publication;

// What publishing would do, said before, and held to.
public sealed partial class ReleasePublisher
{
    /// <summary>What publishing some drafts would change for everyone, and what stands against it; nothing is changed.</summary>
    /// <exception cref="RefusedException">As <see cref="Publish"/>, but for what checks find.</exception>
    public async Task<ReleasePlan> Plan(IReadOnlyList<DraftReference> documents, Author by, CancellationToken cancel)
    {
        var rows = await Chosen(documents, by, cancel, isApproved: false);
        var now = releases.Default;
        var planned = new List<PlannedDocument>();
        foreach (var row in rows.Where(IsAnother))
        {
            var next = drafts.Parsed(row);
            var hash = now.Hashes.GetValueOrDefault((row.Kind, row.Key));
            var old = hash is null ? null : DocumentFile.Read(await histories.Text(hash, cancel), row.Kind, row.Key).Document;
            planned.Add(
                new PlannedDocument(
                    row.Kind,
                    row.Key,
                    row.Revision,
                    hash is null ? "added" : "changed",
                    old is null ? [] : DocumentMerge.Describe(old, next, Label).Texts(),
                    await drafts.ChangedBy(row, cancel)
                )
            );
        }

        var drafted = Drafted(rows.Where(IsAnother));
        var found = ReleaseCheck.Between(
            now.Catalogue,
            now.With(now.Number + 1, drafted).Catalogue,
            drafted.Where(each => each.Document is Document.OfLayout).Select(each => each.Document.Key)
        );
        return new ReleasePlan(
            now.Number,
            planned,
            [.. found.Select(problem => Problems.Part(problem.At, problem.Message, problem.Code))],
            await drafts.Unpublished([.. rows.Select(row => (DocumentFile.KindNamed(row.Kind)!.Value, row.Key))], cancel)
        );

        Texts? Label(string entity, string field) => now.Definitions.Entities.GetValueOrDefault(entity)?.Find(field)?.Label;
    }

    /// <summary>Whether everybody has something else than the draft holds, or nothing that can be read.</summary>
    private bool IsAnother(DraftRow row) => IsAnother(row.Kind, row.Key, ReleaseStore.HashOf(row.Content));

    private bool IsAnother(ReleasedText text) => IsAnother(text.Kind, text.Key, text.Hash);

    private bool IsAnother(string kind, string key, string hash) =>
        releases.Default.Hashes.GetValueOrDefault((kind, key)) != hash
        || releases.Default.Damaged.Any(damaged => (damaged.Kind, damaged.Key) == (kind, key));

    /// <summary>What was reviewed against a release is published only over what that release has.</summary>
    private async Task RequireReviewed(long reviewed, IReadOnlyList<DraftRow> rows, CancellationToken cancel)
    {
        if (reviewed == releases.Default.Number)
        {
            return;
        }

        foreach (var row in rows)
        {
            var before = await store.HashIn(reviewed, row.Kind, row.Key, cancel);
            if (before != releases.Default.Hashes.GetValueOrDefault((row.Kind, row.Key)))
            {
                throw new RefusedException(
                    409,
                    "published-since",
                    $"The {row.Kind} '{row.Key}' was published differently after release "
                        + $"{reviewed.ToString(CultureInfo.InvariantCulture)}, which this was reviewed against; look at it again."
                );
            }
        }
    }
}
