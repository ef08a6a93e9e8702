// The core from the command line: one verb, JSON in, JSON out. Nothing else goes to standard output.
using MintHarbor.Cli;

return CoreCommand.Run(args, Console.In, Console.Out, Console.Error);
