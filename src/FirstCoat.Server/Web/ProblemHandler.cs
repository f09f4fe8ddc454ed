using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Diagnostics;
using Npgsql;

namespace FirstCoat.Server.Web;

/// <summary>Turns refusals, bad input and faults of the machine into problem documents with a sentence and a
/// field.</summary>
public sealed partial class ProblemHandler(DiskSpace disk, ILogger<ProblemHandler> log) : IExceptionHandler
{
    /// <summary>ENOSPC and EDQUOT, as the system numbers them.</summary>
    private const int NoSpace = 28,
        NoQuota = 122;

    private readonly record struct Told(int Status, string Detail, string? Field = null, TimeSpan? After = null);

    public async ValueTask<bool> TryHandleAsync(
        HttpContext httpContext,
        Exception exception,
        CancellationToken cancellationToken
    )
    {
        var told = Describe(exception);
        if (told.Status == 0)
        {
            LogFault(log, exception, httpContext.Request.Method, httpContext.Request.Path);
            told = new(500, "Something went wrong here. Nothing was changed.");
        }
        else if (told.Status >= 500)
        {
            LogMachine(log, told.Detail, exception.Message);
        }

        if (told.After is { } after)
        {
            httpContext.Response.Headers.RetryAfter = Math.Max(1, (int)Math.Ceiling(after.TotalSeconds))
                .ToString(CultureInfo.InvariantCulture);
        }

        var extensions = told.Field is null ? [] : new Dictionary<string, object?> { ["field"] = told.Field };
        if (Bare(exception) is Refusal { All.Count: > 1 } several)
        {
            extensions["errors"] = several.All.ToDictionary(r => r.Field, r => new[] { r.Message });
        }

        await Results.Problem(told.Detail, statusCode: told.Status, extensions: extensions).ExecuteAsync(httpContext);
        return true;
    }

    /// <summary>What the store's own wrappers hold.</summary>
    private static Exception Bare(Exception exception) =>
        exception is DbUpdateException or InvalidOperationException
        && exception.InnerException is DbUpdateException or NpgsqlException or InvalidOperationException
            ? Bare(exception.InnerException)
            : exception;

    private Told Describe(Exception exception) =>
        Bare(exception) switch
        {
            Refusal { NotFound: true } r => new(404, r.Message, r.Field),
            Refusal r => new(400, r.Message, r.Field),
            StaleVersion s => new(409, s.Message, "version"),
            UsedId u => new(409, u.Message, "id"),
            TooMany t => new(429, t.Message, "requests", t.After),
            BadHttpRequestException b => new(b.StatusCode, Unreadable(b, out var field), field),
            PostgresException p => Describe(p),
            IOException { HResult: NoSpace or NoQuota } => new(507, DiskSpace.Sentence, "disk"),
            OverflowException => new(400, "A figure is too large.", "body"),
            OperationCanceledException => new(499, "The request was given up."),
            NpgsqlException => disk.IsFull
                ? new(507, DiskSpace.Sentence, "disk")
                : new(
                    503,
                    "The database does not answer. Nothing was kept. Try again in a moment.",
                    "database",
                    TimeSpan.FromSeconds(3)
                ),
            _ => default,
        };

    private static Told Describe(PostgresException p) =>
        p.SqlState switch
        {
            PostgresErrorCodes.UniqueViolation => new(
                409,
                "Somebody has recorded this at the same moment. Load it again.",
                "id"
            ),
            PostgresErrorCodes.ForeignKeyViolation => new(
                400,
                "It points at something that is not there.",
                Camel(p.ConstraintName)
            ),
            PostgresErrorCodes.NumericValueOutOfRange or PostgresErrorCodes.StringDataRightTruncation => new(
                400,
                "A value is too large.",
                Camel(p.ColumnName)
            ),
            PostgresErrorCodes.CharacterNotInRepertoire or PostgresErrorCodes.UntranslatableCharacter => new(
                400,
                "The text holds a character that cannot be kept.",
                "body"
            ),
            PostgresErrorCodes.DeadlockDetected
            or PostgresErrorCodes.SerializationFailure
            or PostgresErrorCodes.LockNotAvailable => new(
                409,
                "Somebody has recorded this at the same moment. Load it again.",
                "id"
            ),
            PostgresErrorCodes.DiskFull => new(507, DiskSpace.Sentence, "disk"),
            PostgresErrorCodes.AdminShutdown
            or PostgresErrorCodes.CrashShutdown
            or PostgresErrorCodes.CannotConnectNow
            or PostgresErrorCodes.TooManyConnections => new(
                503,
                "The database does not answer. Nothing was kept. Try again in a moment.",
                "database",
                TimeSpan.FromSeconds(3)
            ),
            _ => default,
        };

    [LoggerMessage(Level = LogLevel.Error, Message = "Unexpected fault in {Method} {Path}")]
    private static partial void LogFault(ILogger log, Exception exception, string method, PathString path);

    [LoggerMessage(Level = LogLevel.Warning, Message = "{Told} ({Reason})")]
    private static partial void LogMachine(ILogger log, string told, string reason);

    private static string Unreadable(BadHttpRequestException e, out string field)
    {
        if (e.InnerException is JsonException json)
        {
            var path = json.Path?.TrimStart('$', '.') ?? "";
            var named = MissingName().Match(json.Message);
            field =
                path.Length > 0 ? path
                : named.Success ? named.Groups[1].Value
                : "body";
            return named.Success ? $"The {field} is missing." : $"The {field} cannot be read.";
        }

        var parameter = ParameterName().Match(e.Message);
        field = parameter.Success ? parameter.Groups[1].Value : "body";
        return $"The {field} is missing or cannot be read.";
    }

    private static string Camel(string? name) => string.IsNullOrEmpty(name) ? "body" : name;

    [GeneratedRegex("including: '([^']+)'")]
    private static partial Regex MissingName();

    [GeneratedRegex("parameter \"[^ ]+ ([^\"]+)\"")]
    private static partial Regex ParameterName();
}
