using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;

namespace FirstCoat.Store;

/// <summary>JSON as it is kept in columns and frozen pages: camelCase, enums by name, NodaTime in ISO.</summary>
public static class StoreJson
{
    public static readonly JsonSerializerOptions Options = Make();

    private static JsonSerializerOptions Make()
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
        };
        options.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
        return options;
    }

    /// <summary>The text of each value that the change tracker keeps to compare with; nobody changes those.</summary>
    private static readonly ConditionalWeakTable<object, string> KeptTexts = [];

    /// <summary>Keeps the property as one jsonb value, compared by its text.</summary>
    internal static PropertyBuilder<T> IsJson<T>(this PropertyBuilder<T> property)
    {
        property
            .HasColumnType("jsonb")
            .HasConversion(
                v => JsonSerializer.Serialize(v, Options),
                s => JsonSerializer.Deserialize<T>(s, Options)!,
                new ValueComparer<T>(
                    (a, b) => ReferenceEquals(a, b) || TextOf(a) == TextOf(b),
                    v => TextOf(v).GetHashCode(StringComparison.Ordinal),
                    v => Kept(v)
                )
            );
        return property;
    }

    private static string TextOf<T>(T value) =>
        value is not null && KeptTexts.TryGetValue(value, out var text)
            ? text
            : JsonSerializer.Serialize(value, Options);

    private static T Kept<T>(T value)
    {
        var text = JsonSerializer.Serialize(value, Options);
        var kept = JsonSerializer.Deserialize<T>(text, Options)!;
        if (kept is not null and not ValueType)
        {
            KeptTexts.AddOrUpdate(kept, text);
        }

        return kept!;
    }
}
