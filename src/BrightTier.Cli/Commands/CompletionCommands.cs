using System.CommandLine;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;

namespace BrightTier.Cli.Commands;

/// <summary>Completion of commands and options in a shell.</summary>
internal static class CompletionCommands
{
    /// <summary>What a shell runs to complete a line: the command itself says what may follow.</summary>
    private static readonly Dictionary<string, (string Script, string Path, string? Hint)> Shells = new()
    {
        ["bash"] = (
            """
            # Completion of brighttier for bash.
            _brighttier() {
              local line="${COMP_LINE:0:COMP_POINT}"
              line="${line#* }"
              local IFS=$'\n'
              COMPREPLY=($(compgen -W "$(brighttier "[suggest:${#line}]" "$line" 2>/dev/null)" -- "${COMP_WORDS[COMP_CWORD]}"))
            }
            complete -o default -F _brighttier brighttier
            """,
            ".local/share/bash-completion/completions/brighttier",
            null
        ),
        ["zsh"] = (
            """
            #compdef brighttier
            # Completion of brighttier for zsh.
            local line="${BUFFER[1,CURSOR]#* }"
            local -a found
            found=("${(@f)$(brighttier "[suggest:${#line}]" "$line" 2>/dev/null)}")
            compadd -- $found
            _files
            """,
            ".local/share/zsh/site-functions/_brighttier",
            "Add to ~/.zshrc, before compinit: fpath+=(~/.local/share/zsh/site-functions)"
        ),
        ["fish"] = (
            """
            # Completion of brighttier for fish.
            function __brighttier
              set -l line (commandline -cp | string replace -r '^\S+\s*' '')
              brighttier "[suggest:"(string length -- "$line")"]" "$line" 2>/dev/null
            end
            complete -c brighttier -a '(__brighttier)'
            """,
            ".config/fish/completions/brighttier.fish",
            null
        ),
    };

    public static Command Make(CommandLine line) =>
        new("completion", "Completion of commands and options in bash, zsh and fish.") { Install(line), Show(line) };

    private static Argument<string> Shell()
    {
        var shell = new Argument<string>("shell")
        {
            Description = "bash, zsh or fish. Default: the shell you are in.",
            DefaultValueFactory = _ =>
                Path.GetFileName(Environment.GetEnvironmentVariable("SHELL")) is { } own && Shells.ContainsKey(own) ? own : "bash",
        };
        shell.AcceptOnlyFromAmong([.. Shells.Keys]);
        return shell;
    }

    private static Command Install(CommandLine line)
    {
        var shell = Shell();
        var command = new Command(
            "install",
            "Writes the completion where the shell looks for it.\n\nExample:\n  brighttier completion install bash"
        )
        {
            shell,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var (script, place, hint) = Shells[result.GetRequiredValue(shell)];
            var path = Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), place);
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            await File.WriteAllTextAsync(path, script + "\n", cancel);
            context.Printer.Done(
                new JsonObject { ["file"] = path },
                $"{path} is written; a new shell completes by it.{(hint is null ? "" : " " + hint)}"
            );
            return Exit.Done;
        });
        return command;
    }

    private static Command Show(CommandLine line)
    {
        var shell = Shell();
        var command = new Command("show", "Prints the completion script.\n\nExample:\n  brighttier completion show fish") { shell };
        line.Do(command, (result, context, _) =>
        {
            context.Printer.Line(Shells[result.GetRequiredValue(shell)].Script);
            return Task.FromResult(Exit.Done);
        });
        return command;
    }
}
