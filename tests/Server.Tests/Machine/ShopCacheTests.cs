using System.Data.Common;
using System.Text.RegularExpressions;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using FirstCoat.Store;
using FirstCoat.Store.Access;
using FirstCoat.Store.Labour;
using FirstCoat.Store.Plan;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.Configuration;

namespace FirstCoat.Server.Tests.Machine;

/// <summary>What is made once and shown to all is never older than what was recorded.</summary>
public sealed partial class ShopCacheTests(ShopFixture shop) : IClassFixture<ShopFixture>
{
    private sealed record Thing(int Number);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private T Get<T>()
        where T : notnull => shop.Scope().ServiceProvider.GetRequiredService<T>();

    [Fact]
    public async Task However_many_ask_at_once_it_is_made_once_for_a_state_and_anew_for_the_next()
    {
        var (cache, made, go) = (Get<ShopCache>(), 0, new TaskCompletionSource());
        async Task<Thing> Make(IServiceProvider _)
        {
            var number = Interlocked.Increment(ref made);
            await go.Task;
            return new(number);
        }

        var asked = Enumerable.Range(0, 20).Select(_ => cache.Of("first", Make)).ToList();
        go.SetResult();
        (await Task.WhenAll(asked)).ShouldAllBe(t => t.Number == 1);
        (await cache.Of("second", Make)).Number.ShouldBe(2);
        (await cache.Of("second", Make, Guid.CreateVersion7())).Number.ShouldBe(3);
        (await cache.Of("second", Make)).Number.ShouldBe(2);
    }

    [Fact]
    public async Task What_could_not_be_made_is_tried_again()
    {
        var cache = Get<ShopCache>();
        await Should.ThrowAsync<InvalidOperationException>(() =>
            cache.Of<Thing>("broken", _ => throw new InvalidOperationException())
        );
        (await cache.Of("broken", _ => Task.FromResult(new Thing(1)))).Number.ShouldBe(1);
    }

