using System.CommandLine;
using System.Text;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>All commands in one text, made of the commands themselves: docs/commands.md, and the man page.</summary>
internal static class ReferenceCommand
{
    public static Command Make(CommandLine line)
    {
        var format = new Option<string>("--format") { Description = "markdown or man.", DefaultValueFactory = _ => "markdown" };
        format.AcceptOnlyFromAmong("markdown", "man");
        var command = new Command(
            "reference",
            "Prints the reference of all commands.\n\nExamples:\n  brighttier reference > commands.md\n  brighttier reference "
                + "--format man > brighttier.1"
        )
        {
            format,
        };
        line.Do(command, (result, context, _) =>
        {
            context.Printer.Line((result.GetValue(format) == "man" ? Man(line.Root) : Markdown(line.Root)).TrimEnd());
            return Task.FromResult(Exit.Done);
        });
        return command;
    }

    private static string Markdown(RootCommand root)
    {
        var text = new StringBuilder(
            "# Commands\n\nThe reference of `brighttier`, made by `brighttier reference`; `make commands` makes it anew. "
                + "Every command has `--help`.\n"
        );
        text.Append("\nExit codes: 0 done, 1 findings or refused, 2 usage, 3 not reachable.\n\n## Options of all commands\n\n");
        Options(root, option => text.Append($"- `{option}`: "), description => text.Append(description).Append('\n'));
        foreach (var (name, command) in All(root))
        {
            var (about, examples) = Parts(command);
            text.Append($"\n## {name}\n\n{about}\n");
            if (command.Subcommands.Count > 0 && command.Action is null)
            {
                continue;
            }

            text.Append($"\n```\n{Usage(name, command)}\n```\n");
            if (command.Arguments.Count + command.Options.Count > 0)
            {
                text.Append('\n');
            }

            foreach (var argument in command.Arguments)
            {
                text.Append($"- `{argument.Name}`: {argument.Description}\n");
            }

            Options(command, option => text.Append($"- `{option}`: "), description => text.Append(description).Append('\n'));
            if (examples.Length > 0)
            {
                text.Append($"\n```\n{string.Join('\n', examples)}\n```\n");
            }
        }

        return text.ToString();
    }

    /// <summary>The same as a man page (man(7) macros).</summary>
    private static string Man(RootCommand root)
    {
        var text = new StringBuilder(
            ".TH BRIGHTTIER 1\n.SH NAME\nbrighttier \\- forms as shared metadata\n.SH SYNOPSIS\n.B brighttier\ncommand "
                + "[arguments] [options]\n.SH EXIT STATUS\n0 done, 1 findings or refused, 2 usage, 3 not reachable.\n.SH OPTIONS\n"
        );
        Options(root, option => text.Append($".TP\n.B {Roff(option)}\n"), description => text.Append(Roff(description)).Append('\n'));
        text.Append(".SH COMMANDS\n");
        foreach (var (name, command) in All(root))
        {
            var (about, examples) = Parts(command);
            text.Append(
                $".SS {Roff(command.Subcommands.Count > 0 && command.Action is null ? name : Usage(name, command))}\n{Roff(about)}\n"
            );
            foreach (var argument in command.Arguments)
            {
                text.Append($".TP\n.I {Roff(argument.Name)}\n{Roff(argument.Description ?? "")}\n");
            }

            Options(
                command,
                option => text.Append($".TP\n.B {Roff(option)}\n"),
                description => text.Append(Roff(description)).Append('\n')
            );
            if (examples.Length > 0)
            {
                text.Append($".PP\n.nf\n{string.Join('\n', examples.Select(Roff))}\n.fi\n");
            }
        }

        return text.ToString();
    }

    private static string Roff(string text) =>
        text.Replace("\\", "\\e", StringComparison.Ordinal).Replace("-", "\\-", StringComparison.Ordinal).TrimStart('.', '\'');

    private static IEnumerable<(string Name, Command Command)> All(Command from, string path = "brighttier") =>
        from
            .Subcommands.Where(each => !each.Hidden)
            .SelectMany(each => All(each, $"{path} {each.Name}").Prepend(($"{path} {each.Name}", each)));

    private static void Options(Command command, Action<string> name, Action<string> description)
    {
        foreach (var option in command.Options.Where(option => !option.Hidden && option.Name is not ("--help" or "--version")))
        {
            name(
                string.Join(", ", option.Aliases.Prepend(option.Name))
                    + (option.ValueType == typeof(bool) ? "" : $" <{option.Name.TrimStart('-')}>")
            );
            description(option.Description ?? "");
        }
    }

    private static string Usage(string name, Command command) =>
        string.Join(
            ' ',
            command
                .Arguments.Select(argument =>
                    argument.Arity.MinimumNumberOfValues == 0 ? $"[{argument.Name}]"
                    : argument.Arity.MaximumNumberOfValues > 1 ? $"{argument.Name}..."
                    : argument.Name
                )
                .Prepend(name)
        ) + (command.Options.Any(option => !option.Hidden && option.Name != "--help") ? " [options]" : "");

    /// <summary>What a command does, and the lines that show how.</summary>
    private static (string About, string[] Examples) Parts(Command command)
    {
        var lines = (command.Description ?? "").Split('\n');
        var from = Array.FindIndex(lines, line => line.StartsWith("Example", StringComparison.Ordinal));
        return (
            string.Join('\n', lines[..(from < 0 ? lines.Length : from)]).Trim(),
            from < 0 ? [] : [.. lines[(from + 1)..].Select(line => line.Trim()).Where(line => line.Length > 0)]
        );
    }
}
