using System.Text.Json;

namespace FirstCoat.Core.Plan.Files;

/// <summary>The fields of a JSON object, read with a fault that names the place.</summary>
internal readonly struct JsonFields
{
    private readonly JsonElement _element;
    private readonly string _path;

    public JsonFields(JsonElement element, string path) => (_element, _path) = (element, path);

    /// <summary>Reads a whole document.</summary>
    /// <exception cref="PlanFileFault">It is not JSON, or <paramref name="read"/> finds a fault.</exception>
    public static T Document<T>(Stream json, Func<JsonFields, T> read)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            return read(new(document.RootElement, ""));
        }
        catch (JsonException e)
        {
            throw new PlanFileFault("", $"this is not JSON: {e.Message}");
        }
    }

    public bool Has(string name) => Object().TryGetProperty(name, out var v) && v.ValueKind != JsonValueKind.Null;

    public string Text(string name) =>
        Get(name) is { ValueKind: JsonValueKind.String } v && v.GetString() is { Length: > 0 } s
            ? s
            : throw new PlanFileFault(At(name), "a text is needed here");

    public string? TextOr(string name) => Has(name) ? Text(name) : null;

    public bool Flag(string name) =>
        Has(name)
        && (
            Get(name).ValueKind is JsonValueKind.True or JsonValueKind.False
                ? Get(name).GetBoolean()
                : throw new PlanFileFault(At(name), "true or false is needed here")
        );

    public int Whole(string name, int least, int most, int? otherwise = null)
    {
        if (otherwise is { } o && !Has(name))
        {
            return o;
        }

        return Get(name) is { ValueKind: JsonValueKind.Number } v && v.TryGetInt32(out var n) && n >= least && n <= most
            ? n
            : throw new PlanFileFault(At(name), $"a whole number between {least} and {most} is needed here");
    }

    public int? WholeOr(string name, int least, int most) => Has(name) ? Whole(name, least, most) : null;

    public double NumberOr(string name, double otherwise, double least, double most)
    {
        if (!Has(name))
        {
            return otherwise;
        }

        return
            Get(name) is { ValueKind: JsonValueKind.Number } v && v.TryGetDouble(out var n) && n >= least && n <= most
            ? n
            : throw new PlanFileFault(
                At(name),
                FormattableString.Invariant($"a number between {least} and {most} is needed here")
            );
    }

    public JsonFields Inner(string name) => new(Get(name), At(name));

    public IReadOnlyList<string> Texts(string name) => Inner(name).AsTexts();

    public IReadOnlyList<string> TextsOr(string name) => Has(name) ? Texts(name) : [];

    /// <summary>This itself as a list of texts.</summary>
    public IReadOnlyList<string> AsTexts()
    {
        var path = _path;
        return Items()
            .Select(
                (v, i) =>
                    v.ValueKind == JsonValueKind.String
                        ? v.GetString()!
                        : throw new PlanFileFault($"{path}[{i}]", "a text is needed here")
            )
            .ToList();
    }

    public IReadOnlyList<T> List<T>(string name, Func<JsonFields, T> read)
    {
        var inner = Inner(name);
        return inner.Items().Select((v, i) => read(new(v, $"{inner._path}[{i}]"))).ToList();
    }

    public IReadOnlyList<T> ListOr<T>(string name, Func<JsonFields, T> read) => Has(name) ? List(name, read) : [];

    private List<JsonElement> Items() =>
        _element.ValueKind == JsonValueKind.Array
            ? [.. _element.EnumerateArray()]
            : throw new PlanFileFault(_path, "a list is needed here");

    private JsonElement Get(string name) =>
        Object().TryGetProperty(name, out var v) ? v : throw new PlanFileFault(At(name), "is missing");

    private JsonElement Object() =>
        _element.ValueKind == JsonValueKind.Object
            ? _element
            : throw new PlanFileFault(_path, "an object is needed here");

    /// <summary>The path of a field.</summary>
    public string At(string name) => _path.Length == 0 ? name : $"{_path}.{name}";
}
