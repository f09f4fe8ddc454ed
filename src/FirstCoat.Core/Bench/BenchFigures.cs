using System.Globalization;
using System.Text.Json;
using FirstCoat.Core.Fitup;

namespace FirstCoat.Core.Bench;

/// <summary>The figures of one bench sum as somebody typed them, by name: text, numbers, yes and no, and rows of
/// them. Lengths are in the unit that is named beside them; sums get millimetres.</summary>
public sealed class BenchFigures
{
    private const int MostRows = 300;

    private readonly JsonElement _json;
    private readonly string _prefix;

    private BenchFigures(JsonElement json, LengthUnit unit, string prefix) =>
        (_json, Unit, _prefix) = (json, unit, prefix);

    /// <summary>Millimetres, or inches.</summary>
    public LengthUnit Unit { get; }

    /// <exception cref="Refusal">No figures, or another unit.</exception>
    public static BenchFigures Read(JsonElement json)
    {
        Refusal.When(json.ValueKind != JsonValueKind.Object, "figures", "The figures come by their names.");
        var unit = json.TryGetProperty("unit", out var u) && u.ValueKind == JsonValueKind.String ? u.GetString() : "mm";
        Refusal.When(unit is not ("mm" or "inch"), "unit", "Lengths are in millimetres or inches.");
        return new(json, unit == "inch" ? LengthUnit.Inch : LengthUnit.Mm, "");
    }

    /// <summary>What is typed; empty: nothing is.</summary>
    public string Text(string field) =>
        _json.TryGetProperty(field, out var v)
            ? v.ValueKind switch
            {
                JsonValueKind.String => v.GetString()!.Trim(),
                JsonValueKind.Number => v.GetRawText(),
                _ => "",
            }
            : "";

    public bool Has(string field) => Text(field) != "";

    public bool Flag(string field) => _json.TryGetProperty(field, out var v) && v.ValueKind == JsonValueKind.True;

    /// <param name="what">Its name in words: "the width".</param>
    /// <exception cref="Refusal">Nothing, or no number.</exception>
    public double Number(string field, string what)
    {
        var text = Text(field);
        Refusal.When(text == "", _prefix + field, $"Give {what}.");
        var ok = double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number);
        Refusal.When(!ok || !double.IsFinite(number), _prefix + field, $"Write {what} as a number.");
        return number;
    }

    public double? NumberOrNull(string field, string what) => Has(field) ? Number(field, what) : null;

    /// <summary>A length, in millimetres.</summary>
    public double Length(string field, string what) =>
        Number(field, what) * (Unit == LengthUnit.Inch ? Tyre.MmPerInch : 1);

    public double? LengthOrNull(string field, string what) => Has(field) ? Length(field, what) : null;

    public int Whole(string field, string what)
    {
        var number = Number(field, what);
        Refusal.When(number % 1 != 0 || Math.Abs(number) > 1e6, _prefix + field, $"Write {what} as a whole number.");
        return (int)number;
    }

    /// <summary>An amount of money, exactly.</summary>
    public decimal Amount(string field, string what)
    {
        Refusal.When(!Has(field), _prefix + field, $"Give {what}.");
        var ok = decimal.TryParse(
            Text(field),
            NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var amount
        );
        Refusal.When(
            !ok || Math.Abs(amount) > 1_000_000_000m,
            _prefix + field,
            $"Write {what} as an amount, as in 95.00."
        );
        return amount;
    }

    /// <summary>Rows of a table; a row in which nothing is typed is none. A refusal in one names the cell:
    /// <c>pieces.2.width</c>.</summary>
    public IReadOnlyList<T> Rows<T>(string field, Func<BenchFigures, T> read)
    {
        if (!_json.TryGetProperty(field, out var list) || list.ValueKind != JsonValueKind.Array)
        {
            return [];
        }

        Refusal.When(list.GetArrayLength() > MostRows, field, $"At most {MostRows} rows.");
        return
        [
            .. list.EnumerateArray()
                .Select((row, i) => new BenchFigures(row, Unit, $"{field}.{i}."))
                .Where(r => r._json.ValueKind == JsonValueKind.Object && r.IsTyped())
                .Select(read),
        ];
    }

    /// <summary>Refuses a figure; in a row it names the cell.</summary>
    /// <exception cref="Refusal">It cannot be.</exception>
    public void RefuseWhen(bool wrong, string field, string why) => Refusal.When(wrong, _prefix + field, why);

    /// <summary>A length that is more than nothing.</summary>
    public double Extent(string field, string what)
    {
        var mm = Length(field, what);
        RefuseWhen(mm <= 0, field, $"{char.ToUpperInvariant(what[0])}{what[1..]} is more than nothing.");
        return mm;
    }

    /// <summary>A length in the unit, to the tenth of a millimetre or the thousandth of an inch.</summary>
    public string Show(double mm) => Unit == LengthUnit.Inch ? Fixed(mm / Tyre.MmPerInch, "0.000") : Fixed(mm, "0.0");

    /// <summary>With its unit.</summary>
    public string Say(double mm) => $"{Show(mm)} {UnitName}";

    /// <summary>A length as it would be typed.</summary>
    public string Typed(double mm) => Plain(Unit == LengthUnit.Inch ? mm / Tyre.MmPerInch : mm);

    public string UnitName => Unit == LengthUnit.Inch ? "in" : "mm";

    /// <summary>A number without needless zeros.</summary>
    public static string Plain(double number) => Fixed(number, "0.####");

    /// <summary>A number in a form, with a true minus and never a minus before nothing.</summary>
    public static string Fixed(double number, string form)
    {
        var text = Math.Abs(number).ToString(form, CultureInfo.InvariantCulture);
        return number < 0 && text.Any(c => c is >= '1' and <= '9') ? $"\u2212{text}" : text;
    }

    private bool IsTyped() =>
        _json
            .EnumerateObject()
            .Any(p =>
                p.Value.ValueKind is JsonValueKind.Number
                || (p.Value.ValueKind is JsonValueKind.String && p.Value.GetString()!.Trim() != "")
            );
}
