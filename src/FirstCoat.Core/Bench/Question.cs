using System.Globalization;
using System.Text.Json;
using FirstCoat.Core.Kernel;
using NodaTime;
using NodaTime.Text;

namespace FirstCoat.Core.Bench;

/// <summary>Reads the input of a bench calculation and names the field that does not fit.</summary>
internal readonly struct Question(JsonElement json, string name = "in")
{
    private static readonly LocalDatePattern DatePattern = LocalDatePattern.Iso;

    public string Name { get; } = name;

    public JsonElement Json { get; } = json;

    public bool Has(string field) =>
        Json.ValueKind == JsonValueKind.Object
        && Json.TryGetProperty(field, out var v)
        && v.ValueKind is not (JsonValueKind.Null or JsonValueKind.Undefined);

    public Question Object(string field)
    {
        Refusal.When(
            !Has(field) || Json.GetProperty(field).ValueKind != JsonValueKind.Object,
            field,
            $"The {field} is missing."
        );
        return new(Json.GetProperty(field), field);
    }

    public IReadOnlyList<Question> List(string field)
    {
        if (!Has(field))
        {
            return [];
        }

        var value = Json.GetProperty(field);
        Refusal.When(value.ValueKind != JsonValueKind.Array, field, $"The {field} must be a list.");
        return value.EnumerateArray().Select(e => new Question(e, field)).ToList();
    }

    public IReadOnlyList<(string Key, Question Value)> Members(string field) =>
        Has(field)
            ? Object(field).Json.EnumerateObject().Select(m => (m.Name, new Question(m.Value, m.Name))).ToList()
            : [];

    public string Text(string field)
    {
        Refusal.When(
            !Has(field) || Json.GetProperty(field).ValueKind != JsonValueKind.String,
            field,
            $"The {field} is missing or not a text."
        );
        return Json.GetProperty(field).GetString()!;
    }

    public string? TextOrNull(string field) => Has(field) ? Text(field) : null;

    public bool Flag(string field)
    {
        if (!Has(field))
        {
            return false;
        }

        var kind = Json.GetProperty(field).ValueKind;
        Refusal.When(kind is not (JsonValueKind.True or JsonValueKind.False), field, $"The {field} is true or false.");
        return kind == JsonValueKind.True;
    }

    /// <summary>Decimal text such as "95.00"; a JSON number is taken too.</summary>
    public decimal Decimal(string field, decimal? missing = null)
    {
        if (!Has(field) && missing is { } m)
        {
            return m;
        }

        Refusal.When(!Has(field), field, $"The {field} is missing.");
        return new Question(Json.GetProperty(field), field).AsDecimal();
    }

    public decimal? DecimalOrNull(string field) => Has(field) ? Decimal(field) : null;

    public decimal AsDecimal()
    {
        var text = Json.ValueKind switch
        {
            JsonValueKind.String => Json.GetString()!,
            JsonValueKind.Number => Json.GetRawText(),
            _ => "",
        };
        var ok = decimal.TryParse(
            text,
            NumberStyles.AllowLeadingSign
                | NumberStyles.AllowDecimalPoint
                | (Json.ValueKind == JsonValueKind.Number ? NumberStyles.AllowExponent : 0),
            CultureInfo.InvariantCulture,
            out var value
        );
        Refusal.When(
            !ok || Math.Abs(value) > 1_000_000_000_000m,
            Name,
            $"The {Name} must be a number, written as in \"95.00\"."
        );
        return value;
    }

    /// <summary>A finite number; decimal text is taken too.</summary>
    public double Number(string field)
    {
        Refusal.When(!Has(field), field, $"The {field} is missing.");
        return Part(field).AsNumber();
    }

    /// <summary>What stands in a field, whatever it is.</summary>
    public Question Part(string field)
    {
        Refusal.When(!Has(field), field, $"The {field} is missing.");
        return new(Json.GetProperty(field), field);
    }

    /// <summary>This itself, as a list of finite numbers.</summary>
    public IReadOnlyList<double> Numbers()
    {
        Refusal.When(Json.ValueKind != JsonValueKind.Array, Name, $"The {Name} must be a list of numbers.");
        var name = Name;
        return [.. Json.EnumerateArray().Select(e => new Question(e, name).AsNumber())];
    }

    private double AsNumber()
    {
        var number = double.NaN;
        var ok =
            Json.ValueKind == JsonValueKind.Number
                ? Json.TryGetDouble(out number)
                : Json.ValueKind == JsonValueKind.String
                    && double.TryParse(Json.GetString(), NumberStyles.Float, CultureInfo.InvariantCulture, out number);
        Refusal.When(!ok || !double.IsFinite(number), Name, $"The {Name} must be a finite number.");
        return number;
    }

    public int Whole(string field, int? missing = null)
    {
        if (!Has(field) && missing is { } m)
        {
            return m;
        }

        Refusal.When(!Has(field), field, $"The {field} is missing.");
        var value = Json.GetProperty(field);
        var number = 0d;
        var ok =
            value.ValueKind == JsonValueKind.Number
            && value.TryGetDouble(out number)
            && number % 1 == 0
            && Math.Abs(number) < int.MaxValue;
        Refusal.When(!ok, field, $"The {field} must be a whole number.");
        return (int)number;
    }

    public LocalDate Date(string field) => Read(DatePattern.Parse(Text(field)), field, "a date such as 2025-03-10");

    /// <summary>An instant with its offset, on a whole minute; the wall date comes with it.</summary>
    public OffsetDateTime Instant(string field)
    {
        var text = Text(field);
        var value = Read(
            OffsetDateTimePattern.ExtendedIso.Parse(WithSeconds(text, field)),
            field,
            "an instant with its offset, such as 2025-03-03T08:02+01:00"
        );
        Refusal.When(
            value.Second != 0 || value.NanosecondOfSecond != 0,
            field,
            $"The {field} must be on a whole minute."
        );
        return value;
    }

    public LocalDateTime Wall(string field)
    {
        var value = Read(
            LocalDateTimePattern.ExtendedIso.Parse(WithSeconds(Text(field), field)),
            field,
            "a wall time without offset, such as 2025-03-07T15:00"
        );
        Refusal.When(
            value.Second != 0 || value.NanosecondOfSecond != 0,
            field,
            $"The {field} must be on a whole minute."
        );
        return value;
    }

    public T Choice<T>(string field, IReadOnlyDictionary<string, T> choices)
    {
        var text = Text(field);
        Refusal.When(!choices.ContainsKey(text), field, $"The {field} is one of: {string.Join(", ", choices.Keys)}.");
        return choices[text];
    }

    private static T Read<T>(ParseResult<T> result, string field, string wanted)
    {
        Refusal.When(!result.Success, field, $"The {field} must be {wanted}.");
        return result.Value;
    }

    /// <summary>ISO text without seconds gets them, so that one pattern reads both.</summary>
    private static string WithSeconds(string text, string field)
    {
        Refusal.When(
            text.Length < 16 || text[10] != 'T',
            field,
            $"The {field} must be an instant such as 2025-03-03T08:02+01:00."
        );
        return text.Length > 16 && text[16] == ':' ? text : text[..16] + ":00" + text[16..];
    }
}

