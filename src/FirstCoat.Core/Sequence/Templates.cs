using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Shop;

namespace FirstCoat.Core.Sequence;

/// <summary>What a sequence can be made from.</summary>
/// <param name="OwnId">Of one that the shop saved; null: it comes with the application.</param>
public sealed record SequenceTemplate(string Key, string Name, string Says, Guid? OwnId = null);

/// <summary>Makes the operations of a build from a template.</summary>
/// <remarks>Hours are rules of thumb for a full restoration; every one of them can be edited. No hour of flash or cure
/// is general knowledge: the product's sheet says it.</remarks>
public static class Templates
{
    public const string PaintThenAssemble = "paint-then-assemble";
    public const string DriveFirst = "drive-first";
    public const string SmallWork = "small-work";

    /// <summary>All templates.</summary>
    public static readonly IReadOnlyList<SequenceTemplate> All =
    [
        new(PaintThenAssemble, "Paint, then assemble", "Metal, fit-up, paint; then everything goes on once."),
        new(DriveFirst, "Drive first, then paint", "Built and driven bare, taken apart again, painted, assembled."),
        new(SmallWork, "Small work on a returning car", "A few hours for a car that comes back."),
    ];

    /// <summary>Whether practitioners differ on how it runs.</summary>
    public static bool HasChoices(string key) => key is PaintThenAssemble or DriveFirst;

    /// <summary>Operations of a build, linked, with new ids from <paramref name="newId"/>.</summary>
    /// <param name="scale">Multiplies all hours: 1 is a full restoration of a mid-sized car.</param>
    /// <exception cref="Refusal">The template is not known.</exception>
    /// <param name="choices">The schools it follows; null: the usual ones.</param>
    public static IReadOnlyList<Operation> Make(
        string template,
        Guid buildId,
        Vehicle vehicle,
        FinishGrade grade,
        decimal scale,
        Func<Guid> newId,
        TemplateChoices? choices = null
    )
    {
        Refusal.When(All.All(t => t.Key != template), "template", "That template is not known.");
        Refusal.When(scale is <= 0 or > 10, "scale", "The hours are multiplied by more than 0 and at most 10.");
        var draft = new Draft(
            buildId,
            Body.Unfold(vehicle.Style, vehicle.Dimensions),
            scale * GradeFactor(grade),
            newId
        );
        switch (template)
        {
            case DriveFirst:
                new Restoration(draft, vehicle.Construction, driveFirst: true, choices ?? new()).Make();
                break;
            case PaintThenAssemble:
                new Restoration(draft, vehicle.Construction, driveFirst: false, choices ?? new()).Make();
                break;
            default:
                Small(draft);
                break;
        }

        return draft.Operations;
    }

    /// <summary>By what a finish multiplies hours.</summary>
    internal static decimal GradeFactor(FinishGrade grade) =>
        grade switch
        {
            FinishGrade.Driver => 0.8m,
            FinishGrade.Concours => 1.25m,
            _ => 1,
        };

    private static void Small(Draft d)
    {
        d.Work("look", Stage.Assembly, "Look over, road test", Trade.Mechanic, 2, StationKind.Lift);
        d.Work(
            "tune",
            Stage.Driveline,
            "Carburettors and timing",
            Trade.Mechanic,
            5,
            StationKind.Lift,
            after: ["look"],
            hazard: Hazard.Fuel
        );
        d.Work("trimfix", Stage.Trim, "Re-stitch the driver's seat", Trade.Trim, 4, after: ["look"]);
        d.Work(
            "nib",
            Stage.Polish,
            "Polish out the bonnet",
            Trade.Paint,
            3,
            StationKind.Prep,
            panels: ["bonnet"],
            coat: Coat.Polished,
            after: ["look"]
        );
        d.Work("out", Stage.Assembly, "Wash, hand back", Trade.Hand, 1, after: ["tune", "trimfix", "nib"]);
    }

