using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace FirstCoat.Server.Benches;

/// <summary>An operation of the API's own document.</summary>
/// <param name="Body">Schema of its body; null: it takes none in JSON.</param>
/// <param name="Query">Names in its query.</param>
public sealed record HostileCall(
    string Name,
    HttpMethod Method,
    string Path,
    JsonNode? Body,
    IReadOnlyList<string> Query
);

/// <summary>A request that means no good.</summary>
/// <param name="How">What is wrong with it, and where.</param>
/// <param name="MustRefuse">It can never be right, so that it must be refused with a 4xx.</param>
public sealed record HostileRequest(HostileCall Call, string How, string Path, string? Body, bool MustRefuse);

/// <summary>
/// Makes requests from the API's document: each kind of wrong value in each field of each operation, at any depth, in
/// lists and in addresses, around an otherwise likely body that names things which are there.
/// </summary>
/// <param name="idOf">An id that is there for a path's word (builds, operations) or a field's name (personId); null:
/// none is.</param>
public sealed partial class HostileRequests(JsonNode document, Func<string, Guid?> idOf)
{
    private const int Deepest = 5;

    /// <summary>Words in addresses that are no ids.</summary>
    private static readonly Dictionary<string, string> PathWords = new()
    {
        ["date"] = "2026-03-03",
        ["style"] = "coupe",
        ["hash"] = new('0', 64),
        ["token"] = "nothing",
        ["ticket"] = "nothing",
        ["calc"] = "money.tooling",
        ["station"] = "front",
        ["step"] = "trim",
    };

    /// <summary>Likely words for fields that do not take any word, so that a request reaches what lies behind the first
    /// check.</summary>
    private static readonly Dictionary<string, string> LikelyWords = new()
    {
        ["place"] = "sillL",
        ["panel"] = "sillL",
        ["panels"] = "sillL",
        ["zone"] = "sill",
        ["template"] = "paint-then-assemble",
        ["currency"] = "GBP",
        ["timeZone"] = "Europe/London",
        ["address"] = "https://shop.example",
        ["colourHex"] = "#1B6670",
        ["role"] = "office",
        ["letter"] = "A",
        ["email"] = "o@example.org",
        ["clientEmail"] = "o@example.org",
        ["password"] = "copper tea lantern",
    };

    private static readonly string Long = new('x', 20_000);

    /// <summary>The operations of the document.</summary>
    public IReadOnlyList<HostileCall> Calls { get; } =
    [
        .. document["paths"]!
            .AsObject()
            .SelectMany(path =>
                path.Value!.AsObject()
                    .Where(o => o.Value is JsonObject x && x.ContainsKey("operationId"))
                    .Select(o => new HostileCall(
                        (string)o.Value!["operationId"]!,
                        new HttpMethod(o.Key.ToUpperInvariant()),
                        path.Key,
                        o.Value["requestBody"]?["content"]?["application/json"]?["schema"],
                        [
                            .. (o.Value["parameters"]?.AsArray() ?? [])
                                .Where(p => (string?)p!["in"] == "query")
                                .Select(p => (string)p!["name"]!),
                        ]
                    ))
            ),
    ];

    /// <summary>All of them.</summary>
    public IEnumerable<HostileRequest> All() => Calls.SelectMany(c => InBody(c).Concat(InAddress(c)));

    /// <summary>The operation's address with things that are there.</summary>
    public string PathOf(HostileCall call) =>
        InBraces()
            .Replace(call.Path, m =>
            {
                var name = m.Groups[1].Value;
                if (PathWords.TryGetValue(name, out var word))
                {
                    return word;
                }

                var before = call.Path[..m.Index].TrimEnd('/').Split('/')[^1];
                return (idOf(name) ?? idOf(before) ?? Guid.CreateVersion7()).ToString();
            });

    /// <summary>A body as a screen might send it; null: the operation takes none.</summary>
    public JsonNode? Likely(HostileCall call) => call.Body is null ? null : Example(call.Body, "", 0);

