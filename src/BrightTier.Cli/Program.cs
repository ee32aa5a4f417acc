using BrightTier.Cli;

return await CommandLine.Make(Console.Out, Console.Error).Run(args);
