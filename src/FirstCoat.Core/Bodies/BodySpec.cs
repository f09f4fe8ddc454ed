namespace FirstCoat.Core.Bodies;

/// <summary>A line across the centre column: half its girth, its y in the middle and at the side, in
/// centimetres.</summary>
internal readonly record struct CrossLine(double HalfWidth, double Middle, double Side)
{
    /// <summary>Its right-hand end.</summary>
    public Pt End => new(HalfWidth, Side);

    public CrossLine Moved(double dx, double dy) => new(HalfWidth + dx, Middle + dy, Side + dy);
}

internal enum Tail
{
    Boot,
    Open,
    Tailgate,
    Pickup,
    Van,
    Bench,
}

/// <summary>A body style in about forty numbers; everything drawn follows from them. Centimetres.</summary>
internal sealed record BodySpec
{
    public required string Name { get; init; }

    /// <summary>What the panel before the bonnet is called.</summary>
    public string Nose { get; init; } = "Nose";

    public required IReadOnlyDictionary<string, CrossLine> Lines { get; init; }

    /// <summary>Waist of the side and its lower edge, across.</summary>
    public required double Belt { get; init; }

    public required double Out { get; init; }
    public double Sill { get; init; }

    /// <summary>How far the wheel centre lies below the lower edge of the side.</summary>
    public double Drop { get; init; } = 1;

    /// <summary>Width of a running board; 0: none.</summary>
    public double Board { get; init; }

    /// <summary>Wheel centres along, and the radii of their arches.</summary>
    public required (double Y, double R) Front { get; init; }

    public required (double Y, double R) Rear { get; init; }
    public bool SeparateWings { get; init; }
    public required Tail Tail { get; init; }

    /// <summary>A bolted rear wing of this width round its arch; 0: none.</summary>
    public double RearWing { get; init; }

    public IReadOnlyList<(double From, double To)> Doors { get; init; } = [];

    /// <summary>How far the last door line leans at its foot.</summary>
    public double DoorLean { get; init; } = 20;

    public double GlassEnd { get; init; }
    public IReadOnlyList<(double From, double To)> ExtraGlass { get; init; } = [];
    public double WingInner { get; init; }
    public bool OpenTop { get; init; }
    public double RoofBulge { get; init; } = 5;
    public IReadOnlyList<(double From, double To)> Bays { get; init; } = [];
    public int Slats { get; init; }
    public IReadOnlyList<double> Bows { get; init; } = [];
    public double Cant { get; init; }
    public bool Louvres { get; init; }

    /// <summary>What the style measures as it is described here, in millimetres.</summary>
    public BodyDimensions Stated =>
        new((int)Math.Round((TailEnd - NoseEnd) * 10), WidthMm, (int)Math.Round((Rear.Y - Front.Y) * 10));

    public required int WidthMm { get; init; }

    private double NoseEnd => Lines["n"].Middle;

    private double TailEnd => Lines[Tail == Tail.Pickup ? "e2" : "t"].Middle;

    /// <summary>The same style with other dimensions: overhangs, wheelbase and girth are stretched each for
    /// itself.</summary>
    public BodySpec Fit(BodyDimensions to)
    {
        var (own, front, rear) = (Stated, Front.Y, Rear.Y);
        var wide = (double)to.WidthMm / own.WidthMm;
        var middle = (double)to.WheelbaseMm / own.WheelbaseMm;
        var ends = (double)(to.LengthMm - to.WheelbaseMm) / (own.LengthMm - own.WheelbaseMm);
        var nose = NoseEnd;
        var newFront = nose + (front - nose) * ends;
        var newRear = newFront + (rear - front) * middle;
        double Y(double y) =>
            y < front ? nose + (y - nose) * ends
            : y < rear ? newFront + (y - front) * middle
            : newRear + (y - rear) * ends;
        var arch = Math.Min(1, Math.Min(middle, ends));
        return this with
        {
            Lines = Lines.ToDictionary(
                l => l.Key,
                l => new CrossLine(l.Value.HalfWidth * wide, Y(l.Value.Middle), Y(l.Value.Side))
            ),
            Belt = Belt * wide,
            Out = Out * wide,
            Front = (newFront, Front.R * arch),
            Rear = (newRear, Rear.R * arch),
            RearWing = RearWing * arch,
            Doors = Doors.Select(d => (Y(d.From), Y(d.To))).ToList(),
            GlassEnd = Y(GlassEnd),
            ExtraGlass = ExtraGlass.Select(d => (Y(d.From), Y(d.To))).ToList(),
            WingInner = WingInner * wide,
            Bays = Bays.Select(d => (Y(d.From), Y(d.To))).ToList(),
            Bows = Bows.Select(Y).ToList(),
            Cant = Cant * wide,
            WidthMm = to.WidthMm,
        };
    }