/// <summary>The bench's wall or zoned time line over the core's calendar.</summary>
internal sealed class BenchTime
{
    private readonly DateTimeZone? _zone;

    private BenchTime(WorkCalendar calendar, DateTimeZone? zone, Blocked absences) =>
        (Calendar, _zone, Absences) = (calendar, zone, absences);

    public WorkCalendar Calendar { get; }

    public Blocked Absences { get; }

    public static BenchTime Read(Question q)
    {
        var calendar = q.Object("calendar");
        var days = new Dictionary<string, IsoDayOfWeek>
        {
            ["mon"] = IsoDayOfWeek.Monday,
            ["tue"] = IsoDayOfWeek.Tuesday,
            ["wed"] = IsoDayOfWeek.Wednesday,
            ["thu"] = IsoDayOfWeek.Thursday,
            ["fri"] = IsoDayOfWeek.Friday,
            ["sat"] = IsoDayOfWeek.Saturday,
            ["sun"] = IsoDayOfWeek.Sunday,
        };
        var shifts = new List<(IsoDayOfWeek, int, int, IReadOnlyList<(int, int)>)>();
        foreach (var (day, list) in calendar.Members("week"))
        {
            Refusal.When(!days.ContainsKey(day), "week", "Days are mon, tue, wed, thu, fri, sat and sun.");
            foreach (var shift in calendar.Object("week").List(day))
            {
                var breaks = shift.List("breaks").Select(b => Pair(b, "breaks", (x, f) => Minute(x, f))).ToList();
                shifts.Add((days[day], Minute(shift.Text("from"), "from"), Minute(shift.Text("to"), "to"), breaks));
            }
        }

        DateTimeZone? zone = null;
        if ((calendar.TextOrNull("zone") ?? q.TextOrNull("zone")) is { } name)
        {
            zone = DateTimeZoneProviders.Tzdb.GetZoneOrNull(name);
            Refusal.When(zone is null, "zone", $"The time zone {name} is not known.");
        }

        var closed = calendar
            .List("closed")
            .Concat(calendar.List("closedDays"))
            .Select(d =>
                Parse(
                    LocalDatePattern.Iso.Parse(d.Json.ValueKind == JsonValueKind.String ? d.Json.GetString()! : ""),
                    "closed"
                )
            );
        var work = new WorkCalendar(WorkWeek.Of(shifts), closed, zone);
        var absences = ReadAbsences(calendar, work).With(ReadAbsences(q, work));
        return new(work, zone, absences);
    }

