using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Labour;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Survey;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>What an operation earns, how gates are signed, what templates make, what panels wear.</summary>
public sealed class OperationTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 3, 2, 12, 0);

    private static Operation Work(int minutes = 600, string name = "block", params OperationLink[] after) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            Trade = Trade.Body,
            BudgetMinutes = minutes,
            Stage = Stage.Fill,
            After = [.. after],
        };

    private static Operation Gate(GateKind kind) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = kind.ToString(),
            Kind = OperationKind.Gate,
            Gate = kind,
        };

    [Fact]
    public void An_operation_earns_its_stated_share_and_all_of_it_when_done()
    {
        var o = Work();
        o.EarnedMinutes.ShouldBe(0);
        o.State(.6m, default);
        (o.EarnedMinutes, o.LeftMinutes(0)).ShouldBe((360, 240));
        // Less what was worked since, and a tenth of the budget at the least.
        o.LeftMinutes(100).ShouldBe(140);
        o.LeftMinutes(200).ShouldBe(60);
        Should.Throw<Refusal>(() => o.State(1, default)).Field.ShouldBe("share");
        o.Finish("Wil", Noon);
        (o.EarnedMinutes, o.LeftMinutes(0)).ShouldBe((600, 0));
    }

    [Fact]
    public void Spent_counts_rework_and_leaves_out_what_was_corrected()
    {
        var o = Work();
        TimeEntry Entry(int minutes, LabourKind kind, Guid? replaces = null)
        {
            var e = new TimeEntry
            {
                Id = Guid.CreateVersion7(),
                PersonId = Guid.Empty,
                BuildId = Guid.Empty,
                OperationId = o.Id,
                Start = Noon,
                Kind = kind,
                Replaces = replaces,
            };
            e.StopAt(Noon.Plus(Duration.FromMinutes(minutes)));
            return e;
        }

        var (wrong, rework) = (Entry(300, LabourKind.Billable), Entry(45, LabourKind.Rework));
        var right = Entry(120, LabourKind.Billable, wrong.Id);
        wrong.ReplaceBy(right);
        var stage = Progress.ByStage([o], [wrong, right, rework], Noon).Single(s => s.Stage == Stage.Fill);
        (stage.SpentMinutes, stage.ReworkMinutes, stage.BudgetMinutes).ShouldBe((165, 45, 600));
        Progress.SpentByOperation([wrong, right, rework], Noon).ShouldBe(new Dictionary<Guid, int> { [o.Id] = 165 });
        Should.Throw<Refusal>(() => wrong.ReplaceBy(right)).Field.ShouldBe("id");
    }

    [Theory]
    [InlineData(GateKind.FirstDrive)]
    [InlineData(GateKind.TractionBattery)]
    [InlineData(GateKind.Asbestos)]
    [InlineData(GateKind.ShellSupport)]
    public void Four_gates_have_no_override(GateKind kind) =>
        Should
            .Throw<Refusal>(() => Gate(kind).Override(Guid.CreateVersion7(), "Mara", Noon, "in a hurry"))
            .Field.ShouldBe("gate");

    [Fact]
    public void An_override_needs_a_reason_that_stays()
    {
        var gate = Gate(GateKind.FitUp);
        Should.Throw<Refusal>(() => gate.Override(Guid.CreateVersion7(), "Mara", Noon, " ")).Field.ShouldBe("reason");
        gate.Override(Guid.CreateVersion7(), "Mara", Noon, "panels come from the maker");
        gate.IsDone.ShouldBeTrue();
        gate.Signatures.Single().OverrideReason.ShouldBe("panels come from the maker");
    }

    [Fact]
    public void The_first_drive_needs_two_names_and_nobody_signs_their_own_work_where_there_is_a_second()
    {
        var gate = Gate(GateKind.FirstDrive);
        var (a, b) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        Should
            .Throw<Refusal>(() => gate.Sign(a, "Davit", Noon, worked: true, hasSecond: true))
            .Field.ShouldBe("personId");
        gate.Sign(a, "Ann", Noon, worked: false, hasSecond: true);
        gate.IsDone.ShouldBeFalse();
        Should.Throw<Refusal>(() => gate.Sign(a, "Ann", Noon, worked: false, hasSecond: true));
        gate.Sign(b, "Davit", Noon, worked: true, hasSecond: false);
        gate.IsDone.ShouldBeTrue();
        gate.Signatures.Select(s => s.ByMaker).ShouldBe([false, true]);
    }

    [Fact]
    public void A_cycle_is_found_and_named()
    {
        var (a, b, c) = (Work(name: "a"), Work(name: "b"), Work(name: "c"));
        a.After = [new(c.Id, 0)];
        b.After = [new(a.Id, 0)];
        c.After = [new(b.Id, 0)];
        Should.Throw<Refusal>(() => OperationOrder.Check([a, b, c])).Message.ShouldContain("a > c > b > a");
    }

    public static TheoryData<string, BodyStyleKey> Templated() =>
        new(Templates.All.SelectMany(t => Enum.GetValues<BodyStyleKey>().Select(s => (t.Key, s))));

    [Theory, MemberData(nameof(Templated))]
    public void Every_template_makes_a_sequence_without_cycles_for_every_style(string template, BodyStyleKey style)
    {
        var construction = style == BodyStyleKey.OpenBody ? Construction.WoodFramed : Construction.Unitary;
        var vehicle = new Vehicle(
            "Test",
            "One",
            1950,
            style,
            construction,
            "",
            "Grey",
            "#808080",
            BodyDimensions.Of(style)
        );
        var made = Templates.Make(template, Guid.CreateVersion7(), vehicle, FinishGrade.Show, 1, Guid.CreateVersion7);
        OperationOrder.Check(made.ToList());
        made.ToList().ForEach(o => o.Check());
        made.Select(o => o.Position).ShouldBeUnique();
        var keys = Body.Unfold(style, vehicle.Dimensions).Panels.Select(p => p.Key).ToHashSet();
        made.SelectMany(o => o.Panels).ShouldAllBe(p => keys.Contains(p));
        if (template != Templates.SmallWork)
        {
            made.Count(o => o.Kind == OperationKind.Gate).ShouldBeGreaterThan(6);
            made.Sum(o => o.BudgetMinutes).ShouldBeInRange(550 * 60, 900 * 60);
        }
    }

    [Fact]
    public void Driving_first_drives_before_the_colour_and_the_other_template_after_it()
    {
        var vehicle = new Vehicle(
            "Test",
            "One",
            1950,
            BodyStyleKey.Coupe,
            Construction.Unitary,
            "",
            "Grey",
            "#808080",
            BodyDimensions.Of(BodyStyleKey.Coupe)
        );
        bool DriveBeforeColour(string template)
        {
            var made = Templates
                .Make(template, Guid.CreateVersion7(), vehicle, FinishGrade.Show, 1, Guid.CreateVersion7)
                .ToList();
            return made.First(o => o.Gate == GateKind.FirstDrive).Position
                < made.First(o => o.Coat == Coat.Base).Position;
        }

        DriveBeforeColour(Templates.DriveFirst).ShouldBeTrue();
        DriveBeforeColour(Templates.PaintThenAssemble).ShouldBeFalse();
    }

    private static PanelEvent Event(
        long seq,
        PanelFact fact,
        Coat? coat = null,
        Held? held = null,
        string? zone = null,
        string note = ""
    )
    {
        var e = new PanelEvent
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Panel = "wingL",
            Zone = zone,
            Fact = fact,
            Coat = coat,
            Held = held,
            Note = note,
            At = Noon,
            By = "Bram",
        };
        typeof(Recorded).GetProperty(nameof(Recorded.Seq))!.SetValue(e, seq);
        return e;
    }

    [Fact]
    public void A_panel_wears_its_last_coat_and_a_whole_coat_covers_what_zones_wore()
    {
        var state = PanelStates.Of(
            ["wingL", "roof"],
            [
                Event(1, PanelFact.Coat, Coat.Epoxy),
                Event(2, PanelFact.Coat, Coat.Filler, zone: "crown"),
                Event(3, PanelFact.Held, held: Held.Tacked),
            ]
        );
        state[0].Coat.ShouldBe(Coat.Epoxy);
        state[0].Held.ShouldBe(Held.Tacked);
        state[0].Zones.Single().ShouldBe(new ZoneState("crown", Coat.Filler, false, false));
        state[1].Coat.ShouldBe(Coat.AsFound);
        PanelStates
            .Of(
                ["wingL"],
                [Event(1, PanelFact.Coat, Coat.Filler, zone: "crown"), Event(2, PanelFact.Coat, Coat.HighBuild)]
            )[0]
            .Zones.ShouldBeEmpty();
    }

    [Fact]
    public void Temporary_metal_stays_until_it_is_out()
    {
        var put = Event(1, PanelFact.TemporaryMetalIn, note: "door brace");
        PanelStates.Of(["wingL"], [put])[0].TemporaryMetal.ShouldBe(["door brace"]);
        PanelStates
            .Of(["wingL"], [put, Event(2, PanelFact.TemporaryMetalOut, note: "door brace")])[0]
            .TemporaryMetal.ShouldBeEmpty();
    }

    private static List<Operation> Made(
        Construction construction = Construction.Unitary,
        TemplateChoices? choices = null
    ) =>
        [
            .. Templates.Make(
                Templates.PaintThenAssemble,
                Guid.CreateVersion7(),
                FirstCoat.Core.Tests.Plan.RecordedShop.Car with
                {
                    Construction = construction,
                },
                FinishGrade.Show,
                1,
                Guid.CreateVersion7,
                choices
            ),
        ];

    [Fact]
    public void The_shell_is_braced_and_measured_before_structure_is_cut_and_earlier_repairs_come_out_after_that()
    {
        foreach (var construction in Enum.GetValues<Construction>())
        {
            var made = Made(construction);
            var byId = made.ToDictionary(o => o.Id);
            var undo = made.Single(o => o.TemplateKey == "undo");
            OperationOrder
                .ShutGatesBefore(undo, byId)
                .Select(g => g.Gate)
                .ShouldBe([GateKind.ShellSupport, GateKind.Datum], ignoreOrder: true);
            made.Where(o => o.TemplateKey is "floor" or "frame")
                .ShouldAllBe(o => o.After.Any(a => a.Operation == undo.Id));
            made.Count(o => o.Trade == Trade.Hand).ShouldBeGreaterThanOrEqualTo(2, "somebody cleans");
        }
    }

    [Fact]
    public void A_composite_body_is_never_blasted()
    {
        foreach (var school in Enum.GetValues<BlastSchool>())
        {
            Made(Construction.Composite, new(Blast: school)).ShouldAllBe(o => o.Station != StationKind.Blast);
            OperationOrder.Check(Made(Construction.Composite, new(Blast: school)));
        }

        Made().ShouldContain(o => o.Station == StationKind.Blast);
    }

    [Fact]
    public void Hot_work_after_a_coat_on_the_same_panel_is_warned_of()
    {
        var made = Made();
        HotWork.AfterCoats(made).ShouldBeEmpty("no template burns its own coats");
        var epoxy = made.Single(o => o.TemplateKey == "epoxy");
        var patch = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = epoxy.BuildId,
            Name = "Patch",
            Trade = Trade.Metal,
            BudgetMinutes = 60,
            Hazard = Hazard.Welding,
            Panels = [epoxy.Panels[0]],
            After = [new(epoxy.Id, 0)],
        };
        HotWork
            .AfterCoats([.. made, patch])
            .ShouldHaveSingleItem()
            .Value.ShouldStartWith("Hot work after Epoxy inside and out: it burns the coat");
        patch.Panels = ["no such panel"];
        HotWork.AfterCoats([.. made, patch]).ShouldBeEmpty();
    }

    private static Operation DryBuild() =>
        new()
        {
            BuildId = Guid.NewGuid(),
            Name = "Fit-up",
            Kind = OperationKind.Gate,
            Gate = GateKind.FitUp,
        };

    [Fact]
    public void The_dry_build_is_signed_side_by_side_and_then_it_is_signed()
    {
        var (gate, ann) = (DryBuild(), Guid.NewGuid());
        gate.SignSide(PanelSide.Left, ann, "Ann", Noon, false, true);
        gate.IsDone.ShouldBeFalse();
        Should
            .Throw<Refusal>(() => gate.SignSide(PanelSide.Left, ann, "Ann", Noon, false, true))
            .Field.ShouldBe("side");
        Should
            .Throw<Refusal>(() => gate.SignSide(PanelSide.Centre, ann, "Ann", Noon, false, true))
            .Field.ShouldBe("side");
        Should
            .Throw<Refusal>(() => gate.SignSide(PanelSide.Right, ann, "Ann", Noon, true, true))
            .Field.ShouldBe("personId");
        gate.SignSide(PanelSide.Right, ann, "Ann", Noon, false, true);
        gate.IsDone.ShouldBeTrue();
        Should.Throw<Refusal>(() => gate.SignSide(PanelSide.Right, ann, "Ann", Noon, false, true)).Field.ShouldBe("id");
    }

    [Fact]
    public void Whoever_signed_one_side_may_sign_the_rest_at_once()
    {
        var (gate, ann) = (DryBuild(), Guid.NewGuid());
        gate.SignSide(PanelSide.Left, ann, "Ann", Noon, false, true);
        gate.Sign(ann, "Ann", Noon, false, true);
        gate.IsDone.ShouldBeTrue();
    }

    [Fact]
    public void Another_gate_has_no_sides()
    {
        var gate = DryBuild();
        gate.Gate = GateKind.UniformCoat;
        Should
            .Throw<Refusal>(() => gate.SignSide(PanelSide.Left, Guid.NewGuid(), "Ann", Noon, false, true))
            .Field.ShouldBe("side");
    }

    [Fact]
    public void What_changed_on_one_side_takes_that_signature_alone_and_the_middle_takes_both()
    {
        var (gate, ann) = (DryBuild(), Guid.NewGuid());
        gate.SignSide(PanelSide.Left, ann, "Ann", Noon, false, true);
        gate.SignSide(PanelSide.Right, ann, "Ann", Noon, false, true);
        gate.ShutSides([PanelSide.Right]);
        gate.IsDone.ShouldBeFalse();
        gate.Signatures.Single().Side.ShouldBe(PanelSide.Left);
        gate.EarlierSignatures.Single().Side.ShouldBe(PanelSide.Right);
        gate.ShutSides([PanelSide.Right]);
        gate.Signatures.Count.ShouldBe(1);
        gate.ShutSides([PanelSide.Centre]);
        gate.Signatures.ShouldBeEmpty();

        var whole = DryBuild();
        whole.Sign(ann, "Ann", Noon, false, true);
        whole.ShutSides([PanelSide.Right]);
        whole.IsDone.ShouldBeFalse();
        whole.Signatures.ShouldBeEmpty();
    }
}
