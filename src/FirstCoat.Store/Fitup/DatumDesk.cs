using FirstCoat.Core;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Store.Access;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Fitup;

/// <summary>A build's reference sheet with what was read against it.</summary>
/// <param name="State">Null: it has no sheet.</param>
/// <param name="Readings">That stand, in the order in which they were recorded.</param>
public sealed record DatumLook(DatumState? State, IReadOnlyList<DatumReading> Readings);

/// <summary>How points are read: when, in what, with what.</summary>
public sealed record DatumHow(DatumRound Round, LengthUnit Unit, DatumTool Tool, string Instrument);

/// <summary>A reference sheet as entered.</summary>
public sealed record DatumSheetEntry(
    string Drawing,
    string Revision,
    string Page,
    double ToleranceMm,
    List<DatumPoint> Points
);

/// <summary>Datum sheets: what a shell should measure, what it does before and after a cut.</summary>
public sealed class DatumDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    public async Task<DatumLook> Look(Guid buildId, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        var sheet = await Sheet(buildId, cancel);
        var readings = await Db
            .DatumReadings.AsNoTracking()
            .Where(r => r.BuildId == buildId && !r.TakenBack)
            .OrderBy(r => r.Seq)
            .ToListAsync(cancel);
        return new(sheet is null ? null : DatumState.Of(sheet, readings), readings);
    }

    /// <summary>What the gate before a cut asks of the sheet.</summary>
    public async Task<IReadOnlyList<GateAsk>> Asks(Operation gate, CancellationToken cancel)
    {
        if (gate.Gate != GateKind.Datum)
        {
            return [];
        }

        var state = (await Look(gate.BuildId, cancel)).State;
        return state is null
            ? [new("A datum sheet", "there is no datum sheet to cut by", false)]
            :
            [
                new(
                    "Each point read before the cut",
                    state.Unread(DatumRound.BeforeCut) is { Count: > 0 } unread
                        ? $"not read before the cut: {string.Join(", ", unread)}"
                        : "",
                    true
                ),
                new(
                    "It can be laid on its sheet",
                    state.Fits.FirstOrDefault(f => f.Round == DatumRound.BeforeCut) is { Fit: null } cannot
                        ? cannot.Why
                        : "",
                    false
                ),
            ];
    }

    /// <summary>Enters the sheet or changes it.</summary>
    public async Task<DatumSheet> Put(Guid buildId, DatumSheetEntry e, uint? version, CancellationToken cancel)
    {
        var sheet = await Kept(buildId, version, cancel);
        (sheet.Drawing, sheet.Revision, sheet.Page, sheet.ToleranceMm, sheet.Points) = (
            e.Drawing.Trim(),
            e.Revision.Trim(),
            e.Page.Trim(),
            e.ToleranceMm,
            e.Points
        );
        sheet.Check();
        await using var all = await Whole(cancel);
        await Save(cancel);
        await ShutWhatItLacks(buildId, cancel);
        await all.Commit(cancel);
        return sheet;
    }

    /// <summary>Takes the points of a sheet from a file in place of those it has: all or none.</summary>
    public async Task<DatumSheet> PutFile(
        Guid buildId,
        string text,
        LengthUnit unit,
        DatumSheetEntry head,
        uint? version,
        CancellationToken cancel
    ) =>
        await Put(
            buildId,
            head with
            {
                Points =
                [
                    .. DatumFile
                        .Read(text, unit)
                        .Select(r =>
                            DatumPoint.Parts(r.Point) is var (letter, side)
                                ? new DatumPoint(letter, side, r.Name, r.At, r.IsProtected)
                                : null!
                        ),
                ],
            },
            version,
            cancel
        );

    /// <summary>Figures of the chassis before and after.</summary>
    public async Task<DatumSheet> Figures(
        Guid buildId,
        ChassisFigures before,
        ChassisFigures after,
        uint? version,
        CancellationToken cancel
    )
    {
        var sheet = await Sheet(buildId, cancel) ?? throw new Refusal("drawing", "Enter the reference sheet first.");
        Expect(sheet, version);
        (sheet.Before, sheet.After) = (before, after);
        sheet.Check();
        await Save(cancel);
        return sheet;
    }

    /// <summary>Records where a point was read; asked again with the same id it returns what is there.</summary>
    public async Task<DatumReading> Read(
        Guid buildId,
        Guid id,
        string point,
        TypedPoint at,
        DatumHow how,
        CancellationToken cancel
    )
    {
        if (await Again<DatumReading>(id, cancel) is { } there)
        {
            return there;
        }

        return (await Keep(buildId, [(id, point, at)], how, cancel))[0];
    }

    /// <summary>Records the points of a file: all or none.</summary>
    public Task<List<DatumReading>> ReadFile(Guid buildId, string text, DatumHow how, CancellationToken cancel) =>
        Keep(
            buildId,
            DatumFile.Read(text, how.Unit).ConvertAll(r => (Guid.CreateVersion7(), r.Point, r.At)),
            how,
            cancel
        );

    /// <summary>Takes a slip back.</summary>
    public async Task<DatumReading> TakeBack(Guid id, CancellationToken cancel)
    {
        var reading = await Find<DatumReading>(id, "reading", cancel);
        await using var all = await Whole(cancel);
        reading.TakeBack();
        await Save(cancel);
        await ShutWhatItLacks(reading.BuildId, cancel);
        await all.Commit(cancel);
        return reading;
    }

    /// <summary>A gate that was signed for a sheet read to its end is shut when a point of it is not read.</summary>
    private async Task ShutWhatItLacks(Guid buildId, CancellationToken cancel)
    {
        if ((await Look(buildId, cancel)).State?.Unread(DatumRound.BeforeCut).Count is null or 0)
        {
            return;
        }

        foreach (
            var gate in await Db
                .Operations.Where(o =>
                    o.BuildId == buildId && !o.Removed && o.Gate == GateKind.Datum && o.DoneAt != null
                )
                .ToListAsync(cancel)
        )
        {
            gate.Shut();
        }

        await Save(cancel);
    }

    private async Task<List<DatumReading>> Keep(
        Guid buildId,
        List<(Guid Id, string Point, TypedPoint At)> points,
        DatumHow how,
        CancellationToken cancel
    )
    {
        await Build(buildId, cancel);
        var sheet = await Sheet(buildId, cancel) ?? throw new Refusal("point", "Enter the reference sheet first.");
        var readings = points.ConvertAll(p => new DatumReading
        {
            Id = p.Id,
            BuildId = buildId,
            Point = p.Point,
            Round = how.Round,
            At = p.At,
            Tool = how.Tool,
            Instrument = how.Instrument.Trim(),
            ReadAt = Clock.Now,
            By = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        });
        readings.ForEach(r => r.Check(sheet));
        Db.AddRange(readings);
        await Save(cancel);
        return readings;
    }

    private Task<DatumSheet?> Sheet(Guid buildId, CancellationToken cancel) =>
        Db.DatumSheets.SingleOrDefaultAsync(s => s.BuildId == buildId, cancel);

    private async Task<DatumSheet> Kept(Guid buildId, uint? version, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        if (await Sheet(buildId, cancel) is { } there)
        {
            Expect(there, version);
            return there;
        }

        var sheet = new DatumSheet { Id = Guid.CreateVersion7(), BuildId = buildId };
        Db.Add(sheet);
        return sheet;
    }
}
