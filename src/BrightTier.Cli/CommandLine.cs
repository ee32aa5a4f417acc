using System.CommandLine;
using System.CommandLine.Help;
using System.CommandLine.Parsing;
using BrightTier.Cli.Commands;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Core.Model;

namespace BrightTier.Cli;

/// <summary>Exit codes: done, findings or refused, wrong usage, not reachable.</summary>
public static class Exit
{
    public const int Done = 0;
    public const int Refused = 1;
    public const int Usage = 2;
    public const int Unreachable = 3;
}

/// <summary>What a command works with: the service's address, who is asking, where words go, and what the environment is called.</summary>
public sealed record CommandContext(Uri Address, string? Token, Printer Printer, string Profile)
{
    public BrightTierClient Client() => new(Address, Token);
}

/// <summary>Something about the call itself was wrong.</summary>
public sealed class UsageException(string message) : Exception(message);

/// <summary>The <c>brighttier</c> command with all its subcommands.</summary>
public sealed class CommandLine
{
    private readonly RootCommand root;
    private readonly TextWriter error;

    private readonly Option<string?> server = new("--server") { Description = "The service's address. Default: BRIGHTTIER_SERVER, the one signed in to, or http://127.0.0.1:5080.", Recursive = true };
    private readonly Option<string?> token = new("--token") { Description = "A personal token. Default: BRIGHTTIER_TOKEN, or the one kept by 'sign-in'.", Recursive = true };
    private readonly Option<string?> profile = new("--profile") { Description = "The environment, by the name it was signed in to under, such as test or production. Default: BRIGHTTIER_PROFILE, or the last.", Recursive = true };
    private readonly Option<bool> json = new("--json") { Description = "Prints JSON for programs instead of words for people.", Recursive = true };

    private CommandLine(TextWriter output, TextWriter error)
    {
        this.error = error;
        Output = output;
        root = new RootCommand("Forms as shared metadata: arrange an entity's fields, try the form, publish it to everyone.\n\nExit codes: 0 done, 1 findings or refused, 2 usage, 3 not reachable.");
        root.Options.Add(server);
        root.Options.Add(token);
        root.Options.Add(profile);
        root.Options.Add(json);
        ServingCommands.Add(root, this);
        DoctorCommand.Add(root, this);
        AccessCommands.Add(root, this);
        EntityCommands.Add(root, this);
        LayoutCommands.Add(root, this);
        CheckCommand.Add(root, this);
        MergingCommands.Add(root, this);
        AskingCommands.Add(root, this);
        TextCommands.Add(root, this);
        FileCommands.Add(root, this);
        ReleaseCommands.Add(root, this);
        RecordCommands.Add(root, this);
        BundleCommands.Add(root, this);
        ReviewCommands.Add(root, this);
        PeopleCommands.Add(root, this);
        AuditCommands.Add(root, this);
    }

    public TextWriter Output { get; }

    public static CommandLine Make(TextWriter output, TextWriter error) => new(output, error);

    public async Task<int> Run(string[] args)
    {
        var parsed = root.Parse(args);
        if (parsed.Errors.Count > 0)
        {
            foreach (var problem in Wrong(parsed))
            {
                await error.WriteLineAsync($"brighttier: {problem}");
            }

            await error.WriteLineAsync($"'{NameOf(parsed.CommandResult)} --help' tells how it is used.");
            return Exit.Usage;
        }

        if (parsed.Action is HelpAction)
        {
            // Among others a command is told in a line; its examples are for whoever asks about it alone.
            foreach (var command in parsed.CommandResult.Command.Subcommands)
            {
                command.Description = command.Description?.Split('\n')[0];
            }
        }

        return await parsed.InvokeAsync(new InvocationConfiguration { Output = Output, Error = error, EnableDefaultExceptionHandler = false });
    }

