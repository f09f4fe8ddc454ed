using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>What stands against work, and against which work it does not.</summary>
public sealed class GatekeeperTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 3, 2, 12, 0);

    private static Operation Work(
        string name,
        Stage stage = Stage.Metal,
        Trade trade = Trade.Metal,
        Hazard? hazard = null,
        Coat? coat = null,
        Held? held = null,
        string[]? panels = null,
        params Operation[] after
    ) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            Stage = stage,
            Trade = trade,
            BudgetMinutes = 60,
            Hazard = hazard,
            Coat = coat,
            Held = held,
            Panels = [.. panels ?? []],
            After = [.. after.Select(a => new OperationLink(a.Id, 0))],
        };

    private static Operation Gate(GateKind kind, Stage stage, params Operation[] after) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = $"Gate {kind}",
            Kind = OperationKind.Gate,
            Gate = kind,
            Stage = stage,
            After = [.. after.Select(a => new OperationLink(a.Id, 0))],
        };

    private static Gatekeeper Keeper(
        IEnumerable<Operation> operations,
        Decision? question = null,
        NoticedHazard? danger = null,
        TemporaryMetal? metal = null,
        Operation? away = null
    ) =>
        new(
            operations.ToDictionary(o => o.Id),
            question is null ? [] : [question],
            danger is null ? [] : [danger],
            metal is null ? [] : [metal],
            away is null ? new Dictionary<Guid, string>() : new() { [away.Id] = "Plating" }
        );

    private static ObstacleKind[] Kinds(IEnumerable<Obstacle> obstacles) => [.. obstacles.Select(o => o.Kind)];

    public static TheoryData<WorkStep> Steps => [.. Enum.GetValues<WorkStep>()];

    [Theory]
    [MemberData(nameof(Steps))]
    public void A_gate_however_far_before_stands_against_every_step_until_it_is_signed(WorkStep step)
    {
        var cut = Work("Cut");
        var gate = Gate(GateKind.ShellSupport, Stage.Metal, cut);
        var (floor, sill) = (Work("Floor", after: gate), Work("Sill"));
        sill.After = [new(floor.Id, 0)];
        cut.Finish("Wil", Now);
        floor.Finish("Wil", Now);
        var keeper = Keeper([cut, gate, floor, sill]);
        var against = keeper.Against(sill, step, Now).ShouldHaveSingleItem();
        (against.Kind, against.Of, against.Asks).ShouldBe((ObstacleKind.Gate, gate.Id, false));
        gate.Sign(Guid.NewGuid(), "Mara", Now, false, true);
        keeper.Against(sill, step, Now).ShouldBeEmpty();
    }

    [Theory]
    [MemberData(nameof(Steps))]
    public void A_question_stands_against_what_it_holds_until_it_is_answered_or_that_is_let_go_on(WorkStep step)
    {
        var (held, other) = (Work("Held"), Work("Other"));
        var question = new Decision
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Question = "Which shell?",
            Holds = [held.Id],
        };
        var keeper = Keeper([held, other], question);
        Kinds(keeper.Against(held, step, Now)).ShouldBe([ObstacleKind.Question]);
        keeper.Against(other, step, Now).ShouldBeEmpty();
        question.Let(held.Id, "the client is on the road", "Mara", Now);
        keeper.Against(held, step, Now).ShouldBeEmpty();
    }

    [Fact]
    public void The_reference_side_stays_closed_until_the_other_is_signed_off_unless_a_jig_is_booked()
    {
        var (left, right, jig) = (Work("Left"), Work("Right"), Work("On the jig"));
        var gate = Gate(GateKind.Side, Stage.Metal, left);
        right.Terms = right.Terms with { ClosedUntil = gate.Id };
        Kinds(Keeper([left, right, gate]).Against(right, WorkStep.Begin, Now)).ShouldBe([ObstacleKind.OtherSide]);
        Keeper([left, right, gate]).Against(left, WorkStep.Begin, Now).ShouldBeEmpty();
        jig.Terms = jig.Terms with { Hold = new(StationKind.Jig, right.Id) };
        Keeper([left, right, gate, jig]).Against(right, WorkStep.Begin, Now).ShouldBeEmpty();
    }

    [Fact]
    public void A_brace_in_an_opening_stands_against_hanging_that_door_and_no_other_work()
    {
        var brace = new TemporaryMetal("doorL", "brace across the opening", true, Stage.Fill);
        var (hang, off, other, weld) = (
            Work("Hang", held: Held.Screwed, panels: ["doorL"]),
            Work("Off", held: Held.Away, panels: ["doorL"]),
            Work("Hang the other", held: Held.Screwed, panels: ["doorR"]),
            Work("Weld", held: Held.WeldedOut, panels: ["sillL"])
        );
        var keeper = Keeper([hang, off, other, weld], metal: brace);
        Kinds(keeper.Against(hang, WorkStep.Begin, Now)).ShouldBe([ObstacleKind.TemporaryMetal]);
        new[] { off, other, weld }.ShouldAllBe(o => keeper.Against(o, WorkStep.Begin, Now).Count == 0);
        Keeper([hang], metal: brace with { BlocksHanging = false }).Against(hang, WorkStep.Begin, Now).ShouldBeEmpty();
    }

    [Fact]
    public void Metal_that_is_due_out_stands_against_the_coats_and_gates_from_its_stage_on()
    {
        var tack = new TemporaryMetal("quarterL", "jig tacks", false, Stage.Fill);
        var (epoxy, filler, elsewhere) = (
            Work("Epoxy", Stage.Epoxy, Trade.Paint, coat: Coat.Epoxy, panels: ["quarterL"]),
            Work("Filler", Stage.Fill, Trade.Body, coat: Coat.Filler, panels: ["quarterL"]),
            Work("Filler", Stage.Fill, Trade.Body, coat: Coat.Filler, panels: ["bonnet"])
        );
        var (fitUp, uniform, handover) = (
            Gate(GateKind.FitUp, Stage.Epoxy),
            Gate(GateKind.UniformCoat, Stage.Fill),
            Gate(GateKind.Handover, Stage.Assembly)
        );
        var keeper = Keeper([epoxy, filler, elsewhere, fitUp, uniform, handover], metal: tack);
        keeper.Against(epoxy, WorkStep.Begin, Now).ShouldBeEmpty();
        Kinds(keeper.Against(filler, WorkStep.Begin, Now)).ShouldBe([ObstacleKind.TemporaryMetal]);
        keeper.Against(elsewhere, WorkStep.Begin, Now).ShouldBeEmpty();
        keeper.AgainstSigning(fitUp).ShouldBeEmpty();
        keeper.AgainstSigning(uniform).ShouldHaveSingleItem();
        keeper.AgainstSigning(handover).ShouldHaveSingleItem();
    }

    [Fact]
    public void A_danger_holds_the_work_it_concerns_until_it_is_settled_with_a_method()
    {
        var (strip, weld, trim) = (
            Work("Strip", Stage.Strip, Trade.Strip),
            Work("Weld", hazard: Hazard.Welding),
            Work("Trim", Stage.Trim, Trade.Trim)
        );
        var arrival = new Arrival { BuildId = Guid.Empty, CameOn = new(2026, 3, 1) };
        var (asbestos, lead) = (
            new NoticedHazard(Guid.CreateVersion7(), Hazard.Asbestos, "pad", "", false),
            new NoticedHazard(Guid.CreateVersion7(), Hazard.Lead, "seam", "", false)
        );
        arrival.Notice([asbestos, lead]);
        bool Stopped(Operation o, NoticedHazard d) =>
            Kinds(Keeper([o], danger: arrival.Hazards.Single(h => h.Id == d.Id)).Against(o, WorkStep.Begin, Now))
                .Contains(ObstacleKind.Danger);
        (Stopped(strip, asbestos), Stopped(weld, asbestos), Stopped(trim, asbestos)).ShouldBe((true, false, false));
        (Stopped(strip, lead), Stopped(weld, lead), Stopped(trim, lead)).ShouldBe((true, true, false));
        Should.Throw<Refusal>(() => arrival.Notice([asbestos with { Settled = true }, lead])).Field.ShouldBe("hazards");
        Should.Throw<Refusal>(() => arrival.Notice([asbestos])).Field.ShouldBe("hazards");
        Should.Throw<Refusal>(() => arrival.Settle(asbestos.Id, " ", "Mara", Now)).Field.ShouldBe("method");
        arrival.Settle(asbestos.Id, "removed by a licensed firm, paper in the file", "Mara", Now);
        (Stopped(strip, asbestos), Stopped(strip, lead)).ShouldBe((false, true));
        arrival.Notice([asbestos, lead]);
        arrival
            .Hazards.Single(h => h.Id == asbestos.Id)
            .SettledBy.ShouldBe("Mara", "written again from an older page it stays settled");
    }

    [Fact]
    public void What_comes_before_and_is_not_done_asks_for_a_reason_at_the_end_and_not_at_the_beginning()
    {
        var first = Work("First");
        var second = Work("Second", after: first);
        var keeper = Keeper([first, second]);
        keeper.Against(second, WorkStep.Begin, Now).ShouldBeEmpty();
        keeper.Against(second, WorkStep.End, Now).ShouldHaveSingleItem().Asks.ShouldBeTrue();
        keeper.Against(second, WorkStep.Leave, Now).ShouldHaveSingleItem().Asks.ShouldBeTrue();
        first.Finish("Wil", Now);
        keeper.Against(second, WorkStep.End, Now).ShouldBeEmpty();
    }

    [Fact]
    public void A_batch_that_is_away_and_a_cure_that_runs_stand_against_their_end()
    {
        var plating = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Plating",
            Kind = OperationKind.Outside,
        };
        Kinds(Keeper([plating], away: plating).Against(plating, WorkStep.End, Now)).ShouldBe([ObstacleKind.Away]);
        var coat = Work("Coat", Stage.Epoxy, Trade.Paint);
        var cure = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Cure",
            Kind = OperationKind.Cure,
            ClockMinutes = 60,
            After = [new(coat.Id, 0)],
        };
        coat.Finish("Wil", Now);
        var keeper = Keeper([coat, cure]);
        Kinds(keeper.Against(cure, WorkStep.End, Now + Duration.FromMinutes(59))).ShouldBe([ObstacleKind.Cure]);
        keeper.Against(cure, WorkStep.End, Now + Duration.FromMinutes(59), manager: true).ShouldBeEmpty();
        keeper.Against(cure, WorkStep.End, Now + Duration.FromMinutes(60)).ShouldBeEmpty();
    }

    [Fact]
    public void Noting_a_panel_meets_what_stands_against_the_work_that_would_do_it()
    {
        var fit = Work("Fit", held: Held.Screwed, panels: ["sillL"]);
        var gate = Gate(GateKind.FitUp, Stage.Epoxy, fit);
        var weld = Work("Weld out", held: Held.WeldedOut, panels: ["sillL"], after: gate);
        var keeper = Keeper([fit, gate, weld]);
        Kinds(keeper.AgainstPanel("sillL", null, Held.WeldedOut, Now)).ShouldBe([ObstacleKind.Gate]);
        keeper.AgainstPanel("sillL", null, Held.Screwed, Now).ShouldBeEmpty();
        keeper.AgainstPanel("roof", null, Held.WeldedOut, Now).ShouldBeEmpty();
        gate.Sign(Guid.NewGuid(), "Mara", Now, false, true);
        keeper.AgainstPanel("sillL", null, Held.WeldedOut, Now).ShouldBeEmpty();
        var brace = Keeper([], metal: new("doorL", "brace", true, Stage.Fill));
        brace.AgainstPanel("doorL", null, Held.Loose, Now).ShouldHaveSingleItem();
        brace.AgainstPanel("doorL", null, Held.Away, Now).ShouldBeEmpty();
    }

    [Fact]
    public void What_was_done_against_a_rule_waits_for_the_manager_and_is_settled_once()
    {
        AgainstRule.Of([]).ShouldBeNull();
        var flag = AgainstRule.Of([
            new(ObstacleKind.Gate, new string('x', 400), null),
            new(ObstacleKind.Gate, new string('y', 400), null),
        ])!;
        flag.Against.Length.ShouldBeLessThanOrEqualTo(AgainstRule.Most);
        var settled = flag.Settle("the gate was signed on paper", "Mara", Now);
        (flag.IsOpen, settled.IsOpen).ShouldBe((true, false));
        Should.Throw<Refusal>(() => settled.Settle("again", "Mara", Now));
    }
}
