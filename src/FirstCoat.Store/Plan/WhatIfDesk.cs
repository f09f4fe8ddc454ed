using FirstCoat.Core;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Plan;
using FirstCoat.Core.Shop;
using FirstCoat.Store.Access;
using FirstCoat.Store.Builds;
using FirstCoat.Store.Sequence;
using FirstCoat.Store.Shop;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace FirstCoat.Store.Plan;

/// <summary>A build in the real plan and in the sandbox; null where it is only in one of them.</summary>
/// <param name="KeptBefore">Share of the futures that keep the promise.</param>
public sealed record BuildBeside(
    Guid Id,
    int Number,
    string Title,
    bool Maybe,
    LocalDate? Promised,
    LocalDate? LikelyBefore,
    LocalDate LikelyAfter,
    LocalDate? P80Before,
    LocalDate P80After,
    decimal? KeptBefore,
    decimal? KeptAfter,
    decimal? Days
);

/// <summary>The sandbox beside the real plan.</summary>
/// <param name="LateCostBefore">Days late at what a day of waiting costs the shop.</param>
/// <param name="Without">Operations that have no date in the sandbox and have one in the real plan.</param>
public sealed record PlansBeside(
    List<BuildBeside> Builds,
    PlanFigures Before,
    PlanFigures After,
    decimal LateCostBefore,
    decimal LateCostAfter,
    int Weeks,
    List<string> Without
);

