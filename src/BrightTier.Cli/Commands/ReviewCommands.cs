using System.CommandLine;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>What a second person does: looks, says something, approves.</summary>
internal static class ReviewCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        AddApprove(root, line);
        AddComments(root, line);
    }

    private static void AddApprove(RootCommand root, CommandLine line)
    {
        var documents = new Argument<string[]>("document") { Description = "Layouts by key, other documents as kind/key.", Arity = ArgumentArity.OneOrMore };
        var withdraw = new Option<bool>("--take-back") { Description = "Takes one's approval back." };
        var approve = new Command("approve", "Approves drafts as they are now; nobody approves her own changes.\n\nExample:\n  brighttier approve vessel entity/vessel") { documents, withdraw };
        line.Do(approve, async (result, around, cancel) =>
        {
            using var client = around.Client();
            foreach (var reference in await ReleaseCommands.References(client, result.GetRequiredValue(documents), cancel))
            {
                await client.Approve(new ApprovalRequest(reference.Kind, reference.Key, reference.Revision, !result.GetValue(withdraw)), cancel);
                around.Printer.Line($"{reference.Kind} {reference.Key} is {(result.GetValue(withdraw) ? "not approved by you any more" : "approved")} at revision {reference.Revision}.");
            }

            return Exit.Done;
        });
        root.Subcommands.Add(approve);
    }

    private static void AddComments(RootCommand root, CommandLine line)
    {
        var document = new Argument<string>("document") { Description = "A layout by key, another document as kind/key." };
        var say = new Option<string?>("--say") { Description = "Says something; @id names a person, who is told." };
        var item = new Option<string?>("--item") { Description = "The id of the item it is about." };
        var done = new Option<long?>("--done") { Description = "Says that what this comment asks for is done." };
        var comments = new Command("comments", "Lists what is said about a draft, or says something.\n\nExamples:\n  brighttier comments vessel\n  brighttier comments vessel --item length --say \"In metres, @ada?\"\n  brighttier comments vessel --done 3") { document, say, item, done };
        line.Do(comments, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var (kind, key) = result.GetRequiredValue(document).Split('/') is [var given, var rest] ? (given, rest) : ("layout", result.GetRequiredValue(document));
            if (result.GetValue(done) is { } id)
            {
                await client.Resolve(id, true, cancel);
            }

            if (result.GetValue(say) is { } text)
            {
                await client.Comment(kind, key, new CommentRequest(text, result.GetValue(item)), cancel);
            }

            var all = await client.Comments(kind, key, cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(all, WireJson.Default.IReadOnlyListCommentInfo);
            }
            else
            {
                around.Printer.Table(["Comment", "By", "At", "About", "State", "Text"], all.Select(comment => new[]
                {
                    $"{comment.Id}", comment.ByName, $"{comment.At:yyyy-MM-dd HH:mm} UTC", comment.Item ?? "the whole", comment.ResolvedBy is { } by ? $"done, said {by}" : "open", comment.Text,
                }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(comments);
    }
}