    /// <summary>Half-open local intervals, each [from, to] or {from, to}.</summary>
    public static Blocked ReadAbsences(Question q, WorkCalendar calendar) =>
        new(
            q.List("absences")
                .Select(a =>
                {
                    var (from, to) =
                        a.Json.ValueKind == JsonValueKind.Object
                            ? (a.Wall("from"), a.Wall("to"))
                            : Pair(a, "absences", (x, f) =>
                                Parse(LocalDateTimePattern.ExtendedIso.Parse(x.Length == 16 ? x + ":00" : x), f)
                            );
                    Refusal.When(to < from, "absences", "An absence ends before it starts.");
                    return new Span(calendar.Minute(from), calendar.Minute(to));
                })
        );

    public long Minute(Question q, string field) =>
        _zone is null ? Calendar.Minute(q.Wall(field)) : q.Instant(field).ToInstant().ToUnixTimeSeconds() / 60;

    public string Text(long minute) =>
        _zone is null
            ? LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm").Format(Calendar.Local(minute))
            : OffsetDateTimePattern
                .CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mmo<+HH:mm>")
                .Format(Instant.FromUnixTimeSeconds(minute * 60).InZone(_zone).ToOffsetDateTime());

    private static (T, T) Pair<T>(Question q, string field, Func<string, string, T> read)
    {
        var items = q.Json.ValueKind == JsonValueKind.Array ? q.Json.EnumerateArray().ToList() : [];
        Refusal.When(
            items.Count != 2 || items.Any(i => i.ValueKind != JsonValueKind.String),
            field,
            $"Each of the {field} is a pair of times."
        );
        return (read(items[0].GetString()!, field), read(items[1].GetString()!, field));
    }

    private static int Minute(string text, string field)
    {
        if (text == "24:00")
        {
            return 1440;
        }

        var time = Parse(LocalTimePattern.CreateWithInvariantCulture("HH:mm").Parse(text), field);
        return time.Hour * 60 + time.Minute;
    }

    private static T Parse<T>(ParseResult<T> result, string field)
    {
        Refusal.When(!result.Success, field, $"The {field} cannot be read as a time.");
        return result.Value;
    }
}
