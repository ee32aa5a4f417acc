using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Layouts;

/// <summary>Drafts of layouts as they are listed: a page of them by their keys, or those that are sought.</summary>
internal sealed class LayoutSearch(DraftDocuments drafts, CurrentRelease releases, CommentStore comments)
{
    /// <summary>As many as are answered at a time.</summary>
    private const int Most = 500;

    private static readonly string[] States = ["any", "unpublished", "findings", "comments", "damaged", "archived"];
    private static readonly string[] Orders = ["changed", "title"];

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/search/layouts", Find)
            .WithName("searchLayouts")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<FoundLayouts>()
            .WithSummary(
                "Drafts of layouts that have all words of text in their title, key, kind or entity, of one entity, kind or state: up to "
                    + "limit (100) of them, the one changed last first, or by title; how many there are, and how many in all."
            );

    private static async Task<IResult> Find(
        HttpContext http,
        DraftDocuments drafts,
        CurrentRelease releases,
        CommentStore comments,
        CancellationToken cancel,
        string? text = null,
        string? entity = null,
        string? kind = null,
        string state = "any",
        string sort = "changed",
        int limit = 100
    )
    {
        Demand("state", state, States);
        Demand("sort", sort, Orders);
        DemandPage(limit);
        var search = new LayoutSearch(drafts, releases, comments);
        var found = await search.Seek(http, new Sought(Words(text), entity, kind, state, sort, limit), cancel);
        return TypedResults.Json(found, WireJson.Default.FoundLayouts);
    }

    public static void DemandPage(int? limit)
    {
        if (limit is < 1 or > Most)
        {
            throw Problems.Invalid($"A page has from 1 to 500 entries.", Problems.Part("limit", $"is out of range"));
        }
    }

    private static void Demand(string name, string value, string[] known)
    {
        if (!known.Contains(value))
        {
            throw Problems.Invalid(
                $"There is no '{value}' here; there are {string.Join(", ", known)}.",
                Problems.Part(name, $"is none of {string.Join(", ", known)}")
            );
        }
    }

    private static string[] Words(string? text) => (text ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);

    /// <summary>What layouts are sought by.</summary>
    private sealed record Sought(string[] Words, string? Entity, string? Kind, string State, string Sort, int Limit);

    /// <summary>A page of them by their keys.</summary>
    public async Task<IReadOnlyList<LayoutSummary>> Page(HttpContext http, bool archived, int most, string? after, CancellationToken cancel)
    {
        var facts = await Facts(http, cancel);
        var summaries = new List<LayoutSummary>();
        while (summaries.Count < most && await drafts.Known(DocumentKind.Layout, cancel, after, most) is { Count: > 0 } page)
        {
            summaries.AddRange(
                page.Where(draft => IsListed(draft, archived)).Take(most - summaries.Count).Select(draft => Summary(draft, facts))
            );
            after = page[^1].Row.Key;
        }

        return summaries;
    }

    private async Task<FoundLayouts> Seek(HttpContext http, Sought sought, CancellationToken cancel)
    {
        var facts = await Facts(http, cancel);
        var all = (await drafts.Known(DocumentKind.Layout, cancel)).Where(draft => IsListed(draft, sought.State is "archived")).ToList();
        var found = all.Where(draft => IsSought(draft, sought, facts));
        var sorted = sought.Sort is "title"
            ? found.OrderBy(draft => TitleOf(draft, facts), facts.Titles)
            : found.OrderByDescending(draft => draft.Row.ChangedAt);
        var page = sorted.ThenBy(draft => draft.Row.Key, StringComparer.Ordinal).ToList();
        return new FoundLayouts([.. page.Take(sought.Limit).Select(draft => Summary(draft, facts))], page.Count, all.Count);
    }

    /// <summary>What is asked of all of them together.</summary>
    private sealed record ListFacts(
        Catalogue Catalogue,
        string Language,
        IReadOnlyDictionary<string, int> Uses,
        IReadOnlyDictionary<string, int> Comments
    )
    {
        public TitleOrder Titles { get; } = new(CultureInfo.GetCultureInfo(Language));
    }

    private async Task<ListFacts> Facts(HttpContext http, CancellationToken cancel)
    {
        var open = await comments.Open("draft/", cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var language = http.LanguageOf(http.Caller(), catalogue.Definitions.Application);
        return new ListFacts(catalogue, language, Impact.LayoutUses(catalogue), open);
    }

    /// <summary>One that cannot be read is in use.</summary>
    private static bool IsListed(KnownDraft draft, bool archived) =>
        draft.Damage is not null ? !archived : LayoutOf(draft) is { } layout && layout.IsArchived == archived;

    private static Layout? LayoutOf(KnownDraft draft) => (draft.Document as Document.OfLayout)?.Layout;

    private static string TitleOf(KnownDraft draft, ListFacts facts) => LayoutOf(draft)?.Title?.In(facts.Language) ?? draft.Row.Key;

    private string EntityOf(KnownDraft draft) =>
        (LayoutOf(draft) ?? releases.Default.Catalogue.Layouts.GetValueOrDefault(draft.Row.Key))?.Entity ?? "";

    private bool IsSought(KnownDraft draft, Sought sought, ListFacts facts)
    {
        var kind = LayoutOf(draft)?.Kind ?? "full";
        var entity = EntityOf(draft);
        if ((sought.Entity is { Length: > 0 } of && of != entity) || (sought.Kind is { Length: > 0 } and var sort && sort != kind))
        {
            return false;
        }

        string[] about =
        [
            TitleOf(draft, facts),
            draft.Row.Key,
            kind,
            facts.Catalogue.Definitions.Entities.GetValueOrDefault(entity)?.Label.In(facts.Language) ?? entity,
        ];
        return sought.Words.All(word => about.Any(each => each.Contains(word, StringComparison.CurrentCultureIgnoreCase)))
            && sought.State switch
            {
                "unpublished" => draft.Row.Published != draft.Row.Revision,
                "comments" => CommentsOf(draft, facts) > 0,
                "damaged" => draft.Damage is not null,
                "findings" => LayoutOf(draft) is { } layout
                    && Checker.Known(layout, facts.Catalogue).Any(finding => finding.Severity is Severity.Error or Severity.Warning),
                _ => true,
            };
    }

    private static int CommentsOf(KnownDraft draft, ListFacts facts) =>
        facts.Comments.GetValueOrDefault(CommentSubject.Draft(draft.Row.Kind, draft.Row.Key));

    private LayoutSummary Summary(KnownDraft draft, ListFacts facts)
    {
        var row = draft.Row;
        var layout = LayoutOf(draft);
        var findings = layout is null ? [] : Checker.Known(layout, facts.Catalogue);
        return new LayoutSummary(
            row.Key,
            EntityOf(draft),
            TitleOf(draft, facts),
            row.Revision,
            row.Published,
            findings.Count(finding => finding.Severity is Severity.Error),
            findings.Count(finding => finding.Severity is Severity.Warning),
            DateTimeOffset.FromUnixTimeMilliseconds(row.ChangedAt),
            row.ChangedBy,
            layout?.Kind ?? "full",
            CommentsOf(draft, facts),
            draft.Damage,
            layout is null ? 0 : facts.Uses.GetValueOrDefault(row.Key)
        );
    }
}
