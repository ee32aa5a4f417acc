using System.Globalization;
using BrightTier.Contracts;

namespace BrightTier.Client;

// Releases, and what leads to one: comments, approvals, plans.
public sealed partial class BrightTierClient
{
    public Task<ScheduledReleaseInfo> ScheduleRelease(ScheduleRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            "api/scheduled-releases",
            Body(request, WireJson.Default.ScheduleRequest),
            WireJson.Default.ScheduledReleaseInfo,
            null,
            cancel
        );

    public Task<IReadOnlyList<ScheduledReleaseInfo>> ScheduledReleases(CancellationToken cancel) =>
        Get("api/scheduled-releases", WireJson.Default.IReadOnlyListScheduledReleaseInfo, cancel);

    public Task<ScheduledReleaseInfo> CancelScheduledRelease(long plan, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/scheduled-releases/{Number(plan)}/cancel", null, WireJson.Default.ScheduledReleaseInfo, null, cancel);

    /// <summary>Gives a release that went to some roles first to everyone.</summary>
    public Task<ReleaseInfo> Promote(long release, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/releases/{Number(release)}/promote", null, WireJson.Default.ReleaseInfo, null, cancel);

    /// <summary>Takes back a release that went to some roles first.</summary>
    public Task<ReleaseInfo> Cancel(long release, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/releases/{Number(release)}/cancel", null, WireJson.Default.ReleaseInfo, null, cancel);

    /// <summary>How a staged release goes.</summary>
    public Task<RolloutState> Rollout(long release, CancellationToken cancel) =>
        Get($"api/releases/{Number(release)}/rollout", WireJson.Default.RolloutState, cancel);

    /// <summary>Gives a staged release to a larger share of people; 100 gives it to everyone.</summary>
    public Task<ReleaseInfo> Widen(long release, int share, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/releases/{Number(release)}/widen",
            Body(new WidenRequest(share), WireJson.Default.WidenRequest),
            WireJson.Default.ReleaseInfo,
            null,
            cancel
        );

    /// <summary>Who has which release: a page of people, by name.</summary>
    public Task<Holders> Holders(string? search, int offset, int limit, CancellationToken cancel) =>
        Get(
            $"api/releases/holders?offset={Number(offset)}&limit={Number(limit)}{(search is null ? "" : $"&search={Escape(search)}")}",
            WireJson.Default.Holders,
            cancel
        );

    public Task<AdoptionInfo> Adoption(long release, CancellationToken cancel) =>
        Get($"api/releases/{Number(release)}/adoption", WireJson.Default.AdoptionInfo, cancel);

    public Task<Approvals> Approvals(CancellationToken cancel) => Get("api/approvals", WireJson.Default.Approvals, cancel);

    public Task Approve(ApprovalRequest request, CancellationToken cancel) =>
        Do(HttpMethod.Post, "api/approvals", Body(request, WireJson.Default.ApprovalRequest), cancel);

    public Task<IReadOnlyList<CommentInfo>> Comments(string kind, string key, CancellationToken cancel) =>
        Get($"api/drafts/{Escape(kind)}/{Escape(key)}/comments", WireJson.Default.IReadOnlyListCommentInfo, cancel);

    public Task<CommentInfo> Comment(string kind, string key, CommentRequest comment, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/drafts/{Escape(kind)}/{Escape(key)}/comments",
            Body(comment, WireJson.Default.CommentRequest),
            WireJson.Default.CommentInfo,
            null,
            cancel
        );

    public Task<CommentInfo> Resolve(long comment, bool resolved, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            $"api/comments/{Number(comment)}/resolved",
            Body(new ResolveRequest(resolved), WireJson.Default.ResolveRequest),
            WireJson.Default.CommentInfo,
            null,
            cancel
        );

    public Task<Receipt> Publish(PublishRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/releases", Body(request, WireJson.Default.PublishRequest), WireJson.Default.Receipt, null, cancel);

    /// <summary>What publishing some drafts would do; nothing is changed.</summary>
    public Task<ReleasePlan> PlanRelease(IReadOnlyList<DraftReference> documents, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            "api/releases/plan",
            Body(new PlanRequest(documents), WireJson.Default.PlanRequest),
            WireJson.Default.ReleasePlan,
            null,
            cancel
        );

    public Task<ReleaseInfo> Release(long number, CancellationToken cancel) =>
        Get($"api/releases/{Number(number)}", WireJson.Default.ReleaseInfo, cancel);

    /// <summary>All releases, newest first, page by page.</summary>
    public async Task<IReadOnlyList<ReleaseInfo>> Releases(CancellationToken cancel)
    {
        const int Page = 500;
        var all = new List<ReleaseInfo>();
        IReadOnlyList<ReleaseInfo> page;
        do
        {
            var before = all.Count == 0 ? "" : string.Create(CultureInfo.InvariantCulture, $"&before={all[^1].Number}");
            page = await Get($"api/releases?limit={Page}{before}", WireJson.Default.IReadOnlyListReleaseInfo, cancel);
            all.AddRange(page);
        } while (page.Count == Page);

        return all;
    }

    /// <summary>How two states of all documents differ, each a release's number, <c>current</c> or <c>drafts</c>.</summary>
    public Task<ReleaseComparison> DiffReleases(string from, string to, CancellationToken cancel) =>
        Get($"api/releases/diff?from={Escape(from)}&to={Escape(to)}", WireJson.Default.ReleaseComparison, cancel);

    /// <summary>The drafts that go out with some, named kind/key, because these rest on them.</summary>
    public Task<IReadOnlyList<DependencyInfo>> Dependencies(IEnumerable<string> documents, CancellationToken cancel) =>
        Get(
            $"api/releases/dependencies?{string.Join('&', documents.Select(name => $"document={Escape(name)}"))}",
            WireJson.Default.IReadOnlyListDependencyInfo,
            cancel
        );

    public Task<Receipt> Restore(long release, RestoreRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/releases/{Number(release)}/restore",
            Body(request, WireJson.Default.RestoreRequest),
            WireJson.Default.Receipt,
            null,
            cancel
        );
}
