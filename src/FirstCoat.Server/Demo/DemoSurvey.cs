using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Survey;

namespace FirstCoat.Server.Demo;

/// <summary>The survey of the pick-up that came last, and what was found on two builds in work.</summary>
internal sealed class DemoSurvey(DemoShop shop)
{
    private sealed record Found(
        string Place,
        FindingKind Kind,
        Probe? Probe,
        int SizeMm,
        bool Structural,
        string Note,
        FindingOption[] Ways,
        Verdict? Choice,
        string Because
    );

    private static FindingOption Repair(decimal hours, decimal material, decimal risk, Trade trade = Trade.Metal) =>
        new(Verdict.Repair, hours, trade, material, RiskPercent: risk);

    private static FindingOption Replace(decimal hours, decimal part, decimal freight, decimal days, decimal risk) =>
        new(Verdict.Replace, hours, Trade.Metal, Part: part, Freight: freight, LeadDays: days, RiskPercent: risk);

    private static FindingOption Make(decimal hours, decimal material, decimal risk) =>
        new(Verdict.Fabricate, hours, Trade.Metal, material, RiskPercent: risk);

    private static readonly FindingOption NotSold = new(Verdict.Replace, 0, Trade.Metal, NotSold: true);

    private static readonly Found[] Pickup =
    [
        new(
            "sillR",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            480,
            true,
            "Through along the seam, into the cab mount",
            [Repair(14, 60, 15), Replace(6, 268, 55, 4, 5), Make(19, 95, 10)],
            Verdict.Replace,
            "Harbour Steel have the section with the cab mount in it"
        ),
        new(
            "cornerL",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            210,
            false,
            "Through behind the trim",
            [Repair(9, 34, 20), NotSold, Make(13, 48, 15)],
            Verdict.Repair,
            "no corner is sold"
        ),
        new(
            "bed",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            320,
            false,
            "Through at the middle cross member",
            [Repair(8, 42, 15), Replace(5, 640, 90, 12, 10)],
            Verdict.Repair,
            "the rest of the floor rings"
        ),
        new(
            "wingR",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            120,
            false,
            "Through at the lip",
            [Repair(6, 22, 15), Replace(4, 390, 55, 8, 5)],
            Verdict.Repair,
            "a hand's width"
        ),
        new(
            "doorL",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            160,
            false,
            "Through at the drain",
            [Repair(8, 30, 20), Replace(3, 245, 55, 4, 5)],
            Verdict.Replace,
            "a skin is on the shelf at Harbour Steel"
        ),
        new(
            "floorFR",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            260,
            true,
            "Through by the pedal box",
            [Repair(11, 38, 20), Replace(6, 145, 55, 4, 10), Make(12, 60, 10)],
            null,
            ""
        ),
        new(
            "wingL",
            FindingKind.Filler,
            null,
            300,
            false,
            "6 mm of filler over a dent",
            [Repair(5, 18, 15, Trade.Body), Replace(4, 390, 55, 8, 5)],
            Verdict.Repair,
            "the dent is shallow"
        ),
        new(
            "tailgate",
            FindingKind.Missing,
            null,
            90,
            false,
            "Left hinge pin missing",
            [Make(1.5m, 6, 5)],
            Verdict.Fabricate,
            ""
        ),
    ];

    private static readonly Found[] Courser =
    [
        new(
            "sillL",
            FindingKind.Pitting,
            Probe.Dents,
            90,
            true,
            "Pinholes in the aft 40 cm: let in a new end",
            [Repair(5, 24, 20), NotSold],
            Verdict.Repair,
            "the part that comes is for the right side only"
        ),
        new(
            "roof",
            FindingKind.Dent,
            Probe.Rings,
            140,
            false,
            "Two low spots, 0.4 mm: high-build again, block 320",
            [Repair(2.5m, 12, 0, Trade.Body)],
            Verdict.Repair,
            ""
        ),
        new(
            "tail",
            FindingKind.LeadedSeam,
            null,
            60,
            false,
            "Old lead is porous: melt out, wipe new lead",
            [Repair(4, 30, 15)],
            Verdict.Repair,
            ""
        ),
    ];

    private static readonly Found[] Roadster =
    [
        new(
            "sillL",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            420,
            true,
            "Through at the aft end",
            [Repair(9, 44, 15), Make(12, 60, 10)],
            Verdict.Repair,
            "the fore part rings"
        ),
        new(
            "sillR",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            620,
            true,
            "Through along most of it",
            [Repair(15, 60, 20), Make(12, 60, 10)],
            Verdict.Fabricate,
            "more hole than sill"
        ),
        new(
            "wingL",
            FindingKind.Collision,
            Probe.Rings,
            380,
            false,
            "An old knock, filler over it",
            [Repair(12, 30, 20, Trade.Body), Replace(4, 510, 60, 9, 5)],
            Verdict.Repair,
            "the metal is all there"
        ),
        new(
            "doorR",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            150,
            false,
            "Through at the bottom seam",
            [Repair(7, 26, 15), Make(9, 40, 10)],
            Verdict.Repair,
            ""
        ),
        new(
            "floorFL",
            FindingKind.RustThrough,
            Probe.GoesThrough,
            540,
            true,
            "Gone under the pedals",
            [Make(14, 70, 10)],
            Verdict.Fabricate,
            ""
        ),
        new(
            "tail",
            FindingKind.EarlierPatch,
            null,
            300,
            false,
            "A plate riveted over the seam",
            [Repair(8, 28, 25)],
            Verdict.Repair,
            "it must come off to see"
        ),
    ];