    private static Dictionary<string, CrossLine> L(
        params (string Key, double HalfWidth, double Middle, double Side)[] lines
    ) => lines.ToDictionary(l => l.Key, l => new CrossLine(l.HalfWidth, l.Middle, l.Side));

    /// <summary>All styles.</summary>
    public static readonly IReadOnlyDictionary<BodyStyleKey, BodySpec> Styles = new Dictionary<BodyStyleKey, BodySpec>
    {
        [BodyStyleKey.Coupe] = new()
        {
            Name = "Coupe",
            Lines = L(
                ("n", 69, -5, 21),
                ("b0", 71, 29, 43),
                ("b1", 73, 147.5, 159.5),
                ("s1", 75, 169.5, 183.5),
                ("r0", 57, 223, 233),
                ("r1", 57, 347, 336),
                ("d0", 66, 400.5, 389.5),
                ("d1", 64, 476, 465.5),
                ("t", 71, 511, 499.5)
            ),
            Belt = 106,
            Out = 157,
            Sill = 15,
            Front = (104, 40),
            Rear = (389, 40),
            Tail = Tail.Boot,
            Doors = [(188, 322)],
            GlassEnd = 297,
            Louvres = true,
            WidthMm = 1700,
        },
        [BodyStyleKey.Saloon] = new()
        {
            Name = "Saloon with running boards",
            Nose = "Grille",
            Lines = L(
                ("n", 45, 2, 15),
                ("b0", 45, 27, 34),
                ("b1", 60, 138, 147),
                ("s1", 66, 160, 171),
                ("r0", 54, 206, 214),
                ("r1", 54, 346, 335),
                ("d0", 57, 391, 380),
                ("d1", 53, 450, 440),
                ("t", 58, 477, 467)
            ),
            Belt = 103,
            Out = 147,
            Sill = 12,
            Drop = 14,
            Board = 15,
            Front = (84, 40),
            Rear = (373, 38),
            SeparateWings = true,
            Tail = Tail.Boot,
            RearWing = 24,
            Doors = [(177, 256), (256, 331)],
            DoorLean = 29,
            GlassEnd = 304,
            WingInner = 86,
            WidthMm = 1720,
        },
        [BodyStyleKey.ThreeBox] = new()
        {
            Name = "Saloon",
            Lines = L(
                ("n", 68, -4, 19),
                ("b0", 70, 26, 39),
                ("b1", 72, 126, 137),
                ("s1", 74, 147, 160),
                ("r0", 58, 196, 205),
                ("r1", 58, 312, 303),
                ("d0", 66, 352, 342),
                ("d1", 64, 414, 404),
                ("t", 70, 436, 426)
            ),
            Belt = 105,
            Out = 156,
            Sill = 14,
            Front = (90, 37),
            Rear = (350, 37),
            Tail = Tail.Boot,
            Doors = [(164, 226), (226, 284)],
            DoorLean = 20,
            GlassEnd = 262,
            WidthMm = 1700,
        },
        [BodyStyleKey.Hatch] = new()
        {
            Name = "Small hatch",
            Lines = L(
                ("n", 67, -4, 16),
                ("b0", 68.5, 18, 30),
                ("b1", 71, 112, 123),
                ("s1", 73, 131, 144),
                ("r0", 59, 179, 188),
                ("r1", 60, 318, 312),
                ("d0", 60, 318, 312),
                ("d1", 65, 374, 367),
                ("t", 69, 393, 387)
            ),
            Belt = 106,
            Out = 157,
            Sill = 13,
            Front = (69, 32),
            Rear = (297, 32),
            Tail = Tail.Tailgate,
            Doors = [(150, 206), (206, 254)],
            DoorLean = 17,
            ExtraGlass = [(254, 318)],
            GlassEnd = 300,
            RoofBulge = 4,
            WidthMm = 1690,
        },
        [BodyStyleKey.Wagon] = new()
        {
            Name = "Two-box 4x4 wagon",
            Nose = "Grille",
            Lines = L(
                ("n", 66, -2, 12),
                ("b0", 67, 22, 31),
                ("b1", 70, 130, 138),
                ("s1", 72, 148, 157),
                ("r0", 62, 188, 194),
                ("r1", 63, 392, 388),
                ("d0", 63, 392, 388),
                ("d1", 68, 436, 432),
                ("t", 70, 448, 444)
            ),
            Belt = 114,
            Out = 168,
            Sill = 12,
            Front = (84, 40),
            Rear = (341, 40),
            Tail = Tail.Tailgate,
            Doors = [(162, 228), (228, 286)],
            DoorLean = 8,
            ExtraGlass = [(286, 392)],
            GlassEnd = 370,
            RoofBulge = 3,
            WidthMm = 1780,
        },
        [BodyStyleKey.Roadster] = new()
        {
            Name = "Roadster",
            Nose = "Grille",
            Lines = L(
                ("n", 52, -1, 18),
                ("b0", 51, 26, 37),
                ("b1", 60, 152, 162),
                ("s1", 64, 172, 184),
                ("k0", 60, 291, 283),
                ("d0", 60, 329, 320),
                ("d1", 55, 403, 393),
                ("t", 60, 434, 424)
            ),
            Belt = 97,
            Out = 145,
            Sill = 12,
            Drop = 11,
            Board = 13,
            Front = (90, 38),
            Rear = (331, 37),
            SeparateWings = true,
            Tail = Tail.Open,
            OpenTop = true,
            Doors = [(192, 272)],
            DoorLean = 8,
            WingInner = 83,
            WidthMm = 1540,
        },
        [BodyStyleKey.Estate] = new()
        {
            Name = "Estate",
            Lines = L(
                ("n", 70, -4, 20),
                ("b0", 71.5, 26, 39),
                ("b1", 73.5, 139, 150.5),
                ("s1", 75, 160, 173.5),
                ("r0", 58, 212, 221.5),
                ("r1", 60, 428, 421),
                ("d0", 60, 428, 421),
                ("d1", 66, 508, 499),
                ("t", 72, 537, 527)
            ),
            Belt = 106,
            Out = 157,
            Sill = 15,
            Front = (100, 40),
            Rear = (403, 40),
            Tail = Tail.Tailgate,
            Doors = [(179, 262), (262, 352)],
            DoorLean = 19,
            ExtraGlass = [(352, 428)],
            GlassEnd = 401,
            RoofBulge = 4,
            WidthMm = 1740,
        },
        [BodyStyleKey.Pickup] = new()
        {
            Name = "Pick-up",
            Lines = L(
                ("n", 70, -3, 20),
                ("b0", 71, 26, 39),
                ("b1", 73, 133, 144),
                ("s1", 75, 154, 167),
                ("r0", 56, 205, 214),
                ("r1", 56, 292, 284),
                ("k0", 65, 322, 314),
                ("k1", 66, 339, 336),
                ("e00", 70, 350, 350),
                ("e0", 70, 361, 361),
                ("e1", 70, 507, 507),
                ("e2", 66, 541, 541)
            ),
            Belt = 105,
            Out = 156,
            Sill = 15,
            Front = (98, 40),
            Rear = (425, 40),
            Tail = Tail.Pickup,
            Doors = [(173, 292)],
            DoorLean = 7,
            GlassEnd = 263,
            WidthMm = 1760,
        },
        [BodyStyleKey.Van] = new()
        {
            Name = "Van",
            Lines = L(
                ("n", 66, -3, 18),
                ("b0", 67, 22, 35),
                ("b1", 71, 92, 103),
                ("s1", 75, 110, 122),
                ("r0", 64, 164, 172),
                ("r1", 67, 443, 441),
                ("d1", 67, 541, 540),
                ("t", 68, 559, 557)
            ),
            Belt = 122,
            Out = 174,
            Sill = 14,
            Front = (80, 38),
            Rear = (386, 38),
            Tail = Tail.Van,
            Doors = [(128, 226)],
            DoorLean = 4,
            GlassEnd = 221,
            RoofBulge = 3,
            WidthMm = 1800,
        },
        [BodyStyleKey.OpenBody] = new()
        {
            Name = "Wood-framed open body",
            Nose = "Grille",
            Lines = L(
                ("n", 40, 2, 12),
                ("b0", 40, 22, 28),
                ("b1", 54, 108, 117),
                ("s1", 58, 126, 137),
                ("t0", 68, 474, 474),
                ("t", 66, 512, 512)
            ),
            Belt = 98,
            Out = 138,
            Drop = 46,
            Board = 13,
            Front = (66, 37),
            Rear = (384, 37),
            SeparateWings = true,
            Tail = Tail.Bench,
            OpenTop = true,
            WingInner = 92,
            Bays = [(146, 208), (208, 274), (274, 340), (340, 406), (406, 466)],
            Slats = 4,
            Bows = [186, 252, 318, 384, 450],
            Cant = 64,
            WidthMm = 1700,
        },
    };
}
