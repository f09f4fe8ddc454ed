using FirstCoat.Core;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Readings;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Fitup;

/// <summary>All that is read of a build's fit.</summary>
/// <param name="Next">In which round each line is read now, by its key.</param>
/// <param name="Gates">Those that look at the lines, in the order of the sequence.</param>
public sealed record FitLook(
    Body Body,
    FitSheet Sheet,
    IReadOnlyList<LineState> Lines,
    IReadOnlyDictionary<string, GapRound> Next,
    IReadOnlyList<FitChange> Changes,
    IReadOnlyList<Operation> Gates
);

/// <summary>A reading as it is typed.</summary>
public sealed record ReadingEntry(
    string Line,
    GapRound Round,
    int Station,
    FitMeasure Measure,
    decimal Value,
    LengthUnit Unit,
    string Instrument
);

/// <summary>By what lines are judged, as entered.</summary>
public sealed record FitSheetEntry(FitLimits Painted, FitLimits Bright, double? FilmUm, List<LineTerms> Lines);

/// <summary>Gap and flush: read, judged, accepted by name; what was done to a panel and what came of it.</summary>
public sealed class FitDesk(ShopDb db, ShopClock clock, CurrentActor current) : Desk(db, clock, current)
{
    public async Task<FitLook> Look(Guid buildId, CancellationToken cancel)
    {
        var build = await Build(buildId, cancel);
        var operations = await Db
            .Operations.AsNoTracking()
            .Where(o => o.BuildId == buildId && !o.Removed)
            .OrderBy(o => o.Position)
            .ToListAsync(cancel);
        return await Look(build, operations, cancel);
    }

    private async Task<FitLook> Look(Build build, IReadOnlyList<Operation> operations, CancellationToken cancel)
    {
        var body = build.Body();
        var lines = GapLine.Of(body);
        var sheet = await Sheet(build.Id, cancel) ?? New(build.Id);
        var readings = await Db
            .FitReadings.AsNoTracking()
            .Where(r => r.BuildId == build.Id)
            .OrderBy(r => r.Seq)
            .ToListAsync(cancel);
        var acceptances = await Db
            .FitAcceptances.AsNoTracking()
            .Where(a => a.BuildId == build.Id)
            .OrderBy(a => a.Seq)
            .ToListAsync(cancel);
        var changes = await Db
            .FitChanges.AsNoTracking()
            .Where(c => c.BuildId == build.Id)
            .OrderBy(c => c.Seq)
            .ToListAsync(cancel);
        var events = PanelStates.Counting(
            await Db.PanelEvents.AsNoTracking().Where(e => e.BuildId == build.Id).ToListAsync(cancel)
        );
        var names = body.Panels.ToDictionary(p => p.Key, p => p.Name);
        var touches = events
            .Where(e => e.Fact == PanelFact.NewMetal && names.ContainsKey(e.Panel))
            .Select(e => new FitTouch([e.Panel], $"New metal in {names[e.Panel]}", e.Seq))
            .Concat(changes.Select(c => new FitTouch(c.Panels, c.What, c.Seq)))
            .ToList();
        var now = lines.ToDictionary(l => l.Key, l => RoundNow(l, operations, events));
        return new(
            body,
            sheet,
            GapSheet.Of(lines, sheet, readings, acceptances, touches, now),
            now,
            changes,
            [.. operations.Where(o => FitGate.Asks(o, build.Terms.Choices.Gaps))]
        );
    }

    /// <summary>After paint once a panel beside the line wears colour, after the weld once one was welded out, before
    /// it until then.</summary>
    private static GapRound RoundNow(
        GapLine line,
        IReadOnlyList<Operation> operations,
        IReadOnlyList<PanelEvent> events
    )
    {
        bool Beside(string panel) => line.Between.Contains(panel);
        return events.Any(e => e.Coat is Coat.Base or Coat.Clear or Coat.Polished && Beside(e.Panel))
                ? GapRound.AfterPaint
            : operations.Any(o => o.IsDone && o.Held is Held.WeldedOut or Held.Dressed && o.Panels.Any(Beside))
                ? GapRound.AfterWeld
            : GapRound.BeforeWeld;
    }

    /// <summary>What a gate asks of the sheets.</summary>
    public async Task<IReadOnlyList<GateAsk>> Asks(
        Operation gate,
        IReadOnlyDictionary<Guid, Operation> operations,
        PanelSide? side,
        CancellationToken cancel
    )
    {
        var build = await Build(gate.BuildId, cancel);
        if (!FitGate.Asks(gate, build.Terms.Choices.Gaps))
        {
            return [];
        }

        var metal = await Db.PanelEvents.AsNoTracking().Where(e => e.BuildId == build.Id).OnMetal().ToListAsync(cancel);
        return FitGate.Asks(
            gate,
            build.Terms.Choices.Gaps,
            operations,
            (await Look(build, [.. operations.Values], cancel)).Lines,
            PanelStates.MetalIn(metal),
            side
        );
    }

