using System.Text.Json;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace FirstCoat.Server.Web;

/// <summary>The API document: NodaTime's types as formatted text.</summary>
public static class ApiDocument
{
    private static readonly Dictionary<Type, string> Formats = new()
    {
        [typeof(Instant)] = "date-time",
        [typeof(LocalDate)] = "date",
        [typeof(LocalTime)] = "time",
        [typeof(LocalDateTime)] = "local-date-time",
    };

    public static void Configure(OpenApiOptions options) =>
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                var type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
                if (Formats.TryGetValue(type, out var format))
                {
                    (schema.Type, schema.Format) = (JsonSchemaType.String, format);
                    schema.Properties?.Clear();
                }
                else if (type.IsEnum)
                {
                    // The component is shared by places that may be null and places that may not: they say so
                    // themselves.
                    schema.Type = JsonSchemaType.String;
                    schema.Enum = schema
                        .Enum?.Where(v => v is not null && v.GetValueKind() == JsonValueKind.String)
                        .ToList();
                }

                return Task.CompletedTask;
            }
        );
}
