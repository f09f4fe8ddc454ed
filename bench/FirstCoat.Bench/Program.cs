using System.Globalization;
using FirstCoat.Bench;

CultureInfo.DefaultThreadCurrentCulture = CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
var options = new BenchOptions(args);
switch (args.FirstOrDefault())
{
    case "generate":
        PlainProblems.Write(options);
        return 0;
    case "run":
        PlainRuns.Run(options);
        return 0;
    case "reference":
        PlainRuns.Reference(options);
        return 0;
    default:
        Console.Error.WriteLine(
            """
            generate [--set 40,150] [--count N] --out FOLDER            writes the problems as files
            run [--set 40,150,500,1500,classic] [--count N] [--seconds S] [--threads N] [--seed N] [--known FILE]
                                                                        improves each and prints the share closed
            reference [--set ...] [--count N] [--seconds S] [--known FILE]
                                                                        CP-SAT alone from the immediate schedule
            """
        );
        return 2;
}
