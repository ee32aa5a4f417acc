using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>The environments signed in to.</summary>
internal static class ProfileCommands
{
    public static Command Make(CommandLine line) => new("profile", "The environments you are signed in to.") { List(line), Use(line) };

    private static Command List(CommandLine line)
    {
        var command = new Command("list", "Lists the profiles.");
        line.Do(command, (_, context, _) =>
        {
            Print(context, Credentials.Read());
            return Task.FromResult(Exit.Done);
        });
        return command;
    }

    private static Command Use(CommandLine line)
    {
        var name = new Argument<string>("profile") { Description = "Its name." };
        var command = new Command("use", "Makes a profile the current one.\n\nExample:\n  brighttier profile use test") { name };
        line.Do(command, (result, context, _) =>
        {
            var credentials = Credentials.Read();
            var chosen = result.GetRequiredValue(name);
            credentials.Find(chosen);
            credentials = credentials with { Current = chosen };
            credentials.Save();
            if (context.Printer.Json)
            {
                Print(context, credentials);
            }

            context.Printer.Note($"Profile '{chosen}' is the current one: {credentials.Profiles[chosen].Server}.");
            return Task.FromResult(Exit.Done);
        });
        return command;
    }

    private static void Print(CommandContext context, Credentials credentials)
    {
        var all = credentials.Profiles.OrderBy(each => each.Key, StringComparer.Ordinal);
        if (context.Printer.Json)
        {
            context.Printer.Write(
                new JsonArray([
                    .. all.Select(each => new JsonObject
                    {
                        ["profile"] = each.Key,
                        ["server"] = each.Value.Server,
                        ["production"] = each.Value.Production,
                        ["current"] = each.Key == credentials.Current,
                    }),
                ])
            );
            return;
        }

        context.Printer.Table(
            ["Profile", "Server", "State"],
            all.Select(each =>
                new[]
                {
                    each.Key,
                    each.Value.Server,
                    string.Join(
                        ", ",
                        new[] { each.Key == credentials.Current ? "current" : "", each.Value.Production ? "production" : "" }.Where(word =>
                            word.Length > 0
                        )
                    ),
                }
            )
        );
    }
}
