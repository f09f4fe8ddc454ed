using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>What later work needs in the metal, and what the gate before paint says of it.</summary>
public sealed class ProvisionTests
{
    private static readonly Instant Then = Instant.FromUtc(2026, 3, 2, 9, 0);
    private readonly Operation _weld = Op("Weld out", Stage.Metal, Trade.Metal);
    private readonly Operation _gate;
    private readonly Operation _colour;
    private readonly Operation _brakes;
    private readonly Operation _hang;
    private readonly Operation _road;
    private readonly List<Operation> _all;

    public ProvisionTests()
    {
        _gate = Gate("Provisions complete", GateKind.Provisions, _weld);
        _colour = Op("Base coat", Stage.Colour, Trade.Paint, _gate);
        _brakes = Op("Brake lines", Stage.Driveline, Trade.Mechanic, _colour);
        _hang = Op("Hang doors", Stage.Assembly, Trade.Metal, _colour);
        _road = Op("Road test", Stage.Assembly, Trade.Mechanic, _brakes, _hang);
        _all = [_weld, _gate, _colour, _brakes, _hang, _road];
        _all.ForEach(o => o.Position = _all.IndexOf(o));
    }

    private static Operation Op(string name, Stage stage, Trade trade, params Operation[] after) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            Stage = stage,
            Trade = trade,
            BudgetMinutes = 60,
            After = [.. after.Select(a => new OperationLink(a.Id, 0))],
        };

    private static Operation Gate(string name, GateKind kind, Operation after) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            Kind = OperationKind.Gate,
            Gate = kind,
            After = [new(after.Id, 0)],
        };

    private static Provision Said(
        Operation of,
        string what,
        ProvisionKind kind = ProvisionKind.Hole,
        string where = ""
    ) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            OperationId = of.Id,
            Kind = kind,
            What = what,
            Where = where,
        };

    private List<GateAsk> Asks(Operation gate, params Provision[] said) =>
        [.. Provisions.Asks(gate, _all.ToDictionary(o => o.Id), said.ToLookup(p => p.OperationId))];

    [Fact]
    public void What_is_bolted_wired_or_piped_behind_the_gate_is_asked_and_nothing_else()
    {
        Asks(_gate).Select(a => a.Of).ShouldBe([_brakes.Id, _hang.Id]);
        Asks(_gate).ShouldAllBe(a => !a.Must && !a.IsMet);
        Asks(_gate)[0].Missing.ShouldBe("nobody has said what Brake lines needs");
        // What is fitted already has found what it needs; what is not behind the gate is not asked.
        _brakes.Finish("Ada", Then);
        Asks(_gate).Select(a => a.Of).ShouldBe([_hang.Id]);
        _hang.After = [];
        Asks(_gate).ShouldBeEmpty();
    }

    [Fact]
    public void What_is_said_is_missing_until_it_is_made_or_taken_off()
    {
        var (hole, nut) = (
            Said(_brakes, "the handbrake cable", where: "left sill, 120 behind the post"),
            Said(_brakes, "the pipe clips", ProvisionKind.Nut)
        );
        var look = () => Asks(_gate, hole, nut).Single(a => a.Of == _brakes.Id);
        look()
            .Missing.ShouldBe(
                "Brake lines: no hole for the handbrake cable, left sill, 120 behind the post; Brake lines: no nut for the pipe clips"
            );
        hole.Make("Ada", Then);
        look().Missing.ShouldBe("Brake lines: no nut for the pipe clips");
        (hole.MadeBy, hole.MadeAt).ShouldBe(("Ada", Then));
        // Ticked again by somebody else it stays as it was made.
        hole.Make("Bo", Then.Plus(Duration.FromDays(1)));
        hole.MadeBy.ShouldBe("Ada");
        nut.Remove();
        look().IsMet.ShouldBeTrue();
        hole.Unmake();
        look().IsMet.ShouldBeFalse();
        hole.Remove();
        look().Missing.ShouldStartWith("nobody has said");
    }

    [Fact]
    public void Nothing_needed_is_an_answer_and_is_not_made()
    {
        var nothing = Said(_hang, "hinges and locks are there", ProvisionKind.Nothing);
        Asks(_gate, nothing).Single(a => a.Of == _hang.Id).IsMet.ShouldBeTrue();
        Should.Throw<Refusal>(() => nothing.Make("Ada", Then)).Field.ShouldBe("made");
        nothing.Remove();
        Should.Throw<Refusal>(() => nothing.Make("Ada", Then));
        Asks(_gate, nothing).Single(a => a.Of == _hang.Id).IsMet.ShouldBeFalse();
    }

    [Fact]
    public void Without_a_gate_of_its_own_the_last_look_before_paint_asks()
    {
        var look = Gate("Uniform coat", GateKind.UniformCoat, _weld);
        _colour.After = [new(_gate.Id, 0), new(look.Id, 0)];
        _all.Add(look);
        Asks(look).ShouldBeEmpty();
        _all.Remove(_gate);
        Asks(look).Select(a => a.Of).ShouldBe([_brakes.Id, _hang.Id]);
        // Other gates ask for none.
        var fitUp = Gate("Fit-up", GateKind.FitUp, _weld);
        _all.Add(fitUp);
        _colour.After = [new(fitUp.Id, 0)];
        Asks(fitUp).ShouldBeEmpty();
    }

    [Fact]
    public void It_says_what_is_fixed_and_where_in_few_words()
    {
        Should.Throw<Refusal>(() => Said(_hang, " ").Check()).Field.ShouldBe("what");
        Should.Throw<Refusal>(() => Said(_hang, "a", where: new('x', 161)).Check()).Field.ShouldBe("where");
        Should.NotThrow(() => Said(_hang, "a", where: new('x', 160)).Check());
    }
}