    /// <summary>A full restoration, stage by stage, by the schools that were chosen.</summary>
    private sealed class Restoration(Draft d, Construction construction, bool driveFirst, TemplateChoices choices)
    {
        /// <summary>Hours between bare metal and its first coat before it must be cleaned again.</summary>
        /// <remarks>A rule of thumb for a dry shop; the primer's data sheet replaces it.</remarks>
        private const int BareHours = 24;

        /// <summary>A composite body is never blasted.</summary>
        private bool Blasts => construction != Construction.Composite;

        private bool OnJig => choices.Hold == SupportState.Jig;

        private StationKind MetalStation => OnJig ? StationKind.Jig : StationKind.Bay;

        public void Make()
        {
            Teardown();
            var bare = Strip();
            Support(bare);
            var metal = Metal();
            FitUp(metal);
            var toPaint = Mechanics();
            toPaint = Blasts && choices.Blast == BlastSchool.AfterFabrication ? Blast(toPaint) : toPaint;
            var flat = choices.Filler == FillerSchool.EpoxyFirst ? EpoxyThenFiller(toPaint) : FillerThenEpoxy(toPaint);
            Paint(flat);
            Assembly();
        }

        private void Teardown()
        {
            d.Work("record", Stage.Teardown, "Arrival round, record, photos", Trade.Strip, 8, StationKind.Bay);
            d.Work(
                "trimout",
                Stage.Teardown,
                "Interior, glass and trim out",
                Trade.Strip,
                14,
                StationKind.Bay,
                after: ["record"],
                hazard: Hazard.Asbestos
            );
            d.Work(
                "mechout",
                Stage.Teardown,
                "Engine, gearbox, axles out",
                Trade.Mechanic,
                16,
                StationKind.Lift,
                after: ["record"],
                hazard: Hazard.Fuel
            );
            d.Work(
                "panelsoff",
                Stage.Teardown,
                "Doors, lids and bolted panels off",
                Trade.Strip,
                8,
                StationKind.Bay,
                after: ["trimout"],
                panels: ["hung"],
                held: Held.Away,
                hazard: Hazard.Lifting
            );
        }

        /// <returns>What the metalwork follows.</returns>
        private string Strip()
        {
            d.Work(
                "strip",
                Stage.Strip,
                "Strip old paint, underseal",
                Trade.Strip,
                14,
                StationKind.Bay,
                after: ["panelsoff", "mechout"],
                panels: ["all"],
                coat: Coat.BareSteel
            );
            d.Work(
                "cleanout",
                Stage.Strip,
                "Sweep out, wash down, wire up what is loose",
                Trade.Hand,
                4,
                StationKind.Bay,
                after: ["strip"]
            );
            switch (Blasts ? choices.Blast : BlastSchool.AfterFabrication)
            {
                case BlastSchool.BareFirst:
                    return Blast("strip", "cleanout");
                case BlastSchool.WhereNeeded:
                    d.Work(
                        "spotblast",
                        Stage.Strip,
                        "Blast pitted places only",
                        Trade.Strip,
                        5,
                        StationKind.Blast,
                        after: ["strip", "cleanout"],
                        hazard: Hazard.Blasting
                    );
                    d.Work(
                        "etch",
                        Stage.Epoxy,
                        "Temporary primer",
                        Trade.Paint,
                        6,
                        StationKind.Prep,
                        after: ["spotblast"],
                        panels: ["all"],
                        coat: Coat.Etch,
                        hazard: Hazard.TwoPack
                    );
                    d.Window("etch", "spotblast", BareHours, "Clean bare metal again", 2, Trade.Strip);
                    return "etch";
                default:
                    d.Work(
                        "etch",
                        Stage.Epoxy,
                        "Temporary primer",
                        Trade.Paint,
                        6,
                        StationKind.Prep,
                        after: ["strip", "cleanout"],
                        panels: ["all"],
                        coat: Coat.Etch,
                        hazard: Hazard.TwoPack
                    );
                    d.Window("etch", "strip", BareHours, "Clean bare metal again", 2, Trade.Strip);
                    return "etch";
            }
        }

