using System.Collections;
using System.Collections.Concurrent;
using System.ComponentModel.DataAnnotations;
using System.Reflection;
using System.Security.Cryptography;
using System.Text.Json;

namespace FirstCoat.Server.Web;

/// <summary>
/// What holds for every value of every request, before its endpoint runs: nothing missing inside lists, no id twice in
/// one, no text without an end, no figure or day beyond what a shop can mean. The rules of the job are the core's and
/// come after.
/// </summary>
/// <remarks>A value that breaks one is refused with its field, such as <c>pieces[2].name</c>.</remarks>
public static class InputCheck
{
    /// <summary>Characters of a text that says nothing else about itself.</summary>
    public const int TextMost = 2000;

    /// <summary>Entries of a list.</summary>
    public const int ListMost = 2000;

    /// <summary>The furthest that a whole number or an amount goes either way.</summary>
    public const long NumberMost = 1_000_000_000;

    private const int FirstYear = 1900,
        LastYear = 2199,
        DepthMost = 12;
    private static readonly ConcurrentDictionary<Type, Field[]> Known = new();

    private sealed record Field(string Name, PropertyInfo Property, int TextMost, bool MayHoldNull);

    /// <summary>Checks the arguments of each endpoint and notes under which id it records.</summary>
    public static EndpointFilterDelegate Filter(EndpointFilterFactoryContext factory, EndpointFilterDelegate next)
    {
        var parameters = factory.MethodInfo.GetParameters();
        var checkedOnes = parameters
            .Select((p, i) => (Index: i, p.Name, p.ParameterType))
            .Where(p => IsInput(p.ParameterType))
            .ToList();
        return checkedOnes.Count == 0
            ? next
            : async context =>
            {
                foreach (var (index, name, type) in checkedOnes)
                {
                    Walk(context.Arguments[index], IsBody(type) ? "" : name!, TextMost, 0);
                }

                Note(context, checkedOnes.Select(c => context.Arguments[c.Index]).ToList());
                return await next(context);
            };
    }

    private static bool IsBody(Type type) =>
        type.IsNested && type.Namespace?.StartsWith("FirstCoat.Server", StringComparison.Ordinal) == true;

    private static bool IsInput(Type type)
    {
        var bare = Nullable.GetUnderlyingType(type) ?? type;
        return IsBody(bare)
            || bare == typeof(string)
            || bare == typeof(Guid)
            || bare == typeof(DateOnly)
            || bare == typeof(JsonElement)
            || bare.IsPrimitive;
    }

