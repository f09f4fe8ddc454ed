using FirstCoat.Core;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Photos;
using FirstCoat.Store.Access;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Fitup;

/// <summary>A figure of the sheet as it is entered.</summary>
public sealed record SpecEntry(
    string Name,
    string Panel,
    decimal? Specified,
    decimal Tolerance,
    string Unit,
    string Source,
    string Page,
    Guid? PhotoId
);

/// <summary>Both readings from a trial mark as they are entered.</summary>
public sealed record CentreEntry(
    string What,
    string Panel,
    decimal Left,
    decimal Right,
    decimal Tolerance,
    LengthUnit Unit
);

/// <summary>A place that is there on both sides, as it is entered.</summary>
public sealed record MirrorEntry(
    string Name,
    string Panel,
    PanelSide Sound,
    decimal Asymmetry,
    decimal Tolerance,
    LengthUnit Unit
);

/// <summary>All of a build that is measured beside its lines, openings and datum.</summary>
public sealed record FiguresLook(
    IReadOnlyList<SpecFigure> Specs,
    IReadOnlyList<CentreReading> Centres,
    IReadOnlyList<MirrorPlace> Mirrors,
    IReadOnlyList<BodyMount> Mounts,
    IReadOnlyList<BoltSet> Bolts
);

/// <summary>Figures against their papers, middles, the good side as the other's target, mounts, and bolts in their
/// order.</summary>
public sealed class FiguresDesk(ShopDb db, ShopClock clock, CurrentActor current, FitDesk fit)
    : Desk(db, clock, current)
{
    public async Task<FiguresLook> Look(Guid buildId, CancellationToken cancel) =>
        new(
            await Of<SpecFigure>(buildId).Where(f => !f.Removed).ToListAsync(cancel),
            await Of<CentreReading>(buildId).Where(c => !c.TakenBack).ToListAsync(cancel),
            await Of<MirrorPlace>(buildId).Where(m => !m.Removed).ToListAsync(cancel),
            await Of<BodyMount>(buildId).Where(m => !m.Removed).ToListAsync(cancel),
            await Of<BoltSet>(buildId).Where(b => !b.Removed).ToListAsync(cancel)
        );

    private IQueryable<T> Of<T>(Guid buildId)
        where T : Recorded =>
        Db.Set<T>().AsNoTracking().Where(x => EF.Property<Guid>(x, "BuildId") == buildId).OrderBy(x => x.Seq);

    /// <summary>Enters a figure, or changes what is said of it; its readings stay.</summary>
    public async Task<SpecFigure> PutSpec(Guid buildId, Guid id, SpecEntry e, uint? version, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var figure = await Db.Set<SpecFigure>().FindAsync([id], cancel);
        if (figure is null)
        {
            figure = new()
            {
                Id = id,
                BuildId = buildId,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            };
            Db.Add(figure);
        }
        else
        {
            Refusal.When(figure.BuildId != buildId, "id", "This figure is another build's.");
            Expect(figure, version);
        }

        (figure.Name, figure.Panel, figure.Specified, figure.Tolerance) = (
            e.Name.Trim(),
            e.Panel,
            e.Specified,
            e.Tolerance
        );
        (figure.Unit, figure.Source, figure.Page, figure.PhotoId) = (
            e.Unit.Trim(),
            e.Source.Trim(),
            e.Page.Trim(),
            e.PhotoId
        );
        figure.Check(build.Body());
        Refusal.When(
            e.PhotoId is { } photo
                && !await Db.Set<Photo>().AnyAsync(p => p.Id == photo && p.BuildId == buildId, cancel),
            "photoId",
            "This build has no such photo."
        );
        await Save(cancel);
        return figure;
    }

    public async Task<SpecFigure> ReadSpec(
        Guid id,
        Guid reading,
        decimal value,
        string instrument,
        CancellationToken cancel
    )
    {
        var figure = await Find<SpecFigure>(id, "figure", cancel);
        figure.Read(new(reading, PanelSide.Centre, value, instrument.Trim(), Actor.Name, Clock.Now));
        await Save(cancel);
        return figure;
    }

    public Task<SpecFigure> TakeBackSpec(Guid id, CancellationToken cancel) =>
        Change<SpecFigure>(id, "figure", f => f.TakeBack(), cancel);

    public Task<SpecFigure> RemoveSpec(Guid id, CancellationToken cancel) =>
        Change<SpecFigure>(id, "figure", f => f.Remove(), cancel);

    public async Task<CentreReading> ReadCentre(Guid buildId, Guid id, CentreEntry e, CancellationToken cancel)
    {
        if (await Again<CentreReading>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var reading = new CentreReading
        {
            Id = id,
            BuildId = buildId,
            What = e.What.Trim(),
            Panel = e.Panel,
            Left = e.Left,
            Right = e.Right,
            Tolerance = e.Tolerance,
            Unit = e.Unit,
            By = Actor.Name,
            At = Clock.Now,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        reading.Check(build.Body());
        Db.Add(reading);
        await Save(cancel);
        return reading;
    }

    public Task<CentreReading> TakeBackCentre(Guid id, CancellationToken cancel) =>
        Change<CentreReading>(id, "reading", r => r.TakeBack(), cancel);

    public async Task<MirrorPlace> AddMirror(Guid buildId, Guid id, MirrorEntry e, CancellationToken cancel)
    {
        if (await Again<MirrorPlace>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var place = new MirrorPlace
        {
            Id = id,
            BuildId = buildId,
            Name = e.Name.Trim(),
            Panel = e.Panel,
            Sound = e.Sound,
            Asymmetry = e.Asymmetry,
            Tolerance = e.Tolerance,
            Unit = e.Unit,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        place.Check(build.Body());
        Db.Add(place);
        await Save(cancel);
        return place;
    }

    public async Task<MirrorPlace> ReadMirror(
        Guid id,
        Guid reading,
        PanelSide side,
        decimal value,
        CancellationToken cancel
    )
    {
        var place = await Find<MirrorPlace>(id, "place", cancel);
        place.Read(new(reading, side, value, "", Actor.Name, Clock.Now));
        await Save(cancel);
        return place;
    }

    public Task<MirrorPlace> TakeBackMirror(Guid id, CancellationToken cancel) =>
        Change<MirrorPlace>(id, "place", p => p.TakeBack(), cancel);

    public Task<MirrorPlace> RemoveMirror(Guid id, CancellationToken cancel) =>
        Change<MirrorPlace>(id, "place", p => p.Remove(), cancel);

    public async Task<BodyMount> AddMount(
        Guid buildId,
        Guid id,
        string name,
        List<string> panels,
        CancellationToken cancel
    )
    {
        if (await Again<BodyMount>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var mount = new BodyMount
        {
            Id = id,
            BuildId = buildId,
            Name = name.Trim(),
            Panels = [.. panels.Distinct()],
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        mount.Check(GapLine.Of(build.Body()));
        Db.Add(mount);
        await Save(cancel);
        return mount;
    }

    /// <summary>Puts other shims into a mount: what moves with it is read again, and gates that had looked at it are
    /// shut.</summary>
    /// <param name="change">Id of what was done.</param>
    public async Task<BodyMount> Shim(Guid id, Guid change, decimal shimMm, uint? version, CancellationToken cancel)
    {
        var mount = await Find<BodyMount>(id, "mount", cancel);
        if (await Db.FitChanges.AnyAsync(c => c.Id == change, cancel))
        {
            return mount;
        }

        Expect(mount, version);
        var what = mount.Shim(shimMm);
        await using var all = await Whole(cancel);
        await fit.Change(mount.BuildId, change, mount.Panels, FitMethod.BodyMount, null, what, cancel);
        await Save(cancel);
        await all.Commit(cancel);
        return mount;
    }

    public Task<BodyMount> RemoveMount(Guid id, CancellationToken cancel) =>
        Change<BodyMount>(id, "mount", m => m.Remove(), cancel);

    public async Task<BoltSet> AddBolts(
        Guid buildId,
        Guid id,
        string name,
        string source,
        IReadOnlyList<(string Name, string Torque)> bolts,
        CancellationToken cancel
    )
    {
        if (await Again<BoltSet>(id, cancel) is { } there)
        {
            return there;
        }

        await Build(buildId, cancel);
        var set = new BoltSet
        {
            Id = id,
            BuildId = buildId,
            Name = name.Trim(),
            Source = source.Trim(),
            Steps = [.. bolts.Select((b, i) => new BoltStep(i + 1, b.Name.Trim(), b.Torque.Trim(), "", null))],
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        set.Check();
        Db.Add(set);
        await Save(cancel);
        return set;
    }

    public Task<BoltSet> Tighten(Guid id, int number, bool tight, CancellationToken cancel) =>
        Change<BoltSet>(
            id,
            "order",
            s =>
            {
                if (tight)
                {
                    s.Tighten(number, Actor.Name, Clock.Now);
                }
                else
                {
                    s.Loosen(number);
                }
            },
            cancel
        );

    public Task<BoltSet> RemoveBolts(Guid id, CancellationToken cancel) =>
        Change<BoltSet>(id, "order", s => s.Remove(), cancel);

    private async Task<T> Change<T>(Guid id, string what, Action<T> change, CancellationToken cancel)
        where T : Entity
    {
        var entity = await Find<T>(id, what, cancel);
        change(entity);
        await Save(cancel);
        return entity;
    }
}