        private string Blast(params string[] after)
        {
            d.Work(
                "blast",
                Stage.Strip,
                "Blast shell and panels",
                Trade.Strip,
                12,
                StationKind.Blast,
                after: after,
                panels: ["all"],
                coat: Coat.Blasted,
                hazard: Hazard.Blasting
            );
            if (choices.Blast == BlastSchool.AfterFabrication)
            {
                // The epoxy is its first coat; the window stands on it.
                return "blast";
            }

            d.Work(
                "etch",
                Stage.Epoxy,
                "Temporary primer",
                Trade.Paint,
                6,
                StationKind.Prep,
                after: ["blast"],
                panels: ["all"],
                coat: Coat.Etch,
                hazard: Hazard.TwoPack
            );
            d.Window("etch", "blast", BareHours, "Clean bare metal again", 2, Trade.Strip);
            return "etch";
        }

        private void Support(string after)
        {
            var name = choices.Hold switch
            {
                SupportState.Jig => "On the jig, level, brace",
                SupportState.Cart => "On the level cart, brace",
                SupportState.Rotisserie => "In the rotisserie, balance, brace",
                SupportState.Wheels => "Chock, level, brace",
                _ => "On its chassis and stands, level, brace",
            };
            d.Work("support", Stage.Metal, name, Trade.Metal, 10, MetalStation, after: [after], hazard: Hazard.Support);
            d.Set("support", t => t with { Sets = choices.Hold });
            d.Work("datum", Stage.Metal, "Datum sheet", Trade.Metal, 6, MetalStation, after: ["support"]);
            d.Gate("g-support", Stage.Metal, "Support of the shell before cutting", GateKind.ShellSupport, "support");
            d.Gate("g-datum", Stage.Metal, "Datum recorded", GateKind.Datum, "datum", "g-support");
            // Earlier repairs hold the shell as it is: they come out once it is braced and measured.
            d.Work(
                "undo",
                Stage.Metal,
                "Cut out earlier repairs",
                Trade.Metal,
                12,
                MetalStation,
                after: ["g-datum"],
                hazard: Hazard.AirTools
            );
        }

