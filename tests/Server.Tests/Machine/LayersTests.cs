using FirstCoat.Core;
using FirstCoat.Store;
using FirstCoat.Store.Access;
using NetArchTest.Rules;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>Dependencies point one way, and the model and its migrations agree.</summary>
public sealed class LayersTests
{
    [Fact]
    public void The_core_knows_neither_web_nor_database()
    {
        var result = Types
            .InAssembly(typeof(Refusal).Assembly)
            .ShouldNot()
            .HaveDependencyOnAny(
                "Microsoft.AspNetCore",
                "Microsoft.EntityFrameworkCore",
                "Npgsql",
                "FirstCoat.Store",
                "FirstCoat.Server",
                "FirstCoat.Optimizer",
                "Google.OrTools",
                "SkiaSharp"
            )
            .GetResult();
        result.FailingTypeNames.ShouldBeNull();
    }

    [Fact]
    public void The_store_does_not_know_the_server()
    {
        var result = Types
            .InAssembly(typeof(ShopDb).Assembly)
            .ShouldNot()
            .HaveDependencyOnAny("FirstCoat.Server", "FirstCoat.Optimizer")
            .GetResult();
        result.FailingTypeNames.ShouldBeNull();
    }

    [Fact]
    public void The_optimizer_knows_only_the_core()
    {
        var result = Types
            .InAssembly(typeof(FirstCoat.Optimizer.PlainPlanner).Assembly)
            .ShouldNot()
            .HaveDependencyOnAny("FirstCoat.Store", "FirstCoat.Server", "Microsoft.EntityFrameworkCore")
            .GetResult();
        result.FailingTypeNames.ShouldBeNull();
    }

    [Fact]
    public void No_change_of_the_model_lacks_its_migration()
    {
        using var db = new ShopDb(
            StoreSetup.Options("Host=127.0.0.1;Database=none"),
            new(TimeProvider.System),
            new CurrentActor(),
            new CurrentRequest()
        );
        db.Database.HasPendingModelChanges().ShouldBeFalse();
    }
}
