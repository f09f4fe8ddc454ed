namespace FirstCoat.Core.Bench;

/// <summary>Lays few pieces in every way that matters, sheet after sheet: each next piece at a corner of the stairs
/// that those before it make.</summary>
/// <remarks>Source: S. Martello, D. Pisinger, D. Vigo, Operations Research 48 (2000) 256: in the plane any layout can
/// be put down in such an order, each piece pushed into such a corner.</remarks>
internal sealed class NestProof
{
    /// <summary>Pieces put down before it gives up; nothing is said of fewer sheets then.</summary>
    private const int MostSteps = 400_000;

    private readonly NestSize _sheet;
    private readonly NestItem[] _all;
    private readonly int _sheets;
    private readonly NestPlace[] _at;
    private readonly bool[] _laid;
    private readonly HashSet<string> _seen = [];
    private int _steps;

    private NestProof(NestSize sheet, NestItem[] all, int sheets)
    {
        (_sheet, _all, _sheets) = (sheet, [.. all], sheets);
        (_at, _laid) = (new NestPlace[all.Length], new bool[all.Length]);
    }

    /// <summary>The fewest sheets, and whether that is certain.</summary>
    public static (NestLayout Best, bool IsFewest) Fewest(NestSize sheet, NestItem[] all, int bound, NestLayout best)
    {
        for (var sheets = bound; sheets < best.Sheets; sheets++)
        {
            var proof = new NestProof(sheet, all, sheets);
            if (proof.Fill(0, [], all.Sum(i => i.Size.Area)))
            {
                return (new(sheets, proof._at), true);
            }

            if (proof._steps >= MostSteps)
            {
                return (best, false);
            }
        }

        return (best, true);
    }

    /// <summary>A far corner of the stairs.</summary>
    private readonly record struct Stair(long X, long Y);

    /// <param name="stairs">Of this sheet: x ascending, y descending.</param>
    /// <param name="left">Area of the pieces that are not laid yet.</param>
    private bool Fill(int sheet, Stair[] stairs, long left)
    {
        if (left == 0)
        {
            return true;
        }

        var under = stairs.Select((s, i) => (s.X - (i == 0 ? 0 : stairs[i - 1].X)) * s.Y).Sum();
        if (left > _sheet.Area - under + (_sheets - sheet - 1) * _sheet.Area || !_seen.Add(State(sheet)))
        {
            return false;
        }

        var more = false;
        var tried = new HashSet<(NestSize, bool)>();
        for (var i = 0; i < _all.Length; i++)
        {
            // Pieces that are alike are one choice.
            if (_laid[i] || !tried.Add((_all[i].Size, _all[i].MayTurn)))
            {
                continue;
            }

            foreach (var (size, turned) in _all[i].Ways)
            {
                for (var corner = 0; corner <= stairs.Length; corner++)
                {
                    var x = corner == 0 ? 0 : stairs[corner - 1].X;
                    var y = corner == stairs.Length ? 0 : stairs[corner].Y;
                    if (x + size.W > _sheet.W || y + size.H > _sheet.H)
                    {
                        continue;
                    }

                    more = true;
                    if (++_steps >= MostSteps)
                    {
                        return false;
                    }

                    (_laid[i], _at[i]) = (true, new(sheet, x, y, turned));
                    if (Fill(sheet, With(stairs, new(x + size.W, y + size.H)), left - _all[i].Size.Area))
                    {
                        return true;
                    }

                    _laid[i] = false;
                }
            }
        }

        // A sheet that takes one more is not left.
        return !more && sheet + 1 < _sheets && Fill(sheet + 1, [], left);
    }

    private static Stair[] With(Stair[] stairs, Stair far) =>
        [.. stairs.Where(s => s.X < far.X && s.Y > far.Y), far, .. stairs.Where(s => s.X > far.X && s.Y < far.Y)];

    /// <summary>What lies where, alike pieces for each other.</summary>
    private string State(int sheet) =>
        $"{sheet}:"
        + string.Join(
            ' ',
            _all.Select((item, i) => (item, i))
                .Where(p => _laid[p.i])
                .Select(p =>
                {
                    var at = _at[p.i];
                    var size = at.Turned ? p.item.Size.Turned : p.item.Size;
                    return at.Sheet == sheet
                        ? $"{at.X},{at.Y},{size.W},{size.H}"
                        : $"{p.item.Size.W}x{p.item.Size.H}{p.item.MayTurn}";
                })
                .Order(StringComparer.Ordinal)
        );
}