        /// <returns>What the fit-up follows.</returns>
        private string[] Metal()
        {
            if (construction == Construction.WoodFramed)
            {
                d.Work(
                    "frame",
                    Stage.Metal,
                    "New ash: sole, belt and cant rails",
                    Trade.Wood,
                    60,
                    StationKind.Bench,
                    after: ["undo"],
                    panels: ["rails"],
                    coat: Coat.NewAsh
                );
                d.Work(
                    "framing",
                    Stage.Metal,
                    "New ash: posts, pillars, bows",
                    Trade.Wood,
                    48,
                    StationKind.Bench,
                    after: ["frame"],
                    panels: ["posts"],
                    coat: Coat.NewAsh
                );
                d.Work(
                    "slats",
                    Stage.Metal,
                    "Slats and tailboard",
                    Trade.Wood,
                    30,
                    StationKind.Bench,
                    after: ["framing"],
                    panels: ["slats"],
                    coat: Coat.NewAsh
                );
                d.Work(
                    "skins",
                    Stage.Metal,
                    "Wings, cowl and bonnet",
                    Trade.Metal,
                    34,
                    StationKind.Bench,
                    after: ["g-datum"],
                    panels: ["front"],
                    coat: Coat.BareSteel,
                    held: Held.Clamped,
                    hazard: Hazard.Welding
                );
                return ["slats", "skins"];
            }

            var oneSide = choices.Sides == SideSchool.OneAtATime;
            d.Work(
                "floor",
                Stage.Metal,
                "Floor and inner structure",
                Trade.Metal,
                46,
                MetalStation,
                after: ["undo"],
                hazard: Hazard.Welding
            );
            d.Work(
                "sillL",
                Stage.Metal,
                "Left side: sill, post feet, quarter",
                Trade.Metal,
                38,
                MetalStation,
                after: ["floor"],
                panels: ["sillL", "quarterL", "sideL", "cornerL", "postL"],
                coat: Coat.BareSteel,
                held: Held.Tacked,
                hazard: Hazard.Welding
            );
            if (oneSide)
            {
                d.Gate("g-side", Stage.Metal, "Left side signed off against the right", GateKind.Side, "sillL");
            }

            d.Work(
                "sillR",
                Stage.Metal,
                "Right side: sill, post feet, quarter",
                Trade.Metal,
                34,
                MetalStation,
                after: ["floor"],
                panels: ["sillR", "quarterR", "sideR", "cornerR", "postR"],
                coat: Coat.BareSteel,
                held: Held.Tacked,
                hazard: Hazard.Welding
            );
            if (oneSide)
            {
                // In a jig the other side is not the reference, but the sides still go one after the other.
                d.Set("sillL", t => t with { OneAtATime = "sides" });
                d.Set("sillR", t => t with { OneAtATime = "sides", ClosedUntil = d.Id("g-side") });
            }

            d.Work(
                "skins",
                Stage.Metal,
                "Wings, nose and tail",
                Trade.Metal,
                30,
                StationKind.Bench,
                after: ["floor"],
                panels: ["front", "tail"],
                coat: Coat.BareSteel,
                held: Held.Clamped,
                hazard: Hazard.Welding
            );
            return oneSide ? ["g-side", "sillR", "skins"] : ["sillL", "sillR", "skins"];
        }

        private void FitUp(string[] metal)
        {
            d.Work(
                "fitup",
                Stage.Epoxy,
                "Dry build: hang, gap, flush",
                Trade.Metal,
                22,
                MetalStation,
                after: metal,
                panels: ["steel"],
                held: Held.Screwed
            );
            d.Set("fitup", t => t with { With = [new(Trade.Hand, 1)] });
            d.Gate(
                "g-fitup",
                Stage.Epoxy,
                choices.Gaps == GapSchool.AfterUniformCoat ? "Dry build complete" : "Fit-up signed",
                GateKind.FitUp,
                "fitup"
            );
            d.Work(
                "weldout",
                Stage.Metal,
                "Weld out, dress",
                Trade.Metal,
                24,
                MetalStation,
                after: ["g-fitup"],
                panels: ["welded"],
                held: Held.WeldedOut,
                hazard: Hazard.Welding
            );
            if (OnJig)
            {
                d.Set("support", t => t with { Hold = new(StationKind.Jig, d.Id("weldout")) });
            }
        }

