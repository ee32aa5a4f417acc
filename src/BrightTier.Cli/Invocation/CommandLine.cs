using System.CommandLine;
using System.CommandLine.Help;
using System.CommandLine.Parsing;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Invocation;

/// <summary>The <c>brighttier</c> command: reads what was called, and does it with the options every command has.</summary>
public sealed class CommandLine
{
    private readonly TextWriter error;

    private readonly Option<string?> server = new("--server")
    {
        Description = "The service's address. Default: the profile's; without one BRIGHTTIER_SERVER, or http://127.0.0.1:5080.",
        Recursive = true,
    };
    private readonly Option<string?> token = new("--token")
    {
        Description = "A personal token. Default: BRIGHTTIER_TOKEN, or the one kept by 'sign-in'.",
        Recursive = true,
    };
    private readonly Option<string?> profile = new("--profile")
    {
        Description = "The environment, such as test or production. Default: BRIGHTTIER_PROFILE, or the one 'profile use' named.",
        Recursive = true,
    };
    private readonly Option<bool> json = new("--json") { Description = "Prints JSON, errors too.", Recursive = true };
    private readonly Option<bool> quiet = new("--quiet", "-q") { Description = "Prints results and errors alone.", Recursive = true };
    private readonly Option<bool> yes = new("--yes", "-y") { Description = "Answers yes to every question.", Recursive = true };

    /// <param name="commands">Each makes a command whose work is done by this line.</param>
    public CommandLine(TextWriter output, TextWriter error, IEnumerable<Func<CommandLine, Command>> commands)
    {
        this.error = error;
        Output = output;
        Root = new RootCommand(
            "Forms as shared metadata: arrange an entity's fields, try the form, publish it to everyone.\n\nExit codes: 0 "
                + "done, 1 findings or refused, 2 usage, 3 not reachable."
        );
        foreach (var option in new Option[] { server, token, profile, json, quiet, yes })
        {
            Root.Options.Add(option);
        }

        foreach (var command in commands)
        {
            Root.Subcommands.Add(command(this));
        }
    }

    /// <summary>All commands, for the reference that is made of them.</summary>
    public RootCommand Root { get; }

    public TextWriter Output { get; }

    public async Task<int> Run(string[] args)
    {
        var parsed = Root.Parse(args);
        if (parsed.Errors.Count > 0 || Misspelt(parsed) is not null)
        {
            var problems = Misspelt(parsed) is { } misspelt ? [misspelt] : Wrong(parsed).ToArray();
            if (args.Contains("--json"))
            {
                await Fail("usage", string.Join(' ', problems), null);
                return Exit.Usage;
            }

            foreach (var problem in problems)
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

        return await parsed.InvokeAsync(
            new InvocationConfiguration
            {
                Output = Output,
                Error = error,
                EnableDefaultExceptionHandler = false,
            }
        );
    }

    /// <summary>A word that was to be an option and stands where a file or a name would: it is told as what it is.</summary>
    private static string? Misspelt(ParseResult parsed)
    {
        var stop = parsed.Tokens.TakeWhile(each => each.Type != TokenType.DoubleDash).Count();
        var before = parsed.Tokens.Take(stop).Select(each => each.Value).ToHashSet(StringComparer.Ordinal);
        var word = parsed
            .CommandResult.Children.OfType<ArgumentResult>()
            .SelectMany(argument => argument.Tokens)
            .Select(each => each.Value)
            .Concat(parsed.UnmatchedTokens)
            .FirstOrDefault(value => value.Length > 1 && value[0] == '-' && !char.IsAsciiDigit(value[1]) && before.Contains(value));
        if (word is null)
        {
            return null;
        }

        var options = new List<string>();
        for (var at = parsed.CommandResult; at is not null; at = at.Parent as CommandResult)
        {
            options.AddRange(
                at.Command.Options.Where(option => !option.Hidden && (option.Recursive || at == parsed.CommandResult))
                    .Select(option => option.Name)
            );
        }

        return Suggestion.Sentence($"'{NameOf(parsed.CommandResult)}' has no option '{word}'{Suggestion.For(word, [.. options])}").English;
    }

    /// <summary>What is wrong with a call, and what would be right.</summary>
    private static IEnumerable<string> Wrong(ParseResult parsed)
    {
        var command = parsed.CommandResult.Command;
        if (command.Subcommands.Count > 0 && parsed.UnmatchedTokens is [var word, ..])
        {
            return
            [
                Suggestion
                    .Sentence(
                        $"There is no command '{NameOf(parsed.CommandResult)} "
                            + $"{word}'{Suggestion.For(word, [.. command.Subcommands.Select(each => each.Name)])}"
                    )
                    .English,
            ];
        }

        if (command.Subcommands.Count > 0 && command.Action is null)
        {
            return
            [
                $"'{NameOf(parsed.CommandResult)}' needs a command: {string.Join(", ", command.Subcommands.Select(each => each.Name))}.",
            ];
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
            return what == typeof(DateTimeOffset) && given is [var moment]
                    ? $"{name} must be a moment such as 2026-12-01T09:00Z; it is '{moment.Value}'."
                : (what == typeof(int) || what == typeof(long)) && given is [var number]
                    ? $"{name} must be a whole number; it is '{number.Value}'."
                : problem.Message;
        });
    }