    /// <summary>What is wrong with a call, and what would be right.</summary>
    private static IEnumerable<string> Wrong(ParseResult parsed)
    {
        var command = parsed.CommandResult.Command;
        if (command.Subcommands.Count > 0 && parsed.UnmatchedTokens is [var word, ..])
        {
            return [Suggestion.Sentence($"There is no command '{NameOf(parsed.CommandResult)} {word}'{Suggestion.For(word, [.. command.Subcommands.Select(each => each.Name)])}")];
        }

        if (command.Subcommands.Count > 0 && command.Action is null)
        {
            return [$"'{NameOf(parsed.CommandResult)}' needs a command: {string.Join(", ", command.Subcommands.Select(each => each.Name))}."];
        }

        return parsed.Errors.Select(problem =>
        {
            var (name, type, given) = problem.SymbolResult switch
            {
                OptionResult option => (option.Option.Name, option.Option.ValueType, option.Tokens),
                ArgumentResult argument => (argument.Argument.Name, argument.Argument.ValueType, argument.Tokens),
                _ => ("", typeof(string), []),
            };
            var what = Nullable.GetUnderlyingType(type) ?? type;
            return what == typeof(DateTimeOffset) && given is [var moment] ? $"{name} must be a moment such as 2026-12-01T09:00Z; it is '{moment.Value}'."
                : (what == typeof(int) || what == typeof(long)) && given is [var number] ? $"{name} must be a whole number; it is '{number.Value}'."
                : problem.Message;
        });
    }

    /// <summary>A command as it is called: brighttier and the words after it.</summary>
    private static string NameOf(CommandResult? result) =>
        result is null or { Command: RootCommand } ? "brighttier" : $"{NameOf(result.Parent as CommandResult)} {result.Command.Name}";

    /// <summary>Gives a command what it does, with every failure turned into a message and an exit code.</summary>
    public void Do(Command command, Func<ParseResult, CommandContext, CancellationToken, Task<int>> act) => command.SetAction(async (result, cancel) =>
    {
        var printer = new Printer(Output, result.GetValue(json));
        try
        {
            var name = result.GetValue(profile) ?? Environment.GetEnvironmentVariable("BRIGHTTIER_PROFILE");
            var kept = command.Name == "sign-in" ? Credentials.Read().Profiles.GetValueOrDefault(name ?? Credentials.Unnamed) : Credentials.Read().Find(name);
            // An environment that is named says more than a variable that is there anyway.
            var address = result.GetValue(server) ?? (name is null ? Environment.GetEnvironmentVariable("BRIGHTTIER_SERVER") : null) ?? kept?.Server ?? "http://127.0.0.1:5080";
            if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
            {
                throw new UsageException($"--server must be an address such as http://127.0.0.1:5080; it is '{address}'.");
            }

            var secret = result.GetValue(token) ?? (name is null ? Environment.GetEnvironmentVariable("BRIGHTTIER_TOKEN") : null) ?? (kept?.Server == address ? kept.Token : null);
            return await act(result, new CommandContext(new Uri(uri.ToString().TrimEnd('/') + "/"), secret, printer, name ?? Credentials.Unnamed), cancel);
        }
        catch (UsageException usage)
        {
            await error.WriteLineAsync($"brighttier: {usage.Message}");
            return Exit.Usage;
        }
        catch (UnreachableException unreachable)
        {
            await error.WriteLineAsync($"brighttier: {unreachable.Message}");
            await error.WriteLineAsync("Is the service running there? 'brighttier demo' starts one with the demo; --server names another.");
            return Exit.Unreachable;
        }
        catch (RefusedException refused)
        {
            await error.WriteLineAsync($"brighttier: {refused.Message} [{refused.Problem.Code}]");
            foreach (var part in refused.Problem.Problems ?? [])
            {
                var place = part.Line is { } line ? $"line {line}, column {part.Column}" : part.Pointer;
                if (part.Message != refused.Message || place.Length > 0)
                {
                    await error.WriteLineAsync($"  {(place.Length == 0 ? "" : place + ": ")}{part.Message}");
                }
            }

            if (refused.Problem.Code == "not-signed-in")
            {
                await error.WriteLineAsync("  'brighttier sign-in --as ada' signs in to a demo; elsewhere give a token with --token.");
            }

            return Exit.Refused;
        }
        catch (Exception io) when (io is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"brighttier: {io.Message}");
            return Exit.Usage;
        }
    });
}
