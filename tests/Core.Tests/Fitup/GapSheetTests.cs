using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>How lines stand by what was read, what was done to them since, and what the gates ask of them.</summary>
public sealed class GapSheetTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 3, 5, 12, 0);
    private static readonly IReadOnlyList<GapLine> Lines = GapLine.Of(
        Body.Unfold(BodyStyleKey.Coupe, BodyDimensions.Of(BodyStyleKey.Coupe))
    );
    private static readonly GapLine Sill = Lines.Single(l => l.Key == "door/sill R");

    private readonly FitSheet _sheet = new() { Id = Guid.NewGuid(), BuildId = Guid.NewGuid() };
    private readonly List<FitReading> _readings = [];
    private readonly List<FitAcceptance> _acceptances = [];
    private readonly List<FitTouch> _touches = [];
    private long _seq;

    private T Recorded<T>(T e)
        where T : Recorded
    {
        typeof(Recorded).GetProperty(nameof(Core.Recorded.Seq))!.SetValue(e, ++_seq);
        return e;
    }

    private void Read(
        double mm,
        int station,
        FitMeasure measure = FitMeasure.Gap,
        GapLine? line = null,
        GapRound round = GapRound.BeforeWeld
    ) =>
        _readings.Add(
            Recorded(
                new FitReading
                {
                    Id = Guid.NewGuid(),
                    BuildId = _sheet.BuildId,
                    Line = (line ?? Sill).Key,
                    Round = round,
                    Station = station,
                    Measure = measure,
                    Value = (decimal)mm,
                    Unit = LengthUnit.Mm,
                    At = Noon,
                    By = "Wil",
                }
            )
        );

    private void ReadAll(GapLine line, double mm, GapRound round = GapRound.BeforeWeld)
    {
        for (var i = 1; i <= line.StationsMm.Count; i++)
        {
            Read(mm, i, FitMeasure.Gap, line, round);
        }

        foreach (var i in LineRound.FlushAt(line.StationsMm.Count))
        {
            Read(.2, i, FitMeasure.Flush, line, round);
        }
    }

    private FitAcceptance Accept(string why, bool accepted = true)
    {
        var given = Recorded(
            new FitAcceptance
            {
                Id = Guid.NewGuid(),
                BuildId = _sheet.BuildId,
                Line = Sill.Key,
                Round = GapRound.BeforeWeld,
                Why = why,
                What = "",
                At = Noon,
                By = "Wil",
            }
        );
        if (accepted)
        {
            given.Accept("Sunniva", Noon);
        }

        _acceptances.Add(given);
        return given;
    }

    private void Touch(string panel, string what) => _touches.Add(new([panel], what, ++_seq));

    private IReadOnlyList<LineState> All() => GapSheet.Of(Lines, _sheet, _readings, _acceptances, _touches);

    private LineState State() => All().Single(l => l.Line == Sill);

    [Fact]
    public void A_line_is_read_when_each_station_is_and_flush_at_both_ends_and_in_the_middle()
    {
        (State().Verdict, State().Last).ShouldBe((LineVerdict.NotRead, null));
        for (var i = 1; i <= 9; i++)
        {
            Read(4, i);
            State().Verdict.ShouldBe(LineVerdict.PartlyRead);
        }

        State().Words.ShouldBe("flush at 1, 5, 9 is not read");
        Read(.1, 1, FitMeasure.Flush);
        Read(-.2, 5, FitMeasure.Flush);
        State().Last!.Missing.ShouldBe([(9, FitMeasure.Flush)]);
        Read(.6, 9, FitMeasure.Flush);
        (State().Verdict, State().IsGood).ShouldBe((LineVerdict.InLimits, true));
        State().Last!.WorstFlushMm.ShouldBe(.6);
        // A slip taken back is not there.
        _readings[3].TakeBack();
        State().Words.ShouldBe("8 of 9 read");
    }

    [Fact]
    public void A_mean_never_passes_a_line_and_what_is_wrong_is_said_with_its_stations()
    {
        // The study's line: right in its middle, four in a metre along its edge; its mean is 4.6.
        double[] gaps = [6.6, 6.1, 5.7, 5.1, 4.6, 4.1, 3.5, 3.1, 2.6];
        for (var i = 0; i < 9; i++)
        {
            Read(gaps[i], i + 1);
            Read(i < 6 ? .2 : .9, i + 1, FitMeasure.Flush);
        }

        var state = State();
        state.Verdict.ShouldBe(LineVerdict.Out);
        state.Words.ShouldBe(
            "too tight at 8, 9; too wide at 1 to 4; not even: range 4.0 mm; steps up to 0.9 mm at 7 to 9"
        );
        state.Last!.WorstMm.ShouldBe(6.6);
        state.Last.Profile!.MeanMm.ShouldBe(gaps.Average(), 1e-9);
    }

    [Fact]
    public void Bright_edges_have_stricter_limits_and_a_line_can_have_its_own()
    {
        ReadAll(Sill, 4.6);
        State().Verdict.ShouldBe(LineVerdict.InLimits);
        _sheet.Lines = [new(Sill.Key, IsBright: true)];
        State().Words.ShouldBe("too wide at 1 to 9");
        _sheet.Lines = [new(Sill.Key, IsBright: true, Own: new(5, .5, 1, 1))];
        State().Verdict.ShouldBe(LineVerdict.InLimits);
        _sheet.Lines = [new(Sill.Key, LeftOut: "no sill moulding on this one")];
        (State().Verdict, State().IsGood).ShouldBe((LineVerdict.LeftOut, true));
    }

    [Fact]
    public void The_last_reading_counts_and_the_last_round_decides()
    {
        ReadAll(Sill, 6);
        State().Verdict.ShouldBe(LineVerdict.Out);
        ReadAll(Sill, 4);
        State().Verdict.ShouldBe(LineVerdict.InLimits);
        Read(7, 5, round: GapRound.AfterWeld);
        State().Rounds.Select(r => r.Round).ShouldBe([GapRound.BeforeWeld, GapRound.AfterWeld]);
        State().Words.ShouldBe("1 of 9 read");
        ReadAll(Sill, 3.9, GapRound.AfterWeld);
        State().Verdict.ShouldBe(LineVerdict.InLimits);
        State().Rounds[0].Profile!.MeanMm.ShouldBe(4, 1e-9);
    }

    [Fact]
    public void What_is_done_beside_a_line_asks_for_it_again_and_only_there()
    {
        ReadAll(Sill, 4);
        var other = Lines.Single(l => l.Key == "door/sill L");
        ReadAll(other, 4);
        Touch("sillR", "New metal in R sill");
        State().Verdict.ShouldBe(LineVerdict.ReadAgain);
        State().Words.ShouldBe("New metal in R sill: read 9 of 9 again");
        All().Single(l => l.Line == other).Verdict.ShouldBe(LineVerdict.InLimits);
        Read(4.1, 1);
        State().Words.ShouldBe("New metal in R sill: read 8 of 9 again");
        ReadAll(Sill, 4.1);
        State().Verdict.ShouldBe(LineVerdict.InLimits);
    }

    [Fact]
    public void A_line_that_was_good_before_the_weld_is_read_again_after_it()
    {
        ReadAll(Sill, 4);
        LineState Now(GapRound now) =>
            GapSheet
                .Of(
                    Lines,
                    _sheet,
                    _readings,
                    _acceptances,
                    _touches,
                    new Dictionary<string, GapRound> { [Sill.Key] = now }
                )
                .Single(l => l.Line == Sill);
        Now(GapRound.BeforeWeld).Verdict.ShouldBe(LineVerdict.InLimits);
        Now(GapRound.AfterWeld).Verdict.ShouldBe(LineVerdict.ReadAgain);
        Now(GapRound.AfterWeld).Words.ShouldBe("Welded out since: read 9 of 9 again");
        Now(GapRound.AfterPaint).Words.ShouldBe("Painted since: read 9 of 9 again");
        ReadAll(Sill, 4, GapRound.AfterWeld);
        Now(GapRound.AfterWeld).Verdict.ShouldBe(LineVerdict.InLimits);
        // Who reads it after the paint although nobody has painted yet is not asked for less.
        ReadAll(Sill, 6, GapRound.AfterPaint);
        Now(GapRound.AfterWeld).Verdict.ShouldBe(LineVerdict.Out);
    }

    [Fact]
    public void What_is_accepted_holds_for_what_was_read_then()
    {
        ReadAll(Sill, 5.2);
        Accept("the sill cover hides it", accepted: false);
        State().Verdict.ShouldBe(LineVerdict.Out, "it is proposed");
        State().Acceptance!.AcceptedAt.ShouldBeNull();
        var given = Accept("the sill cover hides it");
        (State().Verdict, State().IsGood).ShouldBe((LineVerdict.Accepted, true));
        State().Words.ShouldBe("too wide at 1 to 9: stays, the sill cover hides it (Sunniva)");
        given.TakeBack();
        State().Verdict.ShouldBe(LineVerdict.Out);
        Accept("the sill cover hides it");
        Read(5.3, 4);
        State().Verdict.ShouldBe(LineVerdict.Out, "it reads something else now");
        Accept("still");
        Touch("doorR", "R door moved");
        State().Verdict.ShouldBe(LineVerdict.ReadAgain);
        Should.Throw<Refusal>(() => given.Accept("Sunniva", Noon));
    }

    [Fact]
    public void Film_still_to_come_closes_the_gap_from_both_edges()
    {
        ReadAll(Sill, 4);
        State().Foretold.ShouldBeEmpty("nobody has said how much film comes");
        _sheet.FilmUm = 220;
        State().Foretold.ShouldAllBe(g => Math.Abs(g!.Value - 3.56) < 1e-9);
        ReadAll(Sill, 3.6, GapRound.AfterPaint);
        State().Foretold.ShouldBeEmpty("it is on");
    }

    [Fact]
    public void Readings_are_kept_as_typed_and_slips_are_refused()
    {
        FitReading Typed(decimal value, LengthUnit unit, FitMeasure measure = FitMeasure.Gap, int station = 1) =>
            new()
            {
                Id = Guid.NewGuid(),
                BuildId = _sheet.BuildId,
                Line = Sill.Key,
                Round = GapRound.BeforeWeld,
                Station = station,
                Measure = measure,
                Value = value,
                Unit = unit,
                At = Noon,
                By = "Wil",
            };
        Typed(.157m, LengthUnit.Inch).Mm.ShouldBe(3.9878, 1e-12);
        Typed(157m, LengthUnit.Thou).Mm.ShouldBe(3.9878, 1e-12);
        Typed(-.4m, LengthUnit.Mm, FitMeasure.Flush).Check(Sill);
        string Refused(FitReading r, GapLine? line) => Should.Throw<Refusal>(() => r.Check(line)).Field;
        Refused(Typed(-.1m, LengthUnit.Mm), Sill).ShouldBe("value");
        Refused(Typed(47m, LengthUnit.Inch), Sill).ShouldBe("value");
        Refused(Typed(4m, LengthUnit.Mm, station: 10), Sill).ShouldBe("station");
        Refused(Typed(4m, LengthUnit.Mm), null).ShouldBe("line");
    }

    [Fact]
    public void A_sheet_names_each_line_and_door_once_and_its_limits_are_limits()
    {
        string Refused(Action<FitSheet> change)
        {
            var sheet = new FitSheet { Id = Guid.NewGuid(), BuildId = Guid.NewGuid() };
            change(sheet);
            return Should.Throw<Refusal>(() => sheet.Check(Lines)).Field;
        }

        _sheet.Check(Lines);
        Refused(s => s.Lines = [new("door/attic R")]).ShouldBe("lines");
        Refused(s => s.Lines = [new(Sill.Key), new(Sill.Key)]).ShouldBe("lines");
        Refused(s => s.Doors = [new("atticR", 380, 160, 1000)]).ShouldBe("doors");
        Refused(s => s.Doors = [new("sillR", 380, 160, 1000)]).ShouldBe("doors");
        Refused(s => s.Doors = [new("doorR", 0, 160, 1000)]).ShouldBe("hingeSpacingMm");
        Refused(s => s.FilmUm = -1).ShouldBe("filmUm");
        Refused(s => s.Painted = new(4, -.1, .8, .6)).ShouldBe("toleranceMm");
        Refused(s => s.Lines = [new(Sill.Key, Own: new(double.NaN, .5, .8, .6))]).ShouldBe("targetMm");
    }

    private static Operation Gate(GateKind kind, params Operation[] after) =>
        new()
        {
            Id = Guid.NewGuid(),
            BuildId = Guid.NewGuid(),
            Name = "Fit-up signed",
            Kind = OperationKind.Gate,
            Gate = kind,
            After = [.. after.Select(a => new OperationLink(a.Id, 0))],
        };

    private static Operation Work(params string[] panels) =>
        new()
        {
            Id = Guid.NewGuid(),
            BuildId = Guid.NewGuid(),
            Name = "Dry build",
            Panels = [.. panels],
        };

    private IReadOnlyList<GateAsk> Asks(
        Operation gate,
        Operation work,
        GapSchool school = GapSchool.Both,
        params TemporaryMetal[] metal
    ) => FitGate.Asks(gate, school, new Dictionary<Guid, Operation> { [work.Id] = work }, All(), metal);

    [Fact]
    public void The_gate_asks_for_the_lines_beside_the_work_it_checks_until_each_is_good()
    {
        var work = Work("doorR");
        var gate = Gate(GateKind.FitUp, work);
        Asks(gate, work)
            .Select(a => (a.Words, a.IsMet, a.Must))
            .ShouldBe([
                ("All 3 shut lines read", false, true),
                ("Each line in its limits, or accepted by a name", true, true),
            ]);
        Asks(gate, work)[0]
            .Missing.ShouldBe("not read to the end: F Wing to door, R, H Door to sill, R, T Door to quarter, R");
        foreach (var line in Lines.Where(l => l.Between.Contains("doorR")))
        {
            ReadAll(line, line == Sill ? 5 : 4);
        }

        Asks(gate, work).Single(a => !a.IsMet).Missing.ShouldBe("out of limits: H Door to sill, R");
        Accept("the cover hides it");
        Asks(gate, work).ShouldAllBe(a => a.IsMet);
        Touch("doorR", "R door moved");
        Asks(gate, work)
            .Single(a => !a.IsMet)
            .Missing.ShouldBe("changed since it was read: F Wing to door, R, H Door to sill, R, T Door to quarter, R");
        // Braces do not hinder it, and stand with the name.
        Asks(gate, work, GapSchool.Both, new TemporaryMetal("doorR", "door brace", true, Stage.Fill))
            .Single(a => !a.Must)
            .Missing.ShouldBe("temporary metal is in: door brace");
    }

    [Theory]
    [InlineData(GateKind.FitUp, GapSchool.Both, true)]
    [InlineData(GateKind.FitUp, GapSchool.AfterUniformCoat, false)]
    [InlineData(GateKind.UniformCoat, GapSchool.BeforeFinish, false)]
    [InlineData(GateKind.UniformCoat, GapSchool.AfterUniformCoat, true)]
    [InlineData(GateKind.Side, GapSchool.Both, true)]
    [InlineData(GateKind.Handover, GapSchool.Both, false)]
    public void Which_gate_looks_at_gaps_is_the_school_of_the_build(GateKind kind, GapSchool school, bool asks)
    {
        var work = Work();
        Asks(Gate(kind, work), work, school).Any().ShouldBe(asks);
    }
}