    public async Task Tell(CancellationToken cancel)
    {
        await shop.As("sunniva", s =>
            s.GetRequiredService<FindingsDesk>()
                .Tell(shop.Build(45), [HistoryHint.StoodOutside, HistoryHint.CrashedRight, HistoryHint.SaltAir], cancel)
        );
        await Record(45, Pickup, cancel);
        await Record(41, Courser, cancel);
        await Record(44, Roadster, cancel);
        await Round(44, cancel, everything: true);
        await Round(45, cancel);
        // All of a restoration in paint was looked at long ago.
        await Round(41, cancel, everything: true);
    }

    private async Task Record(int build, Found[] found, CancellationToken cancel)
    {
        foreach (var f in found)
        {
            var id = Guid.CreateVersion7();
            var at = await Middle(shop, build, f.Place, cancel);
            await shop.As("bram", s =>
                s.GetRequiredService<FindingsDesk>()
                    .Put(
                        shop.Build(build),
                        id,
                        new(
                            f.Place,
                            at,
                            Box(f.Place, at, f.SizeMm),
                            f.Kind,
                            f.Probe,
                            f.SizeMm,
                            f.Structural,
                            1.2m,
                            f.Note,
                            null,
                            null
                        ),
                        null,
                        cancel
                    )
            );
            if (f.Probe is { } probe)
            {
                await shop.As("bram", s =>
                    s.GetRequiredService<FindingsDesk>()
                        .Punch(
                            shop.Build(build),
                            Guid.CreateVersion7(),
                            f.Place,
                            f.Place.StartsWith("sill", StringComparison.Ordinal)
                                ? new(at.X, Math.Round(at.Y - 24, 1))
                                : new(Math.Round(at.X + 17, 1), at.Y),
                            probe,
                            cancel
                        )
                );
            }

            await shop.As("iben", s => s.GetRequiredService<FindingsDesk>().Judge(id, [.. f.Ways], null, cancel));
            if (f.Choice is { } choice)
            {
                await shop.As("bram", s => s.GetRequiredService<FindingsDesk>().Choose(id, choice, f.Because, cancel));
            }

            if (f.Choice is not null && f.Place != "sillR")
            {
                await shop.As("sunniva", s => s.GetRequiredService<FindingsDesk>().Agree(id, cancel));
            }
        }
    }

    /// <summary>The punch goes round: most places ring; a few of the left side are still dark.</summary>
    private async Task Round(int build, CancellationToken cancel, bool everything = false)
    {
        SurveyView view = null!;
        await shop.As("bram", async s =>
            view = await s.GetRequiredService<FindingsDesk>().Look(shop.Build(build), cancel)
        );
        var turn = 0;
        foreach (var place in view.Sheet.StillDark)
        {
            if (
                !everything
                && (
                    place.Key
                    is "sillL"
                        or "postL"
                        or "bedsideL"
                        or "floorFL"
                        or "floorRL"
                        or "railL"
                        or "outriggerL"
                        or "bootFloor"
                        or "crossR"
                        or "back"
                )
            )
            {
                continue;
            }

            if (everything || turn++ % 6 == 5)
            {
                await shop.As("bram", s =>
                    s.GetRequiredService<FindingsDesk>()
                        .LookedAt(shop.Build(build), Guid.CreateVersion7(), place.Key, cancel)
                );
                continue;
            }

            var at = await Middle(shop, build, place.Key, cancel);
            await shop.As("bram", s =>
                s.GetRequiredService<FindingsDesk>()
                    .Punch(
                        shop.Build(build),
                        Guid.CreateVersion7(),
                        place.Key,
                        at,
                        turn % 9 == 4 ? Probe.Dents : Probe.Rings,
                        cancel
                    )
            );
        }
    }

    /// <summary>The middle of a place on its map.</summary>
    public static async Task<MapPoint> Middle(DemoShop shop, int build, string place, CancellationToken cancel)
    {
        MapPoint at = null!;
        await shop.As("bram", async s =>
        {
            var vehicle = (
                await s.GetRequiredService<ShopDb>()
                    .Builds.AsNoTracking()
                    .SingleAsync(b => b.Id == shop.Build(build), cancel)
            ).Vehicle;
            var panel = Body.Unfold(vehicle.Style, vehicle.Dimensions).Panels.FirstOrDefault(p => p.Key == place);
            var corners = panel is null ? Underside.Of(vehicle).Single(u => u.Key == place).Corners : [];
            at = panel is null
                ? new(corners.Average(c => c.X), corners.Average(c => c.Y))
                : new(panel.Labels[0].X, Math.Max(panel.Labels[0].Y - 26, panel.Polygon.Min(c => c.Y) + 11));
        });
        return new(Math.Round(at.X, 1), Math.Round(at.Y, 1));
    }

    private static List<MapPoint> Box(string place, MapPoint at, int sizeMm)
    {
        var (w, h) = (
            place.StartsWith("sill", StringComparison.Ordinal) ? 3.4 : Math.Min(14, sizeMm / 40.0),
            Math.Min(24, sizeMm / 20.0)
        );
        return [new(at.X - w, at.Y - h), new(at.X + w, at.Y - h), new(at.X + w, at.Y + h), new(at.X - w, at.Y + h)];
    }
}
