using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using NodaTime;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>Checks without override stay, and cures end by their time.</summary>
public sealed class ChecksForGoodTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 3, 2, 12, 0);

    private static Operation Gate(GateKind kind, string key = "") =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Check",
            Kind = OperationKind.Gate,
            Gate = kind,
            TemplateKey = key,
        };

    [Theory]
    [InlineData(GateKind.FirstDrive)]
    [InlineData(GateKind.TractionBattery)]
    [InlineData(GateKind.Asbestos)]
    [InlineData(GateKind.ShellSupport)]
    public void A_check_without_override_is_not_taken_out_by_hand_nor_by_planning_again(GateKind kind)
    {
        Should.Throw<Refusal>(() => Gate(kind).Remove(hasHours: false)).Field.ShouldBe("id");
        var gate = Gate(kind, "gone");
        var planned = new Resequence(
            [gate],
            [
                new()
                {
                    Id = Guid.CreateVersion7(),
                    BuildId = Guid.Empty,
                    Name = "Strip",
                    Trade = Trade.Strip,
                    BudgetMinutes = 60,
                    TemplateKey = "strip",
                },
            ],
            new HashSet<Guid>(),
            new HashSet<Guid>()
        ).Apply();
        planned.Kept.ShouldContain(gate);
        gate.Removed.ShouldBeFalse();
    }

    [Fact]
    public void Another_check_may_go()
    {
        var gate = Gate(GateKind.FitUp);
        gate.Remove(hasHours: false);
        gate.Removed.ShouldBeTrue();
    }

    [Fact]
    public void A_cure_is_over_after_its_minutes_from_the_last_of_what_comes_before()
    {
        Operation Done(Instant at)
        {
            var o = new Operation
            {
                Id = Guid.CreateVersion7(),
                BuildId = Guid.Empty,
                Name = "Coat",
                Trade = Trade.Paint,
                BudgetMinutes = 60,
            };
            o.Finish("Wil", at);
            return o;
        }

        var (first, last) = (Done(Noon), Done(Noon + Duration.FromHours(1)));
        var open = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Coat",
            Trade = Trade.Paint,
            BudgetMinutes = 60,
        };
        var all = new[] { first, last, open }.ToDictionary(o => o.Id);
        var cure = new Operation
        {
            Id = Guid.CreateVersion7(),
            BuildId = Guid.Empty,
            Name = "Cure",
            Kind = OperationKind.Cure,
            ClockMinutes = 90,
            After = [new(first.Id, 30), new(last.Id, 15)],
        };
        cure.CuredAt(all).ShouldBe(Noon + Duration.FromMinutes(60 + 15 + 90));
        cure.After = [.. cure.After, new(open.Id, 0)];
        cure.CuredAt(all).ShouldBeNull("what comes before is not done");
    }
}
