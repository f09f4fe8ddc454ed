using FirstCoat.Core.Bodies;
using FirstCoat.Core.Builds;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;

namespace FirstCoat.Server.Demo;

/// <summary>The invented people, places and vehicles of the demo shop. Nothing that the shop would compute stands
/// here.</summary>
internal static class DemoCast
{
    public const string Password = "kettle-quay-demo";

    public sealed record CastPerson(string User, string Name, Trade[] Trades, decimal Cost, decimal Billing);

    public sealed record CastStation(
        string Name,
        StationKind Kind,
        double X,
        double Y,
        double W,
        double D,
        int Count = 1,
        int? Door = null,
        bool Walled = false
    );

    /// <param name="Days">Weekdays on which they work; none: Monday to Friday.</param>
    public sealed record CastSupplier(string Name, string What, params List<IsoDayOfWeek> Days);

    /// <param name="WeeksAgo">When it was opened.</param>
    /// <param name="Pace">How far its owner's money and the shop's promise let it come by now, as a share of the
    /// work.</param>
    public sealed record CastBuild(
        int Number,
        string Make,
        string Model,
        int Year,
        BodyStyleKey Style,
        Construction Construction,
        string Colour,
        string Hex,
        string Client,
        string Phone,
        string Template,
        decimal Scale,
        FinishGrade Grade,
        int WeeksAgo,
        decimal Pace,
        int PromisedInWeeks,
        string? Station,
        EstimateTotals Estimate,
        decimal Deposit,
        bool FillIn = false,
        ContractKind Contract = ContractKind.TimeAndMaterials
    );

    public static readonly CastPerson[] People =
    [
        new("sunniva", "Sunniva Roake", [], 34, 66),
        new("wil", "Wil Aske", [Trade.Body, Trade.Paint], 25.50m, 58),
        new("bram", "Bram Holt", [Trade.Metal], 27, 62),
        new("joss", "Joss Ferrier", [Trade.Metal, Trade.Strip], 22, 54),
        new("nessa", "Nessa Kilbride", [Trade.Strip, Trade.Body, Trade.Hand], 19.80m, 48),
        new("davit", "Davit Marr", [Trade.Mechanic, Trade.Electric], 26, 60),
        new("teodor", "Teodor Vance", [Trade.Paint], 28, 64),
        new("odile", "Odile Brack", [Trade.Trim, Trade.Wood], 24, 56),
    ];

    public static readonly CastStation[] Stations =
    [
        new("Booth", StationKind.Booth, 0, 0, 7.3, 4.7, Door: 2400, Walled: true),
        new("Mix", StationKind.Mix, 7.3, 0, 2, 4.7, Walled: true),
        new("Blast room", StationKind.Blast, 9.3, 0, 5.5, 4.7, Door: 2600, Walled: true),
        new("Stores", StationKind.Stores, 14.8, 0, 4.8, 4.7, Walled: true),
        new("Office", StationKind.Office, 19.6, 0, 5.4, 4.7, Walled: true),
        new("Prep 1", StationKind.Prep, 0, 6.3, 6.7, 4.45),
        new("Prep 2", StationKind.Prep, 6.7, 6.3, 6.35, 4.45),
        new("Jig", StationKind.Jig, 13.05, 6.3, 7.35, 4.45),
        new("Metal bench", StationKind.Bench, 20.4, 6.3, 4.6, 4.45, Count: 3),
        new("Bay A", StationKind.Bay, 0, 10.75, 6.7, 4.45, Door: 3000),
        new("Bay B", StationKind.Bay, 6.7, 10.75, 6.35, 4.45, Door: 3000),
        new("Lift", StationKind.Lift, 13.05, 10.75, 7.35, 4.45, Door: 3000),
        new("Engine room", StationKind.Engine, 20.4, 10.75, 4.6, 4.45, Count: 4, Walled: true),
        new("Yard", StationKind.Yard, 0, 15.6, 25, 4.6, Count: 12),
    ];

    public static readonly CastSupplier[] Suppliers =
    [
        new("Wexcombe Machining", "engines, machining"),
        new("Corran Plating", "plating, bright work"),
        new("Strand Trimmers", "seats, hoods", IsoDayOfWeek.Tuesday, IsoDayOfWeek.Thursday),
        new("Pell Glass", "glass, seals"),
        new("Marram Finishers", "paint"),
        new("Harbour Steel", "sheet, panels, fixings"),
    ];

