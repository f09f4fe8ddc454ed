using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Diagnostics;
using Npgsql;

namespace FirstCoat.Server.Web;

/// <summary>Turns refusals and bad input into problem documents with a sentence and a field.</summary>
public sealed partial class ProblemHandler(ILogger<ProblemHandler> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var (status, detail, field, stored) = Describe(exception);
        if (status == 0)
        {
            log.LogError(exception, "Unexpected fault in {Method} {Path}", httpContext.Request.Method, httpContext.Request.Path);
            (status, detail) = (500, "Something went wrong here. Nothing was changed.");
        }

        var extensions = new Dictionary<string, object?>();
        if (field is not null)
        {
            extensions["field"] = field;
        }

        if (stored is not null)
        {
            extensions["stored"] = stored;
        }

        await Results.Problem(detail, statusCode: status, extensions: extensions).ExecuteAsync(httpContext);
        return true;
    }

    private static (int Status, string Detail, string? Field, object? Stored) Describe(Exception exception) => exception switch
    {
        Refusal { NotFound: true } r => (404, r.Message, r.Field, null),
        Refusal r => (400, r.Message, r.Field, null),
        StaleVersion s => (409, s.Message, "version", s.Stored),
        BadHttpRequestException b => (b.StatusCode, Unreadable(b, out var field), field, null),
        DbUpdateException { InnerException: PostgresException p } => Describe(p),
        PostgresException p => Describe(p),
        OverflowException => (400, "A figure is too large.", "body", null),
        OperationCanceledException => (499, "The request was given up.", null, null),
        _ => (0, "", null, null),
    };

    private static (int, string, string?, object?) Describe(PostgresException p) => p.SqlState switch
    {
        PostgresErrorCodes.UniqueViolation => (409, "Somebody has recorded this at the same moment. Load it again.", "id", null),
        PostgresErrorCodes.ForeignKeyViolation => (400, "It points at something that is not there.", Camel(p.ConstraintName), null),
        PostgresErrorCodes.NumericValueOutOfRange or PostgresErrorCodes.StringDataRightTruncation => (400, "A value is too large.", Camel(p.ColumnName), null),
        PostgresErrorCodes.CharacterNotInRepertoire or PostgresErrorCodes.UntranslatableCharacter => (400, "The text holds a character that cannot be kept.", "body", null),
        _ => (0, "", null, null),
    };

    private static string Unreadable(BadHttpRequestException e, out string field)
    {
        if (e.InnerException is JsonException json)
        {
            var path = json.Path?.TrimStart('$', '.') ?? "";
            var named = MissingName().Match(json.Message);
            field = path.Length > 0 ? path : named.Success ? named.Groups[1].Value : "body";
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
