using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using NodaTime;

namespace FirstCoat.Core.Tests.Fitup;

/// <summary>Figures against their papers, middles, the sound side as the other's target, mounts and bolts.</summary>
public sealed class SpecFigureTests
{
    private static readonly Body Coupe = Body.Unfold(BodyStyleKey.Coupe, BodyDimensions.Of(BodyStyleKey.Coupe));

    private static SideReading Reading(decimal value, PanelSide side = PanelSide.Centre) =>
        new(Guid.CreateVersion7(), side, value, "", "Wil", Instant.FromUnixTimeSeconds(0));

    private static SpecFigure Figure(
        decimal? specified = 355,
        decimal tolerance = 5,
        string source = "Maker's manual"
    ) =>
        new()
        {
            BuildId = Guid.NewGuid(),
            Name = "front ride height",
            Specified = specified,
            Tolerance = tolerance,
            Source = source,
            Page = "12",
        };

    private static string Refused(Action ask) => Should.Throw<Refusal>(ask).Field;

    [Theory]
    [InlineData(355, "355 mm, specified 355 mm: within 5 mm", false)]
    [InlineData(360, "360 mm, specified 355 mm: within 5 mm", false)]
    [InlineData(350, "350 mm, specified 355 mm: within 5 mm", false)]
    [InlineData(360.01, "360.01 mm, specified 355 mm: 5.01 mm too much", true)]
    [InlineData(349.5, "349.5 mm, specified 355 mm: 5.5 mm too little", true)]
    public void A_figure_is_judged_by_its_paper_and_the_limit_itself_is_within(double value, string words, bool wrong)
    {
        var figure = Figure();
        figure.Words().ShouldBe("not measured");
        figure.IsOut().ShouldBeFalse();
        figure.Read(Reading((decimal)value));

        figure.Words().ShouldBe(words);
        figure.IsOut().ShouldBe(wrong);
    }

    [Fact]
    public void The_last_reading_counts_and_a_slip_is_taken_back()
    {
        var figure = Figure();
        var first = Reading(340);
        figure.Read(first);
        figure.Read(first);
        figure.Read(Reading(356));
        figure.Readings.Count.ShouldBe(2);
        figure.Deviation().ShouldBe(1);
        figure.TakeBack();
        figure.Deviation().ShouldBe(-15);
        Refused(figure.Remove).ShouldBe("id");
        figure.TakeBack();
        figure.Remove();
        figure.Deviation().ShouldBeNull();
        Refused(figure.TakeBack).ShouldBe("id");
    }

    [Fact]
    public void A_specified_figure_names_its_paper_and_one_without_has_a_picture()
    {
        Figure().Check(Coupe);
        Refused(() => Figure(source: "").Check(Coupe)).ShouldBe("source");
        Refused(() => Figure(specified: null, source: "").Check(Coupe)).ShouldBe("photoId");
        var shown = Figure(specified: null, source: "");
        shown.PhotoId = Guid.NewGuid();
        shown.Check(Coupe);
        shown.Read(Reading(12));
        shown.Words().ShouldBe("measured 12 mm; no paper says what it should be");
        shown.IsOut().ShouldBeFalse();
        var lost = Figure();
        lost.Panel = "attic";
        Refused(() => lost.Check(Coupe)).ShouldBe("panel");
    }

    [Fact]
    public void A_trial_mark_is_moved_by_half_the_difference()
    {
        // 612 and 618: 1230 wide, 3 to the right.
        CentreReading Mark(decimal left, decimal right, LengthUnit unit = LengthUnit.Mm, string what = "badge") =>
            new()
            {
                BuildId = Guid.NewGuid(),
                What = what,
                Left = left,
                Right = right,
                Tolerance = 2,
                Unit = unit,
                By = "Wil",
                At = Instant.FromUnixTimeSeconds(0),
            };
        var sum = Mark(612, 618).Sum();
        sum.WidthMm.ShouldBe(1230);
        sum.MoveRightMm.ShouldBe(3);
        sum.IsCentred.ShouldBeFalse();
        Mark(10, 20, LengthUnit.Inch).Sum().MoveRightMm.ShouldBe(127, 1e-9);
        Refused(() => Mark(0, 618).Check(Coupe)).ShouldBe("left");
        Refused(() => Mark(300, 500, LengthUnit.Inch).Check(Coupe)).ShouldBe("right");
        Refused(() => Mark(612, 618, what: " ").Check(Coupe)).ShouldBe("what");
    }

