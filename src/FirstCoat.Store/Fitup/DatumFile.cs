using System.Globalization;
using FirstCoat.Core;
using FirstCoat.Core.Fitup;
using FirstCoat.Store.Readings;

namespace FirstCoat.Store.Fitup;

/// <summary>Points in a file of comma separated values: "point, x, y, z", and for a sheet "name" and
/// "protected".</summary>
internal static class DatumFile
{
    private const int MostRows = 200;

    private static readonly string[] Needed = ["point", "x", "y", "z"];

    /// <summary>One row of the file.</summary>
    /// <param name="Line">Of the file, counted from 1.</param>
    /// <param name="Point">As it is written there.</param>
    public sealed record Row(int Line, string Point, TypedPoint At, string Name, bool IsProtected);

    /// <exception cref="Refusal">The line that cannot be read and why; nothing of the file is taken then.</exception>
    public static List<Row> Read(string text, LengthUnit unit)
    {
        using var csv = CsvText.Read(text);
        Refusal.When(!csv.Read() || !csv.ReadHeader(), "text", "The file is empty.");
        var header = csv.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToList();
        var missing = Needed.Where(n => !header.Contains(n)).ToList();
        Refusal.When(
            missing.Count > 0,
            "text",
            $"Line 1 names the columns: point, x, y, z. There is no {string.Join(", ", missing)}."
        );
        var rows = new List<Row>();
        while (csv.Read())
        {
            var line = csv.Parser.RawRow;
            string Field(string name) =>
                header.IndexOf(name) is var i && i >= 0 && csv.TryGetField<string>(i, out var v) ? v ?? "" : "";
            if (csv.Parser.Record!.All(string.IsNullOrWhiteSpace))
            {
                continue;
            }

            decimal Number(string name)
            {
                var typed = Field(name);
                Refusal.When(typed.Length == 0, "text", $"Line {line}: {name} is empty.");
                var isNumber = decimal.TryParse(
                    typed.Replace(',', '.'),
                    NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var value
                );
                Refusal.When(!isNumber, "text", $"Line {line}: {name} is “{typed}”, which is no number.");
                return value;
            }

            var (letter, side) = DatumPoint.Parts(Field("point"));
            var at = new TypedPoint(Number("x"), Number("y"), Number("z"), unit);
            var point = new DatumPoint(letter, side, Field("name"), at).Key;
            Refusal.When(letter.Length == 0, "text", $"Line {line}: the point has no name.");
            var before = rows.Find(r => r.Point == point);
            Refusal.When(before is not null, "text", $"Line {line}: {point} is in line {before?.Line} already.");
            try
            {
                at.Check(point);
            }
            catch (Refusal refusal)
            {
                throw new Refusal("text", $"Line {line}: {refusal.Message}");
            }

            rows.Add(
                new(
                    line,
                    point,
                    at,
                    Field("name"),
                    Field("protected").ToLowerInvariant() is "yes" or "y" or "1" or "true"
                )
            );
            Refusal.When(rows.Count > MostRows, "text", $"At most {MostRows} points at once.");
        }

        Refusal.When(rows.Count == 0, "text", "There is no point under the heading.");
        return rows;
    }
}
