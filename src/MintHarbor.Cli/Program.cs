// The core from the command line: one verb, JSON in, JSON out. Nothing else goes to standard output. 'paper' alone answers with a table.
using MintHarbor.Cli;

return args is ["paper", .. var rest]
    ? PaperVerb.Run(rest, Path.Combine("src", "MintHarbor.Web", "wwwroot", "lib", "print"), Console.Out, Console.Error)
    : CoreCommand.Run(args, Console.In, Console.Out, Console.Error);