    /// <summary>The same request again is known by a print of what it says; another one under its id is told
    /// so.</summary>
    private static void Note(EndpointFilterInvocationContext context, List<object?> arguments)
    {
        if (
            !HttpMethods.IsPost(context.HttpContext.Request.Method)
            || arguments.Find(a => a is not null && IsBody(a.GetType())) is not { } body
            || body.GetType().GetProperty("Id")?.GetValue(body) is not Guid id
        )
        {
            return;
        }

        var print = SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(body, body.GetType(), StoreJson.Options));
        context
            .HttpContext.RequestServices.GetRequiredService<CurrentRequest>()
            .Is(id, Convert.ToHexStringLower(print));
    }

    private static void Walk(object? value, string path, int textMost, int depth)
    {
        Refusal.When(depth > DepthMost, path, $"The {Last(path)} is nested too deep.");
        switch (value)
        {
            case null or bool or Enum or LocalTime or uint:
                Refusal.When(
                    value is Enum e && !Enum.IsDefined(e.GetType(), e),
                    path,
                    $"The {Last(path)} is none of those that exist."
                );
                break;
            case string text:
                Text(text, path, textMost);
                break;
            case Guid id:
                Refusal.When(id == Guid.Empty, path, $"The {Last(path)} is empty.");
                break;
            case int or long or short or byte:
                Refusal.When(
                    Math.Abs(Convert.ToDecimal(value, CultureInfo.InvariantCulture)) > NumberMost,
                    path,
                    $"The {Last(path)} is too large a number."
                );
                break;
            case decimal amount:
                Refusal.When(
                    Math.Abs(amount) > NumberMost || amount.Scale > 10,
                    path,
                    $"The {Last(path)} is too large a figure, or has too many decimals."
                );
                break;
            case double or float:
                Refusal.When(
                    !double.IsFinite(Convert.ToDouble(value, CultureInfo.InvariantCulture))
                        || Math.Abs(Convert.ToDouble(value, CultureInfo.InvariantCulture)) > NumberMost,
                    path,
                    $"The {Last(path)} is no number that can be used."
                );
                break;
            case LocalDate day:
                Year(day.Year, path);
                break;
            case DateOnly day:
                Year(day.Year, path);
                break;
            case LocalDateTime time:
                Year(time.Year, path);
                break;
            case Instant at:
                Refusal.When(
                    at < Instant.FromUtc(FirstYear, 1, 1, 0, 0) || at > Instant.FromUtc(LastYear, 12, 31, 0, 0),
                    path,
                    $"The {Last(path)} must be between {FirstYear} and {LastYear}."
                );
                break;
            case JsonElement json:
                Refusal.When(json.GetRawText().Length > 256 * 1024, "body", "This is more than one calculation takes.");
                break;
            case IDictionary map:
                Refusal.When(map.Count > ListMost, path, $"At most {ListMost} entries.");
                foreach (var item in map.Values)
                {
                    Walk(item, path, textMost, depth + 1);
                }

                break;
            case IEnumerable list:
                List(list, path, textMost, depth);
                break;
            default:
                Record(value, path, depth);
                break;
        }
    }

    private static void Record(object value, string path, int depth)
    {
        foreach (var field in Known.GetOrAdd(value.GetType(), FieldsOf))
        {
            var inner = field.Property.GetValue(value);
            var name = path.Length == 0 ? field.Name : $"{path}.{field.Name}";
            if (
                !field.MayHoldNull
                && inner is IEnumerable list and not string
                && list.Cast<object?>().Any(i => i is null)
            )
            {
                throw new Refusal(name, $"The {Last(name)} has an empty entry.");
            }

            Walk(inner, name, field.TextMost, depth + 1);
        }
    }

    private static void List(IEnumerable list, string path, int textMost, int depth)
    {
        var (at, ids) = (0, new HashSet<Guid>());
        foreach (var item in list)
        {
            var name = $"{path}[{at++}]";
            Refusal.When(at > ListMost, path, $"At most {ListMost} entries.");
            var id = item is Guid g ? g : item?.GetType().GetProperty("Id")?.GetValue(item) as Guid?;
            Refusal.When(id is { } one && !ids.Add(one), name, $"The {Last(path)} has the same entry twice.");
            Walk(item, name, textMost, depth + 1);
        }
    }

    private static void Text(string text, string path, int most)
    {
        Refusal.When(text.Length > most, path, $"The {Last(path)} may have at most {most} characters.");
        for (var i = 0; i < text.Length; i++)
        {
            var whole =
                !char.IsSurrogate(text[i])
                || (char.IsHighSurrogate(text[i]) && i + 1 < text.Length && char.IsLowSurrogate(text[i + 1]));
            Refusal.When(text[i] == '\0' || !whole, path, $"The {Last(path)} holds a character that cannot be kept.");
            i += char.IsHighSurrogate(text[i]) ? 1 : 0;
        }
    }

    private static void Year(int year, string path) =>
        Refusal.When(
            year is < FirstYear or > LastYear,
            path,
            $"The {Last(path)} must be between {FirstYear} and {LastYear}."
        );

    /// <summary>The last word of a path, as a sentence says it.</summary>
    private static string Last(string path)
    {
        var name = path.Split('.')[^1].Split('[')[0];
        return name.Length == 0
            ? "request"
            : string.Concat(name.Select(c => char.IsUpper(c) ? $" {char.ToLowerInvariant(c)}" : c.ToString()));
    }

    /// <summary>What a request sets, not what follows from it.</summary>
    private static Field[] FieldsOf(Type type)
    {
        if (type.Namespace?.StartsWith("FirstCoat", StringComparison.Ordinal) != true)
        {
            return [];
        }

        var nullability = new NullabilityInfoContext();
        return
        [
            .. type.GetProperties(BindingFlags.Public | BindingFlags.Instance)
                .Where(p => p.CanRead && p.SetMethod is not null && p.GetIndexParameters().Length == 0)
                .Select(p => new Field(
                    JsonNamingPolicy.CamelCase.ConvertName(p.Name),
                    p,
                    p.GetCustomAttribute<StringLengthAttribute>()?.MaximumLength ?? TextMost,
                    nullability.Create(p).GenericTypeArguments is [.., var item]
                        && item.ReadState == NullabilityState.Nullable
                )),
        ];
    }
}
