using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Signing in and out, and how things stand.</summary>
internal static class SessionCommands
{
    public static Command SignIn(CommandLine line)
    {
        var person = new Option<string?>("--as") { Description = "The person to sign in as: with a password, or, in a demo, without." };
        var password = new Option<bool>("--password") { Description = "Reads the password from the terminal, or one line from a pipe." };
        var production = new Option<bool>("--production")
        {
            Description = "Marks the profile as production: what changes something there asks first.",
        };
        var command = new Command(
            "sign-in",
            "Signs in and keeps a token for later calls, under the name of the profile.\n\nExamples:\n  brighttier sign-in "
                + "--as ada\n  brighttier sign-in --as ada --password --server https://forms.example.org\n  brighttier sign-in "
                + "--profile live --server https://forms.example.org --token bt_… --production"
        )
        {
            person,
            password,
            production,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var token = context.Token;
            if (result.GetValue(person) is { } id)
            {
                token = await NewToken(context, id, result.GetValue(password), cancel);
            }

            if (token is null)
            {
                throw new UsageException("Say who: --as PERSON, with --password outside a demo, or --token TOKEN.");
            }

            using var client = new Client.BrightTierClient(context.Address, token);
            var session = await client.Session(cancel);
            if (session.Person is null)
            {
                throw new UsageException("The token is not known there or has expired.");
            }

            var credentials = Credentials.Read();
            var server = context.Address.ToString().TrimEnd('/');
            var name = NameFor(context, credentials, server);
            credentials = credentials.With(
                name,
                new Profile(
                    server,
                    token,
                    result.GetValue(production) || (credentials.Profiles.GetValueOrDefault(name)?.Production ?? false)
                )
            );
            credentials.Save();
            Print(context, session, name);
            if (credentials.Current != name)
            {
                context.Printer.Note(
                    $"Kept as profile '{name}'. The current one is still '{credentials.Current}'; 'brighttier profile use "
                        + $"{name}' changes that."
                );
            }

            return Exit.Done;
        });
        return command;
    }

    /// <summary>A token for somebody who gives her password; one that somebody else set she changes by that.</summary>
    private static async Task<string?> NewToken(CommandContext context, string person, bool password, CancellationToken cancel)
    {
        using var anonymous = new Client.BrightTierClient(context.Address, null);
        var who = new SignIn(person, Password: password ? Secrets.Read("Password: ") : null);
        var kept = new TokenRequest($"brighttier on {Environment.MachineName}");
        try
        {
            return (await anonymous.SignIn(who, kept, cancel)).Secret;
        }
        catch (Client.RefusedException refused) when (refused.Problem.Code == "password-to-change")
        {
            context.Printer.Note("Somebody else set this password; choose your own.");
            if (Secrets.Next("New password: ") is not { } chosen)
            {
                throw;
            }

            return (await anonymous.SignIn(who with { NewPassword = chosen }, kept, cancel)).Secret;
        }
    }

    public static Command SignOut(CommandLine line)
    {
        var command = new Command(
            "sign-out",
            "Revokes the token of the profile, and forgets the profile.\n\nExamples:\n  brighttier sign-out\n  brighttier "
                + "sign-out --profile test"
        );
        line.Do(command, async (_, context, cancel) =>
        {
            var credentials = Credentials.Read();
            if (!credentials.Profiles.TryGetValue(context.Profile, out var kept))
            {
                throw new UsageException(
                    credentials.Profiles.Count == 0 ? "You are not signed in anywhere." : $"There is no profile '{context.Profile}'."
                );
            }

            try
            {
                using var client = new Client.BrightTierClient(new Uri(kept.Server + "/"), kept.Token);
                await client.SignOut(cancel);
            }
            catch (Client.RefusedException)
            {
                // It is good for nothing there any more.
            }

            credentials.Without(context.Profile).Save();
            context.Printer.Done(
                new JsonObject { ["profile"] = context.Profile, ["server"] = kept.Server },
                $"Signed out of {kept.Server}."
            );
            return Exit.Done;
        });
        return command;
    }

    internal static void Print(CommandContext context, SessionInfo session, string profile)
    {
        if (context.Printer.Json)
        {
            context.Printer.Write(session, WireJson.Default.SessionInfo);
            return;
        }

        context.Printer.Line(
            session.Person is { } person
                ? $"{person.Name} ({string.Join(", ", person.Roles)}) at {context.Address.ToString().TrimEnd('/')}, profile "
                    + $"{profile}{(context.IsProduction ? " (production)" : "")}; permissions: {string.Join(", ", session.Permissions)}."
                : $"Nobody is signed in at {context.Address.ToString().TrimEnd('/')}."
        );
    }

    /// <summary>The name that was given; without one the default, unless that is another service's: then the host's.</summary>
    private static string NameFor(CommandContext context, Credentials credentials, string server)
    {
        if (
            context.Profile != Credentials.Unnamed
            || credentials.Profiles.GetValueOrDefault(Credentials.Unnamed) is not { } other
            || other.Server == server
        )
        {
            return context.Profile is not "pulled" && context.Profile.All(sign => char.IsAsciiLetterOrDigit(sign) || sign is '-' or '_')
                ? context.Profile
                : throw new UsageException(
                    $"A profile is named with letters, digits, '-' and '_', and not 'pulled'; it is '{context.Profile}'."
                );
        }

        return $"{context.Address.Host.Replace('.', '-').Trim('[', ']').Replace(':', '-')}-{context.Address.Port}";
    }
}
