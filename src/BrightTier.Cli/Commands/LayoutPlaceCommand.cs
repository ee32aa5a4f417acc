using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Cli.Commands;

/// <summary>Places something on a draft as a hand does it, and says what gave way.</summary>
internal static class LayoutPlaceCommand
{
    public static Command Make(CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "The layout's key." };
        var what = new Argument<string>("what")
        {
            Description = "A field of the entity, something that is on the layout already, a part (section, heading, ...) or a piece.",
        };
        var edges = new (string Edge, Option<string?> Option)[]
        {
            ("left", Beside("--left-of", "Before it in its row.")),
            ("right", Beside("--right-of", "After it in its row.")),
            ("above", Beside("--above", "Above it.")),
            ("below", Beside("--below", "Below it.")),
            ("inside", Beside("--in", "At the end of a tab, a section or an empty cell.")),
        };
        var title = new Option<string?>("--title") { Description = "The text a new part begins with." };
        var width = new Option<string?>("--width") { Description = "A width whose own form is changed; default: the base." };
        var command = new Command(
            "place",
            "Places something on a draft: where it has room, and so that nothing else changes its row, column or order. In a full row "
                + "it gets a row of its own. Without a place it comes at the end.\n\nExamples:\n  brighttier layout place vessel "
                + "berth --right-of length\n  brighttier layout place vessel section --title Papers --below measures"
        )
        {
            layout,
            what,
            title,
            width,
        };
        foreach (var (_, option) in edges)
        {
            command.Add(option);
        }

        line.Change(command, async (result, context, cancel) =>
        {
            var named = edges.Where(each => result.GetValue(each.Option) is not null).ToArray();
            if (named.Length > 1)
            {
                throw new UsageException(
                    $"Name one place, not {named.Length}: --{string.Join(" and --", named.Select(each => each.Option.Name[2..]))}."
                );
            }

            using var client = context.Client();
            var key = result.GetRequiredValue(layout);
            var place = new PlaceRequest(
                Target: named is [var only] ? result.GetValue(only.Option) : null,
                Edge: named is [var edge] ? edge.Edge : null,
                Title: result.GetValue(title),
                Width: result.GetValue(width)
            );
            var subject = result.GetRequiredValue(what);
            var placed = await client.Place(key, await Of(subject, place, key, client, cancel), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(placed, WireJson.Default.EditResult);
            }
            else
            {
                context.Printer.Line($"{subject} is placed; {key} is at revision {placed.Revision}, not published.");
                if (placed.RowFull)
                {
                    context.Printer.Note("The row is full: it has a row of its own.");
                }
            }

            return Exit.Done;
        });
        return command;
    }

    /// <summary>The request with what is placed: what is on the layout by that name, else a field, a piece or a part.</summary>
    private static async Task<PlaceRequest> Of(
        string subject,
        PlaceRequest place,
        string key,
        BrightTierClient client,
        CancellationToken cancel
    )
    {
        var ids = Ids((await client.Layout(key, cancel)).Tree).ToHashSet(StringComparer.Ordinal);
        if (ids.Contains(subject))
        {
            return place with { Node = subject };
        }

        var fields = (await client.LayoutEntity(key, cancel)).Fields.Select(field => field.Key).ToArray();
        var pieces = (await client.Pieces(cancel)).Select(piece => piece.Key).ToArray();
        string[] known = [.. ids, .. fields, .. pieces, .. NewParts.All];
        return fields.Contains(subject) ? place with { Field = subject }
            : pieces.Contains(subject) ? place with { Piece = subject }
            : NewParts.All.Contains(subject) ? place with { Part = subject }
            : throw new UsageException(
                Suggestion
                    .Sentence($"'{subject}' is no field, part or piece, and nothing on '{key}'{Suggestion.For(subject, known)}")
                    .English
            );
    }

    private static Option<string?> Beside(string name, string about) => new(name) { Description = about, HelpName = "node" };

    private static IEnumerable<string> Ids(System.Text.Json.JsonElement node)
    {
        yield return node.GetProperty("id").GetString()!;
        if (node.TryGetProperty("children", out var children))
        {
            foreach (var id in children.EnumerateArray().SelectMany(Ids))
            {
                yield return id;
            }
        }
    }
}
