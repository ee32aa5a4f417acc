using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>People and their roles, for administrators.</summary>
internal static class PersonCommands
{
    public static Command Make(CommandLine line) =>
        new("person", "People and their roles; for administrators.") { Create(line), List(line), SetPassword(line) };

    private static Command Create(CommandLine line)
    {
        var id = new Argument<string>("person") { Description = "The id to sign in with." };
        var name = new Option<string>("--name") { Description = "The person's name.", Required = true };
        var roles = new Option<string[]>("--role") { Description = "A role; can be given several times." };
        var language = new Option<string>("--language") { Description = "The person's language.", DefaultValueFactory = _ => "en" };
        var region = new Option<string?>("--region")
        {
            Description = "Whose dates and numbers are written: two letters of ISO 3166-1, such as NL; without it those of the language.",
        };
        var password = new Option<bool>("--password")
        {
            Description = "Sets a password, read from the terminal or one line from a pipe; it is to be changed at the first sign-in.",
        };
        var command = new Command(
            "create",
            "Creates a person, or changes name, roles, language and region.\n\nExample:\n  brighttier person create joris --name "
                + "\"Joris Tiller\" --role quay-hand --password"
        )
        {
            id,
            name,
            roles,
            language,
            region,
            password,
        };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var kept = await client.PutPerson(
                result.GetRequiredValue(id),
                new PersonRequest(
                    result.GetRequiredValue(name),
                    result.GetValue(roles)!,
                    result.GetValue(language)!,
                    result.GetValue(region)
                ),
                cancel
            );
            if (result.GetValue(password))
            {
                await client.SetPassword(kept.Id, Secrets.Read("Password: "), cancel);
            }

            if (context.Printer.Json)
            {
                context.Printer.Write(kept, WireJson.Default.Person);
            }

            context.Printer.Note(
                $"{kept.Name} signs in as {kept.Id}. Roles: {(kept.Roles.Count == 0 ? "none" : string.Join(", ", kept.Roles))}."
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command List(CommandLine line)
    {
        var command = new Command("list", "Lists the people.");
        line.Do(command, async (_, context, cancel) =>
        {
            using var client = context.Client();
            var all = await client.Everybody(cancel);
            if (context.Printer.Json)
            {
                context.Printer.Write(all, WireJson.Default.IReadOnlyListPerson);
                return Exit.Done;
            }

            context.Printer.Table(
                ["Person", "Name", "Roles", "Language", "Region"],
                all.Select(each => new[] { each.Id, each.Name, string.Join(", ", each.Roles), each.Language, each.Region ?? "" })
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command SetPassword(CommandLine line)
    {
        var id = new Argument<string>("person") { Description = "The person's id." };
        var command = new Command(
            "set-password",
            "Sets a password, read from the terminal or one line from a pipe; it is to be changed at the next "
                + "sign-in.\n\nExample:\n  brighttier person set-password joris"
        )
        {
            id,
        };
        line.Change(command, async (result, context, cancel) =>
        {
            using var client = context.Client();
            await client.SetPassword(result.GetRequiredValue(id), Secrets.Read("Password: "), cancel);
            context.Printer.Done(
                new JsonObject { ["person"] = result.GetRequiredValue(id) },
                $"{result.GetRequiredValue(id)} has a new password, to be changed at the next sign-in."
            );
            return Exit.Done;
        });
        return command;
    }
}