    [Theory]
    [InlineData(PanelSide.Left)]
    [InlineData(PanelSide.Right)]
    public void The_sound_side_is_the_target_of_the_other_whichever_it_is(PanelSide sound)
    {
        var place = new MirrorPlace
        {
            BuildId = Guid.NewGuid(),
            Name = "sill to arch",
            Sound = sound,
            Asymmetry = -2,
            Tolerance = 1,
            Unit = LengthUnit.Mm,
        };
        place.Check(Coupe);
        place.Targets().ShouldBeNull();
        place.Read(Reading(500, place.Doubtful()));
        place.Targets().ShouldBeNull();
        place.Read(Reading(412, sound));
        place.Targets()!.Targets[0].Mm.ShouldBe(410);
        place.Targets()!.Off[0].Mm.ShouldBe(90);
        place.Read(Reading(411, place.Doubtful()));
        place.Targets()!.Outside.ShouldBeEmpty();
        place.TakeBack();
        place.Targets()!.Outside.ShouldHaveSingleItem();
        Refused(() => place.Read(Reading(411))).ShouldBe("side");
        Refused(() => place.Read(Reading(0, sound))).ShouldBe("value");
    }

    [Fact]
    public void A_mount_says_what_was_done_to_its_shims()
    {
        var lines = GapLine.Of(Coupe);
        var mount = new BodyMount
        {
            BuildId = Guid.NewGuid(),
            Name = "3 R",
            Panels = [lines[0].Between[0]],
        };
        mount.Check(lines);
        mount.Shim(4).ShouldBe("Mount 3 R: shims 0.0 to 4.0 mm");
        Refused(mount.Remove).ShouldBe("id");
        mount.Shim(5.25m).ShouldBe("Mount 3 R: shims 4.0 to 5.25 mm");
        Refused(() => mount.Shim(5.25m)).ShouldBe("shimMm");
        Refused(() => mount.Shim(-1)).ShouldBe("shimMm");
        Refused(() =>
                new BodyMount
                {
                    BuildId = Guid.NewGuid(),
                    Name = "1",
                    Panels = [],
                }.Check(lines)
            )
            .ShouldBe("panels");
    }

    [Fact]
    public void Bolts_are_tightened_in_their_order_and_loose_from_one_on()
    {
        var set = new BoltSet
        {
            BuildId = Guid.NewGuid(),
            Name = "Cylinder head",
            Source = "Maker's manual, 21",
            Steps = [.. Enumerable.Range(1, 4).Select(n => new BoltStep(n, $"bolt {n}", "40 Nm", "", null))],
        };
        set.Check();
        var now = Instant.FromUnixTimeSeconds(60);
        Should.Throw<Refusal>(() => set.Tighten(2, "Wil", now)).Message.ShouldBe("1, bolt 1, comes first.");
        set.Tighten(1, "Wil", now);
        set.Tighten(1, "Odile", now);
        Refused(set.Remove).ShouldBe("id");
        set.Steps[0].By.ShouldBe("Wil");
        set.Tighten(2, "Wil", now);
        set.Tighten(3, "Wil", now);
        set.Next()!.Number.ShouldBe(4);
        set.Loosen(2);
        set.Next()!.Number.ShouldBe(2);
        set.Steps.Count(s => s.At is not null).ShouldBe(1);
        Refused(() => set.Loosen(9)).ShouldBe("number");
    }
}
