using System.Text;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Layouts;

/// <summary>Drafts of layouts: read, made, replaced, edited, checked, previewed.</summary>
public static class LayoutEndpoints
{
    public static void MapLayouts(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/layouts").WithTags("layouts");
        NewLayouts.Map(api, group);
        GrammarAnswer.Map(api);
        group
            .MapGet("", List)
            .WithName("listLayouts")
            .NeedsReader()
            .Produces<IReadOnlyList<LayoutSummary>>()
            .WithSummary(
                "All drafts of layouts in use, by their keys; with archived=true those that are archived. A page of them with limit, "
                    + "up to 500; after is the last key of the page before."
            );
        group
            .MapGet("/{key}", Get)
            .WithName("getLayout")
            .NeedsReader()
            .Produces<LayoutDraft>()
            .WithSummary("A draft as a tree; as a file with Accept: application/yaml.");
        group
            .MapPut("/{key}", Put)
            .WithName("putLayout")
            .Needs(Permissions.Configure)
            .TakesAtMost(BodySizes.Document)
            .Accepts<string>("application/yaml", "application/json")
            .Produces<SaveResult>()
            .WithSummary("Replaces a draft by a file; If-Match names the revision replaced, If-None-Match: * makes a new one.");
        group
            .MapPost("/{key}/edits", Edit)
            .WithName("editLayout")
            .Needs(Permissions.Configure)
            .TakesAtMost(BodySizes.Document)
            .Produces<EditResult>()
            .WithSummary("Applies edits made against a revision, rebased over what came since; answered as soon as they are stored.");
        group
            .MapGet("/{key}/view", View)
            .WithName("viewLayout")
            .NeedsReader()
            .Produces<LayoutView>()
            .WithSummary("A draft as it is looked at: resolved for a role, mode and language, how long it is, and what the checks find.");
        group
            .MapGet("/{key}/changes", Changes)
            .WithName("listChanges")
            .NeedsReader()
            .Produces<IReadOnlyList<ChangeInfo>>()
            .WithSummary("The history of a draft after a revision, oldest first.");
        group
            .MapGet("/{key}/findings", Findings)
            .WithName("listLayoutFindings")
            .NeedsReader()
            .Produces<IReadOnlyList<FindingInfo>>()
            .WithSummary("What the checks find in a draft.");
        group
            .MapPost("/{key}/recover", Recover)
            .WithName("recoverLayout")
            .Needs(Permissions.Configure)
            .Produces<RecoveredDraft>()
            .WithSummary("Replaces a draft that cannot be read by the last text that can: from its history, or as it was published.");
        group
            .MapGet("/{key}/entity", Shown)
            .WithName("getLayoutEntity")
            .NeedsReader()
            .Produces<EntityInfo>()
            .WithSummary("What a layout shows: the draft of its entity; of a piece its slots, each as a field.");
        group
            .MapGet("/{key}/preview", Preview)
            .WithName("previewLayout")
            .NeedsReader()
            .Produces<ResolvedForm>()
            .WithSummary("A draft resolved for a role, mode and language.");
    }

    private static async Task<IResult> List(
        HttpContext http,
        DraftDocuments drafts,
        CurrentRelease releases,
        CommentStore comments,
        bool? archived,
        int? limit,
        string? after,
        CancellationToken cancel
    )
    {
        LayoutSearch.DemandPage(limit);
        var search = new LayoutSearch(drafts, releases, comments);
        return TypedResults.Json(
            await search.Page(http, archived ?? false, limit ?? int.MaxValue, after, cancel),
            WireJson.Default.IReadOnlyListLayoutSummary
        );
    }

    private static async Task<IResult> Get(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var row = await drafts.Row(DocumentKind.Layout, key, cancel);
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        http.Response.Headers.CacheControl = "no-cache";
        // The tag names the revision, which is there as a tree and as a file: neither answers for the other.
        http.Response.Headers.Vary = "Accept";
        return http.Request.Headers.Accept.ToString().Contains("yaml", StringComparison.Ordinal)
            ? TypedResults.Text(row.Content, "application/yaml", Encoding.UTF8)
            : TypedResults.Json(
                Draft(row, ((Document.OfLayout)drafts.Parsed(row)).Layout, await drafts.Catalogue(cancel)),
                WireJson.Default.LayoutDraft
            );
    }

    private static async Task<IResult> Recover(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        return TypedResults.Json(await drafts.Recover(DocumentKind.Layout, key, caller.Author, cancel), WireJson.Default.RecoveredDraft);
    }

    private static async Task<IResult> Put(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var (document, comments) = await DocumentBody.Read(http, DocumentKind.Layout, key, cancel);
        var saved = await drafts.Save(document, ETags.Expected(http), caller.Author, cancel);
        http.Response.Headers.ETag = ETags.Of(saved.Revision);
        return TypedResults.Json(saved with { Comments = comments }, WireJson.Default.SaveResult);
    }

    private static async Task<IResult> Edit(HttpContext http, string key, EditRequest body, DraftDocuments drafts, CancellationToken cancel)
    {
        if (body.Name?.Length is 0 or > 64)
        {
            throw Problems.Invalid(
                $"A change's name has from 1 to 64 characters.",
                Problems.Part("/name", $"must have from 1 to 64 characters")
            );
        }

        return await Edited(http, key, body, Side(body.ConflictResolution), drafts, null, cancel);
    }

