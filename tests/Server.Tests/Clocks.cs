using System.Net.Http.Json;

namespace FirstCoat.Server.Tests;

/// <summary>Touches of the clock.</summary>
internal static class Clocks
{
    /// <param name="person">Whose; null: their own.</param>
    public static Task<HttpResponseMessage> StartClock(
        this HttpClient by,
        Guid operation,
        Guid? person = null,
        string kind = "billable",
        decimal? share = null,
        bool? breakWorked = null,
        Guid? id = null,
        bool acknowledged = true,
        string? at = null
    ) =>
        by.PostAsJsonAsync(
            "/api/clock/start",
            new
            {
                id = id ?? Guid.CreateVersion7(),
                personId = person,
                operationId = operation,
                kind,
                share,
                breakWorked,
                acknowledged,
                at,
            }
        );

    /// <param name="person">Whose; null: their own.</param>
    public static Task<HttpResponseMessage> StopClock(
        this HttpClient by,
        decimal? share = null,
        bool done = false,
        string? at = null,
        bool? breakWorked = null,
        Guid? person = null
    ) =>
        by.PostAsJsonAsync(
            "/api/clock/stop",
            new
            {
                personId = person,
                share,
                done,
                breakWorked,
                at,
            }
        );
}
