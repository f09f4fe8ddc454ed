using FirstCoat.Core.Bodies;
using FirstCoat.Core.Kernel;
using FirstCoat.Core.Sequence;
using SkiaSharp;

namespace FirstCoat.Server.Demo;

/// <summary>Draws the demo's workshop photos: a close-up of what was done, with the camera's time in it.</summary>
internal static class DemoPhotos
{
    private const int W = 1200,
        H = 800;

    /// <summary>A JPEG with capture data.</summary>
    public static byte[] Draw(
        Operation operation,
        DemoCast.CastBuild build,
        LocalDateTime taken,
        int seed,
        float scale
    ) => Draw(taken, seed, scale, (canvas, chance) => Scene(canvas, chance, operation, SKColor.Parse(build.Hex)));

    /// <summary>Metal found rusted through, with a chalk ring round it.</summary>
    public static byte[] DrawRust(LocalDateTime taken, int seed, float scale) => Draw(taken, seed, scale, Rust);

    private static byte[] Draw(LocalDateTime taken, int seed, float scale, Action<SKCanvas, Random> scene)
    {
        var chance = new Random(seed);
        using var surface = SKSurface.Create(new SKImageInfo((int)(W * scale), (int)(H * scale)));
        surface.Canvas.Scale(scale);
        surface.Canvas.Clear(new(0x3A, 0x40, 0x43));
        Backdrop(surface.Canvas, chance);
        scene(surface.Canvas, chance);
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Jpeg, 84);
        return CaptureTime.Into(data.ToArray(), taken);
    }

    private static void Scene(SKCanvas canvas, Random chance, Operation operation, SKColor paint)
    {
        switch (operation.Coat)
        {
            case Coat.BareSteel or Coat.Blasted:
                Panel(canvas, chance, new(0x9A, 0xA2, 0xA6), grain: true);
                Weld(canvas, chance);
                break;
            case Coat.Etch:
                Panel(canvas, chance, new(0xA3, 0xA9, 0x63));
                break;
            case Coat.Epoxy:
                Panel(canvas, chance, new(0x56, 0x5D, 0x60));
                break;
            case Coat.Filler:
                Panel(canvas, chance, new(0x8C, 0x96, 0x9B), grain: true);
                Filler(canvas, chance);
                break;
            case Coat.HighBuild or Coat.Sealer:
                Panel(canvas, chance, new(0xD0, 0xC9, 0xAE));
                break;
            case Coat.Blocked:
                Panel(canvas, chance, new(0xC9, 0xC0, 0xA4));
                Guide(canvas, chance);
                Block(canvas);
                break;
            case Coat.Base or Coat.Clear or Coat.Polished:
                Panel(canvas, chance, paint, gloss: true);
                break;
            case Coat.NewAsh:
                Wood(canvas, chance);
                break;
            case null when operation.Stage == Stage.Driveline:
                Engine(canvas, chance);
                break;
            case null when operation.Stage == Stage.Teardown:
                Tray(canvas, chance);
                break;
            default:
                Panel(canvas, chance, new(0x8C, 0x96, 0x9B), grain: true);
                Weld(canvas, chance);
                break;
        }
    }

    private static void Backdrop(SKCanvas c, Random r)
    {
        using var p = new SKPaint { IsAntialias = true };
        using var floor = SKShader.CreateLinearGradient(
            new(0, 0),
            new(0, H),
            [new(0x6E, 0x75, 0x77), new(0x3C, 0x42, 0x45)],
            SKShaderTileMode.Clamp
        );
        p.Shader = floor;
        c.DrawRect(0, 0, W, H, p);
        p.Shader = null;
        for (var i = 0; i < 6; i++)
        {
            p.Color = new SKColor(255, 255, 255, 14);
            c.DrawRect(r.Next(W), 0, 40 + r.Next(90), 260, p);
        }
    }

    private static SKPath Shape(Random r)
    {
        var path = new SKPath();
        var (x, y) = (90 + r.Next(60), 170 + r.Next(60));
        path.MoveTo(x, H);
        path.CubicTo(x - 30, 480, x + 60, y, 420, y - 40);
        path.CubicTo(640, y - 80, 960, y - 40, 1110, y + 60);
        path.CubicTo(1190, 420, 1160, 640, 1170, H);
        path.Close();
        return path;
    }

    private static void Panel(SKCanvas c, Random r, SKColor colour, bool grain = false, bool gloss = false)
    {
        using var path = Shape(r);
        using var p = new SKPaint { IsAntialias = true };
        colour.ToHsl(out var hue, out var s, out var l);
        using var light = SKShader.CreateLinearGradient(
            new(200, 100),
            new(900, H),
            [SKColor.FromHsl(hue, s, Math.Min(96, l + 14)), colour, SKColor.FromHsl(hue, s, Math.Max(4, l - 16))],
            [0, .45f, 1],
            SKShaderTileMode.Clamp
        );
        p.Shader = light;
        c.DrawPath(path, p);
        c.Save();
        c.ClipPath(path, antialias: true);
        p.Shader = null;
        for (var i = 0; grain && i < 900; i++)
        {
            p.Color = r.Next(2) == 0 ? new(255, 255, 255, 26) : new(40, 48, 52, 26);
            var (x, y) = (r.Next(W), r.Next(H));
            c.DrawLine(x, y, x + 60 + r.Next(120), y + r.Next(-3, 4), p);
        }

        if (gloss)
        {
            using var band = new SKPath();
            band.MoveTo(60, 430);
            band.CubicTo(380, 250, 820, 300, 1200, 250);
            band.LineTo(1200, 330);
            band.CubicTo(820, 380, 400, 340, 60, 540);
            band.Close();
            p.Color = new(255, 255, 255, 90);
            c.DrawPath(band, p);
        }

        c.Restore();
        p.Style = SKPaintStyle.Stroke;
        p.StrokeWidth = 5;
        p.Color = new(20, 24, 26, 150);
        c.DrawPath(path, p);
        p.StrokeWidth = 3;
        p.Color = new(255, 255, 255, 70);
        using var crease = new SKPath();
        crease.MoveTo(120, 520);
        crease.CubicTo(420, 430, 820, 460, 1160, 420);
        c.DrawPath(crease, p);
    }

    private static void Weld(SKCanvas c, Random r)
    {
        using var p = new SKPaint { IsAntialias = true };
        for (var x = 360; x < 860; x += 13)
        {
            var y = 610 + (x - 360) * .05f + r.Next(-2, 3);
            p.Color = new(60, 66, 92, 130);
            c.DrawOval(x, y, 15, 13, p);
            p.Color = new(188, 192, 190);
            c.DrawOval(x, y, 8, 6, p);
        }
    }

    private static void Filler(SKCanvas c, Random r)
    {
        using var p = new SKPaint { IsAntialias = true, Color = new(0xC2, 0x9C, 0x78) };
        using var path = new SKPath();
        path.MoveTo(420, 330);
        path.CubicTo(640, 250, 900, 300, 930, 430);
        path.CubicTo(900, 560, 620, 600, 450, 540);
        path.CubicTo(360, 480, 360, 390, 420, 330);
        c.DrawPath(path, p);
        p.Color = new(0xA9, 0x83, 0x5E, 150);
        p.StrokeWidth = 3;
        for (var i = 0; i < 40; i++)
        {
            var (x, y) = (440 + r.Next(440), 330 + r.Next(210));
            c.DrawLine(x, y, x + 50, y + 12, p);
        }
    }

    private static void Guide(SKCanvas c, Random r)
    {
        using var p = new SKPaint { IsAntialias = true };
        for (var i = 0; i < 2600; i++)
        {
            p.Color = new(38, 43, 46, (byte)r.Next(60, 190));
            var x = (float)(200 + 900 * r.NextDouble());
            var y = (float)(260 + 480 * Math.Pow(r.NextDouble(), .8));
            c.DrawCircle(x, y, .8f + 2.2f * (float)r.NextDouble(), p);
        }
    }

    private static void Block(SKCanvas c)
    {
        using var p = new SKPaint { IsAntialias = true };
        c.Save();
        c.Translate(620, 470);
        c.RotateDegrees(-24);
        p.Color = new(0xC0, 0x8A, 0x4E);
        c.DrawRoundRect(-190, 26, 380, 22, 4, 4, p);
        p.Color = new(0x26, 0x2B, 0x2E);
        c.DrawRoundRect(-190, -44, 380, 72, 10, 10, p);
        p.Color = new(0x55, 0x5C, 0x60);
        c.DrawRoundRect(-160, -30, 320, 12, 6, 6, p);
        c.Restore();
    }

    private static void Wood(SKCanvas c, Random r)
    {
        using var p = new SKPaint { IsAntialias = true };
        foreach (
            var (x, y, w, h) in new[]
            {
                (120, 560, 980, 92),
                (180, 160, 84, 420),
                (560, 140, 84, 440),
                (930, 170, 84, 410),
                (140, 150, 930, 70),
            }
        )
        {
            p.Color = new(0xDC, 0xC8, 0x9C);
            c.DrawRect(x, y, w, h, p);
            p.Color = new(0x8A, 0x6A, 0x3C, 60);
            for (var i = 0; i < 14; i++)
            {
                var (gx, gy) = (x + r.Next(w), y + r.Next(h));
                c.DrawRect(w > h ? x : gx, w > h ? gy : y, w > h ? w : 2, w > h ? 2 : h, p);
            }
        }
    }

    private static void Rust(SKCanvas c, Random r)
    {
        Panel(c, r, new(0xA6, 0xAC, 0xAA), grain: true);
        using var p = new SKPaint { IsAntialias = true };
        foreach (
            var (spread, colour) in new[]
            {
                (210f, new SKColor(0x8A, 0x62, 0x4C, 150)),
                (120f, new SKColor(0x6E, 0x42, 0x2E, 220)),
                (48f, new SKColor(0x20, 0x24, 0x26)),
            }
        )
        {
            using var path = new SKPath();
            for (var i = 0; i <= 14; i++)
            {
                var a = i * Math.PI / 7;
                var d = spread * (.75 + .5 * r.NextDouble());
                var (x, y) = ((float)(620 + d * 1.3 * Math.Cos(a)), (float)(480 + d * .8 * Math.Sin(a)));
                if (i == 0)
                {
                    path.MoveTo(x, y);
                }
                else
                {
                    path.LineTo(x, y);
                }
            }

            path.Close();
            p.Color = colour;
            c.DrawPath(path, p);
        }

        p.Style = SKPaintStyle.Stroke;
        p.StrokeWidth = 7;
        p.Color = new(0xF5, 0xF2, 0xE6, 220);
        c.DrawRoundRect(300, 260, 640, 420, 90, 80, p);
    }

    /// <summary>A block on its stand: head, cover, ports, belt pulleys.</summary>
    private static void Engine(SKCanvas c, Random r)
    {
        using var p = new SKPaint { IsAntialias = true };
        void Box(float x, float y, float w, float h, SKColor colour)
        {
            p.Color = colour;
            c.DrawRoundRect(x, y, w, h, 10, 10, p);
        }

        Box(250, 360, 640, 300, new(0x5E, 0x67, 0x69));
        Box(280, 660, 580, 90, new(0x30, 0x35, 0x38));
        Box(230, 270, 680, 96, new(0x8B, 0x93, 0x95));
        Box(290, 200, 560, 78, new((byte)(0x60 + r.Next(40)), 0x3C, 0x34));
        for (var i = 0; i < 4; i++)
        {
            p.Color = new(0x22, 0x27, 0x2A);
            c.DrawOval(345 + i * 150, 318, 40, 28, p);
            p.Color = new(0xC9, 0xCD, 0xCA);
            c.DrawCircle(300 + i * 180, 236, 9, p);
        }

        foreach (var (x, y, size) in new[] { (930f, 610f, 96f), (960f, 420f, 58f), (1050f, 520f, 44f) })
        {
            p.Color = new(0x22, 0x27, 0x2A);
            c.DrawCircle(x, y, size, p);
            p.Color = new(0x9A, 0xA2, 0xA4);
            c.DrawCircle(x, y, size * .82f, p);
            p.Color = new(0x3C, 0x43, 0x46);
            c.DrawCircle(x, y, size * .3f, p);
        }
    }

    /// <summary>What came off, laid out on the bench in order, each with its tag.</summary>
    private static void Tray(SKCanvas c, Random r)
    {
        using var p = new SKPaint { IsAntialias = true, Color = new(0xA8, 0x8F, 0x6A) };
        c.DrawRect(0, 240, W, H - 240, p);
        for (var row = 0; row < 3; row++)
        {
            for (var column = 0; column < 6; column++)
            {
                var (x, y) = (110f + column * 178, 320f + row * 160);
                p.Color = new(0xF0, 0xE9, 0xD6);
                c.DrawRect(x - 34, y + 44, 68, 34, p);
                p.Color = new(0x70, 0x72, 0x6E);
                for (var line = 0; line < 2; line++)
                {
                    c.DrawRect(x - 26, y + 52 + line * 11, 30 + r.Next(22), 4, p);
                }

                p.Color = r.Next(3) == 0 ? new(0x7A, 0x52, 0x3C) : new(0x7E, 0x88, 0x8C);
                switch (r.Next(3))
                {
                    case 0:
                        c.DrawRoundRect(x - 46, y - 14, 92, 26, 8, 8, p);
                        break;
                    case 1:
                        c.DrawCircle(x, y, 30, p);
                        p.Color = new(0x3A, 0x3E, 0x40);
                        c.DrawCircle(x, y, 12, p);
                        break;
                    default:
                        c.DrawRect(x - 40, y - 20, 26, 44, p);
                        c.DrawRect(x - 40, y + 8, 84, 16, p);
                        break;
                }
            }
        }
    }
}
