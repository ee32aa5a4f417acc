using System.CommandLine;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Who may what: for administrators; and one's own tokens.</summary>
internal static class PeopleCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        AddPerson(root, line);
        AddTokens(root, line);
    }

    private static void AddPerson(RootCommand root, CommandLine line)
    {
        var id = new Argument<string>("person") { Description = "What she signs in as." };
        var name = new Option<string>("--name") { Description = "Her name.", Required = true };
        var roles = new Option<string[]>("--role") { Description = "A role; can be given several times." };
        var language = new Option<string>("--language") { Description = "Her language.", DefaultValueFactory = _ => "en" };
        var password = new Option<bool>("--password") { Description = "Sets a password, read from the terminal or one line from a pipe, which she changes when she signs in." };
        var person = new Command("person", "Makes a person, or changes what she is called and may.\n\nExample:\n  brighttier person joris --name \"Joris Tiller\" --role quay-hand --password") { id, name, roles, language, password };
        line.Do(person, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var kept = await client.PutPerson(result.GetRequiredValue(id), new PersonRequest(result.GetRequiredValue(name), result.GetValue(roles)!, result.GetValue(language)!), cancel);
            if (result.GetValue(password))
            {
                await client.SetPassword(kept.Id, Secrets.Read("Password: "), cancel);
            }

            if (around.Printer.Json)
            {
                around.Printer.Write(kept, WireJson.Default.Person);
                return Exit.Done;
            }

            around.Printer.Line($"{kept.Name} signs in as {kept.Id}; her roles: {(kept.Roles.Count == 0 ? "none" : string.Join(", ", kept.Roles))}.");
            return Exit.Done;
        });
        root.Subcommands.Add(person);
    }

    private static void AddTokens(RootCommand root, CommandLine line)
    {
        var make = new Option<string?>("--make") { Description = "Makes one for what is named here; its secret is shown this once." };
        var days = new Option<int>("--days") { Description = "How long it lasts, from 1 to 365.", DefaultValueFactory = _ => 90 };
        var scopes = new Option<string[]>("--for") { Description = "An act it is good for; can be given several times. Without, for all one may do." };
        var end = new Option<string?>("--end") { Description = "Ends the one with this id." };
        var tokens = new Command("tokens", "Lists, makes and ends one's own tokens.\n\nExamples:\n  brighttier tokens\n  brighttier tokens --make pipeline --days 30 --for configure --for publish") { make, days, scopes, end };
        line.Do(tokens, async (result, around, cancel) =>
        {
            using var client = around.Client();
            if (result.GetValue(end) is { } id)
            {
                await client.RevokeToken(id, cancel);
            }

            if (result.GetValue(make) is { } name)
            {
                var made = await client.CreateToken(new TokenRequest(name, result.GetValue(days), result.GetValue(scopes) is { Length: > 0 } some ? some : null), cancel);
                if (around.Printer.Json)
                {
                    around.Printer.Write(made, WireJson.Default.TokenInfo);
                }
                else
                {
                    around.Printer.Line(made.Secret!);
                }

                return Exit.Done;
            }

            var all = await client.Tokens(cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(all, WireJson.Default.IReadOnlyListTokenInfo);
            }
            else
            {
                around.Printer.Table(["Token", "Name", "Until", "Good for"], all.Select(token => new[] { token.Id, token.Name, $"{token.Expires:yyyy-MM-dd}", token.Scopes is { } only ? string.Join(", ", only) : "all" }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(tokens);
    }
}