    public static readonly CastBuild[] Builds =
    [
        new(
            41,
            "Whimbrel",
            "Courser",
            1966,
            BodyStyleKey.Coupe,
            Construction.Unitary,
            "Tidewater",
            "#1B6670",
            "Ottilie Brandvold",
            "0555 410 166",
            Templates.PaintThenAssemble,
            1m,
            FinishGrade.Show,
            25,
            .56m,
            9,
            "Prep 1",
            new(45704, 11860, 8240, 4300),
            18000
        ),
        new(
            38,
            "Tern",
            "van",
            1958,
            BodyStyleKey.Van,
            Construction.Unitary,
            "Creamery",
            "#D3A53A",
            "Hallow Dairy",
            "0555 388 120",
            Templates.PaintThenAssemble,
            .72m,
            FinishGrade.Driver,
            26,
            .86m,
            4,
            "Lift",
            new(22400, 6200, 5100, 2100),
            16000
        ),
        new(
            39,
            "Fulmar",
            "Longbody",
            1971,
            BodyStyleKey.Estate,
            Construction.Unitary,
            "Night Ferry",
            "#27375E",
            "J. and P. Onslow",
            "0555 390 711",
            Templates.PaintThenAssemble,
            .66m,
            FinishGrade.Show,
            22,
            .64m,
            8,
            "Booth",
            new(28300, 7400, 4600, 3000),
            14000
        ),
        new(
            43,
            "Ouzel",
            "Six",
            1937,
            BodyStyleKey.Saloon,
            Construction.SeparateChassis,
            "Damson",
            "#5C2B4B",
            "Quill estate",
            "0555 430 937",
            Templates.PaintThenAssemble,
            1.2m,
            FinishGrade.Concours,
            17,
            .21m,
            40,
            "Jig",
            new(86400, 21500, 16200, 6900),
            12000
        ),
        new(
            44,
            "Petrel",
            "Two-Litre",
            1954,
            BodyStyleKey.Roadster,
            Construction.SeparateChassis,
            "Slate Haze",
            "#86A5B8",
            "Dr I. Maroun",
            "0555 440 254",
            Templates.DriveFirst,
            .95m,
            FinishGrade.Show,
            5,
            .06m,
            34,
            "Bay A",
            new(47900, 12300, 9800, 4100),
            6000
        ),
        new(
            46,
            "Skua",
            "charabanc",
            1926,
            BodyStyleKey.OpenBody,
            Construction.WoodFramed,
            "Sea Holly",
            "#62649C",
            "Vessay Coast Trips",
            "0555 460 190",
            Templates.PaintThenAssemble,
            .9m,
            FinishGrade.Show,
            15,
            .30m,
            30,
            "Bay B",
            new(44100, 7900, 8800, 3300),
            12000
        ),
        new(
            37,
            "Sanderling",
            "Two",
            1963,
            BodyStyleKey.Coupe,
            Construction.Unitary,
            "Red Dulse",
            "#7A2F3F",
            "Brigid Tallow",
            "0555 370 633",
            Templates.PaintThenAssemble,
            .7m,
            FinishGrade.Driver,
            24,
            .70m,
            10,
            "Bay B",
            new(27800, 6900, 9100, 1900),
            15000
        ),
        new(
            36,
            "Knot",
            "Tourer",
            1949,
            BodyStyleKey.Roadster,
            Construction.SeparateChassis,
            "Old Ivory",
            "#C9BE9A",
            "Corwin Ashe",
            "0555 360 494",
            Templates.SmallWork,
            1m,
            FinishGrade.Show,
            1,
            .35m,
            2,
            "Prep 2",
            new(860, 240, 0, 60),
            0
        ),
        new(
            45,
            "Dotterel",
            "pick-up",
            1962,
            BodyStyleKey.Pickup,
            Construction.SeparateChassis,
            "Moss",
            "#606E36",
            "Vessay Forestry",
            "0555 450 062",
            Templates.PaintThenAssemble,
            .7m,
            FinishGrade.Driver,
            8,
            .03m,
            50,
            "Yard",
            new(27200, 6400, 3900, 1700),
            0,
            FillIn: true
        ),
        new(
            42,
            "Avocet",
            "Saloon",
            1955,
            BodyStyleKey.Saloon,
            Construction.SeparateChassis,
            "Winter Wheat",
            "#B08D4F",
            "Maud Penhale",
            "0555 420 555",
            Templates.PaintThenAssemble,
            .8m,
            FinishGrade.Driver,
            23,
            .18m,
            44,
            "Yard",
            new(33600, 9200, 6400, 2600),
            5000,
            Contract: ContractKind.Capped
        ),
    ];

    /// <summary>How much longer than estimated each trade really takes here.</summary>
    public static double Bias(Trade trade) =>
        trade switch
        {
            Trade.Metal => 1.20,
            Trade.Body => 1.13,
            Trade.Strip => 1.12,
            Trade.Wood => 1.15,
            Trade.Paint => .95,
            Trade.Trim => .98,
            _ => 1.02,
        };

    /// <summary>Parts a build buys, with the operation that needs each.</summary>
    public static IEnumerable<(string Name, decimal Quantity, decimal Cost, string Supplier, string Operation)> Parts(
        BodyStyleKey style
    ) =>
        [
            ("Sheet, 1.2 mm, 1250 x 2500", 2, 96.40m, "Harbour Steel", "Left side"),
            ("Outer sill, left", 1, 138.00m, "Harbour Steel", "Left side"),
            ("Outer sill, right", 1, 138.00m, "Harbour Steel", "Right side"),
            ("Wing repair section", 2, 182.50m, "Harbour Steel", "Wings"),
            ("Seam sealer, case", 1, 74.20m, "Harbour Steel", "Epoxy inside"),
            ("Brake pipe kit", 1, 118.60m, "Harbour Steel", "Brake and fuel"),
            ("Wiring loom", 1, style == BodyStyleKey.Saloon ? 890m : 640m, "Harbour Steel", "Sound deadening"),
            ("Windscreen, laminated", 1, 412m, "Pell Glass", "Glass"),
            ("Door seals, set", 1, 164.30m, "Pell Glass", "Glass"),
            ("Carpet set", 1, 386m, "Strand Trimmers", "Carpet"),
        ];
}
