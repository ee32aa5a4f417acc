using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Your own tokens.</summary>
internal static class TokenCommands
{
    public static Command Make(CommandLine line) =>
        new("token", "Your own tokens, for scripts and pipelines.") { Create(line), List(line), Revoke(line) };

    private static Command Create(CommandLine line)
    {
        var name = new Argument<string>("name") { Description = "What it is for." };
        var days = new Option<int>("--days") { Description = "How long it lasts, from 1 to 365.", DefaultValueFactory = _ => 90 };
        var scopes = new Option<string[]>("--scope")
        {
            Description = "A permission it is limited to; can be given several times. Default: all of your permissions.",
        };
        var command = new Command(
            "create",
            "Creates a token. Its secret is shown this once.\n\nExample:\n  brighttier token create pipeline --days 30 "
                + "--scope configure --scope publish"
        )
        {
            name,
            days,
            scopes,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var made = await client.CreateToken(
                new TokenRequest(
                    result.GetRequiredValue(name),
                    result.GetValue(days),
                    result.GetValue(scopes) is { Length: > 0 } some ? some : null
                ),
                cancel
            );
            if (context.Printer.Json)
            {
                context.Printer.Write(made, WireJson.Default.TokenInfo);
                return Exit.Done;
            }

            context.Printer.Line(made.Secret!);
            return Exit.Done;
        });
        return command;
    }

    private static Command List(CommandLine line)
    {
        var command = new Command("list", "Lists your tokens.");
        line.Do(command, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var all = await client.Tokens(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(all, WireJson.Default.IReadOnlyListTokenInfo);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Token", "Name", "Expires", "Scopes"],
                all.Select(token =>
                    new[]
                    {
                        token.Id,
                        token.Name,
                        $"{token.Expires:yyyy-MM-dd}",
                        token.Scopes is { } only ? string.Join(", ", only) : "all",
                    }
                )
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command Revoke(CommandLine line)
    {
        var id = new Argument<string>("token") { Description = "Its id, as 'token list' shows it." };
        var command = new Command("revoke", "Revokes a token at once.\n\nExample:\n  brighttier token revoke 1f9c2a7b") { id };
        line.Do(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            await client.RevokeToken(result.GetRequiredValue(id), cancel);
            context.Printer.Done(
                new JsonObject { ["token"] = result.GetRequiredValue(id) },
                $"Token {result.GetRequiredValue(id)} is revoked."
            );
            return Exit.Done;
        });
        return command;
    }
}
