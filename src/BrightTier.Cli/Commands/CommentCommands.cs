using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Comments on drafts.</summary>
internal static class CommentCommands
{
    public static Command Make(CommandLine line) =>
        new("comment", "Comments on drafts and their items.") { Add(line), List(line), Resolve(line) };

    private static Command Add(CommandLine line)
    {
        var document = Documents.One();
        var text = new Argument<string>("text") { Description = "The comment; @id names a person, who is told." };
        var item = new Option<string?>("--item") { Description = "The id of the item it is about." };
        var command = new Command("add", "Adds a comment.\n\nExample:\n  brighttier comment add vessel \"In metres, @ada?\" --item length")
        {
            document,
            text,
            item,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var (kind, key) = Documents.Named(result.GetRequiredValue(document));
            var made = await client.Comment(kind, key, new CommentRequest(result.GetRequiredValue(text), result.GetValue(item)), cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(made, WireJson.Default.CommentInfo);
            }

            context.Printer.Note($"Comment {made.Id} is added.");
            return Exit.Done;
        });
        return command;
    }

    private static Command List(CommandLine line)
    {
        var document = Documents.One();
        var command = new Command("list", "Lists the comments on a draft.\n\nExample:\n  brighttier comment list vessel") { document };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var (kind, key) = Documents.Named(result.GetRequiredValue(document));
            var all = await client.Comments(kind, key, cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(all, WireJson.Default.IReadOnlyListCommentInfo);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Comment", "By", "At", "About", "State", "Text"],
                all.Select(comment =>
                    new[]
                    {
                        $"{comment.Id}",
                        comment.ByName,
                        $"{comment.At:yyyy-MM-dd HH:mm} UTC",
                        comment.Item ?? "the whole",
                        comment.ResolvedBy is { } by ? $"resolved by {by}" : "open",
                        comment.Text,
                    }
                )
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command Resolve(CommandLine line)
    {
        var id = new Argument<long>("comment") { Description = "Its number, as 'comment list' shows it." };
        var reopen = new Option<bool>("--reopen") { Description = "Opens it again." };
        var command = new Command(
            "resolve",
            "Marks a comment as resolved.\n\nExamples:\n  brighttier comment resolve 3\n  brighttier comment resolve 3 --reopen"
        )
        {
            id,
            reopen,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var resolved = !result.GetValue(reopen);
            await client.Resolve(result.GetValue(id), resolved, cancel);
            context.Printer.Done(
                new JsonObject { ["comment"] = result.GetValue(id), ["resolved"] = resolved },
                $"Comment {result.GetValue(id)} is {(resolved ? "resolved" : "open again")}."
            );
            return Exit.Done;
        });
        return command;
    }
}
