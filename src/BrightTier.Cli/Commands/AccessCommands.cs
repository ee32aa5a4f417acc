using System.CommandLine;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Signing in, and saying who one is.</summary>
internal static class AccessCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        var person = new Option<string?>("--as") { Description = "The person to be, where the service lets one pick (a demo)." };
        var signIn = new Command("sign-in", "Signs in and keeps a token for later calls.\n\nExamples:\n  brighttier sign-in --as ada\n  brighttier sign-in --server https://forms.example.org --token bt_…") { person };
        line.Do(signIn, async (result, around, cancel) =>
        {
            var token = around.Token;
            if (result.GetValue(person) is { } id)
            {
                using var anonymous = new Client.BrightTierClient(around.Address, null);
                token = (await anonymous.PickPerson(id, $"brighttier on {Environment.MachineName}", cancel)).Secret;
            }

            if (token is null)
            {
                throw new UsageException("Say who: --as PERSON in a demo, or --token TOKEN.");
            }

            using var client = new Client.BrightTierClient(around.Address, token);
            var session = await client.Session(cancel);
            if (session.Person is null)
            {
                throw new UsageException("The token is not known there or has expired.");
            }

            new Credentials(around.Address.ToString().TrimEnd('/'), token).Keep();
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
    }

    private static void Who(Surroundings around, SessionInfo session)
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
