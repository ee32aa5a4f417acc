using BrightTier.Cli;
using BrightTier.Cli.Invocation;
using BrightTier.Core.Icons;
using BrightTier.Core.Model;

// What documents are read and checked by is made ready while the commands are put together; whoever asks for help alone waits for nothing
// of it.
if (args.Length > 1)
{
    _ = Task.Run(() => (Grammar.Roots, Icon.Names));
}

return await new CommandLine(Console.Out, Console.Error, AllCommands.List).Run(args);