    /// <summary>A command as it is called: brighttier and the words after it.</summary>
    private static string NameOf(CommandResult? result) =>
        result is null or { Command: RootCommand } ? "brighttier" : $"{NameOf(result.Parent as CommandResult)} {result.Command.Name}";

    /// <summary>Gives a command what it does, with every failure turned into a message and an exit code.</summary>
    public void Do(Command command, Func<ParseResult, CommandContext, CancellationToken, Task<int>> act) =>
        command.SetAction(
            async (result, cancel) =>
            {
                var printer = new Printer(Output, result.GetValue(json), result.GetValue(quiet));
                try
                {
                    return await act(result, Context(command, result, printer), cancel);
                }
                catch (UsageException usage)
                {
                    await Fail("usage", usage.Message, printer);
                    return Exit.Usage;
                }
                catch (CancelledException cancelled)
                {
                    await Fail("cancelled", cancelled.Message, printer);
                    return Exit.Refused;
                }
                catch (UnreachableException unreachable)
                {
                    await Fail(
                        "unreachable",
                        unreachable.Message,
                        printer,
                        "Is the service running there? 'brighttier demo' starts one with the demo; --server names another."
                    );
                    return Exit.Unreachable;
                }
                catch (RefusedException refused)
                {
                    await Fail(refused, printer);
                    return Exit.Refused;
                }
                catch (Exception io) when (io is IOException or UnauthorizedAccessException)
                {
                    await Fail("file", io.Message, printer);
                    return Exit.Usage;
                }
            }
        );

    /// <summary>The same for a command that changes what others see: in an environment marked as production it asks first.</summary>
    public void Change(Command command, Func<ParseResult, CommandContext, CancellationToken, Task<int>> act) =>
        Do(command, (result, context, cancel) =>
        {
            var dry = command.Options.OfType<Option<bool>>().FirstOrDefault(option => option.Name == "--dry-run");
            if (context.IsProduction && (dry is null || !result.GetValue(dry)))
            {
                context.Confirm($"'{context.Profile}' is marked as production: this changes what its users see.");
            }

            return act(result, context, cancel);
        });

    /// <summary>
    /// Which service is meant, and who is asking. What stands on the command line comes before the environment, the environment before what
    /// is kept;
    /// a token that is kept goes to the service it is for and to no other.
    /// </summary>
    private CommandContext Context(Command command, ParseResult result, Printer printer)
    {
        var named = result.GetValue(profile);
        var environment = Environment.GetEnvironmentVariable("BRIGHTTIER_SERVER");
        var fromEnvironment = named is null ? environment : null;
        var name = named ?? (fromEnvironment is null ? Environment.GetEnvironmentVariable("BRIGHTTIER_PROFILE") : null);
        var credentials = Credentials.Read();
        var kept = command.Name == "sign-in" ? credentials.Profiles.GetValueOrDefault(name ?? Credentials.Unnamed) : credentials.Find(name);
        var address = result.GetValue(server) ?? fromEnvironment ?? kept?.Server ?? environment ?? "http://127.0.0.1:5080";
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
        {
            throw new UsageException(
                $"{(result.GetValue(server) is null && address == environment ? "BRIGHTTIER_SERVER" : "--server")} must "
                    + $"be an address such as http://127.0.0.1:5080; it is '{address}'."
            );
        }

        var itsOwn = kept?.Server == address.TrimEnd('/');
        var secret = result.GetValue(token)
            ?? (named is null ? Environment.GetEnvironmentVariable("BRIGHTTIER_TOKEN") : null)
            ?? (itsOwn ? kept!.Token : null);
        return new CommandContext(
            new Uri(uri.ToString().TrimEnd('/') + "/"),
            secret,
            printer,
            name ?? (itsOwn ? credentials.Current : Credentials.Unnamed),
            itsOwn && kept!.Production,
            result.GetValue(yes)
        );
    }

    private Task Fail(string code, string message, Printer? printer, string? more = null) =>
        printer is null or { Json: true }
            ? error.WriteLineAsync(new JsonObject { ["code"] = code, ["message"] = message }.ToJsonString(Printer.Indented))
            : error.WriteLineAsync($"brighttier: {message}{(more is null ? "" : Environment.NewLine + more)}");

    private async Task Fail(RefusedException refused, Printer printer)
    {
        var parts = refused.Problem.Problems ?? [];
        if (printer.Json)
        {
            await error.WriteLineAsync(
                new JsonObject
                {
                    ["code"] = refused.Problem.Code,
                    ["message"] = refused.Message,
                    ["problems"] = new JsonArray([
                        .. parts.Select(part => JsonSerializer.SerializeToNode(part, WireJson.Default.ProblemPart)),
                    ]),
                }.ToJsonString(Printer.Indented)
            );
            return;
        }

        await error.WriteLineAsync($"brighttier: {refused.Message} [{refused.Problem.Code}]");
        foreach (var part in parts)
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
    }
}
