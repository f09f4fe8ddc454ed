using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>Finished work is another now: what rested on it, and what is said of each.</summary>
public sealed class RippleTests
{
    private static readonly Instant Then = Instant.FromUtc(2026, 3, 2, 9, 0);
    private readonly Operation _tunnel = Op("Tunnel raised");
    private readonly Operation _floor;
    private readonly Operation _gate;
    private readonly Operation _cure;
    private readonly Operation _shaft;
    private readonly Operation _carpet;
    private readonly Operation _roof = Op("Roof skin");
    private readonly List<Operation> _all;

    public RippleTests()
    {
        _floor = Op("Floor welded", after: _tunnel);
        _gate = Op("Datum", OperationKind.Gate, _floor);
        _cure = Op("Seam sealer cures", OperationKind.Cure, _floor);
        _shaft = Op("Shaft made", after: _gate);
        _carpet = Op("Carpet cut", after: _shaft);
        _all = [_tunnel, _floor, _gate, _cure, _shaft, _carpet, _roof];
        _all.ForEach(o => o.Position = _all.IndexOf(o));
        foreach (var o in new[] { _tunnel, _floor, _cure, _shaft, _roof })
        {
            o.Finish("Ada", Then);
        }

        _gate.Sign(Guid.CreateVersion7(), "Bo", Then, false, true);
    }

    private static Operation Op(string name, OperationKind kind = OperationKind.Work, Operation? after = null) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = name,
            Kind = kind,
            Gate = kind == OperationKind.Gate ? GateKind.Datum : null,
            Trade = kind == OperationKind.Work ? Trade.Metal : null,
            BudgetMinutes = 60,
            After = after is null ? [] : [new(after.Id, 0)],
        };

    private List<string> On(IEnumerable<RestingPart>? parts = null, params Guid[] worked) =>
        [.. Ripples.On(_tunnel, _all, worked.ToHashSet(), parts ?? []).Select(r => $"{r.Name}, {r.How}")];

    [Fact]
    public void What_was_done_or_signed_behind_it_rests_on_it_and_nothing_beside_it()
    {
        On().ShouldBe(["Floor welded, done", "Datum, signed", "Shaft made, done"]);
        // Begun work rests on it too; what nobody has begun is done as it is now.
        On(worked: _carpet.Id)
            .ShouldBe(["Floor welded, done", "Datum, signed", "Shaft made, done", "Carpet cut, begun"]);
        _shaft.Reopen();
        _gate.Shut();
        On().ShouldBe(["Floor welded, done"]);
    }

    [Fact]
    public void Parts_that_were_measured_by_it_or_are_needed_behind_it_rest_on_it()
    {
        RestingPart Part(string name, Guid? needs, Guid? measured = null) =>
            new(Guid.CreateVersion7(), name, needs, measured, "ordered");
        On([
                Part("shaft tube", _shaft.Id),
                Part("seat runners", null, _tunnel.Id),
                Part("tunnel cover", _tunnel.Id),
                Part("headlining", _roof.Id),
                Part("paint", null),
            ])
            .Where(r => r.EndsWith("ordered", StringComparison.Ordinal))
            .ShouldBe(["shaft tube, ordered", "seat runners, ordered", "tunnel cover, ordered"]);
    }

    [Fact]
    public void It_is_open_until_each_is_judged_and_what_became_work_is_judged_no_more()
    {
        var ripple = new Ripple
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            OperationId = _tunnel.Id,
            What = "raised by 40",
            Rests = Ripples.On(_tunnel, _all, new HashSet<Guid>(), []),
        };
        ripple.IsOpen.ShouldBeTrue();
        ripple.Judge(_floor.Id, RippleVerdict.StillGood, "Ada", Then).By.ShouldBe("Ada");
        ripple.Judge(_gate.Id, RippleVerdict.Redo, "Ada", Then);
        ripple.IsOpen.ShouldBeTrue();
        ripple.Judge(_shaft.Id, RippleVerdict.Check, "Ada", Then);
        ripple.IsOpen.ShouldBeFalse();
        ripple.Judge(_floor.Id, RippleVerdict.Redo, "Bo", Then).Verdict.ShouldBe(RippleVerdict.Redo);
        Should
            .Throw<Refusal>(() => ripple.Judge(_shaft.Id, RippleVerdict.StillGood, "Bo", Then))
            .Field.ShouldBe("verdict");
        Should.Throw<Refusal>(() => ripple.Judge(_roof.Id, RippleVerdict.Redo, "Bo", Then)).NotFound.ShouldBeTrue();
    }

    [Fact]
    public void A_part_is_good_or_ordered_anew()
    {
        var part = new RestingPart(Guid.CreateVersion7(), "shaft tube", _shaft.Id, null, "here");
        var ripple = new Ripple
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            OperationId = _tunnel.Id,
            What = "raised by 40",
            Rests = Ripples.On(_tunnel, _all, new HashSet<Guid>(), [part]),
        };
        Should.Throw<Refusal>(() => ripple.Judge(part.Id, RippleVerdict.Check, "Ada", Then)).Field.ShouldBe("verdict");
        ripple.Judge(part.Id, RippleVerdict.Redo, "Ada", Then).Verdict.ShouldBe(RippleVerdict.Redo);
    }

    [Fact]
    public void A_look_is_work_of_the_same_trade_behind_what_has_changed()
    {
        var look = Ripples.Look(Guid.CreateVersion7(), _shaft, _tunnel, 45, 9);
        (look.Name, look.Trade, look.BudgetMinutes).ShouldBe(("Check: Shaft made", Trade.Metal, 45));
        look.After.ShouldHaveSingleItem().Operation.ShouldBe(_tunnel.Id);
        Ripples.Look(Guid.CreateVersion7(), _gate, _tunnel, 30, 9).Trade.ShouldBe(Trade.Hand);
    }
}
