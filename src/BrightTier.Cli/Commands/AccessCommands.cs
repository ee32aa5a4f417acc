using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Signing in, and saying who one is.</summary>
internal static class AccessCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var person = new Option<string?>("--as") { Description = "The person to be: with a password, or, in a demo, without." };
        var password = new Option<bool>("--password") { Description = "Reads her password, from the terminal or one line from a pipe." };
        var signIn = new Command("sign-in", "Signs in and keeps a token for later calls, under the name of the environment.\n\nExamples:\n  brighttier sign-in --as ada\n  brighttier sign-in --as ada --password --server https://forms.example.org\n  brighttier sign-in --profile production --server https://forms.example.org --token bt_…") { person, password };
        line.Do(signIn, async (result, around, cancel) =>
        {
            var token = around.Token;
            if (result.GetValue(person) is { } id)
            {
                using var anonymous = new Client.BrightTierClient(around.Address, null);
                var who = new SignIn(id, Password: result.GetValue(password) ? Secrets.Read("Password: ") : null);
                token = (await anonymous.SignIn(who, new TokenRequest($"brighttier on {Environment.MachineName}"), cancel)).Secret;
            }

            if (token is null)
            {
                throw new UsageException("Say who: --as PERSON, with --password outside a demo, or --token TOKEN.");
            }

            using var client = new Client.BrightTierClient(around.Address, token);
            var session = await client.Session(cancel);
            if (session.Person is null)
            {
                throw new UsageException("The token is not known there or has expired.");
            }

            Credentials.Read().Keep(around.Profile is "pulled" || around.Profile.Any(sign => !char.IsAsciiLetterOrDigit(sign) && sign is not ('-' or '_')) ? throw new UsageException($"A profile is named with letters, digits, '-' and '_', and not 'pulled'; it is '{around.Profile}'.") : around.Profile, new Profile(around.Address.ToString().TrimEnd('/'), token));
            Who(around, session);
            return Exit.Done;
        });
        root.Subcommands.Add(signIn);

        var who = new Command("who", "Says who one is and what one may.");
        line.Do(who, async (_, around, cancel) =>
        {
            using var client = around.Client();
            var session = await client.Session(cancel);
            Who(around, session);
            return session.Person is null ? Exit.Refused : Exit.Done;
        });
        root.Subcommands.Add(who);

        var profiles = new Command("profiles", "Lists the environments signed in to.");
        line.Do(profiles, (_, around, _) =>
        {
            var kept = Credentials.Read();
            var all = kept.Profiles.OrderBy(each => each.Key, StringComparer.Ordinal);
            if (around.Printer.Json)
            {
                around.Printer.Write(new JsonArray([.. all.Select(each => new JsonObject { ["profile"] = each.Key, ["server"] = each.Value.Server, ["current"] = each.Key == kept.Current })]));
                return Task.FromResult(Exit.Done);
            }

            around.Printer.Table(["Profile", "Server"], all.Select(each => new[] { each.Key + (each.Key == kept.Current ? " (current)" : ""), each.Value.Server }));
            return Task.FromResult(Exit.Done);
        });
        root.Subcommands.Add(profiles);
    }

    private static void Who(CommandContext around, SessionInfo session)
    {
        if (around.Printer.Json)
        {
            around.Printer.Write(session, WireJson.Default.SessionInfo);
        }
        else
        {
            around.Printer.Line(session.Person is { } person
                ? $"{person.Name} ({string.Join(", ", person.Roles)}) at {around.Address}; may {string.Join(", ", session.May)}"
                : $"Nobody is signed in at {around.Address}.");
        }
    }
}
