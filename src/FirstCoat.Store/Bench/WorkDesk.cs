using System.Globalization;
using System.Text.Json.Nodes;
using FirstCoat.Core.Fitup;
using FirstCoat.Core.Survey;
using FirstCoat.Store.Access;
using FirstCoat.Store.Fitup;
using Microsoft.EntityFrameworkCore;

namespace FirstCoat.Store.Bench;

/// <summary>Figures of a build that a bench sum can start from.</summary>
/// <param name="Sum">Name of the sum.</param>
/// <param name="Key">What it is, in an address: "finding-3".</param>
/// <param name="Name">In words.</param>
/// <param name="Figures">By their names in the sum.</param>
public sealed record WorkFigures(string Sum, string Key, string Name, JsonObject Figures);

/// <summary>What a build's measuring and survey give the bench to start from.</summary>
public sealed class WorkDesk(
    ShopDb db,
    ShopClock clock,
    CurrentActor current,
    FitDesk fit,
    OpeningsDesk openings,
    DatumDesk datum
) : Desk(db, clock, current)
{
    public async Task<IReadOnlyList<WorkFigures>> Of(Guid buildId, CancellationToken cancel) =>
        [
            .. await Findings(buildId, cancel),
            .. await Openings(buildId, cancel),
            .. await Gaps(buildId, cancel),
            .. await Chassis(buildId, cancel),
            .. await Doors(buildId, cancel),
        ];

    /// <summary>What is drawn bad: its extent is a piece of sheet, its edge a seam that runs into itself.</summary>
    private async Task<IEnumerable<WorkFigures>> Findings(Guid buildId, CancellationToken cancel)
    {
        const double CmToMm = 10;
        var (shop, build) = (await Shop(cancel), await Build(buildId, cancel));
        var places = SurveyPlaces.Of(build.Vehicle, []).ToDictionary(p => p.Key, p => p.Name);
        var drawn = (await Db.Findings.AsNoTracking().Where(f => f.BuildId == buildId).ToListAsync(cancel))
            .Where(f => f.Counts && f.Area.Count >= 3)
            .OrderBy(f => f.Number);
        return drawn.SelectMany(f =>
        {
            var (width, height) = (
                (f.Area.Max(p => p.X) - f.Area.Min(p => p.X)) * CmToMm,
                (f.Area.Max(p => p.Y) - f.Area.Min(p => p.Y)) * CmToMm
            );
            var edge =
                f.Area.Zip(f.Area.Skip(1).Append(f.Area[0]), (a, b) => Math.Sqrt(Square(a.X - b.X) + Square(a.Y - b.Y)))
                    .Sum() * CmToMm;
            var name = $"Finding {f.Number}, {places.GetValueOrDefault(f.Place, f.Place)}";
            var stock = shop.Sheets.Find(s => s.GaugeMm == f.GaugeMm) ?? shop.Sheets.FirstOrDefault();
            var takeOff = new JsonObject
            {
                ["pieces"] = new JsonArray(
                    new JsonObject
                    {
                        ["name"] = $"finding {f.Number}",
                        ["width"] = Typed(Math.Ceiling(width)),
                        ["height"] = Typed(Math.Ceiling(height)),
                        ["qty"] = "1",
                    }
                ),
            };
            if (f.GaugeMm is { } gauge)
            {
                takeOff["gauge"] = Typed((double)gauge);
            }

            if (stock is not null)
            {
                takeOff["width"] = Typed(stock.WidthMm);
                takeOff["height"] = Typed(stock.HeightMm);
            }

            return new WorkFigures[]
            {
                new("take-off", $"finding-{f.Number}", name, takeOff),
                new(
                    "tacks",
                    $"finding-{f.Number}",
                    name,
                    new() { ["length"] = Typed(Math.Ceiling(edge)), ["closed"] = true }
                ),
            };
        });

        static double Square(double x) => x * x;
    }

    private async Task<IEnumerable<WorkFigures>> Openings(Guid buildId, CancellationToken cancel) =>
        (await openings.Look(buildId, cancel))
            .Where(o => o.Last is not null)
            .Select(o =>
            {
                var r = o.Last!.Reading;
                return new WorkFigures(
                    "opening",
                    o.Opening.Key,
                    $"{o.Opening.Name}, {r.When}",
                    new()
                    {
                        ["unit"] = r.Unit == LengthUnit.Inch ? "inch" : "mm",
                        ["d1"] = Typed(r.Diagonal1),
                        ["d2"] = Typed(r.Diagonal2),
                        ["width"] = Typed(r.Width),
                        ["side"] = Typed(r.Side),
                    }
                );
            });

    private async Task<IEnumerable<WorkFigures>> Gaps(Guid buildId, CancellationToken cancel)
    {
        var look = await fit.Look(buildId, cancel);
        return look
            .Lines.Where(l => l.Last is { Profile: not null })
            .Select(l =>
            {
                var figures = new JsonObject
                {
                    ["unit"] = "mm",
                    ["stations"] = new JsonArray(
                        l.Last!.Stations.Where(s => s.Gap is not null)
                            .Select(s =>
                                (JsonNode)
                                    new JsonObject { ["pos"] = Typed(Math.Round(s.PosMm)), ["gap"] = Typed(s.Gap!.Mm) }
                            )
                            .ToArray()
                    ),
                    ["target"] = Typed(l.Limits.TargetMm),
                    ["tolerance"] = Typed(l.Limits.ToleranceMm),
                    ["rangeLimit"] = Typed(l.Limits.RangeMm),
                };
                if (look.Sheet.Doors.Find(d => l.Line.Between.Contains(d.Panel)) is { } hang)
                {
                    figures["hingeSpacing"] = Typed(hang.HingeSpacingMm);
                    figures["hingeToRear"] = Typed(hang.HingeToRearMm);
                }

                return new WorkFigures("gap", $"line-{l.Line.Letter}", $"{l.Line.Letter} {l.Line.Name}", figures);
            });
    }

    private async Task<IEnumerable<WorkFigures>> Chassis(Guid buildId, CancellationToken cancel)
    {
        var sheet = (await datum.Look(buildId, cancel)).State?.Sheet;
        return sheet is null
            ? []
            : new (string Key, string Name, ChassisFigures Figures)[]
            {
                ("after", "Chassis after the cut", sheet.After),
                ("before", "Chassis before the cut", sheet.Before),
            }
                .Where(c => c.Figures.SkewDeg() is not null)
                .Select(c => new WorkFigures("chassis", c.Key, c.Name, FiguresOf(c.Figures)));
    }

    private static JsonObject FiguresOf(ChassisFigures c)
    {
        var figures = new JsonObject { ["unit"] = "mm" };
        foreach (
            var (name, value) in new[]
            {
                ("wheelbaseLeft", c.WheelbaseLeftMm),
                ("wheelbaseRight", c.WheelbaseRightMm),
                ("track", c.TrackMm),
                ("rearLeft", c.AxleLeftMm),
                ("rearRight", c.AxleRightMm),
                ("fl", c.HeightFrontLeftMm),
                ("fr", c.HeightFrontRightMm),
                ("rl", c.HeightRearLeftMm),
                ("rr", c.HeightRearRightMm),
            }
        )
        {
            if (value is { } mm)
            {
                figures[name] = Typed(mm);
            }
        }

        return figures;
    }

    /// <summary>Under each station's door, where the vehicle's height is known.</summary>
    private async Task<IEnumerable<WorkFigures>> Doors(Guid buildId, CancellationToken cancel)
    {
        var arrival = await Db.Arrivals.AsNoTracking().FirstOrDefaultAsync(a => a.BuildId == buildId, cancel);
        if (arrival?.Heights is not { } h)
        {
            return [];
        }

        var stations = await Db.Stations.AsNoTracking().Where(s => s.DoorHeightMm != null).ToListAsync(cancel);
        return stations
            .OrderBy(s => s.DoorHeightMm)
            .Select(s => new WorkFigures(
                "door",
                $"station-{s.Id:N}",
                s.Name,
                new()
                {
                    ["unit"] = "mm",
                    ["body"] = Typed(h.BodyMm),
                    ["dolly"] = Typed(h.DollyMm),
                    ["margin"] = Typed(h.KeptFreeMm),
                    ["door"] = Typed(s.DoorHeightMm!.Value),
                }
            ));
    }

    private static string Typed<T>(T value)
        where T : IFormattable => value.ToString("0.####", CultureInfo.InvariantCulture);
}
