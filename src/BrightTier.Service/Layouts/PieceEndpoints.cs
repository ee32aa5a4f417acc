using System.Text;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Layouts;

/// <summary>
/// Pieces and the clipboard: parts of a layout taken elsewhere. What changes the layout itself is a change like any other, answered with
/// what would undo it.
/// </summary>
public static class PieceEndpoints
{
    private const int LongestTitle = 100;

    public static void MapPieces(this IEndpointRouteBuilder api)
    {
        api.MapGet("/pieces", List)
            .WithName("listPieces")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<IReadOnlyList<PieceInfo>>()
            .WithSummary("Every piece with its slots and its uses, the one changed last first.");
        var group = api.MapGroup("/layouts/{key}").WithTags("layouts");
        group
            .MapPost("/pieces", Make)
            .WithName("createPiece")
            .Needs(Permissions.Configure)
            .Produces<PieceInfo>(201)
            .WithSummary(
                "Creates a piece from nodes of the layout, with a slot for each of their fields; the layout itself stays as it is."
            );
        group
            .MapPost("/detach", Detach)
            .WithName("detachPiece")
            .Needs(Permissions.Configure)
            .Produces<EditResult>()
            .WithSummary("Replaces a piece's use by a copy, which later changes of the piece do not reach.");
        group
            .MapGet("/clipboard", Clip)
            .WithName("copyNodes")
            .NeedsReader()
            .Produces<string>(200, "application/yaml")
            .WithSummary("Nodes of the layout as the text of a piece, for the clipboard: ?nodes=hull,mastHeight.");
        group
            .MapPost("/paste", Paste)
            .WithName("pasteNodes")
            .Needs(Permissions.Configure)
            .TakesAtMost(BodySizes.Document)
            .Produces<EditResult>()
            .WithSummary("Inserts a piece, or the text of one, as nodes of the layout's own, its fields matched by key or label.");
    }

    private static async Task<IResult> List(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var catalogue = await drafts.Catalogue(cancel);
        var language = http.LanguageOf(caller, catalogue.Definitions.Application);
        var pieces = new List<PieceInfo>();
        foreach (var draft in (await drafts.Known(DocumentKind.Layout, cancel)).OrderByDescending(draft => draft.Row.ChangedAt))
        {
            if (draft.Document is Document.OfLayout { Layout: { Kind: "piece" } piece })
            {
                pieces.Add(Info(piece, draft.Row.ChangedAt, catalogue, language));
            }
        }

        return TypedResults.Json<IReadOnlyList<PieceInfo>>(pieces, WireJson.Default.IReadOnlyListPieceInfo);
    }

    private static PieceInfo Info(Layout piece, long changedAt, Core.Model.Catalogue catalogue, string language) =>
        new(
            piece.Key,
            piece.Title?.In(language) ?? piece.Key,
            [
                .. Pieces
                    .Slots(piece)
                    .Select(slot => new SlotInfo(
                        slot.Word("slot")!,
                        slot.Text("label")?.In(language) ?? slot.Word("slot")!,
                        slot.Words("types"),
                        slot.Flag("optional")
                    )),
            ],
            [
                .. Pieces
                    .Uses(piece.Key, catalogue)
                    .Select(use => new PieceUseInfo(
                        use.Layout,
                        use.Node.Name,
                        catalogue.Layouts[use.Layout].Title?.In(language) ?? use.Layout
                    )),
            ],
            DateTimeOffset.FromUnixTimeMilliseconds(changedAt)
        );

    private static async Task<IResult> Make(HttpContext http, string key, NewPiece body, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        if (body.Title.Trim().Length is 0 or > LongestTitle)
        {
            throw Problems.Invalid(
                $"A piece's title has from 1 to {LongestTitle} characters.",
                Problems.Part("/title", $"must have from 1 to {LongestTitle} characters")
            );
        }

        var sections = Sections(layout, body.Nodes, "/nodes");
        var name = body.Key ?? Keys.Fresh(Keys.Of(body.Title, "piece"), catalogue.IsTaken);
        if (!NodeId.IsWellFormed(name) || catalogue.IsTaken(name))
        {
            throw Problems.Invalid(
                NodeId.IsWellFormed(name)
                    ? (Message)$"'{name}' cannot be the piece's key: there is a layout of that key."
                    : $"'{name}' cannot be the piece's key: it must begin with a letter and have only letters, digits, '-' and '_'.",
                Problems.Part("/key", $"cannot be used")
            );
        }

        var piece = Pieces.Make(name, Texts.Of(body.Title.Trim()), sections, DraftDocuments.EntityOf(layout, catalogue));
        await drafts.Save(new Document.OfLayout(piece), 0, caller.Author, cancel);
        return CreatedResource.At(
            http,
            $"/api/layouts/{name}",
            Info(
                piece,
                (await drafts.Row(DocumentKind.Layout, name, cancel)).ChangedAt,
                await drafts.Catalogue(cancel),
                catalogue.Definitions.Application.Languages[0]
            ),
            WireJson.Default.PieceInfo
        );
    }

