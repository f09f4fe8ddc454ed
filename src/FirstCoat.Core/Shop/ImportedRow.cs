using System.Globalization;
using FirstCoat.Core.Kernel;
using NodaTime;
using NodaTime.Text;

namespace FirstCoat.Core.Shop;

/// <summary>What a file can bring.</summary>
public enum ImportKind
{
    People,
    Suppliers,
    Clients,
    Parts,
}

/// <summary>One row of a file with a heading: fields by their column's name.</summary>
/// <param name="Line">In the file, the heading being 1.</param>
/// <param name="Fields">By column, lower case.</param>
public sealed record ImportedRow(int Line, IReadOnlyDictionary<string, string> Fields)
{
    private static readonly string[] Yes = ["yes", "y", "true", "1", "x"];
    private static readonly string[] No = ["", "no", "n", "false", "0"];

    /// <summary>Columns that a kind of file may have; the first is needed.</summary>
    public static IReadOnlyList<string> Columns(ImportKind kind) =>
        kind switch
        {
            ImportKind.People => ["name", "trades", "cost", "billing", "from"],
            ImportKind.Suppliers => ["name", "what", "freight days", "work days"],
            ImportKind.Clients => ["name", "email", "phone"],
            _ => ["name", "quantity", "unit cost", "unit price", "supplier", "client supplied"],
        };

    /// <summary>A field as it stands, or nothing.</summary>
    public string Text(string column) => Fields.GetValueOrDefault(column, "").Trim();

    /// <summary>An amount or a quantity: 62.50, 62,50 and 1 250,00 are read; null: the field is empty.</summary>
    /// <exception cref="Refusal">It is no number.</exception>
    public decimal? Number(string column)
    {
        var text = Text(column)
            .Replace(" ", "", StringComparison.Ordinal)
            .Replace("\u00a0", "", StringComparison.Ordinal)
            .Replace("'", "", StringComparison.Ordinal);
        if (text.Length == 0)
        {
            return null;
        }

        // The mark that stands last divides; the other one groups.
        var (dot, comma) = (text.LastIndexOf('.'), text.LastIndexOf(','));
        var plain =
            comma > dot
                ? text.Replace(".", "", StringComparison.Ordinal).Replace(',', '.')
                : text.Replace(",", "", StringComparison.Ordinal);
        Refusal.When(
            !decimal.TryParse(
                plain,
                NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out var number
            ),
            column,
            $"“{Text(column)}” is no number."
        );
        return number;
    }

    /// <summary>A date as in 2026-03-31; null: the field is empty.</summary>
    /// <exception cref="Refusal">It is no date.</exception>
    public LocalDate? Date(string column)
    {
        if (Text(column) is not { Length: > 0 } text)
        {
            return null;
        }

        var read = LocalDatePattern.Iso.Parse(text);
        Refusal.When(!read.Success, column, $"“{text}” is no date as in 2026-03-31.");
        return read.Value;
    }

    /// <summary>Yes or no; an empty field says no.</summary>
    /// <exception cref="Refusal">It is neither.</exception>
    public bool Flag(string column)
    {
        var text = Text(column).ToLowerInvariant();
        Refusal.When(!Yes.Contains(text) && !No.Contains(text), column, $"“{Text(column)}” is neither yes nor no.");
        return Yes.Contains(text);
    }

    /// <summary>Trades, with / or + or "and" between them.</summary>
    /// <exception cref="Refusal">One is not known.</exception>
    public List<Trade> Trades(string column) =>
        [
            .. Words(column)
                .Select(w =>
                    Enum.TryParse<Trade>(Spelled(w), ignoreCase: true, out var trade)
                    && Enum.IsDefined(trade)
                    && !char.IsDigit(w[0])
                        ? trade
                        : throw new Refusal(
                            column,
                            $"“{w}” is no trade here: {string.Join(", ", Enum.GetValues<Trade>().Select(t => t.Name()))}."
                        )
                )
                .Distinct(),
        ];

    /// <summary>Days of the week, such as Tue/Thu.</summary>
    /// <exception cref="Refusal">One is not known.</exception>
    public List<IsoDayOfWeek> Days(string column) =>
        [
            .. Words(column)
                .Select(w =>
                    Enum.GetValues<IsoDayOfWeek>()
                        .Where(d => d != IsoDayOfWeek.None)
                        .Cast<IsoDayOfWeek?>()
                        .FirstOrDefault(d =>
                            w.Length >= 2 && d.ToString()!.StartsWith(w, StringComparison.OrdinalIgnoreCase)
                        )
                    ?? throw new Refusal(column, $"“{w}” is no day of the week.")
                )
                .Distinct()
                .Order(),
        ];

    private IEnumerable<string> Words(string column) =>
        Text(column)
            .Replace(" and ", "/", StringComparison.OrdinalIgnoreCase)
            .Split(['/', '+', '|', '&'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    /// <summary>Names that shops have for the trades.</summary>
    private static string Spelled(string word) =>
        word.ToLowerInvariant() switch
        {
            "helper" or "labourer" => nameof(Trade.Hand),
            "painter" => nameof(Trade.Paint),
            "trimmer" or "upholstery" => nameof(Trade.Trim),
            "mechanical" => nameof(Trade.Mechanic),
            "electrical" or "electrician" => nameof(Trade.Electric),
            "metalwork" or "welder" => nameof(Trade.Metal),
            "carpenter" or "joiner" => nameof(Trade.Wood),
            "bodywork" => nameof(Trade.Body),
            "stripping" or "blasting" => nameof(Trade.Strip),
            _ => word,
        };
}
