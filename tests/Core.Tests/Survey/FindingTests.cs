using CsCheck;
using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using NodaTime;

namespace FirstCoat.Core.Tests.Survey;

/// <summary>What was found, the four ways to deal with it, and the work that a verdict becomes.</summary>
public sealed class FindingTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 10, 13, 12, 0);

    private static Vehicle Car(
        Construction construction = Construction.SeparateChassis,
        BodyStyleKey style = BodyStyleKey.Pickup
    ) => new("Dotterel", "pick-up", 1962, style, construction, "D45", "Moss", "#606E36", BodyDimensions.Of(style));

    private static Finding Found(
        string place = "sillR",
        FindingKind kind = FindingKind.RustThrough,
        bool structural = true,
        params FindingOption[] options
    )
    {
        var finding = new Finding
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Number = 1,
            FoundBy = "Bram Holt",
            FoundAt = Noon,
            Place = place,
            Kind = kind,
            Structural = structural,
        };
        finding.Judge(options);
        return finding;
    }

    private static readonly FindingOption Repair = new(Verdict.Repair, 14, Trade.Metal, Material: 60, RiskPercent: 15);
    private static readonly FindingOption Replace = new(
        Verdict.Replace,
        6,
        Trade.Metal,
        Part: 268,
        Freight: 55,
        LeadDays: 4,
        RiskPercent: 5
    );
    private static readonly FindingOption Make = new(Verdict.Fabricate, 19, Trade.Metal, Material: 95, RiskPercent: 10);

    private static VerdictTerms Terms(FinishGrade grade = FinishGrade.Show, bool seen = true) =>
        new(new Dictionary<Trade, decimal> { [Trade.Metal] = 58, [Trade.Body] = 54 }, 36, grade, seen);

    [Fact]
    public void Sheet_is_taken_off_from_the_drawn_area_at_the_shops_price_for_its_thickness()
    {
        // A sheet of 1.2 mm, 1250 x 2500, at 96.40: 30.848 a square metre; 30 by 40 cm of it is 3.70.
        var terms = new VerdictTerms(
            Enum.GetValues<Trade>().ToDictionary(t => t, _ => 60m),
            0,
            FinishGrade.Show,
            false,
            [new(1.2m, 1250, 2500, 96.40m), new(1.0m, 1000, 2000, 50m)]
        );
        var finding = new Finding
        {
            BuildId = Guid.Empty,
            Number = 1,
            FoundBy = "",
            FoundAt = default,
            GaugeMm = 1.2m,
            Area = [new(0, 0), new(30, 0), new(30, 40), new(0, 40)],
        };
        FindingOption Way(Verdict verdict, decimal m2 = 0, Trade trade = Trade.Metal) => new(verdict, 1, trade, 5, m2);
        VerdictSums.MaterialOf(Way(Verdict.Repair), finding, terms).ShouldBe(8.70m);
        VerdictSums.MaterialOf(Way(Verdict.Fabricate, m2: 50), finding, terms).ShouldBe(11.00m, "as it was judged");
        VerdictSums.MaterialOf(Way(Verdict.Replace), finding, terms).ShouldBe(5m, "a bought part takes no sheet");
        VerdictSums
            .MaterialOf(Way(Verdict.Repair, trade: Trade.Body), finding, terms)
            .ShouldBe(5m, "filler takes none either");
        finding.GaugeMm = 0.8m;
        VerdictSums.MaterialOf(Way(Verdict.Repair), finding, terms).ShouldBe(5m, "the shop buys no such sheet");
    }

    [Fact]
    public void What_is_drawn_has_an_area_and_a_largest_extent()
    {
        var drawn = new Finding
        {
            BuildId = Guid.Empty,
            Number = 1,
            FoundBy = "",
            FoundAt = default,
            Area = [new(0, 0), new(30, 0), new(30, 40), new(0, 40)],
        };
        // 30 by 40 cm: 0.12 square metres, 50 cm from corner to corner.
        (drawn.AreaM2, drawn.DrawnMm).ShouldBe((0.12, 500));
        drawn.Area = [];
        drawn.DrawnMm.ShouldBeNull();
    }

    [Fact]
    public void The_ways_stand_side_by_side_with_their_parts_and_break_even()
    {
        var sums = VerdictSums.Of(Found(options: [Repair, Replace, Make]), Terms());
        // (14 x 58 + 60) 1.15; (6 x 58 + 268 + 55 + 4 x 36) 1.05; (19 x 58 + 95) 1.10
        sums.Ways.Select(w => (w.Option.Verdict, w.Total))
            .ShouldBe([
                (Verdict.Leave, 0m),
                (Verdict.Repair, 1002.80m),
                (Verdict.Replace, 855.75m),
                (Verdict.Fabricate, 1316.70m),
            ]);
        sums.Cheapest.ShouldBe(Verdict.Replace);
        sums.Ways[0].Barred.ShouldBe("structural, may not be left");
        var repair = sums.Ways[1];
        (repair.Labour, repair.Material, repair.Hidden).ShouldBe((812m, 60m, 130.80m));
        // 855.75 / 1.15 = 744.13, less 60, over 58.
        repair.BreakEvenHours!.Value.ShouldBe(11.795m, 0.001m);
        repair.Against.ShouldBe(Verdict.Replace);
        (sums.Ways[2].Wait, sums.Ways[2].Hidden).ShouldBe((144m, 40.75m));
    }

    [Theory]
    [InlineData(FindingKind.Dent, FinishGrade.Show, true, "it would show at this finish")]
    [InlineData(FindingKind.Dent, FinishGrade.Driver, true, null)]
    [InlineData(FindingKind.Dent, FinishGrade.Concours, false, null)]
    [InlineData(FindingKind.Thinning, FinishGrade.Show, true, null)]
    public void Leaving_is_barred_where_it_would_show(FindingKind kind, FinishGrade grade, bool seen, string? why) =>
        VerdictSums.Of(Found("wingL", kind, structural: false), Terms(grade, seen)).Ways[0].Barred.ShouldBe(why);

    [Fact]
    public void What_is_not_sold_cannot_be_bought_and_is_not_the_measure_of_the_others()
    {
        var sums = VerdictSums.Of(Found(options: [Repair, Replace with { NotSold = true }, Make]), Terms());
        sums.Ways[2].Barred.ShouldBe("not sold new");
        (sums.Cheapest, sums.Ways[1].Against).ShouldBe((Verdict.Repair, Verdict.Fabricate));
    }

    [Fact]
    public void Sheet_is_reckoned_from_what_is_drawn()
    {
        var finding = Found(options: [Repair with { SheetM2Price = 40 }]);
        finding.Area = [new(0, 0), new(62, 0), new(62, 50), new(0, 50)];
        finding.AreaM2.ShouldBe(0.31, 1e-9);
        VerdictSums.Of(finding, Terms()).Ways[1].Material.ShouldBe(72.40m);
        finding.Area = [new(0, 0), new(62, 0), new(0, 50)];
        finding.AreaM2.ShouldBe(0.155, 1e-9);
    }

    [Fact]
    public void A_way_must_be_judged_and_allowed_before_it_is_chosen_and_agreement_is_to_one_choice()
    {
        var finding = Found(options: [Repair, Replace]);
        Should
            .Throw<Refusal>(() => finding.Choose(Verdict.Fabricate, "", null, "Bram", Noon))
            .Field.ShouldBe("verdict");
        Should
            .Throw<Refusal>(() => finding.Choose(Verdict.Leave, "", "structural, may not be left", "Bram", Noon))
            .Message.ShouldContain("structural");
        Should.Throw<Refusal>(() => finding.Agree("Sunniva", Noon));
        finding.Choose(Verdict.Replace, "the section comes with the cab mount in it", null, "Bram", Noon);
        finding.Agree("Sunniva", Noon);
        Should.Throw<Refusal>(() => finding.Agree("Sunniva", Noon)).Message.ShouldContain("Sunniva");
        // The same figures again change nothing; other figures of the chosen way need agreement anew.
        finding.Judge([Repair, Replace]);
        finding.AgreedBy.ShouldBe("Sunniva");
        finding.Judge([Repair, Replace with { Hours = 9 }]);
        (finding.Choice, finding.AgreedBy).ShouldBe((Verdict.Replace, null));
        finding.Judge([Repair]);
        (finding.Choice, finding.ChosenBy).ShouldBe((null, null));
    }

    [Fact]
    public void A_round_goes_over_every_place_and_a_place_nobody_looked_at_is_dark()
    {
        var places = SurveyPlaces.Of(Car(), []);
        places.Select(p => p.Key).ShouldBeUnique();
        places.Count(p => p.Group == PlaceGroup.Structure).ShouldBe(6);
        var sheet = SurveySheet.Of(places, [], [], []);
        sheet.Seen.ShouldBe(0);
        sheet.StillDark[0].Side.ShouldBe(PanelSide.Left, "the round starts down the left");
        var mark = new PunchMark
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Place = "sillR",
            At = new(100, 200),
            Result = Probe.Dents,
            By = "Bram",
            On = Noon,
        };
        var worse = new PunchMark
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Place = "sillR",
            At = new(100, 220),
            Result = Probe.GoesThrough,
            By = "Bram",
            On = Noon,
        };
        var look = new SurveyLook
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Place = "roof",
            By = "Bram",
            On = Noon,
        };
        sheet = SurveySheet.Of(places, [mark, worse], [look], [Found("tailgate", structural: false)]);
        sheet.Seen.ShouldBe(3);
        sheet
            .Places.Single(p => p.Place.Key == "sillR")
            .ShouldSatisfyAllConditions(p => p.Worst.ShouldBe(Probe.GoesThrough), p => p.Marks.ShouldBe(2));
        sheet.Places.Single(p => p.Place.Key == "roof").Worst.ShouldBeNull();
        worse.Withdraw("Bram");
        SurveySheet
            .Of(places, [mark, worse], [], [])
            .Places.Single(p => p.Place.Key == "sillR")
            .Worst.ShouldBe(Probe.Dents);
    }

    [Fact]
    public void A_vehicles_life_says_where_to_look_harder()
    {
        string? Why(string place, params HistoryHint[] history) =>
            SurveyPlaces.Of(Car(), history).Single(p => p.Key == place).Harder;
        Why("wingL").ShouldBeNull();
        Why("wingL", HistoryHint.CrashedLeft).ShouldBe("it was hit on the left");
        Why("wingR", HistoryHint.CrashedLeft).ShouldBeNull();
        Why("floorFL", HistoryHint.StoodOutside)!.ShouldContain("water lay");
        Why("railR", HistoryHint.SaltAir)!.ShouldContain("salt");
        var first = SurveySheet.Of(SurveyPlaces.Of(Car(), [HistoryHint.CrashedRight]), [], [], []).StillDark[0];
        first.Side.ShouldBe(PanelSide.Right, "where it was hit comes first");
    }

    [Theory]
    [InlineData(Construction.Unitary, "innerSillL")]
    [InlineData(Construction.SeparateChassis, "outriggerR")]
    [InlineData(Construction.WoodFramed, "soleL")]
    [InlineData(Construction.Composite, "bondR")]
    public void The_structure_is_that_of_the_construction(Construction construction, string place) =>
        SurveyPlaces.Of(Car(construction), []).ShouldContain(p => p.Key == place && p.Spot != null);

    [Fact]
    public void The_underside_mirrors_and_its_shapes_do_not_lie_on_each_other() =>
        Gen.Select(Gen.Enum<Construction>(), Gen.Enum<BodyStyleKey>())
            .Sample(
                (construction, style) =>
                {
                    var parts = Underside.Of(Car(construction, style));
                    foreach (var left in parts.Where(p => p.Side == PanelSide.Left))
                    {
                        var right = parts.Single(p => p.Key == left.Key[..^1] + "R");
                        left.Corners.Select(c => (-c.X, c.Y))
                            .Order()
                            .ShouldBe(right.Corners.Select(c => (c.X, c.Y)).Order());
                    }

                    (double X0, double Y0, double X1, double Y1) Box(Underside.Part p) =>
                        (
                            p.Corners.Min(c => c.X),
                            p.Corners.Min(c => c.Y),
                            p.Corners.Max(c => c.X),
                            p.Corners.Max(c => c.Y)
                        );
                    foreach (var (a, i) in parts.Select((p, i) => (Box(p), i)))
                    {
                        foreach (var b in parts.Skip(i + 1).Select(Box))
                        {
                            (a.X0 < b.X1 && b.X0 < a.X1 && a.Y0 < b.Y1 && b.Y0 < a.Y1).ShouldBeFalse(
                                $"{construction} {style}: {parts[i].Key}"
                            );
                        }
                    }
                },
                iter: 60
            );

    private static List<Operation> Sequence()
    {
        var id = Guid.CreateVersion7();
        return
        [
            .. Templates.Make(
                Templates.PaintThenAssemble,
                id,
                Car(Construction.Unitary, BodyStyleKey.Coupe),
                FinishGrade.Show,
                1,
                Guid.CreateVersion7
            ),
        ];
    }

    private static VerdictWork Work(
        Finding finding,
        FindingOption option,
        List<Operation> sequence,
        VerdictMade? made = null,
        EstimateTotals? before = null,
        Allowance? allowance = null
    )
    {
        var place = SurveyPlaces
            .Of(Car(Construction.Unitary, BodyStyleKey.Coupe), [])
            .Single(p => p.Key == finding.Place);
        var sum = VerdictSums.Of(finding, Terms()).Ways.Single(w => w.Option.Verdict == option.Verdict);
        return VerdictWork.Of(
            finding,
            place,
            sum,
            sequence,
            made ?? new([], new HashSet<Guid>(), [], new HashSet<Guid>()),
            allowance,
            new([new(100, 40), new(null, 25)], 20, Terms().Rates),
            before,
            Guid.CreateVersion7
        );
    }

    private static Allowance? Allowed(string place, List<Operation> sequence, params Guid[] begun) =>
        AllowedTo(Guid.CreateVersion7(), place, sequence, begun);

    private static Allowance? AllowedTo(Guid finding, string place, List<Operation> sequence, params Guid[] begun)
    {
        var places = SurveyPlaces.Of(Car(Construction.Unitary, BodyStyleKey.Coupe), []);
        return Allowance.For(finding, places.Single(p => p.Key == place), places, sequence, begun.ToHashSet());
    }

    [Fact]
    public void What_a_template_allowed_for_a_place_goes_out_for_what_was_found_there()
    {
        // 34 h are allowed for right sill, quarter and post: 11:15 each. The sill takes 6 h: 5:15 h and 5.25 x 58 less
        // than was allowed.
        var sequence = Sequence();
        var side = sequence.Single(o => o.TemplateKey == "sillR");
        side.Panels.ShouldBe(["sillR", "quarterR", "postR"], ignoreOrder: true);
        side.Terms = side.Terms with { LowMinutes = 1020, HighMinutes = 4080 };
        var finding = Found(options: [Replace]);
        var allowed = Allowed("sillR", sequence)!;
        var work = Work(finding, Replace, sequence, allowance: allowed);
        work.Replaces.ShouldBe(new(side.Id, side.Name, 675, 1365));
        (work.AddsMinutes, work.Adds.Labour).ShouldBe((-315, -304.50m));
        var o = work.Operation!;
        (o.Coat, o.Held, o.ClosedUntil, o.OneAtATime).ShouldBe((side.Coat, side.Held, side.Terms.ClosedUntil, "sides"));
        o.After.ShouldBe(side.After);
        o.Before.ShouldBe(sequence.Where(x => x.After.Any(a => a.Operation == side.Id)).Select(x => x.Id));

        allowed.TakeOut("sillR", finding.Id);
        // A half and twice of it as before.
        (
            side.BudgetMinutes,
            side.Terms.LowMinutes,
            side.Terms.HighMinutes,
            string.Join(" ", side.Panels.Order())
        ).ShouldBe((1365, 682, 2730, "postR quarterR"));
        Allowed("sillR", sequence).ShouldBeNull("a second finding there comes on top");

        // Once the post is out too, the quarter is all that is left: its finding stands where the work stood.
        Allowed("postR", sequence)!.TakeOut("postR", Guid.CreateVersion7());
        side.BudgetMinutes.ShouldBe(675);
        var rest = Allowed("quarterR", sequence)!;
        (rest.Minutes, rest.Whole).ShouldBe((675, true));
        var whole = Work(
            Found("quarterR", FindingKind.RustThrough, false, Replace),
            Replace,
            sequence,
            allowance: rest
        );
        (whole.Operation!.Id, whole.Operation.Before.Count, whole.Replaces!.Left).ShouldBe((side.Id, 0, 0));
        var (name, quarter) = (side.Name, Guid.CreateVersion7());
        rest.TakeOut("quarterR", quarter);
        side.BudgetMinutes.ShouldBe(0);
        (side.Name, side.BudgetMinutes, side.Panels) = (
            whole.Operation.Name,
            whole.Operation.BudgetMinutes,
            ["quarterR"]
        );

        // No finding after all: what was allowed is back, for each of them.
        Allowance.PutBack(side, quarter);
        (side.Name, side.BudgetMinutes, string.Join(" ", side.Panels)).ShouldBe((name, 675, "quarterR"));
        Allowance.PutBack(side, finding.Id);
        (side.BudgetMinutes, string.Join(" ", side.Panels.Order())).ShouldBe((1350, "quarterR sillR"));
        Allowed("sillR", sequence).ShouldNotBeNull();

        // Once the work is done, a finding that is taken back leaves its hours as they were.
        Allowed("sillR", sequence)!.TakeOut("sillR", finding.Id);
        side.Finish("Ada", Noon);
        var done = side.BudgetMinutes;
        Allowance.PutBack(side, finding.Id);
        side.BudgetMinutes.ShouldBe(done);
    }

    [Theory]
    [InlineData(Verdict.Repair, false)]
    [InlineData(Verdict.Leave, true)]
    public void Another_verdict_takes_no_second_share_and_leaving_it_puts_the_share_back(Verdict then, bool back)
    {
        var sequence = Sequence();
        var finding = Found("quarterR", FindingKind.RustThrough, false, Repair, Replace);
        var allowed = AllowedTo(finding.Id, "quarterR", sequence)!;
        var first = Work(finding, Replace, sequence, allowance: allowed);
        allowed.TakeOut("quarterR", finding.Id);
        var made = new Operation
        {
            Id = first.Operation!.Id,
            BuildId = Guid.Empty,
            Name = first.Operation.Name,
            Position = 99,
            BudgetMinutes = first.Operation.BudgetMinutes,
        };
        sequence.Add(made);
        var again = AllowedTo(finding.Id, "quarterR", sequence)!;
        again.Taken.ShouldBeTrue();
        var changed = Work(
            finding,
            then == Verdict.Leave ? VerdictSums.Leaving : Repair,
            sequence,
            new([made], new HashSet<Guid>(), [], new HashSet<Guid>()),
            first.InEstimate,
            again
        );
        changed.Replaces.ShouldBeNull();
        changed.PutsBack.ShouldBe(back ? new(again.Operation.Id, again.Operation.Name, 675, 2040) : null);
        // 14 h instead of 6; or neither, and the 11:15 h of the template again.
        (changed.AddsMinutes, changed.Adds.Labour).ShouldBe(back ? (-360 + 675, -348 + 652.50m) : (480, 464m));
        changed.Operation?.After.ShouldBe(first.Operation.After);
        // From nothing to the last verdict it is the same sum as the last verdict alone.
        (first.AddsMinutes + changed.AddsMinutes).ShouldBe(back ? 0 : 840 - 675);
    }

    [Fact]
    public void What_was_begun_keeps_the_share_that_it_replaced()
    {
        var sequence = Sequence();
        var finding = Found("quarterR", FindingKind.RustThrough, false, Replace);
        var allowed = AllowedTo(finding.Id, "quarterR", sequence)!;
        var first = Work(finding, Replace, sequence, allowance: allowed);
        allowed.TakeOut("quarterR", finding.Id);
        var made = new Operation
        {
            Id = first.Operation!.Id,
            BuildId = Guid.Empty,
            Name = first.Operation.Name,
            Position = 99,
            BudgetMinutes = 360,
        };
        var left = Work(
            finding,
            VerdictSums.Leaving,
            [.. sequence, made],
            new([made], new HashSet<Guid> { made.Id }, [], new HashSet<Guid>()),
            first.InEstimate,
            AllowedTo(finding.Id, "quarterR", sequence)
        );
        (left.PutsBack, left.AddsMinutes, left.Adds.Labour).ShouldBe((null, 0, 0m));
    }

    [Fact]
    public void Nothing_is_taken_out_of_work_that_was_begun_nor_by_filler_nor_by_leaving_it()
    {
        var sequence = Sequence();
        Allowed("sillR", sequence, sequence.Single(o => o.TemplateKey == "sillR").Id).ShouldBeNull();
        // The floor's 46 h are for all that is not seen from outside.
        var places = SurveyPlaces
            .Of(Car(Construction.Unitary, BodyStyleKey.Coupe), [])
            .Count(p => p.Group != PlaceGroup.Outside);
        Allowed("floorFL", sequence)!.Minutes.ShouldBe((int)Math.Round(46d * 4 / places) * 15);
        Allowed("roof", sequence).ShouldBeNull("no metalwork was allowed for it");
        var dent = new FindingOption(Verdict.Repair, 2, Trade.Body);
        Work(Found("wingL", FindingKind.Dent, false, dent), dent, sequence, allowance: Allowed("wingL", sequence))
            .Replaces.ShouldBeNull();
        var left = Work(
            Found("wingL", FindingKind.Pitting, false),
            VerdictSums.Leaving,
            sequence,
            allowance: Allowed("wingL", sequence)
        );
        (left.Replaces, left.AddsMinutes, left.Adds.Labour).ShouldBe((null, 0, 0m));
    }

    [Fact]
    public void A_verdict_becomes_work_behind_its_gates_and_before_the_dry_build_with_its_part_and_its_price()
    {
        var sequence = Sequence();
        var work = Work(Found(options: [Replace]), Replace, sequence);
        var o = work.Operation!;
        (o.Name, o.Stage, o.Trade, o.BudgetMinutes, o.Station).ShouldBe(
            ("R sill: replace, finding 1", Stage.Metal, Trade.Metal, 360, StationKind.Jig)
        );
        o.Panels.ShouldBe(["sillR"]);
        o.After.Select(a => a.Operation)
            .ShouldBe(sequence.Where(x => x.Gate is GateKind.ShellSupport or GateKind.Datum).Select(x => x.Id));
        sequence.Single(x => o.Before.Contains(x.Id)).Name.ShouldBe("Dry build: hang, gap, flush");
        work.Parts.Select(p => (p.Name, p.UnitCost))
            .ShouldBe([("R sill, new section (finding 1)", 268m), ("Freight for R sill (finding 1)", 55m)]);
        // 6 h x 58; 268 x 1.25 + 55 x 1.40. Neither the wait nor the allowance is on the estimate.
        work.Adds.ShouldBe(new(348, 335 + 77, 0, 0));
        work.CannotUndo.ShouldBeEmpty();
    }

    [Fact]
    public void Work_that_does_not_carry_comes_after_the_strip_and_before_its_next_stage()
    {
        var sequence = Sequence();
        var dent = new FindingOption(Verdict.Repair, 2.1m, Trade.Body);
        var o = Work(Found("doorL", FindingKind.Dent, structural: false, dent), dent, sequence).Operation!;
        sequence.Single(x => o.After.Any(a => a.Operation == x.Id)).Name.ShouldBe("Blast shell and panels");
        (o.Stage, o.BudgetMinutes).ShouldBe((Stage.Fill, 120));
        ((int)sequence.Single(x => o.Before.Contains(x.Id)).Stage).ShouldBeGreaterThan((int)Stage.Fill);
    }

    [Fact]
    public void Another_verdict_changes_what_nobody_has_begun_and_says_what_it_cannot_undo()
    {
        var sequence = Sequence();
        var finding = Found(options: [Repair, Replace]);
        var first = Work(finding, Replace, sequence);
        var made = new Operation
        {
            Id = first.Operation!.Id,
            BuildId = Guid.Empty,
            Name = first.Operation.Name,
            Position = 99,
        };
        var parts = first.Parts.Select(p => (p.Id, p.Name)).ToList();
        var open = new VerdictMade([made], new HashSet<Guid>(), parts, new HashSet<Guid>());
        var changed = Work(finding, Repair, sequence, open, first.InEstimate);
        changed.Operation!.Id.ShouldBe(made.Id, "the same operation, with other hours");
        changed.RemoveParts.ShouldBe(parts.Select(p => p.Id));
        changed.Adds.ShouldBe(new(812 - 348, -412, 0, 72));
        var begun = Work(
            finding,
            Repair,
            sequence,
            open with
            {
                Started = new HashSet<Guid> { made.Id },
                Ordered = new HashSet<Guid> { parts[0].Id },
            },
            first.InEstimate
        );
        begun.Operation!.Id.ShouldNotBe(made.Id);
        begun.RemoveParts.ShouldBe([parts[1].Id]);
        begun.Adds.ShouldBe(new(812, 0, 0, 72));
        begun.CannotUndo.ShouldBe([
            "“R sill: replace, finding 1” has been begun and stays.",
            "“R sill, new section (finding 1)” has been ordered and stays.",
        ]);
    }

    [Fact]
    public void Leaving_it_after_all_takes_the_work_out_again()
    {
        var sequence = Sequence();
        var finding = Found("roof", FindingKind.Thinning, structural: false, Repair);
        var first = Work(finding, Repair, sequence);
        var made = new VerdictMade(
            [
                new()
                {
                    Id = first.Operation!.Id,
                    BuildId = Guid.Empty,
                    Name = "x",
                },
            ],
            new HashSet<Guid>(),
            [],
            new HashSet<Guid>()
        );
        var left = Work(finding, VerdictSums.Leaving, sequence, made, first.InEstimate);
        left.Operation.ShouldBeNull();
        left.RemoveOperations.ShouldBe([first.Operation.Id]);
        left.Adds.ShouldBe(new(-812, 0, 0, -72));
    }

    [Fact]
    public void A_finding_with_work_planned_is_not_taken_back()
    {
        var finding = Found();
        finding.Operations = [Guid.CreateVersion7()];
        Should.Throw<Refusal>(() => finding.Withdraw("a shadow")).Field.ShouldBe("id");
        finding.Operations = [];
        Should.Throw<Refusal>(() => finding.Withdraw(" ")).Field.ShouldBe("reason");
        finding.Withdraw("a shadow");
        finding.Counts.ShouldBeFalse();
    }

    [Fact]
    public void A_sum_is_its_parts_to_the_cent_and_the_cheapest_allowed_way_has_the_least_total() =>
        Gen.Select(Gen.Int[0, 6000], Gen.Int[0, 90_000], Gen.Int[0, 40], Gen.Int[0, 60])
            .Array[3]
            .Sample(
                drawn =>
                {
                    var options = drawn
                        .Select(
                            (d, i) =>
                                new FindingOption(
                                    (Verdict)(i + 1),
                                    d.Item1 / 100m,
                                    Trade.Metal,
                                    d.Item2 / 100m,
                                    Part: d.Item2 / 2 / 100m,
                                    LeadDays: d.Item3,
                                    RiskPercent: d.Item4
                                )
                        )
                        .ToArray();
                    var sums = VerdictSums.Of(Found(options: options), Terms());
                    foreach (var w in sums.Ways)
                    {
                        (w.Labour + w.Material + w.Part + w.Freight + w.Wait + w.Hidden).ShouldBe(w.Total);
                    }

                    var allowed = sums.Ways.Where(w => w.Barred is null).ToList();
                    allowed.Single(w => w.Option.Verdict == sums.Cheapest).Total.ShouldBe(allowed.Min(w => w.Total));
                },
                iter: 300
            );
}
