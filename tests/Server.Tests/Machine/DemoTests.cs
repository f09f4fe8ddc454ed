using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Money.Papers;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Sequence;
using FirstCoat.PlanCheck;
using FirstCoat.Server.Demo;
using FirstCoat.Store;
using FirstCoat.Store.Access;
using FirstCoat.Store.Money;
using FirstCoat.Store.Photos;
using FirstCoat.Store.Plan;
using NodaTime;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>The demo shop is told once; what holds in a real shop must hold in it.</summary>
public sealed class DemoTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 10, 13, 9, 42);

    [Fact]
    public async Task The_demo_shop_is_the_scenario_and_breaks_no_rule()
    {
        var connection = await TemplateDatabase.Clone();
        var photos = Directory.CreateTempSubdirectory("firstcoat-demo").FullName;
        var clock = new SetClock(Now.ToDateTimeOffset());
        await using (
            var services = DemoCommand.Services(
                connection,
                photos,
                Directory.CreateTempSubdirectory("firstcoat-demo-mail").FullName,
                Directory.CreateTempSubdirectory("firstcoat-demo-keys").FullName,
                clock,
                futures: 60
            )
        )
        {
            await new DemoShop(services, Now, _ => { }, photoScale: 0.1f).Tell(CancellationToken.None);
            await using var scope = services.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<ShopDb>();
            await Scenario(db);
            await Rules(db, scope.ServiceProvider, photos);
            await Plans(scope.ServiceProvider);
        }

        await TemplateDatabase.Drop(connection);
        Directory.Delete(photos, recursive: true);
    }

    private static async Task Scenario(ShopDb db)
    {
        var builds = await db.Builds.ToListAsync();
        builds.Count(b => b.Status == BuildStatus.Open).ShouldBeGreaterThanOrEqualTo(8);
        builds.Count(b => b.Status == BuildStatus.Paused).ShouldBe(1);
        builds.ShouldContain(b => b.StationId == null && b.AwayAt == "Marram Finishers");
        builds.ShouldContain(b => b.Template == Templates.DriveFirst);
        builds.ShouldContain(b => b.FillIn);
        builds.ShouldContain(b => b.Template == Templates.SmallWork);
        (await db.People.CountAsync()).ShouldBe(8);
        (await db.Stations.CountAsync()).ShouldBeGreaterThanOrEqualTo(12);
        (await db.Suppliers.CountAsync()).ShouldBe(6);
        var entries = await db.TimeEntries.ToListAsync();
        (Now - entries.Min(e => e.Start)).TotalDays.ShouldBeGreaterThan(170);
        entries.ShouldContain(e => e.Kind == LabourKind.Rework);
        entries.Count(e => e.IsRunning).ShouldBeGreaterThan(3);

        var operations = await db.Operations.ToListAsync();
        var spent = entries.GroupBy(e => e.OperationId).ToDictionary(g => g.Key, g => g.Sum(e => e.Minutes(Now)));
        var over = operations
            .Where(o => o.IsDone && o.Trade != null)
            .GroupBy(o => o.Trade!.Value)
            .Where(g => g.Sum(o => spent.GetValueOrDefault(o.Id)) > 1.03 * g.Sum(o => o.BudgetMinutes))
            .Select(g => g.Key)
            .ToList();
        over.Count.ShouldBeGreaterThanOrEqualTo(3);
        var back = await db.OutsideJobs.Where(j => j.BackOn != null).ToListAsync();
        ((double)back.Count(j => j.BackOn > j.PromisedOn!.Value.PlusDays(4)) / back.Count).ShouldBeInRange(.15, .6);
        (await db.Payments.ToListAsync()).ShouldContain(p => p.Note.Contains("disputes", StringComparison.Ordinal));
        operations.ShouldContain(o => o.Name.StartsWith("R front floor", StringComparison.Ordinal));
        var papers = await db.Papers.ToListAsync();
        papers.ShouldContain(p => p.Kind == PaperKind.ChangeOrder && p.State == PaperState.Sent);
        papers.ShouldContain(p =>
            p.Kind == PaperKind.Estimate && p.State == PaperState.Sent && p.Words.Choices.Count == 3
        );
        papers.Count(p => p.State == PaperState.Accepted).ShouldBe(8);
    }

    /// <summary>The plan is one that a shop could keep, everything in it has a date, and what is said of it was
    /// tried.</summary>
    private static async Task Plans(IServiceProvider services)
    {
        var desk = services.GetRequiredService<PlanDesk>();
        var paused = await services
            .GetRequiredService<ShopDb>()
            .Builds.SingleAsync(b => b.Status == BuildStatus.Paused);
        (await desk.Chances(CancellationToken.None)).ShouldNotContain(
            c => c.Id == paused.Id,
            "nobody works on it, so it has no finish"
        );
        (await desk.Look(CancellationToken.None)).Builds.ShouldNotContainKey(paused.Id);
        var problem = await desk.Present(CancellationToken.None);
        var plan = new Planner().Plan(problem);
        ShopPlanCheck.Faults(problem, plan).ShouldBeEmpty();
        plan.Unplanned.Select(u => $"{u.Operation}: {u.Reason.Text}").ShouldBeEmpty();
        foreach (var o in plan.Operations.Values.Where(o => o.Start > problem.Now))
        {
            var why = plan.Why(o.Id);
            why.Roots.ShouldNotBeEmpty(why.Steps[0].Name);
            why.WithoutThem.ShouldNotBeNull($"{why.Steps[0].Name} on {why.Steps[0].Build}: {why.Roots[0].Text}");
            why.WithoutThem!.Value.ShouldBeLessThan(o.Start, why.Steps[0].Name);
            why.Steps.Select(s => s.Operation).ShouldBeUnique();
        }

        // What somebody is at now is planned for now, by them.
        problem
            .Builds.SelectMany(b => b.Operations)
            .Where(o => o is { UnderWay: true, GoesOn: not null })
            .ShouldAllBe(o => plan.Operations[o.Id].Start == problem.Now && plan.Operations[o.Id].Person == o.GoesOn);
    }

    private static async Task Rules(ShopDb db, IServiceProvider services, string photos)
    {
        var entries = await db
            .TimeEntries.Where(e => e.ReplacedBy == null && !e.Void)
            .OrderBy(e => e.PersonId)
            .ThenBy(e => e.Start)
            .ToListAsync();
        foreach (var (a, b) in entries.Zip(entries.Skip(1)).Where(x => x.First.PersonId == x.Second.PersonId))
        {
            a.Stop.ShouldNotBeNull();
            b.Start.ShouldBeGreaterThanOrEqualTo(a.Stop!.Value);
        }

        var operations = await db.Operations.Where(o => !o.Removed).ToListAsync();
        foreach (var build in operations.GroupBy(o => o.BuildId))
        {
            OperationOrder.Check(build.ToList());
            var byId = build.ToDictionary(o => o.Id);
            // Nothing was finished before a gate that it stands behind was signed; one may have been shut again since.
            build
                .Where(o => o.IsDone)
                .SelectMany(o => OperationOrder.ShutGatesBefore(o, byId))
                .ShouldAllBe(g => g.EarlierSignatures.Count > 0);
            build.ShouldAllBe(o => o.DoneAt == null || o.DoneAt <= Now);
        }

        foreach (var gate in operations.Where(o => o.Kind == OperationKind.Gate && o.IsDone))
        {
            gate.Signatures.Select(s => s.PersonId)
                .Distinct()
                .Count()
                .ShouldBeGreaterThanOrEqualTo(Gates.Signatures(gate.Gate!.Value));
        }

        var files = services.GetRequiredService<PhotoFiles>();
        foreach (var photo in await db.Photos.ToListAsync())
        {
            await using var file = files.Open(photo.Hash);
            file.ShouldNotBeNull();
            photo.TakenAt.ShouldBeLessThanOrEqualTo(Now);
        }

        Directory
            .GetFiles(photos, "*", SearchOption.AllDirectories)
            .ShouldAllBe(file => file.EndsWith(".webp", StringComparison.Ordinal));
        var money = services.GetRequiredService<MoneyDesk>();
        foreach (var build in await db.Builds.ToListAsync())
        {
            var m = await money.Look(build.Id, CancellationToken.None);
            m.Lines.Sum(l => l.Net).ShouldBe(m.Statement.Net);
            m.Statement.Balance.ShouldBe(m.Statement.Gross - m.Statement.Retention - m.Payments.Sum(p => p.Amount));
        }

        var plan = services.GetRequiredService<PlanDesk>();
        (await plan.Look(CancellationToken.None)).Builds.Values.ShouldAllBe(b =>
            b.Finish >= Now.Minus(Duration.FromMinutes(5))
        );
        (await plan.Advise(CancellationToken.None)).Decisions.ShouldNotBeEmpty();
        (await db.Audit.CountAsync()).ShouldBeGreaterThan(3000);
    }
}