        /// <returns>What paint follows.</returns>
        private string Mechanics()
        {
            d.Work(
                "offjig",
                Stage.Metal,
                choices.Hold == SupportState.Wheels ? "Chocks away" : "On the paint cart",
                Trade.Metal,
                2,
                MetalStation,
                after: ["weldout"],
                hazard: Hazard.Lifting
            );
            d.Set("offjig", t =>
                t with
                {
                    Sets = choices.Hold == SupportState.Wheels ? SupportState.Wheels : SupportState.Cart,
                    With = [new(Trade.Hand, 1)],
                }
            );
            d.Work(
                "mockup",
                Stage.Driveline,
                "Mock up engine, gearbox, brackets",
                Trade.Mechanic,
                18,
                StationKind.Lift,
                after: ["g-fitup"],
                hazard: Hazard.Lifting
            );
            if (choices.Wiring == WiringSchool.OnBareMetal)
            {
                d.Work(
                    "loomrough",
                    Stage.Driveline,
                    "Wiring roughed in on bare metal",
                    Trade.Electric,
                    10,
                    StationKind.Bay,
                    after: ["mockup"]
                );
            }

            d.Gate(
                "g-prov",
                Stage.Epoxy,
                "Provisions complete",
                GateKind.Provisions,
                choices.Wiring == WiringSchool.OnBareMetal ? ["loomrough", "offjig"] : ["mockup", "offjig"]
            );
            d.Outside("engine", Stage.Driveline, "Engine rebuilt outside", 42, after: ["mechout"]);
            d.Outside("chrome", Stage.Trim, "Bright work plated outside", 35, after: ["trimout"]);
            if (!driveFirst)
            {
                return "g-prov";
            }

            d.Work(
                "rough",
                Stage.Driveline,
                "Driveline and brakes in, bare",
                Trade.Mechanic,
                40,
                StationKind.Lift,
                after: ["g-prov", "engine"]
            );
            d.Set("rough", t => t with { Sets = SupportState.Wheels });
            d.Gate("g-bare", Stage.Assembly, "First drive, bare", GateKind.FirstDrive, "rough");
            d.Work(
                "shake",
                Stage.Assembly,
                "Drive, find leaks and rattles",
                Trade.Mechanic,
                16,
                after: ["g-bare"],
                hazard: Hazard.FirstDrive
            );
            d.Work(
                "apart",
                Stage.Assembly,
                "Apart again for paint",
                Trade.Mechanic,
                18,
                StationKind.Lift,
                after: ["shake"]
            );
            d.Set("apart", t => t with { Sets = SupportState.Cart, With = [new(Trade.Hand, 1)] });
            return "apart";
        }

        /// <returns>What the gate of the uniform coat follows.</returns>
        private List<string> EpoxyThenFiller(string after)
        {
            Epoxy(after);
            var blocked = new List<string>();
            foreach (var (key, name, panels) in Sides)
            {
                Fill(key, name, panels, "epoxycure");
                blocked.Add(HighBuild(key, name, panels, $"fill-{key}"));
            }

            return blocked;
        }

        private List<string> FillerThenEpoxy(string after)
        {
            foreach (var (key, name, panels) in Sides)
            {
                Fill(key, name, panels, after);
            }

            Epoxy([.. Sides.Select(s => $"fill-{s.Key}")]);
            return [.. Sides.Select(s => HighBuild(s.Key, s.Name, s.Panels, "epoxycure"))];
        }

        private void Interior(int hours, params string[] after)
        {
            if (choices.Trim == TrimSchool.InHouse)
            {
                d.Work("interior", Stage.Trim, "Carpet, seats, trim", Trade.Trim, hours, StationKind.Bay, after: after);
                return;
            }

            d.Gate("g-trim", Stage.Trim, "Interior accepted by the upholsterer", GateKind.Surface, after);
            d.Visit(
                "interior",
                Stage.Trim,
                "Carpet, seats, trim, by an upholsterer here",
                hours,
                StationKind.Bay,
                after: ["g-trim"]
            );
        }

        private static readonly (string Key, string Name, string Panels)[] Sides =
        [
            ("c", "Centre", "centre"),
            ("l", "Left side", "left"),
            ("r", "Right side", "right"),
        ];

        private void Epoxy(params string[] after)
        {
            d.Work(
                "epoxy",
                Stage.Epoxy,
                "Epoxy inside and out",
                Trade.Paint,
                14,
                StationKind.Booth,
                after: after,
                panels: ["steel"],
                coat: Coat.Epoxy,
                whole: true,
                hazard: Hazard.TwoPack
            );
            if (after.Contains("blast"))
            {
                d.Window("epoxy", "blast", BareHours, "Clean bare metal again", 2, Trade.Strip);
            }

            d.Cure("epoxycure", Stage.Epoxy, "Epoxy cures", 24, "epoxy");
        }

        private void Fill(string key, string name, string panels, string after) =>
            d.Work(
                $"fill-{key}",
                Stage.Fill,
                $"{name}: filler, rough shape",
                Trade.Body,
                16,
                StationKind.Prep,
                after: [after],
                panels: [panels],
                coat: Coat.Filler,
                hazard: Hazard.Dust
            );

