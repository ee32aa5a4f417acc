using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Places;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>Placing as a hand does it: one says what goes where, and gets the edits that make room for it.</summary>
public static class PlacementEndpoints
{
    public static void MapPlacements(this IEndpointRouteBuilder api) =>
        api.MapPost("/layouts/{key}/place", Place)
            .WithName("placeOnLayout")
            .WithTags("layouts")
            .Needs(Permissions.Configure)
            .Produces<EditResult>()
            .WithSummary("Places a field, a part, a piece or what stands there already, where it has room and nothing else moves.");

    private static async Task<IResult> Place(
        HttpContext http,
        string key,
        PlaceRequest body,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var (row, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var seen = DraftDocuments.Seen(layout, body.Width, catalogue);
        var entity = DraftDocuments.EntityOf(layout, catalogue);
        var subject = SubjectOf(body, seen, entity, catalogue);
        var target = body.Target is { } named ? NodeOf(named, seen, "/target") : (NodeId?)null;
        var page = body.Page is { } on ? NodeOf(on, seen, "/page") : (NodeId?)null;
        var placing = new LayoutPlaces(seen, entity.Find);
        var place = body.Edge is { } edge ? At(placing, subject, target, edge) : placing.Next(subject, target, page);
        if (place is null)
        {
            throw Problems.Invalid(
                target is { } node
                    ? (Message)$"There is no place for it {body.Edge ?? "after"} '{node}': it is there already, or it cannot stand there."
                    : $"There is no place for it on '{key}'.",
                Problems.Part(body.Target is null ? "" : "/target", $"is no place for it")
            );
        }

        var edits = DraftDocuments.Element(writer => TreeJson.Write(writer, place.Edits));
        var request = new EditRequest(
            row.Revision,
            edits,
            body.Label ?? $"Place {body.Field ?? body.Node ?? body.Piece ?? body.Part}",
            Width: body.Width
        );
        return await LayoutEndpoints.Edited(http, key, request, null, drafts, null, cancel, place.Full);
    }

    private static Placement? At(LayoutPlaces placing, Subject subject, NodeId? target, string name)
    {
        if (Edges.Parse(name) is not { } edge)
        {
            throw Problems.Invalid(
                Suggestion.Sentence($"There is no edge '{name}'{Suggestion.For(name, Edges.All)}"),
                Problems.Part("/edge", $"must be one of {string.Join(", ", Edges.All)}")
            );
        }

        return target is { } node
            ? placing.At(subject, node, edge)
            : throw Problems.Invalid($"An edge is of something: name the target.", Problems.Part("/target", $"must be the id of a node"));
    }

    private static Subject SubjectOf(PlaceRequest body, Layout layout, Entity entity, Catalogue catalogue)
    {
        string?[] given = [body.Field, body.Node, body.Part, body.Piece];
        if (given.Count(each => each is not null) != 1)
        {
            throw Problems.Invalid(
                $"Name one thing to place: a field, a node, a part or a piece.",
                Problems.Part("", $"must have exactly one of field, node, part and piece")
            );
        }

        return body switch
        {
            { Field: { } field } => new Subject.OfField(FieldOf(field, layout, entity)),
            { Node: { } node } => new Subject.OfNode(NodeOf(node, layout, "/node")),
            { Piece: { } piece } => new Subject.OfPiece(
                catalogue.Piece(piece)?.Key ?? throw Problems.NotFound($"piece", piece, catalogue.Pieces.Select(each => each.Key))
            ),
            _ => NewParts.All.Contains(body.Part)
                ? new Subject.OfPart(Grammar.Named(body.Part!)!.Kind, body.Title)
                : throw Problems.Invalid(
                    Suggestion.Sentence($"There is no part '{body.Part}'{Suggestion.For(body.Part!, NewParts.All)}"),
                    Problems.Part("/part", $"must be one of {string.Join(", ", NewParts.All)}")
                ),
        };
    }

    private static string FieldOf(string key, Layout layout, Entity entity)
    {
        if (entity.Find(key) is null)
        {
            throw Problems.NotFound($"field", key, entity.Current.Select(field => field.Key));
        }

        return layout.Walk().FirstOrDefault(node => node.Word(layout.Kind == "list" ? "column" : "field") == key) is { } there
            ? throw Problems.Invalid(
                $"'{key}' is on '{layout.Key}' already; to move it, name its node '{there.Id}'.",
                Problems.Part("/field", $"is on the layout already")
            )
            : key;
    }

    private static NodeId NodeOf(string name, Layout layout, string pointer) =>
        NodeId.IsWellFormed(name) && layout.Contains(new NodeId(name))
            ? new NodeId(name)
            : throw Problems.Invalid(
                Suggestion.Sentence(
                    $"'{layout.Key}' has no node '{name}'{Suggestion.For(name, [.. layout.Walk().Select(node => node.Id.Name)])}"
                ),
                Problems.Part(pointer, $"is no node of it")
            );
}
