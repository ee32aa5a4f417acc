using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>A new service set up by the code it printed; and a code made anew at the machine.</summary>
internal static class SetupCommand
{
    public static Command Make(CommandLine line)
    {
        var fresh = new Option<bool>("--new-code") { Description = "Prints a new code for the service whose data is on this machine." };
        var code = new Option<string?>("--code") { Description = "The code the service printed when it began." };
        var person = new Option<string>("--person")
        {
            Description = "By what you will sign in.",
            DefaultValueFactory = _ => "administrator",
        };
        var name = new Option<string?>("--name") { Description = "Your name; default: what you sign in by." };
        var title = new Option<string>("--title")
        {
            Description = "What the application is called.",
            DefaultValueFactory = _ => "Application",
        };
        var languages = new Option<string>("--languages")
        {
            Description = "Its languages, with commas between.",
            DefaultValueFactory = _ => "en",
        };
        var currency = new Option<string>("--currency") { Description = "Its currency (ISO 4217).", DefaultValueFactory = _ => "EUR" };
        var zone = new Option<string>("--time-zone") { Description = "Its time zone.", DefaultValueFactory = _ => TimeZoneInfo.Local.Id };
        var (data, database) = (ServiceCommands.Data(".data"), ServiceCommands.Database());
        var setup = new Command(
            "setup",
            "Sets up a new service: its administrator, whose password it asks for, and its application.\n\nExamples:\n  brighttier setup "
                + "--code bt_… --person ada --name \"Ada Wader\" --title \"Saltmarsh Quay\" --languages en,nl --currency EUR --time-zone "
                + "Europe/Amsterdam\n  brighttier setup --new-code --data /var/lib/brighttier"
        )
        {
            fresh,
            code,
            person,
            name,
            title,
            languages,
            currency,
            zone,
            data,
            database,
        };
        line.Do(setup, async (result, context, cancel) =>
        {
            if (result.GetValue(fresh))
            {
                return await NewCode(result.GetValue(data), result.GetValue(database), cancel);
            }

            using var client = new Client.BrightTierClient(context.Address, null);
            var session = await client.SetUp(
                new SetupRequest(
                    result.GetValue(code) ?? throw new UsageException("Give the code the service printed: --code bt_…"),
                    result.GetRequiredValue(person),
                    result.GetValue(name) ?? result.GetRequiredValue(person),
                    Secrets.Read("Password: "),
                    result.GetRequiredValue(title),
                    result.GetRequiredValue(languages).Split(',', StringSplitOptions.TrimEntries),
                    result.GetRequiredValue(currency),
                    result.GetRequiredValue(zone)
                ),
                cancel
            );
            context.Printer.Done(
                new JsonObject { ["person"] = session.Person?.Id, ["release"] = session.Release },
                $"{session.Application.Title} is set up. Sign in: brighttier sign-in --as {session.Person?.Id} --password"
            );
            return Exit.Done;
        });
        return setup;
    }

    private static Task<int> NewCode(string? data, string? database, CancellationToken cancel)
    {
        string[] arguments = ["--Data", Path.GetFullPath(data ?? ".data"), "--NewCode", "true"];
        return ServiceCommands.Run(database is null ? arguments : [.. arguments, "--Database", database], cancel);
    }
}
