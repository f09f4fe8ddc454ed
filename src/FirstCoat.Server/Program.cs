using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using FirstCoat.Core.Bench;
using FirstCoat.Server;

CultureInfo.DefaultThreadCurrentCulture = CultureInfo.InvariantCulture;
CultureInfo.DefaultThreadCurrentUICulture = CultureInfo.InvariantCulture;

if (args is ["calc", ..])
{
    return Calc();
}

if (args is ["bench", ..])
{
    return FirstCoat.Server.Benches.BenchCommand.Run(args is [_, "--only", var only, ..] ? only : "");
}

if (args is ["plan", .. var planArgs])
{
    return FirstCoat.Server.Plans.PlanCommand.Run(planArgs);
}

if (args is [("backup" or "restore") and var what, var file])
{
    return await FirstCoat.Server.Backups.BackupCommand.Run(what, file);
}

var app = ServerSetup.Build(args);
if (args.Contains("demo-load"))
{
    return await FirstCoat.Server.Demo.DemoCommand.Run(app);
}

app.Run();
return 0;

// Questions on standard input, answers on standard output: no database, no server.
static int Calc()
{
    try
    {
        using var questions = JsonDocument.Parse(Console.OpenStandardInput());
        var answers = BenchCalculations.AnswerAll(questions.RootElement);
        Console.Out.WriteLine(
            answers.ToJsonString(new() { WriteIndented = true, TypeInfoResolver = new DefaultJsonTypeInfoResolver() })
        );
        return 0;
    }
    catch (Exception e) when (e is JsonException or FirstCoat.Core.Refusal)
    {
        Console.Error.WriteLine($"The questions cannot be read: {e.Message}");
        return 2;
    }
}

/// <summary>The entry point, visible to tests.</summary>
public partial class Program;