        private string HighBuild(string key, string name, string panels, string after)
        {
            d.Work(
                $"high-{key}",
                Stage.Fill,
                $"{name}: high-build",
                Trade.Paint,
                4,
                StationKind.Booth,
                after: [after],
                panels: [panels],
                coat: Coat.HighBuild,
                hazard: Hazard.TwoPack
            );
            d.Work(
                $"block-{key}",
                Stage.Fill,
                $"{name}: guide coat, block",
                Trade.Body,
                16,
                StationKind.Prep,
                after: [$"high-{key}"],
                lag: 12,
                panels: [panels],
                coat: Coat.Blocked,
                hazard: Hazard.Dust
            );
            return $"block-{key}";
        }

        private void Paint(List<string> blocked)
        {
            d.Gate(
                "g-uniform",
                Stage.Fill,
                choices.Gaps == GapSchool.BeforeFinish
                    ? "Surface looked over"
                    : "Uniform coat looked over, gaps judged",
                GateKind.UniformCoat,
                [.. blocked]
            );
            d.Work(
                "mask",
                Stage.Colour,
                "Blow out, tack off, mask",
                Trade.Hand,
                6,
                StationKind.Prep,
                after: ["g-uniform"]
            );
            d.Work(
                "sealer",
                Stage.Colour,
                "Sealer",
                Trade.Paint,
                8,
                StationKind.Booth,
                after: ["mask"],
                panels: ["steel"],
                coat: Coat.Sealer,
                whole: true,
                hazard: Hazard.TwoPack
            );
            d.Work(
                "base",
                Stage.Colour,
                "Base coat: jambs, insides, outside",
                Trade.Paint,
                26,
                StationKind.Booth,
                after: ["sealer"],
                panels: ["steel"],
                coat: Coat.Base,
                hazard: Hazard.TwoPack
            );
            d.Work(
                "clear",
                Stage.Colour,
                "Clear coat",
                Trade.Paint,
                14,
                StationKind.Booth,
                after: ["base"],
                panels: ["steel"],
                coat: Coat.Clear,
                hazard: Hazard.TwoPack
            );
            // Nobody else's dust between sealer and clear.
            d.Set("sealer", t => t with { Hold = new(StationKind.Booth, d.Id("clear")) });
            d.Cure("clearcure", Stage.Colour, "Clear cures", 72, "clear");
            d.Gate("g-film", Stage.Polish, "Film and cure checked", GateKind.FilmAndCure, "clearcure");
            d.Work(
                "flat",
                Stage.Polish,
                "Flat and polish",
                Trade.Paint,
                36,
                StationKind.Prep,
                after: ["g-film"],
                panels: ["steel"],
                coat: Coat.Polished
            );
        }

