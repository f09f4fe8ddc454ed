using FirstCoat.Core.Bodies;
using FirstCoat.Core.Fitup;
using FirstCoat.Store.Fitup;

namespace FirstCoat.Server.Demo;

/// <summary>The saloon on the jig: its datum sheet, read before the cut and after it, one point bent.</summary>
internal sealed class DemoDatum(DemoShop shop)
{
    private const int Saloon = 43;

    /// <summary>Pairs of the frame sheet: x to the rear of the front axle, half the distance across, z over the
    /// rails.</summary>
    private static readonly (string Letter, string Name, double X, double Y, double Z)[] Pairs =
    [
        ("A", "front horn", -480, 330, 60),
        ("B", "bulkhead mount", 640, 350, 90),
        ("C", "hinge post", 830, 640, 480),
        ("D", "spring front eye", 2080, 400, 60),
        ("E", "spring rear hanger", 3080, 380, 210),
        ("F", "rear pillar", 2360, 655, 830),
    ];

    private const string Bent = "D R";

    public async Task Tell(CancellationToken cancel)
    {
        List<DatumPoint> points =
        [
            .. Pairs.SelectMany(p =>
                new[] { PanelSide.Left, PanelSide.Right }.Select(side => new DatumPoint(
                    p.Letter,
                    side,
                    p.Name,
                    new((decimal)p.X, (decimal)(side == PanelSide.Left ? p.Y : -p.Y), (decimal)p.Z, LengthUnit.Mm),
                    IsProtected: p.Letter == "D"
                ))
            ),
        ];
        await shop.As("bram", async s =>
        {
            var desk = s.GetRequiredService<DatumDesk>();
            var build = shop.Build(Saloon);
            var sheet = await desk.Put(build, new("Frame sheet OS-6", "B", "3", 2, points), null, cancel);
            foreach (var (round, off) in new[] { (DatumRound.BeforeCut, 12.0), (DatumRound.AfterCut, 3.0) })
            {
                foreach (var (point, i) in points.Select((p, i) => (p, i)))
                {
                    await desk.Read(
                        build,
                        Guid.CreateVersion7(),
                        point.Key,
                        Standing(point, i, off, round),
                        new(round, LengthUnit.Mm, DatumTool.Laser, "cross laser 2"),
                        cancel
                    );
                }
            }

            await desk.Figures(
                build,
                new(2844, 2840, 1400, 700, 706, 10, 6, 6, 10),
                new(2842, 2840, 1400, 702, 705, 8, 6, 6, 8),
                sheet.Version,
                cancel
            );
        });
    }

    /// <summary>As it stands on the jig: a little to the right and askew, every reading some tenths off.</summary>
    private static TypedPoint Standing(DatumPoint point, int i, double off, DatumRound round)
    {
        const double Askew = .002;
        var (p, k) = (point.At.InMm(), i * 7 + (round == DatumRound.AfterCut ? 3 : 0));
        var bent = point.Key == Bent ? off : 0;
        double Tenths(int n) => (n % 9 - 4) * .12;
        return new(
            Math.Round((decimal)(p.X - Askew * p.Y + 210 + Tenths(k) - .25 * bent), 1),
            Math.Round((decimal)(p.Y + Askew * p.X - 5.8 + Tenths(k * 5 + 1) + .3 * bent), 1),
            Math.Round((decimal)(p.Z + 400 + Tenths(k * 3 + 2) + .92 * bent), 1),
            LengthUnit.Mm
        );
    }
}