    private IEnumerable<HostileRequest> InAddress(HostileCall call)
    {
        var good = PathOf(call);
        var body = Likely(call)?.ToJsonString();
        foreach (var name in InBraces().Matches(call.Path).Select(m => m.Groups[1].Value))
        {
            foreach (
                var wrong in new[]
                {
                    "%00",
                    "a%00b",
                    "..%2F..",
                    "%EF%BF%BE",
                    new string('y', 1500),
                    "00000000-0000-0000-0000-000000000000",
                }
            )
            {
                var path = InBraces()
                    .Replace(call.Path, m =>
                        m.Groups[1].Value == name
                            ? wrong
                            : PathWords.GetValueOrDefault(m.Groups[1].Value, Guid.CreateVersion7().ToString())
                    );
                yield return new(call, $"{{{name}}} is {wrong[..Math.Min(12, wrong.Length)]}", path, body, false);
            }
        }

        foreach (var name in call.Query)
        {
            foreach (
                var wrong in new[]
                {
                    "%00",
                    "-1",
                    "99999999999999999999",
                    "nothing",
                    new string('z', 3000),
                    "",
                    "%F0%9F%98%80",
                }
            )
            {
                yield return new(
                    call,
                    $"?{name} is {wrong[..Math.Min(12, wrong.Length)]}",
                    $"{good}?{name}={wrong}",
                    body,
                    false
                );
            }
        }
    }

    private IEnumerable<HostileRequest> InBody(HostileCall call)
    {
        if (call.Body is null)
        {
            yield break;
        }

        var path = PathOf(call);
        var good = Example(call.Body, "", 0);
        yield return new(call, "3 MB", path, $"{{\"a\":\"{new string('m', 3_000_000)}\"}}", true);
        foreach (
            var (field, wrong, mustRefuse) in Places(call.Body, "", 0)
                .SelectMany(p => Wrong(p.Schema, p.Path).Select(w => (p.Path, w.Value, w.MustRefuse)))
        )
        {
            var bad = good?.DeepClone();
            if (Put(bad, field, wrong?.DeepClone()))
            {
                var text = wrong?.ToJsonString() ?? "null";
                yield return new(
                    call,
                    $"{field} is {text[..Math.Min(40, text.Length)]}",
                    path,
                    bad!.ToJsonString(),
                    mustRefuse
                );
            }
        }

        foreach (
            var (field, list) in Places(call.Body, "", 0)
                .Where(p => p.Schema["type"] is not null && Is(p.Schema, "array"))
                .Select(p => (p.Path, Example(p.Schema, p.Path, 0)?.AsArray()))
                .Where(p => p.Item2 is { Count: > 0 })
        )
        {
            foreach (
                var (how, items) in new[]
                {
                    ("an empty entry", new JsonNode?[] { null }),
                    ("one entry twice", [list![0]?.DeepClone(), list[0]?.DeepClone()]),
                    ("too many entries", [.. Enumerable.Range(0, 2500).Select(_ => list[0]?.DeepClone())]),
                }
            )
            {
                var bad = good?.DeepClone();
                var whole = new JsonArray([.. items]);
                var sure = how != "one entry twice" || list[0] is JsonObject o && o.ContainsKey("id");
                if (Put(bad, field, whole))
                {
                    yield return new(call, $"{field} has {how}", path, bad!.ToJsonString(), sure);
                }
            }
        }
    }

    /// <summary>Values that no field of the kind can take, and some that it may or may not.</summary>
    private static IEnumerable<(JsonNode? Value, bool MustRefuse)> Wrong(JsonNode schema, string path)
    {
        if (schema["enum"] is not null)
        {
            return [("no such thing", true), ("", true), (17, true), (new JsonArray(), true)];
        }

        var format = (string?)schema["format"];
        return Is(schema, "string")
                ? format switch
                {
                    "uuid" =>
                    [
                        ("00000000-0000-0000-0000-000000000000", true),
                        ("no", true),
                        (Guid.CreateVersion7().ToString(), false),
                        (5, true),
                    ],
                    "date" => [("0001-01-01", true), ("9999-12-31", true), ("2026-02-30", true), ("", true)],
                    "date-time" =>
                    [
                        ("0001-01-01T00:00:00Z", true),
                        ("9999-12-31T23:59:59Z", true),
                        ("-0500-01-01T00:00:00Z", true),
                        ("2026-03-03", true),
                    ],
                    "local-date-time" => [("0001-01-01T00:00:00", true), ("9999-12-31T23:59:59", true), ("no", true)],
                    "time" => [("25:00:00", true), ("", true)],
                    _ =>
                    [
                        ("", false),
                        (Long, true),
                        ("a\0b", true),
                        ("<script>alert(1)</script>", false),
                        ("'; drop table builds; --", false),
                        (17, true),
                        (new JsonObject(), true),
                        (new string('w', schema["maxLength"] is { } most ? (int)most : 2000), false),
                        (new string(' ', 50), false),
                    ],
                }
            : Is(schema, "integer")
                ?
                [
                    (int.MaxValue, false),
                    (int.MinValue, false),
                    (-1, false),
                    (0, false),
                    (JsonNode.Parse("1e60"), true),
                    ("12", true),
                    (JsonNode.Parse("1.5"), true),
                    (new JsonArray(), true),
                ]
            : Is(schema, "number")
                ?
                [
                    (JsonNode.Parse("79228162514264337593543950335"), true),
                    (JsonNode.Parse("-79228162514264337593543950335"), true),
                    (JsonNode.Parse("1e300"), true),
                    (JsonNode.Parse("0.00000000000000000001"), false),
                    (-1, false),
                    (0, false),
                    (999_999_999, false),
                    ("NaN", true),
                    (new JsonObject(), true),
                ]
            : Is(schema, "boolean") ? [("yes", true), (1, true)]
            : Is(schema, "array") ? [("list", true), (new JsonObject(), true)]
            : path.Length > 0 ? [("object", true), (new JsonArray(), true)]
            : [];
    }