        private void Assembly()
        {
            var roughed = choices.Wiring == WiringSchool.OnBareMetal;
            d.Work(
                "deaden",
                Stage.Driveline,
                roughed ? "Sound deadening, looms drawn back in" : "Sound deadening, looms",
                Trade.Electric,
                roughed ? 26 : 34,
                StationKind.Bay,
                after: ["clearcure"]
            );
            d.Work(
                "brakes",
                Stage.Driveline,
                "Brake and fuel lines, suspension",
                Trade.Mechanic,
                32,
                StationKind.Lift,
                after: ["deaden"]
            );
            d.Set("brakes", t => t with { Sets = SupportState.Wheels });
            d.Work(
                "engin",
                Stage.Driveline,
                "Engine and gearbox in",
                Trade.Mechanic,
                20,
                StationKind.Lift,
                after: ["brakes", "engine"],
                hazard: Hazard.Lifting
            );
            d.Set("engin", t => t with { With = [new(Trade.Hand, 1)] });
            d.Work(
                "hang",
                Stage.Assembly,
                "Hang doors and lids",
                Trade.Metal,
                18,
                StationKind.Bay,
                after: ["flat"],
                panels: ["hung"],
                held: Held.Bolted
            );
            d.Set("hang", t => t with { With = [new(Trade.Hand, 1)] });
            d.Work("glass", Stage.Trim, "Glass and seals", Trade.Trim, 20, StationKind.Bay, after: ["hang"]);
            d.Set("glass", t => t with { With = [new(Trade.Hand, 1)] });
            d.Work(
                "bright",
                Stage.Trim,
                "Bright work, badges",
                Trade.Trim,
                12,
                StationKind.Bay,
                after: ["hang", "chrome"]
            );
            Interior(36, "glass", "deaden");
            d.Work(
                "start",
                Stage.Assembly,
                "First start, set up",
                Trade.Mechanic,
                14,
                StationKind.Lift,
                after: ["engin", "bright"],
                hazard: Hazard.Fuel
            );
            d.Gate(
                "g-drive",
                Stage.Assembly,
                "Brakes, steering, wheels: first drive",
                GateKind.FirstDrive,
                "start",
                "interior"
            );
            d.Work(
                "road",
                Stage.Assembly,
                "Road test, snags",
                Trade.Mechanic,
                20,
                after: ["g-drive"],
                hazard: Hazard.FirstDrive
            );
            d.Work("photos", Stage.Assembly, "Last photos, owner's file", Trade.Hand, 6, after: ["road"]);
            d.Gate("g-hand", Stage.Assembly, "Handover", GateKind.Handover, "photos");
        }
    }

    private sealed class Draft(Guid buildId, Body body, decimal scale, Func<Guid> newId)
    {
        private const int HoursADay = 8;
        private readonly Dictionary<string, Operation> _byKey = [];

        public IReadOnlyList<Operation> Operations => _byKey.Values.ToList();

        public void Work(
            string key,
            Stage stage,
            string name,
            Trade trade,
            int hours,
            StationKind? station = null,
            string[]? after = null,
            int lag = 0,
            string[]? panels = null,
            Coat? coat = null,
            Held? held = null,
            Hazard? hazard = null,
            bool whole = false
        )
        {
            var minutes = (int)(Math.Round(hours * scale * 4, MidpointRounding.AwayFromZero) * 15);
            Add(
                key,
                new()
                {
                    Id = newId(),
                    BuildId = buildId,
                    Name = name,
                    Stage = stage,
                    Trade = trade,
                    BudgetMinutes = Math.Max(15, minutes),
                    Station = station,
                    After = Links(after ?? [], lag * 60),
                    Panels = (panels ?? []).SelectMany(Panels).Distinct().ToList(),
                    Coat = coat,
                    Held = held,
                    Hazard = hazard,
                    WithoutStop = whole && minutes <= 7 * 60,
                    Terms = new()
                    {
                        Kinds = name.Contains("dress", StringComparison.Ordinal) ? [WorkKind.Grinding] : [],
                        Body = OperationTerms.UsualBody(station),
                    },
                }
            );
        }

        public Guid Id(string key) => _byKey[key].Id;

        /// <summary>Changes the terms of an operation.</summary>
        public void Set(string key, Func<OperationTerms, OperationTerms> change) =>
            _byKey[key].Terms = change(_byKey[key].Terms);

        /// <summary>Must start within so many hours of the end of another, or more is to be done first.</summary>
        public void Window(string key, string after, int hours, string again, int againHours, Trade trade)
        {
            var (o, id) = (_byKey[key], Id(after));
            o.After =
            [
                .. o.After.Select(a =>
                    a.Operation == id
                        ? a with
                        {
                            AtMostMinutes = hours * 60,
                            Lapse = new(again, againHours * 60, trade),
                        }
                        : a
                ),
            ];
        }