    /// <summary>Records one figure; asked again with the same id it returns what is there.</summary>
    public async Task<FitReading> Read(Guid buildId, Guid id, ReadingEntry e, CancellationToken cancel)
    {
        if (await Again<FitReading>(id, cancel) is { } there)
        {
            return there;
        }

        return (await Read(buildId, [(id, e)], cancel))[0];
    }

    /// <summary>Records figures of a whole sheet: all of them or none.</summary>
    public async Task<IReadOnlyList<FitReading>> Read(
        Guid buildId,
        IReadOnlyList<(Guid Id, ReadingEntry Entry)> entries,
        CancellationToken cancel
    )
    {
        var lines = GapLine.Of((await Build(buildId, cancel)).Body()).ToDictionary(l => l.Key);
        List<FitReading> readings =
        [
            .. entries.Select(x => new FitReading
            {
                Id = x.Id,
                BuildId = buildId,
                Line = x.Entry.Line,
                Round = x.Entry.Round,
                Station = x.Entry.Station,
                Measure = x.Entry.Measure,
                Value = x.Entry.Value,
                Unit = x.Entry.Unit,
                Instrument = x.Entry.Instrument.Trim(),
                At = Clock.Now,
                By = Actor.Name,
                RecordedAt = Clock.Now,
                RecordedBy = Actor.AccountId,
            }),
        ];
        readings.ForEach(r => r.Check(lines.GetValueOrDefault(r.Line)));
        Db.AddRange(readings);
        await Db.DropProposals(buildId, entries.Select(x => x.Entry.Line), cancel);
        await Save(cancel);
        return readings;
    }

    /// <summary>Takes a slip back; what was read there before counts again. What was accepted rested on that figure
    /// and falls with it; a signed gate is shut where the line is not good without it.</summary>
    public async Task<FitReading> TakeBackReading(Guid id, CancellationToken cancel)
    {
        var reading = await Find<FitReading>(id, "reading", cancel);
        var build = await Build(reading.BuildId, cancel);
        await using var all = await Whole(cancel);
        reading.TakeBack();
        foreach (
            var acceptance in await Db
                .FitAcceptances.Where(a => a.BuildId == build.Id && a.Line == reading.Line && a.Round == reading.Round)
                .ToListAsync(cancel)
        )
        {
            acceptance.TakeBack();
        }

        await Save(cancel);
        if (
            (await Look(build.Id, cancel)).Lines.FirstOrDefault(l => l.Line.Key == reading.Line) is
            { IsGood: false } line
        )
        {
            await Db.Shut(build, line.Line.Between, cancel);
            await Save(cancel);
        }

        await all.Commit(cancel);
        return reading;
    }