    /// <summary>Every field of the schema by its path, itself first.</summary>
    private IEnumerable<(string Path, JsonNode Schema)> Places(JsonNode raw, string path, int depth)
    {
        var schema = Resolve(raw);
        if (path.Length > 0)
        {
            yield return (path, schema);
        }

        if (depth > Deepest)
        {
            yield break;
        }

        foreach (
            var inner in (schema["properties"]?.AsObject() ?? []).SelectMany(p =>
                Places(p.Value!, path.Length == 0 ? p.Key : $"{path}.{p.Key}", depth + 1)
            )
        )
        {
            yield return inner;
        }

        if (Is(schema, "array") && schema["items"] is { } items)
        {
            foreach (var inner in Places(items, $"{path}.0", depth + 1))
            {
                yield return inner;
            }
        }
    }

    private static bool Put(JsonNode? root, string path, JsonNode? value)
    {
        var steps = path.Split('.');
        var at = root;
        foreach (var step in steps[..^1])
        {
            at =
                at is JsonArray list ? list.ElementAtOrDefault(int.Parse(step, CultureInfo.InvariantCulture))
                : at is JsonObject o ? o[step]
                : null;
        }

        switch (at)
        {
            case JsonObject o:
                o[steps[^1]] = value;
                return true;
            case JsonArray { Count: > 0 } list:
                list[0] = value;
                return true;
            default:
                return false;
        }
    }

    /// <summary>A body of the right shape that names things which are there and has one entry in each list.</summary>
    private JsonNode? Example(JsonNode raw, string path, int depth)
    {
        var schema = Resolve(raw);
        if (schema["enum"] is { } values)
        {
            return (string)values[0]!;
        }

        var name = path.Split('.').LastOrDefault(p => !char.IsAsciiDigit(p.FirstOrDefault('0'))) ?? "";
        if (name == "version")
        {
            // Any version would be stale: without one the request goes on to the rules.
            return null;
        }

        return Is(schema, "string")
                ? (string?)schema["format"] switch
                {
                    "uuid" => (name == "id" ? Guid.CreateVersion7() : idOf(name) ?? Guid.CreateVersion7()).ToString(),
                    "date" => "2026-03-03",
                    "date-time" => "2026-03-02T08:00:00Z",
                    "time" => "08:00:00",
                    "local-date-time" => "2026-03-03T08:00:00",
                    _ => LikelyWords.GetValueOrDefault(name, "word"),
                }
            : Is(schema, "integer") || Is(schema, "number") ? 1
            : Is(schema, "boolean") ? false
            : Is(schema, "array")
                ? new JsonArray(
                    depth <= Deepest && schema["items"] is { } items ? [Example(items, $"{path}.0", depth + 1)] : []
                )
            : new JsonObject(
                (schema["properties"]?.AsObject() ?? [])
                    .Where(_ => depth <= Deepest)
                    .Select(p => KeyValuePair.Create(p.Key, Example(p.Value!, $"{path}.{p.Key}", depth + 1)))
            );
    }

    private JsonNode Resolve(JsonNode schema) =>
        schema["$ref"] is { } reference ? document["components"]!["schemas"]![((string)reference!).Split('/')[^1]]!
        : schema["oneOf"] is JsonArray one ? Resolve(one.First(o => (string?)o!["type"] != "null")!)
        : schema;

    private static bool Is(JsonNode schema, string type) =>
        schema["type"] is JsonArray many
            ? many.Any(t => (string?)t == type)
            : schema["type"] is JsonValue one && (string?)one == type;

    [GeneratedRegex(@"\{(\w+)\}")]
    private static partial Regex InBraces();
}