    [Fact]
    public async Task A_plan_holds_until_something_is_kept_that_it_is_made_from()
    {
        var build = await TestBuild.Open(shop);
        var changes = Get<ShopChanges>();
        var before = changes.ForPlan;
        await using (var scope = shop.Scope())
        {
            var db = scope.ServiceProvider.GetRequiredService<ShopDb>();
            db.Add(
                new Core.Photos.Photo
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = build.Id,
                    Hash = new('a', 64),
                    ThumbHash = new('b', 64),
                    Width = 1,
                    Height = 1,
                    TakenAt = default,
                    By = "",
                }
            );
            var all = changes.All;
            await db.SaveChangesAsync(Cancel);
            (changes.ForPlan, changes.All).ShouldBe((before, all + 1));
            // What is taken back counts for nothing, and what is not kept yet neither.
            await using (await db.Database.BeginTransactionAsync(Cancel))
            {
                (await db.Builds.SingleAsync(b => b.Id == build.Id, Cancel)).Priority = 77;
                await db.SaveChangesAsync(Cancel);
                changes.ForPlan.ShouldBe(before);
            }

            db.ChangeTracker.Clear();
            changes.ForPlan.ShouldBe(before);
            await using var kept = await db.Database.BeginTransactionAsync(Cancel);
            (await db.Builds.SingleAsync(b => b.Id == build.Id, Cancel)).Priority = 78;
            await db.SaveChangesAsync(Cancel);
            changes.ForPlan.ShouldBe(before);
            await kept.CommitAsync(Cancel);
            changes.ForPlan.ShouldBe(before + 1);
        }
    }

    [Fact]
    public void What_another_server_changed_counts_and_what_this_one_is_told_of_its_own_does_not()
    {
        var changes = Get<ShopChanges>();
        var before = changes.ForPlan;
        changes.Elsewhere(nameof(Operation), -1);
        changes.ForPlan.ShouldBe(before + 1);
        using var db = Get<ShopDb>();
        db.Database.OpenConnection();
        changes.Elsewhere(nameof(Operation), ((Npgsql.NpgsqlConnection)db.Database.GetDbConnection()).ProcessID);
        changes.ForPlan.ShouldBe(before + 1);
    }

    [Fact]
    public void What_is_made_of_some_kinds_holds_until_one_of_them_or_nobody_knows_what_changed()
    {
        var changes = Get<ShopChanges>();
        long Count() => changes.Of(nameof(Operation), nameof(Core.Builds.Build));
        var before = Count();
        changes.Elsewhere(nameof(Core.Labour.TimeEntry), -1);
        Count().ShouldBe(before);
        changes.Elsewhere(nameof(Core.Builds.Build), -1);
        Count().ShouldBe(before + 1);
        changes.Elsewhere(ShopChanges.Everything, null);
        Count().ShouldBe(before + 2);
    }

    [Fact]
    public async Task No_plan_reads_a_kind_of_record_of_which_changes_are_passed_over()
    {
        await shop.Filled();
        var read = new Tables();
        await using var db = new ShopDb(
            new DbContextOptionsBuilder<ShopDb>(StoreSetup.Options(Get<IConfiguration>()["Shop:Connection"]!))
                .AddInterceptors(read)
                .Options,
            Get<ShopClock>(),
            new CurrentActor { Actor = Actor.Application },
            new CurrentRequest()
        );
        var history = ActivatorUtilities.CreateInstance<Store.Labour.HistoryDesk>(
            shop.Services,
            db,
            Get<CurrentActor>()
        );
        var reader = ActivatorUtilities.CreateInstance<PlanReader>(shop.Services, db, Get<CurrentActor>(), history);
        // Within a change nothing is taken from what was made for others.
        await using var change = await db.Database.BeginTransactionAsync(Cancel);
        var desk = ActivatorUtilities.CreateInstance<PlanDesk>(shop.Services, db, Get<CurrentActor>(), reader);
        await desk.Look(Cancel);
        await desk.RenewAdvice(Cancel);
        await desk.Chances(Cancel);
        var beside = db
            .Model.GetEntityTypes()
            .Where(e => ShopChanges.Beside.Contains(e.ClrType.Name))
            .Select(e => e.GetTableName()!)
            .ToList();
        beside.Count.ShouldBe(ShopChanges.Beside.Count);
        read.Names.ShouldContain("sequence_operations");
        read.Names.ShouldContain("labour_entries");
        read.Names.Intersect(beside).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_shelf_gives_what_is_kept_now()
    {
        var build = await TestBuild.Open(shop);
        var (first, second) = (await build.Add(TestBuild.Work("Kept")), await build.Add(TestBuild.Work("Removed")));
        var shelf = new Shelf<Operation>();
        async Task<List<Operation>> Take()
        {
            using var db = Get<ShopDb>();
            return await shelf.Take(db, db.Operations.Where(o => o.BuildId == build.Id && !o.Removed), Cancel);
        }

        var before = (await Take()).Single(o => o.Id == first);
        (await Take()).Single(o => o.Id == first).ShouldBeSameAs(before);
        await shop.Manager.DeleteAsync($"/api/operations/{second}");
        await shop.Manager.PostAsync($"/api/operations/{first}/done", null).Json();
        var after = await Take();
        after.ShouldNotContain(o => o.Id == second);
        after.Single(o => o.Id == first).IsDone.ShouldBeTrue();
        before.IsDone.ShouldBeFalse();
    }

    [Fact]
    public async Task Finished_work_that_was_kept_is_what_is_finished_now()
    {
        var build = await TestBuild.Open(shop);
        var (one, other) = (await build.Add(TestBuild.Work("One")), await build.Add(TestBuild.Work("Other")));
        shop.At(new(2026, 7, 28), 9, 0); // before another test of this shop starts a clock
        await build.Hours(one, "2026-07-27T08:00:00Z", "2026-07-27T09:00:00Z");
        var shelf = new DoneWorkShelf(Get<TimeProvider>());
        async Task<List<int>> Spent()
        {
            using var db = Get<ShopDb>();
            var kept = await shelf.Take(db);
            (await DoneWorkShelf.Read(db)).ShouldBe(kept, ignoreOrder: true);
            return [.. kept.Where(d => d.Id == one || d.Id == other).Select(d => d.Record.Actual).Order()];
        }

        (await Spent()).ShouldBeEmpty();
        await shop.Manager.PostAsync($"/api/operations/{one}/done", null).Json();
        (await Spent()).ShouldBe([60]);
        var late = Guid.CreateVersion7();
        await build.Hours(one, "2026-07-27T10:00:00Z", "2026-07-27T10:30:00Z", id: late);
        await build.Hours(other, "2026-07-27T11:00:00Z", "2026-07-27T11:10:00Z");
        (await Spent()).ShouldBe([90]);
        await shop.Manager.PostAsync($"/api/operations/{other}/done", null).Json();
        (await Spent()).ShouldBe([10, 90]);
        await shop.Manager.PostAsync($"/api/operations/{one}/reopen", null).Json();
        (await Spent()).ShouldBe([10]);
    }

    [Fact]
    public async Task Sums_that_are_taken_where_they_lie_are_those_of_the_entries()
    {
        await shop.Filled();
        var build = await TestBuild.Open(shop);
        var (one, other) = (await build.Add(TestBuild.Work("One")), await build.Add(TestBuild.Work("Other")));
        shop.At(new(2026, 8, 4), 9, 0);
        await build.Hours(one, "2026-08-03T08:00:00Z", "2026-08-03T10:17:00Z");
        await build.Hours(other, "2026-08-03T12:00:00Z", "2026-08-03T12:44:00Z");
        await shop.Technician.StartClock(other, kind: "rework").Json();
        shop.At(new(2026, 8, 4), 9, 23);
        await shop.Manager.PostAsync($"/api/operations/{one}/done", null).Json();
        using var db = Get<ShopDb>();
        var now = Get<ShopClock>().Now;
        var builds = await db.Builds.Select(b => b.Id).ToListAsync(Cancel);
        var stands = await db.StandsOf(builds, now, Cancel);
        foreach (var id in builds)
        {
            var operations = await db.Operations.AsNoTracking().Where(o => o.BuildId == id).ToListAsync(Cancel);
            var entries = await db.TimeEntries.AsNoTracking().Where(e => e.BuildId == id).ToListAsync(Cancel);
            stands[id].Stages.ShouldBe(Progress.ByStage(operations, entries, now));
            var counting = entries.Where(e => e.Counts).ToList();
            stands[id].Last.ShouldBe(counting.Count == 0 ? null : counting.Max(e => e.Stop ?? now));
            (await db.SpentOn(db.Operations.Where(o => o.BuildId == id).Select(o => o.Id), now, Cancel)).ShouldBe(
                Progress.SpentByOperation(entries, now),
                ignoreOrder: true
            );
        }

        stands[build.Id].Stages.Sum(s => s.SpentMinutes).ShouldBe(137 + 44 + 23);
        stands[build.Id].Stages.Sum(s => s.ReworkMinutes).ShouldBe(23);
    }

    /// <summary>Names of the tables that are read.</summary>
    private sealed partial class Tables : DbCommandInterceptor
    {
        public HashSet<string> Names { get; } = [];

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        )
        {
            Names.UnionWith(Table().Matches(command.CommandText).Select(m => m.Groups[1].Value));
            return new(result);
        }

        [GeneratedRegex(@"(?:from|join)\s+(\w+)", RegexOptions.IgnoreCase)]
        private static partial Regex Table();
    }
}