/// <summary>Commands of the plan room for what is tried beside the real plan.</summary>
public sealed class WhatIfDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    PlanReader reader,
    IPlanner planner,
    ShopDesk shops,
    BuildsDesk builds,
    SequenceDesk sequence,
    TemplatesDesk templates,
    FutureCount futures
) : Desk(db, clock, current)
{
    /// <summary>How far ahead use is told.</summary>
    private const int Weeks = 8;

    /// <summary>Those that are neither adopted nor dropped.</summary>
    public Task<List<WhatIf>> Open(CancellationToken cancel) =>
        Db.WhatIfs.AsNoTracking().Where(w => w.AdoptedAt == null).OrderBy(w => w.Seq).ToListAsync(cancel);

    /// <summary>Keeps a sandbox.</summary>
    public async Task<WhatIf> Put(
        Guid id,
        string name,
        List<WhatIfChange> changes,
        uint? version,
        CancellationToken cancel
    )
    {
        var sandbox = await Db.WhatIfs.FindAsync([id], cancel);
        if (sandbox is null)
        {
            sandbox = new()
            {
                Id = id,
                Name = name,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(sandbox);
        }

        Expect(sandbox, version);
        Refusal.When(!sandbox.IsOpen, "id", "It has been adopted: try something new.");
        (sandbox.Name, sandbox.Changes) = (name.Trim(), changes);
        sandbox.Check();
        var maybe = changes.Select(c => c.Build?.Id).OfType<Guid>().ToList();
        Refusal.When(
            maybe.Count > 0 && await Db.Builds.AnyAsync(b => maybe.Contains(b.Id), cancel),
            "changes",
            "That build is here already."
        );
        var shelf = await templates.All(cancel);
        Refusal.When(
            changes.Exists(c => c.Build is { } b && !shelf.Knows(b.Template)),
            "template",
            "That template is not known."
        );
        foreach (var c in changes)
        {
            Plausible(c.From, "from");
            Plausible(c.To, "to");
            Plausible(c.Promised, "promised");
            Plausible(c.Build?.Arrives, "arrives");
            Refusal.When(
                c.BuildId is { } b && await Db.Builds.FindAsync([b], cancel) is null,
                "buildId",
                "There is no such build."
            );
            Refusal.When(
                c.PersonId is { } p && await Db.People.FindAsync([p], cancel) is null,
                "personId",
                "There is no such person."
            );
        }

        await Save(cancel);
        return sandbox;
    }

    /// <summary>Drops a sandbox; nothing of it stays in the plan.</summary>
    public async Task Drop(Guid id, CancellationToken cancel)
    {
        if (await Db.WhatIfs.FindAsync([id], cancel) is { IsOpen: true } sandbox)
        {
            Db.Remove(sandbox);
            await Save(cancel);
        }
    }

    /// <summary>The real plan and the sandbox, side by side.</summary>
    public async Task<PlansBeside> Compare(Guid id, CancellationToken cancel)
    {
        var sandbox = await Db.WhatIfs.AsNoTracking().SingleOrDefaultAsync(w => w.Id == id, cancel)
            ?? throw Refusal.Missing("sandbox");
        var (real, tried) = (
            await reader.Read(cancel),
            sandbox.Apply(await reader.ReadApart(cancel, sandbox.OfMoney), await templates.All(cancel))
        );
        var (before, after) = (real.Problem(), tried.Problem());
        var (planBefore, planAfter) = (planner.Plan(before), planner.Plan(after));
        var beliefs = await reader.Believed(cancel);
        var (chancesBefore, chancesAfter) = (
            Outlook.Of(before, beliefs, futures.Of),
            Outlook.Of(after, beliefs, futures.Of)
        );
        LocalDate Day(long minute) => real.Calendar.Local(minute).Date;
        static decimal? Share(double? kept) => kept is { } k ? Math.Round((decimal)k, 3) : null;
        var rows = tried
            .Builds.Select(b =>
            {
                var key = b.Id.ToString();
                var was = planBefore.Builds.GetValueOrDefault(key);
                var chance = chancesAfter.Builds[key];
                var chanceWas = chancesBefore.Builds.GetValueOrDefault(key);
                return new BuildBeside(
                    b.Id,
                    b.Number,
                    b.Title,
                    was is null,
                    b.Brief.Promised,
                    chanceWas is null ? null : Day(chanceWas.P50),
                    Day(chance.P50),
                    chanceWas is null ? null : Day(chanceWas.P80),
                    Day(chance.P80),
                    Share(chanceWas?.Kept),
                    Share(chance.Kept),
                    chanceWas is null ? null : InDays.Of(chance.P50 - chanceWas.P50)
                );
            })
            .OrderByDescending(r => Math.Abs(r.Days ?? 0))
            .ThenBy(r => r.Number)
            .ToList();
        var (figuresBefore, figuresAfter) = (
            PlanFigures.Of(real, before, planBefore, Weeks),
            PlanFigures.Of(tried, after, planAfter, Weeks)
        );
        var undated = planAfter
            .Unplanned.Select(u => u.Operation)
            .Except(planBefore.Unplanned.Select(u => u.Operation))
            .ToHashSet();
        return new(
            rows,
            figuresBefore,
            figuresAfter,
            figuresBefore.LateCost(real.Shop.DelayPerDay),
            figuresAfter.LateCost(real.Shop.DelayPerDay),
            Weeks,
            [.. tried.Operations.Where(o => undated.Contains(o.Id.ToString())).Select(o => o.Name)]
        );
    }

    /// <summary>Takes what was tried into the shop, all or nothing.</summary>
    public async Task<WhatIf> Adopt(Guid id, CancellationToken cancel)
    {
        var sandbox = await Find<WhatIf>(id, "sandbox", cancel);
        if (!sandbox.IsOpen)
        {
            return sandbox;
        }

        await using var all = await Db.Database.BeginTransactionAsync(cancel);
        foreach (var change in sandbox.Changes)
        {
            await Take(sandbox, change, cancel);
        }

        sandbox.Adopt(Actor.Name, Clock.Now);
        await Save(cancel);
        await all.CommitAsync(cancel);
        return sandbox;
    }

    private async Task Take(WhatIf sandbox, WhatIfChange c, CancellationToken cancel)
    {
        switch (c.Kind)
        {
            case WhatIfKind.NewBuild:
                await OpenBuild(c.Build!, cancel);
                break;
            case WhatIfKind.Absence:
                var away = await Find<Person>(c.PersonId!.Value, "person", cancel);
                await shops.SetAbsences(away.Id, [.. away.Absences, sandbox.Absence(c)], cancel);
                break;
            case WhatIfKind.MoreStations:
                var there = await Db.Stations.Where(s => s.Kind == c.Station).OrderBy(s => s.Name).ToListAsync(cancel);
                Refusal.When(
                    there.Count == 0,
                    "station",
                    "The shop has no such place yet: draw it on the shop's page."
                );
                // Where the last one lies, until somebody draws them where they are.
                Db.Stations.AddRange(
                    Enumerable.Range(there.Count + 1, c.Count).Select(n => there[^1].Another($"{c.Station} {n}"))
                );
                break;
            case WhatIfKind.Promise:
                var promised = await Build(c.BuildId!.Value, cancel);
                promised.Brief = promised.Brief with { Promised = c.Promised };
                break;
            case WhatIfKind.NoPayments:
                var unpaid = await Build(c.BuildId!.Value, cancel);
                unpaid.Terms = WhatIf.Unpaid(unpaid.Terms, c.To!.Value);
                unpaid.Terms.Check();
                break;
            case WhatIfKind.Rank:
                (await Build(c.BuildId!.Value, cancel)).Priority = c.Priority!.Value;
                break;
            default:
                var week = (await Shop(cancel)).Week;
                foreach (
                    var p in await Db
                        .People.Where(p => p.Active && (c.PersonId == null || p.Id == c.PersonId))
                        .ToListAsync(cancel)
                )
                {
                    p.Terms = p.Terms with { Hours = WhatIf.WithSaturdays(p.Terms.Hours, week, c.From!.Value, c.To) };
                    p.Check();
                }

                break;
        }
    }

    private async Task OpenBuild(MaybeBuild m, CancellationToken cancel)
    {
        var last = await Db.Builds.MaxAsync(b => (int?)b.Priority, cancel) ?? 0;
        await builds.Open(
            m.Id,
            new(
                null,
                m.Client,
                "",
                "",
                m.ToVehicle(),
                new(m.Grade, OriginalityPolicy.OriginalLook, m.Promised, null, []),
                new(Core.Builds.ContractKind.TimeAndMaterials),
                new(0, 0, 0, 0),
                m.Template,
                m.Scale,
                Math.Min(10_000, last + 1),
                false,
                null
            ),
            cancel
        );
        foreach (var first in (await sequence.Of(m.Id, cancel)).Where(o => o.After.Count == 0))
        {
            first.Terms = first.Terms with { NotBefore = m.Arrives };
        }
    }
}