    /// <summary>A line stays as it is: by a manager at once, by anybody else as a proposal.</summary>
    public async Task<FitAcceptance> Accept(Guid buildId, Guid id, string line, string why, CancellationToken cancel)
    {
        if (await Again<FitAcceptance>(id, cancel) is { } there)
        {
            return there;
        }

        var state = (await Look(buildId, cancel)).Lines.FirstOrDefault(l => l.Line.Key == line)
            ?? throw new Refusal("line", "This body has no such line.");
        Refusal.When(
            state.Verdict != LineVerdict.Out,
            "line",
            state.Verdict switch
            {
                LineVerdict.InLimits => "This line is in its limits: nothing is to be accepted.",
                LineVerdict.Accepted => "This line is accepted already.",
                LineVerdict.LeftOut => "This line is not read on this vehicle.",
                LineVerdict.ReadAgain => $"{state.Words} before it is accepted.",
                _ => "Read the line to its end before it is accepted.",
            }
        );
        var acceptance = new FitAcceptance
        {
            Id = id,
            BuildId = buildId,
            Line = line,
            Round = state.Last!.Round,
            Why = Refusal.Text(why, "why", 300),
            What = Words.Shortened(state.Words, 500),
            At = Clock.Now,
            By = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        if (Actor.IsManager)
        {
            acceptance.Accept(Actor.Name, Clock.Now);
        }

        Db.Add(acceptance);
        await Save(cancel);
        return acceptance;
    }

    /// <summary>A manager accepts what somebody proposed.</summary>
    public async Task<FitAcceptance> AcceptProposed(Guid id, CancellationToken cancel)
    {
        var acceptance = await Find<FitAcceptance>(id, "acceptance", cancel);
        var state = (await Look(acceptance.BuildId, cancel)).Lines.First(l => l.Line.Key == acceptance.Line);
        Refusal.When(
            state.Acceptance?.Id != id,
            "id",
            "The line was read or changed since this was proposed. Look at it again."
        );
        acceptance.Accept(Actor.Name, Clock.Now);
        await Save(cancel);
        return acceptance;
    }

    /// <summary>It does not stay as it is after all.</summary>
    public async Task<FitAcceptance> TakeBackAcceptance(Guid id, CancellationToken cancel)
    {
        var acceptance = await Find<FitAcceptance>(id, "acceptance", cancel);
        Refusal.When(
            acceptance.AcceptedAt is not null && !Actor.IsManager,
            "id",
            "A manager has accepted this: only a manager takes it back."
        );
        acceptance.TakeBack();
        await Save(cancel);
        return acceptance;
    }

    /// <summary>By what lines are judged from now on.</summary>
    public async Task<FitSheet> Judge(Guid buildId, FitSheetEntry e, uint? version, CancellationToken cancel)
    {
        var sheet = await Kept(buildId, cancel);
        Expect(sheet, version);
        (sheet.Painted, sheet.Bright, sheet.FilmUm, sheet.Lines) = (
            e.Painted,
            e.Bright,
            e.FilmUm,
            [.. e.Lines.Select(l => l with { LeftOut = l.LeftOut.Trim() })]
        );
        sheet.Check(GapLine.Of((await Build(buildId, cancel)).Body()));
        await Save(cancel);
        return sheet;
    }

    /// <summary>How a door hangs, as somebody measured it.</summary>
    public async Task<FitSheet> Hang(Guid buildId, DoorHang hang, CancellationToken cancel)
    {
        var sheet = await Kept(buildId, cancel);
        sheet.Doors = [.. sheet.Doors.Where(d => d.Panel != hang.Panel), hang];
        sheet.Check(GapLine.Of((await Build(buildId, cancel)).Body()));
        await Save(cancel);
        return sheet;
    }

    /// <summary>How a panel should be moved by what was read round it, or what a move would do.</summary>
    /// <param name="move">Null: the advised one.</param>
    public async Task<(HungPanel Panel, FitAdvice Advice)> Try(
        Guid buildId,
        string panel,
        FitMove? move,
        CancellationToken cancel
    )
    {
        var look = await Look(buildId, cancel);
        var hung = HungPanel.Of(look.Body, [.. look.Lines.Select(l => l.Line)], look.Sheet.Doors, panel);
        var states = look.Lines.ToDictionary(l => l.Line.Key);
        IReadOnlyList<double?> Read(GapLine line) =>
            states[line.Key].Last is { } last
                ? [.. last.Stations.Select(s => s.Gap?.Mm)]
                : [.. line.StationsMm.Select(_ => (double?)null)];
        GapLimits Limits(GapLine line) => states[line.Key].Limits.ForGaps();
        return (hung, move is null ? FitAdvice.Of(hung, Read, Limits) : FitAdvice.With(hung, move, Read, Limits));
    }

    /// <summary>Records what was done to a panel: its lines are read again, and gates that had looked at them are
    /// shut.</summary>
    public async Task<FitChange> Change(
        Guid buildId,
        Guid id,
        List<string> panels,
        FitMethod method,
        FitMove? move,
        string what,
        CancellationToken cancel
    )
    {
        if (await Again<FitChange>(id, cancel) is { } there)
        {
            return there;
        }

        var build = await Build(buildId, cancel);
        var change = new FitChange
        {
            Id = id,
            BuildId = buildId,
            Panels = [.. panels.Distinct()],
            Method = method,
            Move = move,
            What = what.Trim(),
            At = Clock.Now,
            By = Actor.Name,
            RecordedAt = Clock.Now,
            RecordedBy = Actor.AccountId,
        };
        change.Check(GapLine.Of(build.Body()));
        Db.Add(change);
        await Db.Shut(build, change.Panels, cancel);
        await Save(cancel);
        return change;
    }

    /// <summary>Says what came of a change.</summary>
    public async Task<FitChange> JudgeChange(
        Guid id,
        bool helped,
        string result,
        uint? version,
        CancellationToken cancel
    )
    {
        var change = await Find<FitChange>(id, "change", cancel);
        Expect(change, version);
        change.Judge(helped, result);
        await Save(cancel);
        return change;
    }

    private Task<FitSheet?> Sheet(Guid buildId, CancellationToken cancel) =>
        Db.FitSheets.SingleOrDefaultAsync(s => s.BuildId == buildId, cancel);

    private async Task<FitSheet> Kept(Guid buildId, CancellationToken cancel)
    {
        await Build(buildId, cancel);
        if (await Sheet(buildId, cancel) is { } there)
        {
            return there;
        }

        var sheet = New(buildId);
        Db.Add(sheet);
        return sheet;
    }

    private static FitSheet New(Guid buildId) => new() { Id = Guid.CreateVersion7(), BuildId = buildId };
}