    private static async Task<IResult> Detach(
        HttpContext http,
        string key,
        DetachRequest body,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var (row, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var seen = DraftDocuments.Seen(layout, body.Width, catalogue);
        if (!NodeId.IsWellFormed(body.Use) || seen.Find(new NodeId(body.Use)) is not { Kind: NodeKind.Piece })
        {
            throw Problems.Invalid(
                $"'{body.Use}' is no use of a piece in '{key}'.",
                Problems.Part("/use", $"must be the id of a piece's use")
            );
        }

        var edits = Pieces.Detach(seen, new NodeId(body.Use), catalogue);
        return edits.Count > 0
            ? await LayoutEndpoints.Edited(
                http,
                key,
                Request(row, edits, body.Label ?? "Detach a piece", body.Width),
                null,
                drafts,
                null,
                cancel
            )
            : throw Problems.Invalid(
                $"'{body.Use}' cannot be detached while its piece is missing or one of its slots is bound to nothing.",
                Problems.Part("/use", $"cannot be detached")
            );
    }

    private static async Task<IResult> Clip(HttpContext http, string key, DraftDocuments drafts, string? nodes, CancellationToken cancel)
    {
        var (_, layout) = await drafts.Layout(key, cancel);
        var sections = Sections(layout, (nodes ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries), "nodes");
        var piece = Pieces.Make("clip", Texts.Of($"From {key}"), sections, DraftDocuments.EntityOf(layout, await drafts.Catalogue(cancel)));
        return TypedResults.Text(DocumentFile.Write(new Document.OfLayout(piece)), "application/yaml", Encoding.UTF8);
    }

    private static async Task<IResult> Paste(
        HttpContext http,
        string key,
        PasteRequest body,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var (row, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var at = body.At is { } named && NodeId.IsWellFormed(named) ? new NodeId(named) : (NodeId?)null;
        var pasted = Clipboard.Paste(
            Piece(body, catalogue),
            body.Slots,
            DraftDocuments.Seen(layout, body.Width, catalogue),
            at,
            DraftDocuments.EntityOf(layout, catalogue)
        );
        return pasted.Edits.Count > 0
            ? await LayoutEndpoints.Edited(
                http,
                key,
                Request(row, pasted.Edits, body.Label ?? "Paste", body.Width),
                null,
                drafts,
                pasted.Strays,
                cancel
            )
            : throw Problems.Invalid(
                $"Nothing of it can be placed here: '{layout.Entity}' has no fields like {string.Join(", ", pasted.Strays)}.",
                Problems.Part(body.Text is null ? "/slots" : "/text", $"has no field that is here too")
            );
    }

    private static Layout Piece(PasteRequest body, Core.Model.Catalogue catalogue)
    {
        if (body.Text is not { } text)
        {
            return catalogue.Piece(body.Piece ?? "")
                ?? throw Problems.NotFound($"piece", body.Piece ?? "", catalogue.Pieces.Select(piece => piece.Key));
        }

        var (document, problems) = DocumentFile.Read(text);
        return document is Document.OfLayout { Layout: { Kind: "piece" } piece } ? piece
            : document is null ? throw Problems.Document(problems)
            : throw Problems.Invalid(
                $"What is pasted is the {document.Kind.Noun()} '{document.Key}', not a piece; copy parts of a form first.",
                Problems.Part("/text", $"must be the text of a piece")
            );
    }

    private static IReadOnlyList<Node> Sections(Layout layout, IEnumerable<string> nodes, string pointer)
    {
        var named = nodes.ToArray();
        if (named.FirstOrDefault(name => !NodeId.IsWellFormed(name) || !layout.Contains(new NodeId(name))) is { } unknown)
        {
            throw Problems.Invalid($"'{layout.Key}' has no node '{unknown}'.", Problems.Part(pointer, $"'{unknown}' is no node of it"));
        }

        var sections = Clipboard.Sections(layout, [.. named.Select(name => new NodeId(name))]);
        return sections.Count > 0
            ? sections
            : throw Problems.Invalid(
                $"Name at least one tab, section, row or item.",
                Problems.Part(pointer, $"names nothing that can be copied")
            );
    }

    private static EditRequest Request(DraftRow row, IReadOnlyList<Core.Edits.Edit> edits, string label, string? width) =>
        new(row.Revision, DraftDocuments.Element(writer => TreeJson.Write(writer, edits)), label, Width: width);
}