    /// <summary>Applies edits to a draft, and answers what became of them.</summary>
    /// <param name="unmatched">Of what is pasted, the fields for which there is none here.</param>
    /// <param name="rowFull">Of what is placed: it gets a row of its own, since the one it was meant for is full.</param>
    internal static async Task<IResult> Edited(
        HttpContext http,
        string key,
        EditRequest edit,
        Side? side,
        DraftDocuments drafts,
        IReadOnlyList<string>? unmatched,
        CancellationToken cancel,
        bool rowFull = false
    )
    {
        if (edit.Label?.Length > 200)
        {
            throw Problems.Invalid($"A change's label has at most 200 characters.", Problems.Part("/label", $"is too long"));
        }

        var (row, edits, inverse) = await drafts.Edit(key, edit, side, http.Caller().Author, cancel);
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        return TypedResults.Json(new EditResult(row.Revision, edits, inverse, unmatched, rowFull), WireJson.Default.EditResult);
    }

    private static Side? Side(string? take) =>
        take switch
        {
            null => null,
            "mine" => Core.Edits.Side.Mine,
            "theirs" => Core.Edits.Side.Theirs,
            _ => throw Problems.Invalid(
                $"'conflictResolution' must be mine or theirs; it is '{take}'.",
                Problems.Part("/conflictResolution", $"must be mine or theirs")
            ),
        };

    private static async Task<IResult> Changes(HttpContext http, string key, DraftDocuments drafts, long? after, CancellationToken cancel)
    {
        await drafts.Row(DocumentKind.Layout, key, cancel);
        return TypedResults.Json<IReadOnlyList<ChangeInfo>>(
            [
                .. (await drafts.Changes(key, after ?? 0, cancel)).Select(change =>
                {
                    using var edits = JsonDocument.Parse(change.Edits);
                    return new ChangeInfo(
                        change.Revision,
                        change.By,
                        DateTimeOffset.FromUnixTimeMilliseconds(change.At),
                        change.Label,
                        edits.RootElement.Clone()
                    );
                }),
            ],
            WireJson.Default.IReadOnlyListChangeInfo
        );
    }

    private static async Task<IResult> Findings(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var (_, layout) = await drafts.Layout(key, cancel);
        return TypedResults.Json(Infos(Checker.Known(layout, await drafts.Catalogue(cancel))), WireJson.Default.IReadOnlyListFindingInfo);
    }

    private static async Task<IResult> Shown(
        HttpContext http,
        string key,
        DraftDocuments drafts,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var catalogue = await drafts.Catalogue(cancel);
        var entity = DraftDocuments.EntityOf((await drafts.Layout(key, cancel)).Layout, catalogue);
        return TypedResults.Json(
            EntityAnswer.Of(http, entity, entity.Fields, catalogue.Definitions, caller, releases),
            WireJson.Default.EntityInfo
        );
    }

    private static async Task<IResult> Preview(
        HttpContext http,
        string key,
        DraftDocuments drafts,
        string? role,
        string? mode,
        string? language,
        bool? showHidden,
        CancellationToken cancel
    )
    {
        var (row, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var view = DraftPreview.ViewOf(role, mode, language, showHidden, catalogue.Definitions);
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        return TypedResults.Bytes(DraftPreview.Form(layout, catalogue, view), "application/json");
    }

    private static async Task<IResult> View(
        HttpContext http,
        string key,
        DraftDocuments drafts,
        string? role,
        string? mode,
        string? language,
        bool? showHidden,
        CancellationToken cancel
    )
    {
        var (row, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var view = DraftPreview.ViewOf(role, mode, language, showHidden, catalogue.Definitions);
        // What the checks find is worked out beside how it is drawn: each takes as long as the other.
        var findings = Task.Run(() => Infos(Checker.Known(layout, catalogue)), cancel);
        var (form, lengths) = (DraftPreview.Form(layout, catalogue, view), DraftPreview.Lengths(layout, catalogue));
        http.Response.Headers.ETag = ETags.Of(row.Revision);
        return TypedResults.Json(
            new LayoutView(row.Revision, await findings, JsonElement.Parse(form), lengths),
            WireJson.Default.LayoutView
        );
    }

    internal static LayoutDraft Draft(DraftRow row, Layout layout, Catalogue catalogue) =>
        new(
            row.Key,
            layout.Entity,
            row.Revision,
            row.Published,
            DraftDocuments.Element(writer => TreeJson.Write(writer, layout.Root)),
            Infos(Checker.Known(layout, catalogue))
        );

    public static IReadOnlyList<FindingInfo> Infos(IReadOnlyList<Finding> findings) =>
        [
            .. findings.Select(finding => new FindingInfo(
                finding.Code,
                finding.Severity.ToString().ToLowerInvariant(),
                finding.Node.Name,
                finding.Property,
                finding.Message.ToString(),
                finding.Fix is { } fix
                    ? new FixInfo(fix.Label.ToString(), DraftDocuments.Element(writer => TreeJson.Write(writer, fix.Edits)))
                    : null,
                finding.Evidence?.ToString()
            )),
        ];
}