        public void Gate(string key, Stage stage, string name, GateKind gate, params string[] after) =>
            Add(
                key,
                new()
                {
                    Id = newId(),
                    BuildId = buildId,
                    Name = name,
                    Stage = stage,
                    Kind = OperationKind.Gate,
                    Gate = gate,
                    After = Links(after, 0),
                }
            );

        public void Cure(string key, Stage stage, string name, int hours, params string[] after) =>
            Add(
                key,
                new()
                {
                    Id = newId(),
                    BuildId = buildId,
                    Name = name,
                    Stage = stage,
                    Kind = OperationKind.Cure,
                    ClockMinutes = hours * 60,
                    After = Links(after, 0),
                }
            );

        public void Outside(string key, Stage stage, string name, int days, string[] after) =>
            Add(
                key,
                new()
                {
                    Id = newId(),
                    BuildId = buildId,
                    Name = name,
                    Stage = stage,
                    Kind = OperationKind.Outside,
                    ClockMinutes = days * 1440,
                    After = Links(after, 0),
                }
            );

        /// <summary>Work that somebody from outside does here, on their own days, in a station of ours.</summary>
        public void Visit(string key, Stage stage, string name, int hours, StationKind station, string[] after)
        {
            Outside(key, stage, name, (int)Math.Max(1, Math.Ceiling(hours * scale / HoursADay)), after);
            _byKey[key].Station = station;
            Set(key, t => t with { Body = BodyUse.OnBody });
        }

        private void Add(string key, Operation operation)
        {
            operation.Position = _byKey.Count + 1;
            operation.TemplateKey = key;
            _byKey.Add(key, operation);
        }

        private List<OperationLink> Links(string[] keys, int lagMinutes) =>
            keys.Select(k => new OperationLink(_byKey[k].Id, lagMinutes)).ToList();

        private IEnumerable<string> Panels(string which)
        {
            bool Wood(BodyPanel p) =>
                body.Style == BodyStyleKey.OpenBody
                && (
                    p.Key.StartsWith("bay", StringComparison.Ordinal)
                    || p.Key.StartsWith("post", StringComparison.Ordinal)
                    || p.Key.StartsWith("pillar", StringComparison.Ordinal)
                    || p.Key.StartsWith("bow", StringComparison.Ordinal)
                    || p.Key.Contains("rail", StringComparison.Ordinal)
                    || p.Key.StartsWith("cant", StringComparison.Ordinal)
                    || p.Key == "tail"
                );
            var steel = body.Panels.Where(p => !Wood(p));
            IEnumerable<BodyPanel> chosen = which switch
            {
                "all" or "steel" => steel,
                "centre" => steel.Where(p => p.Side == PanelSide.Centre),
                "left" => steel.Where(p => p.Side == PanelSide.Left),
                "right" => steel.Where(p => p.Side == PanelSide.Right),
                "hung" => body.Panels.Where(p => BodyPanel.Hangs(p.Key)),
                "welded" => steel.Where(p => !BodyPanel.Hangs(p.Key)),
                "front" => steel.Where(p =>
                    p.Key is "nose" or "wingL" or "wingR" or "cowlL" or "cowlR" or "bonnet" or "bsideL" or "bsideR"
                ),
                "rails" => body.Panels.Where(p =>
                    p.Key.Contains("rail", StringComparison.Ordinal)
                    || p.Key.StartsWith("cant", StringComparison.Ordinal)
                ),
                "posts" => body.Panels.Where(p =>
                    Wood(p)
                    && (
                        p.Key.StartsWith("po", StringComparison.Ordinal)
                        || p.Key.StartsWith("pi", StringComparison.Ordinal)
                        || p.Key.StartsWith("bow", StringComparison.Ordinal)
                    )
                ),
                "slats" => body.Panels.Where(p => p.Key.StartsWith("bay", StringComparison.Ordinal) || p.Key == "tail"),
                _ => body.Panels.Where(p => p.Key == which),
            };
            return chosen.Select(p => p.Key);
        }
    }
}
