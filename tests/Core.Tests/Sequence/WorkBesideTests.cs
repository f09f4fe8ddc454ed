using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Tests.Sequence;

/// <summary>What must not begin while something else goes on.</summary>
public sealed class WorkBesideTests
{
    private static readonly Guid One = Guid.CreateVersion7();
    private static readonly Guid Two = Guid.CreateVersion7();

    private static Operation Work(Guid build, string name, Hazard hazard, StationKind? at = null, Coat? coat = null) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            BuildId = build,
            Name = name,
            Hazard = hazard,
            Station = at,
            Coat = coat,
            Terms = new() { Body = BodyUse.OnBody },
        };

    private static List<string> Against(Operation o, Operation goesOn, params Station[] stations) =>
        [.. WorkBeside.Against(o, [goesOn], new PlanRules().Clashes(), new(stations)).Select(x => x.Words)];

    private static Station Station(StationKind kind, string air) =>
        new()
        {
            Name = kind.ToString(),
            Kind = kind,
            Terms = new() { AirSpace = air },
        };

    [Fact]
    public void Grinding_waits_for_the_wet_coat_in_its_air_and_the_coat_for_the_grinding()
    {
        var coat = Work(One, "Epoxy", Hazard.TwoPack, StationKind.Prep, Coat.Epoxy);
        var grind = Work(Two, "Dress the welds", Hazard.AirTools, StationKind.Bay);
        Against(grind, coat).ShouldBeEmpty();
        Station[] hall = [Station(StationKind.Prep, "hall"), Station(StationKind.Bay, "hall")];
        Against(grind, coat, hall)
            .ShouldBe([
                "Not beside Epoxy, which goes on now: grinding dust and a wet coat share the air. Begin when that has stopped.",
            ]);
        Against(coat, grind, hall).ShouldHaveSingleItem().ShouldContain("Dress the welds");
        // A danger of spraying without a coat puts nothing wet into the air.
        coat.Coat = null;
        Against(grind, coat, hall).ShouldBeEmpty();
    }

    [Fact]
    public void Nothing_is_welded_beside_open_fuel_or_a_live_battery()
    {
        var weld = Work(One, "Sill", Hazard.Welding, StationKind.Bay);
        Against(weld, Work(Two, "Tank out", Hazard.Fuel, StationKind.Bay)).ShouldHaveSingleItem();
        Against(weld, Work(Two, "Pack out", Hazard.HighVoltage, StationKind.Bay)).ShouldHaveSingleItem();
        Against(weld, Work(Two, "Pack out", Hazard.HighVoltage, StationKind.Lift)).ShouldBeEmpty();
        Against(weld, weld).ShouldBeEmpty();
    }

    [Fact]
    public void Nothing_is_cut_on_a_vehicle_that_is_being_lifted_wherever_its_work_is_booked()
    {
        var cut = Work(One, "Cut the floor", Hazard.AirTools, StationKind.Jig);
        var lift = Work(One, "Body off", Hazard.Lifting, StationKind.Lift);
        Against(cut, lift).ShouldHaveSingleItem().ShouldContain("while it is lifted");
        Against(cut, Work(Two, "Body off", Hazard.Lifting, StationKind.Jig)).ShouldBeEmpty();
        lift.Terms = new() { Body = BodyUse.Beside };
        Against(cut, lift).ShouldBeEmpty();
    }
}
