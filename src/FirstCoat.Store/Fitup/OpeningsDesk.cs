using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Fitup;

/// <summary>An opening as it is measured.</summary>
public sealed record OpeningEntry(
    string Of,
    decimal Diagonal1,
    decimal Diagonal2,
    decimal Width,
    decimal Side,
    LengthUnit Unit,
    string When
);

/// <summary>Openings of a body by their diagonals, before and after each weld.</summary>
public sealed class OpeningsDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    public async Task<IReadOnlyList<OpeningState>> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        return OpeningState.Of(
            BodyOpening.Of(build.Body()),
            await Db
                .OpeningReadings.AsNoTracking()
                .Where(r => r.BuildId == buildId)
                .OrderBy(r => r.Seq)
                .ToListAsync(cancel)
        );
    }

    /// <summary>What a gate asks of them.</summary>
    /// <param name="side">The side that is signed by itself; null: all.</param>
    public async Task<IReadOnlyList<GateAsk>> Asks(Operation gate, PanelSide? side, CancellationToken cancel)
    {
        if (gate.Gate != GateKind.FitUp)
        {
            return [];
        }

        var all = await Look(gate.BuildId, cancel);
        if (side is null)
        {
            return OpeningState.Asks(gate, all);
        }

        var mine = (await Build(gate.BuildId, cancel))
            .Body()
            .Panels.Where(p => p.Side == side)
            .Select(p => p.Key)
            .ToHashSet();
        var here = all.Where(o => mine.Contains(o.Opening.Key)).ToList();
        return here.Count == 0 ? [] : OpeningState.Asks(gate, here);
    }

    /// <summary>Records a measurement; asked again with the same id it returns what is there.</summary>
    public async Task<OpeningReading> Read(Guid buildId, Guid id, OpeningEntry e, CancellationToken cancel)
    {
        if (await Again<OpeningReading>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var reading = new OpeningReading
        {
            Id = id,
            BuildId = buildId,
            Of = e.Of,
            Diagonal1 = e.Diagonal1,
            Diagonal2 = e.Diagonal2,
            Width = e.Width,
            Side = e.Side,
            Unit = e.Unit,
            When = e.When.Trim(),
            At = Clock.Now,
            By = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        reading.Check(BodyOpening.Of(build.Body()));
        Db.Add(reading);
        await Save(cancel);
        return reading;
    }

    /// <summary>Takes a slip back.</summary>
    public async Task<OpeningReading> TakeBack(Guid id, CancellationToken cancel)
    {
        var reading = await Find<OpeningReading>(id, "reading", cancel);
        reading.TakeBack();
        await Save(cancel);
        return reading;
    }
}
