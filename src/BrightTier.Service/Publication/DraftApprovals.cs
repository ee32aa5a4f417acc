using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Publication;

/// <summary>
/// Approval of drafts by a second person: of a draft as it is at one revision, by somebody who changed nothing in it since it was last
/// published.
/// </summary>
public sealed class DraftApprovals(
    ApprovalStore store,
    DraftDocuments drafts,
    CurrentRelease releases,
    Broadcaster broadcaster,
    AuditStore audit,
    TimeProvider time
)
{
    /// <param name="person">Who asks: what she changed herself she does not approve.</param>
    public async Task<Approvals> List(string person, CancellationToken cancel) =>
        new(
            releases.Default.Definitions.Application.Approval,
            [
                .. (await store.List(cancel)).Select(row => new ApprovalInfo(
                    row.Kind,
                    row.Key,
                    row.Revision,
                    row.By,
                    DateTimeOffset.FromUnixTimeMilliseconds(row.At)
                )),
            ],
            [.. (await store.ChangedBy(person, cancel)).Select(draft => new DocumentName(draft.Kind, draft.Key))]
        );

    /// <summary>Approves a draft, or takes one's word back.</summary>
    public async Task Decide(ApprovalRequest request, Author by, CancellationToken cancel)
    {
        var kind = DocumentFile.KindNamed(request.Kind)
            ?? throw Problems.Invalid(
                $"There are no documents of kind '{request.Kind}'; there are: {string.Join(", ", DocumentFile.KindNames)}.",
                Problems.Part("/kind", $"is no kind")
            );
        var row = await drafts.Row(kind, request.Key, cancel);
        by.Require(Permissions.Review, releases.Default.Definitions.Application, drafts.Parsed(row));
        if (row.Revision != request.Revision)
        {
            throw new RefusedException(
                409,
                "draft-moved-on",
                $"The {request.Kind} '{request.Key}' is at revision {row.Revision} by now, changed by {row.ChangedBy}; look "
                    + $"at it before you approve it.",
                [Problems.Part("/revision", $"is {request.Revision}, the draft is at {row.Revision}")]
            );
        }

        if (!request.Approved)
        {
            await store.Withdraw(row.Kind, row.Key, row.Revision, by.Id, cancel);
        }
        else if ((await store.Authors(row.Kind, row.Key, row.Published ?? 0, row.Revision, cancel)).Contains(by.Id))
        {
            throw new RefusedException(
                409,
                "own-change",
                $"You changed the {request.Kind} '{request.Key}' yourself since it was published; somebody else must approve it."
            );
        }
        else
        {
            await store.Save(
                new ApprovalRow
                {
                    Kind = row.Kind,
                    Key = row.Key,
                    Revision = row.Revision,
                    By = by.Id,
                    At = time.GetUtcNow().ToUnixTimeMilliseconds(),
                },
                cancel
            );
        }

        await audit.Note(
            by.Id,
            request.Approved ? "draft.approved" : "draft.approval-withdrawn",
            $"{row.Kind}/{row.Key}",
            new { revision = row.Revision },
            cancel
        );
        broadcaster.Publish(
            "approval",
            JsonSerializer.Serialize(new DraftEvent(row.Kind, row.Key, row.Revision, by.Id), WireJson.Default.DraftEvent),
            forConfigurators: true
        );
    }

    /// <summary>Refuses what nobody approved who could.</summary>
    public async Task Require(IReadOnlyList<DraftRow> rows, CancellationToken cancel)
    {
        var approvals = await store.List(cancel);
        var missing = new List<ProblemPart>();
        foreach (var row in rows)
        {
            var authors = await store.Authors(row.Kind, row.Key, row.Published ?? 0, row.Revision, cancel);
            if (
                !approvals.Any(approval =>
                    approval.Kind == row.Kind
                    && approval.Key == row.Key
                    && approval.Revision == row.Revision
                    && !authors.Contains(approval.By)
                )
            )
            {
                missing.Add(
                    Problems.Part(
                        $"{row.Kind}/{row.Key}",
                        $"revision {row.Revision} is approved only by people who changed it",
                        "approval-missing"
                    )
                );
            }
        }

        if (missing.Count > 0)
        {
            throw new RefusedException(
                422,
                "approval-missing",
                $"Publishing needs a second person's approval: {string.Join(", ", missing.Select(part => part.Pointer))} "
                    + $"{(missing.Count == 1 ? "is" : "are")} not approved yet.",
                missing
            );
        }
    }
}
