using System.Text.Json;
using FirstCoat.Core;
using FirstCoat.Core.Bench;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Bench;

/// <summary>A rest of sheet as it is entered.</summary>
public sealed record OffcutEntry(
    double WidthMm,
    double HeightMm,
    double GaugeMm,
    string Material,
    string Place,
    Guid? BuildId
);

/// <summary>What the bench keeps: tries with their build, rests of sheet, the shop's wires.</summary>
public sealed class BenchDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    /// <summary>What was kept with a build, the last first.</summary>
    public Task<List<BenchTry>> Tries(Guid buildId, CancellationToken cancel) =>
        Db
            .BenchTries.AsNoTracking()
            .Where(t => t.BuildId == buildId && !t.TakenBack)
            .OrderByDescending(t => t.Seq)
            .ToListAsync(cancel);

    /// <summary>Keeps a try; asked again with the same id it returns what is there.</summary>
    /// <exception cref="Refusal">Figures that have no answer.</exception>
    public async Task<BenchTry> Keep(
        Guid buildId,
        Guid id,
        string sum,
        string name,
        JsonElement figures,
        CancellationToken cancel
    )
    {
        if (await Again<BenchTry>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        Refusal.When(figures.ValueKind != JsonValueKind.Object, "figures", "The figures come by their names.");
        var kept = new BenchTry
        {
            Id = id,
            BuildId = buildId,
            Sum = sum,
            Name = name.Trim(),
            Figures = figures.GetRawText(),
            At = Clock.Now,
            By = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        kept.Check();
        Db.Add(kept);
        await Save(cancel);
        return kept;
    }

    public async Task<BenchTry> TakeBack(Guid id, CancellationToken cancel)
    {
        var kept = await Find<BenchTry>(id, "try", cancel);
        kept.TakeBack();
        await Save(cancel);
        return kept;
    }

    /// <summary>All that lie in stock, the smallest first, and those that were used last.</summary>
    /// <param name="gaugeMm">Only those as thick; null: all.</param>
    public async Task<List<SheetOffcut>> Offcuts(double? gaugeMm, CancellationToken cancel)
    {
        const int UsedShown = 10;
        var stock = await Db.SheetOffcuts.AsNoTracking().Where(o => o.UsedAt == null).ToListAsync(cancel);
        var used = await Db
            .SheetOffcuts.AsNoTracking()
            .Where(o => o.UsedAt != null)
            .OrderByDescending(o => o.UsedAt)
            .Take(UsedShown)
            .ToListAsync(cancel);
        return
        [
            .. stock
                .Where(o => gaugeMm is not { } gauge || o.IsAsThickAs(gauge))
                .OrderBy(o => o.WidthMm * o.HeightMm)
                .ThenBy(o => o.Seq),
            .. used,
        ];
    }

    /// <summary>Puts a rest into stock; asked again with the same id it returns what is there.</summary>
    public async Task<SheetOffcut> KeepOffcut(Guid id, OffcutEntry e, CancellationToken cancel)
    {
        if (await Again<SheetOffcut>(id, cancel) is { } there)
        {
            return there;
        }

        if (e.BuildId is { } build)
        {
            await Build(build, cancel);
        }

        var offcut = new SheetOffcut
        {
            Id = id,
            WidthMm = e.WidthMm,
            HeightMm = e.HeightMm,
            GaugeMm = e.GaugeMm,
            Material = e.Material.Trim(),
            Place = e.Place.Trim(),
            FromBuild = e.BuildId,
            KeptAt = Clock.Now,
            KeptBy = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        offcut.Check();
        Db.Add(offcut);
        await Save(cancel);
        return offcut;
    }

    /// <exception cref="StaleVersion">Somebody else took it in between.</exception>
    public async Task<SheetOffcut> UseOffcut(Guid id, Guid? buildId, uint? version, CancellationToken cancel)
    {
        var offcut = await Find<SheetOffcut>(id, "offcut", cancel);
        Expect(offcut, version);
        if (buildId is { } build)
        {
            await Build(build, cancel);
        }

        offcut.Use(Actor.Name, Clock.Now, buildId);
        await Save(cancel);
        return offcut;
    }

    public async Task<SheetOffcut> PutBackOffcut(Guid id, CancellationToken cancel)
    {
        var offcut = await Find<SheetOffcut>(id, "offcut", cancel);
        offcut.PutBack();
        await Save(cancel);
        return offcut;
    }

    /// <summary>The shop's own, or low starting figures.</summary>
    public async Task<(WireTable Table, bool IsOwn)> Wires(CancellationToken cancel) =>
        await Db.Set<WireTable>().AsNoTracking().SingleOrDefaultAsync(cancel) is { } own
            ? (own, true)
            : (new WireTable { Id = WireTable.TheOne }, false);

    public async Task<WireTable> PutWires(
        List<WireSize> wires,
        List<double> fuses,
        uint? version,
        CancellationToken cancel
    )
    {
        var table = await Db.Set<WireTable>().SingleOrDefaultAsync(cancel);
        if (table is null)
        {
            table = new WireTable { Id = WireTable.TheOne };
            Db.Add(table);
        }
        else
        {
            Expect(table, version);
        }

        (table.Wires, table.Fuses) = ([.. wires.OrderBy(w => w.Mm2)], [.. fuses.Order()]);
        table.Check();
        await Save(cancel);
        return table;
    }
}
