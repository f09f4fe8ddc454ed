using FirstCoat.Core.Builds;
using FirstCoat.Core.Shop;
using FirstCoat.Core.Survey;

namespace FirstCoat.Core.Sequence;

/// <summary>A way to run a build, as choices of the shop.</summary>
public sealed record SequenceTemplate(string Key, string Name, string Says);

/// <summary>Makes the operations of a build from a template.</summary>
/// <remarks>Hours are rules of thumb for a full restoration; every one of them can be edited. No hour of flash or cure is
/// general knowledge: the product's sheet says it.</remarks>
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

    /// <summary>Operations of a build, linked, with new ids from <paramref name="newId"/>.</summary>
    /// <param name="scale">Multiplies all hours: 1 is a full restoration of a mid-sized car.</param>
    /// <exception cref="Refusal">The template is not known.</exception>
    public static IReadOnlyList<Operation> Make(string template, Guid buildId, Vehicle vehicle, FinishGrade grade, decimal scale, Func<Guid> newId)
    {
        Refusal.When(All.All(t => t.Key != template), "template", "That template is not known.");
        Refusal.When(scale is <= 0 or > 10, "scale", "The hours are multiplied by more than 0 and at most 10.");
        var draft = new Draft(buildId, Body.Unfold(vehicle.Style, vehicle.Dimensions), scale * GradeFactor(grade), newId);
        switch (template)
        {
            case DriveFirst: Restoration(draft, vehicle.Construction, driveFirst: true); break;
            case PaintThenAssemble: Restoration(draft, vehicle.Construction, driveFirst: false); break;
            default: Small(draft); break;
        }

        return draft.Operations;
    }

    private static decimal GradeFactor(FinishGrade grade) => grade switch { FinishGrade.Driver => 0.8m, FinishGrade.Concours => 1.25m, _ => 1 };

    private static void Small(Draft d)
    {
        d.Work("look", Stage.Assembly, "Look over, road test", Trade.Mechanic, 2, StationKind.Lift);
        d.Work("tune", Stage.Driveline, "Carburettors and timing", Trade.Mechanic, 5, StationKind.Lift, after: ["look"]);
        d.Work("trimfix", Stage.Trim, "Re-stitch the driver's seat", Trade.Trim, 4, after: ["look"]);
        d.Work("nib", Stage.Polish, "Polish out the bonnet", Trade.Paint, 3, StationKind.Prep, panels: ["bonnet"], coat: Coat.Polished, after: ["look"]);
        d.Work("out", Stage.Assembly, "Wash, hand back", Trade.Hand, 1, after: ["tune", "trimfix", "nib"]);
    }

    private static void Restoration(Draft d, Construction construction, bool driveFirst)
    {
        d.Work("record", Stage.Teardown, "Arrival round, record, photos", Trade.Strip, 8, StationKind.Bay);
        d.Work("trimout", Stage.Teardown, "Interior, glass and trim out", Trade.Strip, 14, StationKind.Bay, after: ["record"], hazard: Hazard.Asbestos);
        d.Work("mechout", Stage.Teardown, "Engine, gearbox, axles out", Trade.Mechanic, 16, StationKind.Lift, after: ["record"], hazard: Hazard.Fuel);
        d.Work("panelsoff", Stage.Teardown, "Doors, lids and bolted panels off", Trade.Strip, 8, StationKind.Bay, after: ["trimout"], panels: ["hung"], held: Held.Away, hazard: Hazard.Lifting);
        d.Work("undo", Stage.Strip, "Cut out earlier repairs", Trade.Metal, 12, StationKind.Bay, after: ["panelsoff"], hazard: Hazard.AirTools);
        d.Work("strip", Stage.Strip, "Strip old paint, underseal", Trade.Strip, 14, StationKind.Bay, after: ["panelsoff", "mechout"], panels: ["all"], coat: Coat.BareSteel);
        d.Work("blast", Stage.Strip, "Blast shell and panels", Trade.Strip, 12, StationKind.Blast, after: ["undo", "strip"], panels: ["all"], coat: Coat.Blasted, hazard: Hazard.Blasting);
        d.Work("etch", Stage.Epoxy, "Temporary primer", Trade.Paint, 6, StationKind.Prep, after: ["blast"], panels: ["all"], coat: Coat.Etch, hazard: Hazard.TwoPack);
        d.Work("support", Stage.Metal, "On the jig, level, brace", Trade.Metal, 10, StationKind.Jig, after: ["etch"], hazard: Hazard.Support);
        d.Work("datum", Stage.Metal, "Datum sheet", Trade.Metal, 6, StationKind.Jig, after: ["support"]);
        d.Gate("g-support", Stage.Metal, "Support of the shell before cutting", GateKind.ShellSupport, "support");
        d.Gate("g-datum", Stage.Metal, "Datum recorded", GateKind.Datum, "datum", "g-support");
        if (construction == Construction.WoodFramed)
        {
            d.Work("frame", Stage.Metal, "New ash: sole, belt and cant rails", Trade.Wood, 60, StationKind.Bench, after: ["g-datum"], panels: ["rails"], coat: Coat.NewAsh);
            d.Work("framing", Stage.Metal, "New ash: posts, pillars, bows", Trade.Wood, 48, StationKind.Bench, after: ["frame"], panels: ["posts"], coat: Coat.NewAsh);
            d.Work("slats", Stage.Metal, "Slats and tailboard", Trade.Wood, 30, StationKind.Bench, after: ["framing"], panels: ["slats"], coat: Coat.NewAsh);
            d.Work("skins", Stage.Metal, "Wings, cowl and bonnet", Trade.Metal, 34, StationKind.Bench, after: ["g-datum"], panels: ["front"], coat: Coat.BareSteel, held: Held.Clamped, hazard: Hazard.Welding);
        }
        else
        {
            d.Work("floor", Stage.Metal, "Floor and inner structure", Trade.Metal, 46, StationKind.Jig, after: ["g-datum"], hazard: Hazard.Welding);
            d.Work("sillL", Stage.Metal, "Left side: sill, post feet, quarter", Trade.Metal, 38, StationKind.Jig, after: ["floor"], panels: ["sillL", "quarterL", "sideL", "cornerL", "postL"], coat: Coat.BareSteel, held: Held.Tacked, hazard: Hazard.Welding);
            d.Work("sillR", Stage.Metal, "Right side: sill, post feet, quarter", Trade.Metal, 34, StationKind.Jig, after: ["sillL"], panels: ["sillR", "quarterR", "sideR", "cornerR", "postR"], coat: Coat.BareSteel, held: Held.Tacked, hazard: Hazard.Welding);
            d.Work("skins", Stage.Metal, "Wings, nose and tail", Trade.Metal, 30, StationKind.Bench, after: ["floor"], panels: ["front", "tail"], coat: Coat.BareSteel, held: Held.Clamped, hazard: Hazard.Welding);
        }

        var metalEnds = construction == Construction.WoodFramed ? new[] { "slats", "skins" } : ["sillR", "skins"];
        d.Work("fitup", Stage.Epoxy, "Dry build: hang, gap, flush", Trade.Metal, 22, StationKind.Jig, after: metalEnds, panels: ["steel"], held: Held.Screwed);
        d.Gate("g-fitup", Stage.Epoxy, "Fit-up signed", GateKind.FitUp, "fitup");
        d.Work("weldout", Stage.Metal, "Weld out, dress", Trade.Metal, 24, StationKind.Jig, after: ["g-fitup"], panels: ["welded"], held: Held.WeldedOut, hazard: Hazard.Welding);
        d.Work("mockup", Stage.Driveline, "Mock up engine, gearbox, brackets", Trade.Mechanic, 18, StationKind.Lift, after: ["g-fitup"], hazard: Hazard.Lifting);
        d.Gate("g-prov", Stage.Epoxy, "Provisions complete", GateKind.Provisions, "mockup", "weldout");
        d.Outside("engine", Stage.Driveline, "Engine rebuilt outside", 42, after: ["mechout"]);
        d.Outside("chrome", Stage.Trim, "Bright work plated outside", 35, after: ["trimout"]);
        var toPaint = "g-prov";
        if (driveFirst)
        {
            d.Work("rough", Stage.Driveline, "Driveline and brakes in, bare", Trade.Mechanic, 40, StationKind.Lift, after: ["g-prov", "engine"]);
            d.Gate("g-bare", Stage.Assembly, "First drive, bare", GateKind.FirstDrive, "rough");
            d.Work("shake", Stage.Assembly, "Drive, find leaks and rattles", Trade.Mechanic, 16, after: ["g-bare"], hazard: Hazard.FirstDrive);
            d.Work("apart", Stage.Assembly, "Apart again for paint", Trade.Mechanic, 18, StationKind.Lift, after: ["shake"]);
            toPaint = "apart";
        }

        d.Work("epoxy", Stage.Epoxy, "Epoxy inside and out", Trade.Paint, 14, StationKind.Booth, after: [toPaint], panels: ["steel"], coat: Coat.Epoxy, whole: true, hazard: Hazard.TwoPack);
        d.Cure("epoxycure", Stage.Epoxy, "Epoxy cures", 24, "epoxy");
        foreach (var (key, name, panels) in new[] { ("c", "Centre", "centre"), ("l", "Left side", "left"), ("r", "Right side", "right") })
        {
            d.Work($"fill-{key}", Stage.Fill, $"{name}: filler, rough shape", Trade.Body, 16, StationKind.Prep, after: ["epoxycure"], panels: [panels], coat: Coat.Filler, hazard: Hazard.Dust);
            d.Work($"high-{key}", Stage.Fill, $"{name}: high-build", Trade.Paint, 4, StationKind.Booth, after: [$"fill-{key}"], panels: [panels], coat: Coat.HighBuild, hazard: Hazard.TwoPack);
            d.Work($"block-{key}", Stage.Fill, $"{name}: guide coat, block", Trade.Body, 16, StationKind.Prep, after: [$"high-{key}"], lag: 12, panels: [panels], coat: Coat.Blocked, hazard: Hazard.Dust);
        }

        d.Gate("g-uniform", Stage.Fill, "Uniform coat looked over", GateKind.UniformCoat, "block-c", "block-l", "block-r");
        d.Work("sealer", Stage.Colour, "Sealer", Trade.Paint, 8, StationKind.Booth, after: ["g-uniform"], panels: ["steel"], coat: Coat.Sealer, whole: true, hazard: Hazard.TwoPack);
        d.Work("base", Stage.Colour, "Base coat: jambs, insides, outside", Trade.Paint, 26, StationKind.Booth, after: ["sealer"], panels: ["steel"], coat: Coat.Base, hazard: Hazard.TwoPack);
        d.Work("clear", Stage.Colour, "Clear coat", Trade.Paint, 14, StationKind.Booth, after: ["base"], panels: ["steel"], coat: Coat.Clear, hazard: Hazard.TwoPack);
        d.Cure("clearcure", Stage.Colour, "Clear cures", 72, "clear");
        d.Gate("g-film", Stage.Polish, "Film and cure checked", GateKind.FilmAndCure, "clearcure");
        d.Work("flat", Stage.Polish, "Flat and polish", Trade.Paint, 36, StationKind.Prep, after: ["g-film"], panels: ["steel"], coat: Coat.Polished);
        d.Work("deaden", Stage.Driveline, "Sound deadening, looms", Trade.Electric, 34, StationKind.Bay, after: ["clearcure"]);
        d.Work("brakes", Stage.Driveline, "Brake and fuel lines, suspension", Trade.Mechanic, 32, StationKind.Lift, after: ["deaden"]);
        d.Work("engin", Stage.Driveline, "Engine and gearbox in", Trade.Mechanic, 20, StationKind.Lift, after: ["brakes", "engine"], hazard: Hazard.Lifting);
        d.Work("hang", Stage.Assembly, "Hang doors and lids", Trade.Metal, 18, StationKind.Bay, after: ["flat"], panels: ["hung"], held: Held.Bolted);
        d.Work("glass", Stage.Trim, "Glass and seals", Trade.Trim, 20, StationKind.Bay, after: ["hang"]);
        d.Work("bright", Stage.Trim, "Bright work, badges", Trade.Trim, 12, StationKind.Bay, after: ["hang", "chrome"]);
        d.Work("interior", Stage.Trim, "Carpet, seats, trim", Trade.Trim, 36, StationKind.Bay, after: ["glass", "deaden"]);
        d.Work("start", Stage.Assembly, "First start, set up", Trade.Mechanic, 14, StationKind.Lift, after: ["engin", "bright"], hazard: Hazard.Fuel);
        d.Gate("g-drive", Stage.Assembly, "Brakes, steering, wheels: first drive", GateKind.FirstDrive, "start", "interior");
        d.Work("road", Stage.Assembly, "Road test, snags", Trade.Mechanic, 20, after: ["g-drive"], hazard: Hazard.FirstDrive);
        d.Work("photos", Stage.Assembly, "Last photos, owner's file", Trade.Hand, 6, after: ["road"]);
        d.Gate("g-hand", Stage.Assembly, "Handover", GateKind.Handover, "photos");
    }

    private sealed class Draft(Guid buildId, Body body, decimal scale, Func<Guid> newId)
    {
        private static readonly string[] HungKeys = ["bonnet", "boot", "doorL", "doorR", "door2L", "door2R", "tailgate", "rdoorL", "rdoorR"];
        private readonly Dictionary<string, Operation> _byKey = [];

        public IReadOnlyList<Operation> Operations => _byKey.Values.ToList();

        public void Work(string key, Stage stage, string name, Trade trade, int hours, StationKind? station = null, string[]? after = null, int lag = 0, string[]? panels = null, Coat? coat = null, Held? held = null, Hazard? hazard = null, bool whole = false)
        {
            var minutes = (int)(Math.Round(hours * scale * 4, MidpointRounding.AwayFromZero) * 15);
            Add(key, new()
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
            });
        }

        public void Gate(string key, Stage stage, string name, GateKind gate, params string[] after) =>
            Add(key, new() { Id = newId(), BuildId = buildId, Name = name, Stage = stage, Kind = OperationKind.Gate, Gate = gate, After = Links(after, 0) });

        public void Cure(string key, Stage stage, string name, int hours, params string[] after) =>
            Add(key, new() { Id = newId(), BuildId = buildId, Name = name, Stage = stage, Kind = OperationKind.Cure, ClockMinutes = hours * 60, After = Links(after, 0) });

        public void Outside(string key, Stage stage, string name, int days, string[] after) =>
            Add(key, new() { Id = newId(), BuildId = buildId, Name = name, Stage = stage, Kind = OperationKind.Outside, ClockMinutes = days * 1440, After = Links(after, 0) });

        private void Add(string key, Operation operation)
        {
            operation.Position = _byKey.Count + 1;
            _byKey.Add(key, operation);
        }

        private List<OperationLink> Links(string[] keys, int lagMinutes) => keys.Select(k => new OperationLink(_byKey[k].Id, lagMinutes)).ToList();

        private IEnumerable<string> Panels(string which)
        {
            bool Wood(BodyPanel p) => body.Style == BodyStyleKey.OpenBody && (p.Key.StartsWith("bay", StringComparison.Ordinal) || p.Key.StartsWith("post", StringComparison.Ordinal) || p.Key.StartsWith("pillar", StringComparison.Ordinal) || p.Key.StartsWith("bow", StringComparison.Ordinal) || p.Key.Contains("rail", StringComparison.Ordinal) || p.Key.StartsWith("cant", StringComparison.Ordinal) || p.Key == "tail");
            var steel = body.Panels.Where(p => !Wood(p));
            IEnumerable<BodyPanel> chosen = which switch
            {
                "all" or "steel" => steel,
                "centre" => steel.Where(p => p.Side == PanelSide.Centre),
                "left" => steel.Where(p => p.Side == PanelSide.Left),
                "right" => steel.Where(p => p.Side == PanelSide.Right),
                "hung" => body.Panels.Where(p => HungKeys.Contains(p.Key)),
                "welded" => steel.Where(p => !HungKeys.Contains(p.Key)),
                "front" => steel.Where(p => p.Key is "nose" or "wingL" or "wingR" or "cowlL" or "cowlR" or "bonnet" or "bsideL" or "bsideR"),
                "rails" => body.Panels.Where(p => p.Key.Contains("rail", StringComparison.Ordinal) || p.Key.StartsWith("cant", StringComparison.Ordinal)),
                "posts" => body.Panels.Where(p => Wood(p) && (p.Key.StartsWith("po", StringComparison.Ordinal) || p.Key.StartsWith("pi", StringComparison.Ordinal) || p.Key.StartsWith("bow", StringComparison.Ordinal))),
                "slats" => body.Panels.Where(p => p.Key.StartsWith("bay", StringComparison.Ordinal) || p.Key == "tail"),
                _ => body.Panels.Where(p => p.Key == which),
            };
            return chosen.Select(p => p.Key);
        }
    }
}
