using CsCheck;
using FirstCoat.Core.Bench;

namespace FirstCoat.Core.Tests.Bench;

/// <summary>Tyres, bars, timber, tanks and wires against numbers worked by hand.</summary>
public sealed class StockTests
{
    private static string Refused(Action ask) => Should.Throw<Refusal>(ask).Field;

    [Theory]
    [InlineData("245/40R18")]
    [InlineData(" p245/40 zr18 ")]
    [InlineData("245/40R18 97Y")]
    [InlineData("245/40R18 (97Y)")]
    [InlineData("245 / 40 R 18 97Y XL")]
    public void A_tyre_is_read_as_it_is_written_on_its_side(string marks)
    {
        var tyre = Tyre.Read(marks);
        (tyre.SectionMm, tyre.AspectPercent, tyre.RimIn, tyre.SidewallMm).ShouldBe((245, 40, 18, 98));
        tyre.DiameterMm.ShouldBe(653.2, 1e-9);
        tyre.RevsPerKm.ShouldBe(487.308, 0.0005);
    }

    [Theory]
    [InlineData("")]
    [InlineData("big")]
    [InlineData("245R18")]
    [InlineData("0/40R18")]
    [InlineData("245/0R18")]
    [InlineData("6.00-16")]
    public void Other_marks_are_refused(string marks) => Refused(() => Tyre.Read(marks)).ShouldBe("tyre");

    [Fact]
    public void A_wheel_stands_in_its_arch_by_its_offset()
    {
        var wheel = new Wheel(Tyre.Read("245/40R18"), 8.5, 30);
        wheel.RimOuterMm.ShouldBe(77.95, 1e-9);
        wheel.RimInnerMm.ShouldBe(137.95, 1e-9);
        (wheel.TyreOuterMm, wheel.TyreInnerMm).ShouldBe((92.5, 152.5));
        // A larger wheel turns less often: the needle shows less than the truth.
        new Wheel(Tyre.Read("255/40R18"), 8.5, 30).SpeedometerErrorPercent(wheel).ShouldBe(-1.20992, 0.00001);
        Refused(() => (wheel with { RimWidthIn = 0 }).Check()).ShouldBe("rimWidthIn");
    }

    [Fact]
    public void The_last_piece_may_end_at_the_bars_end()
    {
        var exact = LineCuts.Of(6000, 3, [2000, 2000, 1994]);
        (exact.Bars, exact.WasteMm).ShouldBe((1, 6));
        exact.UsedPercent.ShouldBe(99.9, 1e-9);
        LineCuts.Of(6000, 3, [2000, 2000, 1995]).Bars.ShouldBe(2);
    }

    [Fact]
    public void Twelve_pieces_are_cut_from_the_fewest_bars()
    {
        // Longest first takes three bars here; 5 + 3 + 2 and 4 + 4 + 2 fill two.
        var cuts = LineCuts.Of(10, 0, [5, 4, 4, 3, 2, 2]);
        (cuts.Bars, cuts.IsFewest).ShouldBe((2, true));
        Refused(() => LineCuts.Of(0, 3, [1000])).ShouldBe("stockMm");
        Refused(() => LineCuts.Of(6000, 3, [])).ShouldBe("piecesMm");
        Refused(() => LineCuts.Of(6000, 3, [6001])).ShouldBe("piecesMm");
        Refused(() => LineCuts.Of(6000, -1, [1000])).ShouldBe("kerfMm");
    }

    [Fact]
    public void Pieces_that_were_sawn_from_full_bars_go_back_into_as_many() =>
        Gen.Select(Gen.Int[1, 3], Gen.Int[0, 5], Gen.Int[1, 999].List[3, 3])
            .Sample(
                (bars, kerf, at) =>
                {
                    // Each bar is sawn once or twice more, at places of its own.
                    var pieces = new List<double>();
                    for (var bar = 0; bar < bars; bar++)
                    {
                        var first = 500 + at[bar];
                        pieces.AddRange([first, 2000, 6000 - first - 2000 - 2 * kerf]);
                    }

                    LineCuts.Of(6000, kerf, pieces).Bars.ShouldBe(bars);
                },
                iter: 300
            );

    [Fact]
    public void Timber_steams_an_hour_for_each_25_mm()
    {
        SteamBend.Minutes(12).ShouldBe(28.8, 1e-12);
        Refused(() => SteamBend.Minutes(0)).ShouldBe("thicknessMm");
    }

    [Fact]
    public void A_tank_gains_what_a_box_holds()
    {
        var box = BoxVolume.Of(700, 450, 80);
        box.Litres.ShouldBe(25.2, 1e-12);
        box.UsGallons.ShouldBe(6.6571, 0.00005);
        box.ImperialGallons.ShouldBe(5.5432, 0.00005);
        Refused(() => BoxVolume.Of(1, 0, 1)).ShouldBe("widthMm");
    }

    private static readonly WireSize[] Table = [new(10, 61), new(1.5, 18), new(2.5, 25), new(4, 34), new(6, 44)];

    private static readonly double[] Fuses = [5, 10, 15, 20, 40];

    [Fact]
    public void A_wire_loses_no_more_than_it_may_and_its_fuse_guards_it()
    {
        var run = WireRun.Of(12, 10, 5, 3, Table, Fuses);
        run.NeededMm2.ShouldBe(4.861, 0.0005);
        (run.SizeMm2, run.FuseAmps).ShouldBe((6, 15));
        run.DropVolts!.Value.ShouldBe(0.2917, 0.00005);
        run.DropPercent!.Value.ShouldBe(2.43, 0.005);
        // 2.5 mm2 would do by area and current, but no fuse holds 20 A with a margin and guards 25 A.
        WireRun.Of(12, 20, 0.5, 5, Table, [20, 30]).ShouldBe(WireRun.Of(12, 20, 0.5, 5, [new(4, 34)], [30]));
        WireRun.Of(12, 20, 0.5, 5, Table, []).FuseAmps.ShouldBeNull();
        WireRun.Of(12, 20, 0.5, 5, Table, []).SizeMm2.ShouldBe(2.5);
        WireRun.Of(12, 100, 5, 3, Table, Fuses).SizeMm2.ShouldBeNull("nothing of the table does");
    }

    [Theory]
    [InlineData(0, 10, 5, 3, "volts")]
    [InlineData(12, 0, 5, 3, "amps")]
    [InlineData(12, 10, 0, 3, "lengthM")]
    [InlineData(12, 10, 5, 100, "dropPercent")]
    public void A_wire_says_what_it_lacks(double volts, double amps, double length, double drop, string field)
    {
        Refused(() => WireRun.Of(volts, amps, length, drop, Table, Fuses)).ShouldBe(field);
        Refused(() => WireRun.Of(12, 10, 5, 3, [], Fuses)).ShouldBe("wires");
        Refused(() => WireRun.Of(12, 10, 5, 3, Table, [0])).ShouldBe("fuses");
    }
}
